"""A take as something that sounds."""

from __future__ import annotations

import threading
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, QSettings, QTimer, pyqtSignal

from gavotte.desktop.playback.sound_out import SoundOut

_LOOK_MS = 100


class _Samples:
    """Samples that are read block by block, then silence."""

    def __init__(self, samples: NDArray[np.float32]) -> None:
        self._samples, self._at, self._lock = samples, 0, threading.Lock()

    @property
    def is_over(self) -> bool:
        """Whether everything was read."""
        return self._at >= len(self._samples)

    def read(self, frames: int, /) -> NDArray[np.float32]:
        """The next block, float32, shape (frames, 2)."""
        with self._lock:
            block = self._samples[self._at : self._at + frames]
            self._at += frames
        rest = frames - len(block)
        return block if not rest else np.concatenate([block, np.zeros((rest, 2), np.float32)])


class TakePlayer(QObject):
    """Lets a take's sound be heard. Signals: ``changed``, it plays or no longer does; ``failed(message)``."""

    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, settings: QSettings, parent: QObject) -> None:
        super().__init__(parent)
        self._out = SoundOut(settings, self)
        self._out.failed.connect(self.failed)
        self._samples: _Samples | None = None
        self._look = QTimer(self)
        self._look.setInterval(_LOOK_MS)
        self._look.timeout.connect(self._looked)

    @property
    def is_playing(self) -> bool:
        """Whether a take is heard."""
        return self._samples is not None

    def play(self, path: Path) -> None:
        """Let a file sound; what sounds stops."""
        import soundfile

        self.stop()
        try:
            sound, _ = soundfile.read(path, dtype="float32", always_2d=True)
        except (OSError, soundfile.LibsndfileError) as error:
            self.failed.emit(str(error))
            return
        self.play_samples(np.repeat(sound, 2, axis=1) if sound.shape[1] == 1 else sound[:, :2])

    def play_samples(self, samples: NDArray[np.float32]) -> None:
        """Let samples sound, shape (frames, 2), 44,100 Hz; what sounds stops."""
        self.stop()
        self._samples = _Samples(samples)
        self._out.open(self._samples)
        self._out.start()
        self._look.start()
        self.changed.emit()

    def stop(self) -> None:
        """Silence."""
        if self._samples is None:
            return
        self._samples = None
        self._look.stop()
        self._out.close()
        self.changed.emit()

    def _looked(self) -> None:
        if self._samples is not None and self._samples.is_over:
            self.stop()
