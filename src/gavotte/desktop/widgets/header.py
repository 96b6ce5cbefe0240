"""The head of a desk: title, a quiet line about it, and what can be done."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QSizePolicy, QToolButton, QWidget

from gavotte.desktop.widgets.elided import ElidedLabel


class Header(QWidget):
    """``title`` and ``about`` on the left, buttons on the right."""

    def __init__(self, *buttons: QWidget) -> None:
        super().__init__()
        self.setObjectName("chrome")
        row = QHBoxLayout(self)
        row.setContentsMargins(20, 10, 16, 10)
        row.setSpacing(12)
        self.title = ElidedLabel()
        self.title.setObjectName("title")
        self.title.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Preferred)
        self.about = ElidedLabel()
        self.about.setObjectName("quietBody")
        row.addWidget(self.title)
        row.addWidget(self.about, 1)
        for button in buttons:
            row.addWidget(button)


def rule() -> QFrame:
    """A line between head and body."""
    line = QFrame()
    line.setObjectName("line")
    line.setFixedHeight(1)
    return line


def tool_button(tip: str, name: str, checkable: bool = False) -> QToolButton:
    """A button of a transport bar; its icon comes with the theme."""
    button = QToolButton()
    button.setObjectName("transportButton")
    button.setToolTip(tip)
    button.setAccessibleName(name)
    button.setCheckable(checkable)
    button.setIconSize(QSize(22, 22))
    return button
