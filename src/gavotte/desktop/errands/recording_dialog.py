"""Asks whether a recording is copied into the library or left where it is."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QLabel, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Tick
from gavotte.desktop.widgets.dialog import Dialog


class RecordingDialog(Dialog):
    """Shows the file that was chosen."""

    def __init__(self, parent: QWidget, path: Path, title: str) -> None:
        super().__init__(parent, translate("Gavotte", "The recording of this solo"), translate("Gavotte", "Use it"))
        self.path = path
        name = QLabel(f"{path.name}\n{title}")
        name.setObjectName("quietBody")
        self.copy = Tick(translate("Gavotte", "Copy it into the library"))
        self.copy.setToolTip(
            translate("Gavotte", "Without this it is played from where it is, and missed when it is moved")
        )
        self.copy.setChecked(True)
        self.content.addWidget(name)
        self.content.addWidget(self.copy)
