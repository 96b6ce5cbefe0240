"""What is being recorded: samples that grow in a file, so that nothing of a long take lies in memory or is lost."""

from __future__ import annotations

import errno
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.decode import MAX_SECONDS
from gavotte.recording.errors import RecordingError
from gavotte.recording.player import RATE

_CLIPPED = 32_700


class Capture:
    """16-bit stereo at 44,100 Hz in the file ``path``, which is begun anew. ``frames`` are written, ``clipped`` of them
    at the limit.
    """

    def __init__(self, path: Path) -> None:
        """Raises OSError where the file can't be made."""
        path.parent.mkdir(parents=True, exist_ok=True)
        self.path = path
        self.frames = self.clipped = 0
        self.loudest = 0
        self._file = path.open("wb", buffering=0)

    @property
    def seconds(self) -> float:
        """How long it is."""
        return self.frames / RATE

    def append(self, mono: NDArray[np.int16]) -> None:
        """Add samples (one channel). Raises RecordingError where the disk is full or an hour is over: what is there
        stays.
        """
        if self.frames + len(mono) > MAX_SECONDS * RATE:
            raise RecordingError("The take lasts an hour: recording has stopped. What was recorded is kept.")
        try:
            self._file.write(np.repeat(mono, 2).astype("<i2").tobytes())
        except OSError as error:
            full = error.errno == errno.ENOSPC
            why = "The disk is full" if full else f"The take can't be written ({error.strerror or error})"
            raise RecordingError(f"{why}: recording has stopped. What was recorded until then is kept.") from error
        self.frames += len(mono)
        if len(mono):
            self.clipped += int((np.abs(mono.astype(np.int32)) >= _CLIPPED).sum())
            self.loudest = max(self.loudest, int(np.abs(mono.astype(np.int32)).max()))

    def samples(self) -> NDArray[np.int16]:
        """What there is so far, shape (frames, 2), read from the file as it is needed."""
        if not self.frames:
            return np.zeros((0, 2), np.int16)
        return np.memmap(self.path, np.int16, "r", shape=(self.frames, 2))

    def close(self) -> None:
        """Nothing more comes."""
        self._file.close()

    def remarks(self) -> tuple[str, ...]:
        """What is to be said of the sound."""
        if self.loudest < 60:
            return ("Nothing was heard. Is the right microphone chosen, and is it switched on?",)
        if self.clipped > 0.002 * self.frames:
            return ("The take is overdriven: move away from the microphone, or turn it down.",)
        return ()
