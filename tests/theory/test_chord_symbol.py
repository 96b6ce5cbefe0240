import csv

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import DATA

from gavotte.theory.chord import DEGREE_SEMITONES, TENSIONS, Chord, NoChord, RepeatChord
from gavotte.theory.chord_symbol import (
    ChordSymbolError,
    chord_display,
    parse_chord,
    parse_chord_symbol,
    shown_chord,
    write_chord_symbol,
)
from gavotte.theory.interval import Interval
from gavotte.theory.pitch import LETTERS, PitchName

with (DATA / "chord_symbols.tsv").open(encoding="utf-8") as table:
    SYMBOLS = list(csv.DictReader(table, delimiter="\t"))


@pytest.mark.parametrize("row", SYMBOLS, ids=lambda row: row["symbol"])
def test_everyday_spellings(row: dict[str, str]) -> None:
    symbol = parse_chord_symbol(row["symbol"])
    if row["symbol"] in ("N.C.", "NC"):
        assert symbol == NoChord()
        return
    if row["symbol"] == "%":
        assert symbol == RepeatChord()
        return
    assert isinstance(symbol, Chord)
    required, allowed = set(row["required_degrees"].split()), set(row["allowed_degrees"].split())
    assert str(symbol.root) == row["root"]
    assert str(symbol.bass or "") == row["bass"]
    assert required <= set(symbol.degrees) <= required | allowed
    sounding = {(symbol.root.pitch_class + DEGREE_SEMITONES[d]) % 12 for d in symbol.degrees}
    pitch_classes = {int(pc) for pc in row["required_pcs"].split()}
    assert pitch_classes <= sounding <= pitch_classes | {int(pc) for pc in row["allowed_pcs"].split()}
    assert parse_chord_symbol(write_chord_symbol(symbol)) == symbol


@pytest.mark.parametrize(
    ("text", "normal"),
    [
        ("C7+5", "C7#5"),
        ("C9+5", "C9#5"),
        ("CM7+5", "Cmaj7#5"),
        ("Cm+5", "Cm#5"),
        ("Cm7+", "Cm7#5"),
        ("C+9", "C9#5"),
        ("C7+9", "C7#9"),
        ("C7-9", "C7b9"),
        ("C2", "C(add9)"),
        ("Co(maj7)", "Cdim(maj7)"),
        ("Bb∆9/D", "Bbmaj9/D"),
        ("F#-7b5", "F#m7b5"),
        (" Gm7 ", "Gm7"),
        ("Cma7", "Cmaj7"),
        ("Cj7", "Cmaj7"),
        ("E♭j9", "Ebmaj9"),
        ("F#j7#11/A#", "F#maj7#11/A#"),
        ("C-j7", "Cm(maj7)"),
        ("Cmadd9", "Cm(add9)"),
        ("G7(♭9 ♯11 13)", "G13(b9,#11)"),
    ],
)
def test_normal_form(text: str, normal: str) -> None:
    assert write_chord_symbol(parse_chord(text)) == normal


@pytest.mark.parametrize(
    ("text", "position"),
    [
        ("Hm7", 0),
        ("C7##", 2),
        ("", 0),
        ("Cfoo", 1),
        ("C/", 1),
        ("c7", 0),
        ("C7b", 2),
        ("Cm7-", 3),
        ("C7(b8)", 3),
        ("  Hm7", 2),
    ],
)
def test_errors_say_where(text: str, position: int) -> None:
    with pytest.raises(ChordSymbolError) as caught:
        parse_chord_symbol(text)
    assert caught.value.position == position
    assert str(position + 1) in str(caught.value)


roots = st.builds(PitchName, st.sampled_from(LETTERS), st.integers(-1, 1))


@st.composite
def chords(draw: st.DrawFn) -> Chord:
    """Chords that a symbol can mean."""
    bass = draw(st.none() | roots)
    if draw(st.integers(0, 9)) == 0:
        return Chord(draw(roots), fifth="", seventh="b7", altered=True, bass=bass)
    third = draw(st.sampled_from(["3", "b3", "4", "2"]))
    seventh = draw(st.sampled_from(["", "b7", "7"]))
    fifth = draw(st.sampled_from(["5", "5", "b5", "#5"]))
    tensions = draw(st.sets(st.sampled_from(TENSIONS), max_size=3))
    if "9" in tensions:
        tensions -= {"b9", "#9"}
    tensions -= {"11"} if "#11" in tensions else set()
    tensions -= {"13"} if "b13" in tensions else set()
    # A lowered fifth and a sharp eleventh, or a raised fifth and a flat thirteenth, are one sound.
    tensions -= {"#11"} if fifth == "b5" else {"b13"} if fifth == "#5" else set()
    sixth = not seventh and "13" not in tensions and draw(st.booleans())
    if third == "3" and seventh == "b7" and {"9", "11"} <= tensions and "13" not in tensions:
        tensions -= {"11"}
    return Chord(draw(roots), third, fifth, seventh, sixth, tuple(t for t in TENSIONS if t in tensions), bass=bass)


@given(chords())
def test_parsing_what_was_written_gives_the_chord(chord: Chord) -> None:
    assert parse_chord_symbol(write_chord_symbol(chord)) == chord


@given(chords(), st.sampled_from([Interval(2, 3), Interval(4, 7), Interval(-1, -2), Interval(3, 5)]))
def test_transposing_moves_every_tone(chord: Chord, interval: Interval) -> None:
    moved = chord.transposed(interval)
    assert moved.tone_classes == {(pc + interval.semitones) % 12 for pc in chord.tone_classes}
    assert moved.transposed(-interval) == chord


@given(chords(), st.integers(0, 11))
def test_degrees_sound_as_they_say(chord: Chord, pitch_class: int) -> None:
    degree = chord.degree_of(pitch_class)
    assert (chord.root.pitch_class + DEGREE_SEMITONES[degree]) % 12 == pitch_class
    assert chord.name_of(degree).pitch_class == pitch_class


@pytest.mark.parametrize(
    ("symbol", "pitch_class", "degree"),
    [
        ("Cm7", 3, "b3"),
        ("C7", 3, "#9"),
        ("C7sus", 5, "4"),
        ("C7", 5, "11"),
        ("Cm7b5", 6, "b5"),
        ("C7", 6, "#11"),
        ("C7#5", 8, "#5"),
        ("C7", 8, "b13"),
        ("Cdim7", 9, "bb7"),
        ("C6", 9, "6"),
        ("C", 9, "6"),
        ("C7", 9, "13"),
        ("Csus2", 2, "2"),
        ("C7", 2, "9"),
        ("C7alt", 8, "b13"),
    ],
)
def test_degree_names(symbol: str, pitch_class: int, degree: str) -> None:
    assert parse_chord(symbol).degree_of(pitch_class) == degree


@pytest.mark.parametrize(("symbol", "read"), [("Bb/C", "C9sus4"), ("Gm7/C", "C9sus4"), ("C/E", "C/E"), ("D/C", "D/C")])
def test_slash_chords_that_spell_a_suspension(symbol: str, read: str) -> None:
    assert write_chord_symbol(parse_chord(symbol).as_read) == read


def test_display_raises_what_belongs_up() -> None:
    assert chord_display(parse_chord("Ebm7")) == ("E♭", "m", "7", "")
    assert chord_display(parse_chord("Bm7b5")) == ("B", "", "ø7", "")
    assert chord_display(parse_chord("F#dim7")) == ("F♯", "", "°7", "")
    assert shown_chord(parse_chord("G7(b9,#11)")) == "G7(♭9 ♯11)"
    assert shown_chord(parse_chord("Cmaj7/E")) == "CΔ7/E"
