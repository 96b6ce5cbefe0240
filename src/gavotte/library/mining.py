"""The cells that recur in the solos of a library, with where each stands, over what, and what it goes into."""

from __future__ import annotations

import logging
from collections import Counter
from collections.abc import Generator
from dataclasses import dataclass

from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.lines import Lines
from gavotte.library.reader import LibraryReader
from gavotte.steps import scaled
from gavotte.theory.degrees import shown_degree
from gavotte.vocabulary.cells import Cell, Place, cells_of
from gavotte.vocabulary.corpus import DEGREES, LabelledLine

LOG = logging.getLogger("gavotte")
_READING = 0.15
"""The share of the work that reading the solos is."""


@dataclass(frozen=True, slots=True)
class CellPlace:
    """Where a cell stands: a solo's id and player, the rows of its first and last note in the solo's line, and over
    what and into what in words.
    """

    solo_id: str
    player: str
    first: int
    last: int
    words: str


@dataclass(frozen=True, slots=True)
class LibraryCell:
    """A cell with all its places, the heaviest first among others; ``relation`` says how they are alike."""

    places: tuple[CellPlace, ...]
    weight: float
    relation: str
    degrees: str

    @property
    def players(self) -> tuple[str, ...]:
        """Who plays it, the most frequent first."""
        return tuple(player for player, _ in Counter(place.player for place in self.places).most_common() if player)


def library_cells(
    reader: LibraryReader, lines: Lines, player: str = ""
) -> Generator[float, None, tuple[LibraryCell, ...]]:
    """The cells of a library's solos, or of one player's, the weightiest first; in steps that yield the share that is
    done.

    Raises LibraryError.
    """
    entries = [entry for entry in reader.solos() if entry.id in lines.number_of and player in ("", entry.player)]
    solos = []
    there = []
    for number, entry in enumerate(entries, 1):
        try:
            solos.append(reader.solo(entry.id))
            there.append(entry)
        except (FormatError, LibraryError) as error:
            LOG.warning("%s can't be mined: %s", entry.title, error)
        yield _READING * number / len(entries)
    cells = yield from scaled(cells_of(solos), _READING, 1.0)
    owned = [(entry.id, entry.player, lines.corpus.lines[lines.number_of[entry.id]]) for entry in there]
    return tuple(_with_words(cell, owned) for cell in cells)


def _with_words(cell: Cell, owned: list[tuple[str, str, LabelledLine]]) -> LibraryCell:
    places = tuple(_place(place, *owned[place.line]) for place in cell.places)
    first = places[0]
    line = owned[cell.places[0].line][2]
    degrees = " ".join(_degree(line, row) for row in range(first.first, first.last + 1))
    return LibraryCell(places, cell.weight, cell.relation, degrees)


def _place(place: Place, solo_id: str, player: str, line: LabelledLine) -> CellPlace:
    heads = line.notes["place"]
    first, last = (int(heads.searchsorted(index)) for index in (place.first, place.last))
    last = min(last, len(heads) - 1)
    words = f"from the {_over(line, first)}"
    if last + 1 < len(heads) and not line.notes["rest"][last]:
        words += f", into the {_over(line, last + 1)}"
    return CellPlace(solo_id, player, first, last, words)


def _over(line: LabelledLine, row: int) -> str:
    chord = line.chords[line.notes["chord"][row]]
    return f"{_degree(line, row)} of {chord[1]}" if chord[0] else _degree(line, row)


def _degree(line: LabelledLine, row: int) -> str:
    code = int(line.notes["degree"][row])
    return shown_degree(DEGREES[code]) if code >= 0 else "?"
