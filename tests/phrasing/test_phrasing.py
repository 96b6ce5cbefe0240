"""Phrases, what comes back, and the note on each strong beat: on marked lines, on random ones, and on odd ones."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.conftest import make_solo
from tests.phrasing.marked_lines import FIFTH, FIRST, SECOND, marked
from tests.phrasing.measuring import agreeing_ends, agreeing_motifs
from tests.random_solos import random_solo

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.motifs import motifs_of
from gavotte.phrasing.phrases import WEIGHTS, phrases_of
from gavotte.phrasing.strong_beats import kept_on_strong_beats, strong_beats
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval

MARKED = [marked(line) for line in [*FIRST, *SECOND]]


def kept(bars: list[tuple[str, str]], **setting: object) -> list[str]:
    """The names of the notes kept on the strong beats, "-" for none."""
    solo = make_solo(bars, **setting)  # type: ignore[arg-type]
    return ["-" if i is None else solo.notes[i].pitch.shown for i in kept_on_strong_beats(labelled(solo))]


# -- phrases --------------------------------------------------------------------------------------------


def test_phrases_agree_with_the_marks() -> None:
    counts = [agreeing_ends(line, [phrase.last for phrase in phrases_of(line.solo)]) for line in MARKED]
    right, wanted, found = (sum(count[k] for count in counts) for k in range(3))
    assert 2 * right / (wanted + found) >= 0.88


@pytest.mark.parametrize("seed", range(30))
def test_phrases_hold_every_note_once(seed: int) -> None:
    solo = random_solo(seed)
    phrases = phrases_of(solo)
    assert [i for phrase in phrases for i in range(phrase.first, phrase.last + 1)] == list(range(len(solo.notes)))


@pytest.mark.parametrize("line", MARKED, ids=lambda line: line.name)
def test_transposing_changes_neither_phrases_nor_motifs(line: object) -> None:
    solo = line.solo  # type: ignore[attr-defined]
    moved = transposed(solo, Interval(1, 2))
    assert phrases_of(moved) == phrases_of(solo)
    assert [motif.instances for motif in motifs_of(moved)] == [motif.instances for motif in motifs_of(solo)]


def test_a_rest_between_two_bar_phrases_parts_them() -> None:
    bars = [("Dm7", "D4/8 F4 A4 C5 D5 C5 A4 F4"), ("G7", "G4/4 B4/4 r/2")]
    phrases = phrases_of(make_solo([*bars, *bars]))
    assert [(phrase.first, phrase.last) for phrase in phrases] == [(0, 9), (10, 19)]


def test_a_pickup_belongs_to_the_phrase_it_leads_into() -> None:
    bars = [("C", "C5/4 E5/4 G5/2"), ("C", "E5/2 r/8 G4/8 A4 B4"), ("C", "C5/4 E5/4 G5/2"), ("C", "C5/1")]
    assert [phrase.first for phrase in phrases_of(make_solo(bars))] == [0, 4]


def test_a_sequence_is_not_divided_before_its_last_member() -> None:
    swing = marked(FIFTH[0])
    cells = swing.motifs["c"]
    starts = {phrase.first for phrase in phrases_of(swing.solo)}
    assert cells[0][0] in starts
    assert not starts & set(range(cells[0][0] + 1, cells[-1][1] + 1))
    loose = phrases_of(swing.solo, weights=replace(WEIGHTS, sequence=0.0))
    assert {phrase.first for phrase in loose} & set(range(cells[0][0] + 1, cells[-1][1] + 1))


@pytest.mark.parametrize("notes", ["C5/1", "C5/4 D5 E5 F5", "*B4 C5/2 r/2"])
def test_a_short_line_is_one_phrase(notes: str) -> None:
    solo = make_solo([("C", notes)])
    assert [(phrase.first, phrase.last) for phrase in phrases_of(solo)] == [(0, len(solo.notes) - 1)]
    assert motifs_of(solo) == ()


def test_nothing_has_no_phrases() -> None:
    assert phrases_of(Solo("")) == ()
    assert motifs_of(Solo("")) == ()


# -- what comes back ------------------------------------------------------------------------------------


def test_marked_motifs_are_found() -> None:
    counts = [agreeing_motifs(line, motifs_of(line.solo)) for line in MARKED]
    assert sum(count[0] for count in counts) / sum(count[1] for count in counts) >= 0.85


@pytest.mark.parametrize("seed", range(20))
def test_no_note_belongs_to_two_motifs(seed: int) -> None:
    covered = [i for m in motifs_of(random_solo(seed)) for p in m.instances for i in range(p.first, p.last + 1)]
    assert len(covered) == len(set(covered))


def test_a_figure_moved_in_the_scale_is_one_motif() -> None:
    bars = [("C", "C5/4 E5/8 D5 G4/4 r/4"), ("C", "A4/2 F5/2"), ("Dm", "D5/4 F5/8 E5 A4/4 r/4"), ("C", "E5/1")]
    (motif,) = motifs_of(make_solo(bars))
    assert [(place.first, place.last) for place in motif.instances] == [(0, 3), (6, 9)]
    assert motif.relation == "transposed in the scale"


def test_a_scale_up_and_down_is_no_motif() -> None:
    bars = [("C", "C4/8 D4 E4 F4 G4 A4 B4 C5"), ("C", "D5/8 C5 B4 A4 G4 F4 E4 D4")]
    assert motifs_of(make_solo(bars)) == ()


# -- strong beats ---------------------------------------------------------------------------------------


def test_the_note_a_teacher_keeps() -> None:
    wrong = total = 0
    for line in map(marked, FIRST):
        found = kept_on_strong_beats(labelled(line.solo))
        assert len(found) == len(line.strong)
        wrong += sum(a != b for a, b in zip(found, line.strong, strict=True))
        total += len(found)
    assert wrong / total <= 0.03


@pytest.mark.parametrize(
    ("bars", "expected"),
    [
        ([("G7", "A4/8 G4 B4/4 D5/2")], ["G", "D"]),
        ([("Cmaj7", "F4/8 D#4 E4/4 G4/2")], ["E", "G"]),
        ([("Cmaj7", "E4/4. D5/8~ D5/2")], ["E", "D"]),
        ([("Dm7", "D5/4 C5/8 A4~ A4/2"), ("G7", "B4/1")], ["D", "A", "B", "B"]),
        ([("Dm7", "F4/2 r/8 C5/4."), ("G7", "r/4 B4/4 r/2")], ["F", "C", "-", "-"]),
        ([("Dm7", "A4/2. B4/8 r/8"), ("G7", "r/4 D5/4 G4/2")], ["A", "A", "B", "G"]),
    ],
    ids=["passing", "enclosure", "tied", "held over", "in a rest", "early and let go"],
)
def test_who_has_the_beat(bars: list[tuple[str, str]], expected: list[str]) -> None:
    assert kept(bars) == expected


def test_five_four_has_its_strong_beats_by_its_groups_and_a_pickup_none() -> None:
    solo = make_solo([("Gm7", "G4/4 A4 Bb4 C5 D5")], key="G minor", meter="5/4", grouping="3+2")
    assert [int(beat) for beat in strong_beats(labelled(solo))] == [0, 3]
    assert kept([("Gm7", "G4/4 A4 Bb4 D5 C5")], key="G minor", meter="5/4", grouping="3+2") == ["G", "D"]
    pickup = replace(solo, pickup=solo.notes[0].duration)
    assert all(beat >= 0 for beat in strong_beats(labelled(pickup)))
