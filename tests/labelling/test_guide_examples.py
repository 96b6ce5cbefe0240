"""Short lines with agreed labels: each shows one rule."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.labelling.labeller import label_solo
from gavotte.solo.label import Label


def labels(bars: list[tuple[str, str]], **settings: object) -> list[str]:
    return [f"{label.degree} {label.function}/{label.device}" for label in labelled(bars, **settings)]


def labelled(bars: list[tuple[str, str]], **settings: object) -> tuple[Label, ...]:
    return label_solo(make_solo(bars, **settings))  # type: ignore[arg-type]


def test_scale_steps_between_chord_tones_pass() -> None:
    found = labelled([("Dm7", "D5/8 E5 F5 G5 A5/2")])
    assert [label.function for label in found] == ["chord", "passing", "chord", "passing", "chord"]
    assert [label.target for label in found] == [None, "n2", None, "n4", None]


def test_arpeggio_over_the_chord_is_an_upper_structure() -> None:
    found = labelled([("Dm7", "F4/8 A4 C5 E5 D5/2")])
    assert (found[3].function, found[3].device, found[3].implied) == ("extension", "natural", "Fmaj7")
    assert len({label.group for label in found[:4]}) == 1
    assert found[0].group is not None


def test_half_step_away_and_back() -> None:
    assert labels([("Fmaj7", "A4/8 G#4 A4 C5 A4/2")], key="F major")[1] == "#9 approach/chromatic-neighbour"


def test_chromatic_run_leads_to_its_last_chord_tone() -> None:
    found = labelled([("Bbm7", "F5/4 C5/4 Bb4/4 A4/8 Ab4"), ("Eb7", "G4/1")], key="Ab major")
    assert [(label.function, label.device, label.target) for label in found[2:]] == [
        ("chord", "plain", None),
        ("approach", "chromatic-passing", "n5"),
        ("chord", "plain", None),
        ("chord", "plain", None),
    ]


@pytest.mark.parametrize(
    ("bars", "index", "label"),
    [
        ([("G7", "B4/8 Ab4 F4 D4 r/2")], 1, "b9 extension/altered"),
        ([("D7", "r/8 F#4 Eb4 D4 r/2"), ("Gm7", "D4/1")], 1, "b9 passing/passing"),
        ([("Cmaj7", "C5/8 D5 D#5 E5 r/2")], 1, "9 passing/passing"),
        ([("Cmaj7", "C5/8 D5 D#5 E5 r/2")], 2, "#9 approach/chromatic-passing"),
        ([("Cmaj7", "G4/8 D5 D#5 E5 r/2")], 1, "9 approach/double-below"),
        ([("Cmaj7", "G4/8 D5 D#5 E5 r/2")], 2, "#9 approach/double-below"),
        ([("Cmaj7", "C5/8 F5 D#5 E5 r/2")], 1, "11 approach/enclosure"),
        ([("Cmaj7", "C5/8 F5 D#5 E5 r/2")], 2, "#9 approach/enclosure"),
        ([("G7", "r/2 r/8 D5/8 F#5 Eb5"), ("Cmaj7", "E5/1")], 1, "7 approach/enclosure"),
        ([("Dm7", "r/2 r/4 A4/8 C5"), ("G7", "B4/1")], 1, "b7 chord/plain"),
        ([("G7", "D5/2 E5/4 C5/8 B4"), ("Cmaj7", "C5/1")], 2, "11 passing/step"),
        ([("G7", "D5/2. r/8 C5/8~"), ("Cmaj7", "C5/1")], 1, "1 chord/anticipation"),
        ([("G7alt", "Ab4/8 Bb4 Db5 Eb5 r/2")], 1, "#9 extension/altered"),
        ([("C7", "G4/4 Bb4/4 A4/8 Bb4/8 G4/4")], 2, "13 passing/neighbour"),
        ([("Cmaj7", "E4/4 G4/4 Bb4/4 G4/4")], 2, "b7 outside/unexplained"),
        ([("Cmaj7", "E4/4 G4/4 F5/2")], 2, "11 extension/clash"),
        ([("Am6", "E5/2 r/4 A4/4"), ("Am6", "C5/1")], 0, "5 chord/plain"),
        ([("Bb/C", "F4/4 Bb4/4 E5/2")], 1, "b7 chord/plain"),
        ([("Gm7/C", "D5/8 C5 E5/4 r/2")], 2, "3 extension/natural"),
    ],
)
def test_single_labels(bars: list[tuple[str, str]], index: int, label: str) -> None:
    assert labels(bars)[index] == label


def test_an_accented_leaning_note_resolves_by_step() -> None:
    assert labels([("Dm7", "A4/2 r/2"), ("G7", "E5/4 D5/4 B4/2")])[1] == "13 passing/step"


def test_a_tone_struck_again_is_carried() -> None:
    found = labels([("E7", "B4/8 D5 F5 G#4 r/2"), ("E7", "r/2 G#4/2"), ("Am6", "G#4/8 A4 C5 E5 r/2")], key="A minor")
    assert found[5] == "7 chord/carried"


def test_blue_notes_belong_to_the_key() -> None:
    bars = [("Bb7", "F5/8 Db5 Bb4 Ab4 r/2")]
    assert labels(bars, key="Bb major", blues=True)[1] == "#9 extension/blue"
    assert labels(bars, key="Bb major")[1] == "#9 extension/altered"


def test_a_side_slip_names_the_chord_it_spells() -> None:
    found = labelled([("Dm7", "D5/8 C5 A4 F4 Bb4 Db5 Eb5 Gb5"), ("Dm7", "F5/1")], key="D minor", mode="dorian")
    assert [(label.function, label.implied) for label in found[4:8]] == [("outside", "Ebm7")] * 4


def test_thirteen_beside_flat_thirteen_is_another_chord() -> None:
    found = labelled([("F7", "r/2 F#4/8 A4 D5 C#5"), ("Bbmaj7", "F5/1")], key="Bb major")
    assert [label.device for label in found[:4]] == ["implied", "plain", "implied", "implied"]
    assert found[0].implied == "Dmaj7"


def test_a_note_held_over_a_change_says_what_it_becomes() -> None:
    found = labelled([("Dm7 G7", "F4/4 A4/4~ A4/2")])
    assert [(s.chord, s.degree) for s in found[1].sustained] == [("G7", "9")]


def test_without_chords_notes_are_read_against_home() -> None:
    solo_labels = labelled([("", "G4/4 A4 B4 C5")])
    assert [label.degree for label in solo_labels] == ["5", "6", "7", "1"]
    assert solo_labels[0].reason == "G on beat 1 is the 5th of C major, a note to rest on."
    silent = labelled([("C", "E4/4 G4 E4 G4"), ("N.C.", "G4/4 A4 B4 C5")])
    assert silent[4].reason.startswith("No chord is written here; G on beat 1 is the 5th of C major")
    bare = replace(make_solo([("C", "C5/8 D5 E5 F5 G5 Bb4 A4 F#4"), ("C", "G4/4 Eb5 E5 B4")], key="C major"), chords=())
    named = label_solo(bare)
    assert [label.shown_degree for label in named] == ["1", "2", "3", "4", "5", "♭7", "6", "♭5", "5", "♭3", "3", "7"]
    assert "the tonic of C major" in named[0].reason
    assert "E, the 3rd of C major" in named[1].reason
    unexplained = next(label for label in named if label.device == "unexplained")
    assert "is the ♭7, not in C major" in unexplained.reason
    blues = replace(bare, keys=(replace(bare.keys[0], blues=True),))
    assert any("of C blues" in label.reason for label in label_solo(blues))


def test_strong_beats_follow_the_grouping() -> None:
    line = [("Dm7", "r/4 r/4 r/4 E5/4 D5/4")]
    assert labels(line, meter="5/4", grouping="3+2")[0] == "9 passing/step"
    assert labels(line, meter="5/4", grouping="2+3")[0] == "9 extension/natural"


def test_reasons_name_pitch_place_and_goal() -> None:
    found = labelled([("Ebmaj7", "Bb4/4 F#4/8 G4/8 r/2")], key="Eb major")
    assert found[1].reason == "F♯ on beat 2 slides up a half step into G, the 3rd of E♭Δ7."


def test_empty_solos_have_no_labels() -> None:
    assert label_solo(make_solo([("C", "r/1")], pickup=Fraction(0))) == ()


ALTERED, CHORD, NATURAL = "extension/altered", "chord/plain", "extension/natural"
ENCLOSURE = "approach/enclosure"


@pytest.mark.parametrize(("bars", "settings", "expected"), [
    ([("Dm7", "F4/8 A4 C5 E5 r/2")], {}, [CHORD, CHORD, CHORD, NATURAL]),
    ([("G7", "B4/8 A4 Ab4 G4 r/2")], {}, [CHORD, "passing/passing", "approach/chromatic-passing", CHORD]),
    ([("Bbm7", "r/2 r/8 Bb4/8 A4 Ab4"), ("Eb7", "G4/1")], {"key": "Ab major"},
     [CHORD, "approach/chromatic-passing", CHORD, CHORD]),
    ([("G7", "r/2 r/8 D5/8 F#5 Eb5"), ("Cmaj7", "E5/1")], {}, [CHORD, ENCLOSURE, ENCLOSURE, CHORD]),
    ([("G7alt", "Ab4/8 Bb4 Db5 Eb5 r/2")], {}, [ALTERED] * 4),
    ([("D7", "A4/8 C5 E5 G5 r/2")], {}, [CHORD, CHORD, NATURAL, NATURAL]),
    ([("Bb7", "F5/8 Db5 Bb4 Ab4 r/2")], {"key": "Bb major", "blues": True}, [CHORD, "extension/blue", CHORD, CHORD]),
    ([("F7", "C5/8 Bb4 A4 r r/2")], {"key": "C major", "blues": True}, [CHORD, "passing/passing", CHORD]),
    ([("F7", "r/2 F#4/8 A4 D5 C#5"), ("Bbmaj7", "F5/1")], {"key": "Bb major"},
     ["outside/implied", CHORD, "outside/implied", "outside/implied", CHORD]),
])  # fmt: skip
def test_lines_of_the_reference(bars: list[tuple[str, str]], settings: dict[str, object], expected: list[str]) -> None:
    assert [f"{label.function}/{label.device}" for label in labelled(bars, **settings)] == expected


def test_a_long_chromatic_note_still_leads_by_half_step() -> None:
    assert labels([("Fmaj7", "C5/4 G#4/2 A4/4")], key="F major")[1] == "#9 approach/chromatic-below"
