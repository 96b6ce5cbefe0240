"""Suspected slips: what is found, what is left alone, and what an answer does."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.answers import with_slip, without_slip
from gavotte.labelling.labeller import labelled
from gavotte.labelling.slips import Remedy, Slip, suspected_slips
from gavotte.solo.document import Function, Solo
from gavotte.solo.edits import with_decision, with_notes_moved
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.solo.written import as_written
from gavotte.theory.interval import Interval

LINE = [("Dm7", "D5/8 E5 F5 A5 G5 F5 E5 D5"), ("G7", "B4/8 D5 F5 A5 G5 F5 D5 B4"), ("Cmaj7", "C5/8 E5 G5 E5 C5/2")]


def slips(solo: Solo) -> tuple[Slip, ...]:
    return suspected_slips(labelled(solo))


def test_a_note_a_semitone_off_is_found_with_what_it_should_be() -> None:
    solo = make_solo(LINE)
    assert slips(solo) == ()
    for note, by in (("n2", 1), ("n9", -1), ("n17", -1)):
        (slip,) = slips(with_notes_moved(solo, [note], by))
        assert (slip.note, slip.change) == (note, Remedy.PITCH)
        assert slip.pitch is not None
        assert slip.pitch.midi == solo.note(note).pitch.midi
        assert slip.gain > 0


def test_the_words_do_not_contradict_the_label() -> None:
    wrong = with_notes_moved(make_solo(LINE), ["n2"], 1)
    (slip,) = slips(wrong)
    assert "F♯ on beat 2 is hard to explain; F would be the ♭3 of Dm7." in slip.words


def test_taking_a_slip_mends_the_note_and_dismissing_it_silences_it() -> None:
    solo = make_solo(LINE)
    wrong = with_notes_moved(solo, ["n9"], -1)
    (slip,) = slips(wrong)
    assert slip.pitch is not None
    mended = with_slip(wrong, slip, slip.pitch.midi - wrong.note("n9").pitch.midi)
    assert [note.pitch.midi for note in mended.notes] == [note.pitch.midi for note in solo.notes]
    silent = without_slip(wrong, slip)
    assert slips(silent) == ()
    assert without_slip(silent, slip).dismissed == silent.dismissed
    moved_again = with_notes_moved(silent, ["n9"], 2)
    assert [s.note for s in slips(moved_again)] == ["n9"], "another pitch is another question"


def test_what_the_user_decided_is_no_slip() -> None:
    wrong = with_notes_moved(make_solo(LINE), ["n2"], 1)
    assert slips(with_decision(wrong, "n2", Function.OUTSIDE, "unexplained")) == ()


def test_a_note_an_octave_off_is_found() -> None:
    solo = make_solo(LINE)
    wrong = replace(
        solo,
        notes=tuple(replace(n, pitch=n.pitch.transposed(Interval(7, 12))) if n.id == "n10" else n for n in solo.notes),
    )
    (slip,) = slips(wrong)
    assert (slip.note, slip.change) == ("n10", Remedy.OCTAVE)
    mended = with_slip(wrong, slip, -12)
    assert mended.notes == solo.notes


def test_a_chord_a_beat_late_is_found_and_moved() -> None:
    line = "Ab5/16 Gb5 F5 Eb5 F5/8 Ab5 Cb6 Ab5 F5 Db5"
    bars = [("Dm7", "D5/8 F5 A5 C6 A5 F5 E5 D5"), ("Db7", line), ("Cmaj7", "C5/1")]
    solo = make_solo(bars)
    assert slips(solo) == ()
    late = replace(solo, chords=tuple(replace(c, onset=c.onset + 1) if c.text == "Db7" else c for c in solo.chords))
    found = [slip for slip in slips(late) if slip.change is Remedy.CHORD]
    assert [(slip.chord, slip.onset) for slip in found] == [("c1", Fraction(4))]
    assert "a beat earlier" in found[0].words
    assert with_slip(late, found[0]).chords == solo.chords


def test_a_part_in_written_pitch_is_found_and_read_so() -> None:
    solo = DEMO_SOLOS[0]()
    assert solo.instrument.transposition_semitones == -2
    copied = replace(solo, notes=as_written(solo).notes)
    (slip,) = slips(copied)
    assert slip.change is Remedy.WRITTEN
    back = with_slip(copied, slip)
    assert [note.pitch.midi for note in back.notes] == [note.pitch.midi for note in solo.notes]
    concert = next(i for i in INSTRUMENTS if not i.transposition_semitones)
    assert all(s.change is not Remedy.WRITTEN for s in slips(replace(copied, instrument=concert)))


@pytest.mark.parametrize("make", DEMO_SOLOS, ids=lambda make: make.__name__)
def test_there_are_few_false_alarms_on_lines_that_are_right(make: object) -> None:
    solo = make()  # type: ignore[operator]
    assert len(slips(solo)) * 25 <= len(solo.notes)


@pytest.mark.parametrize("bars", [[("C", "C5/1")], [("C", "r/1")], [("C", "*B4 C5/1")]])
def test_the_shortest_solos_have_no_slips(bars: list[tuple[str, str]]) -> None:
    assert slips(make_solo(bars)) == ()
