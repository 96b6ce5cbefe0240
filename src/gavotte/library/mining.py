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
from gavotte.library.relatives import stretch
from gavotte.steps import scaled
from gavotte.vocabulary.cells import Cell, Place, cells_of
from gavotte.vocabulary.corpus import LabelledLine, degrees_words

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
    return LibraryCell(places, cell.weight, cell.relation, degrees_words(stretch(line, first.first, first.last)))


def _place(place: Place, solo_id: str, player: str, line: LabelledLine) -> CellPlace:
    heads = line.notes["place"]
    first, last = (int(heads.searchsorted(index)) for index in (place.first, place.last))
    last = min(last, len(heads) - 1)
    words = f"from {over_words(line, first)}"
    if last + 1 < len(heads) and not line.notes["rest"][last]:
        words += f", into {over_words(line, last + 1)}"
    return CellPlace(solo_id, player, first, last, words)


def over_words(line: LabelledLine, row: int) -> str:
    """A note of a line by its degree and chord: "the 3 of C7"."""
    chord = line.chords[line.notes["chord"][row]]
    degree = degrees_words(stretch(line, row, row))
    return f"the {degree} of {chord[1]}" if chord[0] else f"the {degree}"
