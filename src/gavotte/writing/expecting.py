"""What the chords lead one to expect: a little more the tones of the chord, a little less those outside its scale."""

from __future__ import annotations

from bisect import bisect_right

import numpy as np
from numpy.typing import NDArray

from gavotte.labelling.local_scale import local_scale
from gavotte.recording.beat_map import Alignment
from gavotte.recording.draft import Expected
from gavotte.solo.document import Solo
from gavotte.theory.chord import Chord

_WEIGHT = 0.3
"""Log odds by which a chord tone is likelier, and a tone outside the scale less likely, to begin than another."""


def expected_by_chords(solo: Solo, alignment: Alignment) -> Expected:
    """Gives, for times in seconds and pitches as MIDI numbers, the log odds to be added, shape (times, pitches)."""
    starts = [float(event.onset) for event in solo.chords]
    rows = [_row(solo, index) for index in range(len(solo.chords))]

    def expected(times: NDArray[np.float64], pitches: NDArray[np.int64]) -> NDArray[np.float64]:
        found = np.zeros((len(times), len(pitches)))
        for frame, time in enumerate(times):
            index = bisect_right(starts, alignment.played(float(time))) - 1
            if index >= 0:
                found[frame] = rows[index][pitches % 12]
        return found

    return expected


def _row(solo: Solo, index: int) -> NDArray[np.float64]:
    """The weights of the twelve pitch classes over a chord."""
    event = solo.chords[index]
    if not isinstance(event.symbol, Chord):
        return np.zeros(12)
    following = solo.chords[index + 1].symbol if index + 1 < len(solo.chords) else None
    scale = local_scale(event.symbol, following if isinstance(following, Chord) else None, solo.key_at(event.onset))
    return np.array(
        [
            _WEIGHT if pitch_class in event.symbol.tone_classes else 0.0 if pitch_class in scale else -_WEIGHT
            for pitch_class in range(12)
        ]
    )
