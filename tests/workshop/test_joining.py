from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import parse_chord_symbol
from gavotte.theory.scale import collection_pitch_classes
from gavotte.workshop.approach import WAYS, approach_pitches
from gavotte.workshop.joining import FIFTH, Ground, on_beats, ways
from gavotte.workshop.tones import tones_of

CHORD = parse_chord_symbol("G7")
assert isinstance(CHORD, Chord)
SCALE = collection_pitch_classes("mixolydian", 7)
GROUND = Ground(CHORD, SCALE, on_beats(Fraction(1, 2), 8, Fraction(1, 2)))


@settings(max_examples=80, deadline=None)
@given(st.integers(50, 84), st.integers(50, 84), st.integers(1, 8))
def test_every_way_has_as_many_notes_and_repeats_none(start: int, goal: int, count: int) -> None:
    found = ways(start, goal, count, GROUND)
    assert found
    assert all(len(way.pitches) == count for way in found)
    assert len({way.pitches for way in found}) == len(found)
    assert [way.cost for way in found] == sorted(way.cost for way in found)
    for first, second in pairwise((start, *found[0].pitches, goal)):
        assert first != second


@settings(max_examples=80, deadline=None)
@given(st.integers(50, 84), st.integers(50, 84), st.integers(1, 8))
def test_no_way_leaps_over_a_fifth_unless_there_is_no_other(start: int, goal: int, count: int) -> None:
    line = (start, *ways(start, goal, count, GROUND)[0].pitches, goal)
    widest = max(abs(b - a) for a, b in pairwise(line))
    can_be = abs(goal - start) <= FIFTH * (count + 1)
    assert widest <= FIFTH or not can_be


def test_the_scale_is_one_way_and_an_enclosure_another() -> None:
    found = {way.words: way.pitches for way in ways(62, 67, 2, GROUND)}
    assert (64, 65) in found.values()
    assert found["enclosed: half steps above and below"] == (68, 66)


def test_with_no_note_between_it_goes_straight_on() -> None:
    (way,) = ways(60, 64, 0, GROUND)
    assert way.pitches == ()


@pytest.mark.parametrize("way", list(WAYS))
def test_approaches_lie_about_their_goal(way: str) -> None:
    pitches = approach_pitches(67, way, tones_of(SCALE))
    assert all(0 < abs(pitch - 67) <= 2 for pitch in pitches)
    assert len(pitches) == len(WAYS[way][1])


def test_tones_are_numbered_whatever_the_scale_holds() -> None:
    pentatonic = tones_of(collection_pitch_classes("minor pentatonic", 0))
    assert [pentatonic.midi(pentatonic.place(60)[0] + k) for k in range(6)] == [60, 63, 65, 67, 70, 72]
    assert pentatonic.place(61) == (pentatonic.place(60)[0], 1)
    assert pentatonic.nearest(62) == pentatonic.place(63)[0]
