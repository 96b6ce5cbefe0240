"""On which side of a stereo recording a soloist stands: where one voice is followed best by itself.

Old stereo records often have the soloist on one side and the band on the other; listening to that side alone is as
good as turning the band down.
"""

from __future__ import annotations

from collections.abc import Generator

import numpy as np
from numpy.typing import NDArray

from gavotte.recording.filters import Side
from gavotte.recording.lead import VOICED, find_lead
from gavotte.recording.player import RATE, Samples
from gavotte.steps import scaled

_EXCERPTS, _SECONDS = 3, 6.0
_CLEARLY = 0.08
"""How much larger a share of the time one voice must be heard on a side than in both together."""

_ALIKE = 0.02
_SIDES = (Side.BOTH, Side.LEFT, Side.RIGHT)


class OneSide:
    """A recording's frames with one channel on both sides: int16, shape (frames, 2)."""

    def __init__(self, samples: Samples, side: Side) -> None:
        self._samples, self._channel = samples, 0 if side is Side.LEFT else 1

    def __len__(self) -> int:
        return len(self._samples)

    def __getitem__(self, index: slice, /) -> NDArray[np.int16]:
        one = np.asarray(self._samples[index])[:, self._channel]
        return np.stack([one, one], axis=1)


def on_one_side(samples: Samples, side: Side) -> Samples:
    """The recording as it is heard on a side."""
    return samples if side is Side.BOTH else OneSide(samples, side)


def find_side(samples: Samples, lowest: int, highest: int, start: float, end: float) -> Generator[float, None, Side]:
    """The side on which a voice between two MIDI numbers stands out from ``start`` to ``end`` seconds.

    Both where they are alike, or neither is clearly better. Yields the share that is done.
    """
    length = max(0.0, end - start - _SECONDS)
    places = [start + length * (k + 0.5) / _EXCERPTS for k in range(_EXCERPTS)]
    if not any(_differ(samples, place) for place in places):
        return Side.BOTH
    heard = dict.fromkeys(_SIDES, 0.0)
    done, every = 0, len(_SIDES) * len(places)
    for side in _SIDES:
        for place in places:
            steps = find_lead(on_one_side(samples, side), lowest, highest, place, min(end, place + _SECONDS))
            lead = yield from scaled(steps, done / every, (done + 1) / every)
            heard[side] += float((lead.confidence >= VOICED).mean()) / len(places) if len(lead.confidence) else 0.0
            done += 1
    best = max((Side.LEFT, Side.RIGHT), key=lambda side: heard[side])
    return best if heard[best] > heard[Side.BOTH] + _CLEARLY else Side.BOTH


def _differ(samples: Samples, place: float) -> bool:
    """Whether the two channels are different there."""
    first = round(place * RATE)
    block = np.asarray(samples[first : first + round(_SECONDS * RATE)]).astype(np.float32)
    if not len(block):
        return False
    between = block[:, 0] - block[:, 1]
    return float(np.abs(between).mean()) > _ALIKE * float(np.abs(block).mean() + 1)
