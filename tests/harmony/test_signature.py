from __future__ import annotations

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.harmony.ground import ground_of
from gavotte.harmony.signature import contradicted
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval


def tune(chords: str, key: str = "C major", blues: bool = False) -> Solo:
    return make_solo([(chord.strip(), "r/1") for chord in chords.split("|")], key=key, blues=blues)


FLAT_TUNE = "Cm7 | F7 | Bbmaj7 | Bbmaj7 | Cm7 | F7 | Bbmaj7 | G7 | Cm7 | F7 | Bbmaj7 | Bbmaj7"
MINOR_TUNE = "Fm7 | Gm7b5 | C7 | Fm6 | Bbm7 | C7 | Fm6 | Fm6"
BLUES = "F7 | Bb7 | F7 | F7 | Bb7 | Bb7 | F7 | D7 | Gm7 | C7 | F7 | C7"


@pytest.mark.parametrize(
    ("chords", "key", "heard"),
    [
        (FLAT_TUNE, "C major", "Bb major"),
        (FLAT_TUNE, "D major", "Bb major"),
        (MINOR_TUNE, "C major", "F minor"),
        (BLUES, "C major", "F major"),
    ],
)
def test_a_signature_nothing_agrees_with_is_doubted(chords: str, key: str, heard: str) -> None:
    region = contradicted(ground_of(tune(chords, key)))
    assert region is not None
    assert str(region.key) == heard
    assert region.blues == (chords == BLUES)


@pytest.mark.parametrize(
    ("chords", "key"),
    [
        (FLAT_TUNE, "Bb major"),
        (FLAT_TUNE, "G minor"),
        (BLUES, "F major"),
        (MINOR_TUNE, "F minor"),
        (MINOR_TUNE, "Ab major"),
        ("Cmaj7 | Fm7 | Bb7 | Ebmaj7 | Dm7 | G7 | Cmaj7 | Cmaj7", "C major"),
        ("Dm7 | G7 | Cmaj7 | A7 | Dm7 | G7 | Cmaj7 | Cmaj7", "C major"),
        ("Dm7 | Dm7 | Dm7 | Dm7 | Ebm7 | Ebm7 | Dm7 | Dm7", "C major"),
        ("Bbmaj7 | Ebmaj7", "C major"),
    ],
)
def test_a_signature_that_fits_is_believed(chords: str, key: str) -> None:
    assert contradicted(ground_of(tune(chords, key))) is None


@pytest.mark.parametrize("make", DEMO_SOLOS)
@pytest.mark.parametrize("semitones", [1, 2, 5])
def test_solos_with_their_own_signatures_are_believed_in_any_key(make: object, semitones: int) -> None:
    steps = {1: 1, 2: 1, 5: 3}[semitones]
    assert contradicted(ground_of(transposed(make(), Interval(steps, semitones)))) is None  # type: ignore[operator]
