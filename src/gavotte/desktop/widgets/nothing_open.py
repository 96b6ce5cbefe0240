"""What a desk shows while no solo is open, and the ways on."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import shown_keys
from gavotte.desktop.translation import translate


def keys_to_begin() -> str:
    """Which keys lead on where no solo is open."""
    words = translate("Gavotte", "{shelf} goes to the shelf, {new} begins a new solo")
    return words.format(shelf=shown_keys("F1"), new=shown_keys("Ctrl+N"))


class NothingOpen(QWidget):
    """What stands where a solo would: how to come by one.

    Signals: ``shelf_wanted``, ``new_wanted``.
    """

    shelf_wanted = pyqtSignal()
    new_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        layout = QVBoxLayout(self)
        layout.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.setSpacing(12)
        text = QLabel(translate("Gavotte", "No solo is open."))
        text.setObjectName("title")
        self.shelf = QPushButton(translate("Gavotte", "Choose one from the shelf"))
        self.shelf.setObjectName("primary")
        self.shelf.clicked.connect(self.shelf_wanted)
        self.new = QPushButton(translate("Gavotte", "Begin a new one…"))
        self.new.setToolTip(translate("Gavotte", "From a recording, a form, or an empty page"))
        self.new.clicked.connect(self.new_wanted)
        keys = QLabel(keys_to_begin())
        keys.setObjectName("quiet")
        for widget in (text, self.shelf, self.new, keys):
            layout.addWidget(widget, 0, Qt.AlignmentFlag.AlignCenter)
