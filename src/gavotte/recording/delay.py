"""The delay between what is played and what is recorded of it, measured on clicks."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.errors import RecordingError

RATE = 44100
CLICKS = 8
_APART, _FIRST = 0.75, 0.75
_EARLIEST, _LATEST = -0.15, 0.45
_HOP = 44
_LOUDER = 4.0
"""A click is where a millisecond is so many times as loud as the ones before."""

_LEAST_HEARD, _SCATTER = 5, 0.045
_LOUD, _LENGTH = 0.6, 0.02


@dataclass(frozen=True, slots=True)
class Delay:
    """A delay in seconds, and how far single clicks lie from it (median distance, seconds)."""

    seconds: float
    scatter: float


def click_track() -> NDArray[np.float32]:
    """Eight clicks to be recorded: float32, shape (frames, 2), 44,100 Hz."""
    times = click_times()
    sound = np.zeros(round((times[-1] + _APART) * RATE), np.float32)
    frames = np.arange(round(_LENGTH * RATE))
    click = _LOUD * np.sin(2 * np.pi * 1800 * frames / RATE) * np.exp(-frames / (0.004 * RATE))
    for time in times:
        start = round(time * RATE)
        sound[start : start + len(click)] += click
    return np.repeat(sound[:, None], 2, axis=1)


def click_times() -> list[float]:
    """When the clicks come, in seconds."""
    return [_FIRST + k * _APART for k in range(CLICKS)]


def delay_of(samples: NDArray[np.int16], start: float) -> Delay:
    """How late the clicks (or claps along with them) are in a recording of one channel, whose second ``start`` is where
    the click track began to be played.

    Raises RecordingError where too few are heard, or they lie too far from each other.
    """
    sound = np.abs(samples.astype(np.float32) / 32768)
    frames = len(sound) // _HOP
    loudness = sound[: frames * _HOP].reshape(frames, _HOP).max(axis=1) if frames else np.zeros(0, np.float32)
    floor = float(np.median(loudness)) if frames else 0.0
    late = [found for time in click_times() if (found := _heard(loudness, start + time, floor)) is not None]
    if len(late) < _LEAST_HEARD:
        raise RecordingError(
            f"Only {len(late)} of {CLICKS} clicks were heard. Put the microphone near the loudspeaker, or clap along, "
            "and turn the level up."
        )
    middle = float(np.median(late))
    scatter = float(np.median(np.abs(np.array(late) - middle)))
    if scatter > _SCATTER:
        raise RecordingError(
            f"The clicks lie {scatter * 1000:.0f} ms apart from each other: something else was heard. Try again where "
            "it is quiet."
        )
    return Delay(round(middle, 4), round(scatter, 4))


def _heard(loudness: NDArray[np.float32], due: float, floor: float) -> float | None:
    """How late what is struck near a time is, None where nothing is."""
    first = max(0, round((due + _EARLIEST) * RATE / _HOP))
    last = min(len(loudness), round((due + _LATEST) * RATE / _HOP))
    near = loudness[first:last]
    if len(near) < 2:
        return None
    loudest = float(near.max())
    if loudest < max(0.01, _LOUDER * floor):
        return None
    at = int(np.argmax(near >= 0.5 * loudest))
    return (first + at) * _HOP / RATE - due
