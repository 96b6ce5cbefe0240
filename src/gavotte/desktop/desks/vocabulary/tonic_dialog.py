"""Which key a book of licks is brought to."""

from __future__ import annotations

from PyQt6.QtWidgets import QLabel, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.key_choice import tonic_choice
from gavotte.theory.pitch import PitchName


class TonicDialog(Dialog):
    """``tonic`` is the pitch class that was chosen."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, translate("Gavotte", "The listed licks in one key"), translate("Gavotte", "Export…"))
        words = QLabel(translate("Gavotte", "Every lick is brought to this key, as it sounds:"))
        words.setObjectName("quiet")
        self.choice = tonic_choice()
        self.content.addWidget(words)
        self.content.addWidget(self.choice)

    @property
    def tonic(self) -> int:
        """The key that was chosen, by the pitch class of its tonic."""
        return PitchName.parse(self.choice.currentData()).pitch_class
