"""Keys heard from chords, numerals, what progressions are called, chords inferred. All progressions are our own."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.harmony.changes import changes_of
from gavotte.harmony.foreignness import foreignness
from gavotte.harmony.ground import ground_of, with_key_heard
from gavotte.harmony.inferring import with_inferred_chords
from gavotte.harmony.keys import hear_keys
from gavotte.harmony.numerals import numeral
from gavotte.harmony.progressions import blues_choruses, progressions_of, summary
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed
from gavotte.theory.chord_symbol import parse_chord
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key


def tune(chords: str, key: str = "C major", **settings: object) -> Solo:
    """A solo of one note a bar over bars of chords parted by bars."""
    bars = [(bar.strip(), "C5/1") for bar in chords.split("|")]
    return make_solo(bars, key=key, **settings)  # type: ignore[arg-type]


@pytest.mark.parametrize(("chord", "key", "name"), [
    ("Dm7", "C major", "ii"), ("G7", "C major", "V"), ("Cmaj7", "C major", "I"), ("A7", "C major", "VI7"),
    ("Bb7", "C major", "♭VII7"), ("C#dim7", "C major", "♯i°"), ("F#dim7", "C major", "♯iv°"),
    ("Bm7b5", "C major", "viiø"),
    ("Fm6", "C major", "iv"), ("G7sus4", "C major", "Vsus"), ("Cm7", "C minor", "i"), ("Dm7b5", "C minor", "iiø"),
    ("Abmaj7", "C minor", "♭VI"), ("Ebm7", "Db major", "ii"), ("B7", "E major", "V"),
])  # fmt: skip
def test_numerals(chord: str, key: str, name: str) -> None:
    assert numeral(parse_chord(chord), Key.parse(key)) == name


@pytest.mark.parametrize(("chords", "key", "names"), [
    ("Dm7 | G7 | Cmaj7", "C major", ["ii-V-I"]),
    ("Dm7b5 | G7 | Cm6", "C minor", ["minor ii-V-i"]),
    ("Cmaj7 | Gm7 C7 | Fmaj7", "C major", ["home", "ii-V to IV", "IV"]),
    ("Cmaj7 A7 | Dm7 G7 | Cmaj7", "C major", ["turnaround", "home"]),
    ("Em7 A7 | Dm7 G7", "C major", ["turnaround"]),
    ("Fm7 Bb7 | Cmaj7", "C major", ["home by the back door"]),
    ("Fm7 Bb7 | Em7 | A7", "C major", ["the back door to iii", "ii-V of II, left open"]),
    ("Dm7 Db7 | Cmaj7", "C major", ["home by a tritone substitute"]),
    ("E7 | A7 | D7 | G7", "C major", ["cycle of dominants"]),
    ("Cm | Cm(maj7) | Cm7 | Cm6", "C minor", ["line cliché on i"]),
    ("Dm7 | Dm7 | Dm7 | Dm7", "C major", ["vamp on ii"]),
    ("C7 | F7 | C7 | F7 | C7", "C major", ["vamp on I7 and IV7"]),
    ("Cmaj7 C#dim7 | Dm7 | G7 | C", "C major", ["turnaround", "home"]),
    ("Gm7 G#dim7 | Am7", "F major", ["ii", "diminished, leading up to iii", "iii"]),
    ("A7 | Dm7 | G7 | Cmaj7", "C major", ["V of ii", "ii-V-I"]),
    ("F#m7 B7 | Bbm7 Eb7", "C major", ["ii-V sliding down to ♭vii", "ii-V of ♭VI, left open"]),
])  # fmt: skip
def test_what_chords_do_together(chords: str, key: str, names: list[str]) -> None:
    assert [progression.name for progression in progressions_of(ground_of(tune(chords, key)))] == names


TUNES = ["Dm7 | G7 | Cmaj7", "Cmaj7 A7 | Dm7 G7 | Fm7 Bb7 | Cmaj7", "E7 | A7 | D7 | G7"]


@given(st.sampled_from(TUNES), st.integers(0, 11))
def test_a_progression_is_called_the_same_in_every_key(chords: str, semitones: int) -> None:
    names = ((0, 0), (1, 1), (1, 2), (2, 3), (2, 4), (3, 5), (3, 6), (-3, -5), (-2, -4), (-2, -3), (-1, -2), (-1, -1))
    solo = tune(chords)
    moved = transposed(solo, Interval(*names[semitones]))
    assert summary(ground_of(moved)) == summary(ground_of(solo))
    after, before = ground_of(moved).numbered, ground_of(solo).numbered
    assert [entry.numeral for entry in after] == [entry.numeral for entry in before]


BLUES = "C7 | F7 | C7 | Gm7 C7 | F7 | F#dim7 | C7 | Em7 A7 | Dm7 | G7 | C7 A7 | Dm7 G7"


def test_the_form_of_a_blues_is_recognised() -> None:
    once, twice = tune(BLUES, blues=True), tune(f"{BLUES} | {BLUES}", blues=True)
    assert blues_choruses(ground_of(once)) == ((Fraction(0), Fraction(48)),)
    assert len(blues_choruses(ground_of(twice))) == 2
    assert summary(ground_of(twice)).startswith("twelve-bar blues, 2 choruses; ")
    none = tune("Cmaj7 | Fmaj7 | Cmaj7 | C7 | Fmaj7 | Fm6 | Em7 | A7 | D7 | D7 | G7 | G7")
    assert blues_choruses(ground_of(none)) == ()


def test_a_stretch_that_cadences_and_rests_elsewhere_is_a_key_of_its_own() -> None:
    home = "Dm7 | G7 | Cmaj7 | Cmaj7"
    away = "Bbm7 | Eb7 | Abmaj7 | Abmaj7 | Bbm7 | Eb7 | Abmaj7 | Abmaj7"
    keys = ground_of(tune(f"{home} | {away} | {home}")).keys
    assert [key.key.shown for key in keys] == ["C major", "A♭ major", "C major"]
    assert (keys[1].onset, keys[1].end) == (16, 48)
    shown = [entry.shown for entry in ground_of(tune(f"{home} | {away} | {home}")).numbered]
    assert (shown[0], shown[1], shown[3], shown[4]) == ("C: ii", "V", "A♭: ii", "V")
    assert "cadence into A♭ major" in keys[1].why


@pytest.mark.parametrize("chords", [
    "Cmaj7 | Gm7 C7 | Fmaj7 | Fm7 Bb7 | Cmaj7 | A7 | Dm7 | G7", BLUES, "Dm7 | Dm7 | Ebm7 | Ebm7 | Dm7 | Dm7",
    "Cmaj7 | E7 | A7 | D7 | G7 | Cmaj7", "Cmaj7 | C#dim7 | Dm7 | D#dim7 | Em7 | A7 | Dm7 | G7",
])  # fmt: skip
def test_tonicisations_are_no_keys_of_their_own(chords: str) -> None:
    assert len(ground_of(tune(chords)).keys) == 1


def test_keys_set_by_hand_stand_and_those_about_them_stay() -> None:
    solo = tune("Cmaj7 | Fm7 | Bb7 | Ebmaj7 | Dm7 | G7 | Cmaj7 | Cmaj7")
    changed = with_key_heard(solo, Fraction(4), Fraction(16), Key.parse("Eb major"))
    assert [(key.onset, key.key.shown) for key in ground_of(changed).keys] == [
        (0, "C major"), (4, "E♭ major"), (16, "C major"),
    ]  # fmt: skip
    assert changed.keys == solo.keys, "the signature stays"
    assert [entry.numeral for entry in ground_of(changed).numbered][1:4] == ["ii", "V", "I"]
    assert ground_of(changed).keys_from_chords == ground_of(solo).keys
    again = with_key_heard(changed, Fraction(4), Fraction(16), Key.parse("C major"))
    assert [key.key.shown for key in ground_of(again).keys] == ["C major"]


def test_how_foreign_a_chord_is() -> None:
    weights = [foreignness(parse_chord(chord), 0, False) for chord in ("Dm7", "A7", "Fm6", "F#m7")]
    assert weights == sorted(weights)
    assert (weights[0], weights[-1]) == (0.0, 1.0)


def test_of_two_chords_at_one_place_the_second_counts() -> None:
    solo = tune("C | G7")
    doubled = replace(solo, chords=(replace(solo.chords[0], id="x", text="Am7"), *solo.chords))
    assert [change.chord for change in changes_of(doubled)] == [change.chord for change in changes_of(solo)]


@pytest.mark.parametrize(("key", "notes", "expected"), [
    ("C major", ["D5/4 F5 A5 C6", "B4/4 D5 F5 G5", "C5/4 E5 G5 E5"], ["Dm7", "G7", "Cmaj7"]),
    ("A minor", ["A4/4 C5 E5 A5", "D5/4 F5 A5 F5", "E5/4 G#5 B5 D6"], ["Am7", "Dm7", "E7"]),
])  # fmt: skip
def test_chords_are_inferred_from_the_notes(key: str, notes: list[str], expected: list[str]) -> None:
    solo = replace(make_solo([("C", bar) for bar in notes], key=key), chords=())
    assert [chord.text for chord in with_inferred_chords(solo).chords] == expected


CHORDS = st.lists(
    st.sampled_from(["Dm7", "G7", "Cmaj7", "Fm7", "Bb7", "Ebmaj7", "Am7b5", "D7", "Gm6", "N.C."]),
    min_size=3,
    max_size=12,
)


@given(CHORDS, CHORDS, st.integers(0, 12))
def test_keys_are_heard_alike_whatever_was_heard_before(first: list[str], other: list[str], kept: int) -> None:
    edited = tune(" | ".join([*first[:kept], *other]))
    # What an edit leaves before it is not heard anew.
    hear_keys(tune(" | ".join(first)), changes_of(tune(" | ".join(first))))
    after_it = hear_keys(edited, changes_of(edited))
    for key in ("F major", "A minor"):
        hear_keys(tune("Dm7 | G7 | Cmaj7", key), changes_of(tune("Dm7 | G7 | Cmaj7", key)))
    assert hear_keys(edited, changes_of(edited)) == after_it
