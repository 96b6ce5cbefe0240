"""Tapping: taps are collected while somebody taps, and become beats when they rest."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.recording.beat_map import BeatMap, with_taps

_REST_MS = 2500


class Tapping(QObject):
    """Signals: ``tapped``, another beat is there to be shown; ``rested(taps)``, these became beats."""

    tapped = pyqtSignal()
    rested = pyqtSignal(object)

    def __init__(self, tape: Tape, parent: QObject) -> None:
        super().__init__(parent)
        self._tape = tape
        self._taps: list[float] = []
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self.finish)

    def tap(self, seconds: float) -> None:
        """A tap while this place of the recording was heard. One that lies before the last begins anew (a loop)."""
        if self._taps and seconds <= self._taps[-1]:
            self.finish()
        self._taps.append(seconds)
        self._rest.start()
        self.tapped.emit()

    def finish(self) -> None:
        """Make the taps beats, in one step."""
        self._rest.stop()
        taps, self._taps = self._taps, []
        if len(taps) > 1:
            self._tape.edit_beats(translate("Gavotte", "Tap the beats"), with_taps(self._tape.beats, taps))
            self.rested.emit(tuple(taps))
        else:
            self.tapped.emit()

    def forget(self) -> None:
        """Drop what was tapped."""
        self._rest.stop()
        self._taps = []

    @property
    def taps(self) -> tuple[float, ...]:
        """What has been tapped and is no beat yet; nothing where nobody taps."""
        return tuple(self._taps)

    @property
    def preview(self) -> BeatMap:
        """The beat map with what has been tapped so far."""
        return with_taps(self._tape.beats, self._taps) if self._taps else self._tape.beats
