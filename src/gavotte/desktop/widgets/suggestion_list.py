"""The list of suggestions under a line being typed, in the window's colours."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QCompleter, QListView, QWidget


class SuggestionList(QListView):
    """``owner`` is the line suggested for; at least ``width`` pixels are taken."""

    def __init__(self, completer: QCompleter, owner: QWidget, width: int = 0) -> None:
        super().__init__()
        self.setObjectName("suggestions")
        self.setMinimumSize(QSize(width, 0))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._owner = owner
        completer.setPopup(self)

    def showEvent(self, event: QShowEvent | None) -> None:
        # A completer's list is a window of its own, which the main window's style doesn't reach.
        window = self._owner.window()
        if window is not None and self.styleSheet() != window.styleSheet():
            self.setStyleSheet(window.styleSheet())
        super().showEvent(event)
