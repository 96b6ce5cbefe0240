"""The arc of a solo: bar by bar how dense, high and tense it is, where its climax is, and its sections compared."""

from __future__ import annotations

import statistics
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.card import interval_words
from gavotte.phrasing.line import number
from gavotte.solo.document import Function
from gavotte.solo.form import form_marks


@dataclass(frozen=True, slots=True)
class ArcBar:
    """A bar of the arc. ``onset`` and ``end`` are quarter notes; ``row`` and ``column`` say where it stands where
    choruses lie under one another, bars of the form aligned.

    ``per_beat`` is how many notes begin in a beat, ``sounding`` the share of the bar that is no rest, ``low``,
    ``middle`` and ``high`` MIDI numbers (None in a bar without notes), ``tension`` their mean from 0 to 1,
    ``functions`` how many notes have each function.
    """

    number: int
    onset: Fraction
    end: Fraction
    row: int
    column: int
    per_beat: float
    sounding: float
    low: int | None
    middle: float | None
    high: int | None
    tension: float
    functions: tuple[tuple[Function, int], ...]


@dataclass(frozen=True, slots=True)
class Part:
    """A stretch of the form with a name of its own: "A", "B", "chorus 2"; by indexes into the bars of the arc."""

    name: str
    first: int
    last: int


@dataclass(frozen=True, slots=True)
class Arc:
    """The arc: its ``bars``, its ``parts``, and the index of the note that is its ``climax`` (None without notes)."""

    bars: tuple[ArcBar, ...]
    parts: tuple[Part, ...]
    climax: int | None
    climax_words: str


_A_MOMENT = 1e-9
_BARS_A_ROW = 32
"""How long a row is at most where the form is not known."""


def arc_of(found: Labelled) -> Arc:
    """The arc of a labelled solo."""
    solo, grid = found.solo, found.frame.grid
    inside: dict[int, list[int]] = {}
    sounding: dict[int, float] = {}
    for index, note in enumerate(solo.notes):
        give_way()
        if note.grace:
            continue
        at = grid.index_at(note.onset)
        inside.setdefault(at, []).append(index)
        onset = number(note.onset)
        end = onset + number(note.duration)
        while at < len(grid.bars) and onset < end - _A_MOMENT:
            until = min(end, number(grid.bars[at].end))
            sounding[at] = sounding.get(at, 0.0) + until - onset
            onset, at = until, at + 1
    bars = []
    rows = _rows(found)
    for at, bar in enumerate(grid.bars):
        give_way()
        notes = inside.get(at, [])
        pitches = [solo.notes[i].pitch.midi for i in notes]
        length = bar.end - bar.onset
        counted = [found.labels[i].function for i in notes]
        beats = float(length / bar.meter.beats[0].length)
        bars.append(
            ArcBar(
                bar.number,
                bar.onset,
                bar.end,
                *rows[at],
                len(notes) / beats if beats else 0.0,
                min(1.0, sounding.get(at, 0.0) / number(length)) if length else 0.0,
                min(pitches, default=None),
                statistics.fmean(pitches) if pitches else None,
                max(pitches, default=None),
                statistics.fmean(found.labels[i].tension for i in notes) if notes else 0.0,
                tuple((function, counted.count(function)) for function in Function if function in counted),
            )
        )
    climax = _climax(found)
    return Arc(tuple(bars), _parts(found), climax, _climax_words(found, climax))


def _rows(found: Labelled) -> list[tuple[int, int]]:
    """The row and column of each bar: a row a chorus where it is known, by length or name, else as many bars as fit."""
    solo, bars = found.solo, found.frame.grid.bars
    rows: list[tuple[int, int]] = []
    row, column, until = 0, 0, solo.chorus
    named = {section.onset for section in solo.sections if "chorus" in section.label.lower()}
    for bar in bars:
        if bar.number > 0:
            begins = bar.onset in named and column > 0
            turns = bar.onset >= until if solo.chorus else begins or column >= _BARS_A_ROW
            if turns:
                row, column = row + 1, 0
                until += solo.chorus
            rows.append((row, column))
            column += 1
        else:
            rows.append((0, -1))
    return rows


def _parts(found: Labelled) -> tuple[Part, ...]:
    grid = found.frame.grid
    starts = [(grid.index_at(mark.onset), mark.label) for mark in form_marks(found.solo)]
    ends = [start - 1 for start, _ in [*starts[1:], (len(grid.bars), "")]]
    return tuple(Part(name, start, end) for (start, name), end in zip(starts, ends, strict=False) if end >= start)


def _climax(found: Labelled) -> int | None:
    """The highest note; of several as high the longest, then the last."""
    notes = found.solo.notes
    sounding = [i for i, note in enumerate(notes) if not note.grace]
    return max(sounding, key=lambda i: (notes[i].pitch.midi, notes[i].duration, i), default=None)


def _climax_words(found: Labelled, climax: int | None) -> str:
    """ "Bar 17 of 32: the highest note, B♭5, and the longest"."""
    if climax is None:
        return ""
    solo, grid = found.solo, found.frame.grid
    note = solo.notes[climax]
    last = max((bar.number for bar in grid.bars if bar.onset < solo.notes[-1].end), default=1)
    here = max(1, grid.at(note.onset).number)
    longest = max(other.duration for other in solo.notes)
    also = ", and the longest" if note.duration == longest and len(solo.notes) > 1 else ""
    return f"Bar {here} of {max(here, last)}: the highest note, {note.pitch.shown}{also}"


def compared_words(arc: Arc, part: Part) -> str:
    """What sets a part off from the rest of the solo: "higher, busier"; "" where nothing does or it is silent."""
    inside = [bar for bar in arc.bars[part.first : part.last + 1] if bar.middle is not None]
    rest = [*arc.bars[: part.first], *arc.bars[part.last + 1 :]]
    outside = [bar for bar in rest if bar.middle is not None and bar.number > 0]
    if not inside or len(outside) < _LEAST_BARS:
        return ""
    said = []
    higher = _mean(bar.middle for bar in inside) - _mean(bar.middle for bar in outside)
    if abs(higher) >= _A_THIRD:
        said.append(f"{interval_words(round(higher))} {'higher' if higher > 0 else 'lower'}")
    here, there = _mean(bar.per_beat for bar in inside), _mean(bar.per_beat for bar in outside)
    if there and (here >= _MUCH * there or here * _MUCH <= there):
        said.append("busier" if here > there else "sparser")
    pull = _mean(bar.tension for bar in inside) - _mean(bar.tension for bar in outside)
    if abs(pull) >= _TENSER:
        said.append("more tension" if pull > 0 else "less tension")
    return ", ".join(said)


_A_THIRD, _MUCH, _TENSER, _LEAST_BARS = 3.0, 1.3, 0.08, 2


def _mean(values: Iterable[float | None]) -> float:
    numbers = [value for value in values if value is not None]
    return statistics.fmean(numbers) if numbers else 0.0
