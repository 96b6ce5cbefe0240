"""The palette: one key, a few letters of what is wanted, and the command is found, told with its key, and run."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QFrame, QLabel, QLineEdit, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import ROW_HEIGHT, RowList

_WIDTH, _MOST_ROWS = 520, 7


class CommandPalette(QFrame):
    """Lies over the upper part of its parent. Return runs the chosen command, Esc leaves everything as it is."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("popup")
        self._commands: tuple[Command, ...] = ()
        self._before: QWidget | None = None
        self.field = QLineEdit()
        self.field.setPlaceholderText(translate("Gavotte", "A few letters of what you want to do"))
        self.field.setAccessibleName(translate("Gavotte", "Find a command"))
        self.field.textChanged.connect(self._search)
        self.field.installEventFilter(self)
        self.rows = RowList(translate("Gavotte", "Commands"))
        self.rows.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.rows.itemClicked.connect(lambda _: self._run())
        self.nothing = QLabel(translate("Gavotte", "Nothing here is called that."))
        self.nothing.setObjectName("quietBody")
        self.nothing.setContentsMargins(12, 8, 12, 8)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.setSpacing(8)
        column.addWidget(self.field)
        column.addWidget(self.rows)
        column.addWidget(self.nothing)
        parent.installEventFilter(self)
        self.hide()

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.rows.set_palette(palette)

    def open_on(self, commands: Sequence[Command]) -> None:
        """Offer these commands, those that can be used now."""
        parent = self.parentWidget()
        assert parent is not None
        self._commands = tuple(command for command in commands if command.enabled())
        self._before = parent.focusWidget()
        self.field.clear()
        self._search("")
        self.show()
        self.raise_()
        self.field.setFocus()

    def _search(self, text: str) -> None:
        found = matching(self._commands, text)
        self.rows.clear()
        for command in found:
            where = " · ".join(part.replace("&", "") for part in command.menu)
            self.rows.add_row(command.id, command.said, where, command.shown_keys)
        self.rows.setCurrentRow(0)
        self.rows.setVisible(bool(found))
        self.nothing.setVisible(not found)
        self._place()
        self._say()

    def _say(self) -> None:
        """Have the chosen row read out: the keys stay in the field."""
        command = self._chosen()
        words = "" if command is None else f"{command.said}, {command.shown_keys}".rstrip(", ")
        self.field.setAccessibleDescription(words)

    def _place(self) -> None:
        parent = self.parentWidget()
        assert parent is not None
        rows = min(_MOST_ROWS, max(1, self.rows.count()), max(1, (parent.height() - 180) // ROW_HEIGHT))
        self.rows.setFixedHeight(rows * ROW_HEIGHT + 2)
        width = min(_WIDTH, parent.width() - 32)
        self.setFixedWidth(width)
        self.adjustSize()
        self.move((parent.width() - width) // 2, 56)

    def _chosen(self) -> Command | None:
        wanted = self.rows.current_id()
        return next((command for command in self._commands if command.id == wanted), None)

    def _run(self) -> None:
        command = self._chosen()
        self.leave()
        if command is not None:
            command.run()

    def leave(self) -> None:
        """Go back to where the keys were."""
        self.hide()
        if self._before is not None:
            self._before.setFocus()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is None or not self.isVisible():
            return False
        if watched is self.parent() and event.type() == QEvent.Type.Resize:
            self._place()
        if watched is not self.field:
            return False
        if event.type() == QEvent.Type.FocusOut:
            self.hide()
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            # While it is open every key is for the palette.
            event.accept()
            return True
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            return self._key(event.key())
        return False

    def _key(self, key: int) -> bool:
        match key:
            case Qt.Key.Key_Escape | Qt.Key.Key_F10:
                self.leave()
            case Qt.Key.Key_Return | Qt.Key.Key_Enter:
                self._run()
            case Qt.Key.Key_Down | Qt.Key.Key_Up:
                step = 1 if key == Qt.Key.Key_Down else -1
                self.rows.setCurrentRow(max(0, min(self.rows.count() - 1, self.rows.currentRow() + step)))
                self._say()
            case Qt.Key.Key_Tab | Qt.Key.Key_Backtab:
                pass
            case _:
                return False
        return True


def matching(commands: Sequence[Command], text: str) -> list[Command]:
    """The commands a few letters can mean, the nearest first: words that begin so, then words that hold them, then
    letters in their order.
    """
    wanted = text.casefold().split()
    if not wanted:
        return list(commands)
    ranked = []
    for place, command in enumerate(commands):
        rank = _rank(command.said.casefold(), wanted)
        if rank is None:
            where = " ".join((*command.menu, command.said)).replace("&", "").casefold()
            rank = _rank(where, wanted)
            # Letters scattered over the names of menus mean nothing.
            rank = rank + 3 if rank in (0, 1) else None
        if rank is not None:
            ranked.append((rank, place, command))
    return [command for _, _, command in sorted(ranked, key=lambda item: item[:2])]


def _rank(words: str, wanted: list[str]) -> int | None:
    """0 where every part begins a word, 1 where every part is in one, 2 where its letters come in their order."""
    starts = words.split()
    if all(any(word.startswith(part) for word in starts) for part in wanted):
        return 0
    if all(part in words for part in wanted):
        return 1
    letters = iter(words)
    return 2 if all(letter in letters for letter in "".join(wanted)) else None
