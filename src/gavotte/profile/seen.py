"""A labelled line as the figures see it: what each note is, where in its phrase it stands, and what follows."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gavotte.solo.document import Function
from gavotte.vocabulary.corpus import DEGREES, DEVICE_NAMES, FUNCTIONS, QUALITIES, LabelledLine

_ROLES = ("ii", "V", "I")
_DOMINANT = (QUALITIES.index("dominant"), QUALITIES.index("sus"))

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
        found = np.zeros(self.count, np.bool_)
        found[self.leads_to[self.leads_to >= 0]] = True
        return found

    @cached_property
    def leads_to(self) -> NDArray[np.int64]:
        """The note each approach leads to, by its place in the line; -1 for all other notes."""
        targets = self.line.notes["target"].astype(np.int64)
        leads = (targets >= 0) & (targets < self.count) & self.is_function(Function.APPROACH)
        return np.where(leads, targets, -1)

    @cached_property
    def since(self) -> Floats:
        """Beats since the chord under each note was reached."""
        return np.asarray(self.line.notes["since"] / self.line.notes["beat_length"], np.float64)

    @cached_property
    def quarter(self) -> NDArray[np.int64]:
        """Which quarter of its chorus each note stands in, from 0; -1 outside of any."""
        bar, bars = self.line.notes["form_bar"], np.maximum(1, self.line.notes["form_bars"])
        return np.where(bar < 0, -1, np.minimum(3, 4 * bar.astype(np.int64) // bars))

    @cached_property
    def beat_pattern(self) -> NDArray[np.int64]:
        """At the first note of each beat the twelfths of it at which notes begin, as bits; 0 at all other notes."""
        notes, found = self.line.notes, np.zeros(self.count, np.int64)
        if self.count:
            twelfths = np.round(12 * notes["beat"].astype(np.float64)).astype(np.int64)
            beats = twelfths // 12
            firsts = np.flatnonzero(np.concatenate([[True], (np.diff(beats) != 0) | (np.diff(notes["number"]) != 0)]))
            found[firsts] = np.bitwise_or.reduceat(1 << (twelfths % 12), firsts)
        return found

    def is_role(self, role: str) -> Flags:
        """Which notes stand on the ii, the V or the I (``role``) of a ii-V or ii-V-I, major or minor."""
        return np.asarray(self._roles == _ROLES.index(role))

    @cached_property
    def _roles(self) -> NDArray[np.int64]:
        """The place in ``_ROLES`` of each note's chord, -1 where it belongs to no such progression.

        What comes before the dominant is the ii, what is reached from it the I.
        """
        names = [
            next((part for part in name.split("; ") if "ii-V" in part.partition("@")[0]), "")
            for name in self.line.contexts
        ]
        notes = self.line.notes
        found = np.full(self.count, -1, np.int64)
        progression, was_fifth = "", False
        for row in range(self.count):
            name = names[notes["context"][row]]
            if name != progression:
                progression, was_fifth = name, False
            quality = int(notes["quality"][row])
            if not name or quality < 0:
                continue
            is_fifth = quality in _DOMINANT
            found[row] = 1 if is_fifth else 2 if was_fifth else 0
            was_fifth = was_fifth or is_fifth
        return found

    def by_phrase(self, values: Floats) -> Floats:
        """The sums of values over each phrase."""
        if not self.count:
            return np.zeros(0)
        return np.asarray(np.bincount(self.phrase, values, minlength=int(self.begins.sum())), np.float64)
