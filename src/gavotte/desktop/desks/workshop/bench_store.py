"""What lies on the bench is kept in the library, and laid down again the next time."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer

from gavotte.desktop.asks import Asks
from gavotte.desktop.desks.workshop.bench import Bench
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.library.bench import BENCH_DOCUMENT
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library

_SOON_MS, _AGAIN_MS = 800, 8000


class BenchStore(QObject):
    """Keeps the bench a moment after it changed; where that fails it is told, and tried again."""

    def __init__(self, library: Library, bench: Bench, asks: Asks, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._bench, self._asks = library, bench, asks
        self._is_laid = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._keep)
        bench.changed.connect(lambda: self._soon.start(_SOON_MS))

    @property
    def is_waiting(self) -> bool:
        """Whether something is still to be kept."""
        return self._soon.isActive()

    def lay_what_was(self) -> None:
        """Lay down what was on the bench the last time, once."""
        if self._is_laid:
            return
        self._is_laid = True
        try:
            kept = self._library.kept(BENCH_DOCUMENT)
        except (LibraryError, FormatError) as error:
            self._asks.notice(str(error))
            return
        if kept is not None and kept.source is not None:
            self._bench.lay(kept)
            self._soon.stop()

    def keep_now(self) -> None:
        """Keep what is still to be kept."""
        if self._soon.isActive():
            self._soon.stop()
            self._keep()

    def _keep(self) -> None:
        try:
            self._library.keep(BENCH_DOCUMENT, self._bench.there)
        except LibraryError as error:
            words = translate("Gavotte", "{error} What lies on the bench is not saved yet; it is tried again.")
            self._asks.notice(words.format(error=error))
            self._soon.start(_AGAIN_MS)
