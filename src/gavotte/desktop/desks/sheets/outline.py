"""The outline: the pieces of a sheet under one another, the sheet itself on top."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent

from gavotte.desktop.desks.sheets.words import piece_detail, piece_name
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import DETAIL_ROLE, EDGE_ROLE, ID_ROLE, RowList
from gavotte.desktop.words import counted
from gavotte.sheets.sheet import TeachingSheet

THE_SHEET = ""
"""The id of the row that stands for the sheet as a whole."""


class Outline(RowList):
    """Signals: ``chosen(id)``, another piece, or the sheet, is worked on; ``entered``, into its fields."""

    chosen = pyqtSignal(str)
    entered = pyqtSignal()

    def __init__(self) -> None:
        super().__init__(translate("Gavotte", "Pieces of the sheet"))
        self._filling = False
        self.currentRowChanged.connect(lambda _: self._tell())

    def show_sheet(self, sheet: TeachingSheet, chosen: str) -> str:
        """List the pieces with one chosen; gives the id that is chosen, the sheet's where that one is gone."""
        rows = [(THE_SHEET, sheet.title, counted(len(sheet.pieces), "piece"))]
        rows += [(piece.id, piece_name(piece), piece_detail(sheet, piece)) for piece in sheet.pieces]
        if chosen not in {row_id for row_id, *_ in rows}:
            chosen = THE_SHEET
        self._filling = True
        before = [self.row_words(row) for row in range(self.count())]
        if before != rows:
            self.clear()
            for row_id, name, detail in rows:
                self.add_row(row_id, name, detail)
        self.select_id(chosen)
        self._filling = False
        return chosen

    def row_words(self, row: int) -> tuple[str, str, str]:
        """Of a row the id, the name and what stands under it."""
        item = self.item(row)
        assert item is not None
        return str(item.data(ID_ROLE)), item.text(), str(item.data(DETAIL_ROLE))

    def show_places(self, page_of: Callable[[str], int | None]) -> None:
        """Write at each piece the page it begins on."""
        for row in range(1, self.count()):
            item = self.item(row)
            if item is not None:
                page = page_of(self.row_words(row)[0])
                words = "" if page is None else translate("Gavotte", "p. {page}").format(page=page + 1)
                if item.data(EDGE_ROLE) != words:
                    item.setData(EDGE_ROLE, words)

    def _tell(self) -> None:
        if not self._filling and self.currentRow() >= 0:
            self.chosen.emit(self.current_id() or THE_SHEET)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.entered.emit()
            return
        super().keyPressEvent(event)
