"""Undoable edits of the library itself: deleting and renaming."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtGui import QUndoCommand


class LibraryEdit(QUndoCommand):
    """A pair of calls, and what to do after either."""

    def __init__(self, text: str, do: Callable[[], None], undo: Callable[[], None], after: Callable[[], None]) -> None:
        super().__init__(text)
        self._do, self._undo, self._after = do, undo, after

    def redo(self) -> None:
        self._do()
        self._after()

    def undo(self) -> None:
        self._undo()
        self._after()
