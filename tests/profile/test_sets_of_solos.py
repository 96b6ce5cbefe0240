"""Parts of solos, nearest solos, changes over time, and what two sets have in common."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import make_solo
from tests.profile.test_figures import by_chance, line_of

from gavotte.profile.measured import Counts, counts_of
from gavotte.profile.nearest import nearest
from gavotte.profile.over_time import over_time
from gavotte.profile.parts import WHOLE, Part, PartKind, part_of, parts_in
from gavotte.profile.shared import in_common
from gavotte.solo.document import Section
from gavotte.steps import whole

TWO_CHORUSES = replace(
    make_solo([
        ("C7", "C4/8 D4 E4 F4 G4 A4 Bb4 B4"), ("F7", "C5/4 A4 r/2"), ("C7", "E4/8 G4 Bb4 D5 C5/2"),
        ("G7", "B4/4 r/2."),
    ]),
    chorus=Fraction(8),
    sections=tuple(Section(Fraction(4 * bar), "AB"[bar % 2]) for bar in range(4)),
)  # fmt: skip


def places(part: Part) -> list[int]:
    return [int(place) for place in part_of(line_of(TWO_CHORUSES), part).notes["place"]]


def test_choruses_and_sections_are_parts_of_a_solo() -> None:
    assert [part.code for part in parts_in([line_of(TWO_CHORUSES)])] == [
        "whole", "first", "last", "chorus=2", "section=A", "section=B",
    ]  # fmt: skip
    assert places(WHOLE) == list(range(16))
    assert places(Part(PartKind.FIRST)) == list(range(10))
    assert places(Part(PartKind.LAST)) == places(Part(PartKind.CHORUS, "2")) == list(range(10, 16))
    assert places(Part(PartKind.SECTION, "B")) == [8, 9, 15]
    assert places(Part(PartKind.SECTION, "C")) == places(Part(PartKind.CHORUS, "3")) == []
    assert parts_in([line_of(make_solo([("C7", "C4/1")]))]) == [WHOLE]


def test_a_part_begins_phrases_of_its_own_and_leads_nowhere_outside() -> None:
    line = part_of(line_of(TWO_CHORUSES), Part(PartKind.SECTION, "B"))
    assert line.notes["begins"].tolist() == [True, False, True]
    assert line.notes["rest"].tolist()[1:] == [True, True]
    assert all(-1 <= target < 3 for target in line.notes["target"])


@pytest.mark.parametrize("code", ["whole", "first", "last", "chorus=2", "section=A=B"])
def test_a_part_is_kept_by_its_code(code: str) -> None:
    part = Part.of(code)
    assert part is not None
    assert part.code == code


@pytest.mark.parametrize("code", ["", "bridge", "chorus", "chorus=two", "section", "section="])
def test_what_is_no_code_is_no_part(code: str) -> None:
    assert Part.of(code) is None


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 500), st.integers(1, 4))
def test_choruses_make_up_the_solo(seed: int, bars: int) -> None:
    line = line_of(replace(by_chance(seed), chorus=Fraction(4 * bars)))
    last = int(line.notes["chorus"].max())
    parts = [part_of(line, Part(PartKind.CHORUS, str(number + 1))) for number in range(last)]
    assert sum(len(part.notes) for part in parts) == len(line.notes)


@pytest.fixture(scope="module")
def fond() -> list[Counts]:
    return [counts_of(line_of(by_chance(100 + seed, (1,), 0.2))) for seed in range(8)]


@pytest.fixture(scope="module")
def plain() -> list[Counts]:
    return [counts_of(line_of(by_chance(seed))) for seed in range(8)]


def test_the_nearest_solos_have_the_same_habit_and_it_is_told(fond: list[Counts], plain: list[Counts]) -> None:
    found = nearest(fond[:1], [*plain, *fond[1:]])
    assert len({near.number for near in found[:6]} & set(range(8, 15))) >= 5
    assert found[0].closeness > 0 > found[-1].closeness
    told = {figure.name for near in found[:4] for figure in near.alike}
    assert told & {"degree b9 over dominant", "altered on dominants", "foreign", "device altered", "tension"}


def test_a_solo_is_nearest_to_itself(plain: list[Counts]) -> None:
    found = nearest(plain[:1], plain)
    assert found[0].number == 0
    assert found[0].closeness == pytest.approx(1)
    assert nearest([], plain) == nearest(plain[:1], plain[1:3]) == []


def test_a_habit_that_grows_is_told_as_a_change() -> None:
    solos = [
        (str(1950 + year), counts_of(line_of(by_chance(7 * year + k, (1,), 0.07 * year))))
        for year in range(5)
        for k in range(3)
    ]
    found = over_time(solos)
    assert found is not None
    assert found.times == ("1950", "1951", "1952", "1953", "1954")
    assert found.solos == (3,) * 5
    flat = next(change for change in found.changes if change.figure.name == "degree b9 over dominant")
    assert flat.stands_out
    assert flat.z > 0
    values = [value.value for value in flat.values if value is not None]
    assert values[0] == 0 < values[-1]


def test_nothing_changes_where_the_times_mean_nothing(plain: list[Counts]) -> None:
    found = over_time([(str(1950 + k % 3), counts) for k, counts in enumerate(plain)])
    assert found is not None
    assert not any(change.stands_out for change in found.changes)
    assert over_time([("1950", counts) for counts in plain]) is None
    assert over_time([("1950", plain[0]), ("1951", plain[1])]) is None


def test_cells_both_sets_have_are_their_common_vocabulary() -> None:
    lick = "G4/8 F#4 A4 C5 E5 D5 Bb4 G4"
    walks = ["C4/4 D4 E4 F4", "A4/4 G4 E4 C4", "D4/4 F4 A4 G4"]
    mine = [make_solo([("C7", walks[k]), ("C7", lick), ("C7", "C4/1"), ("F7", lick)]) for k in range(3)]
    theirs = [make_solo([("C7", lick), ("C7", walks[k]), ("C7", "E4/1")]) for k in range(3)]
    found = whole(in_common([line_of(solo) for solo in mine], [line_of(solo) for solo in theirs]))
    assert found.cells
    best = max(found.cells, key=lambda cell: len(cell.here))
    assert (len(best.here), len(best.there)) == (6, 3)
    assert 0 < found.there < 1
    alone = whole(in_common([line_of(mine[0])], [line_of(make_solo([("C7", walks[1])]))]))
    assert alone.cells == ()
    assert (alone.here, alone.there) == (0, 0)
