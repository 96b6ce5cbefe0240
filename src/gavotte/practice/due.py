"""The line that is to be played: its notes in playing order, as somebody who listens for them expects them."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gavotte.solo.document import Note, Solo
from gavotte.solo.swing import goes_along, share_of
from gavotte.sounding.groove import swing_of
from gavotte.sounding.timeline import Timeline

_SWUNG = Fraction(3)


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
        """When each note begins, in nominal seconds, at a ratio of swing; without one, as Gavotte plays the solo.

        What swing moves is moved in proportion to the share of the beat that its first half takes.
        """
        share = float(share_of(swing_of(self.solo) if swing is None else swing))
        even, swung = self._even, self._swung
        return np.asarray(even + (share - 0.5) / (float(share_of(_SWUNG)) - 0.5) * (swung - even), np.float64)

    @cached_property
    def _even(self) -> NDArray[np.float64]:
        return self._at(Fraction(1))

    @cached_property
    def _swung(self) -> NDArray[np.float64]:
        return self._at(_SWUNG)

    def _at(self, swing: Fraction) -> NDArray[np.float64]:
        timeline = Timeline(self.solo, swing)
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
