"""Scale exercises and changes that come from no solo; what a solo was meant to practise; figures over time."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.labelling.labeller import labelled
from gavotte.practice.exercises import changes_of, scale_exercise
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.log import LogEntry
from gavotte.practice.meant import goal_words, vocabulary_words, where_used
from gavotte.practice.over_time import compared, lateness, rights, tempos
from gavotte.practice.take import Take, TakeNote, Verdict
from gavotte.solo.instruments import instrument_named
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME, Meter
from gavotte.theory.pitch import PitchName
from gavotte.theory.scale import COLLECTIONS, collection_pitch_classes
from gavotte.workshop.operation import OperationError

TENOR = instrument_named("Tenor saxophone")
assert TENOR is not None


@pytest.mark.parametrize("scale", COLLECTIONS)
@pytest.mark.parametrize("tonic", ["C", "Bb", "F#"])
def test_a_scale_exercise_has_its_scale_over_a_chord_of_its_own(scale: str, tonic: str) -> None:
    name = PitchName.parse(tonic)
    solo = scale_exercise(TENOR, name, scale, "scale", "both", "1/2", "1")  # type: ignore[arg-type]
    wanted = collection_pitch_classes(scale, name.pitch_class)
    assert {note.pitch.pitch_class for note in solo.notes} == wanted
    assert solo.notes[0].pitch.pitch_class == solo.notes[-1].pitch.pitch_class == name.pitch_class
    chord = solo.chords[0].symbol
    assert isinstance(chord, Chord)
    # The blues scale is played over a major third.
    assert not chord.tone_classes - wanted or scale == "blues"
    assert all(TENOR.lowest <= note.pitch.midi <= TENOR.highest for note in solo.notes)  # type: ignore[union-attr]


def test_patterns_and_values_are_as_they_were_chosen() -> None:
    thirds = scale_exercise(TENOR, PitchName("C"), "major", "thirds", "up", "1/3", "1")  # type: ignore[arg-type]
    assert [note.name.shown for note in (n.pitch for n in thirds.notes[:6])] == ["C", "E", "D", "F", "E", "G"]
    assert {note.duration for note in thirds.notes} == {Fraction(1, 3)}


def test_a_pattern_wider_than_the_compass_is_told() -> None:
    narrow = replace(TENOR, lowest=60, highest=64)  # type: ignore[type-var]
    with pytest.raises(OperationError, match="compass"):
        scale_exercise(narrow, PitchName("C"), "major", "sevenths", "up", "1/2", "all")  # type: ignore[arg-type]


def test_changes_are_read_or_what_is_wrong_is_said() -> None:
    line = changes_of("| Dm7 | G7 | Cmaj7 | % |", TENOR, Key(PitchName("C")), COMMON_TIME)  # type: ignore[arg-type]
    assert not line.problems
    assert line.bars == 4
    assert line.solo.end == 16
    assert changes_of("| Hm7 |", TENOR, Key(PitchName("C")), COMMON_TIME).problems  # type: ignore[arg-type]
    waltz = changes_of("| C | F |", TENOR, Key(PitchName("C")), Meter.parse("3/4"))  # type: ignore[arg-type]
    assert waltz.solo.chords[1].onset == 3


# -- what was meant -------------------------------------------------------------------------------------------

LICK = make_solo([("Dm7", "D4/8 F4 A4 C5 B4 A4 G4 E4")])


def phrase_item(kind: Kind = Kind.LICK, music: object = LICK, name: str = "The lick") -> PracticeItem:
    return PracticeItem(name, kind, music, 120)  # type: ignore[arg-type]


def test_a_lick_is_found_in_another_key_and_in_part() -> None:
    moved = make_solo([("C", "C4/4 E4 G4 r"), ("Fm7", "F4/8 Ab4 C5 Eb5 D5 C5 Bb4 G4")])
    assert where_used(moved, LICK) == 3
    part = make_solo([("Fm7", "F4/8 Ab4 C5 Eb5 D5 C5 r/4")])
    assert where_used(part, LICK) == 0
    assert where_used(make_solo([("Fm7", "F4/8 Ab4 C5 Eb5 r/2")]), LICK) is None
    assert where_used(replace(moved, notes=()), LICK) is None


def test_vocabulary_that_was_used_is_named_with_its_bar() -> None:
    solo = make_solo([("C", "C4/4 E4 G4 r"), ("Fm7", "F4/8 Ab4 C5 Eb5 D5 C5 Bb4 G4")])
    other = phrase_item(Kind.PHRASE, make_solo([("C", "C4/8 C5 C4 C5 C4 C5 C4 C5")]), "Octaves")
    scale = phrase_item(Kind.EXERCISE)
    words = vocabulary_words(solo, [phrase_item(), other, scale])
    assert words == "1 of the 2 lines you practise was used: “The lick” in bar 2."
    assert vocabulary_words(solo, [other]) == "None of the 1 line you practise were used."
    assert vocabulary_words(solo, [scale]) == ""


def test_a_goal_in_words_is_held_against_what_was_played() -> None:
    bars = ["D4/8 E4 F4 G4 A4 C5 A4/4", "F4/4 r/2.", "G4/8 A4 B4 C5 B4 A4 G4/4", "E4/4 r/2."]
    chords = ("Dm7", "r/1"), ("Cmaj7", "r/1")
    solo = make_solo([("Dm7", bars[0]), ("Dm7", bars[1]), chords[0], ("Cmaj7", bars[2]), ("Cmaj7", bars[3]), chords[1]])
    found = labelled(solo)
    assert "2 phrases" in goal_words(found, "Land on the 3rd")
    assert goal_words(found, "landing on 3").startswith("2 of")
    empty = goal_words(found, "leave two bars empty")
    assert empty.startswith("2 bars were left empty (3 and 6)")
    assert "you meant to leave 2" in empty
    assert goal_words(found, "play with a warm sound") == ""
    assert goal_words(found, "") == ""


# -- over time ------------------------------------------------------------------------------------------------


def entry(at: str, number: int, tempo: int, item: str = "a") -> LogEntry:
    return LogEntry(at, item, "It", "C", number, 60.0, tempo, 3)


def test_tempos_by_key_take_the_highest_of_each_day_in_order() -> None:
    log = [
        entry("2026-03-03T10:00:00+00:00", 0, 110),
        entry("2026-03-01T10:00:00+00:00", 0, 90),
        entry("2026-03-01T11:00:00+00:00", 0, 96),
        entry("2026-03-02T10:00:00+00:00", 1, 80),
        entry("2026-03-02T10:00:00+00:00", 0, 200, "b"),
        entry("2026-03-02T12:00:00+00:00", 0, 0),
    ]
    found = tempos(log, "a")
    assert [moment.value for moment in found[0]] == [96, 110]
    assert [moment.value for moment in found[1]] == [80]
    assert set(found) == {0, 1}
    assert found[0][0].seconds < found[0][1].seconds


def take(right: int, notes: int = 10, tempo: float = 100.0, late: float = 0.02, sure: float = 1.0) -> Take:
    return Take(
        tuple(
            TakeNote(f"n{k}", Verdict.RIGHT if k < right else Verdict.MISSED, late=late if k < right else None)
            for k in range(notes)
        ),
        tempo=tempo,
        sure=sure,
    )


def test_takes_over_time_tell_right_notes_and_how_late_they_were() -> None:
    takes = [("2026-03-02", take(9, late=-0.01)), ("2026-03-01", take(5)), ("2026-03-03", take(0, sure=0.0))]
    assert [moment.value for moment in rights(takes)] == [50, 90]
    assert [moment.value for moment in lateness(takes)] == [pytest.approx(20), pytest.approx(10)]


def test_two_takes_are_compared_in_words() -> None:
    words = compared(take(5), take(8, tempo=110.0))
    assert words == "50 % of the notes were right, now 80 %, 10% faster, 3 notes that went wrong then went right."
    back = compared(take(8), take(7))
    assert "1 went wrong that went right then" in back
    assert "faster" not in back
