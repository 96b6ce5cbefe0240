"""The operations there are, by family. A new one is written in the module of its family and listed there."""

from __future__ import annotations

from gavotte.workshop.operation import Operation
from gavotte.workshop.operations.approaches import APPROACHES
from gavotte.workshop.operations.chords import OTHER_CHORDS
from gavotte.workshop.operations.etudes import ETUDES
from gavotte.workshop.operations.harmony import LAID_OVER
from gavotte.workshop.operations.joins import JOINS
from gavotte.workshop.operations.melody import MELODY
from gavotte.workshop.operations.notes import NOTES
from gavotte.workshop.operations.rhythm import RHYTHM
from gavotte.workshop.operations.scales import SCALES_AND_SHAPES
from gavotte.workshop.operations.sheets import SHEETS
from gavotte.workshop.operations.strings import STRINGS

ALL: tuple[Operation, ...] = (
    *OTHER_CHORDS, *LAID_OVER, *SCALES_AND_SHAPES, *MELODY, *APPROACHES, *NOTES, *RHYTHM, *JOINS, *ETUDES, *STRINGS,
    *SHEETS,
)  # fmt: skip
OPERATIONS = {operation.name: operation for operation in ALL}
"""Every operation by its name."""
