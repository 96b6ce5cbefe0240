"""Tapping a rhythm: one key on every note, in time with what is heard or with the solo's tempo from the caret on."""

from __future__ import annotations

import time
from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

_REST_MS = 1500
_FINE = 960
_USUAL_TEMPO = 120.0


class RhythmTaps(QObject):
    """``heard`` gives the written time (quarter notes) of what is heard now, None while nothing is.

    The first press begins, each one after it is a note. Signals: ``counted(number)`` of taps so far;
    ``tapped(times)``, the taps in quarter notes, when nothing has been tapped for a while.
    """

    counted = pyqtSignal(int)
    tapped = pyqtSignal(object)

    def __init__(
        self, heard: Callable[[], float | None], parent: QObject, clock: Callable[[], float] = time.monotonic
    ) -> None:
        super().__init__(parent)
        self._heard, self._clock = heard, clock
        self._taps: list[float] = []
        self._began = 0.0
        self.is_tapping = False
        """Whether the next press is a note."""
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self.finish)

    def tap(self, caret: Fraction, tempo: Fraction | None) -> None:
        """Begin; or, once it has begun, a note begins now. ``tempo`` is in quarter notes a minute."""
        if not self.is_tapping:
            self.is_tapping = True
            self.counted.emit(0)
            return
        here = self._heard()
        if here is None:
            now = self._clock()
            if not self._taps:
                self._began = now
            here = float(caret) + (now - self._began) * float(tempo or _USUAL_TEMPO) / 60
        if self._taps and here <= self._taps[-1]:
            # The loop has gone round.
            self.finish()
            self.is_tapping = True
        self._taps.append(here)
        self._rest.start()
        self.counted.emit(len(self._taps))

    def finish(self) -> None:
        """Hand on what was tapped."""
        self._rest.stop()
        self.is_tapping = False
        taps, self._taps = self._taps, []
        if taps:
            self.tapped.emit([Fraction(round(tap * _FINE), _FINE) for tap in taps])

    def forget(self) -> None:
        """Drop what was tapped."""
        self._rest.stop()
        self._taps = []
        self.is_tapping = False
