"""How one place is related to another, and where a stretch comes back."""

from __future__ import annotations

import pytest
from tests.conftest import make_solo
from tests.phrasing.marked_lines import FIRST, FOURTH, SECOND, THIRD, marked
from tests.random_solos import random_solo

from gavotte.phrasing.line import line_of
from gavotte.phrasing.motifs import Instance, Motif, motifs_of
from gavotte.phrasing.relations import Kind, pattern_words, relation, where_else

REST = ("C", "r/1")
CELL = "C4/8 E4 G4 A4 r/2"


@pytest.mark.parametrize(
    ("other", "kind", "words"),
    [
        ("C4/8 E4 G4 A4 r/2", Kind.SAME, "the same notes"),
        ("D4/8 F#4 A4 B4 r/2", Kind.MOVED, "a whole step higher"),
        ("D4/8 F4 A4 B4 r/2", Kind.MOVED, "a second higher in the scale"),
        ("C3/8 E3 G3 A3 r/2", Kind.MOVED, "an octave lower"),
        ("D6/8 F6 A6 B6 r/2", Kind.MOVED, "a second and 2 octaves higher in the scale"),
        ("r/4 C4/8 E4 G4 A4 r/4", Kind.LATER, "the same notes, a beat later in the bar"),
        ("r/8 C4/8 E4 G4 A4 r/8 r/4", Kind.LATER, "the same notes, half a beat later in the bar"),
        ("r/8 r/4 C4/8 E4 G4 A4 r/8", Kind.LATER, "the same notes, 1½ beats later in the bar"),
        ("C4/8 E4 G4 C5 r/2", Kind.CHANGED, "with another end"),
        ("C4/4 E4 G4 A4", Kind.CHANGED, "the same notes, in another rhythm"),
        ("A4/8 F4 D4 C4 r/2", Kind.TURNED, "turned upside down"),
        ("A4/8 G4 E4 C4 r/2", Kind.TURNED, "backwards"),
    ],
)
def test_how_a_place_is_related(other: str, kind: Kind, words: str) -> None:
    line = line_of(make_solo([("C", CELL), ("C", other)]))
    found = relation(line, Instance(0, 3), Instance(4, 7))
    assert (found.kind, found.words) == (kind, words)


def test_which_notes_differ() -> None:
    line = line_of(make_solo([("C", CELL), ("C", "C4/8 E4 G4 C5 r/2")]))
    assert relation(line, Instance(0, 3), Instance(4, 7)).differs == (7,)


def test_places_of_different_size_are_not_compared() -> None:
    line = line_of(make_solo([("C", CELL), ("C", CELL)]))
    with pytest.raises(ValueError, match="4 notes are compared with 3"):
        relation(line, Instance(0, 3), Instance(4, 6))


def test_where_a_cell_comes_back() -> None:
    solo = make_solo([("C", CELL), ("C", "E4/4 D4 C4 E4"), ("C", "D4/8 F4 A4 B4 r/2"), ("C", "A4/8 F4 D4 C4 r/2")])
    found = where_else(line_of(solo), 0, 3)
    assert [(place.first, how.kind) for place, how in found] == [(8, Kind.MOVED), (12, Kind.TURNED)]


@pytest.mark.parametrize(("first", "last"), [(0, 1), (3, 3), (5, 2)])
def test_too_little_comes_back_nowhere(first: int, last: int) -> None:
    assert where_else(line_of(make_solo([("C", CELL), ("C", CELL)])), first, last) == ()


@pytest.mark.parametrize("seed", range(25))
def test_what_comes_back_neither_overlaps_nor_lies(seed: int) -> None:
    solo = random_solo(seed)
    sounding = [i for i, note in enumerate(solo.notes) if not note.grace]
    if len(sounding) < 12:
        return
    places = [(sounding[2], sounding[6])]
    places += [(place.first, place.last) for place, _ in where_else(line_of(solo), *places[0])]
    covered = [i for first, last in places for i in range(first, last + 1)]
    assert len(covered) == len(set(covered))
    line = line_of(solo)
    for motif in motifs_of(solo):
        for other in motif.instances[1:]:
            how = relation(line, motif.instances[0], other)
            assert (how.kind is Kind.SAME) == (how.words == "the same notes")


@pytest.mark.parametrize(
    ("bars", "meter", "words"),
    [
        (
            [("C", "C5/8 B4 G4/4 B4/8 A4 F4/4"), ("C", "A4/8 G4 E4/4 G4/8 F4 D4/4")],
            "4/4",
            "a sequence, falling by steps",
        ),
        (
            [("C", "C4/4 D4 E4 D4"), ("C", "E4/4 F4 E4 F4"), ("C", "G4/4 r/2 r/4")],
            "4/4",
            "a sequence, rising by steps, groups of 3 beats across the bar",
        ),
        ([("C", CELL), ("C", "r/1"), ("C", CELL), ("C", CELL)], "4/4", ""),
    ],
)
def test_what_the_places_make_together(bars: list[tuple[str, str]], meter: str, words: str) -> None:
    line = line_of(make_solo(bars, meter=meter))
    size = 3 if words else 4
    places = tuple(Instance(at, at + size - 1) for at in range(0, len(line.onsets) - size + 1, size))
    assert pattern_words(line, Motif(places, "", 0.0)) == words


def test_thirds_of_a_beat_are_told() -> None:
    line = line_of(make_solo([("C", "C4/8 E4 G4 r/8 r/4 r/2."), ("C", "r/8 C4/8 E4 G4 r/4 r/2.")], meter="12/8"))
    assert relation(line, Instance(0, 2), Instance(3, 5)).words == "the same notes, a third of a beat later in the bar"


def test_a_motif_is_found_upside_down_too() -> None:
    solo = make_solo(
        [
            ("Cmaj7", "C5/4 E5/8 D5 G5/4 r/4"),
            ("Cmaj7", "D5/4 F5/8 E5 A5/4 r/4"),
            ("Cmaj7", "G5/4 E5/8 F5 C5/4 r/4"),
            ("Cmaj7", "B5/4 G5/4 A5/8 F5 r/4"),
            ("Fmaj7", "A4/8 B4 C5 D5 E5 F5 E5 D5"),
        ]
    )
    motif = motifs_of(solo)[0]
    assert [(place.first, place.last) for place in motif.instances] == [(0, 3), (4, 7), (8, 11)]
    assert motif.relation == "transposed in the scale, turned"
    assert relation(line_of(solo), motif.instances[0], motif.instances[2]).kind is Kind.TURNED


def test_a_scale_run_turned_is_another_run() -> None:
    solo = make_solo([("Cmaj7", "C4/8 D4 E4 F4 r/2"), ("Cmaj7", "C4/8 D4 E4 F4 r/2"), ("Cmaj7", "F4/8 E4 D4 C4 r/2")])
    assert all("turned" not in motif.relation for motif in motifs_of(solo))


def test_two_long_runs_alone_are_no_motif_unless_they_share_their_moves() -> None:
    pairs = 0
    for line in (*FIRST, *SECOND, *THIRD, *FOURTH):
        solo = marked(line).solo
        numbers = line_of(solo)
        for motif in motifs_of(solo):
            one, other = (numbers.places.index(place.first) for place in motif.instances[:2])
            between = numbers.places.index(motif.instances[0].last) - one
            if len(motif.instances) == 2 and between >= 5:
                same = numbers.steps[one : one + between] == numbers.steps[other : other + between]
                assert same.mean() >= 0.75, (line[0], motif)
                pairs += 1
    assert pairs
