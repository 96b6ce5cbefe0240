"""What stands where a desk has nothing to show: what is missing, and the ways on."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget


class NothingHere(QWidget):
    """A heading, words under it, and buttons; the first button is the way that is usually taken."""

    def __init__(self, heading: str, words: str, *buttons: QPushButton) -> None:
        super().__init__()
        title, text = QLabel(heading), QLabel(words)
        title.setObjectName("title")
        text.setObjectName("quietBody")
        buttons[0].setObjectName("primary")
        column = QVBoxLayout(self)
        column.setAlignment(Qt.AlignmentFlag.AlignCenter)
        column.setSpacing(12)
        for widget in (title, text, *buttons):
            column.addWidget(widget, 0, Qt.AlignmentFlag.AlignCenter)
