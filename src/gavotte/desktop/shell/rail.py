"""The rail at the left edge: the desks in working order, and how far each is."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QButtonGroup, QLabel, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from gavotte.desktop.command import with_key
from gavotte.desktop.desk.desk import DeskKind
from gavotte.desktop.theme.icons import icon
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import said

_ICON, _SMALL_ICON, _MARK = 24, 18, 40
_ABOVE = 12


class Rail(QWidget):
    """One button for each desk; where there is no room for it the state in words stays in the tooltip.

    Signal: ``chosen(name)``.
    """

    chosen = pyqtSignal(str)

    def __init__(self, kinds: Sequence[DeskKind]) -> None:
        super().__init__()
        self.setObjectName("rail")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(96)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, _ABOVE // 2, 0, _ABOVE // 2)
        layout.setSpacing(2)
        self._mark = QLabel()
        self._mark.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(self._mark)
        self.buttons: dict[str, QToolButton] = {}
        self._kinds = {kind.name: kind for kind in kinds}
        self._states: dict[str, str] = dict.fromkeys(self._kinds, "")
        self._in_words, self._is_tight = True, False
        group = QButtonGroup(self)
        for kind in kinds:
            button = QToolButton()
            button.setObjectName("railButton")
            button.setCheckable(True)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
            button.setIconSize(QSize(_ICON, _ICON))
            button.clicked.connect(lambda _, n=kind.name: self.chosen.emit(n))
            group.addButton(button)
            layout.addWidget(button)
            self.buttons[kind.name] = button
            self._write(kind.name)
        layout.addStretch(1)

    def minimumSizeHint(self) -> QSize:
        # The window may be lower than all states in words: they give way.
        return QSize(96, 0)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._mark.setPixmap(icon("mark", palette.accent, _MARK).pixmap(_MARK, _MARK))
        for name, button in self.buttons.items():
            button.setIcon(icon(name, palette.text, _ICON))
        self._fit()

    def show_state(self, name: str, state: str) -> None:
        """Write under a desk's name how far it is."""
        if state != self._states[name]:
            self._states[name] = state
            self._write(name)
            self._fit()

    def _write(self, name: str) -> None:
        kind, state, button = self._kinds[name], self._states[name], self.buttons[name]
        word = said(kind.words)
        button.setText(f"{word}\n{state}" if state and self._in_words else word)
        full = f"{word}, {state}" if state else word
        button.setAccessibleName(full)
        button.setToolTip(with_key(full, kind.key))

    def _fit(self) -> None:
        """Say the states in words where there is room for all of them, and show the mark where there is more.

        In a window that is very low everything is smaller.
        """
        room = self.height() - _ABOVE
        self._tighten(False)
        self._say(True)
        if self._needed() > room:
            self._say(False)
        if self._needed() > room:
            self._tighten(True)
        self._mark.setVisible(self._needed() + _MARK + 16 <= room)

    def _say(self, in_words: bool) -> None:
        if in_words != self._in_words:
            self._in_words = in_words
            for name in self._kinds:
                self._write(name)

    def _tighten(self, is_tight: bool) -> None:
        if is_tight == self._is_tight:
            return
        self._is_tight = is_tight
        side = _SMALL_ICON if is_tight else _ICON
        for button in self.buttons.values():
            button.setIconSize(QSize(side, side))
            button.setProperty("tight", is_tight)
            style = button.style()
            if style is not None:
                style.unpolish(button)
                style.polish(button)

    def _needed(self) -> int:
        return sum(button.sizeHint().height() + 2 for button in self.buttons.values())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def show_current(self, name: str) -> None:
        """Mark a desk as the current one."""
        self.buttons[name].setChecked(True)
