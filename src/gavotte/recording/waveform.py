"""The picture of a recording: the lowest and highest sample of every stretch, at several sizes of stretch."""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.player import Samples

FINEST = 128
"""Frames in a stretch of the finest level; closer than that the samples themselves are drawn."""

_FACTOR = 8
_LEVELS = 4
_BLOCK = FINEST * _FACTOR**3 * 8


@dataclass(frozen=True)
class Peaks:
    """Levels of (lowest, highest) as int16, shape (stretches, 2); level k has stretches of FINEST · 8^k frames."""

    frames: int
    levels: tuple[NDArray[np.int16], ...]

    def columns(self, samples: Samples, start: float, per_column: float, count: int) -> NDArray[np.float32]:
        """Lowest and highest, from -1 to 1, of ``count`` columns ``per_column`` frames wide; shape (count, 2)."""
        edges = start + per_column * np.arange(count + 1)
        if per_column < FINEST:
            return self._from_samples(samples, edges)
        level = 0
        # Stretches much finer than a column put every peak where it belongs.
        while level + 1 < len(self.levels) and 4 * FINEST * _FACTOR ** (level + 1) <= per_column:
            level += 1
        values, size = self.levels[level], FINEST * _FACTOR**level
        bounds = np.clip((edges / size).astype(np.int64), 0, len(values))
        # A stretch that two columns share belongs to both.
        bounds[-1] = min(len(values), int(np.ceil(edges[-1] / size)))
        return _extremes(values[:, 0], values[:, 1], bounds)

    def _from_samples(self, samples: Samples, edges: NDArray[np.floating]) -> NDArray[np.float32]:
        bounds = np.clip(np.floor(edges).astype(np.int64), 0, self.frames)
        low, high = int(bounds[0]), int(min(self.frames, bounds[-1] + 1))
        mono = np.asarray(samples[low:high]).mean(axis=1)
        return _extremes(mono, mono, bounds - low)


def _extremes(low: NDArray[np.generic], high: NDArray[np.generic], bounds: NDArray[np.int64]) -> NDArray[np.float32]:
    """The lowest of ``low``, the highest of ``high`` between neighbouring bounds; of an empty stretch its first."""
    out = np.zeros((len(bounds) - 1, 2), np.float32)
    inside = bounds[:-1] < len(low)
    starts = bounds[:-1][inside]
    if len(starts):
        # The last stretch of reduceat runs to the end of what it is given.
        end = max(int(bounds[-1]), int(starts[-1]) + 1)
        out[inside, 0] = np.minimum.reduceat(low[:end], starts)
        out[inside, 1] = np.maximum.reduceat(high[:end], starts)
    return out * np.float32(1 / 32768)


def find_peaks(samples: Samples) -> Generator[float, None, Peaks]:
    """Go through a recording, yielding the share that is done; returns its peaks."""
    frames = len(samples)
    finest: list[NDArray[np.int16]] = []
    for start in range(0, frames, _BLOCK):
        mono = np.asarray(samples[start : start + _BLOCK]).astype(np.int32).sum(axis=1) // 2
        whole = len(mono) // FINEST * FINEST
        grid = mono[:whole].reshape(-1, FINEST)
        parts = [np.stack([grid.min(axis=1), grid.max(axis=1)], axis=1)] if whole else []
        if whole < len(mono):
            parts.append(np.array([[mono[whole:].min(), mono[whole:].max()]]))
        finest += [part.astype(np.int16) for part in parts]
        yield min(1.0, (start + _BLOCK) / frames)
    levels = [np.concatenate(finest) if finest else np.zeros((0, 2), np.int16)]
    while len(levels) < _LEVELS and len(levels[-1]) > _FACTOR:
        levels.append(_coarser(levels[-1]))
    return Peaks(frames, tuple(levels))


def _coarser(level: NDArray[np.int16]) -> NDArray[np.int16]:
    starts = np.arange(0, len(level), _FACTOR)
    return np.stack([np.minimum.reduceat(level[:, 0], starts), np.maximum.reduceat(level[:, 1], starts)], axis=1)
