"""Going through a solo by bars, phrases, sections and choruses."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from tests.conftest import make_solo

from gavotte.solo.document import Phrase, Section
from gavotte.writing.waymarks import Waymark, bar_numbered, next_waymark, waymarks

SOLO = replace(
    make_solo([("C7", "C5/4 D5 r/2"), ("F7", "r/4 E5 F5 G5"), ("C7", "r/2 A5/2"), ("F7", "C5/1")], pickup=Fraction(0)),
    sections=(Section(Fraction(0), "A"), Section(Fraction(8), "B")),
    chorus=Fraction(8),
)


def test_waymarks_are_where_things_begin() -> None:
    assert waymarks(SOLO, Waymark.BAR) == [0, 4, 8, 12]
    assert waymarks(SOLO, Waymark.SECTION) == [0, 8]
    assert waymarks(SOLO, Waymark.CHORUS) == [0, 8]
    assert waymarks(SOLO, Waymark.PHRASE)[:2] == [0, 5]
    marked = replace(SOLO, phrases=(Phrase(SOLO.notes[0].id, SOLO.notes[3].id),))
    assert waymarks(marked, Waymark.PHRASE) == [0]
    assert waymarks(replace(SOLO, chorus=Fraction(0), sections=()), Waymark.CHORUS) == [0]


def test_back_goes_to_the_start_of_what_one_is_in_first() -> None:
    marks = [Fraction(0), Fraction(4), Fraction(8)]
    assert next_waymark(marks, Fraction(5), -1) == 4
    assert next_waymark(marks, Fraction(4), -1) == 0
    assert next_waymark(marks, Fraction(4), 1) == 8
    assert next_waymark(marks, Fraction(8), 1) is None
    assert next_waymark(marks, Fraction(0), -1) is None


def test_a_bar_is_found_by_its_number() -> None:
    assert bar_numbered(SOLO, 3) == 8
    assert bar_numbered(SOLO, 0) is None
    assert bar_numbered(SOLO, 99) is None
    assert bar_numbered(replace(SOLO, pickup=Fraction(1)), 0) == -1
