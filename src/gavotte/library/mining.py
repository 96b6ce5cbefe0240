"""The cells that recur in the solos of a library, with where each stands, over what, and what it goes into."""

from __future__ import annotations

from collections import Counter
from collections.abc import Generator, Mapping
from dataclasses import dataclass

from gavotte.library.lines import Lines
from gavotte.library.reader import SoloEntry
from gavotte.vocabulary.cells import Cell, Place, cells_in, told_of
from gavotte.vocabulary.corpus import LabelledLine, degrees_words, stretch


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
    solos: Mapping[str, SoloEntry], lines: Lines, player: str = ""
) -> Generator[float, None, tuple[LibraryCell, ...]]:
    """The cells of a library's solos, or of one player's, the weightiest first; in steps that yield the share that is
    done. Heads of tunes are left out.
    """
    owned = [
        (name, solos[name].player, line)
        for name, line in zip(lines.ids, lines.corpus.lines, strict=True)
        if name in solos and player in ("", solos[name].player) and not solos[name].is_head
    ]
    cells = yield from cells_in([told_of(line) for *_, line in owned])
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
