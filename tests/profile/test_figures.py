"""Figures against values counted by hand, intervals, and what sets players apart."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.demo.more_solos import TUNES, played
from gavotte.labelling.labeller import labelled
from gavotte.profile.comparison import differences
from gavotte.profile.examples import examples_of
from gavotte.profile.figures import FIGURES, Figure, Unit
from gavotte.profile.measured import Counts, Measured, Value, counts_of, measured, wilson
from gavotte.profile.telling import difference_words, shown, value_words
from gavotte.solo.document import Reading, ReadingKind, Solo
from gavotte.theory.pitch import PitchName
from gavotte.vocabulary.corpus import LabelledLine, line_of_solo

BY_NAME = {figure.name: figure for figure in FIGURES}


def line_of(solo: Solo) -> LabelledLine:
    return line_of_solo(labelled(solo))


def values(*solos: Solo) -> dict[str, Value]:
    return {value.figure.name: value for value in measured([line_of(solo) for solo in solos]).values()}


# -- counted by hand ------------------------------------------------------------------------------------------

# Dm7: root, third, fifth, seventh up in eighths; then B (13), A (5), G (11), F (b3).
FIRST = make_solo([("Dm7", "D4/8 F4 A4 C5 B4 A4 G4 F4"), ("G7", "B3/4 r/2.")])
# Two phrases far apart: the first ends on the 3rd of Cmaj7 (beat 1), the second begins in the middle of beat 2.
SECOND = make_solo(
    [("Cmaj7", "C4/8 D4 E4 G4 B4 G4 F4 D4"), ("Cmaj7", "E4/4 r/2."), ("Cmaj7", "r/1"),
     ("Cmaj7", "r/4. G4/8 A4 G4 E4 D4"), ("Cmaj7", "C4/2 r/2")]
)  # fmt: skip
THIRD = make_solo([("G7", "Ab4/4 B4 D5 F5"), ("G7", "E5/4 D5 B4 G4")])


def test_intervals_are_counted_inside_phrases() -> None:
    found = values(FIRST)
    # Minor third, major third, minor third, half step, three whole steps, and from F4 to B3 a tritone.
    assert found["step third"].value == pytest.approx(3 / 8)
    assert found["step half step"].value == pytest.approx(1 / 8)
    assert found["step whole step"].value == pytest.approx(3 / 8)
    assert found["step fourth to fifth"].value == pytest.approx(1 / 8)
    assert found["rising"].value == pytest.approx(3 / 8)
    assert found["turning"].value == pytest.approx(1 / 7)
    assert found["step third"].among == 8


def test_degrees_and_landings_are_counted_by_chord() -> None:
    found = values(FIRST)
    assert found["degree 1 over minor"].value == pytest.approx(1 / 8)
    assert found["degree b3 over minor"].value == pytest.approx(2 / 8)
    assert found["degree 5 over minor"].value == pytest.approx(2 / 8)
    assert found["degree 13 over minor"].value + found["degree 6 over minor"].value == pytest.approx(1 / 8)
    assert found["landing on 3"].value == 1
    assert found["landing on 3"].among == 1
    assert found["ending on 3"].value == 1


def test_phrases_are_measured_from_their_first_note_to_the_end_of_their_last() -> None:
    found = values(SECOND)
    assert found["phrase notes"].value == pytest.approx((9 + 6) / 2)
    assert found["phrase beats"].value == pytest.approx((5 + 4.5) / 2)
    assert found["density"].value == pytest.approx(15 / 9.5)
    assert found["begins on one"].value == pytest.approx(1 / 2)
    assert found["begins off the beat"].value == pytest.approx(1 / 2)
    assert found["ends on one"].value == 1
    assert found["ending on 3"].value == pytest.approx(1 / 2)
    assert found["ending on 1"].value == pytest.approx(1 / 2)
    # C4 to B4, and C4 to A4.
    assert found["compass"].value == pytest.approx((11 + 9) / 2)
    # Bar 2 from beat 2, all of bar 3, and a dotted quarter: 3 + 4 + 1.5 of 17.5 beats from first onset to last.
    assert found["silence"].value == pytest.approx(8.5 / 16)


def test_altered_notes_rhythm_and_register() -> None:
    found = values(THIRD)
    assert found["altered on dominants"].value == pytest.approx(1 / 8)
    assert found["degree b9 over dominant"].value == pytest.approx(1 / 8)
    assert found["degree 13 over dominant"].value == pytest.approx(1 / 8)
    assert found["value quarters"].value == 1
    assert found["value eighths"].value == 0
    assert found["register"].value == pytest.approx(np.mean([68, 71, 74, 77, 76, 74, 71, 67]))
    assert found["syncopation"].value == 0


def test_beats_are_told_by_what_begins_in_them() -> None:
    found = values(FIRST)
    assert found["beat of two eighths"].value == pytest.approx(4 / 5)
    assert found["beat of a note on the beat"].value == pytest.approx(1 / 5)
    assert found["beat of two eighths"].among == 5
    assert values(THIRD)["beat of a note on the beat"].value == 1
    triplets = make_solo([("C7", "C4/8t D4 E4 r/8t F4 G4 A4/16 B4 C5 D5 E5/8. D5/16")])
    found = values(triplets)
    for name in ("three triplets", "two triplets off the beat", "four sixteenths", "a dotted eighth and a sixteenth"):
        assert found[f"beat of {name}"].value == pytest.approx(1 / 4), name


def test_functions_are_counted_by_beat_and_at_the_edges_of_phrases() -> None:
    found = values(FIRST)
    # D4 and B3 on beat 1; A4 on beat 2; B4, which is no chord tone, on beat 3; F4, C5, A4, F4 between beats.
    assert (found["function chord beat 1"].value, found["function chord beat 1"].among) == (1, 2)
    assert found["function chord beat 2"].value == 1
    assert found["function chord beat 3"].value == 0
    assert (found["function chord between beats"].value, found["function chord between beats"].among) == (1, 4)
    assert (found["function chord first"].value, found["function chord last"].among) == (1, 1)


def test_tension_is_told_through_the_progression() -> None:
    found = values(FIRST)
    # B over Dm7 lies a half step from C and a whole step from A, on a strong beat; G a whole step from F and from A.
    assert found["tension on ii"].value == pytest.approx((0.6 * 1.15 + 0.4) / 8, abs=1e-3)
    assert found["tension on ii"].among == 8
    assert (found["tension on V"].value, found["tension on V"].among) == (0, 1)
    whole = make_solo([("Dm7", "F4/2 E4"), ("G7", "B4/2 Ab4"), ("Cmaj7", "G4/1"), ("A7", "C#5/1")])
    found = values(whole)
    assert [found[f"tension on {role}"].among for role in ("ii", "V", "I")] == [2, 2, 1]


def test_rests_range_and_the_form() -> None:
    found = values(replace(SECOND, chorus=Fraction(16)))
    assert (found["rest"].value, found["rest"].among) == (8.5, 1)
    assert (found["range"].value, found["range"].among) == (11, 1)
    assert found["begins in bar 1"].value == pytest.approx(1 / 2)
    assert found["begins in bar 4"].value == pytest.approx(1 / 2)
    assert found["ends in bar 2"].value == pytest.approx(1 / 2)
    # The last note is the first of the second chorus.
    assert found["ends in bar 1"].value == pytest.approx(1 / 2)
    assert found["register in quarter 4"].value == pytest.approx(np.mean([67, 69, 67, 64, 62]))
    assert found["density in quarter 1"].value == pytest.approx(9 / 4)
    assert "begins in bar 1" not in values(SECOND)


def test_approaches_are_told_by_what_they_lead_to() -> None:
    solo = make_solo([("Cmaj7", "D#4/8 E4 G4 C5 r/2"), ("F7", "r/4 A4/4 C5/2")])
    found = values(solo)
    assert (found["approach to 3"].value, found["approach to 3"].among) == (1, 1)
    assert (found["led to 3rds"].value, found["led to 3rds"].among) == (1 / 2, 2)
    assert found["led to 5ths"].value == 0
    assert (found["landing late"].value, found["landing on time"].value, found["landing early"].value) == (1, 0, 0)
    led = make_solo([("Cmaj7", "C4/4 E4 G4 Ab4"), ("F7", "A4/4 r/2.")])
    found = values(led)
    assert (found["landing prepared below"].value, found["landing prepared above"].value) == (1, 0)
    assert found["landing on time"].value == 1


def test_an_anticipated_change_is_met_early() -> None:
    solo = make_solo([("Cmaj7", "E4/4 G4 B4 r/8 A4/8"), ("F7", "r/2 C5/2"), ("Bb7", "D5/1")])
    found = values(solo)
    assert found["landing early"].among == 2
    assert found["landing early"].value == pytest.approx(1 / 2)
    assert found["landing on time"].value == pytest.approx(1 / 2)


def test_what_comes_back_swing_and_readings() -> None:
    motif = "E4/8 G4 C5 B4 r/2"
    solo = make_solo([("Cmaj7", motif), ("Cmaj7", "A4/4 D4 F4 r/4"), ("Cmaj7", motif), ("Cmaj7", motif)])
    found = values(replace(solo, swing=Fraction(8, 5)))
    assert found["motifs"].value == pytest.approx(8 / 15)
    assert found["swing"].value == pytest.approx(1.6)
    assert found["swing"].among == 15
    assert "swing" not in values(solo)
    blues = Reading(solo.notes[0].id, solo.notes[3].id, ReadingKind.KEY_CENTRE, PitchName("C"), "major pentatonic")
    assert values(replace(solo, readings=(blues,)))["read by key centre"].value == pytest.approx(4 / 15)
    scale = make_solo([("Dm7", "D4/8 E4 F4 G4 A4 B4 C5 D5"), ("Dm7", "C5/8 B4 A4 G4 F4 E4 D4/4")])
    assert values(scale)["collection dorian"].value == 1


def test_notes_outside_chord_and_scale_are_foreign() -> None:
    assert values(make_solo([("Cmaj7", "C4/4 D4 C#4 E4")]))["foreign"].value == pytest.approx(1 / 4)


def test_functions_add_up_to_all_notes() -> None:
    for solos in ((FIRST,), (SECOND,), (THIRD,), (FIRST, SECOND, THIRD)):
        found = values(*solos)
        functions = [value for value in found.values() if value.figure.family == "Functions"][:5]
        assert sum(value.value for value in functions) == pytest.approx(1)
        steps = [value.value for name, value in found.items() if name.startswith("step ")]
        assert sum(steps) <= 1 + 1e-9


def test_two_solos_are_counted_together() -> None:
    one, other, both = values(FIRST), values(THIRD), values(FIRST, THIRD)
    for name, value in both.items():
        if name in one and name in other and value.figure.unit is Unit.SHARE:
            hits = one[name].value * one[name].among + other[name].value * other[name].among
            assert value.value == pytest.approx(hits / (one[name].among + other[name].among))


def test_every_figure_has_a_name_of_its_own_and_a_formula() -> None:
    assert len(BY_NAME) == len(FIGURES)
    assert all("/" in figure.formula and figure.words and figure.family for figure in FIGURES)


# -- how sure -------------------------------------------------------------------------------------------------


@given(st.integers(0, 200), st.integers(1, 200))
def test_wilsons_interval_holds_the_share(hits: int, more: int) -> None:
    among = hits + more
    low, high = wilson(hits, among)
    assert 0 <= low <= hits / among <= high <= 1
    wide = wilson(hits * 4, among * 4)
    assert wide[1] - wide[0] < high - low


def test_wilsons_interval_is_the_one_of_the_tables() -> None:
    assert wilson(10, 20) == pytest.approx((0.2993, 0.7007), abs=1e-4)
    assert wilson(0, 10) == pytest.approx((0.0, 0.2775), abs=1e-4)


def test_little_to_go_by_is_said() -> None:
    found = values(FIRST)
    assert found["function chord"].is_small
    assert "a small sample" in value_words(found["function chord"])
    assert shown(BY_NAME["function chord"], 0.034) == "3.4 %"
    assert shown(BY_NAME["function chord"], 0.34) == "34 %"
    assert shown(BY_NAME["phrase notes"], 7.5) == "7.50 notes"
    assert shown(BY_NAME["register"], 62.2) == "D4"


# -- apart ----------------------------------------------------------------------------------------------------


def by_chance(seed: int, fond_of: Sequence[int] = (), rate: float = 0.0) -> Solo:
    """Eight bars of eighths by chance over one chord; a share of the notes is one of some pitch classes."""
    chance = random.Random(seed)
    names = {0: "C", 1: "Db", 2: "D", 3: "Eb", 4: "E", 5: "F", 6: "Gb", 7: "G", 8: "Ab", 9: "A", 10: "Bb", 11: "B"}
    bars = []
    for _ in range(8):
        notes = []
        for place in range(6):
            pitch_class = (
                chance.choice(list(fond_of)) if chance.random() < rate else chance.choice((0, 2, 4, 5, 7, 9, 10))
            )
            notes.append(f"{names[pitch_class]}{chance.choice((4, 5))}" + ("/8" if place == 0 else ""))
        bars.append(("C7", " ".join([*notes, "r/4"])))
    return make_solo(bars)


@pytest.fixture(scope="module")
def plain() -> list[Counts]:
    return [counts_of(line_of(by_chance(seed))) for seed in range(24)]


def test_a_planted_habit_is_the_strongest_difference(plain: list[Counts]) -> None:
    fond = [counts_of(line_of(by_chance(100 + seed, (1,), 0.15))) for seed in range(12)]
    found = differences(Measured(tuple(fond)), Measured(tuple(plain[:12])))
    told = [one for one in found if one.stands_out]
    assert "degree b9 over dominant" in [one.figure.name for one in told[:5]]
    flat = next(one for one in found if one.figure.name == "degree b9 over dominant")
    assert flat.value > 0.1 > flat.other
    assert flat.z > 0
    words = difference_words(flat, "A", "B")
    assert words.startswith("The ♭9 over dominants: 1")
    assert words.endswith("in A, 0 % in B.")


@pytest.mark.slow
def test_halves_of_one_player_differ_no_oftener_than_is_said(plain: list[Counts]) -> None:
    chance, told = random.Random(5), 0
    for split in range(60):
        dealt = chance.sample(plain, len(plain))
        found = differences(Measured(tuple(dealt[:12])), Measured(tuple(dealt[12:])), split)
        told += any(one.stands_out for one in found)
    assert told <= 6


def test_of_few_solos_phrases_are_dealt_and_nothing_is_told_of_the_same_ones(plain: list[Counts]) -> None:
    same = Measured(tuple(plain[:2]))
    assert not any(one.stands_out for one in differences(same, same))
    assert differences(Measured(()), same) == []


def test_the_demos_players_end_phrases_as_it_was_written_down() -> None:
    lines: dict[str, list[LabelledLine]] = {}
    for tune in TUNES:
        solo = played(tune)
        lines.setdefault(solo.player, []).append(line_of(solo))
    ending = {"Odo Vantongeren": "9", "Ilka Rosenquill": "1", "Perpetua Lindqvarn": "5"}
    assert set(ending) == set(lines)
    for player, degree in ending.items():
        found = {value.figure.name: value.value for value in measured(lines[player]).values()}
        endings = {name: value for name, value in found.items() if name.startswith("ending on ")}
        assert max(endings, key=lambda name: endings[name]) == f"ending on {degree}"


# -- examples -------------------------------------------------------------------------------------------------


def test_examples_are_phrases_that_have_what_is_counted_from_different_solos_first() -> None:
    lines = [line_of(FIRST), line_of(SECOND), line_of(THIRD)]
    flat = BY_NAME["degree b9 over dominant"]
    found = examples_of(flat, lines)
    assert [example.line for example in found] == [2]
    assert (found[0].first, found[0].last) == (0, 7)
    thirds = examples_of(BY_NAME["step third"], lines)
    assert len({example.line for example in thirds}) == min(3, len(thirds))
    assert examples_of(BY_NAME["degree #9 over dominant"], lines) == []


def test_a_line_without_notes_or_chords_is_no_trouble() -> None:
    bare = make_solo([("C7", "C4/8 D4 E4 F4 G4 A4 B4 C5")])
    unaccompanied = replace(bare, chords=())
    found = values(unaccompanied)
    assert "function chord" not in found
    assert found["step whole step"].among == 7
    empty = measured([line_of(replace(bare, notes=(), form_end=Fraction(4)))])
    assert empty.solos == ()
    assert isinstance(BY_NAME["silence"], Figure)
