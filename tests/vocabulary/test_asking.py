"""What can be asked for, what is suggested, and what kind of thing some notes are."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.labelling.labeller import Labelled, labelled
from gavotte.vocabulary.contexts import CONTEXTS
from gavotte.vocabulary.finding import find
from gavotte.vocabulary.kinds import kind_of
from gavotte.vocabulary.query import DEGREE_WORDS, DEVICE_MEANINGS, MARKERS, QueryError, read_query
from gavotte.vocabulary.suggesting import suggestions
from gavotte.vocabulary.tapping import played_move, tapped_rhythm

CADENCE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 Ab5 G5 F5 F#5 D#5"), ("Cmaj7", "E5/4 C5/4 r/2")]


def places(found: Labelled, text: str) -> list[tuple[int, int]]:
    return [(hit.first, hit.last) for hit in find(found, read_query(text))]


@pytest.mark.parametrize("word", [*DEVICE_MEANINGS, *DEGREE_WORDS, *(f'in "{name}"' for name in CONTEXTS)])
def test_every_word_that_is_offered_can_be_read(word: str) -> None:
    assert read_query(word)


def test_rhythm_highest_length_and_context_are_read() -> None:
    assert [float(value) for value in read_query("rhythm 8-8-4.").rhythm] == [0.5, 0.5, 1.5]
    assert read_query("1-2-3-5").degrees == ("1", "9", "3", "5")
    query = read_query('highest 9 notes 4-8 bars 2 in "long ii-V-I" by "Odo Vantongeren" tag blues status mine rated 3')
    assert (query.highest, query.notes, query.bars) == ("9", (4, 8), (2, 2))
    assert (query.player, query.tag, query.status, query.rated) == ("odo vantongeren", "blues", "mine", 3)
    assert query.is_whole
    assert not query.is_row


@pytest.mark.parametrize(
    ("text", "wrong"),
    [
        ("3 5 rhythm 8-y", "8-y"),
        ("3 5 rhythm x-8", "x-8"),
        ("enclosure in nowhere", "nowhere"),
        ("notes many", "many"),
        ("status old", "old"),
        ("rated 9", "9"),
        ("3 enclosur", "enclosur"),
    ],
)
def test_the_word_that_cannot_be_read_is_marked(text: str, wrong: str) -> None:
    with pytest.raises(QueryError) as error:
        read_query(text)
    assert text[error.value.start : error.value.end] == wrong


def test_rhythms_and_whole_phrases_are_found() -> None:
    found = labelled(make_solo(CADENCE))
    assert places(found, "rhythm 8-8-4 to 3") == [(14, 16)]
    assert places(found, 'in "long ii-V-I"') == [(0, 17)]
    assert places(found, "to 1 notes 10-20") == [(0, 17)]
    assert places(found, "to 1 notes 2-4") == []
    assert places(found, "highest b7 bars 3") == [(0, 17)]
    assert places(found, "altered in long-ii-V-I") != []
    assert places(found, "altered in turnaround") == []


def test_suggestions_complete_the_word_that_is_being_written() -> None:
    lines = [suggestion.line for suggestion in suggestions("3 5 encl")]
    assert lines == ["3 5 enclosure "]
    assert all(suggestion.line.startswith("3 in ") for suggestion in suggestions("3 in "))
    assert suggestions("by Per", players=("Perpetua Lindqvarn",))[0].line == 'by "Perpetua Lindqvarn" '
    assert suggestions("tag b", tags=("blues",))[0].word == "blues"
    assert suggestions("3 5 ") == ()
    assert suggestions("")


@given(st.sampled_from(["", "3 ", "enc", "3 5 in lo", "by ", "rhythm ", "no", "from b", *MARKERS]))
def test_every_suggestion_can_be_read_or_wants_one_word_more(begun: str) -> None:
    for suggestion in suggestions(begun, ("Odo",), ("blues",)):
        wants_more = suggestion.word in MARKERS
        if not wants_more:
            assert read_query(suggestion.line)


def test_notes_are_of_a_kind_by_their_figure_their_context_or_their_end() -> None:
    found = labelled(make_solo(CADENCE))
    assert kind_of(found, 14, 16) == "enclosure of 3"
    assert kind_of(found, 0, 13) == 'in "long ii-V-I"' or kind_of(found, 0, 13).startswith(("approach", "chromatic"))
    still = labelled(make_solo([("C6", "C5/4 E5 G5 A5")]))
    assert kind_of(still, 0, 2) == "to 5"
    assert (14, 16) in places(found, kind_of(found, 14, 16))


def test_what_is_tapped_and_played_becomes_words_that_find_it() -> None:
    assert tapped_rhythm([0.0, 0.26, 0.5, 1.0]) == "rhythm 8-8-4-x"
    assert tapped_rhythm([0.0, 0.3, 0.6, 1.05, 1.2]) == "rhythm 8-8-8.-16-x"
    assert tapped_rhythm([1.0]) == ""
    assert [played_move(a, b) for a, b in ((60, 63), (63, 61), (61, 61))] == ["+3", "-2", "same"]
    found = labelled(make_solo([("C6", "C5/8 E5 G5/4 A5/2"), ("C6", "G5/4 E5/8 D5 C5/2")]))
    assert places(found, tapped_rhythm([0.0, 0.25, 0.5, 1.0])) == [(0, 3)]
    assert places(found, "+4 +3 +2") == [(0, 3)]
