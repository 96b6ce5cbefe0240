"""Cells: what recurs in many lines beyond chance."""

from __future__ import annotations

import itertools
import math
import random
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from benchmarks.cells import agreement, corpus
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import make_solo, whole
from tests.random_solos import random_solo

from gavotte.demo.more_solos import MORE_SOLOS
from gavotte.labelling.labeller import labelled
from gavotte.solo.document import Note, Solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import spell
from gavotte.vocabulary.cells import Cell, Place, _beyond_chance, cells_in, cells_of, told_of
from gavotte.vocabulary.corpus import labelled_line

LICK = (0, 4, 7, 11, 9, 2, 5, -1)
"""Semitones above its first note: leaps that nobody's scale run has."""


def cells(*solos: Solo) -> tuple[Cell, ...]:
    return whole(cells_of(solos))  # type: ignore[no-any-return]


def line(*pitches: int, gap: Fraction = Fraction(1, 2)) -> Solo:
    return Solo("", notes=tuple(Note(f"n{i}", gap * i, gap, spell(p, 0)) for i, p in enumerate(pitches)))


def lick_on(base: int) -> list[int]:
    return [base + semitones for semitones in LICK]


def walk(seed: int, count: int = 30) -> list[int]:
    """Pitches that go about by chance, always the same for a seed."""
    chance = random.Random(seed)
    return list(itertools.accumulate((chance.choice((-4, -3, -2, -1, 1, 2, 3, 4)) for _ in range(count)), initial=65))[
        1:
    ]


def test_a_lick_in_several_lines_and_keys_is_one_cell() -> None:
    solos = [line(*walk(k), *lick_on(58 + k), *walk(k + 9, 12)) for k in range(4)]
    found = cells(*solos)
    assert [(place.line, place.first, place.last) for place in found[0].places][:4] == [(k, 30, 37) for k in range(4)]
    assert found[0].relation == "transposed"


def test_no_part_of_a_cell_is_listed_beside_it() -> None:
    found = cells(*(line(*walk(k), *lick_on(58 + k), *walk(k + 9, 12)) for k in range(5)))
    for cell in found[1:]:
        assert not any(
            place.line == other.line and other.first <= place.first and place.last <= other.last
            for place in cell.places
            for other in found[0].places
        )


def test_twice_as_fast_or_with_a_note_added_it_is_the_same_cell() -> None:
    plain = [line(*walk(k), *lick_on(58 + k), *walk(k + 9, 12)) for k in range(3)]
    fast = line(*lick_on(55), *walk(5), gap=Fraction(1, 4))
    pitches = lick_on(61)
    ornamented = line(*walk(6), *pitches[:3], pitches[3] - 1, *pitches[3:])
    late = [
        replace(
            note,
            onset=note.onset - (Fraction(1, 4) if i > 32 else 0),
            duration=Fraction(1, 4) if i in (32, 33) else note.duration,
        )
        for i, note in enumerate(ornamented.notes)
    ]
    others = [line(*walk(20 + k, 60)) for k in range(6)]
    found = cells(*plain, fast, replace(ornamented, notes=tuple(late)), *others)
    assert Place(3, 0, 7) in found[0].places
    assert Place(4, 30, 38) in found[0].places
    assert "ornamented" in found[0].relation


@pytest.mark.parametrize("solos", [(), (Solo(""),), (line(60),), (line(60, 62), line(64))])
def test_in_next_to_nothing_nothing_recurs(solos: tuple[Solo, ...]) -> None:
    assert cells(*solos) == ()


def test_scale_runs_in_even_notes_are_no_cells() -> None:
    up, down = [60, 62, 64, 65, 67, 69, 71, 72], [72, 71, 69, 67, 65, 64, 62, 60]
    runs = [line(*(up + down)[k:], *(up + down)[:k]) for k in range(0, 14, 2)]
    assert all(cell.weight < 60 for cell in cells(*runs))


def test_a_rest_is_not_looked_past() -> None:
    bars = [("Cmaj7", "C5/8 E5 G5 B5 r/2"), ("Cmaj7", "A5/8 D5 F5 B4 r/2")]
    found = cells(*(transposed(make_solo(bars * 3), Interval(0, k)) for k in range(3)))
    for cell in found:
        assert all(place.last - place.first < 4 for place in cell.places)


@given(st.integers(0, 400))
@settings(max_examples=25)
def test_the_order_of_solos_does_not_matter(seed: int) -> None:
    solos = [random_solo(seed + k) for k in range(3)]
    one = {(2 - place.line, place.first, place.last) for cell in cells(*solos) for place in cell.places}
    other = {(place.line, place.first, place.last) for cell in cells(*solos[::-1]) for place in cell.places}
    assert one == other


def test_planted_cells_are_found_and_little_else() -> None:
    made = corpus(11, lines=80)
    recalled, planted, right, found = agreement(made, cells(*made.solos))
    assert recalled / planted >= 0.7
    assert right / found >= 0.7


def test_what_is_too_unlikely_for_a_number_still_has_a_weight() -> None:
    few, many = _beyond_chance(np.array([2, 80]), 1000, np.array([40.0, 40.0]))
    assert 40 < few < many
    assert math.isfinite(many)


def test_labelled_lines_tell_the_same_cells() -> None:
    solos = [make() for make in MORE_SOLOS[:4]]
    lines = [told_of(labelled_line(labelled(solo))) for solo in solos]
    assert whole(cells_in(lines)) == whole(cells_of(solos))
