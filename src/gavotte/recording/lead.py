"""The lead line: the pitch of the one voice that stands out, frame by frame, with its bends and vibrato.

The pitch comes from a small neural network, SwiftF0 (L. Nieradzik, 2025), which also says how sure it is that a
single voice sounds.
"""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

import numpy as np
import soxr
from numpy.typing import NDArray

from gavotte.recording.player import RATE, Samples

FRAME_SECONDS = 0.016
VOICED = 0.5
"""From this confidence on a voice sounds."""

_RATE = 16_000
_CHUNK = 2.0
_LOWEST_HZ, _HIGHEST_HZ = 46.875, 2093.75


@dataclass(frozen=True)
class Lead:
    """``midi`` (numbers with fractions, as the recording sounds) and ``confidence`` (0 to 1) of frames FRAME_SECONDS
    apart, from ``start`` seconds on.
    """

    midi: NDArray[np.float64]
    confidence: NDArray[np.float64]
    start: float = 0.0

    @property
    def times(self) -> NDArray[np.float64]:
        """Seconds of each frame."""
        return np.asarray(self.start + FRAME_SECONDS * np.arange(len(self.midi)), dtype=np.float64)

    def between(self, start: float, end: float) -> slice:
        """The frames of a stretch, in seconds."""
        first = max(0, int(np.ceil((start - self.start) / FRAME_SECONDS)))
        return slice(first, max(first, int(np.floor((end - self.start) / FRAME_SECONDS)) + 1))

    def at(self, seconds: float) -> float | None:
        """The pitch at a time, None where no voice sounds."""
        index = round((seconds - self.start) / FRAME_SECONDS)
        if not 0 <= index < len(self.midi) or self.confidence[index] < VOICED:
            return None
        return float(self.midi[index])

    def tuning(self) -> float:
        """Cents above A 440 that the line lies at as a whole, between -50 and 50; 0 where no voice sounds.

        The deviations from the nearest semitones are averaged as angles, weighted by confidence.
        """
        voiced = self.confidence >= VOICED
        if not voiced.any():
            return 0.0
        around = np.sum(self.confidence[voiced] * np.exp(2j * np.pi * self.midi[voiced]))
        return float(np.angle(around) / (2 * np.pi) * 100)


def find_lead(
    samples: Samples, lowest: float, highest: float, start: float = 0.0, end: float | None = None
) -> Generator[float, None, Lead]:
    """Follow the voice between two MIDI numbers, yielding the share that is done.

    Only the stretch from ``start`` to ``end`` seconds is gone through.
    """
    import swift_f0

    detector = swift_f0.SwiftF0(threads=1)
    low = max(_LOWEST_HZ, _hertz(lowest - 1))
    stream = detector.stream(low, max(1.1 * low, min(_HIGHEST_HZ, _hertz(highest + 2))))
    first = max(0, round(start * RATE))
    last = len(samples) if end is None else min(len(samples), round(end * RATE))
    resampler = soxr.ResampleStream(RATE, _RATE, 1, dtype="float32")
    step = round(_CHUNK * RATE)
    found = []
    for begin in range(first, max(first + 1, last), step):
        stop = min(last, begin + step)
        block = np.asarray(samples[begin:stop]).astype(np.float32).mean(axis=1) / 32768
        sound = resampler.resample_chunk(block, last=stop == last)
        if len(sound):
            found.append(stream.push(sound, _RATE))
        yield (stop - first) / max(1, last - first)
    found.append(stream.flush())
    hertz = np.concatenate([part.pitch_hz for part in found])
    confidence = np.concatenate([part.confidence for part in found])
    return Lead(69 + 12 * np.log2(np.maximum(hertz, 1.0) / 440), confidence, first / RATE)


def _hertz(midi: float) -> float:
    return float(440 * 2 ** ((midi - 69) / 12))
