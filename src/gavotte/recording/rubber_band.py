"""Time-stretching and pitch-shifting by the system's Rubber Band library, through its C API.

Real-time mode: blocks go in, stretched blocks come out, and both ratios may change on the way.
"""

from __future__ import annotations

import ctypes
import ctypes.util
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.errors import RecordingError

_REAL_TIME, _NO_THREADS, _FINER = 0x00000001, 0x00010000, 0x20000000
_PITCH_HIGH_CONSISTENCY, _SHORT_WINDOW = 0x04000000, 0x00100000
CRISP_BELOW = 0.45
"""Below this share of the recording's speed the coarser engine keeps attacks where they are: the finer one smears them
early.
"""

_OPTIONAL = ("get_preferred_start_pad", "get_start_delay")
"""What libraries before version 3 don't have."""

_CHANNELS = 2
_Floats = ctypes.POINTER(ctypes.c_float)


@lru_cache(maxsize=1)
def _library() -> Any:
    name = ctypes.util.find_library("rubberband") or "librubberband.so.2"
    try:
        library = ctypes.CDLL(name)
    except OSError as error:
        raise RecordingError(
            "Slowing down needs the library Rubber Band. Install the package librubberband2, then start again."
        ) from error
    handle, floats = ctypes.c_void_p, ctypes.POINTER(_Floats)
    for function, result, arguments in (
        ("new", handle, [ctypes.c_uint, ctypes.c_uint, ctypes.c_int, ctypes.c_double, ctypes.c_double]),
        ("delete", None, [handle]),
        ("set_time_ratio", None, [handle, ctypes.c_double]),
        ("set_pitch_scale", None, [handle, ctypes.c_double]),
        ("available", ctypes.c_int, [handle]),
        ("get_preferred_start_pad", ctypes.c_uint, [handle]),
        ("get_start_delay", ctypes.c_uint, [handle]),
        ("set_max_process_size", None, [handle, ctypes.c_uint]),
        ("process", None, [handle, floats, ctypes.c_uint, ctypes.c_int]),
        ("retrieve", ctypes.c_uint, [handle, floats, ctypes.c_uint]),
    ):
        entry = getattr(library, f"rubberband_{function}", None)
        if entry is None:
            if function in _OPTIONAL:
                continue
            raise RecordingError("The installed Rubber Band library is too old; version 2 or newer is needed.")
        entry.restype, entry.argtypes = result, arguments
    return library


class Stretcher:
    """Stretches a stereo stream. What comes out is delayed by nothing: the library's start delay is dropped."""

    def __init__(self, rate: int, block: int, speed: float = 1.0, pitch: float = 1.0) -> None:
        """``rate`` in Hz, ``block`` the most frames fed at once, ``pitch`` a frequency ratio. Raises RecordingError."""
        self._lib = _library()
        # Only a pitch that may glide needs the resampler always in the way; without it a fifth more is done.
        consistent = _PITCH_HIGH_CONSISTENCY if pitch != 1.0 else 0
        engine = _SHORT_WINDOW if speed < CRISP_BELOW else _FINER
        self._handle = self._lib.rubberband_new(
            rate, _CHANNELS, _REAL_TIME | _NO_THREADS | engine | consistent, 1 / speed, pitch
        )
        pad = self._optional("get_preferred_start_pad")
        self._lib.rubberband_set_max_process_size(self._handle, max(block, pad))
        if pad:
            self.feed(np.zeros((pad, _CHANNELS), np.float32))
        self._drop = self._optional("get_start_delay")

    def _optional(self, name: str) -> int:
        function = getattr(self._lib, f"rubberband_{name}", None)
        return int(function(self._handle)) if function is not None else 0

    def close(self) -> None:
        """Free the stretcher."""
        if self._handle is not None:
            self._lib.rubberband_delete(self._handle)
            self._handle = None

    def __del__(self) -> None:
        if getattr(self, "_handle", None) is not None:
            self.close()

    def set_speed(self, speed: float) -> None:
        """Play at a share of the recording's speed from the next block on."""
        self._lib.rubberband_set_time_ratio(self._handle, 1 / speed)

    def set_pitch(self, ratio: float) -> None:
        """Multiply all frequencies by this from the next block on."""
        self._lib.rubberband_set_pitch_scale(self._handle, ratio)

    def feed(self, block: NDArray[np.float32]) -> None:
        """Take in a block, shape (frames, 2)."""
        channels = np.ascontiguousarray(block.T, np.float32)
        self._lib.rubberband_process(self._handle, self._pointers(channels), channels.shape[1], 0)

    def take(self) -> NDArray[np.float32]:
        """What is ready, shape (frames, 2)."""
        ready = self._lib.rubberband_available(self._handle)
        if ready <= 0:
            return np.zeros((0, _CHANNELS), np.float32)
        out = np.empty((_CHANNELS, ready), np.float32)
        got = self._lib.rubberband_retrieve(self._handle, self._pointers(out), ready)
        block = out[:, :got]
        if self._drop:
            dropped = min(self._drop, block.shape[1])
            self._drop -= dropped
            block = block[:, dropped:]
        return np.ascontiguousarray(block.T)

    @staticmethod
    def _pointers(channels: NDArray[np.float32]) -> Any:
        return (_Floats * _CHANNELS)(*[row.ctypes.data_as(_Floats) for row in channels])
