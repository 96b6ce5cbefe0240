"""How much is swung: how many times as long the first of two eighths is as the second, from what is struck between the
beats.

What begins in every beat is laid over one another; where most begins around the middle is the second eighth. Light
swing of fast tempos is told from even eighths by many beats together: see A. Friberg and A. Sundström, "Swing ratios
and ensemble timing in jazz performance", Music Perception 19 (2002), for the ratios that are played.
"""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

EVEN = Fraction(1)
_FEWEST = 16
_SHARES = np.arange(0.44, 0.76, 0.002)
_ON_BEAT = np.arange(-0.06, 0.0601, 0.002)
_CLEAR = 1.25
_LEAST, _MOST = 1.18, 3.0
"""What lies between beats is often struck by slower instruments than the beats: less than ``_LEAST`` may be that."""

_SMOOTH = 0.01


def measure_swing(beats: Sequence[float], envelope: NDArray[np.float64], frame_seconds: float) -> Fraction:
    """The ratio, to a twentieth; 1 where eighths are even, or too little is struck between the beats to say.

    ``beats`` in seconds, ``envelope``: how much begins in each frame, ``frame_seconds`` apart.
    """
    times = np.array(beats)
    if len(times) < _FEWEST or not len(envelope):
        return EVEN
    clock, steps = np.arange(len(envelope)) * frame_seconds, np.diff(times)
    usual = float(np.median(steps))
    steps_ok = np.abs(steps - usual) < 0.3 * usual
    starts, steps = times[:-1][steps_ok], steps[steps_ok]
    if len(starts) < _FEWEST:
        return EVEN
    # The beat as it is heard, a little late like everything else.
    on_beat = np.interp(starts[:, None] + _ON_BEAT, clock, envelope).mean(axis=0)
    late = float(_ON_BEAT[int(np.argmax(on_beat))])
    between = np.interp(starts[:, None] + steps[:, None] * _SHARES + late, clock, envelope).mean(axis=0)
    width = max(1, round(_SMOOTH / 0.002))
    smooth = np.convolve(between, np.hanning(2 * width + 1) / np.hanning(2 * width + 1).sum(), "same")
    inner = smooth[width:-width]
    best = int(np.argmax(inner)) + width
    if smooth[best] < _CLEAR * float(np.median(inner)):
        return EVEN
    near = slice(max(0, best - width), best + width + 1)
    weights = smooth[near] - smooth[near].min() + 1e-9
    share = float(weights @ _SHARES[near] / weights.sum())
    ratio = share / (1 - share)
    return EVEN if ratio < _LEAST else Fraction(round(20 * min(_MOST, ratio)), 20)
