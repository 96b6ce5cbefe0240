"""Where it is played and how it was recorded: room, hiss, stereo sides, a band bleeding in, an old record."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, fftconvolve, sosfilt

from gavotte.recording.player import RATE

Sound = NDArray[np.float32]
_SHARP = 2 ** (35 / 1200)
_WOW, _WOW_HZ = 0.003, 0.55


def roomy(sound: Sound, seconds: float, share: float, seed: int) -> Sound:
    """A sound in a room: an impulse of fading noise, its highs fading first, ``share`` as loud as the sound itself."""
    chance = np.random.default_rng(seed)
    times = np.arange(int(1.2 * seconds * RATE)) / RATE
    tail = chance.normal(0, 1, len(times)) * np.exp(-6.9 * times / seconds)
    dark = sosfilt(butter(1, 2500, "lowpass", fs=RATE, output="sos"), tail * np.minimum(1, times / 0.1))
    impulse = tail * np.exp(-times / 0.08) + 1.5 * dark
    impulse[: int(0.008 * RATE)] = 0
    for _ in range(6):
        impulse[int(chance.uniform(0.008, 0.05) * RATE)] += chance.uniform(2, 5) * chance.choice((-1, 1))
    wet = fftconvolve(sound, impulse)[: len(sound)]
    loud = float(np.sqrt((wet**2).mean())) or 1.0
    return (sound + share * wet * float(np.sqrt((sound**2).mean())) / loud).astype(np.float32)


def mixed(
    solo: Sound, band: Sound | None, decibels: float, side: float = 0.0, hiss: float = -58.0, seed: int = 0
) -> NDArray[np.int16]:
    """Solo (mono) and band (mono) in stereo, the band this much louder in the mean; ``side`` -1 to 1 is where the
    soloist stands.

    ``hiss`` is its level below the soloist in decibels.
    """
    chance = np.random.default_rng(seed)
    level = float(np.sqrt((solo**2).mean())) or 1.0
    count = len(solo)
    left, right = solo * np.float32(min(1, 1 - side)), solo * np.float32(min(1, 1 + side))
    if band is not None:
        other = band[:count] * np.float32(level / (float(np.sqrt((band**2).mean())) or 1.0) * 10 ** (decibels / 20))
        left, right = left + other, right + other
    noise = chance.normal(0, level * 10 ** (hiss / 20), (2, count)).astype(np.float32)
    both = np.stack([left, right], axis=1) + noise.T
    return (both / np.abs(both).max() * 28000).astype(np.int16)


def old_record(sound: NDArray[np.int16], seed: int) -> NDArray[np.int16]:
    """35 cents sharp, with wow, noise and crackle, and no lows or highs."""
    chance = np.random.default_rng(seed)
    seconds = np.arange(int(len(sound) / _SHARP)) / RATE
    places = np.cumsum(_speed(seconds))
    places = places[places < len(sound) - 1]
    mono = sound.astype(np.float64).mean(axis=1)
    out = np.interp(places, np.arange(len(mono)), mono)
    band = butter(4, (180, 4500), "bandpass", fs=RATE, output="sos")
    noise = chance.normal(0, 1, len(out)) * np.sqrt((out**2).mean()) * 10 ** (-22 / 20)
    crackle = (chance.random(len(out)) < 12 / RATE) * chance.normal(0, 1, len(out)) * np.abs(out).max() * 0.5
    out = sosfilt(band, out + noise + crackle)
    out = out / np.abs(out).max() * 28000
    return np.stack([out, out], axis=1).astype(np.int16)


def in_old_record(seconds: NDArray[np.float64]) -> NDArray[np.float64]:
    """Where times of the clean recording lie in the old record."""
    clock = np.arange(int(seconds.max() * RATE) + RATE) / RATE
    return np.interp(seconds, np.cumsum(_speed(clock)) / RATE, clock)


def _speed(seconds: NDArray[np.float64]) -> NDArray[np.float64]:
    return np.asarray(_SHARP * (1 + _WOW * np.sin(2 * np.pi * _WOW_HZ * seconds)))
