"""Overlapping stretches of a recording, for spectra; only a part of it lies in memory at a time."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.player import Samples


def framed(samples: Samples, hop: int, window: int, chunk: int) -> Iterator[tuple[float, NDArray[np.float32]]]:
    """Both channels' mean in windows centred ``hop`` samples apart, from -1 to 1, silence beyond the ends.

    Yields up to ``chunk`` of them at a time, shape (frames, window), each time after the share that is done with them.
    """
    frames = max(1, len(samples) // hop)
    for first in range(0, frames, chunk):
        last = min(frames, first + chunk)
        start, stop = first * hop - window // 2, (last - 1) * hop + window // 2
        block = np.asarray(samples[max(0, start) : max(1, stop)]).astype(np.float32).mean(axis=1) / 32768
        before = max(0, -start)
        block = np.pad(block, (before, max(0, stop - start - len(block) - before)))
        yield last / frames, np.lib.stride_tricks.sliding_window_view(block, window)[::hop][: last - first]
