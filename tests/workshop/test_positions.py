from __future__ import annotations

import random
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.solo.document import Articulation, Mark, Note
from gavotte.solo.instruments import instrument_named
from gavotte.solo.strings import TUNINGS, fret_of, usual_tuning
from gavotte.solo.written import as_written
from gavotte.theory.pitch import spell
from gavotte.workshop.positions import (
    alternatives,
    cost_of_fingering,
    fingering,
    free_of_strings,
    next_fingering,
    place_at,
    with_fingering,
)

GUITAR, BASS = TUNINGS[0], TUNINGS[1]


def line(*midis: int, length: str = "1/2") -> list[Note]:
    each = Fraction(length)
    return [Note(f"n{k}", k * each, each, spell(midi, 0)) for k, midi in enumerate(midis)]


def test_a_major_scale_lies_in_one_position() -> None:
    found = fingering(line(60, 62, 64, 65, 67, 69, 71, 72), GUITAR)
    places = [place for place in found.places if place is not None]
    assert len(places) == 8
    assert max(place.hand for place in places) - min(place.hand for place in places) <= 1


@settings(max_examples=60, deadline=None)
@given(st.lists(st.integers(36, 90), min_size=1, max_size=30))
def test_every_place_sounds_its_pitch_and_no_other_has_one(midis: list[int]) -> None:
    notes = line(*midis)
    for note, place in zip(notes, fingering(notes, GUITAR).places, strict=True):
        on_strings = 40 <= note.pitch.midi <= 64 + 22
        assert (place is not None) == on_strings
        if place is not None:
            assert fret_of(note.pitch.midi, place.string, GUITAR) == place.fret
            assert 0 <= place.finger <= 4
            assert (place.finger == 0) == (place.fret == 0)


@settings(max_examples=40, deadline=None)
@given(st.lists(st.integers(40, 80), min_size=2, max_size=12), st.integers(0, 10_000))
def test_no_other_fingering_of_the_line_is_easier(midis: list[int], seed: int) -> None:
    notes, chance = line(*midis), random.Random(seed)
    found = fingering(notes, GUITAR)
    for _ in range(5):
        strings = []
        for note in notes:
            there = [s for s in range(1, 7) if fret_of(note.pitch.midi, s, GUITAR) is not None]
            strings.append(chance.choice(there))
        other = fingering([replace(n, string=s) for n, s in zip(notes, strings, strict=True)], GUITAR)
        assert found.cost <= other.cost + 1e-6
    assert found.cost == pytest.approx(cost_of_fingering(notes, found.places), abs=0.01)


def test_a_slide_stays_on_its_string() -> None:
    notes = line(64, 69, 71)
    free = fingering(notes, GUITAR).places
    assert free[0] is not None
    assert free[1] is not None
    slid = [replace(notes[0], marks=(Mark(Articulation.SLIDE),)), *notes[1:]]
    first, second, _ = fingering(slid, GUITAR).places
    assert first is not None
    assert second is not None
    assert first.string == second.string


def test_a_string_that_is_written_is_kept() -> None:
    notes = [replace(line(64)[0], string=4), *line(64, 66)[1:]]
    place = fingering(notes, GUITAR).places[0]
    assert place is not None
    assert (place.string, place.fret) == (4, 14)


def test_alternatives_differ_and_come_round() -> None:
    notes = line(60, 63, 67, 70, 69, 66, 63, 61)
    found = alternatives(notes, GUITAR)
    strings = [tuple(p.string for p in one.places if p is not None) for one in found]
    assert len(found) > 2
    assert [one.cost for one in found] == sorted(one.cost for one in found)
    solo = replace(make_solo([("Cm7", "C4/1")], key="C minor"), notes=tuple(notes))
    seen = []
    for _ in range(len(found) + 1):
        chosen = next_fingering(solo.notes, GUITAR)
        solo = with_fingering(solo, dict(zip((n.id for n in solo.notes), chosen.places, strict=True)))
        seen.append(tuple(note.string for note in solo.notes))
    assert seen[: len(found)] == strings
    assert seen[-1] == seen[0]
    assert not any(note.string or note.finger for note in free_of_strings(solo, [n.id for n in solo.notes]).notes)


def test_a_players_fingering_is_reckoned_by_the_same_costs() -> None:
    notes = line(60, 62, 64)
    good = cost_of_fingering(notes, [place_at(3, 5, 1), place_at(3, 7, 3), place_at(2, 5, 1)])
    bad = cost_of_fingering(notes, [place_at(3, 5, 1), place_at(5, 17, 1), place_at(1, 0, 0)])
    assert good < bad


def test_the_tuning_follows_the_part_into_written_pitch() -> None:
    guitar, trumpet = instrument_named("Guitar"), instrument_named("Trumpet")
    assert guitar is not None
    assert trumpet is not None
    assert usual_tuning(guitar) == GUITAR
    assert usual_tuning(trumpet) is None
    solo = replace(make_solo([("C", "E4/1")], key="C major"), instrument=guitar)
    written = as_written(solo)
    tuning = usual_tuning(written.instrument)
    assert tuning is not None
    assert fret_of(written.notes[0].pitch.midi, 1, tuning) == fret_of(solo.notes[0].pitch.midi, 1, GUITAR) == 0


def test_a_bass_has_four_strings() -> None:
    places = fingering(line(28, 33, 38, 43), BASS).places
    assert all(place is not None and 1 <= place.string <= 4 for place in places)
    assert places[0] is not None
    assert (places[0].string, places[0].fret) == (4, 0)
