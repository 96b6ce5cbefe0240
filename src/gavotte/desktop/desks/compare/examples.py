"""The places a figure is heard at, laid under one another: the first set's, then the other's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from gavotte.desktop.translation import translate
from gavotte.labelling.labeller import labelled
from gavotte.library.played_takes import is_take, music_of
from gavotte.library.reader import LibraryReader
from gavotte.profile.compared import Side
from gavotte.profile.examples import examples_of
from gavotte.profile.figures import Figure
from gavotte.profile.seen import Seen
from gavotte.profile.shared import SharedCell
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import excerpt
from gavotte.vocabulary.lick import Lick, Source
from gavotte.workshop.stacked import Block, stacked

EACH = 3
"""So many examples of each set."""


@dataclass(frozen=True)
class Laid:
    """Examples as one piece of music with its labels; ``counted`` are the ids of the notes that are counted, and
    ``sources`` by the number of the example the solo it is from and its first note there; ``licks`` are the examples
    by themselves.
    """

    solo: Solo
    labels: dict[str, Label]
    counted: frozenset[str]
    sources: tuple[tuple[str, str], ...]
    licks: tuple[Lick, ...] = ()


_LONG, _BESIDE = 1500, 40
"""A solo of more notes is labelled only around an example, with so many notes on both sides."""


def _around(solo: Solo, first: int, last: int) -> Solo:
    """What is labelled to have the labels of a stretch."""
    if len(solo.notes) <= _LONG:
        return solo
    low, high = max(0, first - _BESIDE), min(len(solo.notes) - 1, last + _BESIDE)
    return excerpt(solo, solo.notes[low].id, solo.notes[high].id)


@dataclass(frozen=True, slots=True)
class ExamplePlace:
    """A stretch of a solo or take (by id): its first and last note and those that are counted, by their places."""

    owner: str
    first: int
    last: int
    counted: tuple[int, ...] = ()


def places_of_figure(figure: Figure, sides: Sequence[Side], each: int = EACH) -> list[ExamplePlace]:
    """Where a figure is heard most: ``each`` of the first set, then of the other."""
    found = []
    for side in sides:
        for example in examples_of(figure, side.lines, each):
            line = side.lines[example.line]
            hits = np.nan_to_num(figure.parts(Seen(line))[0]) > 0
            counted = (int(place) for place in line.notes["place"][hits])
            inside = tuple(place for place in counted if example.first <= place <= example.last)
            found.append(ExamplePlace(side.ids[example.line], example.first, example.last, inside))
    return found


def places_of_cell(cell: SharedCell, sides: Sequence[Side], each: int = EACH) -> list[ExamplePlace]:
    """Where both sets have a cell, from different solos as far as there are, with a few notes around it."""
    found = []
    for side, places in zip(sides, (cell.here, cell.there), strict=True):
        firsts = {place.line: place for place in reversed(places)}
        chosen = [firsts[number] for number in sorted(firsts)]
        chosen += [place for place in places if place not in chosen]
        for place in chosen[:each]:
            inside = tuple(range(place.first, place.last + 1))
            last = int(side.lines[place.line].notes["place"][-1])
            first, end = max(0, place.first - _LEAD), min(last, place.last + _LEAD)
            found.append(ExamplePlace(side.ids[place.line], first, end, inside))
    return found


_LEAD = 2


def laid_out(reader: LibraryReader, title: str, places: Sequence[ExamplePlace]) -> Laid | None:
    """Some places laid under one another, None where there is none."""
    blocks: list[Block] = []
    counted: set[str] = set()
    sources: list[tuple[str, str]] = []
    licks: list[Lick] = []
    for place in places:
        solo = music_of(reader, place.owner)
        if solo is None or place.last >= len(solo.notes):
            continue
        found = labelled(_around(solo, place.first, place.last))
        first, last = solo.notes[place.first], solo.notes[place.last]
        part = replace(excerpt(solo, first.id, last.id), phrases=(), decisions=())
        there = {note.id for note in part.notes}
        labels = tuple(label for label in found.labels if label.note in there)
        bar = BarGrid(solo).at(first.onset).number
        words = translate("Gavotte", "{player}: {title}, bar {bar}")
        who = (
            translate("Gavotte", "My take") if is_take(place.owner) else solo.player or translate("Gavotte", "Unknown")
        )
        number = len(blocks)
        last_bar = BarGrid(solo).at(last.onset).number
        licks.append(Lick(solo.title, part, labels, Source(place.owner, solo.title, who, bar, last_bar)))
        blocks.append(Block(part, labels, words.format(player=who, title=solo.title, bar=bar)))
        sources.append((place.owner, first.id))
        counted |= {f"{number}:{solo.notes[at].id}" for at in place.counted}
    if not blocks:
        return None
    solo, labels_of = stacked(blocks, title[:1].upper() + title[1:])
    return Laid(solo, {label.note: label for label in labels_of}, frozenset(counted), tuple(sources), tuple(licks))
