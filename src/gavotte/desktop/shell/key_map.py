"""The map of keys: one key lays all shortcuts of the current desk over the window, the next one takes them away."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QAction, QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QMenu, QMenuBar, QVBoxLayout, QWidget

from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate

_MOST_ROWS = 17
_MOST_IN_THREE = 54
"""More shortcuts than these stand in four columns."""
Group = tuple[str, list[tuple[str, str]]]
"""A heading, and (keys, what they do) under it."""

PAGE_KEYS: tuple[Group, ...] = (
    (
        QT_TRANSLATE_NOOP("Gavotte", "On the page"),
        [
            ("← →", QT_TRANSLATE_NOOP("Gavotte", "Note before, next note")),
            ("↑ ↓", QT_TRANSLATE_NOOP("Gavotte", "Line above, line below")),
            (
                QT_TRANSLATE_NOOP("Gavotte", "Shift + arrows or click"),
                QT_TRANSLATE_NOOP("Gavotte", "Select several notes"),
            ),
            (QT_TRANSLATE_NOOP("Gavotte", "Ctrl + wheel"), QT_TRANSLATE_NOOP("Gavotte", "Larger, smaller")),
        ],
    ),
)
WAVE_KEYS: tuple[Group, ...] = (
    (
        QT_TRANSLATE_NOOP("Gavotte", "On the wave"),
        [
            (QT_TRANSLATE_NOOP("Gavotte", "Click"), QT_TRANSLATE_NOOP("Gavotte", "Go there")),
            (QT_TRANSLATE_NOOP("Gavotte", "Drag"), QT_TRANSLATE_NOOP("Gavotte", "Choose a stretch to loop")),
            (QT_TRANSLATE_NOOP("Gavotte", "Drag a beat"), QT_TRANSLATE_NOOP("Gavotte", "Move it")),
            (QT_TRANSLATE_NOOP("Gavotte", "Wheel"), QT_TRANSLATE_NOOP("Gavotte", "Closer, farther")),
            (QT_TRANSLATE_NOOP("Gavotte", "Shift + wheel"), QT_TRANSLATE_NOOP("Gavotte", "Back, on")),
        ],
    ),
)
WRITE_KEYS: tuple[Group, ...] = (
    (
        QT_TRANSLATE_NOOP("Gavotte", "The keys beside the page"),
        [
            ("A – G", QT_TRANSLATE_NOOP("Gavotte", "Write this pitch")),
            ("` 1 2 3 4 5", QT_TRANSLATE_NOOP("Gavotte", "32nd to whole note")),
            (QT_TRANSLATE_NOOP("Gavotte", "Alt + value"), QT_TRANSLATE_NOOP("Gavotte", "Length of selected notes")),
            ("← → ↑ ↓", QT_TRANSLATE_NOOP("Gavotte", "Move the caret")),
            (QT_TRANSLATE_NOOP("Gavotte", "Shift + ← →"), QT_TRANSLATE_NOOP("Gavotte", "Select notes")),
            (QT_TRANSLATE_NOOP("Gavotte", "Ctrl + ← →"), QT_TRANSLATE_NOOP("Gavotte", "Bar before, next bar")),
            (QT_TRANSLATE_NOOP("Gavotte", "Home, End"), QT_TRANSLATE_NOOP("Gavotte", "Start, behind the last note")),
        ],
    ),
)
LIST_KEYS: tuple[Group, ...] = (
    (
        QT_TRANSLATE_NOOP("Gavotte", "In the lists"),
        [
            ("↑ ↓", QT_TRANSLATE_NOOP("Gavotte", "Entry above, entry below")),
            (QT_TRANSLATE_NOOP("Gavotte", "Enter"), QT_TRANSLATE_NOOP("Gavotte", "Open it")),
            (QT_TRANSLATE_NOOP("Gavotte", "Delete"), QT_TRANSLATE_NOOP("Gavotte", "Delete it")),
        ],
    ),
)
"""Keys that no menu shows."""


def groups_of(bar: QMenuBar, belongs: Callable[[QAction], bool], extra: Iterable[Group]) -> list[Group]:
    """The shortcuts of the actions that belong to a desk, by menu, with those that no menu shows put first."""
    groups = [(said(name), [(said(keys), said(what)) for keys, what in rows]) for name, rows in extra]
    for entry in bar.actions():
        menu = entry.menu()
        if menu is not None:
            groups += _groups_in(entry.text().replace("&", ""), menu, belongs)
    return groups


IN_SHORT = "in short"
"""What is set as an action's data where the map tells its key together with others."""


def _groups_in(name: str, menu: QMenu, belongs: Callable[[QAction], bool]) -> list[Group]:
    """A menu's shortcuts, and those of each menu in it as a group of its own."""
    rows: list[tuple[str, str]] = []
    groups: list[Group] = []
    for action in menu.actions():
        submenu = action.menu()
        if submenu is not None:
            groups += _groups_in(action.text().replace("&", ""), submenu, belongs)
        elif action.shortcuts() and belongs(action) and action.data() != IN_SHORT:
            rows.append((_keys(action), _words(action)))
    return [(name, rows), *groups] if rows else groups


def _words(action: QAction) -> str:
    # An undo action says what it would undo.
    text = action.text().replace("&", "").rstrip("…")
    return text.split()[0] if text.startswith(("Undo ", "Redo ")) else text


def _keys(action: QAction) -> str:
    return action.shortcut().toString(action.shortcut().SequenceFormat.NativeText)


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
        painter = QPainter(self)
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
