import itertools
from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.solo.bars import BarGrid, bars_written
from gavotte.solo.checks import check
from gavotte.solo.document import ChordEvent, Function, MeterRegion, OddBar, Solo
from gavotte.solo.edits import with_decision, without_decision
from gavotte.solo.instruments import INSTRUMENTS, guess_instrument
from gavotte.solo.moving import excerpt, transposed
from gavotte.solo.setting import with_setting
from gavotte.theory.chord import UnreadChord
from gavotte.theory.chord_symbol import ChordSymbolError
from gavotte.theory.interval import Interval
from gavotte.theory.meter import Meter

LINE = [("C7", "G4/8 A4"), ("Fmaj7", "A4/4 C5 E5 G5"), ("Gm7 C7", "F5/8 D5 Bb4 G4 E4 G4 Bb4 D5"), ("F6", "C5/1")]


def line() -> Solo:
    return make_solo(LINE, key="F major", pickup=Fraction(1))


def test_the_pickup_is_bar_nought() -> None:
    grid = BarGrid(line())
    assert [bar.number for bar in grid.bars] == [0, 1, 2, 3]
    assert grid.place(Fraction(-1, 2)) == "the pickup, the and of 4"
    assert grid.place(Fraction(11, 2)) == "bar 2, the and of 2"


@pytest.mark.parametrize("ends", [(3, 40, 17, 16, 0, 9), (16, 17), (17, 16), (0, 0)])
def test_a_form_that_grows_or_shrinks_keeps_its_bars(ends: tuple[int, ...]) -> None:
    pickup = replace(make_solo([("C7", "G4/8 A4")], pickup=Fraction(1)), chords=())
    changing = replace(
        pickup,
        meters=(MeterRegion(Fraction(0), Meter(4, 4)), MeterRegion(Fraction(11), Meter(3, 4))),
        odd_bars=(OddBar(Fraction(4), Fraction(5)),),
    )
    onsets = [-1, 0, 4, 9, *range(11, 60, 3)]
    for end in ends:
        bars = BarGrid(replace(changing, form_end=Fraction(end))).bars
        assert [bar.onset for bar in bars] == onsets[: max(3, sum(onset < end for onset in onsets))]
        assert [bar.number for bar in bars] == list(range(len(bars)))
        assert all(bar.end == other.onset for bar, other in itertools.pairwise(bars))


def test_bars_are_written_in_where_a_note_begins() -> None:
    with_rest = make_solo([("C7", "G4/8 A4"), ("Fmaj7", "r/1"), ("Gm7", "D5/1"), ("F6", "C5/1")], pickup=Fraction(1))
    assert bars_written(with_rest) == 3
    assert bars_written(line()) == 4
    assert bars_written(replace(line(), notes=())) == 0
    held_on = make_solo([("C7", "G4/2 r"), ("F7", "r/1")])
    over_the_barline = replace(held_on, notes=(replace(held_on.notes[0], duration=Fraction(6)),))
    assert bars_written(over_the_barline) == 1


def test_meter_changes_and_odd_bars_shape_the_grid() -> None:
    solo = replace(
        line(),
        pickup=Fraction(0),
        notes=line().notes[2:],
        meters=(MeterRegion(Fraction(0), Meter(4, 4)), MeterRegion(Fraction(7), Meter(3, 4))),
        odd_bars=(OddBar(Fraction(4), Fraction(3)),),
    )
    bars = BarGrid(solo).bars
    assert [(bar.onset, bar.length) for bar in bars[:3]] == [(0, 4), (4, 3), (7, 3)]
    assert bars[2].meter == Meter(3, 4)


def test_a_chord_nobody_can_read_stays_as_its_author_wrote_it() -> None:
    assert ChordEvent("c0", Fraction(0), "Hm7").symbol == UnreadChord("Hm7")
    assert str(ChordEvent("c0", Fraction(0), "play | it").symbol) == "playit"
    with pytest.raises(ChordSymbolError):
        ChordEvent("c0", Fraction(0), "  ")


def test_decisions_replace_each_other_and_can_be_taken_back() -> None:
    solo = line()
    once = with_decision(solo, "n3", Function.PASSING, "step")
    twice = with_decision(once, "n3", Function.OUTSIDE, "unexplained")
    assert [d.function for d in twice.decisions] == [Function.OUTSIDE]
    assert without_decision(twice, "n3") == solo
    with pytest.raises(KeyError):
        with_decision(solo, "nobody", Function.CHORD, "plain")


def test_excerpt_takes_the_chords_along() -> None:
    solo = line()
    part = excerpt(solo, "n8", "n6")
    assert [str(note.pitch) for note in part.notes] == ["F5", "D5", "Bb4"]
    assert part.notes[0].onset == 0
    assert [(chord.onset, chord.text) for chord in part.chords] == [(0, "Gm7")]


def test_excerpt_ends_with_the_chord_under_its_last_note() -> None:
    part = excerpt(line(), "n6", "n13")
    assert [(chord.onset, chord.text) for chord in part.chords] == [(0, "Gm7"), (2, "C7")]
    assert len(BarGrid(part).bars) == 1


def test_excerpt_of_a_pickup_keeps_it_a_pickup() -> None:
    part = excerpt(line(), "n0", "n3")
    assert part.pickup == 1
    assert part.notes[0].onset == -1
    assert [chord.text for chord in part.chords] == ["C7", "Fmaj7"]


def test_transposing_moves_notes_chords_and_keys() -> None:
    moved = transposed(line(), Interval(1, 2))
    assert str(moved.keys[0].key) == "G major"
    assert [chord.text for chord in moved.chords] == ["D7", "Gmaj7", "Am7", "D7", "G6"]
    assert transposed(moved, Interval(-1, -2)) == line()


def test_checks_find_what_is_wrong() -> None:
    assert check(line()) == ()
    notes = line().notes
    overlapping = replace(line(), notes=(replace(notes[0], duration=Fraction(1)), *notes[1:]))
    assert "one note at a time" in check(overlapping)[0].message
    assert "no chord symbols" in check(replace(line(), chords=()))[0].message
    odd = replace(line(), odd_bars=(OddBar(Fraction(8), Fraction(5)),))
    assert [f.message for f in check(odd)] == ["Bar 3 is 5 quarter notes long, not 4."]


def test_instruments_are_guessed_from_part_names() -> None:
    alto = guess_instrument("Alto Saxophone 1")
    assert alto is not None
    assert alto.transposition_semitones == -9
    assert guess_instrument("Kazoo") is None
    for instrument in INSTRUMENTS:
        assert instrument.lowest + 12 <= instrument.highest


@pytest.mark.parametrize(
    ("bars", "key", "blues", "found"),
    [
        ([("F7", "A4/1"), ("Bb7", "D5/1"), ("F7", "C5/1")], "F major", True, "F major"),
        ([("Fmaj7", "A4/1"), ("Bb7", "D5/1"), ("F6", "C5/1")], "F major", False, "F major"),
        ([("Dm7", "A4/1"), ("A7", "C#5/1"), ("Dm6", "D5/1")], "F major", False, "D minor"),
    ],
)
def test_the_setting_is_read_off_the_chords(bars: list[tuple[str, str]], key: str, blues: bool, found: str) -> None:
    region = with_setting(make_solo(bars, key=key)).keys[0]
    assert (str(region.key), region.blues) == (found, blues)


@pytest.mark.parametrize(("meter", "beats"), [("4/4", 90), ("12/8", 60), ("3/4", 90)])
def test_tempo_is_counted_in_the_beats_of_the_meter(meter: str, beats: int) -> None:
    solo = make_solo([("C7", "r/2.")] if meter == "3/4" else [("C7", "r/1" if meter == "4/4" else "r/1.")], meter=meter)
    assert solo.beats_a_minute is None
    assert replace(solo, tempo=Fraction(90)).beats_a_minute == beats
