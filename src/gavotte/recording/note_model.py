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
_PITCHES = 88
_FILE = Path(__file__).parent / "models" / "notes.onnx"
_NOTES, _ONSETS = "StatefulPartitionedCall:1", "StatefulPartitionedCall:2"

Activations = tuple[NDArray[np.float64], NDArray[np.float16], NDArray[np.float16]]
"""Seconds of each frame, then how surely each pitch sounds and begins, shape (frames, 88)."""


@lru_cache(maxsize=1)
def _session() -> Any:
    import onnxruntime

    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = 1
    options.log_severity_level = 3
    return onnxruntime.InferenceSession(str(_FILE), options, providers=["CPUExecutionProvider"])


def activations(sound: NDArray[np.floating[Any]]) -> Generator[float, None, Activations]:
    """Go through a mono sound at RATE, yielding the share that is done."""
    session = _session()
    name = session.get_inputs()[0].name
    frames = int(len(sound) * (RATE // HOP) / RATE)
    # Half as many bytes are enough: a long recording has much of it.
    notes, onsets = np.zeros((frames, _PITCHES), np.float16), np.zeros((frames, _PITCHES), np.float16)
    lead_in = _OVERLAP * HOP // 2
    step = _WINDOW - _OVERLAP * HOP
    edge = _OVERLAP // 2
    done = 0
    for begin in range(-lead_in, len(sound), step):
        window = np.zeros(_WINDOW, np.float32)
        part = sound[max(0, begin) : begin + _WINDOW]
        window[max(0, -begin) : max(0, -begin) + len(part)] = part
        note, onset = session.run([_NOTES, _ONSETS], {name: window[None, :, None]})
        fits = min(frames - done, _FRAMES - 2 * edge)
        notes[done : done + fits] = note[0][edge : edge + fits]
        onsets[done : done + fits] = onset[0][edge : edge + fits]
        done += fits
        yield min(1.0, (begin + lead_in + step) / (len(sound) + lead_in))
    # A window holds a fraction of a frame less than its frames suggest; that is made up for window by window.
    drift = HOP / RATE * (_FRAMES - _WINDOW / HOP) + 0.0018
    index = np.arange(frames)
    times = index * HOP / RATE - drift * np.floor(index / _FRAMES)
    return times, notes, onsets
