from __future__ import annotations

import numpy as np
import pytest
from numpy.typing import NDArray

from gavotte.recording.player import RATE
from gavotte.recording.salience import FRAME_SECONDS, LOWEST, PER_SEMITONE, Salience, find_salience


def seen(samples: NDArray[np.int16]) -> Salience:
    steps = find_salience(samples)
    shares = []
    while True:
        try:
            shares.append(next(steps))
        except StopIteration as end:
            found = end.value
            break
    assert shares == sorted(shares)
    assert shares[-1] == 1
    assert isinstance(found, Salience)
    return found


def voice(midi: NDArray[np.float64], level: float = 3000) -> NDArray[np.float64]:
    """A voice with ten partials on a course of pitches, one for every frame."""
    phase = np.cumsum(2 * np.pi * 440 * 2 ** ((midi - 69) / 12) / RATE)
    return level * np.asarray(sum(np.sin(n * phase) / n for n in range(1, 11)))


def stereo(mono: NDArray[np.float64]) -> NDArray[np.int16]:
    return np.repeat(np.clip(mono, -32000, 32000).astype(np.int16)[:, None], 2, axis=1)


@pytest.mark.parametrize("midi", [45, 52, 60, 67, 76, 88])
def test_the_pitch_that_sounds_is_the_strongest(midi: int) -> None:
    picture = seen(stereo(voice(np.full(RATE, float(midi)))))
    frame = picture.values[len(picture.values) // 2]
    assert picture.pitch_of(int(np.argmax(frame))) == pytest.approx(midi, abs=0.25)
    assert frame[(midi - LOWEST) * PER_SEMITONE] > 200
    if midi >= 52:
        octave_below = frame[max(0, (midi - 12 - LOWEST) * PER_SEMITONE)]
        assert octave_below < 0.6 * frame.max()


def test_a_note_under_a_chord_is_still_seen() -> None:
    length = np.ones(2 * RATE)
    chord = sum(voice(length * midi, 1500) for midi in (48, 55, 64))
    picture = seen(stereo(chord + voice(length * 70, 3000)))
    assert picture.strongest(1.0, 70) == pytest.approx(70, abs=0.15)


def test_a_bend_can_be_read_to_a_few_cents() -> None:
    times = np.arange(2 * RATE) / RATE
    course = 69 + 2 * np.clip((times - 0.5) / 0.6, 0, 1)
    picture = seen(stereo(voice(course)))
    assert picture.strongest(0.3, 69) == pytest.approx(69, abs=0.08)
    assert picture.strongest(0.8, 70) == pytest.approx(70, abs=0.15)
    assert picture.strongest(1.6, 71) == pytest.approx(71, abs=0.08)


def test_where_nothing_sounds_nothing_is_read() -> None:
    picture = seen(np.zeros((RATE, 2), np.int16))
    assert picture.values.max() == 0
    assert picture.strongest(0.5, 60) is None
    assert picture.strongest(99.0, 60) is None
    assert len(picture.values) == pytest.approx(1 / FRAME_SECONDS, abs=1)
