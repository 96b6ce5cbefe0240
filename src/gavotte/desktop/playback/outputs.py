"""Where the sound goes: the sound card, a simulated one that keeps time, or a manual one for tests.

An output pulls blocks from a ``Sounding`` (an engine, a recording's player) at its own pace. ``latency`` is how many
seconds lie between what is pulled and what is heard.
"""

from __future__ import annotations

import os
import time
from typing import Any, Protocol

from PyQt6.QtCore import QIODevice, QMetaObject, QObject, Qt, QThread, QTimer, pyqtSignal, pyqtSlot

from gavotte.desktop.translation import translate
from gavotte.sounding.synth import SAMPLE_RATE

_FRAME_BYTES = 8
_BUFFER_SECONDS = 0.09
_TICK_MS = 15


class Sounding(Protocol):
    """What can be played: blocks of float32, shape (frames, 2)."""

    def read(self, frames: int, /) -> Any:
        """The next block."""


class Output(QObject):
    """What all outputs share. ``stopped(message)`` tells that the output gave up by itself."""

    stopped = pyqtSignal(str)
    latency = 0.0
    is_heard = False

    def __init__(self, engine: Sounding, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._engine = engine

    def start(self) -> None:
        """Begin to pull."""

    def stop(self) -> None:
        """Pull no more."""

    def close(self) -> None:
        """Stop for good."""
        self.stop()


class SimulatedOutput(Output):
    """Keeps time as a sound card would and throws the sound away."""

    def __init__(self, engine: Sounding, parent: QObject | None = None) -> None:
        super().__init__(engine, parent)
        self._pulled, self._since = 0, 0.0
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(_TICK_MS)
        self._timer.timeout.connect(self._pull)

    def start(self) -> None:
        self._pulled, self._since = 0, time.monotonic()
        self._timer.start()

    def stop(self) -> None:
        self._timer.stop()

    def _pull(self) -> None:
        due = int((time.monotonic() - self._since) * SAMPLE_RATE) - self._pulled
        if due > SAMPLE_RATE:
            # The machine slept: go on from here instead of racing after the clock.
            self._since += (due - SAMPLE_RATE) / SAMPLE_RATE
            due = SAMPLE_RATE
        self._engine.read(due)
        self._pulled += due


class ManualOutput(Output):
    """Passes time only when told to."""

    def __init__(self, engine: Sounding, parent: QObject | None = None) -> None:
        super().__init__(engine, parent)
        self.is_running = False

    def start(self) -> None:
        self.is_running = True

    def stop(self) -> None:
        self.is_running = False

    def pass_seconds(self, seconds: float) -> Any:
        """Pull this much; gives the block."""
        return self._engine.read(round(seconds * SAMPLE_RATE))


class _Source(QIODevice):
    """The engine as a device to read from."""

    def __init__(self, engine: Sounding) -> None:
        super().__init__()
        self._engine = engine

    def readData(self, maxlen: int) -> bytes:
        return bytes(self._engine.read(min(maxlen // _FRAME_BYTES, 2048)).tobytes())

    def bytesAvailable(self) -> int:
        return 1 << 24

    def isSequential(self) -> bool:
        return True


class CardOutput(Output):
    """The sound card, pulled from in a thread of its own so that a busy interface is not heard."""

    latency = _BUFFER_SECONDS
    is_heard = True

    def __init__(self, engine: Sounding, device: Any) -> None:
        super().__init__(engine)
        self._device = device
        self._sink: Any = None
        self._source: _Source | None = None
        self._thread = QThread()
        self.moveToThread(self._thread)
        self._thread.start(QThread.Priority.TimeCriticalPriority)

    def start(self) -> None:
        QMetaObject.invokeMethod(self, "_start_in_thread", Qt.ConnectionType.BlockingQueuedConnection)

    def stop(self) -> None:
        QMetaObject.invokeMethod(self, "_stop_in_thread", Qt.ConnectionType.BlockingQueuedConnection)

    def close(self) -> None:
        self.stop()
        self._thread.quit()
        self._thread.wait(2000)

    @pyqtSlot()
    def _start_in_thread(self) -> None:
        from PyQt6.QtMultimedia import QAudioFormat, QAudioSink

        form = QAudioFormat()
        form.setSampleRate(SAMPLE_RATE)
        form.setChannelCount(2)
        form.setSampleFormat(QAudioFormat.SampleFormat.Float)
        self._source = _Source(self._engine)
        self._source.open(QIODevice.OpenModeFlag.ReadOnly | QIODevice.OpenModeFlag.Unbuffered)
        self._sink = QAudioSink(self._device, form)
        self._sink.setBufferSize(int(SAMPLE_RATE * _BUFFER_SECONDS) * _FRAME_BYTES)
        self._sink.stateChanged.connect(self._state_changed)
        self._sink.start(self._source)

    def _state_changed(self, _: Any) -> None:
        if self._sink is not None and self._sink.error().value > 1:
            self.stopped.emit(
                translate(
                    "Gavotte", "The sound card has gone. Playing goes on silently; press play again to try once more."
                )
            )

    @pyqtSlot()
    def _stop_in_thread(self) -> None:
        if self._sink is not None:
            self._sink.stateChanged.disconnect(self._state_changed)
            self._sink.stop()
            self._sink = None
        if self._source is not None:
            self._source.close()
            self._source = None


def _devices() -> list[Any]:
    try:
        # Imported here: without libpulse0 the import itself fails.
        from PyQt6.QtMultimedia import QMediaDevices
    except ImportError:
        return []
    usual = QMediaDevices.defaultAudioOutput()
    others = [device for device in QMediaDevices.audioOutputs() if device != usual]
    return others if usual.isNull() else [usual, *others]


def device_names() -> list[str]:
    """The outputs that sound can go to, the usual one first; none where there is no sound card."""
    return [device.description() for device in _devices()]


def open_output(engine: Sounding, parent: QObject, device: str = "") -> Output:
    """The sound card, or a simulated one where there is none. GAVOTTE_AUDIO=simulated or manual chooses.

    ``device`` is the name of an output; where it is not there, or "", the usual one is taken.
    """
    wanted = os.environ.get("GAVOTTE_AUDIO", "")
    if wanted == "manual":
        return ManualOutput(engine, parent)
    devices = _devices() if wanted != "simulated" else []
    if devices:
        return CardOutput(engine, next((known for known in devices if known.description() == device), devices[0]))
    return SimulatedOutput(engine, parent)
