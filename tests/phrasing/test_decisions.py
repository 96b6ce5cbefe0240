"""What the user decides about phrases and layers: kept, followed, taken back, and gone with its note."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.decisions import (
    with_phrase_start,
    with_reduction,
    with_start_moved,
    with_words,
    without_phrase_start,
    words_of,
)
from gavotte.phrasing.phrases import Phrase, gestures_of, phrases_of
from gavotte.solo.bounds import BoundsError, within_bounds
from gavotte.solo.document import PhraseWords, Solo
from gavotte.writing.placing import cleared

BARS = [("Dm7", "D4/8 F4 A4 C5 D5 C5 A4 F4"), ("G7", "G4/4 B4/4 r/2")]
TWICE = make_solo([*BARS, *BARS])


def firsts(solo: Solo) -> list[int]:
    return [phrase.first for phrase in phrases_of(solo)]


def test_a_phrase_begins_where_the_user_says() -> None:
    assert firsts(TWICE) == [0, 10]
    assert firsts(with_phrase_start(TWICE, "n4", True)) == [0, 4, 10]


def test_phrases_are_joined_where_the_user_says() -> None:
    joined = with_phrase_start(TWICE, "n10", False)
    assert firsts(joined) == [0]
    assert firsts(without_phrase_start(joined, "n10")) == [0, 10]


def test_the_last_word_counts() -> None:
    twice = with_phrase_start(with_phrase_start(TWICE, "n4", True), "n4", False)
    assert len(twice.phrase_starts) == 1
    assert firsts(twice) == [0, 10]


def test_a_moved_beginning_takes_the_words_along() -> None:
    said = with_words(TWICE, "n10", "answers")
    moved = with_start_moved(said, "n10", "n8")
    assert firsts(moved) == [0, 8]
    assert (words_of(moved, "n10"), words_of(moved, "n8")) == ("", "answers")


def test_words_are_taken_back() -> None:
    assert with_words(with_words(TWICE, "n0", "asks"), "n0", "").phrase_words == ()


@pytest.mark.parametrize("decide", [lambda s: with_phrase_start(s, "x", True), lambda s: with_reduction(s, "x", 1)])
def test_nothing_is_decided_about_a_note_that_is_not_there(decide: object) -> None:
    with pytest.raises(KeyError):
        decide(TWICE)  # type: ignore[operator]


def test_a_mark_on_a_grace_note_is_that_of_the_note_it_leads_into() -> None:
    notes = list(TWICE.notes)
    notes.insert(4, replace(notes[4], id="g", duration=Fraction(0), grace=True))
    solo = with_phrase_start(replace(TWICE, notes=tuple(notes)), "g", True)
    assert 4 in firsts(solo)


def test_what_was_decided_about_a_note_goes_with_it() -> None:
    decided = with_words(with_reduction(with_phrase_start(TWICE, "n4", True), "n4", 3), "n4", "so")
    gone = cleared(decided, (TWICE.note("n4").onset, TWICE.note("n4").end))
    assert (gone.phrase_starts, gone.phrase_words, gone.reductions) == ((), (), ())
    elsewhere = cleared(decided, (TWICE.note("n6").onset, TWICE.note("n6").end))
    assert elsewhere.phrase_starts is decided.phrase_starts


def test_decisions_are_kept_in_the_document() -> None:
    decided = with_words(with_reduction(with_phrase_start(TWICE, "n4", True), "n2", 3), "n4", "so")
    assert SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(decided)) == decided


def test_words_have_bounds() -> None:
    with pytest.raises(BoundsError, match="what a phrase does"):
        within_bounds(replace(TWICE, phrase_words=(PhraseWords("n0", "x" * 2_000_000),)))


@given(st.integers(0, 40), st.dictionaries(st.integers(1, 30), st.booleans(), max_size=8))
def test_any_decisions_are_followed(seed: int, marks: dict[int, bool]) -> None:
    solo = random_solo(seed)
    heads = [note.id for note in solo.notes if not note.grace]
    wanted = {heads[place]: begins for place, begins in marks.items() if place < len(heads)}
    for note, begins in wanted.items():
        solo = with_phrase_start(solo, note, begins)
    phrases = phrases_of(solo, labelled(solo).labels)
    assert [i for phrase in phrases for i in range(phrase.first, phrase.last + 1)] == list(range(len(solo.notes)))
    # A phrase begins with the grace notes before its first note.
    begun = {next(n.id for n in solo.notes[phrase.first :] if not n.grace) for phrase in phrases[:]} if heads else set()
    assert all((note in begun) == begins for note, begins in wanted.items())


def test_a_phrase_of_two_gestures() -> None:
    solo = make_solo([("Dm7", "D4/8 F4 A4/2 r/8 A4/8"), ("G7", "F4/8 D4 B3/2 r/4")])
    assert gestures_of(solo, [Phrase(0, 6)]) == ((Phrase(0, 2), Phrase(3, 6)),)
    assert gestures_of(solo, [Phrase(0, 2), Phrase(3, 6)]) == ((Phrase(0, 2),), (Phrase(3, 6),))
    assert gestures_of(Solo(""), []) == ()
