"""Commands as data: what can be done, in which words, by which key, where, and when.

Menus, shortcuts, tooltips, the map of keys and the palette are all made from these.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QAbstractButton, QWidget


def always() -> bool:
    """For a command that can be used at any time."""
    return True


@dataclass(frozen=True)
class Command:
    """Something a user can do.

    ``words`` are shown in menus and the palette (a function where they change with what is done); ``keys`` are its
    shortcuts, the first being the one that is shown. ``menu`` is the menu it stands in with the submenus on the way,
    () for none, ``part`` its part of the menu: a rule is drawn where the part changes. The keys are taken ``at`` these
    widgets and what is in them, everywhere in the window where there are none. ``checked`` says whether it is on, for
    what is on or off. ``buttons`` do the same; their tooltips tell the key. ``in_short`` is for commands the map of
    keys tells together with others.
    """

    id: str
    words: str | Callable[[], str]
    run: Callable[[], object]
    keys: tuple[str, ...] = ()
    menu: tuple[str, ...] = ()
    part: int = 0
    at: tuple[QWidget, ...] = ()
    enabled: Callable[[], bool] = always
    checked: Callable[[], bool] | None = None
    buttons: tuple[QAbstractButton, ...] = ()
    in_short: bool = False

    @property
    def said(self) -> str:
        """Its words now, as they are read: without the dots of what asks first."""
        words = self.words if isinstance(self.words, str) else self.words()
        return words.replace("&", "").rstrip("…")

    @property
    def shown_keys(self) -> str:
        """Its first key as the keyboard shows it, "" for none."""
        return shown_keys(self.keys[0]) if self.keys else ""


def shown_keys(keys: str) -> str:
    """A shortcut as it is shown: "Ctrl+Shift+Z"."""
    return QKeySequence(keys).toString(QKeySequence.SequenceFormat.NativeText)


def with_key(tip: str, keys: str) -> str:
    """A tooltip that tells the key as well."""
    return f"{tip} ({shown_keys(keys)})" if keys else tip


def collisions(commands: Iterable[Command]) -> list[tuple[str, str, str]]:
    """(key, one command, another) for each key two commands would both hear at some place of the window."""
    taken: dict[str, list[Command]] = {}
    found = []
    for command in commands:
        for keys in command.keys:
            key = QKeySequence(keys).toString()
            for other in taken.get(key, []):
                if other is not command and _meet(command.at, other.at):
                    found.append((key, other.id, command.id))
            taken.setdefault(key, []).append(command)
    return found


def _meet(some: tuple[QWidget, ...], others: tuple[QWidget, ...]) -> bool:
    """Whether keys taken at some widgets and keys taken at others can be taken at one place."""
    if not some or not others:
        return True
    return any(a is b or a.isAncestorOf(b) or b.isAncestorOf(a) for a in some for b in others)
