"""A labelled line as the figures see it: what each note is, where in its phrase it stands, and what follows."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gavotte.solo.document import Function
from gavotte.vocabulary.corpus import DEGREES, DEVICE_NAMES, FUNCTIONS, QUALITIES, LabelledLine

Floats = NDArray[np.float64]
Flags = NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Seen:
    """The notes of one line, as arrays with an entry for each."""

    line: LabelledLine

    @property
    def count(self) -> int:
        """How many notes there are."""
        return len(self.line.notes)

    def is_function(self, function: Function) -> Flags:
        """Which notes have a function."""
        return np.asarray(self.line.notes["function"] == FUNCTIONS.index(function))

    def is_device(self, device: str) -> Flags:
        """Which notes have a device."""
        return np.asarray(self.line.notes["device"] == DEVICE_NAMES.index(device))

    def is_degree(self, degree: str) -> Flags:
        """Which notes are a degree of their chord."""
        return np.asarray(self.line.notes["degree"] == DEGREES.index(degree))

    def is_over(self, quality: str) -> Flags:
        """Which notes stand over a kind of chord."""
        return np.asarray(self.line.notes["quality"] == QUALITIES.index(quality))

    @cached_property
    def over_chord(self) -> Flags:
        """Which notes stand over a written chord."""
        return np.asarray(self.line.notes["quality"] >= 0)

    @cached_property
    def begins(self) -> Flags:
        """Which notes begin a phrase."""
        return np.asarray(self.line.notes["begins"])

    @cached_property
    def ends(self) -> Flags:
        """Which notes end a phrase."""
        ends = np.zeros(self.count, np.bool_)
        ends[:-1] = self.begins[1:]
        if self.count:
            ends[-1] = True
        return ends

    @cached_property
    def phrase(self) -> NDArray[np.int64]:
        """The number of each note's phrase, from 0."""
        return np.cumsum(self.begins) - 1 if self.count else np.zeros(0, np.int64)

    @cached_property
    def step(self) -> Floats:
        """Semitones to the next note of the phrase; not a number at its end."""
        return self._to_next(self.line.notes["pitch"].astype(np.float64))

    @cached_property
    def until_next(self) -> Floats:
        """Beats from each note to the next of its phrase; not a number at its end."""
        return np.asarray(self._to_next(self.line.notes["onset"]) / self.line.notes["beat_length"], np.float64)

    def _to_next(self, values: Floats) -> Floats:
        found = np.full(self.count, np.nan)
        found[:-1] = np.diff(values)
        found[self.ends] = np.nan
        return found

    @cached_property
    def part_of_beat(self) -> Floats:
        """Where in its beat each note begins, 0 to 1."""
        return np.asarray(self.line.notes["beat"].astype(np.float64) % 1)

    @cached_property
    def arrives(self) -> Flags:
        """Which notes are the first over a new chord, the line's first note excepted."""
        notes = self.line.notes
        found = np.zeros(self.count, np.bool_)
        if self.count > 1:
            found[1:] = (notes["chord"][1:] != notes["chord"][:-1]) & self.over_chord[1:]
        return found

    @cached_property
    def is_led_to(self) -> Flags:
        """Which notes the note before leads to by a half step, a step or an enclosure."""
        targets = self.line.notes["target"]
        leading = targets[(targets >= 0) & self.is_function(Function.APPROACH)]
        found = np.zeros(self.count, np.bool_)
        found[leading[leading < self.count]] = True
        return found

    def by_phrase(self, values: Floats) -> Floats:
        """The sums of values over each phrase."""
        if not self.count:
            return np.zeros(0)
        return np.asarray(np.bincount(self.phrase, values, minlength=int(self.begins.sum())), np.float64)
