"""Undoable edits of the library itself: deleting and renaming."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library


class LibraryEdits(QObject):
    """Deletes and renames, each as a step that can be undone.

    Signals: ``changed()`` after every step, ``deleted(message)``, ``failed(message)``.
    """

    changed = pyqtSignal()
    deleted = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, library: Library, session: SoloSession, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._session = library, session
        self.undo_stack = QUndoStack(self)

    def delete_solo(self, solo_id: str) -> None:
        """Take a solo off the shelf, closing it first if it is the open one."""
        if solo_id == self._session.solo_id:
            self._session.close()
        title = next(
            (entry.title for entry in self._library.solos() if entry.id == solo_id), translate("Gavotte", "The solo")
        )
        self._delete(title, partial(self._library.delete_solo, solo_id), partial(self._library.restore_solo, solo_id))

    def delete_lick(self, lick_id: str) -> None:
        """Take a lick out of the vocabulary."""
        name = next(
            (entry.name for entry in self._library.licks() if entry.id == lick_id), translate("Gavotte", "The lick")
        )
        self._delete(
            f"“{name}”", partial(self._library.delete_lick, lick_id), partial(self._library.restore_lick, lick_id)
        )

    def rename_lick(self, lick_id: str, name: str) -> None:
        """Give a lick another name."""
        try:
            lick = self._library.lick(lick_id)
        except LibraryError as error:
            self.failed.emit(str(error))
            return
        self._do(
            translate("Gavotte", "Rename the lick"),
            partial(self._library.save_lick, lick_id, lick.renamed(name)),
            partial(self._library.save_lick, lick_id, lick),
        )

    def _delete(self, name: str, do: Callable[[], None], undo: Callable[[], None]) -> None:
        if self._do(translate("Gavotte", "Delete {name}").format(name=name), do, undo):
            self.deleted.emit(translate("Gavotte", "{name} was deleted.").format(name=name))

    def _do(self, text: str, do: Callable[[], None], undo: Callable[[], None]) -> bool:
        try:
            self.undo_stack.push(_Step(text, do, undo, self.changed.emit))
        except LibraryError as error:
            self.failed.emit(str(error))
            return False
        return True


class _Step(QUndoCommand):
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
