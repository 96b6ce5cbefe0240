"""The arc of a solo: its bars, rows, climax and parts."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.arc import arc_of, compared_words
from gavotte.solo.document import Section, Solo

QUIET, LOUD = ("C", "C4/4 E4 r/2"), ("C", "C5/8 E5 G5 A5 G5 E5 D5 C5")


def section(onset: int, label: str) -> Section:
    return Section(Fraction(onset), label)


def test_what_a_bar_holds() -> None:
    bars = arc_of(labelled(make_solo([QUIET, LOUD]))).bars
    assert [(bar.per_beat, bar.sounding, bar.low, bar.high) for bar in bars] == [(0.5, 0.5, 60, 64), (2, 1, 72, 81)]


def test_a_held_note_sounds_in_each_of_its_bars() -> None:
    bars = arc_of(labelled(make_solo([("C", "r/2 C4/2"), ("C", "C4/1")]))).bars
    assert [bar.sounding for bar in bars] == [0.5, 1.0]


def test_the_climax_is_the_highest_note_and_of_several_the_longest() -> None:
    arc = arc_of(labelled(make_solo([("C", "A5/8 G5 E5/4 C5/2"), ("C", "A5/2 G5/2")])))
    assert arc.climax == 4
    assert arc.climax_words == "Bar 2 of 2: the highest note, A, and the longest"


def test_choruses_lie_under_one_another() -> None:
    solo = make_solo([QUIET, LOUD, QUIET, LOUD])
    by_length = arc_of(labelled(replace(solo, chorus=Fraction(8)))).bars
    assert [(bar.row, bar.column) for bar in by_length] == [(0, 0), (0, 1), (1, 0), (1, 1)]
    named = replace(solo, sections=(section(0, "1st chorus"), section(12, "2nd chorus")))
    assert [bar.row for bar in arc_of(labelled(named)).bars] == [0, 0, 0, 1]


def test_a_pickup_stands_before_the_first_column() -> None:
    bars = arc_of(labelled(make_solo([("C", "G4/4"), LOUD], pickup=Fraction(1)))).bars
    assert [(bar.number, bar.column) for bar in bars] == [(0, -1), (1, 0)]


def test_parts_are_compared_with_the_rest() -> None:
    solo = replace(make_solo([QUIET, QUIET, LOUD, LOUD]), sections=(section(0, "A"), section(8, "B")))
    arc = arc_of(labelled(solo))
    low, high = arc.parts
    assert (low.name, low.first, low.last, high.first, high.last) == ("A", 0, 1, 2, 3)
    assert compared_words(arc, low).startswith("a ninth lower, sparser")
    assert compared_words(arc, high).startswith("a ninth higher, busier")


@pytest.mark.parametrize("solo", [Solo(""), *(random_solo(seed) for seed in range(12))], ids=str)
def test_every_bar_has_a_place_of_its_own(solo: Solo) -> None:
    arc = arc_of(labelled(solo))
    assert len({(bar.row, bar.column) for bar in arc.bars}) == len(arc.bars)
    assert all(0 <= bar.sounding <= 1 and 0 <= bar.tension <= 1 for bar in arc.bars)
    assert (arc.climax is None) == (not any(not note.grace for note in solo.notes))
