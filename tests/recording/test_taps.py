from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gavotte.recording.taps import evened


def beats(count: int = 64, step: float = 0.4, wander: float = 0.0, seed: int = 0) -> np.ndarray:
    chance = np.random.default_rng(seed)
    return 1 + np.cumsum(step + np.cumsum(chance.normal(0, wander, count)))


def by_foot(true: np.ndarray, seed: int = 1) -> np.ndarray:
    return true + np.random.default_rng(seed).normal(0, 0.02, len(true))


@pytest.mark.parametrize("step", [0.25, 0.4, 0.7])
def test_taps_of_a_steady_tempo_come_within_a_few_milliseconds(step: float) -> None:
    true = beats(step=step)
    found = np.array(evened(by_foot(true)))
    assert len(found) == len(true)
    assert np.sqrt(((found - true) ** 2).mean()) < 0.009


def test_a_tempo_that_wanders_is_followed() -> None:
    true = beats(wander=0.004)
    found = np.array(evened(by_foot(true)))
    assert np.sqrt(((found - true) ** 2).mean()) < 0.015


def test_a_beat_that_was_skipped_is_put_in_and_one_struck_twice_is_dropped() -> None:
    true = beats(40)
    taps = np.delete(by_foot(true), [7, 20, 21])
    taps = np.sort(np.append(taps, true[30] + 0.1))
    found = np.array(evened(taps))
    assert len(found) == 40
    assert np.abs(found - true).max() < 0.03


def test_one_tap_far_off_moves_its_neighbours_little() -> None:
    true = beats(40)
    taps = true.copy()
    taps[17] += 0.12
    assert np.abs(np.array(evened(taps)) - true).max() < 0.02


def test_a_pause_is_no_run_of_skipped_beats() -> None:
    first, second = beats(16, 0.5), 30.2 + beats(16, 0.5)
    assert len(evened([*first, *second])) == 32


@given(st.lists(st.floats(0.11, 3), max_size=40))
def test_whatever_is_tapped_beats_rise(steps: list[float]) -> None:
    found = evened(np.cumsum(steps))
    assert all(b > a for a, b in pairwise(found))
    assert len(found) >= min(1, len(steps))
