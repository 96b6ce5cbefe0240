"""Keeping many places at once: all of a kind, as a list to tick."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QListWidget, QListWidgetItem, QPushButton, QWidget

from gavotte.desktop.desks.vocabulary.lick_list import Row
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.words import counted


class KeepDialog(Dialog):
    """Lists places, each with a box; ``ticked`` are those that are to be kept."""

    def __init__(self, parent: QWidget, rows: Sequence[Row]) -> None:
        super().__init__(parent, translate("Gavotte", "Keep all of these"), "")
        self._rows = tuple(rows)
        about = QLabel(translate("Gavotte", "Each becomes a lick of its own. Leave out what you do not want."))
        about.setObjectName("quietBody")
        about.setWordWrap(True)
        self.places = QListWidget()
        self.places.setAccessibleName(translate("Gavotte", "Places to keep"))
        self.places.setMinimumHeight(320)
        for row in rows:
            item = QListWidgetItem(f"{row.name}\n{row.detail}")
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked)
            self.places.addItem(item)
        every = QPushButton(translate("Gavotte", "All"))
        every.setToolTip(translate("Gavotte", "Tick every place"))
        none = QPushButton(translate("Gavotte", "None"))
        none.setToolTip(translate("Gavotte", "Untick every place"))
        buttons = QHBoxLayout()
        buttons.setSpacing(8)
        for button in (every, none):
            buttons.addWidget(button)
        buttons.addStretch(1)
        self.content.addWidget(about)
        self.content.addWidget(self.places, 1)
        self.content.addLayout(buttons)
        every.clicked.connect(lambda: self._tick(Qt.CheckState.Checked))
        none.clicked.connect(lambda: self._tick(Qt.CheckState.Unchecked))
        self.places.itemChanged.connect(lambda _: self._say())
        self.places.itemActivated.connect(self._turn)
        self._say()

    @property
    def ticked(self) -> tuple[Row, ...]:
        """The places that are to be kept."""
        items = (self.places.item(k) for k in range(self.places.count()))
        ticks = [item is not None and item.checkState() is Qt.CheckState.Checked for item in items]
        return tuple(row for row, tick in zip(self._rows, ticks, strict=True) if tick)

    def _tick(self, state: Qt.CheckState) -> None:
        for k in range(self.places.count()):
            item = self.places.item(k)
            if item is not None:
                item.setCheckState(state)

    def _turn(self, item: QListWidgetItem) -> None:
        is_on = item.checkState() is Qt.CheckState.Checked
        item.setCheckState(Qt.CheckState.Unchecked if is_on else Qt.CheckState.Checked)

    def _say(self) -> None:
        number = len(self.ticked)
        self.yes.setText(translate("Gavotte", "Keep {licks}").format(licks=counted(number, "lick")))
        self.yes.setEnabled(number > 0)
