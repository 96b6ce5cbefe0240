"""What is said of a phrase, and the collections it may be chosen from."""

from __future__ import annotations

from fractions import Fraction

import pytest
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.card import Start, card_of, contour_words, set_off_by
from gavotte.phrasing.collections import collections_of
from gavotte.phrasing.phrases import Phrase, phrases_of
from gavotte.phrasing.shapes import shape_of
from gavotte.solo.document import Function


def test_the_figures_of_a_phrase() -> None:
    found = labelled(make_solo([("Dm7", "r/4 D4/8 E4 F4/4 A4/4"), ("G7", "B4/2 r/2")]))
    card = card_of(found, Phrase(0, 4))
    assert (card.start, card.rest_before, card.length) == (Start.ON_THE_BEAT, Fraction(1), Fraction(5))
    assert (card.per_beat, card.low, card.high) == (1.0, 62, 71)
    assert (card.first, card.last, card.highest) == (0, 4, 4)
    assert card.functions == ((Function.CHORD, 4), (Function.PASSING, 1))
    assert card.contour == "climbs a sixth"


@pytest.mark.parametrize(
    ("notes", "start"),
    [
        ("C5/4 E5 G5 C5", Start.ON_THE_BEAT),
        ("r/8 E5/8 G5/4 C5/2", Start.OFF_THE_BEAT),
        ("r/2 r/4 G4/8 B4", Start.PICKUP),
    ],
)
def test_how_it_begins(notes: str, start: Start) -> None:
    assert card_of(labelled(make_solo([("C", notes), ("C", "C5/1")])), Phrase(0, 1)).start is start


@pytest.mark.parametrize(
    ("pitches", "words"),
    [
        ([60, 64, 67], "climbs a fifth"),
        ([72, 67, 64], "falls a sixth"),
        ([60, 69, 65], "climbs a sixth at once, then falls a third at once"),
        ([67, 60, 64], "falls a fifth at once, then climbs a third at once"),
        ([67, 60, 62, 64, 65, 69], "falls a fifth at once, then climbs a sixth"),
        ([67, 60, 62, 64, 65], "falls a fifth at once, then climbs a fourth by step"),
        ([60, 62, 64], "climbs a third by step"),
        ([60, 62], "climbs a step"),
        ([64, 72, 64], "climbs a sixth at once, then falls a sixth at once"),
        ([60, 72, 60], "climbs an octave at once, then falls an octave at once"),
        ([60, 60], "stays on one note"),
        ([60, 90], "climbs over two octaves at once"),
    ],
)
def test_contours(pitches: list[int], words: str) -> None:
    assert contour_words(pitches) == words


def test_what_sets_a_phrase_off_from_the_one_before() -> None:
    bars = [("C", "C4/4 E4 r/2"), ("C", "C5/8 D5 E5 F5 G5 A5 B5 C6"), ("C", "G4/1")]
    found = labelled(make_solo(bars))
    calm, busy, low = (card_of(found, phrase) for phrase in (Phrase(0, 1), Phrase(2, 9), Phrase(10, 10)))
    assert set_off_by(calm, None) == ()
    assert set_off_by(busy, calm) == ("busier", "longer", "higher")
    assert set_off_by(low, busy) == ("sparser", "lower")


@pytest.mark.parametrize(
    ("bars", "key", "name"),
    [
        ([("Dm7", "D4/8 F4 G4 A4 C5 A4 G4 D4")], "D minor", "D minor pentatonic"),
        ([("E7", "E4/8 G4 A4 Bb4 B4 D5 B4 E4")], "E major", "E blues"),
        ([("Cmaj7", "C4/8 D4 E4 F4 G4 A4 B4 C5")], "C major", "C major"),
        ([("G7", "G4/8 A4 B4 C#5 D5 E5 F5 G5")], "C major", "G lydian dominant"),
    ],
)
def test_the_simplest_collection_that_explains_the_notes_comes_first(
    bars: list[tuple[str, str]], key: str, name: str
) -> None:
    found = labelled(make_solo(bars, key=key))
    best = collections_of(found, 0, 7)[0]
    assert (best.name, best.inside, best.outside) == (name, 8, ())


def test_a_collection_says_what_it_leaves_out_and_fails_to_explain() -> None:
    found = labelled(make_solo([("Dm7", "D4/8 F4 G4 A4 F4 G#4 A4 D4")]))
    chosen = next(c for c in collections_of(found, 0, 7) if c.name == "D minor pentatonic")
    assert (chosen.left_out, chosen.outside) == ((10,), (5,))


@pytest.mark.parametrize("seed", range(15))
def test_every_phrase_of_any_solo_has_a_card(seed: int) -> None:
    solo = random_solo(seed)
    found = labelled(solo)
    for phrase in phrases_of(solo):
        card = card_of(found, phrase)
        assert sum(number for _, number in card.functions) == phrase.last - phrase.first + 1
        assert card.low <= card.high
        for chosen in collections_of(found, phrase.first, phrase.last):
            assert chosen.inside + len(chosen.outside) == chosen.total


@pytest.mark.parametrize(
    ("notes", "name"),
    [
        ("G4/8 Bb4 D5 G5 D5 Bb4 G4/4", "G minor triad"),
        ("C4/8 D4 E4 G4 C5 D5 E5 G5", "1-2-3-5 of C"),
        ("E4/8 G4 B4 D5 E5 D5 B4 G4", "1-♭3-5-♭7 of E"),
        ("C5/8 E5 G5 D5 F#5 A5 C6 G5", "C and D triads"),
        ("C5/4 C5 C5 C5", "C alone"),
        ("C5/8 D5 E5 F5 G5 A5 B5 C6", None),
        ("C5/4 E5 G5/2", None),
    ],
)
def test_few_notes_have_a_name(notes: str, name: str | None) -> None:
    found = labelled(make_solo([("C", notes)]))
    shape = shape_of(found, 0, len(found.solo.notes) - 1)
    assert (shape.name if shape is not None else None) == name


def test_the_upper_notes_of_a_chord() -> None:
    found = labelled(make_solo([("Cm7", "Eb4/8 G4 Bb4 D5 Bb4 G4 Eb4/4")]))
    shape = shape_of(found, 0, 6)
    assert shape is not None
    assert shape.name in ("♭3-5-♭7-9 of C", "1-3-5-7 of E♭")


def test_syncopation_and_rests_of_a_phrase() -> None:
    found = labelled(make_solo([("C", "r/8 C4/4 E4/8 G4/4 r/4"), ("C", "C5/4 r/2 r/4")]))
    card = card_of(found, Phrase(0, 3))
    assert card.syncopated == 1
    assert card.rests == pytest.approx(1 / 4.5)
