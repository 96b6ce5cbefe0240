"""The teaching sheet that is worked on: its value, its steps, and what is put on it from other desks."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from gavotte.desktop.activity import Activities
from gavotte.desktop.asks import Asks
from gavotte.desktop.solo.saver import Saver
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.reader import SheetEntry
from gavotte.library.store import Library
from gavotte.library.tables import SHEETS
from gavotte.sheets.pieces import Piece
from gavotte.sheets.sheet import SheetSource, TeachingSheet, with_pieces
from gavotte.sheets.templates import credited


@dataclass(frozen=True)
class ToBePutOn:
    """What is put on a sheet: pieces, the sources they are taken from, and what they are called."""

    name: str
    pieces: tuple[Piece, ...]
    sources: tuple[SheetSource, ...] = ()


_LARGE = 400_000
"""Bytes of a document that takes a while to read."""


class OpenSheet(QObject):
    """The open sheet, None where none is. Every change is a step of one stack, whichever sheet it was made to.

    Signals: ``changed``, another value or another sheet; ``listed``, there are more sheets, or fewer, or other titles.
    """

    changed = pyqtSignal()
    listed = pyqtSignal()

    def __init__(self, library: Library, saver: Saver, activities: Activities, asks: Asks, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._saver, self._activities, self._asks = library, saver, activities, asks
        self._known: dict[str, TeachingSheet] = {}
        self.sheet: TeachingSheet | None = None
        self.sheet_id = ""
        self.undo_stack = QUndoStack(self)

    # -- which sheet --------------------------------------------------------------------------------

    def entries(self) -> list[SheetEntry]:
        """All sheets, the latest touched first. Raises LibraryError."""
        return [
            entry
            if (now := self._saver.held_sheet(entry.id)) is None
            else replace(entry, title=now.title, pieces=len(now.pieces))
            for entry in self._library.sheets()
        ]

    def open(self, sheet_id: str) -> None:
        """Open a sheet; one that is not there or can't be read is said. A large one is read beside the work."""
        if sheet_id == self.sheet_id and self.sheet is not None:
            return
        self._activities.cancel(self)
        known = self._saver.held_sheet(sheet_id) or self._known.get(sheet_id)
        library = self._library
        try:
            if known is None and library.sheet_size(sheet_id) <= _LARGE:
                known = library.sheet(sheet_id)
        except (LibraryError, FormatError) as error:
            self._not_read(error)
            return
        if known is not None:
            self._show(sheet_id, known)
            return

        def read() -> TeachingSheet:
            with library.read_apart() as reader:
                return reader.sheet(sheet_id)

        words = translate("Gavotte", "Reading the sheet")
        self._activities.beside(self, read, lambda sheet: self._show(sheet_id, sheet), self._not_read, words)

    @property
    def is_coming(self) -> bool:
        """Whether a sheet is just being read."""
        return bool(self._activities.of(self))

    def _not_read(self, error: Exception) -> None:
        self._show("", None)
        self._asks.notice(str(error))

    def open_latest(self, sheet_id: str = "") -> None:
        """Open a sheet, or where it is gone the one that was touched last; none where there is none."""
        ids = [entry.id for entry in self._library.sheets()]
        wanted = sheet_id if sheet_id in ids else next(iter(ids), "")
        if wanted:
            self.open(wanted)
        else:
            self._show("", None)

    def close(self) -> None:
        """Put the sheet down, with all its steps."""
        self.undo_stack.clear()
        self._activities.cancel(self)
        self._known.clear()
        self._show("", None)

    def _show(self, sheet_id: str, sheet: TeachingSheet | None) -> None:
        self.sheet_id, self.sheet = sheet_id, sheet
        if sheet is not None:
            self._known[sheet_id] = sheet
        self.changed.emit()

    # -- steps --------------------------------------------------------------------------------------

    def begin(self, sheet: TeachingSheet, row: Mapping[str, object] | None = None) -> bool:
        """Keep a new sheet and open it, as a step; False where it can't be kept, which is said. ``row`` is what stands
        in the library's columns for it, where that was put together already.
        """
        made: list[str] = []
        before = self.sheet_id

        def do() -> None:
            if made:
                self._library.restore_sheet(made[0])
            else:
                made.append(self._library.add_sheet_row(row or SHEETS.values(sheet)))
            self._show(made[0], sheet)

        def undo() -> None:
            self._library.delete_sheet(made[0])
            self.open_latest(before)

        return self._do(translate("Gavotte", "Begin “{title}”").format(title=sheet.title), do, undo)

    def delete(self) -> None:
        """Take the open sheet away, as a step."""
        sheet_id, sheet = self.sheet_id, self.sheet
        if sheet is None:
            return

        def do() -> None:
            self._library.delete_sheet(sheet_id)
            self.open_latest()

        def undo() -> None:
            self._library.restore_sheet(sheet_id)
            self.open(sheet_id)

        if self._do(translate("Gavotte", "Delete “{title}”").format(title=sheet.title), do, undo):
            self._asks.notice(
                translate("Gavotte", "“{title}” was deleted.").format(title=sheet.title),
                translate("Gavotte", "Undo"),
                self.undo_stack.undo,
                self.undo_stack.indexChanged,
            )

    def edit(self, words: str, sheet: TeachingSheet, typed: str = "") -> None:
        """Give the open sheet another value, as a step called ``words``. Steps that are ``typed`` into the same field,
        one after another, are one.
        """
        if self.sheet is not None and sheet != self.sheet:
            self.undo_stack.push(_Edit(self, words, self.sheet, sheet, typed))

    def take(self, sheet_id: str, sheet: TeachingSheet) -> None:
        """Take a value as that of a sheet (for steps): open it, tell of it, save it soon."""
        renamed = self.sheet is None or self.sheet_id != sheet_id or self.sheet.title != sheet.title
        self._saver.save_sheet(sheet_id, sheet)
        self._show(sheet_id, sheet)
        if renamed:
            self.listed.emit()

    def _do(self, words: str, do: Callable[[], None], undo: Callable[[], None]) -> bool:
        """Do something to the library as a step, unless it fails."""
        if not self._tried(do):
            return False
        self.undo_stack.push(_LibraryStep(words, lambda: self._tried(do), lambda: self._tried(undo)))
        return True

    def _tried(self, act: Callable[[], None]) -> bool:
        try:
            # What is not written yet belongs to the sheet as it is put away.
            self._saver.save()
            act()
        except LibraryError as error:
            self._asks.notice(str(error))
            return False
        self.listed.emit()
        return True

    # -- from other desks -----------------------------------------------------------------------------

    def put_on(self, wanted: ToBePutOn | None) -> None:
        """Put something at the end of the open sheet, of the one touched last, or of a new one."""
        if wanted is None or not wanted.pieces:
            self._asks.tell(translate("Gavotte", "There is nothing here to put on a sheet"))
            return
        if self.sheet is None:
            self.open_latest()
        if self.is_coming:
            self._asks.tell(translate("Gavotte", "The sheet is being read; try again in a moment"))
            return
        if self.sheet is None and not self.begin(TeachingSheet(translate("Gavotte", "New sheet"))):
            return
        assert self.sheet is not None
        words = translate("Gavotte", "Put “{name}” on the sheet").format(name=wanted.name)
        self.add(words, wanted.pieces, wanted.sources)
        said = translate("Gavotte", "“{name}” is on the sheet “{title}”.")
        self._asks.notice(
            said.format(name=wanted.name, title=self.sheet.title),
            translate("Gavotte", "Go to the sheet"),
            lambda: self._asks.go("sheets", wanted.pieces[0].id),
            self.undo_stack.indexChanged,
        )

    def add(self, words: str, pieces: Sequence[Piece], sources: Sequence[SheetSource] = (), behind: str = "") -> None:
        """Put pieces on the open sheet, behind the one of an id or at the end."""
        if self.sheet is not None:
            self.edit(words, with_pieces(credited(self.sheet, pieces, sources), pieces, sources, behind))


class _Edit(QUndoCommand):
    """Another value of a sheet."""

    def __init__(self, of: OpenSheet, words: str, before: TeachingSheet, after: TeachingSheet, typed: str) -> None:
        super().__init__(words)
        self._of, self._sheet_id, self._before, self._after, self._typed = of, of.sheet_id, before, after, typed

    def id(self) -> int:
        return 1 if self._typed else -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, _Edit) or (other._typed, other._sheet_id) != (self._typed, self._sheet_id):
            return False
        self._after = other._after
        return True

    def redo(self) -> None:
        self._of.take(self._sheet_id, self._after)

    def undo(self) -> None:
        self._of.take(self._sheet_id, self._before)


class _LibraryStep(QUndoCommand):
    """Something done to the library; it is done already when it is pushed."""

    def __init__(self, words: str, do: Callable[[], bool], undo: Callable[[], bool]) -> None:
        super().__init__(words)
        self._do, self._undo, self._is_done = do, undo, True

    def redo(self) -> None:
        if not self._is_done:
            self._is_done = self._do()

    def undo(self) -> None:
        self._is_done = not self._undo()
