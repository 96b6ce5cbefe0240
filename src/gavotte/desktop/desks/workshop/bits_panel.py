"""What an étude is put together of: each lick with where it stands, held, exchanged, left out or written over."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.solo.bars import BarGrid
from gavotte.workshop.etude import EMPTY, SOURCE
from gavotte.workshop.piece import Bit, Piece


class BitsPanel(QWidget):
    """Signals: ``held_wanted(onset, what)``, that a lick (id), nothing or the bench's line stands at an onset, or, with
    None, that nothing is held there; ``chosen(onset)``, a row was chosen.
    """

    held_wanted = pyqtSignal(object, object)
    chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._bits: tuple[Bit, ...] = ()
        self._held: Mapping[Fraction, str] = {}
        self._onsets: list[Fraction] = []
        self.rows = RowList(translate("Gavotte", "Licks of the étude"))
        self.words = QLabel()
        self.words.setObjectName("quietBody")
        self.words.setWordWrap(True)
        self.hold = QPushButton(translate("Gavotte", "Hold"))
        self.exchange = QPushButton(translate("Gavotte", "Exchange"))
        self.empty = QPushButton(translate("Gavotte", "Leave empty"))
        self.over = QPushButton(translate("Gavotte", "Bench’s line"))
        buttons = QGridLayout()
        buttons.setContentsMargins(12, 8, 12, 10)
        buttons.setSpacing(8)
        for place, (button, tip) in enumerate(
            (
                (self.hold, translate("Gavotte", "This lick stays here, whatever else changes; or it need not")),
                (self.exchange, translate("Gavotte", "The next lick that could stand here")),
                (self.empty, translate("Gavotte", "Nothing is played here")),
                (self.over, translate("Gavotte", "The line that lies on the bench is played here, if it fits")),
            )
        ):
            button.setToolTip(tip)
            buttons.addWidget(button, place // 2, place % 2)
        about = QVBoxLayout()
        about.setContentsMargins(12, 10, 12, 6)
        about.addWidget(self.words)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(about)
        column.addWidget(self.rows, 1)
        column.addLayout(buttons)
        self.rows.currentRowChanged.connect(self._choose)
        self.hold.clicked.connect(self.toggle_held)
        self.exchange.clicked.connect(self.exchange_bit)
        self.empty.clicked.connect(lambda: self._want(EMPTY))
        self.over.clicked.connect(lambda: self._want(SOURCE))

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.rows.set_palette(palette)

    def show_piece(self, piece: Piece, held: Mapping[Fraction, str]) -> None:
        """Show what a piece is put together of, and what is held in it."""
        row = self.rows.currentRow()
        here = self._onsets[row] if 0 <= row < len(self._onsets) else None
        self._bits, self._held = piece.bits, held
        by_onset = {bit.onset: bit for bit in piece.bits}
        self._onsets = sorted({*by_onset, *(onset for onset, what in held.items() if what == EMPTY)})
        grid = BarGrid(piece.solo)
        self.rows.blockSignals(True)
        self.rows.clear()
        for onset in self._onsets:
            bit = by_onset.get(onset)
            bar = grid.at(onset).number
            name = bit.name if bit is not None else translate("Gavotte", "Left empty")
            held_words = translate("Gavotte", "held") if onset in held else ""
            where = translate("Gavotte", "Bar {number}").format(number=bar)
            detail = f"{where}: {bit.source}" if bit is not None else where
            self.rows.add_row(str(onset), name, detail, held_words)
        self.rows.setCurrentRow(self._onsets.index(here) if here in self._onsets else 0 if self._onsets else -1)
        self.rows.blockSignals(False)
        self.words.setText(translate("Gavotte", "What the étude is put together of"))
        self._enable()

    @property
    def bit(self) -> Bit | None:
        """The lick of the chosen row; None where it was left empty."""
        onset = self.onset
        return next((bit for bit in self._bits if bit.onset == onset), None)

    @property
    def onset(self) -> Fraction | None:
        """Where the chosen row stands."""
        row = self.rows.currentRow()
        return self._onsets[row] if 0 <= row < len(self._onsets) else None

    def toggle_held(self) -> None:
        """Hold what stands there, or hold nothing there any more."""
        onset, bit = self.onset, self.bit
        if onset is not None:
            self._want(None if onset in self._held or bit is None else bit.id)

    def exchange_bit(self) -> None:
        """Have the next lick stand there that could."""
        bit, onset = self.bit, self.onset
        if onset is None:
            return
        if bit is None:
            self._want(None)
            return
        # In one order of all that could stand there, whichever stands there now.
        all_of_them = sorted({bit.id, *bit.others})
        if len(all_of_them) > 1:
            self._want(all_of_them[(all_of_them.index(bit.id) + 1) % len(all_of_them)])

    def _want(self, what: str | None) -> None:
        if self.onset is not None:
            self.held_wanted.emit(self.onset, what)

    def _choose(self, row: int) -> None:
        self._enable()
        if self.onset is not None:
            self.chosen.emit(self.onset)

    def _enable(self) -> None:
        onset, bit = self.onset, self.bit
        for button in (self.hold, self.empty, self.over):
            button.setEnabled(onset is not None)
        self.exchange.setEnabled(onset is not None and (bit is None or bool(bit.others)))
        free = translate("Gavotte", "Let go") if onset in self._held else translate("Gavotte", "Hold")
        self.hold.setText(free)
