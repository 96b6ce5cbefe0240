"""What a change costs: which notes of a result do something else than in the source, and where it gets hard to play."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from gavotte.labelling.labeller import Labelled
from gavotte.workshop.piece import Piece

_USUAL_TEMPO = 120.0
_HARD = ((12, 0.3), (7, 0.16), (5, 0.09))
"""Leaps of more than so many semitones within less than so many seconds are hard to play."""


class Toll(StrEnum):
    """What can be wrong with, or other about, a note of a result."""

    DEGREE = "another degree"
    GOAL = "another goal"
    CLASH = "held clash"
    RANGE = "out of range"
    LEAP = "hard leap"


@dataclass(frozen=True)
class Cost:
    """The tolls of a result's notes (by id) and what was kept: ``degrees`` and ``goals`` of how many in the source.

    ``added`` counts notes that were made of none of the source's, ``left_out`` those of the source nothing was made of.
    """

    tolls: Mapping[str, frozenset[Toll]]
    degrees: tuple[int, int]
    goals: tuple[int, int]
    added: int
    left_out: int

    def count(self, toll: Toll) -> int:
        """How many notes have a toll."""
        return sum(toll in tolls for tolls in self.tolls.values())

    @property
    def words(self) -> str:
        """It in a line: "7 of 9 degrees kept, both goals kept, 1 hard leap"."""
        said = [_kept(*self.degrees, "degree"), _kept(*self.goals, "goal"), self.hard_words]
        if self.added:
            said.append(f"{self.added} added")
        if self.left_out:
            said.append(f"{self.left_out} left out")
        return ", ".join(filter(None, said))

    @property
    def hard_words(self) -> str:
        """What of it clashes or is hard to play: "1 hard leap"."""
        counts = [(toll, self.count(toll)) for toll in (Toll.CLASH, Toll.RANGE, Toll.LEAP)]
        return ", ".join(_PLURALS[toll][number != 1].format(number) for toll, number in counts if number)


_PLURALS = {
    Toll.CLASH: ("{} held clash", "{} held clashes"),
    Toll.RANGE: ("{} note out of range", "{} notes out of range"),
    Toll.LEAP: ("{} hard leap", "{} hard leaps"),
}


def _kept(kept: int, of: int, noun: str) -> str:
    if not of:
        return ""
    if kept == of:
        return f"every {noun} kept"
    return f"{kept} of {of} {noun}s kept"


def cost_of(source: Piece, result: Piece) -> Cost:
    """What a result cost against its source."""
    old, new = source.labelled, result.labelled
    before = {label.note: label for label in old.labels}
    origins = result.origins
    tolls: dict[str, set[Toll]] = {label.note: set() for label in new.labels}
    kept = goals_kept = goals = made = 0
    for label in new.labels:
        origin = before.get(origins.get(label.note, ""))
        if origin is None:
            continue
        made += 1
        if _number(origin.degree) == _number(label.degree):
            kept += 1
        else:
            tolls[label.note].add(Toll.DEGREE)
        if origin.target is not None:
            goals += 1
            if label.target is not None and origins.get(label.target) == origin.target:
                goals_kept += 1
            else:
                tolls[label.note].add(Toll.GOAL)
    _of_playing(new, tolls)
    used = set(origins.values())
    return Cost(
        {note: frozenset(own) for note, own in tolls.items() if own},
        (kept, made),
        (goals_kept, goals),
        len(new.labels) - made,
        sum(label.note not in used for label in old.labels),
    )


_SIMPLE = {"9": "2", "11": "4", "13": "6"}


def _number(degree: str) -> str:
    """The number of a degree, whatever its accidental: a ♭3 does what a 3 does."""
    bare = degree.lstrip("b#")
    return _SIMPLE.get(bare, bare)


def _of_playing(found: Labelled, tolls: Mapping[str, set[Toll]]) -> None:
    """Add what is hard about a line in itself."""
    solo, notes = found.solo, found.frame.notes
    seconds = 60.0 / float(solo.tempo or _USUAL_TEMPO)
    for framed, label in zip(notes, found.labels, strict=True):
        if label.device == "clash" and framed.held:
            tolls[label.note].add(Toll.CLASH)
        if not solo.instrument.lowest <= framed.pitch <= solo.instrument.highest:
            tolls[label.note].add(Toll.RANGE)
    for first, second in pairwise(notes):
        leap = abs(second.pitch - first.pitch)
        time = float(second.note.onset - first.note.onset) * seconds
        if any(leap > semitones and time < limit for semitones, limit in _HARD):
            tolls[second.note.id].add(Toll.LEAP)
