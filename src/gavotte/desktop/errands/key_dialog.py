"""Which key some bars are in."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QLabel, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Tick
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.key_choice import chosen_key, mode_choice, tonic_choice
from gavotte.solo.document import KeyRegion
from gavotte.theory.key import Key


class KeyDialog(Dialog):
    """``key`` and ``blues`` are what was chosen for some bars."""

    def __init__(self, parent: QWidget, title: str, yes: str, about: str, region: KeyRegion) -> None:
        super().__init__(parent, title, yes)
        self.tonic, self.mode = tonic_choice(region.key.tonic), mode_choice(region.key.mode)
        self.blues_tick = Tick(translate("Gavotte", "A blues"))
        self.blues_tick.setChecked(region.blues)
        words = QLabel(about)
        words.setObjectName("quiet")
        words.setWordWrap(True)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.tonic)
        row.addWidget(self.mode, 1)
        self.content.addWidget(words)
        self.content.addLayout(row)
        self.content.addWidget(self.blues_tick)

    @property
    def key(self) -> Key:
        """The key chosen."""
        return chosen_key(self.tonic, self.mode)

    @property
    def blues(self) -> bool:
        """Whether it is a blues."""
        return self.blues_tick.isChecked()
