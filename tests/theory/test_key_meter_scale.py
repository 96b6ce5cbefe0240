from fractions import Fraction

import pytest

from gavotte.theory.key import Key, KeyNameError
from gavotte.theory.meter import Meter, MeterError
from gavotte.theory.scale import SCALES, Scale


@pytest.mark.parametrize(
    ("text", "mode", "fifths"),
    [
        ("Bb major", "", -2),
        ("C minor", "", -3),
        ("D minor", "dorian", 0),
        ("F# major", "", 6),
        ("Eb major", "lydian", -2),
    ],
)
def test_key_signatures(text: str, mode: str, fifths: int) -> None:
    key = Key.parse(text, mode)
    assert key.fifths == fifths
    assert Key.from_fifths(fifths, key.mode) == key


def test_minor_counts_both_sixths_and_sevenths() -> None:
    assert Key.parse("A minor").pitch_classes == {9, 11, 0, 2, 4, 5, 6, 7, 8}


@pytest.mark.parametrize("text", ["", "H major", "C strange", "C major now"])
def test_what_is_no_key_is_refused(text: str) -> None:
    with pytest.raises(KeyNameError):
        Key.parse(text)


@pytest.mark.parametrize(
    ("meter", "grouping", "strong", "beats"),
    [
        ("4/4", "", [0, 2], 4),
        ("3/4", "", [0], 3),
        ("2/4", "", [0], 2),
        ("5/4", "3+2", [0, 3], 5),
        ("5/4", "2+3", [0, 2], 5),
        ("6/8", "", [0], 2),
        ("9/8", "", [0], 3),
        ("12/8", "", [0, 3], 4),
        ("7/4", "", [0, 4], 7),
        ("2/2", "", [0, 2], 4),
    ],
)
def test_strong_beats(meter: str, grouping: str, strong: list[int], beats: int) -> None:
    parsed = Meter.parse(meter, grouping)
    assert [beat.offset for beat in parsed.beats if beat.strong] == strong
    assert len(parsed.beats) == beats
    assert sum(beat.length for beat in parsed.beats) == parsed.bar_length


@pytest.mark.parametrize(
    ("meter", "offset", "name"),
    [
        ("4/4", "0", "beat 1"),
        ("4/4", "3/2", "the and of 2"),
        ("4/4", "7/3", "the second triplet of 3"),
        ("4/4", "15/4", "the last sixteenth of 4"),
        ("12/8", "2", "the second eighth of 2"),
        ("4/4", "1/5", "just after beat 1"),
    ],
)
def test_places_are_counted_as_players_do(meter: str, offset: str, name: str) -> None:
    assert Meter.parse(meter).place_name(Fraction(offset)) == name


@pytest.mark.parametrize(("meter", "grouping"), [("4", ""), ("0/4", ""), ("4/5", ""), ("5/4", "3+3"), ("x/y", "")])
def test_what_is_no_meter_is_refused(meter: str, grouping: str) -> None:
    with pytest.raises(MeterError):
        Meter.parse(meter, grouping)


def test_scale_neighbours() -> None:
    harmonic = Scale.named("harmonic minor", 7, "G")
    assert harmonic.are_neighbours(66, 63), "F♯ and E♭ have nothing between them in G harmonic minor"
    assert not harmonic.are_neighbours(67, 70)
    assert 66 in harmonic
    assert 65 not in harmonic


def test_every_scale_starts_on_its_root_and_rises() -> None:
    for steps in SCALES.values():
        assert steps[0] == 0
        assert list(steps) == sorted(set(steps))
