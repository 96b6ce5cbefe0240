"""Music for the readers of a version."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.conftest import make_solo

from gavotte.sheets.sheet import Version
from gavotte.sheets.versions import for_version, interval_of, plain_interval
from gavotte.solo.document import Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.interval import UNISON, Interval

LINE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 A5 G5/2")]


def names(solo: Solo) -> list[str]:
    return [str(note.pitch) for note in solo.notes]


def playing(name: str, octaves: int = 0) -> Solo:
    solo, instrument = make_solo(LINE), instrument_named(name)
    assert instrument is not None
    notes = tuple(replace(n, pitch=replace(n.pitch, octave=n.pitch.octave + octaves)) for n in solo.notes)
    return replace(solo, instrument=instrument, notes=notes)


def test_concert_pitch_is_what_sounds() -> None:
    assert names(for_version(playing("Trumpet"), Version.CONCERT)) == names(make_solo(LINE))
    assert interval_of(playing("Trumpet"), Version.CONCERT) == UNISON


@pytest.mark.parametrize(
    ("version", "chords", "first"),
    [
        (Version.B_FLAT, ["Em7", "A7"], "E5"),
        (Version.E_FLAT, ["Bm7", "E7"], "B4"),
        (Version.F, ["Am7", "D7"], "A4"),
    ],
)
def test_transposing_readers_have_their_chords_and_a_line_on_the_staff(
    version: Version, chords: list[str], first: str
) -> None:
    written = for_version(make_solo(LINE), version)
    assert [event.text for event in written.chords] == chords
    assert names(written)[0] == first
    assert written.instrument.transposition_semitones == 0


def test_a_low_line_goes_up_for_treble_readers_and_a_high_one_down_for_bass_readers() -> None:
    low = for_version(playing("Bass", -3), Version.B_FLAT)
    assert 57 <= sum(note.pitch.midi for note in low.notes) / len(low.notes) <= 84
    deep = for_version(make_solo(LINE), Version.BASS_CLEF)
    assert deep.instrument.clef == "F4"
    assert [event.text for event in deep.chords] == ["Dm7", "G7"]
    assert all(36 <= note.pitch.midi <= 64 for note in deep.notes)


def test_all_notes_move_by_the_same_interval() -> None:
    solo = make_solo(LINE)
    for version in Version:
        written = for_version(solo, version)
        moves = {b.pitch.midi - a.pitch.midi for a, b in zip(solo.notes, written.notes, strict=True)}
        assert len(moves) == 1
        assert (moves.pop() - interval_of(solo, version).semitones) % 12 == 0


def test_a_guitar_keeps_its_octave_in_concert_pitch() -> None:
    written = for_version(playing("Guitar", -1), Version.CONCERT)
    assert names(written)[0] == "D5"
    assert written.instrument.name == "Guitar"


def test_as_it_sounds_nothing_is_moved() -> None:
    solo = playing("Alto saxophone")
    assert for_version(solo, None) is solo


def test_keys_with_more_than_six_signs_are_written_the_other_way_round() -> None:
    far = make_solo([("C#maj7", "C#5/4 E#5 G#5 B#5")], key="C# major")
    written = for_version(far, Version.B_FLAT)
    assert abs(written.keys[0].key.fifths) <= 6
    moved = interval_of(far, Version.B_FLAT)
    assert str(far.keys[0].key.tonic.transposed(moved)) == str(written.keys[0].key.tonic)


def test_names_of_no_solo_move_by_the_readers_interval() -> None:
    assert plain_interval(Version.B_FLAT) == Interval(1, 2)
    assert plain_interval(Version.E_FLAT) == Interval(5, 9)
    assert plain_interval(Version.F) == Interval(4, 7)
    assert plain_interval(Version.BASS_CLEF) == plain_interval(None) == UNISON
