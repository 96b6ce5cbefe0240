"""How far a recording lies from a tuning of A 440 Hz.

The peaks of its spectrum are compared with the nearest semitones; their deviations, weighted by loudness, are averaged
as angles, so that 49 cents sharp and 51 cents flat are neighbours. A recording that is off by more than half a semitone
looks like one that is off the other way: the result lies between -50 and 50 cents.
"""

from __future__ import annotations

from collections.abc import Generator

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.player import RATE, Samples

_WINDOW = 16_384
_HOP = 8_192
_LOW_HZ, _HIGH_HZ = 110.0, 2_000.0
_PEAKS = 8


def measure_tuning(samples: Samples) -> Generator[float, None, float | None]:
    """Go through a recording, yielding the share that is done; returns cents above A 440, None without any pitch."""
    window = np.hanning(_WINDOW).astype(np.float32)
    hertz = np.fft.rfftfreq(_WINDOW, 1 / RATE)
    low, high = np.searchsorted(hertz, (_LOW_HZ, _HIGH_HZ))
    total, weight = 0j, 0.0
    starts = range(0, max(1, len(samples) - _WINDOW), _HOP)
    for number, start in enumerate(starts, 1):
        block = np.asarray(samples[start : start + _WINDOW]).astype(np.float32).mean(axis=1)
        if len(block) == _WINDOW and np.abs(block).max() > 100:
            found, loud = _peaks(np.abs(np.fft.rfft(block * window)), low, high)
            cents = 1200 * np.log2(np.maximum(found, 1) * RATE / _WINDOW / 440)
            total += complex(np.sum(loud * np.exp(2j * np.pi * cents / 100)))
            weight += float(loud.sum())
        yield number / len(starts)
    if weight == 0 or abs(total) < 0.1 * weight:
        return None
    return float(np.angle(total) / (2 * np.pi) * 100)


def _peaks(spectrum: NDArray[np.floating], low: int, high: int) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Places (in bins, between them by a parabola through the logarithms) and loudness of the loudest peaks."""
    middle = spectrum[low:high]
    is_peak = (middle > spectrum[low - 1 : high - 1]) & (middle >= spectrum[low + 1 : high + 1])
    places = np.flatnonzero(is_peak) + low
    places = places[np.argsort(spectrum[places])[::-1][:_PEAKS]]
    a, b, c = (np.log(np.maximum(spectrum[places + step], 1e-9)) for step in (-1, 0, 1))
    bend = a - 2 * b + c
    shift = np.where(bend != 0, 0.5 * (a - c) / np.where(bend == 0, 1, bend), 0)
    return (places + shift).astype(np.float64), np.sqrt(spectrum[places].astype(np.float64))
