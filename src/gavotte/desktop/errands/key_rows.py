"""The keys of a solo as rows: from which bar, which key, a blues or not; rows are added and taken away."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Tick
from gavotte.desktop.widgets.key_choice import chosen_key, mode_choice, tonic_choice
from gavotte.desktop.widgets.number import Number
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import KeyRegion, Solo
from gavotte.theory.key import Key


class KeyRow(QWidget):
    """One key from a bar on. Signal: ``unwanted``, to take it away."""

    unwanted = pyqtSignal()

    def __init__(self, bar: int, last_bar: int, region: KeyRegion, is_first: bool) -> None:
        super().__init__()
        self.bar = Number(1, max(1, last_bar), 1)
        self.bar.setValue(bar)
        self.bar.setEnabled(not is_first)
        self.bar.setAccessibleName(translate("Gavotte", "From bar"))
        self.tonic, self.mode = tonic_choice(region.key.tonic), mode_choice(region.key.mode)
        self.blues = Tick(translate("Gavotte", "A blues"))
        self.blues.setChecked(region.blues)
        self.blues.setToolTip(translate("Gavotte", "The key's ♭3, ♭5 and ♭7 are at home over every chord"))
        self.away = QPushButton("×")
        self.away.setObjectName("link")
        self.away.setAccessibleName(translate("Gavotte", "Take this key away"))
        self.away.setToolTip(translate("Gavotte", "Take this key away"))
        self.away.clicked.connect(self.unwanted)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        row.addWidget(QLabel(translate("Gavotte", "From bar")))
        row.addWidget(self.bar)
        row.addWidget(self.tonic)
        row.addWidget(self.mode, 1)
        row.addWidget(self.blues)
        row.addWidget(self.away)
        # The first one holds its place for the others to line up with.
        policy = self.away.sizePolicy()
        policy.setRetainSizeWhenHidden(True)
        self.away.setSizePolicy(policy)
        self.away.setVisible(not is_first)

    @property
    def key(self) -> Key:
        """The key chosen."""
        return chosen_key(self.tonic, self.mode)


class KeyRows(QWidget):
    """All keys of a solo, the first from its start on."""

    def __init__(self, solo: Solo) -> None:
        super().__init__()
        self._grid = BarGrid(solo)
        self._last_bar = self._grid.bars[-1].number
        self.rows: list[KeyRow] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(4)
        self.more = QPushButton(translate("Gavotte", "Another key from a bar on"))
        self.more.setToolTip(translate("Gavotte", "Where the signature changes"))
        self.more.clicked.connect(self._add_one)
        foot = QHBoxLayout()
        foot.addWidget(self.more)
        foot.addStretch(1)
        self._column.addLayout(foot)
        for region in solo.keys:
            self._add(max(1, self._grid.at(region.onset).number), region)

    def _add(self, bar: int, region: KeyRegion) -> None:
        row = KeyRow(bar, self._last_bar, region, is_first=not self.rows)
        row.unwanted.connect(lambda: self._remove(row))
        self.rows.append(row)
        self._column.insertWidget(len(self.rows) - 1, row)

    def _add_one(self) -> None:
        """One more key, from the bar after the last one on."""
        last = self.rows[-1]
        self._add(min(self._last_bar, round(last.bar.value()) + 1), KeyRegion(self._grid.bars[0].onset, last.key))
        self.rows[-1].bar.setFocus()

    def _remove(self, row: KeyRow) -> None:
        self.rows.remove(row)
        self._column.removeWidget(row)
        row.hide()
        row.deleteLater()
        self.rows[0].tonic.setFocus()

    @property
    def regions(self) -> tuple[KeyRegion, ...]:
        """The keys as they stand in the rows."""
        onsets = {bar.number: bar.onset for bar in self._grid.bars}
        return tuple(
            KeyRegion(onsets.get(round(row.bar.value()), self._grid.bars[-1].onset), row.key, row.blues.isChecked())
            for row in self.rows
        )
