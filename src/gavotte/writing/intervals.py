"""Moving notes by a named interval: exactly, along the scale of the key, or as far as two chords' roots are apart."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Collection
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.solo.document import Note, Solo
from gavotte.theory.chord import Chord
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import LETTERS, Pitch, PitchError, PitchName, spell
from gavotte.writing.passages import Passage
from gavotte.writing.pitches import moved_along_scale, with_pitches

_HALF_AN_OCTAVE = 6
_SEMITONES = {
    1: (1, 2), 2: (3, 4), 3: (5, 6), 4: (7,), 5: (8, 9), 6: (10, 11), 7: (12,),
}  # fmt: skip
"""The semitones of the usual intervals of so many steps."""


@dataclass(frozen=True, slots=True)
class Move:
    """How notes are moved: by ``interval``; where it is ``in_scale`` its steps count, along the scale of the key."""

    interval: Interval
    in_scale: bool = False


def usual_moves() -> list[Move]:
    """The moves players name: a second to an octave, up and down, in the scale and exactly."""
    moves = []
    for direction in (1, -1):
        moves += [Move(Interval(direction * steps, 0), True) for steps in range(1, 8)]
    for direction in (1, -1):
        moves += [
            Move(Interval(direction * steps, direction * semitones))
            for steps in range(1, 8)
            for semitones in _SEMITONES[steps]
        ]
    return moves


def moved_by(solo: Solo, ids: Collection[str], move: Move) -> Solo:
    """The solo with some notes moved; notes that would leave what sounds stay."""
    if move.in_scale:
        return moved_along_scale(solo, ids, move.interval.steps)
    return with_pitches(solo, ids, lambda note: _transposed(solo, note, move.interval))


def _transposed(solo: Solo, note: Note, interval: Interval) -> Pitch:
    try:
        return note.pitch.transposed(interval)
    except PitchError:
        # No name under that letter: the nearest in the key.
        return spell(note.pitch.midi + interval.semitones, solo.key_at(note.onset).key.fifths)


def root_at(solo: Solo, time: Fraction) -> PitchName | None:
    """The root of the chord that sounds at a time, None where none does or nobody can read it."""
    index = bisect_right(solo.chords, time, key=lambda event: event.onset) - 1
    symbol = solo.chords[index].symbol if index >= 0 else None
    return symbol.root if isinstance(symbol, Chord) else None


def between_roots(old: PitchName, new: PitchName) -> Move:
    """From one root to another by the nearer way, up where both are as near."""
    steps = (LETTERS.index(new.letter) - LETTERS.index(old.letter)) % 7
    semitones = (new.pitch_class - old.pitch_class) % 12
    if semitones > _HALF_AN_OCTAVE:
        steps, semitones = steps - 7, semitones - 12
    return Move(Interval(steps, semitones))


def with_root(passage: Passage, root: PitchName | None) -> Passage:
    """A passage that knows the root of the chord it was copied from."""
    return replace(passage, root="" if root is None else str(root))
