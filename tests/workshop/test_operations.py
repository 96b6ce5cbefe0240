from __future__ import annotations

import random
from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import make_solo
from tests.random_solos import random_solo

from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import Function, Solo
from gavotte.workshop.cost import Toll, cost_of
from gavotte.workshop.etude import stocked
from gavotte.workshop.operation import Around, Operation, Step, Values, worked
from gavotte.workshop.operations import ALL, OPERATIONS
from gavotte.workshop.piece import Piece, piece_of
from gavotte.workshop.proposals import proposals_for, variations

TWO_FIVE = [("Cm7 F7", "C5/8 Eb5 G5 Bb5 A5 Gb5 Eb5 C#5"), ("Bbmaj7", "D5/2 r/2")]
DOMINANT = [("C7", "E5/8 F5 F#5 G5 A5 Bb5 C6 Bb5")]
LINES = {f"line {seed}": random_solo(seed) for seed in range(500, 504)}
STOCK = tuple(one for seed in range(900, 930) if (one := stocked(str(seed), "", "somewhere", random_solo(seed))))
AROUND = Around(LINES, lambda: STOCK)


def two_five() -> Piece:
    return piece_of(make_solo(TWO_FIVE, key="Bb major"))


def dominant() -> Piece:
    return piece_of(make_solo(DOMINANT, key="F major"))


def made(piece: Piece, name: str, **values: str | int | bool) -> Piece:
    step = Step(name, tuple(sorted(values.items())))
    stage = worked(piece, [step], OPERATIONS, AROUND).stages[-1]
    assert not stage.problem, stage.problem
    return stage.piece


def pitches(piece: Piece) -> list[int]:
    return [note.pitch.midi for note in piece.solo.notes]


def names(piece: Piece) -> str:
    return " ".join(str(note.pitch) for note in piece.solo.notes)


def times(piece: Piece) -> list[tuple[Fraction, Fraction]]:
    return [(note.onset, note.duration) for note in piece.solo.notes]


def thrown(operation: Operation, chance: random.Random) -> Step:
    step = Step(operation.name)
    for option in operation.options:
        if option.of_lines:
            step = step.with_value(option.name, chance.choice(list(LINES)))
        elif option.choices:
            step = step.with_value(option.name, chance.choice(option.choices)[0])
        elif isinstance(option.default, bool):
            step = step.with_value(option.name, chance.random() < 0.5)
        elif isinstance(option.default, int):
            step = step.with_value(option.name, chance.randint(option.lowest, min(option.highest, option.lowest + 8)))
    return step


@pytest.mark.parametrize("operation", ALL, ids=lambda operation: operation.name)
@settings(max_examples=12, deadline=None)
@given(seed=st.integers(0, 5000))
def test_whatever_is_done_to_whatever_line_a_line_comes_out(operation: Operation, seed: int) -> None:
    """Sound notes in order that do not overlap, each known by an id of its own, made of the source's notes or added."""
    solo = random_solo(seed)
    source = piece_of(solo)
    result = worked(source, [thrown(operation, random.Random(seed))], OPERATIONS, AROUND).result
    within_bounds(result.solo)
    notes = result.solo.notes
    assert len({note.id for note in notes}) == len(notes)
    assert all(note.duration > 0 for note in notes)
    assert all(first.end <= second.onset for first, second in pairwise(notes))
    assert set(result.origins.values()) <= set(solo.places)
    assert set(result.origins) <= set(result.solo.places)
    assert len(result.labelled.labels) == len(notes)


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 5000))
def test_turned_twice_it_is_the_line_it_was(seed: int) -> None:
    source = piece_of(random_solo(seed))
    for twice in (
        [("mirror", {"how": "exact", "about": "first"})] * 2,
        [("backwards", {"what": "pitches"})] * 2,
        [("pairs", {"first": 1})] * 2,
        [("octave", {"which": "all", "way": "up"}), ("octave", {"which": "all", "way": "down"})],
        [("values", {"values": "double", "what": "line"}), ("values", {"values": "half", "what": "line"})],
        [("displaced", {"by": "beat later"}), ("displaced", {"by": "beat earlier"})],
    ):
        steps = [Step(name, tuple(sorted(values.items()))) for name, values in twice]
        chain = worked(source, steps, OPERATIONS)
        if any(stage.problem for stage in chain.stages):
            continue
        assert pitches(chain.result) == pitches(source)
        assert times(chain.result) == times(source)


def test_the_minor_cadence_of_a_two_five() -> None:
    result = made(two_five(), "recast", quality="minor cadence")
    assert [event.text for event in result.solo.chords] == ["Cm7b5", "F7b9", "Bbm6"]
    assert result.solo.keys[0].key.is_minor
    assert str(result.solo.notes[2].pitch) == "Gb5"


def test_a_ii_and_its_v_become_one_v() -> None:
    result = made(two_five(), "one chord", which="dominant")
    assert [event.text for event in result.solo.chords] == ["F7"]
    assert names(result).split()[:4] == ["C5", "Eb5", "G5", "Bb5"]


def test_a_tritone_substitute_is_heard_over_the_written_chord() -> None:
    result = made(two_five(), "substitute", substitute="tritone")
    assert [event.text for event in result.solo.chords] == ["Cm7", "F7", "Bbmaj7"]
    over = [label for label in result.labelled.labels if label.heard]
    assert len(over) == 4
    assert {label.heard for label in over} == {"over B7"}
    written = made(two_five(), "substitute", substitute="tritone", written="substitutes")
    assert [event.text for event in written.solo.chords] == ["Cm7", "B7", "Bbmaj7"]


@pytest.mark.parametrize(
    ("name", "chords"),
    [
        ("ii before", "Cm7 Cm7 F7 Bbmaj7"),
        ("tritone ii", "Cm7 F#m7 B7 Bbmaj7"),
        ("minor iv", "Cm7 Ebm7 Bbmaj7"),
        ("back door", "Cm7 Ebm7 Ab7 Bbmaj7"),
        ("diminished", "Cm7 Adim7 Bbmaj7"),
        ("half step", "Cm7 Dbm7 Gb7 Bbmaj7"),
        ("thirds", "Cm7 Db7 Gbmaj7 A7 Dmaj7 Bbmaj7"),
    ],
)
def test_what_stands_in_for_a_dominant(name: str, chords: str) -> None:
    result = made(two_five(), "substitute", substitute=name, written="substitutes")
    assert " ".join(event.text for event in result.solo.chords) == chords


def test_a_shape_from_the_seventh_of_a_chord() -> None:
    arpeggio = piece_of(make_solo([("Cmaj7", "C5/4 E5 G5 B5")], key="C major"))
    result = made(arpeggio, "shape", start="7")
    assert names(result) == "B4 D#5 F#5 A#5"
    triads = proposals_for(arpeggio, Step("shape"), OPERATIONS)
    assert triads[0].told == "all chord tones"
    assert [proposal.tension for proposal in triads] == sorted(proposal.tension for proposal in triads)


def test_structures_are_told_by_what_they_give_over_a_chord() -> None:
    rows = proposals_for(two_five(), Step("structure"), OPERATIONS)
    assert "minor seventh from the root" in {row.words for row in rows}
    assert "chord tones" in rows[0].told
    assert rows[0].tension < 0.1 < rows[-1].tension


def test_a_pattern_through_a_scale_turns_at_the_ends_of_the_instrument() -> None:
    source = piece_of(make_solo([("Cmaj7", "C5/4 E5 G5 B5")], key="C major"))
    up = made(source, "scale", scale="major", pattern="1-2-3-1", order="up", compass="1", values="1/2")
    assert names(up) == "C5 D5 E5 C5 D5 E5 F5 D5 E5 F5 G5 E5 F5 G5 A5 F5 G5 A5 B5 G5 A5 B5 C6 A5"
    both = made(source, "scale", scale="major", pattern="scale", order="both", compass="1", values="1/3", accents=4)
    assert names(both).split()[:9] == ["C5", "D5", "E5", "F5", "G5", "A5", "B5", "C6", "B5"]
    accented = [place for place, note in enumerate(both.solo.notes) if note.marks]
    assert accented == list(range(0, 15, 4))
    whole = made(source, "scale", scale="major", pattern="thirds", order="both", by="1")
    low, high = source.solo.instrument.lowest, source.solo.instrument.highest
    assert low <= min(pitches(whole)) <= low + 2
    assert high - 2 <= max(pitches(whole)) <= high


def test_a_cell_goes_through_the_scale_with_its_approach_kept_chromatic() -> None:
    source = piece_of(make_solo([("C7", "D#5/8 E5 G5 C5 r/2")], key="F major"))
    assert source.labelled.labels[0].function is Function.APPROACH
    result = made(source, "scale", pattern="cell", order="up", compass="2")
    cells = [pitches(result)[k : k + 4] for k in range(0, len(pitches(result)), 4)]
    assert len(cells) > 4
    assert {cell[1] - cell[0] for cell in cells} == {1}


def test_own_notes_of_a_scale_that_cannot_be_read_are_told() -> None:
    step = Step("scale", (("notes", "C D H"), ("scale", "own scale")))
    assert "H" in worked(two_five(), [step], OPERATIONS).stages[-1].problem


def test_another_way_to_the_same_goal_takes_the_same_time() -> None:
    source = dominant()
    result = made(source, "approach", way="enclosure")
    assert names(result) == "E5 A5 F#5 G5 A5 Bb5 C6 Bb5"
    longer = made(source, "approach", way="enclosure wide")
    assert [note.duration for note in longer.solo.notes[1:5]] == [Fraction(1, 4)] * 4
    assert longer.solo.notes[-1].end == source.solo.notes[-1].end


def test_approaches_are_added_in_place_of_the_notes_before_or_squeezed_in() -> None:
    source = two_five()
    instead = made(source, "approaches added", way="below")
    assert len(instead.solo.notes) == len(source.solo.notes)
    squeezed = made(source, "approaches added", way="double below", room="squeezed", goals="beats")
    assert len(squeezed.solo.notes) > len(source.solo.notes)
    assert squeezed.solo.notes[-1].end == source.solo.notes[-1].end
    added = [note for note in squeezed.solo.notes if note.id not in source.solo.places]
    functions = {label.note: label.function for label in squeezed.labelled.labels}
    assert sum(functions[note.id] is Function.APPROACH for note in added) >= len(added) // 2


def test_a_lead_in_stands_before_the_first_note_as_a_pickup() -> None:
    result = made(two_five(), "lead in", way="below")
    assert pitches(result)[:2] == [71, 72]
    assert result.solo.pickup == Fraction(1, 2)
    assert result.solo.notes[0].id not in result.origins
    assert result.labelled.labels[0].function is Function.APPROACH


def test_approaches_taken_away_leave_what_they_led_to() -> None:
    held = made(dominant(), "approaches away")
    assert names(held) == "E5 G5 A5 Bb5 C6 Bb5"
    assert held.solo.notes[0].duration == Fraction(3, 2)
    rests = made(dominant(), "approaches away", room="rest")
    assert rests.solo.notes[0].duration == Fraction(1, 2)


def test_parts_thirds_pairs_and_skeleton() -> None:
    assert len(made(two_five(), "part", which="tail", count=3).solo.notes) == 3
    assert names(made(two_five(), "part", which="first away", count=1)).startswith("Eb5")
    filled = made(two_five(), "thirds filled")
    assert names(filled).split()[:5] == ["C5", "D5", "Eb5", "F5", "G5"]
    assert names(made(two_five(), "pairs")).split()[:4] == ["Eb5", "C5", "Bb5", "G5"]
    assert names(made(dominant(), "skeleton", level="3")).split()[0] == "E5"
    assert len(made(dominant(), "skeleton", level="4").solo.notes) == 1


def test_rotation_begins_later_and_ends_with_what_stood_before() -> None:
    result = made(two_five(), "rotation", note=3)
    assert names(result).split()[0] == "G5"
    assert times(result) == times(two_five())
    classes = sorted(pitch % 12 for pitch in pitches(result))
    assert classes == sorted(pitch % 12 for pitch in pitches(two_five()))


def test_rhythms_are_exchanged_and_the_notes_stay() -> None:
    for values in ({"name": "figure", "figure": "gallop"}, {"name": "tapped", "lengths": "1 -1/2 1/2"}):
        result = made(two_five(), **values)  # type: ignore[arg-type]
        assert pitches(result) == pitches(two_five())
    gallop = made(two_five(), "figure", figure="gallop")
    assert [float(note.duration) for note in gallop.solo.notes[:3]] == [0.5, 0.25, 0.25]
    other = made(two_five(), "rhythm of", line="line 501")
    assert len(other.solo.notes) == len(two_five().solo.notes)


def test_landings_come_early_or_late_by_an_eighth() -> None:
    early = made(two_five(), "landings", way="anticipated")
    assert early.solo.notes[-1].onset == Fraction(7, 2)
    late = made(two_five(), "landings", way="delayed")
    assert late.solo.notes[-1].onset == Fraction(9, 2)


def test_five_of_every_six_notes_move_up_together() -> None:
    result = made(two_five(), "regrouped", keep=5, of=6)
    assert [float(note.onset) for note in result.solo.notes] == [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5]


def test_two_lines_are_joined_by_the_smoothest_way() -> None:
    lines = {"next": make_solo([("Fmaj7", "A5/4 C6 F5/2")], key="F major")}
    step = Step("join", (("count", 3), ("key", "own"), ("line", "next")))
    chain = worked(dominant(), [step], OPERATIONS, Around(lines))
    result = chain.result
    assert len(result.solo.notes) == 8 + 3 + 3
    assert "1 of" in result.way
    joined = pitches(result)[7:12]
    assert all(abs(b - a) <= 7 for a, b in pairwise(joined))
    assert [event.text for event in result.solo.chords] == ["C7", "Fmaj7"]
    rows = proposals_for(dominant(), step, OPERATIONS, Around(lines))
    assert len({tuple(pitches(row.piece)) for row in rows}) == len(rows) > 3


def test_lines_of_different_meters_are_not_joined() -> None:
    lines = {"waltz": Solo("waltz", meters=random_solo(3).meters, notes=random_solo(3).notes)}
    step = Step("join", (("line", "waltz"),))
    if lines["waltz"].meters[0].meter != dominant().solo.meters[0].meter:
        assert "is in" in worked(dominant(), [step], OPERATIONS, Around(lines)).stages[-1].problem


def test_a_sheet_in_all_keys_has_a_section_for_each() -> None:
    result = made(two_five(), "all keys")
    assert len(result.solo.sections) == 12
    assert len(result.solo.notes) == 12 * 9
    assert result.origins["3:n0"] == "n0"
    assert len(made(two_five(), "all keys", count=4).solo.sections) == 4


# -- chains ------------------------------------------------------------------------------------------


def test_a_step_that_is_off_does_nothing_and_an_unknown_one_says_so() -> None:
    off = worked(two_five(), [Step("octave", is_on=False)], OPERATIONS)
    assert off.result.solo is off.source.solo
    unknown = worked(two_five(), [Step("levitation"), Step("pairs")], OPERATIONS)
    assert "levitation" in unknown.stages[0].problem
    assert pitches(unknown.result) == pitches(made(two_five(), "pairs"))


def test_a_changed_step_is_worked_anew_and_those_before_it_are_not() -> None:
    steps = [Step("pairs"), Step("octave"), Step("backwards")]
    first = worked(two_five(), steps, OPERATIONS)
    steps[1] = Step("octave").with_value("way", "down")
    second = worked(first.source, steps, OPERATIONS, before=first)
    assert second.stages[0] is first.stages[0]
    assert second.stages[1] is not first.stages[1]
    assert pitches(second.result) == [pitch - 24 for pitch in pitches(first.result)]


def test_values_of_another_kind_or_beyond_the_bounds_are_as_usual() -> None:
    values = Values(OPERATIONS["part"], {"which": "sideways", "count": 1_000_000})
    assert values.text("which") == "first away"
    assert values.number("count") == 64
    assert Values(OPERATIONS["part"], {"count": "many"}).number("count") == 1


# -- what it costs -----------------------------------------------------------------------------------


def test_the_cost_names_what_was_kept_and_what_was_not() -> None:
    source = dominant()
    same = cost_of(source, source)
    assert same.words == "every degree kept, every goal kept"
    high = cost_of(source, made(source, "octave", which="every other", way="up"))
    assert high.count(Toll.RANGE) > 0
    assert high.count(Toll.LEAP) > 0
    part = cost_of(source, made(source, "part", which="tail", count=2))
    assert part.left_out == 6
    moved = cost_of(source, made(source, "inversion", tones="1"))
    assert moved.count(Toll.DEGREE) == 8


# -- variations --------------------------------------------------------------------------------------


def test_six_variations_differ_and_the_seed_decides_which() -> None:
    first = variations(two_five(), 7, OPERATIONS)
    again = variations(two_five(), 7, OPERATIONS)
    other = variations(two_five(), 8, OPERATIONS)
    assert len(first) == 6
    assert [one.steps for one in first] == [one.steps for one in again]
    assert [one.steps for one in first] != [one.steps for one in other]
    music = {tuple((n.onset, n.pitch.midi) for n in one.piece.solo.notes) for one in first}
    assert len(music) == 6
    assert tuple((n.onset, n.pitch.midi) for n in two_five().solo.notes) not in music


def test_a_variation_can_be_taken_into_the_chain() -> None:
    chosen = variations(two_five(), 3, OPERATIONS)[0]
    assert pitches(worked(two_five(), chosen.steps, OPERATIONS).result) == pitches(chosen.piece)
