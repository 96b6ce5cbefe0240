"""Which notes sound and which begin, by the note model in ``models`` (its licence lies beside it).

R. Bittner et al., "A lightweight instrument-agnostic model for polyphonic note transcription and multipitch
estimation", ICASSP 2022. The model looks at two seconds at a time; windows overlap, and their edges are dropped.
"""

from __future__ import annotations

from collections.abc import Generator
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

RATE = 22_050
HOP = 256
LOWEST = 21
"""MIDI number of the model's first pitch; it knows 88."""

_WINDOW = 2 * RATE - HOP
_OVERLAP = 30
_FRAMES = 172
_FILE = Path(__file__).parent / "models" / "notes.onnx"
_NOTES, _ONSETS = "StatefulPartitionedCall:1", "StatefulPartitionedCall:2"

Activations = tuple[NDArray[np.float64], NDArray[np.float32], NDArray[np.float32]]
"""Seconds of each frame, then how surely each pitch sounds and begins, shape (frames, 88)."""


@lru_cache(maxsize=1)
def _session() -> Any:
    import onnxruntime

    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = 1
    options.log_severity_level = 3
    return onnxruntime.InferenceSession(str(_FILE), options, providers=["CPUExecutionProvider"])


def activations(sound: NDArray[np.float32]) -> Generator[float, None, Activations]:
    """Go through a mono sound at RATE, yielding the share that is done."""
    session = _session()
    name = session.get_inputs()[0].name
    padded = np.concatenate([np.zeros(_OVERLAP * HOP // 2, np.float32), sound])
    step = _WINDOW - _OVERLAP * HOP
    edge = _OVERLAP // 2
    notes, onsets = [], []
    for begin in range(0, len(padded), step):
        window = padded[begin : begin + _WINDOW]
        window = np.pad(window, (0, _WINDOW - len(window)))
        note, onset = session.run([_NOTES, _ONSETS], {name: window[None, :, None]})
        notes.append(note[0][edge:-edge])
        onsets.append(onset[0][edge:-edge])
        yield min(1.0, (begin + step) / len(padded))
    frames = int(len(sound) * (RATE // HOP) / RATE)
    # A window holds a fraction of a frame less than its frames suggest; that is made up for window by window.
    drift = HOP / RATE * (_FRAMES - _WINDOW / HOP) + 0.0018
    index = np.arange(frames)
    times = index * HOP / RATE - drift * np.floor(index / _FRAMES)
    return times, np.concatenate(notes)[:frames], np.concatenate(onsets)[:frames]
