"""Waymarks: the times a solo is gone through by, barlines and the starts of phrases, sections and choruses."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from enum import StrEnum
from fractions import Fraction

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.writing.passages import phrases_of


class Waymark(StrEnum):
    """What a solo is gone through by."""

    BAR = "bar"
    PHRASE = "phrase"
    SECTION = "section"
    CHORUS = "chorus"


def waymarks(solo: Solo, kind: Waymark) -> list[Fraction]:
    """Where the bars (phrases, sections, choruses) of a solo begin, in order, in quarter notes.

    Phrases are those that are marked; where none are, they go from rest to rest.
    """
    match kind:
        case Waymark.BAR:
            return [bar.onset for bar in BarGrid(solo).bars]
        case Waymark.PHRASE:
            marked = [phrase.first for phrase in solo.phrases if phrase.first in solo.places]
            starts = marked or [first for first, _ in phrases_of(solo)]
            return sorted(solo.note(note).onset for note in starts)
        case Waymark.SECTION:
            return sorted({section.onset for section in solo.sections})
    count = int(solo.end / solo.chorus) + 1 if solo.chorus else 1
    return [solo.chorus * number for number in range(count) if not number or solo.chorus * number < solo.end]


def next_waymark(marks: Sequence[Fraction], time: Fraction, direction: int) -> Fraction | None:
    """The mark after a time (1); or the start of what it lies in, or the mark before where it stands there (-1).

    None where there is none.
    """
    index = bisect_right(marks, time) if direction > 0 else bisect_left(marks, time) - 1
    return marks[index] if 0 <= index < len(marks) else None


def bar_numbered(solo: Solo, number: int) -> Fraction | None:
    """Where the bar of a number begins, None where there is none; 0 is the pickup."""
    return next((bar.onset for bar in BarGrid(solo).bars if bar.number == number), None)
