"""Actions: the commands as Qt has them, with their shortcuts, their places in the menus, and their tooltips."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QAbstractButton, QMainWindow, QMenu, QWidget

from gavotte.desktop.command import Command, always, with_key
from gavotte.desktop.undisturbed import Undisturbed


class _Menu(QMenu):
    """A menu that keeps the keys while it is open: a letter chooses in it, and is no command of the page behind."""

    def event(self, event: QEvent | None) -> bool:
        if event is not None and event.type() is QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        if (
            isinstance(event, QKeyEvent)
            and event.type() is QEvent.Type.KeyPress
            and self._is_nothing_here(event.text())
        ):
            event.accept()
            return True
        return super().event(event)

    def _is_nothing_here(self, sign: str) -> bool:
        """Whether a sign was typed that no entry has under its line: Qt hands it on, to be a shortcut after all."""
        marks = {f"&{sign}".lower(), f"&{sign}".upper()}
        return (
            sign.isprintable()
            and bool(sign.strip())
            and not any(mark in action.text() for action in self.actions() for mark in marks)
        )


class Actions(QObject):
    """All commands of a window: those that work everywhere, and those of each desk by its name.

    Signal: ``begun``, one of them is carried out next: what was said of the one before may be no longer true.
    """

    begun = pyqtSignal()

    def __init__(
        self,
        window: QMainWindow,
        before: Sequence[Command],
        desks: Mapping[str, Sequence[Command]],
        after: Sequence[Command],
        more_buttons: Sequence[Mapping[str, Sequence[QAbstractButton]]] = (),
    ) -> None:
        """``before`` and ``after`` work everywhere: their menus stand before and behind those of the desks.

        ``more_buttons`` are buttons of the desks that do what a command that works everywhere does, by its id.
        """
        super().__init__(window)
        self._window = window
        self.everywhere, self.desks = (*before, *after), {name: tuple(made) for name, made in desks.items()}
        self._desk = ""
        self._shown: QWidget = window
        self._actions: dict[str, QAction] = {}
        self._menus: dict[tuple[str, ...], QMenu] = {}
        self._part: dict[tuple[str, ...], int] = {}
        for command in (*before, *(command for made in desks.values() for command in made), *after):
            self._actions[command.id] = self._made(command)
            for buttons in more_buttons:
                _tell_key(command, buttons.get(command.id, ()))

    @property
    def all(self) -> tuple[Command, ...]:
        """Every command there is."""
        return (*self.everywhere, *(command for made in self.desks.values() for command in made))

    def action(self, command_id: str) -> QAction:
        """The action of a command. Raises KeyError."""
        return self._actions[command_id]

    def menu(self, *path: str) -> QMenu:
        """The menu at a path of words, made where it is not there yet."""
        if path not in self._menus:
            parent = self.menu(*path[:-1]) if len(path) > 1 else self._window.menuBar()
            assert parent is not None
            made = self._menus[path] = _Menu(path[-1], parent)
            parent.addMenu(made)
        return self._menus[path]

    def at_hand(self) -> tuple[Command, ...]:
        """The commands of the desk that is shown, then those that work everywhere and so here."""
        return (*self.desks.get(self._desk, ()), *(command for command in self.everywhere if self._is_here(command)))

    def _is_here(self, command: Command) -> bool:
        return not command.at or any(self._shown.isAncestorOf(widget) for widget in command.at)

    def at_desk(self, name: str, desk: QWidget) -> None:
        """Another desk is shown: its menus stand in the bar, those of the others don't."""
        self._desk, self._shown = name, desk
        for known, commands in self.desks.items():
            for path in {command.menu[:1] for command in commands if command.menu}:
                menu_action = self._menus[path].menuAction()
                assert menu_action is not None
                menu_action.setVisible(known == name)
            for command in commands:
                self._actions[command.id].setEnabled(known == name and command.enabled())
        self.refresh()

    def refresh(self) -> None:
        """Let what can be done now be done, and nothing else; show what is on."""
        for command in (*self.desks.get(self._desk, ()), *self.everywhere):
            action = self._actions[command.id]
            if command.enabled is not always:
                action.setEnabled(command.enabled())
            if command.checked is not None:
                action.setChecked(command.checked())
            if not isinstance(command.words, str):
                action.setText(command.words())

    def _made(self, command: Command) -> QAction:
        words = command.words if isinstance(command.words, str) else command.words()
        action = QAction(words, self._window)
        action.setShortcuts([QKeySequence(keys) for keys in command.keys])
        action.setCheckable(command.checked is not None)
        action.triggered.connect(lambda: self._run(command))
        if command.at:
            action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            for widget in command.at:
                widget.addAction(action)
        else:
            self._window.addAction(action)
        if command.menu:
            menu = self.menu(*command.menu)
            if self._part.setdefault(command.menu, command.part) != command.part:
                menu.addSeparator()
                self._part[command.menu] = command.part
            menu.addAction(action)
        _tell_key(command, command.buttons)
        return action

    @Undisturbed()
    def _run(self, command: Command) -> None:
        self.begun.emit()
        command.run()
        # What is on or off was turned by the click already; what it really is counts.
        self.refresh()


def _tell_key(command: Command, buttons: Sequence[QAbstractButton]) -> None:
    """Have the tooltips of buttons that do the same tell the command's key."""
    for button in buttons:
        button.setToolTip(with_key(button.toolTip() or command.said, command.keys[0] if command.keys else ""))
