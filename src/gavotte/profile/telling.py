"""Figures and differences in words."""

from __future__ import annotations

from gavotte.profile.comparison import Difference
from gavotte.profile.figures import Figure, Unit
from gavotte.profile.measured import Value
from gavotte.theory.pitch import spell

_UNIT_WORDS = {
    Unit.NOTES: "notes", Unit.BEATS: "beats", Unit.SEMITONES: "semitones", Unit.A_BEAT: "notes a beat",
}  # fmt: skip


def shown(figure: Figure, value: float) -> str:
    """A figure's value: "12 %", "7.40 notes", "D4"."""
    if figure.unit is Unit.SHARE:
        percent = 100 * value
        return f"{percent:.1f} %" if 0 < percent < 10 else f"{percent:.0f} %"
    if figure.unit is Unit.MIDI:
        return note_name(round(value))
    if figure.unit is Unit.TENSION:
        return f"{value:.2f}"
    if figure.unit is Unit.RATIO:
        return f"{value:.2f} to 1"
    return f"{value:.2f} {_UNIT_WORDS[figure.unit]}" if value < 10 else f"{value:.1f} {_UNIT_WORDS[figure.unit]}"


def on_axis(figure: Figure, value: float) -> str:
    """A figure's value without what it is counted in, to stand at an axis: "12 %", "7.40", "D4"."""
    told = shown(figure, value)
    return told if figure.unit is Unit.SHARE else told.partition(" ")[0]


def note_name(midi: int) -> str:
    """A MIDI number as a note: "D4"."""
    pitch = spell(midi, 0)
    return f"{pitch.name.shown}{pitch.octave}"


def value_words(value: Value) -> str:
    """A figure with how sure it is: "the ♭9 over dominants: 12 % (9 to 15 %), of 410"."""
    low, high = (shown(value.figure, edge) for edge in (value.low, value.high))
    small = "; a small sample" if value.is_small else ""
    low = low.partition(" ")[0]
    return f"{value.figure.words}: {shown(value.figure, value.value)} ({low} to {high}), of {value.among:.0f}{small}"


def difference_words(one: Difference, here: str, there: str) -> str:
    """A difference as a sentence: "The ♭9 over dominants: 12 % in A, 3.1 % in B." """
    words = one.figure.words[:1].upper() + one.figure.words[1:]
    return f"{words}: {shown(one.figure, one.value)} in {here}, {shown(one.figure, one.other)} in {there}."
