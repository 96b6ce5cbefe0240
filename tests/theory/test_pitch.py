import pytest
from hypothesis import given
from hypothesis import strategies as st

from gavotte.theory.interval import Interval
from gavotte.theory.pitch import LETTERS, Pitch, PitchError, PitchName, respelled, spell

names = st.builds(PitchName, st.sampled_from(LETTERS), st.integers(-2, 2))
pitches = st.builds(Pitch, st.sampled_from(LETTERS), st.integers(-1, 1), st.integers(0, 8))
EVERYDAY = [
    Interval(s, m)
    for s, m in (
        (0, 0),
        (1, 1),
        (1, 2),
        (2, 3),
        (2, 4),
        (3, 5),
        (3, 6),
        (4, 7),
        (5, 8),
        (5, 9),
        (6, 10),
        (6, 11),
        (7, 12),
    )
]


@pytest.mark.parametrize(
    ("text", "midi"), [("C4", 60), ("Cb4", 59), ("B#3", 60), ("Eb5", 75), ("F##2", 43), ("C-1", 0)]
)
def test_pitch_sounds(text: str, midi: int) -> None:
    assert Pitch.parse(text).midi == midi
    assert str(Pitch.parse(text)) == text


def test_music_signs_are_read_and_shown() -> None:
    assert PitchName.parse("B♭") == PitchName("B", -1)
    assert PitchName("F", 1).shown == "F♯"


@pytest.mark.parametrize("text", ["H4", "C", "c4", "Cbbbb4", ""])
def test_what_is_no_pitch_is_refused(text: str) -> None:
    with pytest.raises(PitchError):
        Pitch.parse(text)


@given(names)
def test_line_of_fifths_numbers_every_name(name: PitchName) -> None:
    assert PitchName.from_fifths(name.fifths) == name


@given(pitches, st.sampled_from(EVERYDAY))
def test_transposing_there_and_back_is_the_identity(pitch: Pitch, interval: Interval) -> None:
    moved = pitch.transposed(interval)
    assert moved.midi - pitch.midi == interval.semitones
    assert moved.staff_step - pitch.staff_step == interval.steps
    assert moved.transposed(-interval) == pitch


@given(st.integers(21, 108), st.integers(-6, 6))
def test_spelling_keeps_the_sound(midi: int, fifths: int) -> None:
    assert spell(midi, fifths).midi == midi


def test_spelling_follows_the_key() -> None:
    assert str(spell(70, -3)) == "Bb4"
    assert str(spell(70, 3)) == "A#4"
    assert str(spell(61, 0)) == "C#4"


def test_respelling_refuses_another_sound() -> None:
    assert str(respelled(Pitch.parse("D#4"), PitchName("E", -1))) == "Eb4"
    assert str(respelled(Pitch.parse("B3"), PitchName("C", -1))) == "Cb4"
    with pytest.raises(PitchError):
        respelled(Pitch.parse("D4"), PitchName("E", -1))


@pytest.mark.parametrize(
    ("steps", "semitones", "name"),
    [
        (2, 3, "minor third"),
        (1, 3, "augmented second"),
        (4, 6, "diminished fifth"),
        (-3, -5, "perfect fourth"),
        (7, 12, "perfect octave"),
        (8, 13, "minor ninth"),
        (6, 9, "diminished seventh"),
    ],
)
def test_intervals_have_names(steps: int, semitones: int, name: str) -> None:
    assert Interval(steps, semitones).name == name
