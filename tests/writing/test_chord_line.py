"""The chord line as text, forms, choruses, and what moves between chords."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ChordEvent, Section, Solo
from gavotte.solo.form import form_marks
from gavotte.theory.chord_symbol import parse_chord
from gavotte.theory.key import Key
from gavotte.theory.voice_leading import moving_tones
from gavotte.writing.chord_line import completions, read_chord_line, write_chord_line, write_chords_at
from gavotte.writing.choruses import (
    bars_in_chorus,
    chorus_at,
    chorus_of_bars,
    with_chord_moved,
    with_choruses,
)
from gavotte.writing.forms import FORMS, form_in_key

NOTHING = Solo("Empty")


def read(text: str, solo: Solo = NOTHING) -> list[tuple[Fraction, str]]:
    line = read_chord_line(text, solo)
    assert line.problems == ()
    return [(event.onset, event.text) for event in line.solo.chords]


def test_chords_share_their_bar() -> None:
    assert read("| Dm7 G7 | Cmaj7 | % |") == [(0, "Dm7"), (2, "G7"), (4, "Cmaj7")]
    assert read("Dm7 / / G7 | C6") == [(0, "Dm7"), (3, "G7"), (4, "C6")]
    assert read("| A7 Bb7 B7 |") == [(0, "A7"), (2, "Bb7"), (3, "B7")]
    assert read("| Dm7 G7@4.5 |") == [(0, "Dm7"), (Fraction(7, 2), "G7")]
    assert read("| C7@1+1/3 |") == [(Fraction(1, 3), "C7")]


def test_the_last_bar_counts_even_if_it_only_repeats() -> None:
    line = read_chord_line("| Dm7 | G7 | Cmaj7 | % |", NOTHING)
    assert line.bars == 4
    assert len(BarGrid(line.solo).bars) == 4


def test_a_repeated_bar_of_two_chords_has_both_again() -> None:
    assert read("| Dm7 G7 | % |") == [(0, "Dm7"), (2, "G7"), (4, "Dm7"), (6, "G7")]
    assert read("| Dm7 G7 | / |") == [(0, "Dm7"), (2, "G7")]


def test_repeats_are_written_out_and_sections_named() -> None:
    line = read_chord_line("[A] |: C6 | G7 :|\n[B] | F6 |", NOTHING)
    assert [event.text for event in line.solo.chords] == ["C6", "G7", "C6", "G7", "F6"]
    assert line.solo.sections == (Section(Fraction(0), "A"), Section(Fraction(16), "B"))


def test_a_pickup_has_its_chord_before_the_first_barline() -> None:
    solo = replace(NOTHING, pickup=Fraction(1))
    assert read("G7 | C6 | % |", solo) == [(-1, "G7"), (0, "C6")]
    assert read("| C6 | % |", solo) == [(0, "C6")]


def test_other_meters_share_by_their_own_beats() -> None:
    waltz = make_solo([("C", "r/2.")], meter="3/4")
    assert read("| Dm7 G7 |", waltz) == [(0, "Dm7"), (2, "G7")]
    five = make_solo([("C", "r/1 r/4")], meter="5/4", grouping="3+2")
    assert read("| Dm7 G7 |", five) == [(0, "Dm7"), (3, "G7")]


@pytest.mark.parametrize(
    ("text", "where", "words"),
    [
        ("| Dm7 | Hx7 |", "Hx7", "H"),
        ("| Dm7 | G7q |", "G7q", "no meaning"),
        ("| % | C |", "%", "no bar before"),
        ("| / G7 |", "/", "no chord before"),
        ("| C7@9 |", "C7@9", "no beat 9"),
        ("| C7@3 D7@2 |", "C7@3", "order"),
        ("[A | C |", "[A | C |", "section"),
        ("|: C | D |", "|: C | D |", "no end"),
        (":| C |", ":|", "nothing to repeat"),
    ],
)
def test_every_mistake_is_named_at_its_place(text: str, where: str, words: str) -> None:
    line = read_chord_line(text, make_solo([("Am7", "C5/1")]))
    assert len(line.problems) == 1
    problem = line.problems[0]
    assert text[problem.start : problem.end].startswith(where.split(" |")[0])
    assert words in problem.why
    # Nothing of what was there is lost.
    assert [event.text for event in line.solo.chords] == ["Am7"]


@pytest.mark.parametrize("make", DEMO_SOLOS, ids=lambda make: make.__name__)
def test_the_text_of_a_solos_chords_reads_as_the_same_chords(make: object) -> None:
    solo = make()  # type: ignore[operator]
    line = read_chord_line(write_chord_line(solo), solo)
    assert line.problems == ()
    assert line.solo.chords == solo.chords
    assert line.solo.sections == solo.sections


ONSETS = st.lists(
    st.tuples(
        st.integers(0, 5),
        st.sampled_from([Fraction(0), Fraction(1), Fraction(2), Fraction(3), Fraction(7, 2), Fraction(1, 3)]),
    ),
    min_size=1,
)


@given(ONSETS, st.booleans())
def test_any_chords_survive_their_text(places: list[tuple[int, Fraction]], opens: bool) -> None:
    onsets = sorted({4 * bar + beat for bar, beat in places} | ({Fraction(0)} if opens else set()))
    names = ["Cmaj7", "Dm7", "G7alt", "F#m7b5"]
    chords = tuple(ChordEvent(f"c{k}", onset, names[k % 4]) for k, onset in enumerate(onsets))
    solo = replace(NOTHING, chords=chords)
    line = read_chord_line(write_chord_line(solo), solo)
    assert line.problems == ()
    assert line.solo.chords == chords


def test_chords_that_stay_keep_their_names() -> None:
    solo = make_solo([("Dm7", "r/1"), ("G7", "r/1"), ("Cmaj7", "r/1")])
    changed = read_chord_line("| Dm7 | Db7 | Cmaj7 |", solo).solo
    assert [event.id for event in changed.chords] == ["c0", "c1", "c2"]
    assert changed.chords[0] is solo.chords[0]


@pytest.mark.parametrize("form", FORMS, ids=lambda form: form.name)
@pytest.mark.parametrize("tonic", ["C", "Db", "F#", "Bb", "B", "Ab"])
def test_every_form_can_be_read_in_every_key(form: object, tonic: str) -> None:
    key = Key.parse(f"{tonic} {'minor' if form.minor else 'major'}")  # type: ignore[attr-defined]
    line = read_chord_line(form_in_key(form, key), NOTHING)  # type: ignore[arg-type]
    assert line.problems == ()
    assert not any("##" in event.text or "bb" in event.text.replace("bb7", "") for event in line.solo.chords)


def test_a_blues_in_b_flat_is_a_blues_in_b_flat() -> None:
    form = next(form for form in FORMS if form.name == "Blues, three chords")
    line = read_chord_line(form_in_key(form, Key.parse("Bb major")), NOTHING)
    assert line.bars == 12
    assert [event.text for event in line.solo.chords] == ["Bb7", "Eb7", "Bb7", "F7", "Eb7", "Bb7", "F7"]


def test_a_rock_form_keeps_its_degrees() -> None:
    form = next(form for form in FORMS if form.name.startswith("Rock"))
    assert form_in_key(form, Key.parse("A minor")) == "| Am | F | C | G |"


def test_completion_offers_what_is_known_then_the_key_then_anything_on_the_root() -> None:
    solo = make_solo([("G13", "r/1")])
    offered = completions("G", solo)
    assert offered[:2] == ["G13", "G7"]
    assert "Gm7b5" in offered
    assert completions("", solo) == []
    assert completions("x", solo) == []


# -- choruses -------------------------------------------------------------------------------------------


def test_the_first_choruss_changes_stand_under_all() -> None:
    solo = replace(make_solo([("Dm7", "D5/1"), ("G7", "r/1")]), sections=(Section(Fraction(0), "A"),))
    three = with_choruses(solo, chorus_of_bars(solo, 2), 3)
    assert [(event.onset, event.text) for event in three.chords] == [
        (0, "Dm7"), (4, "G7"), (8, "Dm7"), (12, "G7"), (16, "Dm7"), (20, "G7"),
    ]  # fmt: skip
    assert len({event.id for event in three.chords}) == 6
    assert bars_in_chorus(three) == 2
    assert [chorus_at(three, Fraction(time)) for time in (-1, 0, 8, 23)] == [1, 1, 2, 3]
    assert [(mark.onset, mark.label) for mark in form_marks(three)] == [(0, "A"), (8, "2 · A"), (16, "3 · A")]
    assert len(BarGrid(three).bars) == 6


def test_one_chorus_is_changed_and_the_others_stay() -> None:
    solo = with_choruses(make_solo([("Dm7", "r/1"), ("G7", "r/1")]), Fraction(8), 2)
    text = write_chord_line(solo)
    assert text.count("\n\n") == 1
    first, second = text.split("\n\n")
    changed = read_chord_line(first + "\n\n" + second.replace("G7", "Db7"), solo).solo
    assert [event.text for event in changed.chords] == ["Dm7", "G7", "Dm7", "Db7"]


def test_a_form_longer_than_what_is_written_is_counted_on() -> None:
    solo = make_solo([("C", "r/1")])
    assert chorus_of_bars(solo, 12) == 48
    with pytest.raises(ValueError, match="no form"):
        with_choruses(solo, Fraction(0), 2)


def test_a_chord_moves_by_a_beat_but_not_past_its_neighbours() -> None:
    solo = make_solo([("Dm7 G7", "r/1"), ("C6", "r/1")])
    later = with_chord_moved(solo, "c1", 1)
    assert [event.onset for event in later.chords] == [0, 3, 4]
    assert with_chord_moved(later, "c1", 1) == later
    assert with_chord_moved(later, "c1", -1) == solo
    assert with_chord_moved(solo, "c0", -1) == solo
    with pytest.raises(KeyError):
        with_chord_moved(solo, "c9", 1)


# -- moving tones ---------------------------------------------------------------------------------------


def test_one_tone_moves_from_ii_to_v() -> None:
    moves = moving_tones(parse_chord("Dm7"), parse_chord("G7"))
    assert sum(move.semitones == 0 for move in moves) == 2
    assert ("C", "B", -1) in [(move.start.shown, move.end.shown, move.semitones) for move in moves]


def test_a_triad_and_a_seventh_chord_are_matched_whole() -> None:
    moves = moving_tones(parse_chord("C"), parse_chord("G7"))
    assert len(moves) == 4
    assert {move.end.shown for move in moves} == {"G", "B", "D", "F"}
    back = moving_tones(parse_chord("G7"), parse_chord("C"))
    assert {move.start.shown for move in back} == {"G", "B", "D", "F"}


CHORDS = st.sampled_from(["C", "Dm7", "G7", "Fmaj7", "Bm7b5", "E7b9", "A6", "Ebdim7", "Db7alt", "G7sus4"])


@given(CHORDS, CHORDS)
def test_moves_are_the_same_backwards_and_nothing_moves_into_itself(one: str, other: str) -> None:
    there = moving_tones(parse_chord(one), parse_chord(other))
    back = moving_tones(parse_chord(other), parse_chord(one))
    assert sum(abs(move.semitones) for move in there) == sum(abs(move.semitones) for move in back)
    assert all(move.semitones == 0 for move in moving_tones(parse_chord(one), parse_chord(one)))


def test_chords_at_a_time_go_to_its_beat_or_share_the_rest_of_its_bar() -> None:
    solo = make_solo([("C7", "r/1"), ("F7", "r/1"), ("C7 A7", "r/1")])

    def chords(time: str, text: str) -> list[tuple[Fraction, str]]:
        line = write_chords_at(solo, Fraction(time), text)
        assert line.problems == ()
        return [(event.onset, event.text) for event in line.solo.chords]

    assert chords("5/2", "Gb7") == [(0, "C7"), (2, "Gb7"), (4, "F7"), (8, "C7"), (10, "A7")]
    assert chords("4", "Dm7 G7") == [(0, "C7"), (4, "Dm7"), (6, "G7"), (8, "C7"), (10, "A7")]
    assert chords("9", "Dm7 G7 E7") == [(0, "C7"), (4, "F7"), (8, "C7"), (9, "Dm7"), (10, "G7"), (11, "E7")]
    assert chords("8", "F7 /") == [(0, "C7"), (4, "F7"), (8, "F7")]
    assert chords("8", "-") == [(0, "C7"), (4, "F7"), (10, "A7")]


@pytest.mark.parametrize(
    ("text", "why"),
    [("", "No chord"), ("Hx", "Hx"), ("C7 | F7", "One bar"), ("C7 F7 G7 A7 B7", "5 chords for 4 beats")],
)
def test_chords_that_cant_be_written_say_why(text: str, why: str) -> None:
    solo = make_solo([("C7", "r/1")])
    line = write_chords_at(solo, Fraction(0), text)
    assert why in line.problems[0].why
    assert line.solo is solo
