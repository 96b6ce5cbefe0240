"""What two aligned lines have in common and what sets them apart, in one sentence and note by note."""

from __future__ import annotations

import itertools
from collections import Counter
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from gavotte.phrasing.relations import beats_words, moved_words
from gavotte.solo.document import Function
from gavotte.theory.chord import DEGREE_SEMITONES
from gavotte.theory.degrees import shown_degree
from gavotte.vocabulary.alignment import Aligned
from gavotte.vocabulary.corpus import DEGREES, DEVICE_NAMES, FUNCTIONS, LabelledLine


class Match(StrEnum):
    """How a note of the second line stands to its partner in the first."""

    SAME = "same"
    """The same degree of the chord."""
    SHAPE = "shape"
    """Another degree, but the same move to it: the shape goes on over another chord."""
    OTHER = "other"
    ADDED = "added"
    """It has no partner."""


@dataclass(frozen=True, slots=True)
class Column:
    """What stands under one another: the row of a note in each of the two lines, None where one has none."""

    first: int | None
    second: int | None
    match: Match | None


_LEADING = (Function.APPROACH, Function.PASSING)
_MOST, _SOME = 0.999, 0.6
_SAME_TIME = 0.02
_FIGURE_WORDS = {
    "enclosure": "an enclosure", "double-below": "a double approach from below",
    "double-above": "a double approach from above", "chromatic-below": "an approach from below",
    "chromatic-above": "an approach from above", "chromatic-passing": "a chromatic passing note",
    "chromatic-neighbour": "a chromatic neighbour", "passing": "a step", "neighbour": "a neighbour", "step": "a step",
    "implied": "another chord’s tones", "altered": "an altered tone", "natural": "a colour", "blue": "a blue note",
}  # fmt: skip


def columns(first: LabelledLine, second: LabelledLine, aligned: Aligned) -> tuple[Column, ...]:
    """Two lines in columns, as they are aligned."""
    found = []
    before: tuple[int, int] | None = None
    for a, b in aligned.pairs:
        if a is None or b is None:
            found.append(Column(a, b, None if b is None else Match.ADDED))
            continue
        same = _degree(first, a) == _degree(second, b)
        moves = None if before is None else (_move(first, before[0], a), _move(second, before[1], b))
        shape = moves is not None and moves[0] == moves[1]
        found.append(Column(a, b, Match.SAME if same else Match.SHAPE if shape else Match.OTHER))
        before = (a, b)
    return tuple(found)


def told(first: LabelledLine, second: LabelledLine, aligned: Aligned) -> str:
    """How the second line stands to the first, in one sentence without a full stop.

    For instance "a fourth higher, in twice the values, with an approach from below to the 5 more".
    """
    pairs = [(a, b) for a, b in aligned.pairs if a is not None and b is not None]
    if not pairs:
        return "nothing in common"
    parts = [
        _pitch_words(first, second, pairs),
        _time_words(first, second, pairs),
        *_note_words(first, second, aligned),
    ]
    return ", ".join(part for part in parts if part)


def _degree(line: LabelledLine, row: int) -> int:
    """The degree by semitones above the root; less than 0 where there is none."""
    code = int(line.notes["degree"][row])
    return -1 if code < 0 else DEGREE_SEMITONES[DEGREES[code]]


def _move(line: LabelledLine, a: int, b: int) -> int:
    return int(line.notes["pitch"][b]) - int(line.notes["pitch"][a])


def _pitch_words(first: LabelledLine, second: LabelledLine, pairs: list[tuple[int, int]]) -> str:
    apart = Counter(int(second.notes["pitch"][b]) - int(first.notes["pitch"][a]) for a, b in pairs)
    by, times = apart.most_common(1)[0]
    share = times / len(pairs)
    if share > _MOST:
        return "the same notes" if by == 0 else f"the same, {moved_words(by)}"
    classes = Counter((int(second.notes["pitch"][b]) - int(first.notes["pitch"][a])) % 12 for a, b in pairs)
    of_class, of_times = classes.most_common(1)[0]
    if of_times == len(pairs):
        moved = f", {moved_words(of_class - 12 * (of_class > 6))}" if of_class else ""
        return f"the same{moved}, partly in another octave"
    degrees = sum(_degree(first, a) == _degree(second, b) for a, b in pairs)
    if degrees == len(pairs):
        return "the same degrees over other chords"
    if share >= _SOME:
        run = _same_run(first, second, pairs)
        moved = f"{moved_words(by)}, " if by else ""
        return f"{moved}{run}" if run else f"{moved}most notes the same"
    ways = [np.sign(_move(first, a, c)) == np.sign(_move(second, b, d)) for (a, b), (c, d) in itertools.pairwise(pairs)]
    if all(ways):
        return "the same contour by other intervals"
    return f"{degrees} of {len(pairs)} degrees the same" if degrees else "alike in shape"


def _same_run(first: LabelledLine, second: LabelledLine, pairs: list[tuple[int, int]]) -> str:
    """ "the same from the third note on", "the same up to the fifth note"; "" where it is neither."""
    same = [_move(first, a, c) == _move(second, b, d) for (a, b), (c, d) in itertools.pairwise(pairs)]
    if not all(same) and all(same[-(len(same) // 2) :]) and len(same) > 2:
        start = len(same) - next(k for k, s in enumerate(reversed(same)) if not s)
        return f"the same from the {_ORDINALS.get(start + 1, f'{start + 1}th')} note on"
    if not all(same) and all(same[: (len(same) + 1) // 2]) and len(same) > 2:
        end = next(k for k, s in enumerate(same) if not s)
        return f"the same up to the {_ORDINALS.get(end + 1, f'{end + 1}th')} note"
    return ""


_ORDINALS = {1: "first", 2: "second", 3: "third", 4: "fourth", 5: "fifth", 6: "sixth", 7: "seventh", 8: "eighth"}


def _time_words(first: LabelledLine, second: LabelledLine, pairs: list[tuple[int, int]]) -> str:
    steps = [
        (
            float(first.notes["onset"][c] - first.notes["onset"][a]),
            float(second.notes["onset"][d] - second.notes["onset"][b]),
        )
        for (a, b), (c, d) in itertools.pairwise(pairs)
    ]
    ratios = {round(there / here, 3) for here, there in steps if here > 0}
    if len(ratios) == 1 and (ratio := ratios.pop()) != 1.0:
        return {2.0: "in twice the values", 0.5: "in half the values"}.get(ratio, "in other values")
    if any(abs(here - there) > _SAME_TIME for here, there in steps):
        return "in another rhythm"
    a, b = pairs[0]
    later = float(second.notes["beat"][b] - first.notes["beat"][a])
    if abs(later) < _SAME_TIME:
        return ""
    return f"{beats_words(abs(later))} {'later' if later > 0 else 'earlier'} in the bar"


def _note_words(first: LabelledLine, second: LabelledLine, aligned: Aligned) -> list[str]:
    """What one line has more or fewer, and what stands for what; the two that matter most."""
    said: list[str] = []
    paired = [k for k, (a, b) in enumerate(aligned.pairs) if a is not None and b is not None]
    inside = range(paired[0], paired[-1] + 1)
    added = [b for k in inside if (b := aligned.pairs[k][1]) is not None and aligned.pairs[k][0] is None]
    lost = [a for k in inside if (a := aligned.pairs[k][0]) is not None and aligned.pairs[k][1] is None]
    for rows, line, more in ((added, second, "more"), (lost, first, "fewer")):
        if len(rows) == 1:
            said.append(f"with {_one_note(line, rows[0])} {more}")
        elif rows:
            said.append(f"with {len(rows)} notes {more}")
    cut = paired[0] + len(aligned.pairs) - 1 - paired[-1]
    before = sum(a is not None for a, b in aligned.pairs[: paired[0]])
    behind = sum(a is not None for a, b in aligned.pairs[paired[-1] + 1 :])
    if cut and before:
        said.append(f"without the first {'note' if before == 1 else f'{before} notes'}")
    if cut and behind:
        said.append(f"without the last {'note' if behind == 1 else f'{behind} notes'}")
    if not added and not lost:
        said += _changed(first, second, [(a, b) for a, b in aligned.pairs if a is not None and b is not None])
    return said[:2]


def _one_note(line: LabelledLine, row: int) -> str:
    notes = line.notes
    device = DEVICE_NAMES[notes["device"][row]]
    if FUNCTIONS[notes["function"][row]] in _LEADING:
        target = int(notes["target"][row])
        words = _FIGURE_WORDS.get(device, "a note")
        goal = f" to the {shown_degree(DEGREES[notes['degree'][target]])}" if 0 <= target < len(notes) else ""
        return f"{words}{goal}"
    return f"the {shown_degree(DEGREES[notes['degree'][row]])}" if notes["degree"][row] >= 0 else "a note"


def _changed(first: LabelledLine, second: LabelledLine, pairs: list[tuple[int, int]]) -> list[str]:
    """What stands in the second for what in the first, where that is one thing or two."""
    other = [(a, b) for a, b in pairs if _degree(first, a) != _degree(second, b)]
    if not other:
        return []
    if len({(int(second.notes["pitch"][b]) - int(first.notes["pitch"][a])) % 12 for a, b in pairs}) == 1:
        # The notes are the same: what changes is what they stand over.
        return ["over other chords"] if _MANY * len(other) > len(pairs) else []
    swapped = dict.fromkeys((_one_note(first, a), _one_note(second, b)) for a, b in other)
    told_ones = [f"{there} for {here}" for here, there in swapped if here != there]
    return told_ones if len(other) <= _FEW < len(pairs) else []


_MANY, _FEW = 3, 2
