"""What is asked of the window from anywhere: to say something, to go to a desk, to open a solo."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtBoundSignal, pyqtSignal


class Asks(QObject):
    """Signals, emitted by the methods named alike: ``telling(words)``, ``noticing(words, action, then, until)``,
    ``going(desk, item, view)``, ``opening(solo id)``.
    """

    telling = pyqtSignal(str)
    noticing = pyqtSignal(str, str, object, object)
    going = pyqtSignal(str, str, str)
    opening = pyqtSignal(str)

    def tell(self, words: str) -> None:
        """Say something that need not be read: it goes by itself."""
        self.telling.emit(words)

    def notice(
        self,
        words: str,
        action: str = "",
        then: Callable[[], None] | None = None,
        until: pyqtBoundSignal | None = None,
    ) -> None:
        """Say something that stays until it is read, with a button that does something about it.

        It goes by itself at a signal ``until`` which it is true.
        """
        self.noticing.emit(words, action, then, until)

    def go(self, desk: str, item: str = "", view: str = "") -> None:
        """Go to a desk, to one of its items (a lick's id) in one of its views."""
        self.going.emit(desk, item, view)

    def open_solo(self, solo_id: str) -> None:
        """Open a solo at the desk where it is to be worked on."""
        self.opening.emit(solo_id)
