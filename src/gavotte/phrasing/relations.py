"""How one stretch of a line comes back in another: moved, later, with another end, turned; and where else it does.

Two stretches of as many notes are compared move by move, as in the search for patterns in sequences of D. Conklin and
C. Anagnostopoulou (*Representation and discovery of multiple viewpoint patterns*, ICMC 2001): each comparison is a
viewpoint of its own (semitones, letters, direction, rhythm, place in the bar).
"""

from __future__ import annotations

import itertools
from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.phrasing.line import Line
from gavotte.phrasing.motifs import Instance, Motif


class Kind(StrEnum):
    """What an instance is beside the first, in one word."""

    SAME = "same"
    MOVED = "moved"
    LATER = "later"
    CHANGED = "changed"
    TURNED = "turned"


@dataclass(frozen=True, slots=True)
class Relation:
    """How a stretch is related to another. ``words`` say it in full: "a fifth higher in the scale, a beat later".

    ``differs`` are the indexes of its notes that are reached otherwise than in the other.
    """

    kind: Kind
    words: str
    differs: tuple[int, ...] = ()


_STEPS = ("", "second", "third", "fourth", "fifth", "sixth", "seventh")
_SEMITONES = (
    "", "a half step", "a whole step", "a minor third", "a major third", "a fourth", "a tritone", "a fifth",
    "a minor sixth", "a major sixth", "a minor seventh", "a major seventh",
)  # fmt: skip
_BARS = 1e-6


def relation(line: Line, first: Instance, other: Instance) -> Relation:
    """How ``other`` is related to ``first``; both hold as many notes, their grace notes apart.

    Raises ValueError where they don't.
    """
    a, b = _stretch(line, first), _stretch(line, other)
    if a.stop - a.start != b.stop - b.start:
        raise ValueError(f"{a.stop - a.start} notes are compared with {b.stop - b.start}")
    between = slice(a.start, a.stop - 1), slice(b.start, b.stop - 1)
    moves, moves_there = line.moves[between[0]], line.moves[between[1]]
    steps, steps_there = line.steps[between[0]], line.steps[between[1]]
    gaps = np.abs(line.gaps[between[0]] - line.gaps[between[1]]) < _BARS
    up = int(line.pitches[b.start] - line.pitches[a.start])
    letters = int(line.letters[b.start] - line.letters[a.start])
    later = _later_words(line, a.start, b.start)
    rhythm = "" if bool(gaps.all()) else "in another rhythm"
    if np.array_equal(moves, moves_there):
        kind, what = (Kind.SAME, "the same notes") if not up else (Kind.MOVED, moved_words(up))
        differs: NDArray[np.int64] = np.zeros(0, dtype=np.int64)
    elif np.array_equal(steps, steps_there):
        in_scale = _steps_words(letters)
        kind, what = Kind.MOVED, f"{in_scale} in the scale" if in_scale else "the same steps, altered"
        differs = np.nonzero(moves != moves_there)[0] + 1
    elif _turned(steps, steps_there, moves, moves_there):
        return Relation(Kind.TURNED, _joined("turned upside down", rhythm, later))
    elif _backwards(moves, moves_there):
        return Relation(Kind.TURNED, _joined("backwards", rhythm, later))
    else:
        apart = (
            moves != moves_there
            if _nearer_by_semitones(moves, moves_there, steps, steps_there)
            else (steps != steps_there)
        )
        differs = np.nonzero(apart)[0] + 1
        alike = bool((np.sign(moves) == np.sign(moves_there)).all()) or 2 * len(differs) <= len(moves)
        kind, what = Kind.CHANGED, _changed_words(differs, len(moves) + 1, up, alike or not gaps.all())
    if kind is Kind.SAME and (later or rhythm):
        kind = Kind.LATER if later else Kind.CHANGED
    places = tuple(line.places[b.start + int(k)] for k in differs)
    return Relation(kind, _joined(what, rhythm, later), places)


def _stretch(line: Line, instance: Instance) -> slice:
    start = bisect_left(line.places, instance.first)
    stop = bisect_right(line.places, instance.last)
    return slice(start, max(start + 1, stop))


def _nearer_by_semitones(
    moves: NDArray[np.int64], there: NDArray[np.int64], steps: NDArray[np.int64], steps_there: NDArray[np.int64]
) -> bool:
    return bool((moves == there).sum() >= (steps == steps_there).sum())


def _turned(
    steps: NDArray[np.int64], there: NDArray[np.int64], moves: NDArray[np.int64], moves_there: NDArray[np.int64]
) -> bool:
    """Whether the other goes down where the one goes up, by as many letters or semitones; one move is too few."""
    moving = np.count_nonzero(moves) > 1
    return bool(moving and (np.array_equal(steps, -there) or np.array_equal(moves, -moves_there)))


def _backwards(moves: NDArray[np.int64], there: NDArray[np.int64]) -> bool:
    return bool(np.count_nonzero(moves) > 1 and np.array_equal(moves, -there[::-1]))


def _later_words(line: Line, a: int, b: int) -> str:
    """How much later in the bar the other begins, in beats, "" where it stands at the same place."""
    ahead = (line.bars[b] - line.bars[a] + 0.5) % 1 - 0.5
    beats = abs(ahead) * line.beats_a_bar[b]
    if beats < 0.01:
        return ""
    return f"{beats_words(float(beats))} {'later' if ahead > 0 else 'earlier'} in the bar"


_PARTS = {0.5: ("half a beat", "½"), 1 / 3: ("a third of a beat", "⅓"), 2 / 3: ("two thirds of a beat", "⅔"),
          0.25: ("a quarter of a beat", "¼"), 0.75: ("three quarters of a beat", "¾")}  # fmt: skip


def beats_words(beats: float) -> str:
    """How long some beats are: "a beat", "1½ beats", "a third of a beat"."""
    whole = int(beats + _NEARLY)
    over = beats - whole
    part = next((words for share, words in _PARTS.items() if abs(over - share) < _NEARLY), None)
    if part is None:
        return "a little" if over > _NEARLY or not whole else "a beat" if whole == 1 else f"{whole} beats"
    return f"{whole}{part[1]} beats" if whole else part[0]


_NEARLY = 0.02


def moved_words(semitones: int) -> str:
    """How far something is moved: "a fourth higher", "an octave lower"."""
    octaves, rest = divmod(abs(semitones), 12)
    return f"{_with_octaves(_SEMITONES[rest], octaves)} {'higher' if semitones > 0 else 'lower'}"


def _steps_words(letters: int) -> str:
    """The same by letters; "" for none."""
    octaves, rest = divmod(abs(letters), 7)
    words = _with_octaves(f"a {_STEPS[rest]}" if rest else "", octaves)
    return f"{words} {'higher' if letters > 0 else 'lower'}" if words else ""


def _with_octaves(interval: str, octaves: int) -> str:
    """An interval with octaves added: "a fifth and an octave", "2 octaves"; "" for nothing of either."""
    added = "" if not octaves else "an octave" if octaves == 1 else f"{octaves} octaves"
    return " and ".join(filter(None, (interval, added)))


def _changed_words(differs: NDArray[np.int64], size: int, up: int, alike: bool) -> str:
    first, last = int(differs[0]), int(differs[-1])
    moved = moved_words(up) + ", " if up else ""
    if first >= (size + 1) // 2:
        return f"{moved}with another end"
    if last < (size + 1) // 2 and last <= 2:
        return f"{moved}with another beginning"
    if len(differs) <= 2:
        return f"{moved}with {'one note' if len(differs) == 1 else 'two notes'} changed"
    return f"{moved}freely varied" if alike else "the same rhythm, other notes"


def _joined(*parts: str) -> str:
    return ", ".join(part for part in parts if part)


def pattern_words(line: Line, motif: Motif) -> str:
    """What the instances of a motif make together: "a sequence, falling by steps", "in threes across the beat"; "" for
    nothing of the kind.

    A sequence is three instances or more that follow each other at once, each moved by as many letters as the last.
    """
    places = [_stretch(line, instance) for instance in motif.instances]
    runs: list[list[slice]] = [[places[0]]]
    for place in places[1:]:
        follows = place.start - runs[-1][-1].stop <= 1
        runs[-1].append(place) if follows else runs.append([place])
    run = max(runs, key=len)
    if len(run) < _A_SEQUENCE:
        return ""
    starts = [place.start for place in run]
    letters = {int(line.letters[b] - line.letters[a]) for a, b in itertools.pairwise(starts)}
    beats = {
        round(float((line.bars[b] - line.bars[a]) * line.beats_a_bar[a]), 3) for a, b in itertools.pairwise(starts)
    }
    said = []
    if len(letters) == 1 and (by := letters.pop()):
        said.append(f"a sequence, {'rising' if by > 0 else 'falling'} by {_sequence_step(abs(by))}")
    if len(beats) == 1:
        apart = beats.pop()
        bar = float(line.beats_a_bar[starts[0]])
        if apart % 1 or (bar % apart and apart % bar):
            said.append(f"groups of {apart:g} beats across the {'beat' if apart % 1 else 'bar'}")
    return ", ".join(said)


def _sequence_step(letters: int) -> str:
    return "steps" if letters == 1 else f"{_STEPS[letters]}s" if letters < len(_STEPS) else "octaves"


_A_SEQUENCE = 3


def where_else(line: Line, first: int, last: int) -> tuple[tuple[Instance, Relation], ...]:
    """Where a stretch of notes (by index) comes back, the nearest relative first, and how; itself is not among them.

    What is the same by semitones, by letters, upside down or backwards, what shares three of four moves and the whole
    direction with the same rhythm, and what keeps an uneven rhythm of four notes or more; at most ``MOST_PLACES``.
    Nothing for fewer than three notes.
    """
    wanted = _stretch(line, Instance(first, last))
    size = wanted.stop - wanted.start
    if size < _LEAST or last < first:
        return ()
    moves, steps = line.moves[wanted.start : wanted.stop - 1], line.steps[wanted.start : wanted.stop - 1]
    gaps = line.gaps[wanted.start : wanted.stop - 1]
    count = len(line.onsets) - size + 1
    window = np.lib.stride_tricks.sliding_window_view
    all_moves, all_steps = window(line.moves, size - 1), window(line.steps, size - 1)
    all_gaps = window(line.gaps, size - 1)
    by_moves, by_steps = (all_moves == moves).sum(axis=1), (all_steps == steps).sum(axis=1)
    rhythm = (np.abs(all_gaps - gaps) < _BARS).sum(axis=1)
    way = (np.sign(all_moves) == np.sign(moves)).all(axis=1)
    exact = (by_moves == size - 1) | (by_steps == size - 1)
    turned = (all_steps == -steps).all(axis=1) | (all_moves == -moves).all(axis=1)
    turned |= (all_moves == -moves[::-1]).all(axis=1)
    turned &= np.count_nonzero(moves) > 1
    near = way & (np.maximum(by_moves, by_steps) >= _NEAR * (size - 1)) & (rhythm == size - 1)
    rests = np.concatenate([[0], np.cumsum(line.rests)])
    whole = rests[size - 1 : size - 1 + count] - rests[:count] <= rests[wanted.stop - 1] - rests[wanted.start]
    # A rhythm that is none of even notes is kept while the notes change.
    in_rhythm = (rhythm == size - 1) & (size > _LEAST) & (float(np.ptp(gaps)) > _BARS)
    score = 4.0 * exact + 2.0 * by_moves / (size - 1) + by_steps / (size - 1) + rhythm / (size - 1)
    order = np.argsort(-score, kind="stable")
    taken = np.zeros(len(line.onsets), dtype=bool)
    taken[wanted] = True
    found: list[tuple[Instance, Relation]] = []
    for start in order.tolist():
        if not (exact[start] or turned[start] or near[start] or in_rhythm[start]) or not whole[start]:
            continue
        if taken[start : start + size].any():
            continue
        give_way()
        taken[start : start + size] = True
        there = Instance(line.places[start], line.places[start + size - 1])
        found.append((there, relation(line, Instance(first, last), there)))
        if len(found) == MOST_PLACES:
            break
    return tuple(found)


MOST_PLACES = 100
"""As many places as are told at most: the nearest."""
_LEAST, _NEAR = 3, 0.75
