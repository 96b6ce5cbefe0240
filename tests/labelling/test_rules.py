"""The rooms of the labeller one by one: tensions, implied chords, confidence, tension, reasons."""

from __future__ import annotations

from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.labelling.figures import FIGURES
from gavotte.labelling.frame import Frame
from gavotte.labelling.labeller import label_solo
from gavotte.labelling.local_scale import local_scale
from gavotte.labelling.tensions import extension_device, is_blue, is_clash, is_tension
from gavotte.solo.document import KeyRegion
from gavotte.solo.school import LINEAR
from gavotte.theory.chord_symbol import parse_chord
from gavotte.theory.key import Key

C_MAJOR = KeyRegion(Fraction(0), Key.parse("C major"))


@pytest.mark.parametrize(("chord", "welcome", "unwelcome"), [
    ("Cmaj7", "9 #11 13", "b9 11 b13 b7"), ("Am7", "9 11", "b9 b13 7"), ("Dm7", "9 11 13", "b9 b13"),
    ("G7", "b9 9 #9 #11 b13 13", "11 7"), ("G7sus4", "b9 9 13 3", "#11 b13"), ("Bm7b5", "9 11 b13", "b9 13"),
    ("Bdim7", "9 11 b13 7", "b9"), ("C", "6 7 9", "11 b7"), ("G", "6 b7 7", "b9"), ("Fm6", "7 9 11", "b9"),
])  # fmt: skip
def test_available_tensions(chord: str, welcome: str, unwelcome: str) -> None:
    parsed = parse_chord(chord)
    scale = local_scale(parsed, None, C_MAJOR)
    assert [d for d in welcome.split() if not is_tension(parsed, d, scale)] == []
    assert [d for d in unwelcome.split() if is_tension(parsed, d, scale)] == []


@pytest.mark.parametrize(("chord", "degree", "clash"), [
    ("Cmaj7", "11", True), ("C7", "11", True), ("C7sus4", "11", False), ("Cm7", "11", False), ("Cm7", "b9", True),
    ("Cm7", "b13", True), ("Cm7b5", "b9", True), ("Cm7b5", "b13", False), ("Cm7", "7", True), ("C7", "7", True),
    ("Cmaj7", "b7", False), ("Cmaj7", "b9", False),
])  # fmt: skip
def test_the_list_of_clashes(chord: str, degree: str, clash: bool) -> None:
    assert is_clash(parse_chord(chord), degree) is clash


def test_devices_of_colours() -> None:
    assert extension_device(parse_chord("G7"), "b9") == "altered"
    assert extension_device(parse_chord("G7sus4"), "b9") == "altered"
    assert extension_device(parse_chord("Cmaj7"), "#11") == "natural"
    assert extension_device(parse_chord("Cm7"), "b9") == "clash"


@pytest.mark.parametrize(("chord", "pitch_class", "blue"), [
    ("Bb7", 1, True), ("Eb7", 4, True), ("F7", 1, False), ("G7", 1, False), ("Cm7", 1, True), ("Eb7", 1, False),
    ("Bb7", 11, False),
])  # fmt: skip
def test_blue_notes_sound_over_all_but_dominants_that_lead_on(chord: str, pitch_class: int, blue: bool) -> None:
    region = KeyRegion(Fraction(0), Key.parse("Bb major"), blues=True)
    assert is_blue(parse_chord(chord), pitch_class, region) is blue
    assert not is_blue(parse_chord(chord), pitch_class, KeyRegion(Fraction(0), Key.parse("Bb major")))


def found(bars: list[tuple[str, str]], **settings: object) -> list[tuple[str, tuple[int, ...], str | None]]:
    frame = Frame(make_solo(bars, **settings))  # type: ignore[arg-type]
    figures = [figure for kind in FIGURES for figure in kind.find(frame, LINEAR, 0, len(frame.notes))]
    chords = [" ".join(dict.fromkeys(figure.spells.values())) or None for figure in figures]
    return [(str(figure.kind), figure.members, chord) for figure, chord in zip(figures, chords, strict=True)]


def test_upper_structures_need_a_complete_chord_and_leaps() -> None:
    assert ("upper structure", (0, 1, 2, 3), "Em7b5") in found([("C7", "E4/8 G4 Bb4 D5 C5/2")])
    assert found([("Cmaj7", "E4/8 G4 B4 C5 r/2")]) == []
    assert all(name != "upper structure" for name, _, _ in found([("Cmaj7", "G4/8 A4 B4 D5 r/2")]))


def test_the_diminished_seventh_on_a_dominant_is_named_by_the_third() -> None:
    figures = found([("G7b9", "Ab4/8 F4 D4 B3 r/2"), ("Cm", "C4/1")])
    assert figures[0] == ("upper structure", (0, 1, 2, 3), "Bdim7")


def test_one_foreign_note_makes_no_other_chord() -> None:
    assert all(name != "implied run" for name, _, _ in found([("Fmaj7", "A4/8 C5 Eb5 C5 A4 F4 r/4")]))


def test_a_blues_run_is_neither_run_nor_structure() -> None:
    line = [("F7", "Bb4/8 Db5 F5 Ab5 Bb5/2")]
    assert found(line, key="Bb major", blues=True) == []
    assert found(line, key="Bb major") != []


def test_enclosures_take_the_longest_foreign_figure() -> None:
    assert found([("Cmaj7", "G5/2 D5/8 F5 D#5 E5")]) == [("enclosure", (1, 2, 3), None)]
    assert found([("Cmaj7", "G5/2 G5/8 F5 D#5 E5")]) == [("enclosure", (2, 3), None)]


def test_rests_and_held_notes_break_enclosures() -> None:
    assert [n for n, _, _ in found([("Cmaj7", "G5/2 F5/8 D#5 E5/4")])] == ["enclosure"]
    assert found([("Cmaj7", "G5/2 F5/8 r E5/4")]) == []
    assert found([("Cmaj7", "G5/4 F5/4 D#5/8 r E5/4")]) == []


def test_tension_weighs_bite_accent_and_length() -> None:
    def tension(notes: str, index: int) -> float:
        return label_solo(make_solo([("Cmaj7", notes)]))[index].tension

    assert tension("C5/4 E5 G5 E5", 0) == 0
    mild, biting = tension("C5/8 D5 G5 E5 r/2", 1), tension("C5/8 F5 B5 E5 r/2", 1)
    assert 0 < mild < biting
    assert tension("F5/4 C5 E5 G5", 0) > tension("C5/8 F5 C5/4 E5/4 G5/4", 1)


@pytest.mark.parametrize(("bars", "index", "words"), [
    ([("G7", "D5/2. r/8 C5/8~"), ("Cmaj7", "C5/1")], 1, ["comes early", "root of CΔ7"]),
    ([("Cmaj7", "C5/8 F5 D#5 E5 r/2")], 1, ["closes in on E", "3rd of CΔ7"]),
    ([("Cmaj7", "G4/8 D5 D#5 E5 r/2")], 1, ["two half steps from below", "E"]),
    ([("Cmaj7", "E4/4 G4/4 Bb4/4 G4/4")], 2, ["neither in CΔ7", "listen again"]),
    ([("Cmaj7", "E4/4 G4/4 F5/2")], 2, ["rubs", "11"]),
    ([("Dm7", "D5/8 E5 D5 A4 r/2")], 1, ["steps away from D", "back"]),
    ([("Dm7", "A4/8 E5 D5 A4 r/2")], 1, ["leapt to", "resolves by step into D"]),
    ([("G7", "B4/8 Ab4 F4 D4 r/2")], 1, ["belongs to B°7", "♭9 of G7"]),
    ([("G7", "D4/8 Bb4 G4 D4 r/2")], 1, ["altered colour", "♯9 of G7"]),
    ([("Dm7", "F4/8 A4 C5 E5 D5/2")], 3, ["belongs to FΔ7", "spelled out over Dm7", "the 9 of Dm7"]),
    ([("Dm7", "D5/8 C5 A4 F4 Bb4 Db5 Eb5 Gb5"), ("Dm7", "F5/1")], 4, ["E♭m7", "laid over Dm7"]),
])  # fmt: skip
def test_reasons_say_what_the_label_says(bars: list[tuple[str, str]], index: int, words: list[str]) -> None:
    reason = label_solo(make_solo(bars))[index].reason
    for word in words:
        assert word in reason
