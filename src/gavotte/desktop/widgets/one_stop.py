"""Buttons of which one is on, as one stop on the way through the window by Tab; among them the arrows go on."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractButton, QButtonGroup


class OneStop(QButtonGroup):
    """A group of buttons of which one is on: Tab goes to that one alone."""

    def addButton(self, button: QAbstractButton | None, id: int = -1) -> None:
        super().addButton(button, id)
        if button is not None:
            button.toggled.connect(lambda _: self._order())
        self._order()

    def _order(self) -> None:
        chosen = self.checkedButton() or next(iter(self.buttons()), None)
        for button in self.buttons():
            button.setFocusPolicy(Qt.FocusPolicy.StrongFocus if button is chosen else Qt.FocusPolicy.ClickFocus)
