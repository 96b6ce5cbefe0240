"""Queries as musicians write them, and what they find."""

from __future__ import annotations

from contextlib import suppress

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.labelling.labeller import Labelled, labelled
from gavotte.solo.document import Function
from gavotte.theory.pitch import PitchName
from gavotte.vocabulary.finding import find
from gavotte.vocabulary.query import EXAMPLES, Query, QueryError, read_query

TWO_FIVE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 Ab5 G5 Ab5 F5 D#5"), ("Cmaj7", "E5/4 C5/4 r/2")]


def found_in(bars: list[tuple[str, str]]) -> Labelled:
    return labelled(make_solo(bars))


def stretches(found: Labelled, text: str) -> list[tuple[int, int]]:
    return [(hit.first, hit.last) for hit in find(found, read_query(text))]


def test_words_of_each_kind_are_read() -> None:
    assert read_query("3 5 ♭7 b9 on V") == Query(degrees=("3", "5", "b7", "b9"), numeral="V")
    assert read_query("enclosure of 5 on minor").target == "5"
    assert read_query("2 4 6").degrees == ("9", "11", "13")
    assert read_query("+2, −1 +12").moves == (2, -1, 12)
    assert read_query("C E♭ G").pitches == (PitchName("C"), PitchName("E", -1), PitchName("G"))
    assert read_query("up down same").ways == (1, -1, 0)
    assert read_query("approach outside").functions == (Function.APPROACH, Function.OUTSIDE)
    assert read_query("up over Dm7").chord is not None
    assert read_query("from 9 to 3 up").first == "9"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "Nothing is asked for"),
        ("3 enclosur", "“enclosur” (word 2) is nothing that can be asked for. Do you mean “enclosure”?"),
        ("up to", "Behind “to” (word 2) the degree of the last note is missing"),
        ("up to G", "“G” is none"),
        ("3 on viii", "“viii” is neither"),
        ("3 over H7", "“H7” can't be read as one"),
        ("of 3", "say which"),
        ("+100", "“+100” (word 1)"),
    ],
)
def test_what_cannot_be_read_is_told_with_its_place(text: str, said: str) -> None:
    with pytest.raises(QueryError) as error:
        read_query(text)
    assert said in str(error.value)


@pytest.mark.parametrize("example", EXAMPLES)
def test_every_example_can_be_read(example: str) -> None:
    assert read_query(example).size >= 1


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused(text: str) -> None:
    with suppress(QueryError):
        assert read_query(text).size >= 1


def test_degrees_in_a_row_on_a_chord() -> None:
    found = found_in(TWO_FIVE)
    assert stretches(found, "3 5 b7 b9") == [(8, 11)]
    assert stretches(found, "3 5 b7 b9 on V") == [(8, 11)]
    assert stretches(found, "3 5 b7 b9 on ii") == []
    assert stretches(found, "3 5 b7 b9 on dominant to b9") == [(8, 11)]
    assert stretches(found, "3 5 over G7") == [(8, 9)]
    assert find(found, read_query("3 5 b7 b9"))[0].why == "3 5 ♭7 ♭9, over G7"


def test_moves_pitches_and_directions() -> None:
    found = found_in(TWO_FIVE)
    assert stretches(found, "+3 +4 +3")[0] == (0, 3)
    assert stretches(found, "D F A C") == [(0, 3)]
    assert stretches(found, "up up up down down down down down up up up") == [(0, 11)]
    assert stretches(found, "up up up to b7") == [(0, 3)]


def test_figures_by_their_names_and_where_they_lead() -> None:
    found = found_in(TWO_FIVE)
    assert (14, 16) in stretches(found, "enclosure")
    assert (14, 16) in stretches(found, "enclosure of 3")
    assert (14, 16) not in stretches(found, "enclosure of 5")
    for first, last in stretches(found, "passing"):
        assert any(found.labels[i].function is Function.PASSING for i in range(first, last + 1))


def test_two_names_of_one_tone_are_both_found() -> None:
    found = found_in([("G7", "G5/4 Bb5 B5 D6"), ("G7", "G5/1")])
    assert stretches(found, "1 #9 3") == stretches(found, "1 b3 3") == [(0, 2)]


def test_a_row_is_not_heard_over_a_rest_and_grace_notes_are_passed_over() -> None:
    assert stretches(found_in([("C", "C5/4 E5 r/4 G5")]), "1 3 5") == []
    assert stretches(found_in([("C", "C5/4 *D#5 E5 G5 r/4")]), "1 3 5") == [(0, 3)]


@given(st.integers(0, 200), st.sampled_from(EXAMPLES))
def test_hits_stand_in_the_line_in_order_and_share_no_note(seed: int, example: str) -> None:
    found = labelled(random_solo(seed))
    last = -1
    for hit in find(found, read_query(example)):
        assert last < hit.first <= hit.last < len(found.solo.notes)
        assert hit.why
        last = hit.last
