"""The vocabulary two sets of solos have in common: cells that stand in both."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import dataclass

from gavotte.vocabulary.cells import Cell, Place, cells_in, told_of
from gavotte.vocabulary.corpus import LabelledLine, degrees_words, stretch


@dataclass(frozen=True)
class SharedCell:
    """A cell that both sets have: its places in either (by the numbers of the set's own lines), how they are alike, and
    the degrees of the first.
    """

    here: tuple[Place, ...]
    there: tuple[Place, ...]
    relation: str
    degrees: str


@dataclass(frozen=True)
class InCommon:
    """The cells both sets have, the weightiest first, and what share of either set's notes stands in them."""

    cells: tuple[SharedCell, ...]
    here: float
    there: float


def in_common(here: Sequence[LabelledLine], there: Sequence[LabelledLine]) -> Generator[float, None, InCommon]:
    """What two sets have in common, yielding the share that is done. A solo that is in both is looked at once, as one
    of the first set.
    """
    known = {line.notes.tobytes() for line in here}
    others = [(number, line) for number, line in enumerate(there) if line.notes.tobytes() not in known]
    lines = [*here, *(line for _, line in others)]
    cells = yield from cells_in([told_of(line) for line in lines])
    found = []
    for cell in cells:
        mine = tuple(place for place in cell.places if place.line < len(here))
        theirs = tuple(
            Place(others[place.line - len(here)][0], place.first, place.last)
            for place in cell.places
            if place.line >= len(here)
        )
        if mine and theirs:
            found.append(SharedCell(mine, theirs, cell.relation, _degrees(cell, lines)))
    return InCommon(
        tuple(found),
        _share([place for cell in found for place in cell.here], here),
        _share([place for cell in found for place in cell.there], [line for _, line in others]),
    )


def _degrees(cell: Cell, lines: Sequence[LabelledLine]) -> str:
    place = cell.places[0]
    line = lines[place.line]
    first, last = line.notes["place"].searchsorted([place.first, place.last])
    return degrees_words(stretch(line, int(first), int(last)))


def _share(places: Sequence[Place], lines: Sequence[LabelledLine]) -> float:
    notes = sum(len(line.notes) for line in lines)
    return sum(place.last - place.first + 1 for place in places) / notes if notes else 0.0
