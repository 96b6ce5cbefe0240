"""Drafting: the machine listens to the open solo's recording and says which notes it hears."""

from __future__ import annotations

from collections.abc import Callable, Generator

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Walk, walk_beside
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.recording.draft import Draft, find_draft

_BEYOND = 3
"""Semitones past the instrument's comfortable range that are listened to as well."""

_LOWEST, _HIGHEST = 31, 96


class Drafter(QObject):
    """Works beside the interface. Signals: ``drafted(found)``, ``failed(message)``, ``busy(text)`` ("" when done)."""

    drafted = pyqtSignal(object)
    failed = pyqtSignal(str)
    busy = pyqtSignal(str)

    def __init__(self, tape: Tape, parent: QObject) -> None:
        super().__init__(parent)
        self._tape = tape
        self._walk: Walk | None = None

    @property
    def is_drafting(self) -> bool:
        """Whether it listens just now."""
        return self._walk is not None

    def draft(self, lowest: int, highest: int, start: float, end: float, then: Callable[[Draft], object]) -> None:
        """Draft what a player of this range (MIDI numbers) plays from ``start`` to ``end`` seconds.

        ``then`` is done with the draft, still beside the interface; what it gives is what was found.
        """
        decoded = self._tape.decoded
        if decoded is None:
            return
        self.cancel()
        samples = decoded.samples()
        low, high = max(_LOWEST, lowest - _BEYOND), min(_HIGHEST, highest + _BEYOND)

        def steps() -> Generator[float, None, object]:
            draft = yield from find_draft(samples, low, high, start, end)
            return then(draft)

        words = translate("Gavotte", "Drafting the notes: {number} %")
        self.busy.emit(words.format(number=0))
        self._walk = walk_beside(
            steps, lambda share: self.busy.emit(words.format(number=round(100 * share))), self._done, self._failed
        )

    def _done(self, found: object) -> None:
        self._walk = None
        self.busy.emit("")
        self.drafted.emit(found)

    def _failed(self, error: Exception) -> None:
        self._walk = None
        self.busy.emit("")
        self.failed.emit(translate("Gavotte", "The notes can't be drafted: {error}").format(error=error))

    def cancel(self) -> None:
        """Stop listening."""
        if self._walk is not None:
            self._walk.cancel()
            self._walk = None
            self.busy.emit("")
