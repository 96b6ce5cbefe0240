"""The line that is to be played: its notes in playing order, as somebody who listens for them expects them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gavotte.solo.document import Note, Solo
from gavotte.solo.swing import goes_along
from gavotte.sounding.groove import swing_of
from gavotte.sounding.timeline import Timeline

_HALF = Fraction(1, 2)


@dataclass(frozen=True)
class DueLine:
    """The ``notes`` of a solo that are listened for (grace notes are not), with the solo they belong to."""

    solo: Solo
    notes: tuple[Note, ...]

    @cached_property
    def pitches(self) -> NDArray[np.int64]:
        """MIDI numbers."""
        return np.array([note.pitch.midi for note in self.notes], np.int64)

    def seconds(self, swing: Fraction | None = None) -> NDArray[np.float64]:
        """When each note begins, in nominal seconds, at a ratio of swing; without one, as Gavotte plays the solo."""
        timeline = Timeline(self.solo, swing_of(self.solo) if swing is None else swing)
        return np.array([timeline.seconds(note.onset) for note in self.notes], np.float64)

    @cached_property
    def offbeats(self) -> NDArray[np.bool_]:
        """Which notes begin where swing moves them: in the middle of a beat of one quarter note, or beside it."""
        timeline = Timeline(self.solo)
        moved = Timeline(self.solo, Fraction(2))
        return np.array(
            [goes_along(note.onset) and timeline.swung(note.onset) != moved.swung(note.onset) for note in self.notes],
            np.bool_,
        )

    @cached_property
    def middles(self) -> NDArray[np.bool_]:
        """Which notes begin exactly in the middle of a beat that can be swung."""
        return np.array(
            [bool(moved) and note.onset % 1 == _HALF for note, moved in zip(self.notes, self.offbeats, strict=True)],
            np.bool_,
        )


def due_line(solo: Solo, start: Fraction | None = None, end: Fraction | None = None) -> DueLine:
    """What of a solo is to be played: everything, or what begins from ``start`` up to ``end`` (quarter notes)."""
    return DueLine(
        solo,
        tuple(
            note
            for note in solo.notes
            if not note.grace and (start is None or note.onset >= start) and (end is None or note.onset < end)
        ),
    )


def ranges(pitches: Sequence[int]) -> tuple[int, int]:
    """The lowest and the highest of some MIDI numbers."""
    return min(pitches), max(pitches)
