"""Figures: groups of notes that are heard as one.

Each module here defines one kind of figure: it finds every one of its kind that a line allows, and holds every word
that is said about it; ``search`` chooses among those that overlap. A figure never explains a tone of the written chord:
that stays a chord tone and joins it. To add a kind, write its module and put it into ``FIGURES``.
"""

from __future__ import annotations

from gavotte.labelling.figures.chromatic_run import CHROMATIC_RUN
from gavotte.labelling.figures.double_approach import DOUBLE_APPROACH
from gavotte.labelling.figures.enclosure import ENCLOSURE
from gavotte.labelling.figures.implied_run import IMPLIED_RUN
from gavotte.labelling.figures.kind import FigureKind
from gavotte.labelling.figures.upper_structure import UPPER_STRUCTURE

FIGURES: list[FigureKind] = [IMPLIED_RUN, UPPER_STRUCTURE, CHROMATIC_RUN, ENCLOSURE, DOUBLE_APPROACH]
"""All kinds, in the order in which they are looked for."""


def figure_kind(name: str) -> FigureKind | None:
    """The kind of a name, None for a note that stands by itself."""
    return next((kind for kind in FIGURES if kind.name == name), None)
