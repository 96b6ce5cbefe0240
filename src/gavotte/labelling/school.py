"""Schools: named sets of choices about what counts as what."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class School:
    """A set of choices with a name.

    ``accents_are_colours``: an accented scale tone that resolves at once is an extension (the vertical view)
    rather than passing (the linear one).
    """

    name: str
    accents_are_colours: bool = False


LINEAR = School("Linear")
VERTICAL = School("Vertical", accents_are_colours=True)
