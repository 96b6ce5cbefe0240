"""Licks under one another on a page: in one key, one time and one register."""

from __future__ import annotations

from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Solo
from gavotte.vocabulary.lick import Lick, keep_lick
from gavotte.workshop.laid import AlignBy, in_register_of, in_time_of, in_values, laid_sheet, together
from gavotte.workshop.stacked import Block, stacked

LONG = make_solo([("Dm7", "D5/8 F5 A5 C6 A5 F5 D5 C5"), ("G7", "B4/8 D5 F5 Ab5 G5 F5 F#5 Eb5"), ("Cmaj7", "E5/2 r/2")])
SHORT = make_solo([("Gm7 C7", "G4/8 Bb4 D5 F5 E5 Db5 B4 G#4"), ("Fmaj7", "A4/2 r/2")], key="F major")


def kept(solo: Solo, first: str = "n0", last: str = "") -> Lick:
    return keep_lick(solo, "id", label_solo(solo), first, last or solo.notes[-1].id)


def test_a_short_two_five_takes_twice_the_time_beside_a_long_one() -> None:
    slow = in_time_of(LONG, SHORT)
    assert slow.notes[1].onset == 1
    assert [chord.onset for chord in slow.chords] == [0, 4, 8]
    assert in_time_of(SHORT, LONG).notes[1].onset == Fraction(1, 4)
    assert in_time_of(LONG, LONG) is LONG


def test_values_are_doubled_and_halved_there_and_back() -> None:
    there = in_values(LONG, Fraction(2))
    assert in_values(there, Fraction(1, 2)).notes == LONG.notes
    assert [note.duration for note in there.notes] == [2 * note.duration for note in LONG.notes]


def test_a_register_is_met_by_octaves() -> None:
    low = make_solo([("C", "C3/4 E3 G3 E3")])
    high = in_register_of(LONG, low)
    assert {(a.pitch.midi - b.pitch.midi) % 12 for a, b in zip(high.notes, low.notes, strict=True)} == {0}
    assert high.notes[0].pitch.midi > low.notes[0].pitch.midi


def test_a_sheet_brings_all_to_one_key_under_their_names() -> None:
    page, labels = laid_sheet([kept(LONG), kept(SHORT)], tonic=0)
    assert {key.key.tonic.pitch_class for key in page.keys} == {0}
    assert [section.onset for section in page.sections] == [0, 12]
    assert [chord.text for chord in page.chords if chord.onset >= 12] == ["Dm7", "G7", "Cmaj7"]
    assert [label.note for label in labels] == [note.id for note in page.notes]
    assert page.sections[1].label == kept(SHORT).name


def test_goals_stand_under_one_another() -> None:
    early = make_solo([("C", "B4/8 C5/2. r/8")])
    page, _ = laid_sheet([kept(LONG), kept(early)], tonic=0, align=AlignBy.TARGET)
    # The long lick arrives in its third bar; the early one gets two bars of silence in front.
    assert page.note("1:n0").onset == page.sections[1].onset + 8


def test_two_licks_sound_at_once_in_one_key() -> None:
    both = together(LONG, SHORT)
    assert len(both.notes) == len(LONG.notes) + len(SHORT.notes)
    assert both.note("other:n0").onset == 0
    assert both.note("other:n0").pitch.pitch_class == 2
    onsets = [note.onset for note in both.notes]
    assert onsets == sorted(onsets)


def test_nothing_makes_no_page() -> None:
    with pytest.raises(ValueError, match="nothing"):
        stacked([], "")


def test_blocks_with_and_without_a_pickup_begin_alike() -> None:
    pickup = make_solo([("C", "G4/4"), ("C", "C5/1")], pickup=Fraction(1))
    plain = make_solo([("C", "C5/1")])
    page, _ = stacked([Block(pickup, (), "a"), Block(plain, (), "b")], "both")
    assert page.note("0:n1").onset - page.sections[0].onset == page.note("1:n0").onset - page.sections[1].onset == 4
    assert page.pickup == 0
