"""A notice: one line under the menu that tells what happened, with one action where there is one."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtBoundSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from gavotte.desktop.translation import translate


class Notice(QWidget):
    """Hidden until there is something to say; stays until it is closed or replaced."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("notice")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.text = QLabel()
        self.text.setWordWrap(True)
        self.action = QPushButton()
        self.close_button = QPushButton(translate("Gavotte", "Close"))
        self.close_button.setToolTip(translate("Gavotte", "Hide this message (Esc)"))
        self.close_button.clicked.connect(self.hide)
        self.action.clicked.connect(self._act)
        self._then: Callable[[], object] | None = None
        self._until: pyqtBoundSignal | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(20, 6, 16, 6)
        row.setSpacing(8)
        row.addWidget(self.text, 1)
        row.addWidget(self.action)
        row.addWidget(self.close_button)
        self.hide()

    def say(
        self,
        text: str,
        action: str = "",
        then: Callable[[], object] | None = None,
        until: pyqtBoundSignal | None = None,
    ) -> None:
        """Show a message, with a button ``action`` that calls ``then``; with ``until`` it goes at that signal."""
        if self._until is not None:
            self._until.disconnect(self._outlived)
        self._until = until
        if until is not None:
            until.connect(self._outlived)
        self.text.setText(text)
        self._then = then
        self.action.setVisible(then is not None)
        self.action.setText(action)
        self.action.setToolTip(action)
        self.show()

    def _outlived(self) -> None:
        """What it says is no longer true."""
        self.hide()

    def _act(self) -> None:
        self.hide()
        if self._then is not None:
            self._then()
