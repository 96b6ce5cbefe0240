"""What a labeller meets that is no proper solo: no chords, unreadable ones, two at a place, odd notes."""

from __future__ import annotations

import json
from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.formats.passage import read_passages
from gavotte.labelling.hand_out import bar_texts, markdown
from gavotte.labelling.labeller import label_solo, labelled
from gavotte.labelling.overview import landings
from gavotte.labelling.readings import proposals
from gavotte.labelling.slips import suspected_slips
from gavotte.phrasing.structure import structure_of
from gavotte.solo.checks import check
from gavotte.solo.document import ChordEvent, KeyRegion, Note, Solo
from gavotte.solo.school import SCHOOLS
from gavotte.theory.key import Key
from gavotte.theory.pitch import Pitch

LINE = [("Dm7", "D5/8 E5 F5 A5 G5 F5 E5 D5"), ("G7", "B4/2 D5/2")]


def everything(solo: Solo) -> None:
    """Whatever is worked out from a solo is worked out."""
    for school in SCHOOLS:
        found = labelled(solo, school)
        assert len(found.labels) == len(solo.notes)
        suspected_slips(found)
        proposals(found)
        landings(found)
        structure_of(found)
        bar_texts(found)
        markdown(found)


def test_without_chords_notes_are_named_by_the_key_and_less_surely() -> None:
    solo = replace(make_solo(LINE), chords=())
    labels = label_solo(solo)
    assert {label.chord for label in labels} == {""}
    assert all(label.confidence < 0.9 for label in labels)
    assert all("a note to rest on" in label.reason for label in labels if label.device == "plain")
    everything(solo)


def test_under_a_chord_that_cant_be_read_notes_are_named_by_the_key_and_flagged() -> None:
    solo = make_solo(LINE)
    odd = replace(solo, chords=(replace(solo.chords[0], text="Dxyz"), solo.chords[1]))
    labels = label_solo(odd)
    assert all(label.in_doubt for label in labels[:8] if label.device == "plain")
    assert any("“Dxyz” can't be read" in label.reason for label in labels[:8])
    assert labels[8].chord == "G7"
    assert not labels[8].in_doubt
    everything(odd)


def test_two_chords_at_one_place_are_told_and_the_second_counts() -> None:
    solo = make_solo(LINE)
    doubled = replace(solo, chords=(ChordEvent("x", Fraction(0), "Ebmaj7"), *solo.chords))
    assert label_solo(doubled) == label_solo(solo)
    assert any("two chords" in finding.message.lower() and "bar 1" in finding.message for finding in check(doubled))
    everything(doubled)


def test_a_run_of_sixty_fourths() -> None:
    pitches = ("D5", "E5", "F5", "G5", "A5", "G#5", "A5", "C6") * 8
    notes = tuple(
        Note(f"n{i}", Fraction(i, 16), Fraction(1, 16), Pitch.parse(pitch)) for i, pitch in enumerate(pitches)
    )
    solo = replace(make_solo(LINE), notes=notes)
    assert label_solo(solo)[5].device == "chromatic-neighbour"
    everything(solo)


@pytest.mark.parametrize("bars", [[("C", "C5/1")], [("C7alt", "F#5/1")], [("N.C.", "C5/1")], [("C", "r/1")]])
def test_a_solo_of_one_note_or_none(bars: list[tuple[str, str]]) -> None:
    everything(make_solo(bars))


def test_a_key_of_thirty_flats_is_refused_and_seven_are_fine() -> None:
    with pytest.raises(ValueError, match="no pitch"):
        Key.from_fifths(-30)
    solo = make_solo([("Cbmaj7", "Eb5/8 Fb5 Gb5 Bb5 Cb6/2")], key="Cb major")
    assert [label.degree for label in label_solo(solo)] == ["3", "11", "5", "7", "1"]
    everything(replace(solo, keys=(KeyRegion(Fraction(0), Key.parse("Cb minor")),)))


def test_graces_at_every_place() -> None:
    everything(make_solo([("Cmaj7", "*D#5 E5/8 *F5 *G#5 G5 *B4 C5 E5 G4/2"), ("F", "*G4 A4/1")]))


def test_a_passage_with_an_odd_chord_is_labelled_all_the_same() -> None:
    item = {"id": "x", "chords": [["0", "Q9"], ["2", "Am7"]], "notes": [["0", "2", "C5"], ["2", "2", "C5"]]}
    (passage,) = read_passages(json.dumps(item))
    assert [label.chord for label in label_solo(passage.solo)] == ["", "Am7"]
