"""Copying, moving, cutting and joining passages; pitches moved and spelled; marks."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.solo.document import Articulation, Mark, Pick, Solo
from gavotte.theory.key import Key
from gavotte.theory.pitch import Pitch
from gavotte.writing.marks import (
    all_have,
    toggled,
    with_bend,
    with_doubt_toggled,
    with_finger,
    with_pick_toggled,
    with_string,
    with_words,
    words_at,
)
from gavotte.writing.passages import (
    PASSAGE_DOCUMENT,
    bar_around,
    copied,
    joined,
    moved_in_time,
    pasted,
    phrase_around,
    phrases_of,
    removed,
    split,
    with_length,
)
from gavotte.writing.pitches import (
    along_scale,
    moved_along_scale,
    moved_by_octaves,
    other_name,
    with_accidental,
    with_other_names,
)

SOLO = make_solo([("Cmaj7", "C5/8 D5 E5 F5 G5/4 r/4"), ("Dm7", "A5/4 r/4 D5/2"), ("G7", "r/1")])


def shown(solo: Solo) -> list[str]:
    return [f"{note.pitch}@{note.onset}+{note.duration}" for note in solo.notes]


def test_a_passage_is_pasted_over_what_is_there_under_new_names() -> None:
    passage = copied(SOLO, {"n0", "n1"})
    assert passage is not None
    assert passage.length == 1
    pasted_solo, names = pasted(SOLO, passage, Fraction(4))
    assert shown(pasted_solo)[5:7] == ["C5@4+1/2", "D5@9/2+1/2"]
    assert not set(names) & {note.id for note in SOLO.notes}
    assert copied(SOLO, set()) is None


def test_pasting_before_moves_what_follows() -> None:
    passage = copied(SOLO, {"n4"})
    assert passage is not None
    solo, _ = pasted(SOLO, passage, Fraction(4), insert=True)
    assert shown(solo)[5:] == ["G5@4+1", "A5@5+1", "D5@6+2"]


def test_a_passage_goes_through_the_clipboard_and_back() -> None:
    passage = copied(SOLO, {"n0", "n1", "n4"})
    assert passage is not None
    assert PASSAGE_DOCUMENT.read(PASSAGE_DOCUMENT.write(passage)) == passage


def test_removing_leaves_silence_or_closes_up() -> None:
    assert shown(removed(SOLO, {"n1"}))[:2] == ["C5@0+1/2", "E5@1+1/2"]
    closed = removed(SOLO, {"n1"}, close=True)
    # What follows moves up as far as the next rest.
    assert shown(closed) == ["C5@0+1/2", "E5@1/2+1/2", "F5@1+1/2", "G5@3/2+1", "A5@4+1", "D5@6+2"]


def test_moving_in_time_goes_over_what_is_there_but_not_before_the_start() -> None:
    later = moved_in_time(SOLO, {"n4"}, Fraction(1))
    assert "G5@3+1" in shown(later)
    over = moved_in_time(SOLO, {"n4"}, Fraction(2))
    assert shown(over) == ["C5@0+1/2", "D5@1/2+1/2", "E5@1+1/2", "F5@3/2+1/2", "G5@4+1", "D5@6+2"]
    assert moved_in_time(SOLO, {"n0"}, Fraction(-1)) == SOLO


def test_another_length_for_one_note_and_for_several() -> None:
    assert shown(with_length(SOLO, {"n4"}, Fraction(2)))[4:6] == ["G5@2+2", "A5@4+1"]
    several = with_length(SOLO, {"n0", "n1", "n2", "n3"}, Fraction(1, 4))
    assert shown(several)[:5] == ["C5@0+1/4", "D5@1/4+1/4", "E5@1/2+1/4", "F5@3/4+1/4", "G5@2+1"]


def test_a_note_is_cut_at_the_beat_and_joined_again() -> None:
    cut = split(SOLO, {"n6"})
    assert shown(cut)[-2:] == ["D5@6+1", "D5@7+1"]
    assert shown(split(SOLO, {"n0"}))[:2] == ["C5@0+1/4", "C5@1/4+1/4"]
    again = joined(cut, {note.id for note in cut.notes[-2:]})
    assert shown(again) == shown(SOLO)
    assert joined(SOLO, {"n0"}) == SOLO


def test_phrases_go_from_rest_to_rest() -> None:
    assert phrase_around(SOLO, "n2") == ("n0", "n4")
    assert phrases_of(SOLO) == [("n0", "n4"), ("n5", "n5"), ("n6", "n6")]
    assert bar_around(SOLO, Fraction(5)) == ("n5", "n6")
    assert bar_around(SOLO, Fraction(9)) is None
    with pytest.raises(KeyError):
        phrase_around(SOLO, "nobody")


@given(st.integers(0, 6), st.fractions(min_value=-4, max_value=4, max_denominator=6))
def test_moving_there_and_back_over_silence_changes_nothing(index: int, by: Fraction) -> None:
    solo = make_solo([("Cmaj7", "r/1"), ("Dm7", "r/4 C5/8 D5 E5 r/4."), ("G7", "r/1")])
    ids = {solo.notes[index % 3].id}
    there = moved_in_time(solo, ids, by)
    if len(there.notes) == 3 and shown(there) != shown(solo) and sum(n.duration for n in there.notes) == Fraction(3, 2):
        assert shown(moved_in_time(there, ids, -by)) == shown(solo)


@pytest.mark.parametrize(
    ("pitch", "steps", "key", "result"),
    [
        ("E4", 1, "C major", "F4"),
        ("B4", 1, "C major", "C5"),
        ("E4", 2, "D major", "G4"),
        ("F#4", -1, "C major", "E#4"),
        ("Bb4", 1, "F major", "C5"),
        ("B4", -1, "F major", "A#4"),
    ],
)
def test_moving_along_the_scale_keeps_what_is_raised(pitch: str, steps: int, key: str, result: str) -> None:
    assert str(along_scale(Pitch.parse(pitch), steps, Key.parse(key))) == result


def test_names_go_round_and_sound_the_same() -> None:
    pitch = Pitch.parse("C#5")
    seen = []
    for _ in range(3):
        pitch = other_name(pitch)
        seen.append(str(pitch))
        assert pitch.midi == 73
    assert "Db5" in seen
    assert "C#5" in seen


def test_octaves_steps_accidentals_and_names_change_only_what_is_chosen() -> None:
    ids = {"n0"}
    assert shown(moved_by_octaves(SOLO, ids, -1))[:2] == ["C4@0+1/2", "D5@1/2+1/2"]
    assert shown(moved_along_scale(SOLO, ids, 2))[0] == "E5@0+1/2"
    assert shown(with_accidental(SOLO, ids, 1))[0] == "C#5@0+1/2"
    assert shown(with_accidental(with_accidental(with_accidental(SOLO, ids, 1), ids, 1), ids, 1))[0] == "C##5@0+1/2"
    assert shown(with_other_names(with_accidental(SOLO, ids, 1), ids))[0] == "Db5@0+1/2"


def test_a_mark_takes_the_place_of_what_it_excludes() -> None:
    ids = {"n0", "n1"}
    once = toggled(SOLO, ids, Articulation.STACCATO)
    assert all_have(once, ids, Articulation.STACCATO)
    other = toggled(once, {"n0"}, Articulation.TENUTO)
    assert [mark.articulation for mark in other.notes[0].marks] == [Articulation.TENUTO]
    assert not all_have(other, ids, Articulation.STACCATO)
    assert all_have(toggled(other, ids, Articulation.STACCATO), ids, Articulation.STACCATO)
    assert toggled(once, ids, Articulation.STACCATO) == SOLO
    assert not all_have(SOLO, set(), Articulation.STACCATO)


def test_bends_have_a_target_in_quarter_tones() -> None:
    bent = with_bend(SOLO, {"n0"}, Fraction(1, 2))
    assert bent.notes[0].marks == (Mark(Articulation.BEND, Fraction(1, 2)),)
    assert with_bend(bent, {"n0"}, Fraction(0)) == SOLO
    assert toggled(SOLO, {"n0"}, Articulation.BEND).notes[0].marks[0].semitones == 2


def test_doubt_fingers_strings_and_picks() -> None:
    ids = {"n0", "n1"}
    doubtful = with_doubt_toggled(with_doubt_toggled(SOLO, {"n0"}), ids)
    assert all(note.uncertain for note in doubtful.notes[:2])
    assert not any(note.uncertain for note in with_doubt_toggled(doubtful, ids).notes)
    fingered = with_string(with_finger(SOLO, ids, " 2 "), {"n0"}, 3)
    assert (fingered.notes[0].finger, fingered.notes[0].string, fingered.notes[1].string) == ("2", 3, 0)
    picked = with_pick_toggled(SOLO, ids, Pick.DOWN)
    assert picked.notes[1].pick is Pick.DOWN
    assert with_pick_toggled(picked, ids, Pick.UP).notes[0].pick is Pick.UP
    assert with_pick_toggled(picked, ids, Pick.DOWN) == SOLO


def test_words_over_a_bar_replace_each_other() -> None:
    solo = with_words(with_words(SOLO, Fraction(4), "behind the  beat"), Fraction(0), "softly")
    assert [(text.onset, text.words) for text in solo.texts] == [(0, "softly"), (4, "behind the beat")]
    assert words_at(solo, Fraction(4)) == "behind the beat"
    assert words_at(with_words(solo, Fraction(4), " "), Fraction(4)) == ""
