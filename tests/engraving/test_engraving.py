from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import DATA, make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.engraving.engraver import Engraver, line_breaks
from gavotte.engraving.mei import staff_for
from gavotte.engraving.shapes import bounds, path_operations
from gavotte.formats.passage import read_passages
from gavotte.notation.values import Value, split_at_beats, value_of
from gavotte.notation.written import Notation, WrittenBar
from gavotte.solo.document import MeterRegion, Note, Solo
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import Pitch

PASSAGES = [p.solo for p in read_passages((DATA / "passages.json").read_text(encoding="utf-8"))]


def written(notes: str, meter: str = "4/4", key: str = "C major") -> WrittenBar:
    return Notation(make_solo([("C", notes)], meter=meter, key=key)).bar(0)


def values(bar: WrittenBar) -> list[str]:
    """Events as "4." (a dotted quarter), "r8" (an eighth rest), "4~" (tied on)."""
    return [
        f"{'r' if e.is_rest else ''}{e.value.base}{'.' * e.value.dots}{'~' if e.tied_on else ''}" for e in bar.events
    ]


@pytest.mark.parametrize(
    ("notes", "meter", "expected"),
    [
        ("C5/8 D5 E5 F5 G5/2", "4/4", ["8", "8", "8", "8", "2"]),
        ("C5/8 D5/4 E5/4 F5/4 G5/8", "4/4", ["8", "4", "8~", "8", "4", "8"]),
        ("C5/4. D5/4. E5/4", "4/4", ["4.", "8~", "4", "4"]),
        ("C5/8 D5/2 E5/4 F5/8", "4/4", ["8", "4.~", "8", "4", "8"]),
        ("r/8 C5/8 r/2 D5/4", "4/4", ["r8", "8", "r4", "r4", "4"]),
        ("C5/2. r/4", "4/4", ["2.", "r4"]),
        ("C5/1", "4/4", ["1"]),
        ("C5/4. D5/4.", "6/8", ["4.", "4."]),
        ("C5/8 D5/4 E5/4 F5/8", "6/8", ["8", "4", "4", "8"]),
        ("C5/2. D5/2", "5/4", ["2.", "2"]),
        ("C5/16 D5/8 E5/16 r/2.", "4/4", ["16", "8", "16", "r4", "r2"]),
    ],
)
def test_values(notes: str, meter: str, expected: list[str]) -> None:
    assert values(written(notes, meter)) == expected


def test_tuplets_are_found_from_the_onsets() -> None:
    bar = written("C5/8t D5 E5 F5/4 G5/4t A5 B5")
    assert [(t.start, t.end, t.actual, t.normal) for t in bar.tuplets] == [(0, 1, 3, 2), (2, 4, 3, 2)]
    assert values(bar) == ["8", "8", "8", "4", "4", "4", "4"]


def test_an_empty_bar_is_one_rest() -> None:
    bar = written("r/1")
    assert [e.whole_bar for e in bar.events] == [True]


def test_accidentals_are_shown_once_a_bar_and_cancelled() -> None:
    bar = written("F#4/4 F#4 F4 Bb4", key="C major")
    assert [e.accidental for e in bar.events] == ["s", "", "n", "f"]
    assert [e.accidental for e in written("F#4/4 F4 F#5 F#4", key="G major").events] == ["", "n", "", "s"]


def test_plain_eighths_are_beamed_in_halves_others_by_beat() -> None:
    assert [e.beam for e in written("C5/8 D5 E5 F5 G5 A5 B5 C6").events] == [0, 0, 0, 0, 1, 1, 1, 1]
    assert [e.beam for e in written("C5/8 D5 E5/4 G5/8 r B5 C6").events] == [0, 0, None, None, None, 1, 1]


def test_a_note_over_the_barline_is_tied() -> None:
    notation = Notation(make_solo([("C", "r/2. r/8 C5/8~"), ("F", "C5/2 r/2")]))
    assert [(e.tied_on, e.tied_from) for i in (0, 1) for e in notation.bar(i).events if e.note] == [
        (True, False),
        (False, True),
    ]


@given(st.sampled_from(["4/4", "3/4", "5/4", "6/8", "12/8", "7/4", "7/8"]), st.data())
@settings(max_examples=60, deadline=None)
def test_every_bar_is_filled_exactly(meter_text: str, data: st.DataObject) -> None:
    meter = Meter.parse(meter_text)
    grid = data.draw(st.sampled_from([Fraction(1, 2), Fraction(1, 4), Fraction(1, 3), Fraction(1, 6)]))
    lengths = data.draw(st.lists(st.integers(1, 12), min_size=1, max_size=12))
    gaps = data.draw(st.lists(st.integers(0, 3), min_size=len(lengths), max_size=len(lengths)))
    notes, onset = [], Fraction(0)
    for k, (length, gap) in enumerate(zip(lengths, gaps, strict=True)):
        onset += gap * grid
        notes.append(Note(f"n{k}", onset, length * grid, Pitch("C", 0, 5)))
        onset += length * grid
    solo = Solo("x", meters=(MeterRegion(Fraction(0), meter),), notes=tuple(notes))
    notation = Notation(solo)
    sounding: dict[str, Fraction] = {}
    for index in range(len(notation)):
        bar = notation.bar(index)
        assert sum(e.length for e in bar.events) == bar.bar.length
        assert [e.onset for e in bar.events] == sorted(e.onset for e in bar.events)
        for event in bar.events:
            if event.note is not None:
                sounding[event.note.id] = sounding.get(event.note.id, Fraction(0)) + event.length
    assert sounding == {note.id: note.duration for note in notes}


def test_splitting_keeps_to_written_values() -> None:
    for start in range(8):
        for end in range(start + 1, 9):
            pieces = split_at_beats(Fraction(start, 2), Fraction(end, 2), Meter(4, 4), rest=False)
            assert pieces[0][0] == Fraction(start, 2)
            assert pieces[-1][1] == Fraction(end, 2)
            assert all(value_of(b - a) is not None for a, b in pieces)
    assert value_of(Fraction(3, 2)) == Value(4, 1)
    assert value_of(Fraction(5, 2)) is None


@pytest.fixture(scope="module")
def engraver() -> Engraver:
    return Engraver()


@pytest.mark.parametrize("solo", [*PASSAGES, *(make() for make in DEMO_SOLOS)], ids=lambda solo: solo.title[:20])
def test_every_note_and_chord_is_placed(engraver: Engraver, solo: Solo) -> None:
    notation = Notation(solo)
    placed, chords = [], []
    for first, last in line_breaks(notation):
        for line in engraver.line(notation, first, last, {}):
            xs = [note.x for note in line.notes]
            assert xs == sorted(xs)
            assert len(line.barlines) == line.last - line.first
            assert line.ink[0] <= line.staff[0] < line.staff[1] <= line.ink[1]
            placed += [note.note.id for note in line.notes]
            chords += [chord.chord.id for chord in line.chords]
            # A chord symbol stands over the note it starts with.
            for chord in line.chords:
                here = [note.x for note in line.notes if note.note.onset == chord.chord.onset and not note.note.grace]
                assert not here or abs(here[0] - chord.x) < 400
    assert placed == [note.id for note in solo.notes]
    assert chords == [chord.id for chord in solo.chords]


def test_lines_hold_four_bars_and_begin_with_sections() -> None:
    solo = DEMO_SOLOS[0]()
    assert line_breaks(Notation(solo))[:3] == [(0, 5), (5, 9), (9, 13)]


def test_a_crowded_line_is_set_as_two(engraver: Engraver) -> None:
    crowded = make_solo([("C7", " ".join(["C5/16 D5 E5 F5"] + ["G5 A5 B5 C6"] * 3))] * 4)
    lines = engraver.line(Notation(crowded), 0, 4, {n.id: "♯11" for n in crowded.notes})
    assert len(lines) > 1
    assert [line.first for line in lines[1:]] == [line.last for line in lines[:-1]]
    assert sum(len(line.notes) for line in lines) == 64


def test_low_parts_get_a_clef_that_keeps_them_on_the_staff() -> None:
    assert staff_for(make_solo([("C", "C3/4 E2 G2 C3")])).clef_shape == "F"
    assert staff_for(make_solo([("C", "C5/4 E5 G4 C5")])).clef_shape == "G"
    assert staff_for(DEMO_SOLOS[1]()).octaves == 1


def test_paths_are_read_with_relative_and_smooth_commands() -> None:
    assert path_operations("M1 2h3v4l-1-1z") == [("M", (1, 2)), ("L", (4, 2)), ("L", (4, 6)), ("L", (3, 5)), ("Z", ())]
    assert path_operations("m0 0c1 1 2 1 3 0s2-1 3 0")[2] == ("C", (4.0, -1.0, 5.0, -1.0, 6.0, 0.0))
    box = bounds(path_operations("M1 2L4 2L4 6"))
    assert (box.x, box.y, box.right, box.bottom) == (1, 2, 4, 6)


def test_two_long_bars_stay_on_one_line(engraver: Engraver) -> None:
    seven = make_solo([("Gm7", "D5/4 F5/8 G5 A5/4. G5/8 Bb5/8 A5 G5 F5 D5/4")] * 2, meter="7/4")
    assert len(engraver.line(Notation(seven), 0, 2, {})) == 1


def test_a_line_shows_its_meter_where_that_is_another_than_before(engraver: Engraver) -> None:
    solo = make_solo([("C", "C5/4 E5 G4 C5")] * 4)
    odd = replace(solo, meters=(*solo.meters, MeterRegion(Fraction(8), Meter.parse("3/4"))))
    notation = Notation(odd)

    def shows(first: int, last: int) -> bool:
        (line,) = engraver.line(notation, first, last, {})
        return any(e.kind == "meterSig" and e.box is not None for e in line.drawing.elements)

    assert shows(0, 1)
    assert not shows(1, 2)
    assert shows(2, 3)
    assert not shows(3, 4)
    (apart,) = engraver.line(notation, 3, 4, {}, with_meter=True)
    assert any(e.kind == "meterSig" and e.box is not None for e in apart.drawing.elements)
