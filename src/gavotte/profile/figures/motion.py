"""Intervals and rhythm: how a line moves, and in which values."""

from __future__ import annotations

import numpy as np

from gavotte.profile.figures.kind import Chosen, Figure, Unit, mean_of, share
from gavotte.profile.seen import Flags, Seen

_KINDS_OF_STEPS = (
    ("repeated", "repeated notes", 0, 0), ("half step", "half steps", 1, 1), ("whole step", "whole steps", 2, 2),
    ("third", "thirds", 3, 4), ("fourth to fifth", "fourths to fifths", 5, 7),
    ("leap", "leaps of a sixth or more", 8, 99),
)  # fmt: skip
_VALUES = (
    ("sixteenths", 0.0, 0.29), ("triplets", 0.29, 0.42), ("eighths", 0.42, 0.6), ("quarters", 0.9, 1.1),
    ("longer values", 1.1, 99.0),
)  # fmt: skip
BEAT_FIGURES: dict[str, tuple[int, ...]] = {
    "a note on the beat": (0,),
    "a note off the beat": (6,),
    "two eighths": (0, 6),
    "three triplets": (0, 4, 8),
    "a long and a short triplet": (0, 8),
    "two triplets off the beat": (4, 8),
    "four sixteenths": (0, 3, 6, 9),
    "an eighth and two sixteenths": (0, 6, 9),
    "two sixteenths and an eighth": (0, 3, 6),
    "a dotted eighth and a sixteenth": (0, 9),
}
"""Beats by the twelfths of them at which notes begin."""


def intervals() -> list[Figure]:
    """Steps, thirds and leaps, which way they go, and where the line turns."""

    def moves(seen: Seen) -> Flags:
        return ~np.isnan(seen.step)

    def of_size(low: int, high: int) -> Chosen:
        return lambda seen: np.asarray((np.abs(seen.step) >= low) & (np.abs(seen.step) <= high))

    made = [
        share(f"step {name}", "Intervals", words, f"{words} / intervals inside phrases", of_size(low, high), moves)
        for name, words, low, high in _KINDS_OF_STEPS
    ]
    made.append(
        share(
            "rising", "Intervals", "rising intervals", "rising intervals / intervals inside phrases that move",
            lambda seen: seen.step > 0, lambda seen: np.nan_to_num(seen.step) != 0,
        )
    )  # fmt: skip
    made.append(
        share(
            "turning", "Intervals", "changes of direction", "notes where the line turns / notes between two that move",
            lambda seen: np.asarray(_turn(seen) < 0), lambda seen: np.asarray(_turn(seen) != 0),
        )
    )  # fmt: skip
    return made


def _turn(seen: Seen) -> np.ndarray:
    """Below 0 where the line turns at a note, above where it goes on, 0 where it does not move before or after."""
    before = np.full(seen.count, np.nan)
    before[1:] = seen.step[:-1]
    return np.nan_to_num(before * seen.step)


def _is_beat_of(marks: tuple[int, ...]) -> Chosen:
    code = sum(1 << mark for mark in marks)
    return lambda seen: np.asarray(seen.beat_pattern == code)


def rhythm() -> list[Figure]:
    """Values, syncopations, what is made of each beat, swing."""

    def follows(seen: Seen) -> Flags:
        return ~np.isnan(seen.until_next)

    def lasts(low: float, high: float) -> Chosen:
        return lambda seen: np.asarray((seen.until_next > low + 1e-6) & (seen.until_next <= high))

    made = [
        share(
            f"value {name}", "Rhythm", name, f"notes followed after {name} / notes followed inside their phrase",
            lasts(low, high), follows,
        )
        for name, low, high in _VALUES
    ]  # fmt: skip
    made.append(
        share(
            "syncopation", "Rhythm", "syncopations",
            "notes in the middle of a beat that last over the next one / notes followed inside their phrase",
            lambda seen: (np.abs(seen.part_of_beat - 0.5) < 0.1) & (seen.until_next > 0.6), follows,
        )
    )  # fmt: skip
    made += [
        share(
            f"beat of {name}", "Rhythm of beats", f"beats of {name}",
            f"beats in which {name} begin, and nothing else / beats in which notes begin"
            if len(marks) > 1
            else f"beats in which {name} begins, and nothing else / beats in which notes begin",
            _is_beat_of(marks),
            lambda seen: np.asarray(seen.beat_pattern > 0),
        )
        for name, marks in BEAT_FIGURES.items()
    ]  # fmt: skip
    made.append(
        mean_of(
            "swing", "Rhythm", "swing",
            "how long the first of two eighths is to the second / notes of solos whose swing is known",
            Unit.RATIO, lambda seen: seen.line.notes["swing"].astype(np.float64),
            lambda seen: np.asarray(seen.line.notes["swing"] > 0),
        )
    )  # fmt: skip
    return made
