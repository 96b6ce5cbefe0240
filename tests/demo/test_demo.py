from __future__ import annotations

from fractions import Fraction

import pytest

from gavotte.demo.shorthand import ShorthandError, write_out
from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.labeller import label_solo
from gavotte.solo.bars import BarGrid
from gavotte.solo.checks import check
from gavotte.solo.document import Articulation, Function


@pytest.mark.parametrize("make", DEMO_SOLOS)
def test_demo_solos_are_sound_and_show_what_gavotte_names(make: object) -> None:
    solo = make()  # type: ignore[operator]
    labels = label_solo(solo)
    assert check(solo) == ()
    assert {label.function for label in labels} == set(Function)
    assert any(label.device == "enclosure" for label in labels)
    assert any(note.has(Articulation.SLIDE) for note in solo.notes)
    assert any(note.duration.denominator == 3 for note in solo.notes)
    assert any(label.in_doubt for label in labels)
    assert solo.pickup > 0
    low, high = solo.instrument.lowest, solo.instrument.highest
    assert all(low <= note.pitch.midi <= high for note in solo.notes)


def test_the_demo_has_a_chorus_of_32_bars_and_two_of_blues() -> None:
    ferry, bucket = (make() for make in DEMO_SOLOS)
    assert BarGrid(ferry).bars[-1].number == 32
    assert [section.label for section in ferry.sections] == list("AABA")
    assert bucket.keys[0].blues
    assert [section.onset for section in bucket.sections] == [0, 48]


def test_shorthand_reads_marks_ties_and_graces() -> None:
    written = write_out([("C7", "*B4 C5/4>~ C5/8 Eb5{bend:1/2} G5/2?")], Fraction(4))
    assert [(n.onset, n.duration, n.grace) for n in written.notes] == [
        (0, 0, True),
        (0, Fraction(3, 2), False),
        (Fraction(3, 2), Fraction(1, 2), False),
        (2, 2, False),
    ]
    assert written.notes[1].has(Articulation.ACCENT)
    assert written.notes[2].marks[0].semitones == Fraction(1, 2)
    assert written.notes[3].uncertain


@pytest.mark.parametrize(("bar", "words"), [("C5/4 D5 E5", "3 quarter notes"), ("X5/1", "no note")])
def test_shorthand_refuses_bars_that_do_not_add_up(bar: str, words: str) -> None:
    with pytest.raises(ShorthandError, match=words):
        write_out([("C", bar)], Fraction(4))
