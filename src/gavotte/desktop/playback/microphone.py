"""Where a take comes from: a microphone, or a simulated one that plays an invented take.

A source is open only between ``open`` and ``close``; blocks (16 bits, one channel, 44,100 Hz) are handed on as they
come.
"""

from __future__ import annotations

import os
import time
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, Qt, QTimer, pyqtSignal

from gavotte.desktop.translation import translate
from gavotte.sounding.synth import SAMPLE_RATE

_TICK_MS = 20
_BUFFER_SECONDS = 2.0


class Microphone(QObject):
    """What all sources share.

    Signals: ``heard(block)``, int16 samples; ``stopped(message)``, it went away by itself.
    """

    heard = pyqtSignal(object)
    stopped = pyqtSignal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.is_open = False

    def open(self) -> bool:
        """Begin to listen; False where that can't be done (``stopped`` says why)."""
        self.is_open = True
        return True

    def close(self) -> None:
        """Listen no more."""
        self.is_open = False


class SimulatedMicrophone(Microphone):
    """Hears silence, and from the moment it is told to the samples it is given, in their own time; by hand where
    GAVOTTE_AUDIO is "manual".
    """

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._samples: NDArray[np.int16] = np.zeros(0, np.int16)
        self._waiting: NDArray[np.int16] = np.zeros(0, np.int16)
        self._given, self._since = 0, 0.0
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(_TICK_MS)
        self._timer.timeout.connect(self._tick)

    def prepare(self, samples: NDArray[np.int16]) -> None:
        """What is heard from ``begin_in`` on, shape (frames, 2); silence comes before and after it."""
        self._samples, self._waiting = np.zeros(0, np.int16), np.ascontiguousarray(samples[:, 0])

    def begin_in(self, seconds: float) -> None:
        """The samples begin so many seconds from now (before 0: they have begun)."""
        silence = self._given + round(seconds * SAMPLE_RATE)
        waiting, self._waiting = self._waiting, np.zeros(0, np.int16)
        self._samples = np.concatenate([np.zeros(max(0, silence), np.int16), waiting[max(0, -silence) :]])

    def open(self) -> bool:
        self._given, self._since = 0, time.monotonic()
        if os.environ.get("GAVOTTE_AUDIO") != "manual":
            self._timer.start()
        return super().open()

    def close(self) -> None:
        self._timer.stop()
        super().close()

    def pass_seconds(self, seconds: float) -> None:
        """Hear this much at once."""
        self._give(round(seconds * SAMPLE_RATE))

    def _tick(self) -> None:
        due = int((time.monotonic() - self._since) * SAMPLE_RATE) - self._given
        self._give(due)

    def _give(self, frames: int) -> None:
        if frames <= 0 or not self.is_open:
            return
        block = self._samples[self._given : self._given + frames]
        self._given += frames
        self.heard.emit(np.concatenate([block, np.zeros(frames - len(block), np.int16)]))


class CardMicrophone(Microphone):
    """A microphone of the sound card, by its name; "" is the usual one."""

    def __init__(self, name: str = "", parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._name = name
        self._source: Any = None
        self._stream: Any = None

    def open(self) -> bool:
        device = next((known for known in _devices() if not self._name or known.description() == self._name), None)
        if device is None:
            self.stopped.emit(
                translate("Gavotte", "No microphone is connected. Connect one, or choose another source for the take.")
            )
            return False
        from PyQt6.QtMultimedia import QAudioFormat, QAudioSource

        form = QAudioFormat()
        form.setSampleRate(SAMPLE_RATE)
        form.setChannelCount(1)
        form.setSampleFormat(QAudioFormat.SampleFormat.Int16)
        self._source = QAudioSource(device, form, self)
        self._source.setBufferSize(int(_BUFFER_SECONDS * SAMPLE_RATE) * 2)
        self._source.stateChanged.connect(self._state_changed)
        self._stream = self._source.start()
        if self._stream is None:
            self._gone()
            return False
        self._stream.readyRead.connect(self._read)
        return super().open()

    def _read(self) -> None:
        if self._stream is not None:
            data = bytes(self._stream.readAll())
            self.heard.emit(np.frombuffer(data[: len(data) // 2 * 2], "<i2").astype(np.int16))

    def _state_changed(self, _: Any) -> None:
        if self._source is not None and self._source.error().value > 1:
            self._gone()

    def _gone(self) -> None:
        self.close()
        self.stopped.emit(
            translate("Gavotte", "The microphone has gone. What was recorded until then is kept; connect it again.")
        )

    def close(self) -> None:
        super().close()
        source, self._source, stream, self._stream = self._source, None, self._stream, None
        if source is not None:
            source.stateChanged.disconnect(self._state_changed)
            if stream is not None:
                stream.readyRead.disconnect(self._read)
            source.stop()
            source.deleteLater()


def _devices() -> list[Any]:
    if os.environ.get("GAVOTTE_AUDIO", "") in ("manual", "simulated"):
        return []
    try:
        # Imported here: without libpulse0 the import itself fails.
        from PyQt6.QtMultimedia import QMediaDevices
    except ImportError:
        return []
    usual = QMediaDevices.defaultAudioInput()
    others = [device for device in QMediaDevices.audioInputs() if device != usual]
    return others if usual.isNull() else [usual, *others]


def microphone_names() -> list[str]:
    """The microphones there are, the usual one first."""
    return [device.description() for device in _devices()]
