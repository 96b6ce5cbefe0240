"""Two panels of proposals: what the step that is looked at makes with each of its values, and six variations."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.workshop.proposal_list import ProposalList
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.number import Number

_LARGEST_SEED = 9999


class ProposalsPanel(QWidget):
    """Proposals under a line that says what they are. Signals: ``hear_wanted``, ``take_wanted``, of the chosen row."""

    hear_wanted = pyqtSignal()
    take_wanted = pyqtSignal()

    def __init__(self, name: str) -> None:
        super().__init__()
        self.list = ProposalList(name)
        self.words = QLabel()
        self.words.setObjectName("quietBody")
        self.words.setWordWrap(True)
        self.hear = QPushButton(translate("Gavotte", "Hear"))
        self.take = QPushButton(translate("Gavotte", "Take it"))
        self.take.setObjectName("primary")
        self.above = QHBoxLayout()
        self.above.setContentsMargins(12, 10, 12, 6)
        self.above.setSpacing(8)
        self.above.addWidget(self.words, 1)
        self.below = QHBoxLayout()
        self.below.setContentsMargins(12, 8, 12, 10)
        self.below.setSpacing(8)
        self.below.addWidget(self.hear)
        self.below.addWidget(self.take)
        self.below.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(self.above)
        column.addWidget(self.list, 1)
        column.addLayout(self.below)
        self.list.currentRowChanged.connect(lambda _: self._enable())
        self.list.itemActivated.connect(lambda _: self.hear_wanted.emit())
        self._enable()

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.list.set_palette(palette)

    def show_proposals(self, proposals: tuple[object, ...], words: str, chosen: int = -1) -> None:
        """Show proposals and what they are."""
        self.list.show_proposals(proposals, chosen)  # type: ignore[arg-type]
        self.words.setText(words)
        self._enable()

    def _enable(self) -> None:
        for button in (self.hear, self.take):
            button.setVisible(self.list.count() > 0)
            button.setEnabled(self.list.current() is not None)


class VariationsPanel(ProposalsPanel):
    """The same with the seed that decides which variations there are. Signal: ``wanted(seed)``."""

    wanted = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__(translate("Gavotte", "Variations"))
        self.seed = Number(1, _LARGEST_SEED, 1)
        self.seed.setValue(1)
        self.seed.setAccessibleName(translate("Gavotte", "Seed"))
        self.seed.setToolTip(translate("Gavotte", "The seed: the same number gives the same six variations"))
        self.make = QPushButton(translate("Gavotte", "Six more"))
        self.sheet = QPushButton(translate("Gavotte", "As a sheet"))
        self.below.addWidget(self.sheet)
        self.above.addWidget(self.seed)
        self.above.addWidget(self.make)
        self.make.clicked.connect(self._again)
        self.seed.editingFinished.connect(lambda: self.wanted.emit(int(self.seed.value())))

    def _again(self) -> None:
        self.seed.setValue(self.seed.value() % _LARGEST_SEED + 1)
        self.wanted.emit(int(self.seed.value()))
