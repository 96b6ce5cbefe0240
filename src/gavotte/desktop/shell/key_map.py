"""The map of keys: one key lays all shortcuts of the current desk over the window, the next one takes them away."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPaintEvent
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import translate

_MOST_ROWS = 17
_MOST_IN_THREE = 54
"""More shortcuts than these stand in four columns."""
Group = tuple[str, list[tuple[str, str]]]
"""A heading, and (keys, what they do) under it."""


def keys_in_short(keys: Sequence[str]) -> str:
    """Function keys in one go, as far as they follow one another: "F1 … F9, F11"."""
    numbers = [int(key.removeprefix("F")) for key in keys]
    in_row = next((k for k, number in enumerate(numbers) if number != numbers[0] + k), len(numbers))
    first = f"{keys[0]} … {keys[in_row - 1]}" if in_row > 1 else keys[0]
    return ", ".join([first, *keys[in_row:]])


def groups_of(
    here: Iterable[Command], heading: str, hints: Iterable[tuple[str, str]], desks: tuple[str, str]
) -> list[Group]:
    """The keys of some commands by their menus, with what is no command put first, and the ``desks`` in one row."""
    groups: dict[str, list[tuple[str, str]]] = {}
    if heading:
        groups[heading] = list(hints)
    for command in here:
        if command.keys and command.menu:
            rows = groups.setdefault(command.menu[-1].replace("&", ""), [])
            if command.id.startswith("go.") and desks not in rows:
                rows.append(desks)
            if not command.in_short:
                rows.append((command.shown_keys, _plain(command)))
    return [(name, rows) for name, rows in groups.items() if rows]


def _plain(command: Command) -> str:
    # An undo command says what it would undo.
    return command.said.split(":")[0]


class KeyMap(QWidget):
    """Covers its parent with the groups of shortcuts; any key or click hides it."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._palette: Palette = DAY
        self._before: QWidget | None = None
        self._panel: QWidget | None = None
        parent.installEventFilter(self)
        self.hide()

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette

    def show_groups(self, title: str, groups: list[Group]) -> None:
        """Lay the shortcuts over the window."""
        if self._panel is not None:
            self._panel.setParent(None)
            self._panel.deleteLater()
        parent = self.parentWidget()
        assert parent is not None
        self._panel = _panel(title, groups)
        self._panel.setParent(self)
        hint = self._panel.sizeHint()
        if hint.width() > parent.width() or hint.height() > parent.height():
            self._panel.setParent(None)
            self._panel.deleteLater()
            self._panel = _panel(title, groups, compact=True)
            self._panel.setParent(self)
        self._panel.show()
        self._before = parent.focusWidget()
        self.setGeometry(parent.rect())
        self._centre()
        self.show()
        self.raise_()
        self.setFocus()
        lines = [f"{keys}: {what}" for _, rows in groups for keys, what in rows]
        self.setAccessibleName(title)
        self.setAccessibleDescription(". ".join(lines))

    def _centre(self) -> None:
        if self._panel is not None:
            size = self._panel.sizeHint().boundedTo(self.size())
            self._panel.setGeometry(
                (self.width() - size.width()) // 2, (self.height() - size.height()) // 2, size.width(), size.height()
            )

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Resize and watched is self.parent() and self.isVisible():
            parent = self.parentWidget()
            assert parent is not None
            self.setGeometry(parent.rect())
            self._centre()
        return super().eventFilter(watched, event)

    def event(self, event: QEvent | None) -> bool:
        # Every key is for the map while it is there, shortcuts of the window too.
        if event is not None and event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() not in (Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_Alt, Qt.Key.Key_Meta):
            self._leave()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._leave()

    def _leave(self) -> None:
        self.hide()
        if self._before is not None:
            self._before.setFocus()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            veil = QColor(self._palette.chrome)
            veil.setAlphaF(0.86)
            painter.fillRect(self.rect(), veil)


def _panel(title: str, groups: list[Group], compact: bool = False) -> QWidget:
    panel = QWidget()
    panel.setObjectName("keyMapCompact" if compact else "keyMap")
    panel.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
    panel.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
    column = QVBoxLayout(panel)
    column.setContentsMargins(*((16, 12, 16, 12) if compact else (32, 24, 32, 24)))
    column.setSpacing(8 if compact else 16)
    heading = QLabel(title)
    heading.setObjectName("title")
    column.addWidget(heading)
    columns = QHBoxLayout()
    columns.setSpacing(14 if compact else 40 if len(groups) < 8 else 28)
    stacks: list[QVBoxLayout] = []
    heights = [0] * (3 if sum(len(rows) for _, rows in groups) <= _MOST_IN_THREE else 4)
    for _ in heights:
        stack = QVBoxLayout()
        stack.setSpacing(8 if compact else 16)
        stacks.append(stack)
        columns.addLayout(stack)
    for name, rows in _parts(groups):
        shortest = heights.index(min(heights))
        heights[shortest] += len(rows) + 2
        stacks[shortest].addWidget(_group(name, rows, 1 if compact else 4))
    for stack in stacks:
        stack.addStretch(1)
    column.addLayout(columns)
    foot = QLabel(translate("Gavotte", "Any key takes this away."))
    foot.setObjectName("quiet")
    column.addWidget(foot)
    return panel


def _parts(groups: list[Group]) -> list[Group]:
    """The groups with long ones in pieces, so that the columns come out even."""
    return [
        (name, rows[start : start + _MOST_ROWS]) for name, rows in groups for start in range(0, len(rows), _MOST_ROWS)
    ]


def _group(name: str, rows: list[tuple[str, str]], spacing: int) -> QWidget:
    box = QWidget()
    grid = QGridLayout(box)
    grid.setContentsMargins(0, 0, 0, 0)
    grid.setHorizontalSpacing(3 * max(2, spacing))
    grid.setVerticalSpacing(spacing)
    heading = QLabel(name)
    heading.setObjectName("accent")
    grid.addWidget(heading, 0, 0, 1, 2)
    for row, (keys, what) in enumerate(rows, 1):
        label = QLabel(keys)
        label.setObjectName("keys")
        grid.addWidget(label, row, 0)
        grid.addWidget(QLabel(what), row, 1)
    grid.setColumnStretch(1, 1)
    return box
