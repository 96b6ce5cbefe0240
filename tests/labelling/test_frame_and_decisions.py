from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import DATA, make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.passage import read_passages
from gavotte.labelling.costs import Costs
from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.figures import figure_kind
from gavotte.labelling.frame import Frame
from gavotte.labelling.labeller import label_solo
from gavotte.labelling.local_scale import local_scale
from gavotte.labelling.search import Candidate, cheapest, figure_cost
from gavotte.solo.document import Function, KeyRegion, Solo
from gavotte.solo.edits import with_decision, without_decision
from gavotte.solo.moving import transposed
from gavotte.solo.school import VERTICAL
from gavotte.theory.chord_symbol import parse_chord
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key

PASSAGES = [p.solo for p in read_passages((DATA / "passages.json").read_text(encoding="utf-8"))]
SOLOS = [*PASSAGES, *(make() for make in DEMO_SOLOS)]


@pytest.mark.parametrize(
    ("chord", "following", "key", "blues", "name"),
    [
        ("Dm7", "G7", "C major", False, "C major"),
        ("G7", "Cm6", "C minor", False, "C harmonic minor"),
        ("D7", "Gm7", "F major", False, "G harmonic minor"),
        ("Db7", "C6", "C major", False, "D♭ lydian dominant"),
        ("G7alt", "Cm6", "C minor", False, "G altered"),
        ("G7(b9,#5)", "C", "C major", False, "G altered"),
        ("G7#5", "C", "C major", False, "G whole tone"),
        ("C7", "F7", "C major", True, "C mixolydian"),
        ("A7", "D7", "C major", False, "A mixolydian"),
        ("Ebmaj7", "D7", "C major", False, "E♭ lydian"),
        ("Bbm7", "Eb7", "C major", False, "B♭ dorian"),
        ("F#m7b5", "Fm7", "C major", False, "F♯ locrian with 9"),
        ("C#dim7", "Dm7", "C major", False, "C♯ whole-half diminished"),
        ("Fm6", "C", "C major", False, "F melodic minor"),
        ("C7sus4", "Fmaj7", "Bb major", False, "B♭ major"),
        ("Cmaj7#11", None, "C major", False, "C lydian"),
    ],
)
def test_local_scales(chord: str, following: str | None, key: str, blues: bool, name: str) -> None:
    region = KeyRegion(Fraction(0), Key.parse(key), blues)
    after = parse_chord(following) if following else None
    assert local_scale(parse_chord(chord), after, region).name == name


def test_the_frame_knows_steps_leaps_rests_and_length() -> None:
    solo = make_solo([("Cm", "G4/8 A4 D5 D5 r/4 C5/4"), ("G7", "B4/8 Ab4 G4/4 D5/2"), ("Cm", "C5/1")], key="C minor")
    notes = Frame(solo).notes
    assert notes[0].rest_before
    assert not notes[0].steps_in
    assert notes[1].steps_in
    assert notes[1].leaps_out
    assert notes[2].before == 1
    assert notes[3].before == 1, "a repeated pitch is looked past"
    assert notes[3].rest_after
    assert notes[3].held
    assert notes[4].rest_before
    assert notes[4].before is None
    assert notes[6].steps_in, "B to A flat is a step over the dominant of C minor"
    assert [n.strong for n in notes[5:]] == [True, False, False, True, True]


@pytest.mark.parametrize("solo", SOLOS, ids=lambda solo: solo.title[:20])
@pytest.mark.parametrize("interval", [Interval(1, 1), Interval(2, 4), Interval(-1, -2)])
def test_transposing_a_solo_changes_no_label(solo: Solo, interval: Interval) -> None:
    def essence(of: Solo) -> list[tuple[object, ...]]:
        return [(x.function, x.device, x.degree, x.target, x.group, x.tension) for x in label_solo(of)]

    assert essence(transposed(solo, interval)) == essence(solo)


@given(st.sampled_from(SOLOS), st.integers(1, 6))
@settings(max_examples=20, deadline=None)
def test_moving_a_solo_by_bars_changes_no_label(solo: Solo, bars: int) -> None:
    shift = bars * solo.meters[0].meter.bar_length
    moved = replace(
        solo,
        notes=tuple(replace(n, onset=n.onset + shift) for n in solo.notes),
        pickup=Fraction(0),
        chords=tuple(replace(c, onset=c.onset + shift) for c in solo.chords),
    )
    assert [(x.function, x.device) for x in label_solo(moved)] == [(x.function, x.device) for x in label_solo(solo)]


def standing(figures: list[Figure], notes: int = 20) -> list[Figure]:
    """The figures on the cheapest way over notes that are passing by themselves."""
    alone = Explanation(Function.PASSING, "passing", 0.9, cost=Costs().passing)
    ways = [Candidate(i, i + 1, alone.cost, alone, None) for i in range(notes)]
    ways += [
        Candidate(min(f.explains), max(f.explains) + 1, figure_cost(f, rule_of(f), Costs()), None, f) for f in figures
    ]
    _, _, taken = cheapest(0, notes, ways)
    return [way.figure for way in taken if way.figure is not None]


def rule_of(figure: Figure) -> float:
    kind = figure_kind(figure.kind)
    assert kind is not None
    return kind.rule


@given(st.lists(st.tuples(st.integers(0, 12), st.integers(1, 4)), max_size=12))
def test_the_figures_that_stand_never_explain_a_note_twice(spans: list[tuple[int, int]]) -> None:
    reading = Explanation(Function.APPROACH, "enclosure", 0.9)
    figures = [
        Figure(
            "enclosure",
            tuple(range(start, start + size)),
            dict.fromkeys(range(start, start + size), reading),
        )
        for start, size in spans
    ]
    chosen = standing(figures)
    explained = [i for figure in chosen for i in figure.explains]
    assert len(explained) == len(set(explained))
    if figures:
        largest = max(len(figure.explains) for figure in figures)
        pairs = sum(len(f.explains) * (len(f.explains) - 1) // 2 for f in chosen)
        assert largest * (largest - 1) // 2 <= pairs or largest == 1
        assert chosen


def test_the_larger_of_two_overlapping_figures_stands() -> None:
    reading = Explanation(Function.APPROACH, "enclosure", 0.9)
    small = Figure("upper structure", (0, 1), {0: reading, 1: reading})
    large = Figure("enclosure", (1, 2, 3), dict.fromkeys((1, 2, 3), reading))
    assert standing([small, large]) == [large]
    assert standing([small]) == [small]


def test_of_two_figures_for_the_same_notes_the_earlier_rule_stands() -> None:
    reading = Explanation(Function.APPROACH, "enclosure", 0.9)
    early, late = (Figure(kind, (3, 4), {3: reading, 4: reading}) for kind in ("implied run", "enclosure"))
    assert standing([late, early]) == [early]


def test_what_the_best_way_through_a_place_costs_is_known_from_both_ends() -> None:
    reading = Explanation(Function.APPROACH, "enclosure", 0.9, cost=2.0)
    ways = [Candidate(i, i + 1, 2.0, reading, None) for i in range(4)] + [Candidate(1, 3, 1.0, None, None)]
    reach, rest, taken = cheapest(0, 4, ways)
    assert reach == [0, 2, 4, 3, 5]
    assert rest == [5, 3, 4, 2, 0]
    assert [(way.start, way.end) for way in taken] == [(0, 1), (1, 3), (3, 4)]


def test_a_decision_stands_and_the_rules_stay_as_an_alternative() -> None:
    solo = make_solo([("Dm7", "D5/8 E5 F5 G5 A5/2")])
    decided = with_decision(solo, "n1", Function.EXTENSION, "natural")
    label = label_solo(decided)[1]
    assert (label.function, label.device, label.decided, label.confidence) == ("extension", "natural", True, 1.0)
    assert label.alternatives[0].function == "passing"
    assert not label.in_doubt
    assert label_solo(without_decision(decided, "n1")) == label_solo(solo)


@pytest.mark.parametrize("function", list(Function))
def test_every_function_can_be_decided_and_gets_a_reason(function: Function) -> None:
    solo = make_solo([("Cmaj7", "E4/4 G4/4 Bb4/4 G4/4")])
    label = label_solo(with_decision(solo, "n2", function, "plain"))[2]
    assert label.function is function
    assert "B♭" in label.reason
    assert label_solo(solo)[2].in_doubt


def test_the_vertical_school_hears_accents_as_colours() -> None:
    solo = make_solo([("Dm7", "A4/2 r/2"), ("G7", "E5/4 D5/4 B4/2")])
    assert label_solo(solo)[1].function == "passing"
    assert label_solo(solo, VERTICAL)[1].function == "extension"


def test_uncertain_notes_are_in_doubt() -> None:
    solo = make_solo([("Dm7", "D5/8 E5? F5 G5 A5/2")])
    assert [label.in_doubt for label in label_solo(solo)] == [False, True, False, False, False]
