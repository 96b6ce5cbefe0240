"""What was sung or played for a single target: the pitch that was held."""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

import numpy as np

from gavotte.recording.lead import FRAME_SECONDS, VOICED, find_lead
from gavotte.recording.player import Samples

_LOWEST, _HIGHEST = 36.0, 96.0
_LEAST_SECONDS, _STEADY = 0.15, 0.7
_NEAR_CENTS = 50


@dataclass(frozen=True, slots=True)
class Sung:
    """The pitch that was held longest: a MIDI number with fractions, and for how many seconds."""

    midi: float
    seconds: float

    def cents_from(self, target: int) -> float:
        """How far it lies above a target's pitch class, -600 to 600 cents, in whatever octave."""
        return float((100 * (self.midi - target) + 600) % 1200 - 600)

    def is_on(self, target: int) -> bool:
        """Whether it is the target, in whatever octave."""
        return abs(self.cents_from(target)) <= _NEAR_CENTS


def sung(samples: Samples) -> Generator[float, None, Sung | None]:
    """The pitch that is held longest in a recording (16-bit stereo at 44,100 Hz), None where no voice is heard; yields
    the share that is done.
    """
    lead = yield from find_lead(samples, _LOWEST, _HIGHEST)
    voiced = lead.confidence >= VOICED
    best: tuple[int, int] = (0, 0)
    start = 0
    for frame in range(1, len(voiced) + 1):
        goes_on = (
            frame < len(voiced)
            and voiced[frame]
            and voiced[frame - 1]
            and abs(lead.midi[frame] - lead.midi[frame - 1]) < _STEADY
        )
        if not goes_on:
            if voiced[start] and frame - start > best[1] - best[0]:
                best = (start, frame)
            start = frame
        if start >= len(voiced):
            break
    length = (best[1] - best[0]) * FRAME_SECONDS
    if length < _LEAST_SECONDS:
        return None
    return Sung(float(np.median(lead.midi[slice(*best)])), length)
