"""What a figure is, and what figures are made of: what is counted, and what it is counted among."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from gavotte.profile.seen import Flags, Floats, Seen
from gavotte.solo.document import Function
from gavotte.theory.degrees import shown_degree


class Unit(StrEnum):
    """What a figure's value is counted in."""

    SHARE = "share"
    NOTES = "notes"
    BEATS = "beats"
    SEMITONES = "semitones"
    A_BEAT = "notes a beat"
    MIDI = "MIDI number"
    TENSION = "tension"
    RATIO = "ratio"


Parts = Callable[[Seen], tuple[Floats, Floats]]
Chosen = Callable[[Seen], Flags]


@dataclass(frozen=True)
class Figure:
    """One figure: its ``name`` for programs, the ``family`` it is told in, its ``words``, its ``formula``, the
    ``unit``, and what it is made of: for each note what is counted, and what it is counted among. ``is_of_time`` says
    of a share that it is one of time, not of things that were counted.
    """

    name: str
    family: str
    words: str
    formula: str
    unit: Unit
    parts: Parts
    is_of_time: bool = False


FUNCTION_WORDS = {
    Function.CHORD: "chord tones",
    Function.EXTENSION: "extensions",
    Function.PASSING: "passing notes",
    Function.APPROACH: "approaches",
    Function.OUTSIDE: "outside notes",
}
QUALITY_WORDS = {
    "major": "major chords", "minor": "minor chords", "dominant": "dominants",
    "half-diminished": "half-diminished chords", "diminished": "diminished chords", "sus": "suspended chords",
}  # fmt: skip
CLOSE = 0.06
"""Beats within which a note stands on a beat."""


def share(name: str, family: str, words: str, formula: str, hit: Chosen, among: Chosen) -> Figure:
    """A share: the notes that are so, among those that could be."""

    def parts(seen: Seen) -> tuple[Floats, Floats]:
        base = among(seen)
        return (hit(seen) & base).astype(np.float64), base.astype(np.float64)

    return Figure(name, family, words, formula, Unit.SHARE, parts)


def mean_of(
    name: str, family: str, words: str, formula: str, unit: Unit, values: Callable[[Seen], Floats], among: Chosen
) -> Figure:
    """The mean of what notes have, over those that have it."""

    def parts(seen: Seen) -> tuple[Floats, Floats]:
        base = among(seen)
        return np.where(base, values(seen), 0.0), base.astype(np.float64)

    return Figure(name, family, words, formula, unit, parts)


def all_notes(seen: Seen) -> Flags:
    """Every note."""
    return np.ones(seen.count, np.bool_)


def over_chord(seen: Seen) -> Flags:
    """The notes over a written chord."""
    return seen.over_chord


def function(wanted: Function) -> Chosen:
    """The notes with a function."""
    return lambda seen: seen.is_function(wanted)


def degree(wanted: str) -> Chosen:
    """The notes that are a degree of their chord."""
    return lambda seen: seen.is_degree(wanted)


def over(quality: str) -> Chosen:
    """The notes over a kind of chord."""
    return lambda seen: seen.is_over(quality)


def named(wanted: str) -> str:
    """A degree as it is said: "root", "♭9", "3rd"."""
    if wanted == "1":
        return "root"
    ending = "rd" if wanted == "3" else "th" if wanted in ("5", "7", "9", "11", "13", "4", "6") else ""
    return f"{shown_degree(wanted)}{ending}"
