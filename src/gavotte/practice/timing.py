"""How a take lay in time: early and late by place and by phrase, evenness, the swing of each pair of eighths."""

from __future__ import annotations

import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.phrasing.phrases import phrases_of
from gavotte.practice.due import DueLine
from gavotte.practice.take import Take, TakeNote, Verdict
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Articulation, Note
from gavotte.workshop.piece import labelled_once

_HALF = Fraction(1, 2)
_FEWEST = 4
_SHORTENING = (Articulation.STACCATO, Articulation.GHOST, Articulation.FALL)
_HELD = 0.5
_SURE = 0.5
_ENOUGH, _OFF, _MOST_OFF = 8, 25.0, 3
"""Pitches by which intonation is told, cents from which on a note is told, and how many are."""


@dataclass(frozen=True, slots=True)
class Lateness:
    """How late the notes of a kind were: seconds in the middle (early: below 0), and how many notes said so."""

    name: str
    late: float
    count: int


@dataclass(frozen=True, slots=True)
class SwungPair:
    """Two eighths in a beat: the bar they stand in, and how many times as long the first was as the second."""

    bar: int
    ratio: float


@dataclass(frozen=True)
class Timing:
    """``places``: how late notes were on each beat and between the beats; ``spread``: seconds within which two thirds
    of them lay; the swung ``pairs``; ``lengths``: how long notes sounded beside how long they are written, in the
    middle; the ``cents`` within which two thirds lay of their pitch (None where few pitches were heard), and the notes
    that were farthest ``off`` (ids, each with by how many cents); ``phrases``: how late each phrase was; ``cut``: long
    notes that ended far too soon (ids, each with the share of its length that sounded).
    """

    places: tuple[Lateness, ...]
    spread: float
    pairs: tuple[SwungPair, ...]
    lengths: float | None
    cents: float | None = None
    off: tuple[tuple[str, float], ...] = ()
    phrases: tuple[Lateness, ...] = ()
    cut: tuple[tuple[str, float], ...] = ()


def timing_of(line: DueLine, take: Take) -> Timing:
    """The timing of what was played rightly and heard surely."""
    grid = BarGrid(line.solo)
    heard = _heard(line, take)
    places: dict[str, list[float]] = {}
    for note, judged in heard:
        assert judged.late is not None
        bar, offset = grid.locate(note.onset)
        number, beat = bar.meter.beat_at(offset)
        name = f"beat {number + 1}" if offset == beat.offset else "between the beats"
        places.setdefault(name, []).append(judged.late)
    found = tuple(
        Lateness(name, statistics.median(late), len(late))
        for name, late in sorted(places.items())
        if len(late) >= _FEWEST
    )
    late = [judged.late for _, judged in heard if judged.late is not None]
    spread = _spread(late)
    pitched = [(judged.note, judged.cents) for _, judged in heard if judged.cents is not None]
    enough = len(pitched) >= _ENOUGH
    off = sorted((one for one in pitched if abs(one[1]) >= _OFF), key=lambda one: -abs(one[1]))
    cents = _spread([by for _, by in pitched]) if enough else None
    return Timing(
        found,
        spread,
        tuple(_pairs(grid, heard)),
        _lengths(heard, take),
        cents,
        tuple(off[:_MOST_OFF]) if enough else (),
        tuple(_by_phrase(line, grid, heard)),
        tuple(_cut(heard, take)),
    )


def _by_phrase(line: DueLine, grid: BarGrid, heard: Sequence[tuple[Note, TakeNote]]) -> list[Lateness]:
    """How late the notes of each phrase were in the middle, where enough of them say so."""
    found, late = [], {note.id: judged.late for note, judged in heard}
    for phrase in phrases_of(line.solo, labelled_once(line.solo).labels):
        notes = line.solo.notes[phrase.first : phrase.last + 1]
        mine = [by for note in notes if (by := late.get(note.id)) is not None]
        if len(mine) >= _FEWEST:
            first, last = (grid.at(notes[k].onset).number for k in (0, -1))
            name = f"bar {first}" if first == last else f"bars {first} to {last}"
            found.append(Lateness(name, statistics.median(mine), len(mine)))
    return found


def _cut(heard: Sequence[tuple[Note, TakeNote]], take: Take) -> list[tuple[str, float]]:
    """Long notes without a mark that shortens them, of which less than half sounded; the shortest first."""
    quarter = 60 / take.tempo if take.tempo else 0.5
    shares = [
        (note.id, (judged.end - judged.seconds) / (float(note.duration) * quarter))
        for note, judged in heard
        if judged.end is not None and judged.seconds is not None and note.duration >= 1
        and not any(note.has(mark) for mark in _SHORTENING)
    ]  # fmt: skip
    return sorted((one for one in shares if one[1] < _HELD), key=lambda one: one[1])[:_MOST_OFF]


def _heard(line: DueLine, take: Take) -> list[tuple[Note, TakeNote]]:
    return [
        (note, judged)
        for note, judged in zip(line.notes, take.notes, strict=True)
        if judged.verdict is Verdict.RIGHT and judged.sure >= _SURE and judged.late is not None
    ]


def _spread(late: Sequence[float]) -> float:
    """Half the width that holds the middle two thirds."""
    if len(late) < _FEWEST:
        return 0.0
    cuts = statistics.quantiles(late, n=6)
    return (cuts[-1] - cuts[0]) / 2


def _pairs(grid: BarGrid, heard: Sequence[tuple[Note, TakeNote]]) -> list[SwungPair]:
    pairs = []
    for (first, a), (second, b), (third, c) in zip(heard, heard[1:], heard[2:], strict=False):
        if second.onset - first.onset != _HALF or third.onset - second.onset != _HALF:
            continue
        bar, offset = grid.locate(first.onset)
        _, beat = bar.meter.beat_at(offset)
        if offset != beat.offset or beat.length != 1:
            continue
        assert a.seconds is not None
        assert b.seconds is not None
        assert c.seconds is not None
        if c.seconds > b.seconds > a.seconds:
            pairs.append(SwungPair(bar.number, (b.seconds - a.seconds) / (c.seconds - b.seconds)))
    return pairs


def _lengths(heard: Sequence[tuple[Note, TakeNote]], take: Take) -> float | None:
    quarter = 60 / take.tempo if take.tempo else 0.5
    shares = [
        (judged.end - judged.seconds) / (float(note.duration) * quarter)
        for note, judged in heard
        if judged.end is not None and judged.seconds is not None and note.duration >= _HALF
    ]
    return statistics.median(shares) if len(shares) >= _FEWEST else None
