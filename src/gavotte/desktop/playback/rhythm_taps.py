"""Tapping a rhythm, or playing a line: keys pressed in time with what is heard, or in the solo's tempo."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from fractions import Fraction

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

_REST_MS = 1500
_FINE = 960
_USUAL_TEMPO = 120.0


@dataclass(frozen=True)
class Press:
    """A key pressed in time: ``onset`` and, where it is known, ``end`` in quarter notes as they were played.

    ``key`` is a MIDI number, the letter of a pitch, or None for a key that only taps.
    """

    onset: Fraction
    end: Fraction | None = None
    key: int | str | None = None


class RhythmTaps(QObject):
    """``heard`` gives the time (quarter notes) of what is heard now, None while nothing is.

    The first press begins, each one after it is a note. Signals: ``counted(number)`` of notes so far;
    ``tapped(presses)``, when nothing has been pressed for a while; ``ended``, nothing more is taken down.
    """

    counted = pyqtSignal(int)
    tapped = pyqtSignal(object)
    ended = pyqtSignal()

    def __init__(
        self, heard: Callable[[], float | None], parent: QObject, clock: Callable[[], float] = time.monotonic
    ) -> None:
        super().__init__(parent)
        self._heard, self._clock = heard, clock
        self._presses: list[Press] = []
        self._began = 0.0
        self._caret, self._tempo = Fraction(0), _USUAL_TEMPO
        self.is_tapping = False
        """Whether the next press is a note."""
        self.goes_on = False
        """Whether it goes on after a rest, until it is ended."""
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._rested)

    def tap(self, caret: Fraction, tempo: Fraction | None, key: int | str | None = None) -> None:
        """Begin; or, once it has begun, a note begins now. ``tempo`` is in quarter notes a minute."""
        if not self.is_tapping:
            self.is_tapping = True
            self._caret, self._tempo = caret, float(tempo or _USUAL_TEMPO)
            self.counted.emit(0)
            return
        if not self._presses:
            self._began = self._clock()
        here = self._now()
        if self._presses and here <= self._presses[-1].onset:
            # The loop has gone round.
            self._hand_on()
        self._presses.append(Press(here, None, key))
        self._rest.start()
        self.counted.emit(len(self._presses))

    def release(self, key: int) -> None:
        """A key of a keyboard is let go: its note ends now."""
        for index in range(len(self._presses) - 1, -1, -1):
            press = self._presses[index]
            if press.key == key and press.end is None:
                here = self._now()
                if here > press.onset:
                    self._presses[index] = replace(press, end=here)
                return

    def _now(self) -> Fraction:
        here = self._heard()
        if here is None:
            here = float(self._caret) + (self._clock() - self._began) * self._tempo / 60
        return Fraction(round(here * _FINE), _FINE)

    def _rested(self) -> None:
        if self.goes_on:
            self._hand_on()
        else:
            self.finish()

    def _hand_on(self) -> None:
        self._rest.stop()
        presses, self._presses = self._presses, []
        if presses:
            self.tapped.emit(presses)

    def finish(self) -> None:
        """Hand on what was pressed, and take down nothing more."""
        was_tapping, self.is_tapping, self.goes_on = self.is_tapping, False, False
        self._hand_on()
        if was_tapping:
            self.ended.emit()

    def forget(self) -> None:
        """Drop what was pressed, and take down nothing more."""
        self._rest.stop()
        was_tapping, self._presses = self.is_tapping, []
        self.is_tapping = self.goes_on = False
        if was_tapping:
            self.ended.emit()
