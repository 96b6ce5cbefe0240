"""The index of the library for searching and comparing, kept current beside the interface."""

from __future__ import annotations

from collections.abc import Generator, Iterator

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.translation import translate
from gavotte.library.errors import LibraryError
from gavotte.library.lines import EMPTY, Index, index_of
from gavotte.library.store import Library

_AT_A_TIME = 24
"""Lines that are written between two events."""


class Indexer(QObject):
    """``index`` is the library as it was when it was last gone through. Signals: ``changed``; ``failed(message)``."""

    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, library: Library, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._activities = library, activities
        self.index: Index = EMPTY
        self.is_current = False

    def renew(self) -> None:
        """The library is another one: go through it again."""
        self._activities.cancel(self)
        self.is_current = False

        def steps() -> Generator[float, None, Index]:
            with self._library.read_apart() as reader:
                return (yield from index_of(reader))

        words = translate("Gavotte", "Going through the library")
        self._activities.walk(self, steps, self._take, self._fail, words, self._leave)

    def _take(self, index: Index) -> None:
        self.index, self.is_current = index, True
        self.changed.emit()
        if index.fresh:
            self._activities.step(self, self._written(index), lambda: None, self._fail)

    def _written(self, index: Index) -> Iterator[float]:
        for start in range(0, len(index.fresh), _AT_A_TIME):
            self._library.save_lines(index.fresh[start : start + _AT_A_TIME])
            yield start / len(index.fresh)

    def _leave(self) -> None:
        # Whoever stopped it goes on with what was known before.
        self.changed.emit()

    def _fail(self, error: Exception) -> None:
        if isinstance(error, LibraryError):
            self.failed.emit(str(error))
