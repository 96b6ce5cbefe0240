"""Undoable edits of the library itself: keeping, deleting and renaming."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from functools import partial

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.reader import LickEntry, SoloEntry
from gavotte.library.store import Library
from gavotte.solo.document import Solo
from gavotte.solo.tags import read_tags
from gavotte.vocabulary.lick import Lick


class LibraryEdits(QObject):
    """Keeps licks, deletes and renames, each as a step that can be undone.

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
        title = self._name_of(self._library.solos, solo_id, "title") or translate("Gavotte", "The solo")
        self._delete(title, partial(self._library.delete_solo, solo_id), partial(self._library.restore_solo, solo_id))

    def change_details(self, changes: Mapping[str, Mapping[str, object]]) -> None:
        """Give several solos other details (see ``Library.change_details``), in one step. The one that is open is
        changed where it is worked on.
        """
        entries = {entry.id: entry for entry in self._library.solos() if entry.id in changes}
        before = {
            solo_id: {name: _detail(entries[solo_id], name) for name in values}
            for solo_id, values in changes.items()
            if solo_id in entries
        }
        now = {solo_id: changes[solo_id] for solo_id in before if before[solo_id] != changes[solo_id]}
        if now:
            words = translate("Gavotte", "Change the details of {solos}").format(solos=counted(len(now), "solo"))
            self._do(words, partial(self._put_details, now), partial(self._put_details, {i: before[i] for i in now}))

    def _put_details(self, changes: Mapping[str, Mapping[str, object]]) -> None:
        solo, solo_id = self._session.solo, self._session.solo_id
        self._library.change_details({name: values for name, values in changes.items() if name != solo_id})
        if solo is not None and solo_id is not None and solo_id in changes:
            values = changes[solo_id]
            self._session.edit(translate("Gavotte", "Change the details"), replace(solo, **values))  # type: ignore[arg-type]

    def delete_solos(self, ids: Sequence[str]) -> None:
        """Take several solos off the shelf in one step, closing the open one if it is among them."""
        if self._session.solo_id in ids:
            self._session.close()

        def each(act: Callable[[str], None]) -> None:
            with self._library.as_one_step():
                for solo_id in ids:
                    act(solo_id)

        library = self._library
        self._delete(counted(len(ids), "solo"), partial(each, library.delete_solo), partial(each, library.restore_solo))

    def keep_lick(self, lick: Lick, stack: QUndoStack) -> str | None:
        """Keep a lick, as a step of what is worked on; gives its id, None where it fails."""
        words = translate("Gavotte", "Keep “{name}”").format(name=lick.name)
        library = self._library
        return self._keep(words, partial(library.add_lick, lick), library.restore_lick, library.delete_lick, stack)

    def _keep(
        self,
        words: str,
        add: Callable[[], str],
        restore: Callable[[str], None],
        delete: Callable[[str], None],
        stack: QUndoStack,
    ) -> str | None:
        """Put something into the library, which gives it an id; later it is put back under that."""
        kept: list[str] = []

        def keep() -> None:
            if kept:
                restore(kept[0])
            else:
                kept.append(add())

        self._do(words, keep, lambda: delete(kept[0]), stack)
        return kept[0] if kept else None

    def keep_solo(self, solo: Solo, stack: QUndoStack) -> str | None:
        """Put a solo on the shelf, as a step of what is worked on; gives its id, None where it fails."""
        library = self._library

        def delete(solo_id: str) -> None:
            if solo_id == self._session.solo_id:
                self._session.close()
            library.delete_solo(solo_id)

        words = translate("Gavotte", "Put “{title}” on the shelf").format(title=solo.title)
        return self._keep(words, partial(library.add_solo, solo), library.restore_solo, delete, stack)

    def keep_licks(self, licks: Sequence[Lick]) -> tuple[str, ...]:
        """Keep several licks in one step; gives their ids, none where it fails."""
        kept: list[str] = []

        def keep() -> None:
            with self._library.as_one_step():
                if kept:
                    for lick_id in kept:
                        self._library.restore_lick(lick_id)
                else:
                    kept.extend([self._library.add_lick(lick) for lick in licks])

        def undo() -> None:
            with self._library.as_one_step():
                for lick_id in kept:
                    self._library.delete_lick(lick_id)

        words = translate("Gavotte", "Keep {licks}").format(licks=counted(len(licks), "lick"))
        return tuple(kept) if self._do(words, keep, undo) else ()

    def delete_lick(self, lick_id: str) -> None:
        """Take a lick out of the vocabulary."""
        name = self._name_of(self._library.licks, lick_id, "name") or translate("Gavotte", "The lick")
        self._delete(
            f"“{name}”", partial(self._library.delete_lick, lick_id), partial(self._library.restore_lick, lick_id)
        )

    @staticmethod
    def _name_of(entries: Callable[[], Sequence[SoloEntry | LickEntry]], wanted: str, name: str) -> str:
        with suppress(LibraryError):
            return next((str(getattr(entry, name)) for entry in entries() if entry.id == wanted), "")
        return ""

    def change_lick(self, lick_id: str, words: str, values: Mapping[str, object]) -> None:
        """Change what is said of a lick: its name, tags, words, rating or status, by their names."""
        lick = self._lick(lick_id)
        if lick is not None:
            self._put(lick_id, words, lick, replace(lick, **values))  # type: ignore[arg-type]

    def put_lick(self, lick_id: str, words: str, lick: Lick) -> None:
        """Put another lick in the place of one that is kept."""
        before = self._lick(lick_id)
        if before is not None:
            self._put(lick_id, words, before, lick)

    def _lick(self, lick_id: str) -> Lick | None:
        try:
            return self._library.lick(lick_id)
        except (LibraryError, FormatError) as error:
            self.failed.emit(str(error))
            return None

    def _put(self, lick_id: str, words: str, before: Lick, now: Lick) -> None:
        save = self._library.save_lick
        self._do(words, partial(save, lick_id, now), partial(save, lick_id, before))

    def step(self, words: str, do: Callable[[], None], undo: Callable[[], None], stack: QUndoStack) -> bool:
        """Do something to the library as a step of what is worked on; False where it fails."""
        return self._do(words, do, undo, stack)

    def _delete(self, name: str, do: Callable[[], None], undo: Callable[[], None]) -> None:
        if self._do(translate("Gavotte", "Delete {name}").format(name=name), do, undo):
            self.deleted.emit(translate("Gavotte", "{name} was deleted.").format(name=name))

    def _do(self, text: str, do: Callable[[], None], undo: Callable[[], None], stack: QUndoStack | None = None) -> bool:
        """Do something that can be undone, unless it fails; as a step of this stack, or of another one."""
        if not self._tried(do):
            return False
        # A stack without steps counts as false.
        stack = self.undo_stack if stack is None else stack
        stack.push(_Step(self, stack, text, do, undo))
        return True

    def _tried(self, act: Callable[[], None]) -> bool:
        try:
            act()
        except (LibraryError, FormatError) as error:
            words = translate("Gavotte", "{error} Nothing was changed.")
            self.failed.emit(words.format(error=error))
            return False
        self.changed.emit()
        return True


def _detail(entry: SoloEntry, name: str) -> object:
    """A detail of a solo as its document has it."""
    return read_tags(entry.tags) if name == "tags" else getattr(entry, name)


class _Step(QUndoCommand):
    """A pair of calls, the first of which was done when it was made. One that fails leaves the stack where it was."""

    def __init__(
        self, edits: LibraryEdits, stack: QUndoStack, text: str, do: Callable[[], None], undo: Callable[[], None]
    ) -> None:
        super().__init__(text)
        self._edits, self._stack, self._do, self._undo = edits, stack, do, undo
        self._is_there = True

    def redo(self) -> None:
        if not self._is_there:
            self._is_there = self._edits._tried(self._do)
            if not self._is_there:
                QTimer.singleShot(0, self._stack.undo)

    def undo(self) -> None:
        if self._is_there:
            self._is_there = not self._edits._tried(self._undo)
            if self._is_there:
                QTimer.singleShot(0, self._stack.redo)
