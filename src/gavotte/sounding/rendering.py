"""A performance as samples, off the fast path."""

from __future__ import annotations

from collections.abc import Generator, Mapping
from typing import TYPE_CHECKING

from gavotte.sounding.engine import Engine
from gavotte.sounding.events import Performance, Voice
from gavotte.sounding.synth import SAMPLE_RATE, Synth

if TYPE_CHECKING:
    from gavotte.sounding.synth import Block

_BLOCK = 4410
RING = 1.5
"""Seconds that are kept behind the end: the last notes ring on."""


def rendered(
    performance: Performance,
    synth: Synth,
    levels: Mapping[Voice, float],
    rate: float = 1.0,
    ring: float = RING,
    lead: float = 0.0,
) -> Generator[float, None, Block]:
    """What a performance sounds like from its start on, at a share of its tempo, after ``lead`` seconds of silence:
    float32, shape (frames, 2), 44,100 Hz. Voices without a level are silent. Yields the share that is done.
    """
    import numpy as np

    engine = Engine(synth)
    for voice in Voice:
        engine.level(voice, levels.get(voice, 0.0))
    engine.set_rate(rate)
    engine.start(performance, performance.start, performance.end)
    length = max(0.0, performance.end - performance.start) / rate + ring
    blocks = [np.zeros((max(0, round(lead * SAMPLE_RATE)), 2), np.float32)]
    number = max(1, int(length * SAMPLE_RATE / _BLOCK))
    for k in range(number):
        blocks.append(engine.read(_BLOCK))
        yield k / number
    return np.concatenate(blocks)
