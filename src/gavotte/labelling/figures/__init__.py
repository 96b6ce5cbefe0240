"""Figures: groups of notes that are heard as one.

Each module here defines one kind of figure and finds every one of its kind that a line allows; ``search`` chooses
among those that overlap. A figure never explains a tone of the written chord: that stays a chord tone and joins it.
To add a kind, write its module and put it into ``FIGURES``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from gavotte.labelling.explanation import Figure, FigureKind
from gavotte.labelling.figures.chromatic_run import chromatic_runs
from gavotte.labelling.figures.double_approach import double_approaches
from gavotte.labelling.figures.enclosure import enclosures
from gavotte.labelling.figures.implied_run import implied_runs
from gavotte.labelling.figures.upper_structure import upper_structures
from gavotte.labelling.frame import Frame
from gavotte.solo.school import School


class Kind(NamedTuple):
    """A kind of figure, and what finds those that lie between two note indexes."""

    kind: FigureKind
    find: Callable[[Frame, School, int, int], Iterator[Figure]]


FIGURES = (
    Kind(FigureKind.IMPLIED_RUN, implied_runs),
    Kind(FigureKind.UPPER_STRUCTURE, upper_structures),
    Kind(FigureKind.CHROMATIC_RUN, chromatic_runs),
    Kind(FigureKind.ENCLOSURE, enclosures),
    Kind(FigureKind.DOUBLE_APPROACH, double_approaches),
)
"""In the order of decision: of two figures that explain equally many notes the earlier wins."""
