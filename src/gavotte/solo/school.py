"""Schools: named sets of choices about what counts as what, and how degrees are written."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from enum import StrEnum

from gavotte.theory.degrees import USUAL_NAMING, DegreeNaming


class StartsFrom(StrEnum):
    """What a line is first heard against."""

    CHORD = "chord"
    KEY_CENTRE = "key centre"


@dataclass(frozen=True, slots=True)
class School:
    """A set of choices with a name.

    Each choice that is no naming is a question a teacher would answer with yes or no:

    ``sixth_is_tone``, ``ninth_is_tone``: a natural 13 or 9 is as good as a chord tone.
    ``accents_are_colours``: a welcome scale tone on a strong beat that resolves at once is an extension, not passing.
    ``leaps_are_colours``: a welcome scale tone that is leapt to and resolves by step is an extension, not passing.
    ``tones_enclose``: a chord tone may be one side of an enclosure.
    ``names_structures``: a triad or seventh chord over the chord is named as one.
    ``flags_clashes``: what rubs against the chord is called a clash, rather than one more colour.
    """

    name: str
    sixth_is_tone: bool = False
    ninth_is_tone: bool = False
    accents_are_colours: bool = False
    leaps_are_colours: bool = False
    tones_enclose: bool = True
    names_structures: bool = True
    flags_clashes: bool = True
    starts_from: StartsFrom = StartsFrom.CHORD
    naming: DegreeNaming = USUAL_NAMING

    def with_choice(self, choice: str, value: bool) -> School:
        """The school with one choice made otherwise. Raises TypeError for a choice that does not exist."""
        changes: dict[str, bool] = {choice: value}
        return replace(self, **changes)  # type: ignore[arg-type]

    def labels_like(self, other: School) -> bool:
        """Whether both label alike: they differ in name or in how degrees are shown at most."""
        return replace(self, name=other.name, naming=other.naming) == other

    def says_like(self, other: School) -> bool:
        """Whether both label alike and write degrees alike: they differ in name at most."""
        return replace(self, name=other.name) == other


CHOICES = tuple(field.name for field in fields(School) if field.type == "bool")
"""The names of the yes-or-no choices."""

LINEAR = School("Linear")
VERTICAL = School("Vertical", accents_are_colours=True)
KEY_CENTRED = School("Key-centred", flags_clashes=False, starts_from=StartsFrom.KEY_CENTRE)
SCHOOLS = (LINEAR, VERTICAL, KEY_CENTRED)
"""The schools that ship."""
