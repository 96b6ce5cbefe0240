"""What recurs in all solos: the cells, the weightiest first."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.vocabulary.lick_list import LickList, Row, notes_of
from gavotte.desktop.desks.vocabulary.overview import HEADS
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.library.lines import Index
from gavotte.library.mining import LibraryCell


class CellsPanel(QWidget):
    """``whose`` says whose solos are gone through, ``cells`` lists what recurs in them.

    Signals: ``look_wanted``, look for them (again); ``cell_chosen(number)``, -1 for none.
    """

    look_wanted = pyqtSignal()
    cell_chosen = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.whose = Choice()
        self.whose.setAccessibleName(translate("Gavotte", "Whose solos"))
        self.whose.setToolTip(translate("Gavotte", "Whose solos are gone through"))
        self.message = QLabel()
        self.message.setWordWrap(True)
        self.message.setObjectName("quiet")
        self.cells = LickList(translate("Gavotte", "Cells"))
        self.look = QPushButton(translate("Gavotte", "Look again"))
        self.look.setToolTip(translate("Gavotte", "The library has changed since the cells were looked for"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.whose)
        column.addWidget(self.message)
        column.addWidget(self.cells, 1)
        column.addWidget(self.look)
        self.whose.activated.connect(lambda _: self.look_wanted.emit())
        self.look.clicked.connect(self.look_wanted)
        self.cells.row_chosen.connect(self.cell_chosen)
        self.look.setVisible(False)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.cells.set_palette(palette)

    @property
    def player(self) -> str:
        """Whose solos are gone through, "" for everybody's."""
        return str(self.whose.currentData() or "")

    def show_players(self, players: Sequence[str], heads: bool) -> None:
        """Offer the players there are, and heads of tunes where there are any."""
        chosen = self.player
        self.whose.blockSignals(True)
        self.whose.clear()
        self.whose.addItem(translate("Gavotte", "Everybody’s solos"), "")
        for player in players:
            self.whose.addItem(player, player)
        if heads:
            self.whose.addItem(translate("Gavotte", "Heads: where they are taken up"), HEADS)
        self.whose.setCurrentIndex(max(0, self.whose.findData(chosen)))
        self.whose.blockSignals(False)

    def show_waiting(self) -> None:
        """Say that they are being looked for."""
        self.cells.show_rows(())
        self.look.setVisible(False)
        self.message.setText(translate("Gavotte", "Looking for what recurs …"))

    def show_cells(self, cells: Sequence[LibraryCell], index: Index, is_behind: bool) -> None:
        """List cells; ``is_behind`` says that the library has changed since."""
        self.cells.notes_of = lambda row: notes_of(index, row)
        rows = []
        for cell in cells:
            place = cell.places[0]
            rows.append(
                Row(
                    cell.degrees,
                    ", ".join(filter(None, (cell.relation, *cell.players))),
                    translate("Gavotte", "{number} times").format(number=len(cell.places)),
                    place.solo_id,
                    first=place.first,
                    last=place.last,
                )
            )
        self.cells.show_rows(rows)
        self.look.setVisible(is_behind)
        self.message.setText(
            translate("Gavotte", "Phrases of heads that solos keep, ornament or quote.")
            if rows and self.player == HEADS
            else translate("Gavotte", "What recurs more often than lines like these would by chance, the surest first.")
            if rows
            else translate("Gavotte", "No solo takes up a phrase of a head that stands in the library.")
            if self.player == HEADS
            else translate("Gavotte", "Nothing recurs yet that is more than chance. More solos tell more.")
        )
