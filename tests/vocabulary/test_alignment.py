"""Lines as numbers, laid note against note, and the nearest among many."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.labelling.labeller import labelled
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval
from gavotte.vocabulary.alignment import Nearest, aligned
from gavotte.vocabulary.corpus import Corpus, LabelledLine, bars_words, context_names, labelled_line
from gavotte.vocabulary.likeness import Match, columns, told

CADENCE = [("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "B4/8 D5 F5 Ab5 G5 F5 F#5 D#5"), ("Cmaj7", "E5/4 C5/4 r/2")]


def line(bars: list[tuple[str, str]], **settings: object) -> LabelledLine:
    return labelled_line(labelled(make_solo(bars, **settings)))  # type: ignore[arg-type]


def moved(solo: Solo, letters: int, semitones: int) -> LabelledLine:
    return labelled_line(labelled(transposed(solo, Interval(letters, semitones))))


def test_a_line_comes_back_from_its_bytes() -> None:
    first = line(CADENCE)
    again = LabelledLine.unpacked(first.packed())
    assert np.array_equal(again.notes, first.notes)
    assert (again.chords, again.contexts) == (first.chords, first.contexts)
    with pytest.raises(ValueError, match="no line"):
        LabelledLine.unpacked(b"nonsense")


def test_a_line_says_where_its_notes_stand_and_what_they_lead_to() -> None:
    notes = line([("C", "C5/4 *D#5 E5 G5 r/4"), ("C", "C5/1")]).notes
    assert notes["place"].tolist() == [0, 2, 3, 4]
    assert notes["number"].tolist() == [1, 1, 1, 2]
    assert notes["beat"].tolist() == [0, 1, 2, 0]
    assert notes["rest"].tolist() == [False, False, True, True]
    assert bars_words(notes, 0, 3) == "bars 1–2"
    cadence = line(CADENCE)
    assert cadence.notes["target"][14] == cadence.notes["target"][15] == 16
    assert context_names(cadence.contexts[0]) == ("long ii-V-I",)


def test_many_lines_end_to_end_keep_what_leads_where() -> None:
    corpus = Corpus([line(CADENCE), line(CADENCE)])
    assert len(corpus) == 36
    assert corpus.target[14] == 16
    assert corpus.target[18 + 14] == 18 + 16
    assert corpus.figure_end[14] == 15
    assert corpus.parted[17] == corpus.parted[0]
    assert corpus.parted[18] > corpus.parted[17]
    assert corpus.chords[corpus.chord[8]][0] == "G7"


def test_the_same_line_in_another_key_costs_nothing() -> None:
    solo = make_solo(CADENCE)
    first, other = line(CADENCE), moved(solo, 3, 5)
    found = aligned(first, other)
    assert found.likeness == 1.0
    assert found.pairs == tuple((k, k) for k in range(18))
    assert told(first, other, found) == "the same, a fourth higher"
    assert {column.match for column in columns(first, other, found)} == {Match.SAME}


def test_an_ornament_costs_less_than_a_lost_target() -> None:
    base = [("G7", "B4/4 D5 F5 Ab5"), ("Cmaj7", "D#5/4 E5 G5 r")]
    first = line(base)
    more = line([("G7", "B4/4 D5 F5/8 A5 Ab5/4"), ("Cmaj7", "D#5/4 E5 G5 r")])
    without = line([("G7", "B4/4 D5 F5 Ab5"), ("Cmaj7", "D#5/4 r G5 r")])
    ornamented, lost = aligned(first, more), aligned(first, without)
    assert ornamented.likeness > lost.likeness
    assert any(a is None for a, _ in ornamented.pairs)
    assert "more" in told(first, more, ornamented)


@pytest.mark.parametrize(
    ("other", "words"),
    [
        ([("C6", "C5/8 E5 G5 A5 G5/2")], "the same notes"),
        ([("C6", "C4/8 E4 G4 A4 G4/2")], "the same, an octave lower"),
        ([("C6", "C5/4 E5 G5 A5"), ("C6", "G5/1")], "the same notes, in twice the values"),
        ([("C6", "r/4 C5/8 E5 G5 A5 G5/4")], "a beat later in the bar"),
        ([("C6", "C5/8 E5 G5 A5 E5/2")], "the same up to the fourth note, the 3 for the 5"),
        ([("Am7", "C5/8 E5 G5 A5 G5/2")], "over other chords"),
    ],
)
def test_how_two_lines_differ_is_said(other: list[tuple[str, str]], words: str) -> None:
    first, second = line([("C6", "C5/8 E5 G5 A5 G5/2")]), line(other)
    assert words in told(first, second, aligned(first, second))


def test_the_nearest_are_found_wherever_they_stand() -> None:
    lick = make_solo(CADENCE)
    inside = make_solo([("Am7", "A4/4 C5 E5 G5"), *CADENCE, ("C6", "E4/4 G4 r/2")])
    strange = make_solo([("F7", "A4/4 r/4 A4/4 r/4")])
    nearest = Nearest(Corpus([labelled_line(labelled(solo)) for solo in (strange, inside, lick)]))
    found = nearest.to(labelled_line(labelled(lick)), 5)
    assert [(near.first, near.last) for near in found[:2]] in ([(6, 23), (26, 43)], [(26, 43), (6, 23)])
    assert found[0].likeness > 0.97
    assert all(near.likeness >= 0.45 for near in found)


def test_nothing_is_near_to_nothing() -> None:
    empty = LabelledLine(line(CADENCE).notes[:0])
    assert Nearest(Corpus([])).to(line(CADENCE), 3) == []
    assert Nearest(Corpus([line(CADENCE)])).to(empty, 3) == []
    assert aligned(empty, line(CADENCE)).likeness == 0.0
    assert told(line(CADENCE), empty, aligned(line(CADENCE), empty)) == "nothing in common"


@settings(deadline=None)
@given(st.integers(0, 200))
def test_any_line_is_its_own_nearest_relative(seed: int) -> None:
    own = labelled_line(labelled(random_solo(seed)))
    if not len(own.notes):
        return
    found = aligned(own, own)
    assert found.likeness == pytest.approx(1.0)
    assert found.cost == pytest.approx(0.0, abs=1e-4)
    pairs = [(a, b) for a, b in found.pairs if a is not None and b is not None]
    assert all(a == b for a, b in pairs)


@settings(deadline=None)
@given(st.integers(0, 100), st.integers(0, 100))
def test_every_note_stands_in_one_column_in_its_order(seed: int, other: int) -> None:
    first, second = (labelled_line(labelled(random_solo(s))) for s in (seed, other))
    if not len(first.notes) or not len(second.notes):
        return
    found = aligned(first, second)
    assert [a for a, _ in found.pairs if a is not None] == list(range(len(first.notes)))
    rows = [b for _, b in found.pairs if b is not None]
    assert rows == sorted(set(rows))
    assert 0.0 <= found.likeness <= 1.0
    assert told(first, second, found)


def test_octaves_count_little_and_the_rest_of_the_line_much() -> None:
    solo = make_solo(CADENCE)
    half = len(solo.notes) // 2
    high = [replace(n, pitch=replace(n.pitch, octave=n.pitch.octave + 1)) for n in solo.notes[half:]]
    split = labelled_line(labelled(replace(solo, notes=(*solo.notes[:half], *high))))
    first = line(CADENCE)
    assert aligned(first, split).likeness > 0.95
    assert "partly in another octave" in told(first, split, aligned(first, split))
