"""Where chords are at home whatever the signature says. All progressions are our own or as old as the music."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.harmony.ground import ground_of
from gavotte.labelling.answers import as_blues
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import KeyRegion, Solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key


def tune(chords: str, key: str = "C major", mode: str = "", blues: bool = False) -> Solo:
    return make_solo([(chord.strip(), "r/1") for chord in chords.split("|")], key=key, mode=mode, blues=blues)


def heard(solo: Solo) -> list[str]:
    """The keys heard, a blues marked as one."""
    return [key.key.shown + (" blues" if key.blues else "") for key in ground_of(solo).keys]


MINOR_BLUES = "Cm7 | Cm7 | Cm7 | Cm7 | Fm7 | Fm7 | Cm7 | Cm7 | Ab7 | G7 | Cm7 | G7"


@pytest.mark.parametrize(
    ("chords", "key", "expected"),
    [
        ("Em7 | A7 | Dmaj7", "C major", "D major"),
        ("Em7 | A7 | Dmaj7", "Ab major", "D major"),
        ("Gm7b5 | C7 | Fm6", "E major", "F minor"),
        ("Abmaj7 | Db | Eb7 | Ab6", "C major", "A♭ major"),
        ("Cmaj7 | Am7 | D7 | G7", "E major", "C major"),
        ("G7 | C7 | G7", "C major", "G major blues"),
        ("G7 | C7 | G7", "G major", "G major blues"),
        ("Cm7 | F7 | Bb7", "C major", "B♭ major blues"),
        ("C7 | F7 | Bb7 | F7", "F major", "F major blues"),
        ("Ab7 | G7 | Cm7", "C minor", "C minor blues"),
        ("Cm7 | Fm7 | Cm7", "C major", "C minor blues"),
        (MINOR_BLUES, "Eb major", "C minor blues"),
        (MINOR_BLUES, "C major", "C minor blues"),
        ("F7 | Bb7 | F7 | F7 | Bb7 | Bdim7 | F7 | D7 | Gm7 | C7 | F7 | C7", "F major", "F major blues"),
    ],
)
def test_the_chords_outvote_the_signature(chords: str, key: str, expected: str) -> None:
    assert heard(tune(chords, key)) == [expected]
    assert ground_of(tune(chords, key)).keys[0].why


@pytest.mark.parametrize(
    ("chords", "key", "mode"),
    [
        ("Em7 | A7 | Dmaj7", "D major", ""),
        ("F7 | Cmaj7 | Am7 | D7 | G7", "C major", ""),
        ("Am7 | Dm7 | E7 | Am7", "A minor", ""),
        ("Cmaj7 | Am7 | D7 | G7", "C major", ""),
        ("E7 | A7 | D7 | G7", "C major", ""),
        ("D7 | G7 | C7 | F7 | Bbmaj7", "Bb major", ""),
        ("Cm7 | F7 | Bb7 | Ebmaj7", "Eb major", ""),
        ("Gm7 | C7 | Gm7", "G minor", "dorian"),
        ("G7 | F7 | G7", "G major", "mixolydian"),
        ("Dm7 | Dm7 | Ebm7 | Ebm7 | Dm7 | Dm7", "C major", ""),
        ("Bbmaj7 | Ebmaj7", "C major", ""),
        ("Cm7 | Fm7 | Bb7 | Cm7", "C minor", ""),
    ],
)
def test_a_signature_that_fits_stands(chords: str, key: str, mode: str) -> None:
    solo = tune(chords, key, mode)
    assert [(found.key, found.blues) for found in ground_of(solo).keys] == [(solo.keys[0].key, False)]


@pytest.mark.parametrize("semitones", [1, 3, 6])
def test_homes_move_with_the_music(semitones: int) -> None:
    steps = {1: 1, 3: 2, 6: 3}[semitones]
    for chords in ("Em7 | A7 | Dmaj7", "G7 | C7 | G7", "Ab7 | G7 | Cm7"):
        solo = tune(chords)
        moved = ground_of(transposed(solo, Interval(steps, semitones))).keys[0]
        before = ground_of(solo).keys[0]
        assert (moved.key.tonic.pitch_class - before.key.tonic.pitch_class) % 12 == semitones
        assert (moved.key.mode, moved.blues) == (before.key.mode, before.blues)


def test_a_local_minor_key_is_heard_in_its_relative_major() -> None:
    home = "Fm7 | Bb7 | Ebmaj7 | Ebmaj7"
    away = "Dm7b5 | G7 | Cm7 | Cm7"
    assert heard(tune(f"{home} | {away} | {home}", "Eb major")) == ["E♭ major", "C minor", "E♭ major"]
    assert heard(tune(f"{home} | Dm7b5 G7 | Cm7 | Fm7 | Bb7 | {home}", "Eb major")) == ["E♭ major"]


def test_a_local_minor_key_brings_its_raised_tones() -> None:
    bars = [(chord, "Eb5/1") for chord in ("Fm7", "Bb7", "Ebmaj7", "Ebmaj7", "Dm7b5", "G7", "Cm7")]
    solo = make_solo([*bars, ("Cm7", "C5/8 B4 A4 G4 Eb4/2")], key="Eb major")
    assert [label.device for label in label_solo(solo)[-5:]] == ["plain", "passing", "passing", "plain", "plain"]


def test_a_vamp_is_heard_in_its_own_signature_whatever_comes_after() -> None:
    vamp, tune_ = tune("Em7 | Em7 | Em7 | Em7", "E minor", "dorian"), tune("Cm7 | F7 | Bbmaj7 | Bbmaj7", "Bb major")
    both = replace(
        vamp,
        keys=(*vamp.keys, replace(tune_.keys[0], onset=Fraction(16))),
        chords=(*vamp.chords, *(replace(c, id=f"x{c.id}", onset=c.onset + 16) for c in tune_.chords)),
        form_end=Fraction(32),
    )
    assert heard(both) == ["E dorian", "B♭ major"]


def test_what_its_user_set_stands() -> None:
    solo = replace(tune("G7 | C7 | G7"), heard_keys=(KeyRegion(Fraction(0), Key.parse("C major"), False),))
    assert heard(solo) == ["C major"]


def test_a_heard_blues_is_written_down_or_heard_as_none() -> None:
    here, elsewhere = tune("G7 | C7 | G7", "G major"), tune("G7 | C7 | G7", "C major")
    taken = as_blues(here, True)
    assert taken.keys[0].blues
    assert heard(taken) == ["G major blues"]
    kept = as_blues(elsewhere, True)
    assert kept.keys == elsewhere.keys, "the signature stays"
    assert heard(kept) == ["G major blues"]
    assert heard(as_blues(here, False)) == ["G major"]
