"""The line as the path through rests and pitches that explains most of what was heard.

Every frame the line rests or sounds one pitch. It stays, glides to a pitch beside (a bend, a scoop: still the same
note), rests, or begins a note, also one of the same pitch. The best path is found by dynamic programming (A. Viterbi,
1967) over the log odds of what sounds and what begins; wide leaps cost a little more than steps.
"""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way

Floats = NDArray[np.float32]
Logs = NDArray[np.float64]

_BLOCK = 400
_NEW, _GLIDE = 1, 2
"""How a frame came to its pitch; 0 where it only stays."""


@dataclass(frozen=True)
class Prices:
    """What the path trades: weights of the log odds of sounding and beginning, and what each change costs."""

    sounding: float = 0.45
    beginning: float = 1.3
    begin: float = -1.1
    again: float = 0.0
    rest: float = 0.0
    leap: float = 0.13
    glide: float = 1.1


PRICES = Prices()


@dataclass(frozen=True)
class Stretch:
    """A note on the path: frames from ``first`` up to ``last`` (not with it), the pitch (from the lowest) of each."""

    first: int
    last: int
    pitches: NDArray[np.int16]


def log_odds(shares: Floats, most: float) -> Logs:
    """The log odds of shares, not beyond ``most`` either way."""
    bounded = np.clip(shares.astype(np.float64), 1e-6, 1 - 1e-6)
    return np.asarray(np.clip(np.log(bounded / (1 - bounded)), -most, most))


def best_path(sounds: Floats, begins: Floats, prices: Prices = PRICES) -> Generator[float, None, list[Stretch]]:
    """The notes of the best path, yielding the share that is done.

    ``sounds`` and ``begins``: how likely the line sounds and begins, shape (frames, pitches).
    """
    frames, width = sounds.shape
    if not frames:
        return []
    emitted = np.zeros((frames, width + 1), np.float32)
    emitted[:, 1:] = prices.sounding * log_odds(sounds, 5)
    begun = (prices.beginning * log_odds(begins, 5) - prices.begin).astype(np.float32)
    leap = _leaps(width, prices)
    states = np.arange(width + 1)
    score = emitted[0].astype(np.float64)
    score[1:] += begun[0]
    came = np.zeros((frames, width + 1), np.int16)
    how = np.zeros((frames, width + 1), np.int8)
    how[0, 1:] = _NEW
    for frame in range(1, frames):
        give_way()
        if frame % _BLOCK == 0:
            yield frame / frames
        best, source, kind = score.copy(), states.copy(), np.zeros(width + 1, np.int8)
        # To rest.
        loudest = 1 + int(np.argmax(score[1:]))
        if score[loudest] - prices.rest > best[0]:
            best[0], source[0], kind[0] = score[loudest] - prices.rest, loudest, _NEW
        # Gliding a semitone.
        for side in (1, -1):
            there = slice(2, None) if side > 0 else slice(1, -1)
            here = slice(1, -1) if side > 0 else slice(2, None)
            gliding = score[here] - prices.glide
            better = gliding > best[there]
            best[there] = np.where(better, gliding, best[there])
            source[there] = np.where(better, states[here], source[there])
            kind[there] = np.where(better, _GLIDE, kind[there])
        # A note begins.
        ways = score[:, None] + leap
        from_where = ways.argmax(axis=0)
        beginning = ways[from_where, np.arange(width)] + begun[frame]
        better = beginning > best[1:]
        best[1:] = np.where(better, beginning, best[1:])
        source[1:] = np.where(better, from_where, source[1:])
        kind[1:] = np.where(better, _NEW, kind[1:])
        score = best + emitted[frame]
        came[frame], how[frame] = source, kind
    return _stretches(came, how, int(np.argmax(score)))


def _leaps(width: int, prices: Prices) -> Logs:
    """What it costs to begin a note, by the state before (rest first) and the pitch begun."""
    away = np.abs(np.arange(width)[:, None] - np.arange(width)[None, :])
    costs = -prices.leap * np.maximum(0, away - 4.0)
    costs[away == 0] = -prices.again
    return np.concatenate([np.zeros((1, width)), costs])


def _stretches(came: NDArray[np.int16], how: NDArray[np.int8], state: int) -> list[Stretch]:
    found: list[Stretch] = []
    pitches: list[int] = []
    last = len(came)
    for frame in range(len(came) - 1, -1, -1):
        give_way()
        kind, before = int(how[frame, state]), int(came[frame, state])
        if state > 0:
            if not pitches:
                last = frame + 1
            pitches.append(state - 1)
            if kind == _NEW or frame == 0:
                found.append(Stretch(frame, last, np.array(pitches[::-1], np.int16)))
                pitches = []
        state = before
    return found[::-1]
