"""From taps to beats: what a foot meant, though it came a little early or late, skipped a beat or struck twice.

People tap with a spread of about 20 ms, and a few ms early. Taps are evened out by a smoother that trades their
nearness against a steady tempo (E. Whittaker, "On a new method of graduation", Proceedings of the Edinburgh
Mathematical Society 41 (1923)); how steady the tempo was is read off the taps themselves. Where a rhythm section plays,
the evened beats are then moved to what is struck near them, all of them together first, then each by itself.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from statistics import median

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import solveh_banded

Floats = NDArray[np.float64]

_FEWEST = 4
_STEADIEST, _FREEST = 400.0, 8.0
_MOST_SKIPPED, _OFF_BEAT = 8, 0.25
_OUTLYING = 2.5
_ROUNDS = 4


def evened(taps: Sequence[float]) -> tuple[float, ...]:
    """Taps (seconds, rising) as beats: those that were skipped put in, those struck twice dropped, all evened out."""
    times, weights = _counted(taps)
    if len(times) < _FEWEST:
        return tuple(float(time) for time in times[weights > 0])
    return tuple(float(time) for time in smoothed(times, weights))


def settled(taps: Sequence[float], envelope: Floats, frame_seconds: float) -> tuple[tuple[float, ...], bool]:
    """Taps as beats on what is struck, and whether there was a rhythm section to settle on; else they are only evened
    out.

    ``envelope``: how much begins in each frame of the recording, ``frame_seconds`` apart (``beats.onset_envelope``).
    """
    even = np.array(evened(taps))
    clock = np.arange(len(envelope)) * frame_seconds
    if len(even) < _FEWEST_TO_SETTLE or not len(envelope):
        return tuple(map(float, even)), False
    around = even[:, None] + _OFFSETS
    struck = np.interp(around, clock, envelope)
    usual = struck.mean(axis=0)
    aim = int(np.argmax(usual))
    if usual[aim] < _CLEAR * float(np.median(np.interp(_spread_out(even), clock, envelope))):
        return tuple(map(float, even)), False
    even = even + _OFFSETS[aim]
    local = np.interp(even[:, None] + _OFFSETS, clock, envelope) * np.exp(-0.5 * (_OFFSETS / _NEAR) ** 2)
    best = local.argmax(axis=1)
    weights = np.clip(local[np.arange(len(even)), best] / usual[aim], 0.05, 1.5)
    found = smoothed(even + _OFFSETS[best], weights)
    return tuple(float(time) for time in found), True


_FEWEST_TO_SETTLE = 8
_OFFSETS = np.arange(-0.08, 0.0801, 0.002)
_NEAR = 0.02
_CLEAR = 2.0
"""How many times as much as usual is struck on the beats of a rhythm section."""


def _spread_out(beats: Floats) -> Floats:
    """Many times between the first beat and the last."""
    return np.asarray(np.linspace(beats[0], beats[-1], 20 * len(beats)))


def _counted(taps: Sequence[float]) -> tuple[Floats, Floats]:
    """A time for each beat, and how much it counts: 1 for a tap, 0 where none was."""
    if len(taps) < _FEWEST:
        return np.array(taps, float), np.ones(len(taps))
    usual = median(b - a for a, b in pairwise(taps))
    times, weights = [float(taps[0])], [1.0]
    for tap in taps[1:]:
        near = [b - a for a, b in pairwise(times[-6:])]
        step = median([*near, usual])
        gap = tap - times[-1]
        if gap < 0.5 * step:
            continue
        count = round(gap / step)
        if 2 <= count <= _MOST_SKIPPED and abs(gap / count - step) < _OFF_BEAT * step:
            start = times[-1]
            times += [start + gap * k / count for k in range(1, count)]
            weights += [0.0] * (count - 1)
        times.append(float(tap))
        weights.append(1.0)
    return np.array(times), np.array(weights)


def smoothed(times: Floats, weights: Floats) -> Floats:
    """Times near those given (each by its weight) whose steps change little; those far off count for less."""
    second = np.diff(times, 2)[(weights[:-2] > 0) & (weights[1:-1] > 0) & (weights[2:] > 0)]
    stiffness = _stiffness(second)
    trust = weights.copy()
    found = times
    for _ in range(_ROUNDS):
        found = _whittaker(times, trust, stiffness)
        away = np.abs(times - found)
        spread = 1.48 * float(np.median(away[weights > 0])) + 0.002
        trust = weights / np.maximum(1, away / (_OUTLYING * spread)) ** 2
    return found


def _stiffness(second: Floats) -> float:
    """How much an even tempo counts against nearness, from the taps' second differences.

    Those of independent errors are correlated (-4 to 6) with their neighbours, those of a tempo that changes aren't.
    """
    if len(second) < 8:
        return _STEADIEST / 8
    # Steps that are wide of all others say nothing about either.
    second = np.clip(second, *np.percentile(second, (5, 95)))
    whole, beside = float((second**2).mean()), float((second[1:] * second[:-1]).mean())
    tapping = max(0.0, -beside / 4)
    wandering = max(whole - 6 * tapping, 1e-9)
    return float(np.clip(tapping / wandering, _FREEST, _STEADIEST))


def _whittaker(times: Floats, weights: Floats, stiffness: float) -> Floats:
    """The times that make weighted squared distances plus ``stiffness`` times squared second differences least."""
    count = len(times)
    bands = np.zeros((3, count))
    bands[2] = weights + 1e-6
    for shift, factors in ((0, (1, 4, 1)), (1, (-2, -2)), (2, (1,))):
        for place, factor in enumerate(factors):
            bands[2 - shift, shift + place : shift + place + count - 2] += stiffness * factor
    return np.asarray(solveh_banded(bands, weights * times + 1e-6 * times))
