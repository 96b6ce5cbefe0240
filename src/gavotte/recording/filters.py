"""Bringing out the soloist: one side of the stereo picture, and a band of frequencies."""

from __future__ import annotations

from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

Block = NDArray[np.float32]

LOWEST_HZ, HIGHEST_HZ = 20.0, 16_000.0


class Side(StrEnum):
    """What of the stereo picture is heard."""

    BOTH = "both"
    LEFT = "left"
    RIGHT = "right"
    MIDDLE = "middle"
    EDGES = "edges"


def on_side(block: Block, side: Side) -> Block:
    """A side of a block, shape (frames, 2), on both channels: middle is the half sum, edges the half difference."""
    if side is Side.BOTH:
        return block
    left, right = block[:, 0], block[:, 1]
    one = {
        Side.LEFT: left,
        Side.RIGHT: right,
        Side.MIDDLE: (left + right) * np.float32(0.5),
        Side.EDGES: (left - right) * np.float32(0.5),
    }[side]
    return np.repeat(one[:, None], 2, axis=1)


class BandPass:
    """A Butterworth band-pass of the fourth order that runs block by block."""

    def __init__(self, rate: int) -> None:
        self._rate = rate
        self._band: tuple[float, float] | None = None
        self._sections: NDArray[np.float64] | None = None
        self._state: NDArray[np.float64] | None = None

    @property
    def band(self) -> tuple[float, float] | None:
        """The band that passes, in Hz."""
        return self._band

    def set_band(self, band: tuple[float, float] | None) -> None:
        """Let another band pass from the next block on."""
        if band == self._band:
            return
        self._band = band
        if band is None:
            self._sections = None
            return
        # Loaded with the first band: it takes a while.
        from scipy.signal import butter

        low = max(LOWEST_HZ, min(band))
        high = min(max(band), 0.45 * self._rate)
        sections = butter(2, (low, max(high, low * 1.1)), "bandpass", fs=self._rate, output="sos")
        self._sections = sections
        self._state = np.zeros((sections.shape[0], 2, 2))

    def run(self, block: Block) -> Block:
        """The block's band, shape (frames, 2)."""
        if self._sections is None or not len(block):
            return block
        from scipy.signal import sosfilt

        out, self._state = sosfilt(self._sections, block, axis=0, zi=self._state)
        return np.asarray(out, np.float32)
