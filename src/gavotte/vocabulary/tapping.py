"""A rhythm that was tapped, and a line that was played, as words of a query."""

from __future__ import annotations

import itertools
import math
import statistics
from collections.abc import Sequence
from fractions import Fraction

_VALUES = {0.5: "16", 2 / 3: "8t", 1.0: "8", 1.5: "8.", 2.0: "4", 3.0: "4.", 4.0: "2", 6.0: "2.", 8.0: "1"}
"""How many eighths each note value lasts."""


def tapped_rhythm(times: Sequence[float]) -> str:
    """The query for taps at some times (seconds, or any other measure): what is usual between them is taken for an
    eighth, and how long the last note is stays open; "" for fewer than two.

    >>> tapped_rhythm([0.0, 0.26, 0.5, 1.0])
    'rhythm 8-8-4-x'
    """
    gaps = [b - a for a, b in itertools.pairwise(times) if b > a]
    if not gaps:
        return ""
    eighth = statistics.median_low(gaps)
    values = [_VALUES[min(_VALUES, key=lambda value: abs(value - gap / eighth))] for gap in gaps]
    return f"rhythm {'-'.join(values)}-x"


def tapped_lengths(times: Sequence[Fraction]) -> tuple[Fraction, ...]:
    """The lengths (quarter notes) of notes tapped at some times (quarter notes), each as the nearest one that is
    written; the last is as long as the one before. None for fewer than two taps.
    """
    gaps = [b - a for a, b in itertools.pairwise(times) if b > a]
    lengths = [min(_LENGTHS, key=lambda length: abs(math.log(length / gap))) for gap in gaps]
    return (*lengths, lengths[-1]) if lengths else ()


_LENGTHS = tuple(map(Fraction, ("1/4", "1/3", "1/2", "2/3", "3/4", "1", "4/3", "3/2", "2", "3", "4")))


def played_move(before: int, pitch: int) -> str:
    """The word for a move from one key to another, by their MIDI numbers: "+3", "-2", "same"."""
    return f"{pitch - before:+}" if pitch != before else "same"
