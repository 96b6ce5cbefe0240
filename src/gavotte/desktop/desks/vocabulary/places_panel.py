"""Where a cell stands: every place, over what and into what."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.library.mining import CellPlace, LibraryCell


class PlacesPanel(QWidget):
    """Lists the places of a cell. Signals: ``place_chosen(number)``; ``keep_wanted``, keep the cell with all places."""

    place_chosen = pyqtSignal(int)
    keep_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.about = QLabel()
        self.about.setWordWrap(True)
        self.about.setObjectName("quietBody")
        self.keep = QPushButton(translate("Gavotte", "Keep the cell"))
        self.keep.setObjectName("primary")
        self.keep.setToolTip(translate("Gavotte", "Keep it as a lick that remembers all its places"))
        self.places = RowList(translate("Gavotte", "Places of the cell"))
        head = QHBoxLayout()
        head.setSpacing(12)
        head.addWidget(self.about, 1)
        head.addWidget(self.keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 8, 16, 12)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(self.places, 1)
        self.places.currentRowChanged.connect(lambda row: self.place_chosen.emit(row) if row >= 0 else None)
        self.keep.clicked.connect(self.keep_wanted)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.places.set_palette(palette)

    def show_cell(self, cell: LibraryCell, named: Callable[[CellPlace], tuple[str, str]]) -> None:
        """List the places of a cell; ``named`` gives the name and the bars of each."""
        players = ", ".join(cell.players)
        self.about.setText(
            translate("Gavotte", "{degrees}: {relation}. Played by {players}.").format(
                degrees=cell.degrees, relation=cell.relation, players=players or translate("Gavotte", "nobody named")
            )
        )
        self.show_rows([(named(place), place.words) for place in cell.places])

    def show_rows(self, rows: Sequence[tuple[tuple[str, str], str]]) -> None:
        """List places, each with its name and bars, and what is said of it."""
        self.places.blockSignals(True)
        self.places.clear()
        for number, ((name, bars), words) in enumerate(rows):
            self.places.add_row(str(number), f"{name}, {bars}", words)
        self.places.setCurrentRow(0 if rows else -1)
        self.places.blockSignals(False)
