"""The checks a transcriber works with, and strings."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.solo.instruments import instrument_named
from gavotte.solo.strings import TUNINGS, Tuning, fret_of, places
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import PitchError
from gavotte.writing.checks import writing_checks
from gavotte.writing.pitches import moved_by_octaves

CLEAN = make_solo(
    [
        ("Dm7", "D5/8 F5 A5 C6 B5 A5 F5 D5"),
        ("G7", "B4/8 D5 F5 G5 A5 F5 D5 B4"),
        ("Cmaj7", "C5/8 E5 G5 B5 A5 G5 E5 C5"),
    ]
)


def words(solo: object) -> list[str]:
    return [finding.message for finding in writing_checks(solo)]  # type: ignore[arg-type]


def test_a_clean_line_gives_nothing_to_do() -> None:
    assert words(CLEAN) == []


@pytest.mark.parametrize("make", DEMO_SOLOS, ids=lambda make: make.__name__)
def test_the_demo_solos_give_no_false_alarms(make: object) -> None:
    assert words(make()) == []  # type: ignore[operator]


def test_a_note_outside_the_instrument_is_named() -> None:
    trumpet = instrument_named("Trumpet")
    assert trumpet is not None
    solo = replace(make_solo([("C", "C3/4 C5 C5 C5")]), instrument=trumpet)
    assert any("C3 in bar 1, beat 1 lies below" in message and "trumpet" in message for message in words(solo))


@pytest.mark.parametrize("octaves", [1, -1])
def test_a_note_an_octave_off_is_heard(octaves: int) -> None:
    found = writing_checks(moved_by_octaves(CLEAN, {"n10"}, octaves))
    assert [finding.onset for finding in found if "octave" in finding.message] == [CLEAN.notes[10].onset]


def test_a_rhythm_nobody_writes_is_named() -> None:
    note = replace(CLEAN.notes[3], duration=Fraction(3, 11))
    solo = replace(CLEAN, notes=(*CLEAN.notes[:3], note, *CLEAN.notes[4:]))
    assert any("does not add up" in message for message in words(solo))


def test_a_tuplet_that_was_begun_and_left_is_named() -> None:
    solo = make_solo([("C", "C5/4 D5/4 E5/2")])
    short = replace(solo.notes[1], duration=Fraction(1, 3))
    assert any("tuplet" in message for message in words(replace(solo, notes=(solo.notes[0], short, solo.notes[2]))))


def test_a_part_in_written_pitch_is_suspected() -> None:
    alto = instrument_named("Alto saxophone")
    assert alto is not None
    # A major sixth up: what an alto player reads.
    notes = tuple(replace(note, pitch=note.pitch.transposed(Interval(5, 9))) for note in CLEAN.notes)
    solo = replace(CLEAN, instrument=replace(alto, highest=100), notes=notes)
    assert any("written pitch" in message for message in words(solo))
    assert not any("written pitch" in message for message in words(replace(CLEAN, instrument=alto)))


def test_a_chord_in_the_wrong_bar_is_suspected() -> None:
    solo = make_solo(
        [
            ("Ebmaj7", "D5/8 F#5 A5 C6 A5 F#5 D5 C5"),
            ("D7", "A4/8 D5 F#5 A5 C6 A5 F#5 D5"),
        ],
        key="G major",
    )
    assert any("Bar 1" in message and "bar 2" in message for message in words(solo))


def test_strings_are_read_and_pitches_found_on_them() -> None:
    drop = Tuning.parse("d2 A2 D3 G3 B3 E4")
    assert drop.strings == (38, 45, 50, 55, 59, 64)
    assert Tuning.parse(drop.text).strings == drop.strings
    guitar = TUNINGS[0]
    assert fret_of(64, 1, guitar) == 0
    assert fret_of(64, 2, guitar) == 5
    assert fret_of(40, 1, guitar) is None
    assert fret_of(64, 7, guitar) is None
    assert (6, 0) in places(40, guitar)
    assert places(20, guitar) == []
    with pytest.raises(PitchError, match="String 2"):
        Tuning.parse("E2 X9")
    with pytest.raises(PitchError, match="1 to 10"):
        Tuning.parse("")
