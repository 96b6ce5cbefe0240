"""Readings: what is proposed, with which figures, and how a stretch is labelled when it is read otherwise."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.conftest import make_solo

from gavotte.labelling.answers import reading_at, with_changes_read, with_reading, without_reading
from gavotte.labelling.labeller import label_solo, labelled
from gavotte.labelling.readings import proposals, reading_name
from gavotte.solo.document import ChordEvent, Reading, ReadingKind, Solo
from gavotte.solo.moving import excerpt, transposed
from gavotte.solo.school import KEY_CENTRED
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import PitchName

BLUES_LINE = [("Cm7", "F5/8 Eb5 Db5 Bb4 Ab4 Bb4 Db5 Eb5"), ("F7", "E5/8 Eb5 Db5 Bb4 Ab4 Bb4 Db5 Bb4"), ("Bb6", "Bb4/1")]


def blues_over_changes() -> Solo:
    return make_solo(BLUES_LINE, key="Bb major")


def test_a_blues_line_over_a_ii_v_is_proposed_with_its_figures() -> None:
    (proposal,) = proposals(labelled(blues_over_changes()))
    assert proposal.name in ("B♭ blues", "B♭ minor pentatonic")
    assert proposal.reading.kind is ReadingKind.KEY_CENTRE
    assert proposal.inside >= 15
    assert f"{proposal.inside} of {proposal.total} notes lie in {proposal.name}" in proposal.words
    assert f"against the changes {proposal.badly}" in proposal.words


@pytest.mark.parametrize("bars", [
    [("Dm7", "D5/8 E5 F5 A5 G5 F5 E5 D5"), ("G7", "B4/8 D5 F5 Ab5 G5 F5 D5 B4"), ("Cmaj7", "C5/1")],
    [("Dm7b5", "D5/8 F5 Ab5 C6 B5 Ab5 F5 D5"), ("G7alt", "Db5/8 Eb5 F5 Ab5 Bb5 Ab5 Eb5 Db5"), ("Cm6", "C5/1")],
])  # fmt: skip
def test_lines_that_play_the_changes_are_left_alone(bars: list[tuple[str, str]]) -> None:
    assert proposals(labelled(make_solo(bars))) == ()


def test_accepted_the_collection_explains_the_line() -> None:
    solo = blues_over_changes()
    (proposal,) = proposals(labelled(solo))
    read = with_reading(solo, proposal.reading)
    labels = label_solo(read)
    assert {label.function for label in labels[:16]} <= {"chord", "extension", "passing"}
    assert not [label for label in labels if label.device in ("clash", "unexplained")]
    d_flat = labels[2]
    assert (d_flat.device, d_flat.degree, d_flat.other, d_flat.heard) == ("blue", "b9", "♭3", proposal.name)
    assert proposal.name in d_flat.reason
    assert "♭9 of Cm7" in d_flat.reason
    assert proposals(labelled(read)) == ()


def test_declined_it_is_not_proposed_again_until_the_reading_is_taken_away() -> None:
    solo = blues_over_changes()
    (proposal,) = proposals(labelled(solo))
    declined = with_changes_read(solo, proposal.reading.first, proposal.reading.last)
    assert proposals(labelled(declined)) == ()
    assert label_solo(declined) == label_solo(solo)
    assert proposals(labelled(without_reading(declined, "n3"))) == (proposal,)


SLIP_LINE = [("Dm7", "D5/8 F5 A5 C6 Bb5 Gb5 Eb5 Db5"), ("Dm7", "D5/8 F5 E5 D5 A4/2")]


def test_an_implied_chord_is_proposed_and_read() -> None:
    solo = make_solo(SLIP_LINE, key="D minor", mode="dorian")
    (proposal,) = proposals(labelled(solo))
    assert proposal.name == "E♭m7"
    assert "against Dm7 4 of them are outside" in proposal.words
    labels = label_solo(with_reading(solo, proposal.reading))
    inside = labels[4:8]
    assert {label.device for label in inside} == {"plain"}
    assert [label.degree for label in inside] == ["5", "b3", "1", "b7"]
    assert [label.other for label in inside] == ["♭13", "3", "♭9", "7"]
    assert {label.heard for label in inside} == {"over E♭m7"}
    assert labels[8].heard == ""
    assert labels[8].chord == "Dm7"


def test_implied_chords_can_be_several_and_end_where_the_reading_ends() -> None:
    solo = make_solo([("C", "C5/4 E5 G5 E5"), ("C", "C5/4 E5 G5 E5")])
    chords = (ChordEvent("a", solo.notes[1].onset, "Am7"), ChordEvent("b", solo.notes[3].onset, "Em7"))
    labels = label_solo(with_reading(solo, Reading("n1", "n4", ReadingKind.IMPLIED, chords=chords)))
    assert [label.chord for label in labels] == ["C", "Am7", "Am7", "Em7", "Em7", "C", "C", "C"]


def test_a_new_reading_takes_the_place_of_those_it_overlaps() -> None:
    solo = blues_over_changes()
    first = Reading("n0", "n5", ReadingKind.KEY_CENTRE, PitchName("B", -1), "blues")
    second = replace(first, first="n4", last="n9", collection="dorian")
    third = replace(first, first="n12", last="n14")
    read = with_reading(with_reading(with_reading(solo, first), third), second)
    assert read.readings == (second, third)
    assert reading_at(read, "n5") == second
    assert reading_at(read, "n10") is None
    assert [reading_name(reading) for reading in read.readings] == ["B♭ dorian", "B♭ blues"]


def test_a_reading_moves_with_its_solo_and_into_its_excerpt() -> None:
    solo = blues_over_changes()
    (proposal,) = proposals(labelled(solo))
    read = with_reading(solo, proposal.reading)
    up = transposed(read, Interval(1, 2))
    assert up.readings[0].tonic == PitchName("C")
    assert [(x.function, x.device, x.other) for x in label_solo(up)] == [
        (x.function, x.device, x.other) for x in label_solo(read)
    ]
    short = with_reading(solo, replace(proposal.reading, first="n8", last="n11"))
    assert len(excerpt(short, "n8", "n15").readings) == 1
    assert excerpt(short, "n0", "n9").readings == ()


def test_a_reading_whose_notes_are_gone_does_nothing() -> None:
    solo = blues_over_changes()
    reading = Reading("gone", "n3", ReadingKind.KEY_CENTRE, PitchName("B", -1), "blues")
    assert label_solo(replace(solo, readings=(reading,))) == label_solo(solo)


def test_the_key_centred_school_reads_everything_by_its_key() -> None:
    solo = make_solo([("Dm7", "D5/8 E5 F5 A5 G5/2"), ("G7", "C5/4 E5/4 D5/2")])
    labels = label_solo(solo, KEY_CENTRED)
    assert {label.heard for label in labels} == {"C major"}
    assert labels[5].device == "natural"
    assert label_solo(solo)[5].device in ("clash", "natural")
