"""How loud the partials of every pitch are, frame by frame, in a mono sound whose tuning is A 440."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.recording.note_model import RATE

Floats = NDArray[np.float32]

COUNT = 8
_WINDOW, _LOW_WINDOW = 2048, 4096
_WITHIN = 0.4
"""Semitones around a partial's place that belong to it."""

_LOW = 52
"""MIDI number below which partials lie so close that they need the longer window."""

_BLOCK = 128
_QUIETEST = 1e-4


def partial_levels(sound: NDArray[np.floating[Any]], lowest: int, highest: int, centres: NDArray[np.int64]) -> Floats:
    """Levels in decibels around some samples of the sound, shape (centres, pitches, COUNT)."""
    frames = len(centres)
    levels = np.full((frames, highest - lowest + 1, COUNT), 20 * np.log10(_QUIETEST), np.float32)
    for window, pitches in (
        (_LOW_WINDOW, range(lowest, min(_LOW, highest + 1))),
        (_WINDOW, range(max(_LOW, lowest), highest + 1)),
    ):
        if not pitches:
            continue
        bands = _bands(window, pitches[0], pitches[-1])
        shape = _shape(window)
        for first in range(0, frames, _BLOCK):
            view = _framed(sound, window, centres[first : first + _BLOCK])
            spectrum = np.abs(np.fft.rfft(view * shape, axis=1)).astype(np.float32)
            loud = 20 * np.log10(np.maximum(spectrum, _QUIETEST)).astype(np.float32)
            for pitch, partial, low, high in bands:
                give_way()
                levels[first : first + len(view), pitch - lowest, partial] = loud[:, low:high].max(axis=1)
    return levels


@lru_cache(maxsize=2)
def _shape(window: int) -> Floats:
    shape = np.hanning(window).astype(np.float32)
    # Levels of both windows are alike.
    return np.asarray(shape * (2 / shape.sum()) * _WINDOW / 4, np.float32)


def _framed(sound: NDArray[np.floating[Any]], window: int, centres: NDArray[np.int64]) -> Floats:
    """A window around each centre, silence beyond the ends."""
    low, high = int(centres[0]) - window // 2, int(centres[-1]) + window // 2
    block = sound[max(0, low) : max(0, high)].astype(np.float32)
    before = max(0, -low)
    block = np.pad(block, (before, max(0, high - low - before - len(block))))
    views = np.lib.stride_tricks.sliding_window_view(block, window)
    return np.asarray(views[centres - centres[0]])


@lru_cache(maxsize=8)
def _bands(window: int, lowest: int, highest: int) -> tuple[tuple[int, int, int, int], ...]:
    """(pitch, partial from 0, first bin, bin after the last) of every partial that the spectrum holds."""
    width = RATE / window
    bands = []
    for pitch in range(lowest, highest + 1):
        hertz = 440 * 2 ** ((pitch - 69) / 12)
        for partial in range(COUNT):
            low, high = (hertz * (partial + 1) * 2 ** (side * _WITHIN / 12) / width + 0.5 for side in (-1, 1))
            first, after = int(np.floor(low)), int(np.ceil(high))
            if after < window // 2 + 1:
                bands.append((pitch, partial, first, max(after, first + 1)))
    return tuple(bands)
