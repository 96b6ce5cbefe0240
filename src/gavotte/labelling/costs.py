"""Costs: how dear each way of explaining a note is. The search takes the cheapest explanation of a whole line.

The costs stand for the guide's order of decision: a kind of explanation that comes earlier is cheaper by more than
doubt about it could add, and a figure is cheaper than its notes one by one. They were set by hand from that order,
not fitted. One unit makes an explanation about e times less likely beside another.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from gavotte.solo.school import School


@dataclass(frozen=True, slots=True)
class Costs:
    """What explaining one note, or tying notes together, costs."""

    tone: float = 0.0
    """A tone of the chord in force."""
    early: float = 1.0
    """A tone of the coming chord, or one carried over from the last."""
    centre: float = 2.0
    """A note of the collection, in a stretch that is read by its key centre."""
    chromatic: float = 3.0
    """A single chromatic approach."""
    blue: float = 4.5
    """A blue note of the key."""
    passing: float = 6.0
    """On its way by step through the scale."""
    colour: float = 7.5
    """An available tension shown off, or a clash."""
    left_over: float = 9.0
    """The chord or the scale knows the tone, and nothing else is to be said for it."""
    unexplained: float = 12.0
    """Nothing is to be said for it."""
    in_figure: float = 2.0
    """Each note that a figure explains."""
    tied_pair: float = -10.0
    """Each pair of notes one figure explains: what one figure explains together speaks for it more than two halves."""
    later_figure: float = 0.001
    """Each step down in the order of figures; it settles ties."""
    figures_apart: float = 3.0
    """How far apart two figures through one note are at most, for how sure it is which of them is heard."""
    accent: float = 0.0
    """Calling a welcome tone on a strong beat passing."""
    leap: float = 0.0
    """Calling a welcome tone passing that is leapt to."""
    tone_in_enclosure: float = 0.0
    """A chord tone as one side of an enclosure."""
    structure: float = 0.0
    """Naming a chord over the chord."""


OVERRULES = 4.0
"""More than between any two neighbouring kinds: what a school adds to the kind it puts second."""
FORBIDS = 1000.0


@lru_cache(maxsize=64)
def costs_of(school: School) -> Costs:
    """The costs as a school sets them."""
    return replace(
        Costs(),
        accent=OVERRULES if school.accents_are_colours else 0.0,
        leap=OVERRULES if school.leaps_are_colours else 0.0,
        tone_in_enclosure=0.0 if school.tones_enclose else FORBIDS,
        structure=0.0 if school.names_structures else FORBIDS,
    )
