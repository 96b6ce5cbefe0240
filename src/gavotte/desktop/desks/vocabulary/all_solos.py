"""What is shown of all solos together: the cells that recur, place by place, and what a player does."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.desks.vocabulary.lick_list import Row
from gavotte.desktop.desks.vocabulary.overview import Overview
from gavotte.desktop.desks.vocabulary.places_panel import PlacesPanel
from gavotte.desktop.desks.vocabulary.players_panel import PlayersPanel
from gavotte.desktop.desks.vocabulary.search_panel import SearchPanel
from gavotte.desktop.errands.indexer import Indexer
from gavotte.library.mining import CellPlace, LibraryCell
from gavotte.library.reader import SoloEntry
from gavotte.vocabulary.corpus import bars_words


class AllSolos(QObject):
    """``solos`` are those of the library, by id.

    Signals: ``row_wanted(row)``, a place is looked at; ``nothing_wanted``, there is none; ``player_wanted``, the
    dictionary is looked at; ``query_wanted(query)``, what answers is.
    """

    row_wanted = pyqtSignal(object)
    nothing_wanted = pyqtSignal()
    player_wanted = pyqtSignal()
    query_wanted = pyqtSignal(str)

    def __init__(
        self,
        search: SearchPanel,
        places: PlacesPanel,
        dictionary: PlayersPanel,
        overview: Overview,
        indexer: Indexer,
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self._search, self._places, self._dictionary = search, places, dictionary
        self._overview, self._indexer = overview, indexer
        self.solos: Mapping[str, SoloEntry] = {}
        search.cells.look_wanted.connect(self._find_cells)
        search.cells.cell_chosen.connect(lambda _: self._show_cell())
        search.players.currentRowChanged.connect(lambda _: self._tell_player())
        places.place_chosen.connect(self._show_place)
        dictionary.beside_wanted.connect(lambda _: self._tell_player())
        dictionary.query_wanted.connect(self._ask_of_player)
        overview.cells_found.connect(self._show_cells)
        overview.left.connect(self._show_cells)
        overview.dictionaries_found.connect(dictionary.show_dictionaries)

    @property
    def _players(self) -> list[str]:
        return list(dict.fromkeys(solo.player for solo in self.solos.values() if solo.player))

    def show(self, mode: str) -> None:
        """Show the cells or the players there are."""
        if mode == "players":
            self._search.show_players(self._players, self.solos.values())
            self._tell_player()
            return
        self._search.cells.show_players(self._players, any(solo.is_head for solo in self.solos.values()))
        if self._overview.index is None and self._indexer.is_current and not self._overview.is_looking:
            self._find_cells()
        else:
            self._show_cells()

    # -- cells --------------------------------------------------------------------------------------

    def _find_cells(self) -> None:
        self._search.cells.show_waiting()
        self.nothing_wanted.emit()
        self._overview.find_cells(self._search.cells.player, self.solos)

    def _show_cells(self) -> None:
        if self._search.mode != "cells" or self._overview.is_looking:
            return
        self._search.cells.show_cells(self._overview.cells, self._indexer.index, self._overview.is_behind)
        self._show_cell()

    @property
    def cell(self) -> LibraryCell | None:
        """The cell that is looked at."""
        number = self._search.cells.cells.currentRow()
        is_there = self._search.mode == "cells" and 0 <= number < len(self._overview.cells)
        return self._overview.cells[number] if is_there else None

    @property
    def places_of_cell(self) -> tuple[str, ...]:
        """Where the cell that is looked at stands, in words; nothing where none is."""
        cell = self.cell
        return () if cell is None else tuple(", ".join(self._named(place)) for place in cell.places)

    def _show_cell(self) -> None:
        cell = self.cell
        if cell is None:
            self.nothing_wanted.emit()
            return
        self._places.show_cell(cell, self._named)
        self._show_place(0)

    def _named(self, place: CellPlace) -> tuple[str, str]:
        """The name of the solo a cell stands in, and the bars."""
        index = self._indexer.index.solos
        number = index.number_of.get(place.solo_id)
        bars = "" if number is None else bars_words(index.corpus.lines[number].notes, place.first, place.last)
        solo = self.solos.get(place.solo_id)
        return solo.title if solo is not None else "", bars

    def _show_place(self, number: int) -> None:
        cell = self.cell
        if cell is not None and 0 <= number < len(cell.places):
            place = cell.places[number]
            self.row_wanted.emit(Row(cell.degrees, owner=place.solo_id, first=place.first, last=place.last))

    # -- players ------------------------------------------------------------------------------------

    def _tell_player(self) -> None:
        if self._search.mode != "players":
            return
        player = self._search.players.current_id()
        if player is None:
            self.nothing_wanted.emit()
            return
        self._dictionary.show_players(player, self._players)
        self.player_wanted.emit()
        self._overview.tell(player, self._dictionary.other, self.solos)

    def _ask_of_player(self, query: str) -> None:
        """List the places of an entry of the dictionary that is shown."""
        player = self._search.players.current_id() or ""
        self.query_wanted.emit(f'{query} by "{player}"')
