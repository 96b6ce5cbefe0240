"""The rail at the left edge: the desks in working order, and how far each is."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QLabel, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from gavotte.desktop.theme.icons import icon
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said

DESKS = (
    ("shelf", QT_TRANSLATE_NOOP("Gavotte", "Shelf"), "F1"),
    ("listen", QT_TRANSLATE_NOOP("Gavotte", "Listen"), "F2"),
    ("write", QT_TRANSLATE_NOOP("Gavotte", "Write"), "F3"),
    ("label", QT_TRANSLATE_NOOP("Gavotte", "Label"), "F4"),
    ("vocabulary", QT_TRANSLATE_NOOP("Gavotte", "Vocabulary"), "F5"),
)


class Rail(QWidget):
    """Emits ``chosen`` with a desk's name."""

    chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("rail")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(96)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 12, 0, 12)
        layout.setSpacing(4)
        self._mark = QLabel()
        self._mark.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(self._mark)
        layout.addSpacing(12)
        self.buttons: dict[str, QToolButton] = {}
        self._words: dict[str, str] = {}
        group = QButtonGroup(self)
        for name, marked, keys in DESKS:
            word = said(marked)
            button = QToolButton()
            button.setObjectName("railButton")
            button.setCheckable(True)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
            button.setIconSize(QSize(26, 26))
            button.setText(word)
            button.setToolTip(f"{word} ({keys})")
            button.clicked.connect(lambda _, n=name: self.chosen.emit(n))
            group.addButton(button)
            layout.addWidget(button)
            self.buttons[name], self._words[name] = button, word
        layout.addStretch(1)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._mark.setPixmap(icon("mark", palette.accent, 40).pixmap(40, 40))
        for name, button in self.buttons.items():
            button.setIcon(icon(name, palette.text, 26))

    def show_state(self, name: str, state: str) -> None:
        """Write under a desk's name how far it is."""
        word = self._words[name]
        self.buttons[name].setText(f"{word}\n{state}" if state else word)
        self.buttons[name].setAccessibleName(f"{word}, {state}" if state else word)

    def show_current(self, name: str) -> None:
        """Mark a desk as the current one."""
        self.buttons[name].setChecked(True)
