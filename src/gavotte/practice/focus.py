"""What to work on next: the one stretch of a take that asks for it most, and why."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.phrasing.phrases import Phrase, phrases_of
from gavotte.practice.due import DueLine
from gavotte.practice.take import Take, TakeNote, Verdict
from gavotte.solo.bars import BarGrid

_LATE = 0.06
"""Seconds early or late that are worth a word."""

_SHAKY = 0.5
"""What was heard less surely costs no mark."""

_LATE_COUNTS = 0.4
_FEW = 0.08
"""Share of the notes of a stretch up to which it went well."""


@dataclass(frozen=True, slots=True)
class Trouble:
    """A phrase of the take: notes from ``first`` to ``last`` (of the line), how many of them ``wrong``, ``missed``,
    ``early`` and ``late``, and how much of it ``asks`` for work, 0 to 1.
    """

    first: int
    last: int
    wrong: int
    missed: int
    early: int
    late: int
    asks: float


def is_sure(note: TakeNote) -> bool:
    """Whether a verdict is sure enough to count."""
    return note.sure >= _SHAKY


def troubles(line: DueLine, take: Take) -> tuple[Trouble, ...]:
    """Every phrase of the take with what went wrong in it, in order."""
    return tuple(_trouble(take.notes, phrase) for phrase in _phrases(line))


def work_next(line: DueLine, take: Take) -> Trouble | None:
    """The phrase that asks most for work; None where it all went well."""
    found = [trouble for trouble in troubles(line, take) if trouble.asks > _FEW]
    return max(found, key=lambda trouble: trouble.asks, default=None)


def loop_of(line: DueLine, trouble: Trouble) -> tuple[Fraction, Fraction]:
    """The whole bars of a stretch, from the first one's beginning to the last one's end, in quarter notes."""
    grid = BarGrid(line.solo)
    last = line.notes[trouble.last]
    return (
        grid.bars[grid.index_at(line.notes[trouble.first].onset)].onset,
        grid.bars[grid.index_at(max(last.onset, last.end - Fraction(1, 16)))].end,
    )


def _phrases(line: DueLine) -> tuple[Phrase, ...]:
    return phrases_of(replace(line.solo, notes=line.notes))


def _trouble(notes: Sequence[TakeNote], phrase: Phrase) -> Trouble:
    own = notes[phrase.first : phrase.last + 1]
    sure = [note for note in own if is_sure(note)]
    wrong = sum(note.verdict is Verdict.WRONG for note in sure)
    missed = sum(note.verdict is Verdict.MISSED for note in sure)
    right = [note.late for note in sure if note.verdict is Verdict.RIGHT and note.late is not None]
    early, late = sum(by < -_LATE for by in right), sum(by > _LATE for by in right)
    asks = min(1.0, (wrong + missed + _LATE_COUNTS * (early + late)) / max(4, len(own)))
    return Trouble(phrase.first, phrase.last, wrong, missed, early, late, asks)
