"""The analysis as text, and the overviews: skeleton, chord changes, figures."""

from __future__ import annotations

from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.answers import with_reading
from gavotte.labelling.hand_out import bar_texts, heading_of, markdown, with_bar_text
from gavotte.labelling.labeller import labelled
from gavotte.labelling.overview import groups, landings
from gavotte.solo.document import Function, Reading, ReadingKind
from gavotte.solo.edits import with_decision
from gavotte.solo.label import DEVICES
from gavotte.theory.pitch import PitchName

BARS = [("Dm7", "F4/8 A4 C5 E5 D5 E5 F5 A5"), ("G7", "B4/4 r D5/8 r F#5 Eb5"), ("Cmaj7", "E5/2 A5/8 G#5 G5/4")]


def test_each_bar_is_told_in_sentences() -> None:
    texts = bar_texts(labelled(make_solo(BARS)))
    assert [heading_of(text) for text in texts] == ["Bar 1 · Dm7 (ii)", "Bar 2 · G7 (V)", "Bar 3 · CΔ7 (I)"]
    assert texts[0].words.startswith("F, A, C and E spell FΔ7 as colours of Dm7 (♭3 5 ♭7 9).")
    assert "E passes by step to F, the ♭3 of Dm7." in texts[0].words
    assert "F♯ and E♭ close in on E, the 3rd of CΔ7." in texts[1].words


def test_every_note_is_told_in_its_bar() -> None:
    for make in DEMO_SOLOS:
        found = labelled(make())
        texts = {text.onset: text.words for text in bar_texts(found)}
        for note in found.solo.notes:
            assert note.pitch.shown in texts[found.frame.grid.at(note.onset).onset]


@pytest.mark.parametrize("function", list(Function))
def test_whatever_was_decided_can_be_told(function: Function) -> None:
    for make in DEMO_SOLOS[:2]:
        solo = make()
        for device in DEVICES[function]:
            for note in (solo.notes[0], solo.notes[29], solo.notes[41], solo.notes[-1]):
                solo = with_decision(solo, note.id, function, device)
            found = labelled(solo)
            assert len(bar_texts(found)) > 10
            assert all(group.notes for group in groups(found).values())


def test_own_words_stand_in_a_bar_until_they_are_dropped() -> None:
    solo = make_solo(BARS)
    own = with_bar_text(solo, Fraction(4), "He waits, then closes in.")
    texts = bar_texts(labelled(own))
    assert [(text.number, text.written) for text in texts] == [(1, False), (2, True), (3, False)]
    assert texts[1].words == "He waits, then closes in."
    assert with_bar_text(own, Fraction(4), None) == solo
    assert len(with_bar_text(own, Fraction(4), "Otherwise.").remarks) == 1


def test_the_markdown_holds_title_keys_changes_readings_and_bars() -> None:
    solo = with_reading(
        make_solo(BARS), Reading("n0", "n9", ReadingKind.KEY_CENTRE, PitchName("C"), "major pentatonic")
    )
    text = markdown(labelled(solo))
    parts = ("# Test\n", "**Key:** C major", "**Changes:** ii-V-I.", "**School:** Linear.", "\n## Bar 2 · G7 (V)\n")
    for part in parts:
        assert part in text
    assert "**Reading:** bars 1 to 2 are heard in C major pentatonic." in text
    first = bar_texts(labelled(solo))[0].words
    assert first.startswith("From here to bar 2 the line is heard in C major pentatonic. ")
    assert text.endswith("\n")


def test_what_falls_on_the_chord_changes() -> None:
    rows = landings(labelled(make_solo(BARS)))
    assert [(row.place, row.old, row.new, row.note, row.degree) for row in rows] == [
        ("bar 2, beat 1", "Dm7", "G7", "n8", "3"),
        ("bar 3, beat 1", "G7", "Cmaj7", "n12", "3"),
    ]
    assert [(row.before, row.degree_before, row.move) for row in rows] == [("n7", "5", -10), ("n11", "♭13", 1)]


def test_a_note_held_into_a_change_or_a_rest_there() -> None:
    bars = [("Dm7", "A4/2. C5/4~"), ("G7", "C5/2 r/2"), ("C", "r/1"), ("G", "D5/1")]
    held, silent = landings(labelled(make_solo(bars)))[:2]
    assert (held.note, held.degree, held.label and held.label.device) == ("n1", "11", "plain")
    assert (silent.note, silent.label) == (None, None)


def test_figures_by_their_number() -> None:
    found = labelled(make_solo(BARS))
    by_kind = {group.kind: group for group in groups(found).values()}
    assert by_kind["upper structure"].notes == ("n0", "n1", "n2", "n3")
    assert by_kind["upper structure"].spells == "Fmaj7"
    assert by_kind["enclosure"].target == "n12"


def test_fourths_and_moved_triads_are_told_as_what_they_are() -> None:
    solo = make_solo(
        [("Am7", "A4/8 C5 Bb4 Eb5 Ab5 r/8 C5/4"), ("Am7", "A4/4 C5/4 B4/8t D#5 F#5 Bb4 D5 F5"), ("Am7", "E5/1")],
        key="G major",
    )
    words = [text.words for text in bar_texts(labelled(solo))]
    assert "B♭, E♭ and A♭ are stacked in fourths over Am7." in words[0]
    assert "B, D♯, F♯, B♭, D and F spell B and then B♭ over Am7." in words[1]
