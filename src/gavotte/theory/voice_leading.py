"""What moves between two chords: which tones stay and which go where, by the least total movement."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

from gavotte.theory.chord import DEGREE_SEMITONES, Chord
from gavotte.theory.pitch import PitchName


@dataclass(frozen=True, slots=True)
class Move:
    """A chord tone and where it goes; ``semitones`` is negative downwards and 0 for a tone that stays."""

    start: PitchName
    end: PitchName
    semitones: int


def moving_tones(chord: Chord, following: Chord) -> tuple[Move, ...]:
    """How the tones of a chord go to those of the next, those that stay first, then the smallest moves.

    Every tone of the larger chord is matched once; a tone with no partner of its own goes to, or comes from, the
    nearest one. Distances are between pitch classes, at most a tritone.
    """
    before = [chord.name_of(degree) for degree in chord.tones if degree in DEGREE_SEMITONES]
    after = [following.name_of(degree) for degree in following.tones if degree in DEGREE_SEMITONES]
    swapped = len(before) > len(after)
    few, many = (after, before) if swapped else (before, after)

    def cost(order: tuple[PitchName, ...]) -> tuple[int, int]:
        moves = [abs(_distance(a, b)) for a, b in zip(few, order, strict=False)]
        # Of equal sums the one with more tones that stay.
        return sum(moves), -sum(move == 0 for move in moves)

    best = min(itertools.permutations(many, len(few)), key=cost)
    pairs = list(zip(few, best, strict=True))
    for name in many:
        if name not in best:
            pairs.append((min(few, key=lambda other: abs(_distance(other, name))), name))
    moves = [Move(b, a, _distance(b, a)) if swapped else Move(a, b, _distance(a, b)) for a, b in pairs]
    return tuple(sorted(moves, key=lambda move: abs(move.semitones)))


def _distance(start: PitchName, end: PitchName) -> int:
    """Semitones from one name to the nearest of the other, −5 to 6."""
    up = (end.pitch_class - start.pitch_class) % 12
    return up if up <= 6 else up - 12
