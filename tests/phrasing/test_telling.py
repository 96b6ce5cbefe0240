"""What is said of phrases is so: each claim is tried on the notes."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo
from tests.phrasing.marked_lines import FIRST, SECOND, marked
from tests.random_solos import random_solo

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.card import card_of
from gavotte.phrasing.phrases import Phrase
from gavotte.phrasing.structure import Structure, structure_of
from gavotte.phrasing.telling import card_lines, chosen_from, featured_words, listed, quarters, register_words, sentence
from gavotte.solo.document import Section, Solo
from gavotte.theory.scale import collection_pitch_classes
from gavotte.writing.placing import cleared

BARS = [("Dm7", "D4/8 F4 A4 C5 D5 C5 A4 F4"), ("G7", "G4/4 B4/4 r/2")]


def told(solo: Solo) -> tuple[Structure, list[str]]:
    built = structure_of(labelled(solo))
    return built, [sentence(built.found, built.cards, k, built.recalls[k]) for k in range(len(built.phrases))]


def test_what_two_phrases_do() -> None:
    _, said = told(make_solo([*BARS, *BARS]))
    assert said == [
        "Climbs an octave, then falls a third; lands on B, the 3rd of G7, by leap from below.",
        "Says again what bar 1 said, climbs an octave, then falls a third; "
        "lands on B, the 3rd of G7, by leap from below.",
    ]


def test_a_phrase_that_begins_as_the_one_before_and_lands_elsewhere_answers_it() -> None:
    call, answer = ("Am7", "A4/8 C5 E5 D5 C5/4 r/4"), ("Am7", "A4/8 C5 E5 D5 C5/4 A4/8 G4")
    silence = ("Am7", "r/1")
    _, said = told(make_solo([call, ("D7", "D5/4 E5/4 r/2"), silence, answer, ("D7", "F#4/2 r/2")]))
    assert said[1].startswith("Answers bar 1: begins the same, ends otherwise")
    _, said = told(make_solo([call, ("D7", "D5/4 E5/4 r/2"), silence, call, ("D7", "D5/4 E5/4 r/2")]))
    assert said[1].startswith("Says again what bar 1 said")


def test_a_phrase_over_a_section_line_leads_in() -> None:
    solo = make_solo([*BARS, ("G7", "r/1"), ("G7", "r/2 r/8 G4/8 A4 B4"), ("Cmaj7", "C5/4 E5/4 G5/4 E5/4")])
    _, said = told(replace(solo, sections=(Section(Fraction(16), "B"),)))
    assert "leads in over the bar line of B" in said[-1]


def test_one_note() -> None:
    built, said = told(make_solo([("Cmaj7", "E5/1")]))
    assert said == ["One note: E, the 3rd of CΔ7."]
    assert (
        dict(card_lines(built.found, built.cards, 0, built.kept_in(built.phrases[0])))["Contour"] == "stays on one note"
    )


def test_without_notes_nothing_is_said() -> None:
    built, said = told(Solo(""))
    assert (built.phrases, said) == ((), [])


@pytest.mark.parametrize("line", [marked(line) for line in (*FIRST, *SECOND)], ids=lambda line: line.name)
def test_each_claim_is_so(line: object) -> None:
    built, _ = told(line.solo)  # type: ignore[attr-defined]
    notes, labels = built.found.solo.notes, built.found.labels
    for k, (phrase, card) in enumerate(zip(built.phrases, built.cards, strict=True)):
        inside = [note for note in notes[phrase.first : phrase.last + 1] if not note.grace]
        lines = dict(card_lines(built.found, built.cards, k, built.kept_in(phrase)))
        assert lines["Highest"].startswith(max(inside, key=lambda note: note.pitch.midi).pitch.shown)
        assert lines["First note"].startswith(inside[0].pitch.shown)
        assert lines["Last note"].startswith(inside[-1].pitch.shown)
        assert sum(number for _, number in card.functions) == len(inside)
        assert card.syncopated <= len(inside)
        if "by an enclosure" in lines["Last note"]:
            assert any(label.device == "enclosure" and label.target == inside[-1].id for label in labels)
        if "Saved for the end" in lines:
            assert inside[-1].pitch.pitch_class not in {note.pitch.pitch_class for note in inside[:-1]}
        if "Keeps coming back to" in lines:
            name, times = lines["Keeps coming back to"].removesuffix(" times").split(", ")
            assert sum(note.pitch.shown == name for note in inside) >= int(times)
        if "where none began before" in lines["Begins"]:
            place = built.found.frame.notes[card.first].place
            assert all(built.found.frame.notes[other.first].place != place for other in built.cards[:k])
        recall = built.recalls[k]
        if recall is not None:
            assert recall.there.last < phrase.first <= recall.here.first
        for chosen in chosen_from(built.found, phrase)[:3]:
            classes = collection_pitch_classes(chosen.collection, chosen.tonic.pitch_class)
            assert chosen.inside == sum(
                note.pitch.pitch_class in classes for note in notes[phrase.first : phrase.last + 1]
            )


@pytest.mark.parametrize("seed", range(40))
def test_something_is_said_of_whatever_is_played(seed: int) -> None:
    built, said = told(random_solo(seed))
    assert len(said) == len(built.phrases)
    assert all(words.endswith(".") and words[0].isupper() for words in said)
    assert {register_words(card, built.cards) for card in built.cards} <= {"low", "high", "in the middle"}


def test_what_hangs_on_the_notes_alone_is_not_worked_out_again() -> None:
    found = labelled(make_solo([*BARS, *BARS]))
    before = structure_of(found)
    after = structure_of(labelled(replace(found.solo, title="Other"), like=found), before)
    assert after.motifs is before.motifs
    assert after.phrases == before.phrases


def test_what_is_saved_and_what_is_returned_to() -> None:
    built, _ = told(make_solo([("C7", "G4/8 C5 G4 D5 G4 E5 G4 Bb4"), ("F7", "A4/2 r/2")]))
    lines = dict(card_lines(built.found, built.cards, 0, []))
    assert lines["Saved for the end"] == "A, not played before in this phrase"
    assert lines["Keeps coming back to"] == "G, 4 times"


def test_what_is_leaned_on_again_and_again() -> None:
    found = labelled(make_solo([("Cmaj7", "D5/2 C5/4 r/4")] * 3))
    cards = [card_of(found, Phrase(first, first + 1)) for first in (0, 2, 4)]
    assert featured_words(found, cards) == "leans on the 9 in 3 of 3 phrases"
    assert featured_words(found, cards[:2]) == ""


def test_motifs_are_carried_over_an_edit() -> None:
    solo = make_solo([*BARS, *BARS, *BARS])
    before = structure_of(labelled(solo))
    without = cleared(solo, (solo.note("n1").onset, solo.note("n1").end))
    rough = structure_of(labelled(without), before, quick=True)
    assert [len(motif.instances) for motif in before.motifs] == [3]
    [motif] = rough.motifs
    assert [without.notes[place.first].id for place in motif.instances] == ["n10", "n20"]
    assert structure_of(labelled(without), rough).motifs == rough.motifs


@pytest.mark.parametrize(
    ("length", "words"),
    [
        ("1", "1 quarter note"),
        ("5/2", "2½ quarter notes"),
        ("1/3", "a triplet eighth"),
        ("1/2", "an eighth"),
        ("4", "4 quarter notes"),
        ("7/5", "1.40 quarter notes"),
        ("1/8", "0.12 of a quarter note"),
    ],
)
def test_lengths_in_words(length: str, words: str) -> None:
    assert quarters(Fraction(length)) == words


def test_lists_in_words() -> None:
    assert [listed(words) for words in (("a",), ("a", "b"), ("a", "b", "c"))] == ["a", "a and b", "a, b and c"]
