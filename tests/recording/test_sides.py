from __future__ import annotations

import numpy as np
import pytest
from numpy.typing import NDArray
from tests.conftest import whole

from gavotte.recording.draft import Player, find_draft
from gavotte.recording.filters import Side
from gavotte.recording.player import RATE
from gavotte.recording.sides import find_side, on_one_side


def record(left: float, right: float) -> NDArray[np.int16]:
    """A line that stands where its two levels say, among chords and noise from everywhere."""
    times, chance = np.arange(8 * RATE) / RATE, np.random.default_rng(0)
    line = np.concatenate([tone(midi, 0.25) for midi in (60, 64, 67, 71, 72, 69, 65, 62) * 4])
    band = sum(np.sin(2 * np.pi * 440 * 2 ** ((midi - 69) / 12) * times + midi) for midi in (50, 53, 57, 60, 64, 67))
    band = 0.5 * np.asarray(band) + chance.normal(0, 0.3, len(times))
    both = np.stack([left * line + band, right * line + band], axis=1)
    return (both / np.abs(both).max() * 25000).astype(np.int16)


def tone(midi: int, seconds: float) -> NDArray[np.float64]:
    times = np.arange(round(seconds * RATE)) / RATE
    hertz = 440 * 2 ** ((midi - 69) / 12)
    sound = sum(0.7**k * np.sin(2 * np.pi * hertz * k * times) for k in range(1, 9))
    return np.asarray(sound * np.minimum(1, times / 0.01) * np.minimum(1, (seconds - times) / 0.02))


@pytest.mark.parametrize(("left", "right", "side"), [(1.2, 0, Side.LEFT), (0, 1.2, Side.RIGHT), (1, 1, Side.BOTH)])
def test_the_side_on_which_the_line_stands_is_found(left: float, right: float, side: Side) -> None:
    assert whole(find_side(record(left, right), 50, 84, 0.0, 8.0)) is side


def test_a_draft_listens_to_that_side_and_says_so() -> None:
    draft = whole(find_draft(record(0, 1.2), Player(50, 84, 0.0)))
    assert draft.side is Side.RIGHT
    assert len(draft.notes) == pytest.approx(32, abs=4)


def test_a_recording_on_one_side_has_it_on_both() -> None:
    sound = record(1, 0)
    one = on_one_side(sound, Side.RIGHT)
    assert len(one) == len(sound)
    assert np.array_equal(one[100:200], np.stack([sound[100:200, 1]] * 2, axis=1))
    assert on_one_side(sound, Side.BOTH) is sound


@pytest.mark.parametrize("frames", [0, 5, RATE])
def test_next_to_nothing_stands_nowhere(frames: int) -> None:
    assert whole(find_side(np.zeros((frames, 2), np.int16), 50, 84, 0.0, frames / RATE)) is Side.BOTH
