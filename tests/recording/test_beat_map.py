from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.recording.beat_map import (
    CLOSEST,
    Alignment,
    BeatMap,
    continued,
    doubled,
    from_taps,
    halved,
    with_beat,
    with_beat_moved,
    with_downbeat,
    with_taps,
    without_beat,
)
from gavotte.solo.bars import BarGrid

EVEN = BeatMap(tuple(0.5 * k for k in range(12)), 4)
maps = st.lists(st.floats(0.11, 3), min_size=2, max_size=30).flatmap(
    lambda steps: st.integers(0, len(steps) - 1).map(
        lambda down: BeatMap(tuple(sum(steps[: k + 1]) for k in range(len(steps))), down)
    )
)


def test_taps_make_a_map_and_double_taps_count_once() -> None:
    assert from_taps([1.0, 0.5, 1.03, 1.5]).times == (0.5, 1.0, 1.5)


def test_tapping_again_replaces_what_is_tapped_over() -> None:
    changed = with_taps(EVEN, [2.02, 2.53, 3.01])
    assert changed.times == (0.0, 0.5, 1.0, 1.5, 2.02, 2.53, 3.01, 3.5, 4.0, 4.5, 5.0, 5.5)
    assert changed.downbeat == 4


@given(maps, st.data())
def test_beats_stay_in_order_and_apart(beats: BeatMap, data: st.DataObject) -> None:
    index = data.draw(st.integers(0, len(beats.times) - 1))
    seconds = data.draw(st.floats(0, 60))
    for changed in (
        with_beat_moved(beats, index, seconds),
        with_beat(beats, seconds),
        without_beat(beats, index),
        with_taps(beats, [seconds, seconds + 0.5]),
        doubled(beats),
        halved(beats),
        with_downbeat(beats, index),
        continued(beats, beats.times[-1] + 5),
    ):
        assert all(b > a for a, b in pairwise(changed.times))
        assert 0 <= changed.downbeat < max(1, len(changed.times))


@given(maps)
def test_halving_undoes_doubling(beats: BeatMap) -> None:
    assert halved(doubled(beats)) == beats


def test_a_beat_moves_between_its_neighbours_only() -> None:
    assert with_beat_moved(EVEN, 3, 1.6).times[3] == 1.6
    assert with_beat_moved(EVEN, 3, 9.0).times[3] == pytest.approx(2.0 - CLOSEST)
    assert with_beat_moved(EVEN, 3, 0.2).times[3] == pytest.approx(1.0 + CLOSEST)


def test_the_downbeat_keeps_its_place_when_beats_come_and_go() -> None:
    assert with_beat(EVEN, 0.25).downbeat == 5
    assert without_beat(EVEN, 0).downbeat == 3
    assert without_beat(EVEN, 11).downbeat == 4


def test_tempo_and_nearest() -> None:
    assert EVEN.beats_a_minute(5) == pytest.approx(120)
    assert EVEN.nearest(1.74) == 3
    assert BeatMap().nearest(1.0) is None
    assert continued(EVEN, 7.0).times[-1] == pytest.approx(7.0)


def test_written_time_and_seconds_meet_at_the_beats() -> None:
    solo = make_solo([("C7", "C5/4 D5 E5 F5"), ("F7", "C5/1")])
    way = Alignment(EVEN, BarGrid(solo))
    assert way.seconds(Fraction(0)) == 2.0
    assert way.seconds(Fraction(4)) == 4.0
    assert way.seconds(Fraction(-1)) == 1.5
    assert way.quarters(2.25) == pytest.approx(0.5)
    assert way.quarters(0.0) == pytest.approx(-4)
    assert way.bars() == [(2.0, 1), (4.0, 2)]


def test_dotted_beats_and_rubato() -> None:
    solo = make_solo([("C7", "C5/8 D5 E5 F5 G5 A5 C5 D5 E5 F5 G5 A5")], meter="12/8")
    way = Alignment(BeatMap((1.0, 2.0, 4.0, 5.0, 6.0)), BarGrid(solo))
    assert way.seconds(Fraction(3, 2)) == 2.0
    assert way.seconds(Fraction(9, 4)) == 3.0, "the second beat is drawn out"
    assert way.quarters(4.5) == pytest.approx(3.75)


@given(maps, st.integers(-80, 640), st.sampled_from(["1", "11/10", "3/2", "5/2"]))
def test_the_way_back_is_the_way_there(beats: BeatMap, sixteenths: int, swing: str) -> None:
    way = Alignment(replace(beats, swing=Fraction(swing)), BarGrid(make_solo([("C7", "C5/1")] * 8)))
    time = Fraction(sixteenths, 16)
    assert way.quarters(way.seconds(time)) == pytest.approx(float(time), abs=1e-6)


def test_swing_moves_what_falls_between_the_beats_and_nothing_else() -> None:
    solo = make_solo([("C", "r/1"), ("C", "r/1")])
    way = Alignment(BeatMap(tuple(1 + 0.5 * k for k in range(9)), 0, Fraction(2)), BarGrid(solo))
    assert way.seconds(Fraction(1)) == pytest.approx(1.5)
    assert way.seconds(Fraction(3, 2)) == pytest.approx(1.5 + 0.5 * 2 / 3)
    assert way.seconds(Fraction(4, 3)) == pytest.approx(1.5 + 0.5 / 3)
    assert way.played(1.5 + 0.5 * 2 / 3) == pytest.approx(5 / 3)
    for onset in (Fraction(-1), Fraction(0), Fraction(1, 2), Fraction(9, 4), Fraction(15, 2), Fraction(11)):
        assert way.quarters(way.seconds(onset)) == pytest.approx(float(onset))


@pytest.mark.parametrize("change", [doubled, halved])
def test_beats_of_another_length_are_even_again(change: Callable[[BeatMap], BeatMap]) -> None:
    assert change(BeatMap((1.0, 1.5, 2.0, 2.5), 0, Fraction(2))).swing == 1


def test_moving_a_beat_keeps_the_swing() -> None:
    assert with_beat_moved(BeatMap((1.0, 1.5, 2.0), 0, Fraction(3, 2)), 1, 1.6).swing == Fraction(3, 2)
