"""The phrases as a text to hand out."""

from __future__ import annotations

from tests.conftest import make_solo

from gavotte.labelling.hand_out import markdown
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.decisions import with_words
from gavotte.phrasing.hand_out import phrase_lines, phrase_texts
from gavotte.phrasing.structure import structure_of
from gavotte.solo.document import Solo

BARS = [("Dm7", "D4/8 F4 A4 C5 D5 C5 A4 F4"), ("G7", "G4/4 B4/4 r/2")]


def test_phrases_motifs_and_the_arc_are_told() -> None:
    solo = with_words(make_solo([*BARS, *BARS]), "n10", "Answers itself.")
    lines = phrase_lines(structure_of(labelled(solo)))
    assert lines[0] == "## Phrases"
    assert lines[2].startswith("1. Bars 1 to 2: Climbs an octave, then falls a third;")
    assert lines[3].startswith("2. Bars 3 to 4: Answers itself.")
    assert any(line.startswith("- D F A C") and "bar 3: the same notes" in line for line in lines)
    assert lines[-1].startswith("**The arc:** Bar 3 of 4: the highest note, D")


def test_they_stand_before_the_bars() -> None:
    found = labelled(make_solo(BARS))
    text = markdown(found, phrase_lines(structure_of(found)))
    assert text.index("## Phrases") < text.index("## Bar 1")
    assert markdown(found).count("##") == text.count("##") - 1


def test_on_paper_each_has_a_heading() -> None:
    texts = dict(phrase_texts(structure_of(labelled(make_solo([*BARS, *BARS])))))
    assert list(texts)[:2] == ["Phrase 1 · Bars 1 to 2", "Phrase 2 · Bars 3 to 4"]
    assert next(words for heading, words in texts.items() if heading.startswith("Comes back · D F A C")).startswith(
        "First bar 1, beat 1; 2 times; bar 3: the same notes"
    )
    assert list(texts)[-1] == "The arc"
    assert phrase_texts(structure_of(labelled(Solo("")))) == []


def test_without_notes_nothing_is_told() -> None:
    assert phrase_lines(structure_of(labelled(Solo("")))) == []
