"""The figures a profile is made of. Each is a sum over notes divided by another: how often something is so among the
notes where it could be, or a mean; its formula is written beside it.

``FIGURES`` holds them all, family by family. To add one, write what is counted and what it is counted among.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from gavotte.profile.seen import Flags, Floats, Seen
from gavotte.solo.document import Function
from gavotte.solo.label import DEVICES
from gavotte.theory.degrees import shown_degree
from gavotte.vocabulary.corpus import DEGREES, DEVICE_NAMES


class Unit(StrEnum):
    """What a figure's value is counted in."""

    SHARE = "share"
    NOTES = "notes"
    BEATS = "beats"
    SEMITONES = "semitones"
    A_BEAT = "notes a beat"
    MIDI = "MIDI number"


@dataclass(frozen=True)
class Figure:
    """One figure: its ``name`` for programs, the ``family`` it is told in, its ``words``, its ``formula``, the
    ``unit``, and what it is made of: for each note what is counted, and what it is counted among.
    """

    name: str
    family: str
    words: str
    formula: str
    unit: Unit
    parts: Callable[[Seen], tuple[Floats, Floats]]


_FUNCTION_WORDS = {
    Function.CHORD: "chord tones",
    Function.EXTENSION: "extensions",
    Function.PASSING: "passing notes",
    Function.APPROACH: "approaches",
    Function.OUTSIDE: "outside notes",
}
_QUALITY_WORDS = {
    "major": "major chords", "minor": "minor chords", "dominant": "dominants",
    "half-diminished": "half-diminished chords", "diminished": "diminished chords", "sus": "suspended chords",
}  # fmt: skip
_ALTERED = ("b9", "#9", "#11", "b13", "b5", "#5")
_KINDS_OF_STEPS = (
    ("repeated", "repeated notes", 0, 0), ("half step", "half steps", 1, 1), ("whole step", "whole steps", 2, 2),
    ("third", "thirds", 3, 4), ("fourth to fifth", "fourths to fifths", 5, 7),
    ("leap", "leaps of a sixth or more", 8, 99),
)  # fmt: skip
_VALUES = (
    ("sixteenths", 0.0, 0.29), ("triplets", 0.29, 0.42), ("eighths", 0.42, 0.6), ("quarters", 0.9, 1.1),
    ("longer values", 1.1, 99.0),
)  # fmt: skip
_CLOSE = 0.06


Chosen = Callable[[Seen], Flags]


def _function(function: Function) -> Chosen:
    return lambda seen: seen.is_function(function)


def _device(device: str) -> Chosen:
    return lambda seen: seen.is_device(device)


def _degree(degree: str) -> Chosen:
    return lambda seen: seen.is_degree(degree)


def _over(quality: str) -> Chosen:
    return lambda seen: seen.is_over(quality)


def _between(values: Callable[[Seen], Floats], low: float, high: float) -> Chosen:
    return lambda seen: np.asarray((values(seen) >= low) & (values(seen) <= high))


def _over_chord(seen: Seen) -> Flags:
    return seen.over_chord


def _share(
    name: str, family: str, words: str, formula: str, hit: Callable[[Seen], Flags], among: Callable[[Seen], Flags]
) -> Figure:
    """A share: the notes that are so, among those that could be."""

    def parts(seen: Seen) -> tuple[Floats, Floats]:
        base = among(seen)
        return (hit(seen) & base).astype(np.float64), base.astype(np.float64)

    return Figure(name, family, words, formula, Unit.SHARE, parts)


def _mean(
    name: str, family: str, words: str, formula: str, unit: Unit, parts: Callable[[Seen], tuple[Floats, Floats]]
) -> Figure:
    return Figure(name, family, words, formula, unit, parts)


def _functions() -> list[Figure]:
    made = [
        _share(
            f"function {function}", "Functions", words, f"{words} / notes over a chord",
            _function(function), _over_chord,
        )
        for function, words in _FUNCTION_WORDS.items()
    ]  # fmt: skip
    made.append(
        _share(
            "strong chord tones", "Functions", "strong beats with a chord tone",
            "chord tones on strong beats / notes on strong beats over a chord",
            lambda seen: seen.is_function(Function.CHORD),
            lambda seen: np.asarray(seen.line.notes["strong"]) & seen.over_chord,
        )
    )  # fmt: skip
    for quality, over in _QUALITY_WORDS.items():
        made += [
            _share(
                f"function {function} over {quality}", "Functions by chord", f"{words} over {over}",
                f"{words} over {over} / notes over {over}",
                _function(function), _over(quality),
            )
            for function, words in _FUNCTION_WORDS.items()
        ]  # fmt: skip
    made.append(
        _share(
            "altered on dominants", "Functions by chord", "altered notes over dominants",
            "♭9, ♯9, ♯11, ♭13, ♭5 and ♯5 over dominants / notes over dominants",
            lambda seen: np.logical_or.reduce([seen.is_degree(degree) for degree in _ALTERED]),
            lambda seen: seen.is_over("dominant"),
        )
    )  # fmt: skip
    return made


def _devices() -> list[Figure]:
    function_of = {device: function for function, devices in DEVICES.items() for device in devices}
    return [
        _share(
            f"device {device}", "Devices", f"{device.replace('-', ' ')} ({_FUNCTION_WORDS[function_of[device]]})",
            f"notes that are {device.replace('-', ' ')} / all notes",
            _device(device), lambda seen: np.ones(seen.count, np.bool_),
        )
        for device in DEVICE_NAMES
        if device != "plain"
    ]  # fmt: skip


def _degrees() -> list[Figure]:
    return [
        _share(
            f"degree {degree} over {quality}", "Degrees", f"the {_named(degree)} over {over}",
            f"notes that are the {_named(degree)} / notes over {over}",
            _degree(degree), _over(quality),
        )
        for quality, over in _QUALITY_WORDS.items()
        for degree in DEGREES
    ]  # fmt: skip


def _landings() -> list[Figure]:
    made = [
        _share(
            f"landing on {degree}", "Landings at changes", f"the {_named(degree)} as the first note of a chord",
            f"first notes of a chord that are its {_named(degree)} / first notes of a chord",
            _degree(degree), lambda seen: seen.arrives,
        )
        for degree in DEGREES
    ]  # fmt: skip
    made.append(
        _share(
            "landing prepared", "Landings at changes", "changes that are led to",
            "first notes of a chord that an approach leads to / first notes of a chord",
            lambda seen: seen.is_led_to, lambda seen: seen.arrives,
        )
    )  # fmt: skip
    made += [
        _share(
            f"ending on {degree}", "Phrases", f"phrases that end on the {_named(degree)}",
            f"phrases that end on the {_named(degree)} of their chord / phrases",
            _degree(degree), lambda seen: seen.ends & seen.over_chord,
        )
        for degree in DEGREES
    ]  # fmt: skip
    return made


def _named(degree: str) -> str:
    """A degree as it is said: "root", "♭9", "3rd"."""
    if degree == "1":
        return "root"
    ending = "rd" if degree == "3" else "th" if degree in ("5", "7", "9", "11", "13", "4", "6") else ""
    return f"{shown_degree(degree)}{ending}"


def _phrases() -> list[Figure]:
    def notes_in(seen: Seen) -> tuple[Floats, Floats]:
        return np.ones(seen.count), seen.begins.astype(np.float64)

    def beats_in(seen: Seen) -> tuple[Floats, Floats]:
        length = seen.line.notes["length"] / seen.line.notes["beat_length"]
        return np.where(np.isnan(seen.until_next), length, seen.until_next), seen.begins.astype(np.float64)

    def density(seen: Seen) -> tuple[Floats, Floats]:
        return np.ones(seen.count), beats_in(seen)[0]

    def compass(seen: Seen) -> tuple[Floats, Floats]:
        wide = np.zeros(seen.count)
        firsts = np.flatnonzero(seen.begins)
        if len(firsts):
            pitch = seen.line.notes["pitch"].astype(np.float64)
            wide[firsts] = np.maximum.reduceat(pitch, firsts) - np.minimum.reduceat(pitch, firsts)
        return wide, seen.begins.astype(np.float64)

    def register(seen: Seen) -> tuple[Floats, Floats]:
        return seen.line.notes["pitch"].astype(np.float64), np.ones(seen.count)

    def silence(seen: Seen) -> tuple[Floats, Floats]:
        notes = seen.line.notes
        whole = np.zeros(seen.count)
        whole[:-1] = np.diff(notes["onset"]) / notes["beat_length"][:-1]
        sounding = np.minimum(whole, notes["length"] / notes["beat_length"])
        return np.maximum(0.0, whole - sounding), whole

    family = "Phrases"
    made = [
        _mean("phrase notes", family, "notes in a phrase", "notes / phrases", Unit.NOTES, notes_in),
        _mean(
            "phrase beats", family, "beats in a phrase",
            "beats from the first onset of a phrase to the end of its last note / phrases", Unit.BEATS, beats_in,
        ),
        _mean("density", family, "notes a beat", "notes / beats of phrases", Unit.A_BEAT, density),
        _mean(
            "compass", family, "compass of a phrase", "highest note less lowest of a phrase / phrases",
            Unit.SEMITONES, compass,
        ),
        _mean("register", family, "mean pitch", "MIDI numbers / notes", Unit.MIDI, register),
        Figure(
            "silence", family, "time that is silent", "beats without a note / beats from the first onset to the last",
            Unit.SHARE, silence,
        ),
    ]  # fmt: skip
    for name, words, low, high in (
        ("on the beat", "on a beat", -_CLOSE, _CLOSE), ("off the beat", "in the middle of a beat", 0.4, 0.6),
    ):  # fmt: skip
        made.append(
            _share(
                f"begins {name}", family, f"phrases that begin {words}", f"phrases that begin {words} / phrases",
                _between(lambda seen: seen.part_of_beat, low, high),
                lambda seen: seen.begins,
            )
        )  # fmt: skip
    made.append(
        _share(
            "begins on one", family, "phrases that begin on beat 1", "phrases that begin on beat 1 / phrases",
            lambda seen: seen.line.notes["beat"] < _CLOSE, lambda seen: seen.begins,
        )
    )  # fmt: skip
    made.append(
        _share(
            "ends on one", family, "phrases that end on beat 1", "phrases whose last note begins on beat 1 / phrases",
            lambda seen: seen.line.notes["beat"] < _CLOSE, lambda seen: seen.ends,
        )
    )  # fmt: skip
    return made


def _motion() -> list[Figure]:
    def moves(seen: Seen) -> Flags:
        return ~np.isnan(seen.step)

    made = [
        _share(
            f"step {name}", "Intervals", words, f"{words} / intervals inside phrases",
            _between(lambda seen: np.abs(seen.step), low, high), moves,
        )
        for name, words, low, high in _KINDS_OF_STEPS
    ]  # fmt: skip
    made.append(
        _share(
            "rising", "Intervals", "rising intervals", "rising intervals / intervals inside phrases that move",
            lambda seen: seen.step > 0, lambda seen: np.nan_to_num(seen.step) != 0,
        )
    )  # fmt: skip

    def turns(seen: Seen) -> Flags:
        before = np.full(seen.count, np.nan)
        before[1:] = seen.step[:-1]
        return np.asarray(before * seen.step < 0)

    def could_turn(seen: Seen) -> Flags:
        before = np.full(seen.count, np.nan)
        before[1:] = seen.step[:-1]
        return np.asarray(np.nan_to_num(before * seen.step) != 0)

    made.append(
        _share(
            "turning", "Intervals", "changes of direction", "notes where the line turns / notes between two that move",
            turns, could_turn,
        )
    )  # fmt: skip
    return made


def _rhythm() -> list[Figure]:
    def follows(seen: Seen) -> Flags:
        return ~np.isnan(seen.until_next)

    made = [
        _share(
            f"value {name}", "Rhythm", name, f"notes followed after {name} / notes followed inside their phrase",
            _between(lambda seen: seen.until_next, low + 1e-6, high), follows,
        )
        for name, low, high in _VALUES
    ]  # fmt: skip
    made.append(
        _share(
            "syncopation", "Rhythm", "syncopations",
            "notes in the middle of a beat that last over the next one / notes followed inside their phrase",
            lambda seen: (np.abs(seen.part_of_beat - 0.5) < 0.1) & (seen.until_next > 0.6), follows,
        )
    )  # fmt: skip
    return made


FIGURES: tuple[Figure, ...] = (
    *_functions(), *_devices(), *_degrees(), *_landings(), *_phrases(), *_motion(), *_rhythm(),
)  # fmt: skip
"""All figures, family by family."""
