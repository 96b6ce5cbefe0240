"""Finding the beats of a recording, given about how fast it is.

The task: times of the beats a listener would tap, from the audio. An onset envelope (the rise in loudness over forty
bands) is followed by dynamic programming that trades strong onsets against an even pulse: D. Ellis, "Beat tracking by
dynamic programming", Journal of New Music Research 36 (2007). Beats somebody has tapped draw the path to themselves.
"""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.frames import framed
from gavotte.recording.player import RATE, Samples

HOP = 512
FRAME_SECONDS = HOP / RATE
_WINDOW = 2048
_CHUNK = 600
_BANDS = np.geomspace(60, 10_000, 41)
_LOW_HZ = 200.0
_EVENNESS = 100.0
_TAP_BONUS, _TAP_SPREAD = 3.0, 0.04
_USUAL_TEMPO, _TEMPO_OCTAVES = 130.0, 0.9


@dataclass(frozen=True)
class Onsets:
    """How much starts in each frame (HOP apart): in ``strength`` altogether, in ``low`` where a bass plays."""

    strength: NDArray[np.float64]
    low: NDArray[np.float64]


def onset_envelope(samples: Samples) -> Generator[float, None, NDArray[np.float64]]:
    """Go through a recording, yielding the share that is done; returns how much starts in each frame (HOP apart)."""
    onsets = yield from find_onsets(samples)
    return onsets.strength


def find_onsets(samples: Samples) -> Generator[float, None, Onsets]:
    """Go through a recording, yielding the share that is done; returns what starts where."""
    hertz = np.fft.rfftfreq(_WINDOW, 1 / RATE)
    width = RATE / _WINDOW
    bands = np.stack([(hertz >= low) & (hertz < max(high, low + 1.1 * width)) for low, high in _pairs(_BANDS)], axis=1)
    weights = bands.astype(np.float32)
    window = np.hanning(_WINDOW).astype(np.float32)
    parts = []
    for share, view in framed(samples, HOP, _WINDOW, _CHUNK):
        power = (np.abs(np.fft.rfft(view * window, axis=1)) @ weights) ** 2
        parts.append(10 * np.log10(np.maximum(power, 1e-8)))
        yield share
    loudness = np.concatenate(parts)
    loudness = np.maximum(loudness, loudness.max() - 80)
    rise = np.maximum(0, np.diff(loudness, axis=0, prepend=loudness[:1]))
    deep = rise[:, np.sqrt(_BANDS[1:] * _BANDS[:-1]) < _LOW_HZ]
    strength, low = (np.asarray(part / (part.std() + 1e-9), np.float64) for part in (rise.mean(1), deep.mean(1)))
    return Onsets(strength, low)


def _pairs(edges: NDArray[np.float64]) -> list[tuple[float, float]]:
    return [(float(low), float(high)) for low, high in pairwise(edges)]


def likely_tempo(envelope: NDArray[np.float64]) -> float:
    """The beats a minute an envelope repeats itself with, those a foot would tap preferred."""
    flat = envelope - envelope.mean()
    size = 1 << int(np.ceil(np.log2(2 * len(flat))))
    spectrum = np.fft.rfft(flat, size)
    same = np.fft.irfft(spectrum * spectrum.conj(), size)[: len(flat)]
    lags = np.arange(round(60 / 300 / FRAME_SECONDS), min(len(same), round(60 / 40 / FRAME_SECONDS)))
    if not len(lags):
        return _USUAL_TEMPO
    tempos = 60 / (lags * FRAME_SECONDS)
    preference = np.exp(-0.5 * (np.log2(tempos / _USUAL_TEMPO) / _TEMPO_OCTAVES) ** 2)
    return float(tempos[np.argmax(same[lags] * preference)])


@dataclass(frozen=True)
class Pulse:
    """The beats that were found without any being known: their ``times`` in seconds and the tempo they have.

    ``is_played``: whether a rhythm section plays nearly all of them; a soloist alone leaves many out, and then the
    beats are a guess.
    """

    times: tuple[float, ...]
    beats_a_minute: float
    is_played: bool


def find_pulse(onsets: Onsets, fewest: int = 0) -> Pulse:
    """The beats of a recording of which nothing is known but that it has at least ``fewest`` (those of its bars).

    Trackers take every second beat of fast tempos for the beat. It is told by three things: what lies in the middle
    between two beats is struck exactly there, not where a swung eighth is; the bass strikes there too; and there are
    fewer beats than the bars want.
    """
    tempo = likely_tempo(onsets.strength)
    times = find_beats(onsets.strength, tempo)
    if len(times) > _FEWEST and 2 * tempo <= _FASTEST and (
        _is_half(onsets, np.array(times)) or len(times) < _TOO_FEW * fewest
    ):  # fmt: skip
        faster = find_beats(onsets.strength, 2 * tempo)
        # Where all of the slower ones are struck and not all of the faster, the slower ones are the beat.
        if len(faster) > len(times) and (is_played(onsets, faster) or not is_played(onsets, times)):
            times, tempo = faster, 2 * tempo
    return Pulse(times, tempo, is_played(onsets, times))


_FEWEST = 8
_FASTEST = 340.0
_TOO_FEW = 0.75
_MIDDLE, _SWUNG = (0.48, 0.5, 0.52), (0.57, 0.6, 0.63, 0.66, 0.69)
_ALWAYS_LATE = 0.008
"""Seconds by which what is struck shows up later than the beat it belongs to."""

_BASS_BETWEEN = 0.3
_MISSED, _PLAYED, _REACH = 0.35, 0.9, 0.025


def _is_half(onsets: Onsets, beats: NDArray[np.float64]) -> bool:
    """Whether these are every second beat only."""
    clock = np.arange(len(onsets.strength)) * FRAME_SECONDS

    def struck(envelope: NDArray[np.float64], parts: Sequence[float]) -> float:
        return max(
            float(np.interp(beats[:-1] + part * np.diff(beats) + _ALWAYS_LATE, clock, envelope).mean())
            for part in parts
        )

    between = struck(onsets.strength, _MIDDLE) > struck(onsets.strength, _SWUNG)
    return between and struck(onsets.low, _MIDDLE) > _BASS_BETWEEN * struck(onsets.low, (0.0,))


def is_played(onsets: Onsets, beats: Sequence[float]) -> bool:
    """Whether nearly every beat is struck, as a rhythm section does."""
    if len(beats) <= _FEWEST:
        return False
    clock = np.arange(len(onsets.strength)) * FRAME_SECONDS
    around = np.array(beats)[:, None] + np.linspace(-_REACH, _REACH, 5)
    struck = np.interp(around, clock, onsets.strength).max(axis=1)
    return bool((struck > _MISSED * np.median(struck)).mean() >= _PLAYED)


def find_beats(envelope: NDArray[np.float64], beats_a_minute: float, taps: Sequence[float] = ()) -> tuple[float, ...]:
    """The beats in seconds, for a tempo that may waver by about a tenth; ``taps`` are beats that are known."""
    period = 60 / beats_a_minute / FRAME_SECONDS
    if len(envelope) < 2 * period or not envelope.any():
        return ()
    score = _smoothed(envelope, period)
    times = np.arange(len(score)) * FRAME_SECONDS
    for tap in taps:
        score = score + _TAP_BONUS * np.exp(-0.5 * ((times - tap) / _TAP_SPREAD) ** 2)
    lags = np.arange(-int(2 * period), -round(period / 2) + 1)
    price = -_EVENNESS * np.log(-lags / period) ** 2
    total, back = score.copy(), np.full(len(score), -1)
    floor = 0.01 * score.max()
    for frame in range(-int(lags[-1]), len(score)):
        reachable = lags + frame >= 0
        ways = total[lags[reachable] + frame] + price[reachable]
        best = int(np.argmax(ways))
        # A path that has gathered nothing yet may begin here.
        if ways[best] > 0 or score[frame] < floor:
            total[frame] += ways[best]
            back[frame] = frame + lags[reachable][best]
    path = [len(total) - 1 - int(np.argmax(total[::-1][: max(1, int(period))]))]
    while back[path[-1]] >= 0:
        path.append(int(back[path[-1]]))
    return _with_edges_cut(np.array(path[::-1]), envelope)


def _smoothed(envelope: NDArray[np.float64], period: float) -> NDArray[np.float64]:
    reach = np.arange(-int(period), int(period) + 1)
    bell = np.exp(-0.5 * (reach * 32 / period) ** 2)
    smooth = np.convolve(envelope, bell, "same")
    return np.asarray(smooth / (smooth.std() + 1e-9))


def _with_edges_cut(path: NDArray[np.int64], envelope: NDArray[np.float64]) -> tuple[float, ...]:
    """Without the beats before the music begins and after it has ended."""
    near = np.array([envelope[max(0, frame - 2) : frame + 3].max() for frame in path])
    sounding = np.flatnonzero(near > 0.3 * np.median(near))
    if not len(sounding):
        return ()
    return tuple(float(frame * FRAME_SECONDS) for frame in path[sounding[0] : sounding[-1] + 1])
