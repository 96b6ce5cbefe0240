"""A panel beside the page whose contents scroll where there is too little room for them."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QLabel, QScrollArea, QVBoxLayout, QWidget


class ScrolledPanel(QScrollArea):
    """``column`` is what is put under one another in it."""

    def __init__(self) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        body = QWidget()
        body.setObjectName("card")
        self.column = QVBoxLayout(body)
        self.column.setContentsMargins(16, 12, 16, 12)
        self.column.setSpacing(10)
        self.setWidget(body)

    def add_heading(self, words: str) -> None:
        """Put a heading under what is there."""
        heading = QLabel(words)
        heading.setObjectName("heading")
        self.column.addWidget(heading)
