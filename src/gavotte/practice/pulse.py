"""The pulse of a take: when each written note was due, by the take's own tempo.

Where the tempo holds, a straight line through the onsets says so (robust regression with Huber weights: P. Huber,
"Robust estimation of a location parameter", 1964); where it drifts, a line fitted to what lies around each note (local
regression: W. Cleveland, "Robust locally weighted regression", 1979). After a pause it begins anew.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Times = NDArray[np.float64]

_PAUSE = 0.35
"""Seconds by which the time between two notes differs from the tempo's where the pulse begins anew."""

_PAUSE_SHARE = 0.35
_HUBER = 0.03
_TURNS = 12
_FEWEST = 6
_REACH = 5.0
"""Nominal seconds to either side that a local line is fitted to; notes farther away count less and less."""

_STEADY = 0.045
"""Seconds from a straight line up to which the tempo counts as held."""

_HELD = 0.012
"""The share of the tempo by which a take may differ from what was asked for and still have followed it."""


@dataclass(frozen=True)
class Pulse:
    """``due``: seconds at which each written note was due; ``rate``: how much longer than nominal the take went;
    ``drift``: by what share its tempo rose.
    """

    due: Times
    rate: float
    drift: float


def pulse_of(nominal: Times, pairs: Sequence[tuple[int, float]], start: float, rate: float, known: bool) -> Pulse:
    """The pulse through ``pairs`` (index of a note, seconds at which it was heard), ``nominal`` the notes' seconds.

    ``start`` and ``rate`` are what is expected; with ``known`` the tempo was given, and is kept where it was followed.
    """
    if len(pairs) < 2:
        return Pulse(start + rate * nominal, rate, 0.0)
    stretches = _stretches(nominal, pairs, rate)
    due = np.empty(len(nominal))
    edges = _edges(stretches, len(nominal))
    rates, drifts, weights = [], [], []
    for stretch, (first, last) in zip(stretches, edges, strict=True):
        index = np.array([index for index, _ in stretch])
        seconds = np.array([time for _, time in stretch])
        found, own, drift = _fitted(nominal[index], seconds, nominal[first:last], rate, known)
        due[first:last] = found
        rates.append(own)
        drifts.append(drift)
        weights.append(len(stretch))
    return Pulse(due, float(np.average(rates, weights=weights)), float(drifts[int(np.argmax(weights))]))


def _stretches(nominal: Times, pairs: Sequence[tuple[int, float]], rate: float) -> list[list[tuple[int, float]]]:
    """The pairs parted where the player paused, hurried on or went back."""
    stretches = [[pairs[0]]]
    for (before, then), (index, now) in itertools.pairwise(pairs):
        wanted = rate * (nominal[index] - nominal[before])
        if abs(now - then - wanted) > _PAUSE + _PAUSE_SHARE * wanted:
            stretches.append([])
        stretches[-1].append((index, now))
    return stretches


def _edges(stretches: list[list[tuple[int, float]]], count: int) -> list[tuple[int, int]]:
    """From which note up to which each stretch says when notes were due."""
    starts = [
        0,
        *((before[-1][0] + after[0][0]) // 2 + 1 for before, after in itertools.pairwise(stretches)),
    ]
    return list(zip(starts, [*starts[1:], count], strict=True))


def _fitted(x: Times, y: Times, wanted: Times, rate: float, known: bool) -> tuple[Times, float, float]:
    """When notes were due, the rate, and the drift, of one stretch."""
    if len(x) < _FEWEST or np.ptp(x) < 1e-6:
        start = float(np.median(y - rate * x))
        return start + rate * wanted, rate, 0.0
    slope, start = _line(x, y, np.ones(len(x)))
    if known and abs(slope / rate - 1) < _HELD:
        held = float(np.median(y - rate * x))
        if np.abs(_local(x, y, x) - held - rate * x).max() < 2 * _STEADY:
            return held + rate * wanted, rate, 0.0
    local = _local(x, y, x)
    if np.abs(local - start - slope * x).max() < _STEADY:
        return start + slope * wanted, slope, 0.0
    quarter = max(_FEWEST, len(x) // 4)
    early, late = (
        _line(x[part], y[part], np.ones(len(x[part])))[0] for part in (slice(quarter), slice(-quarter, None))
    )
    drift = early / late - 1 if early > 0 and late > 0 else 0.0
    return _local(x, y, wanted), slope, float(drift)


def _line(x: Times, y: Times, weights: Times) -> tuple[float, float]:
    """Slope and start of the line through points, far ones counting less."""
    counts = weights.copy()
    slope, start = 1.0, 0.0
    for _ in range(_TURNS):
        total = counts.sum()
        mx, my = counts @ x / total, counts @ y / total
        spread = counts @ (x - mx) ** 2
        slope = float(counts @ ((x - mx) * (y - my)) / spread) if spread > 1e-9 else slope
        start = float(my - slope * mx)
        away = np.abs(y - start - slope * x)
        counts = weights * np.minimum(1.0, _HUBER / np.maximum(away, 1e-9))
    return slope, start


def _local(x: Times, y: Times, wanted: Times) -> Times:
    """The line around each wanted place, read there."""
    found = np.empty(len(wanted))
    for k, place in enumerate(wanted):
        reach = max(
            _REACH, float(np.partition(np.abs(x - place), min(len(x), 2 * _FEWEST) - 1)[min(len(x), 2 * _FEWEST) - 1])
        )
        near = np.abs(x - place) <= reach
        weights = (1 - (np.abs(x[near] - place) / (reach * 1.0001)) ** 3) ** 3
        slope, start = _line(x[near], y[near], weights)
        found[k] = start + slope * place
    return found
