"""Quarter notes and seconds: tempo, tempo changes, swing, pickups."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.demo.solos import ferry
from gavotte.solo.document import TempoChange
from gavotte.sounding.timeline import Timeline

HALF, TWO_TO_ONE = Fraction(1, 2), Fraction(2)


def test_a_quarter_note_at_120_lasts_half_a_second() -> None:
    solo = replace(make_solo([("C", "C4/4 D4 E4 F4")]), tempo=Fraction(120))
    timeline = Timeline(solo)
    assert [timeline.seconds(Fraction(k)) for k in range(5)] == [0, 0.5, 1, 1.5, 2]


def test_a_change_of_tempo_counts_from_where_it_stands() -> None:
    solo = replace(
        make_solo([("C", "C4/1"), ("C", "C4/1")]),
        tempo=Fraction(60),
        tempo_changes=(TempoChange(Fraction(4), Fraction(120)),),
    )
    timeline = Timeline(solo)
    assert timeline.seconds(Fraction(4)) == 4
    assert timeline.seconds(Fraction(8)) == 6


@pytest.mark.parametrize(
    ("onset", "played"),
    [
        (Fraction(1, 2), Fraction(2, 3)),
        (Fraction(1, 4), Fraction(1, 3)),
        (Fraction(3, 4), Fraction(5, 6)),
        (Fraction(1, 3), Fraction(1, 3)),
        (Fraction(2, 3), Fraction(2, 3)),
        (Fraction(3), Fraction(3)),
        (Fraction(7, 2), Fraction(11, 3)),
    ],
)
def test_swing_delays_what_lies_between_beats_and_leaves_triplets(onset: Fraction, played: Fraction) -> None:
    timeline = Timeline(make_solo([("C", "C4/1")]), TWO_TO_ONE)
    assert timeline.swung(onset) == played


def test_compound_meters_do_not_swing() -> None:
    timeline = Timeline(make_solo([("C", "C4/8 D4 E4 F4 G4 A4 B4 C5 D5 E5 F5 G5")], meter="12/8"), TWO_TO_ONE)
    assert timeline.swung(HALF) == HALF


def test_a_pickup_sounds_before_zero() -> None:
    timeline = Timeline(ferry())
    assert timeline.start == -1
    assert timeline.seconds(timeline.start) == pytest.approx(-60 / 148)


@given(st.integers(0, 400), st.sampled_from([Fraction(1), Fraction(3, 2), Fraction(2), Fraction(3)]))
def test_swung_times_keep_their_order_and_stay_in_their_beat(steps: int, swing: Fraction) -> None:
    timeline = Timeline(ferry(), swing)
    here, there = Fraction(steps, 8), Fraction(steps + 1, 8)
    assert timeline.seconds(here) < timeline.seconds(there)
    assert int(timeline.swung(here)) == int(here)


def test_what_sounds_is_found_on_the_page_again() -> None:
    solo = ferry()
    timeline = Timeline(solo, TWO_TO_ONE)
    for note in solo.notes:
        assert timeline.quarters(timeline.seconds(note.onset)) == pytest.approx(float(note.onset))
