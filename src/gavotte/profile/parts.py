"""Parts of solos that are compared in place of the whole: a chorus, a section of the form."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from gavotte.profile.seen import Flags
from gavotte.vocabulary.corpus import LabelledLine


class PartKind(StrEnum):
    """Which part of a solo is meant."""

    WHOLE = "whole"
    FIRST = "first"
    LAST = "last"
    CHORUS = "chorus"
    SECTION = "section"


@dataclass(frozen=True, slots=True)
class Part:
    """A part of a solo; ``value`` is the number of the chorus, or the name of the section."""

    kind: PartKind = PartKind.WHOLE
    value: str = ""

    @property
    def code(self) -> str:
        """How settings and the command line write it: "whole", "chorus=2", "section=A"."""
        return f"{self.kind}={self.value}" if self.value else str(self.kind)

    @staticmethod
    def of(code: str) -> Part | None:
        """The part a code stands for, None for any other text."""
        kind, _, value = code.partition("=")
        if kind not in set(PartKind):
            return None
        part = Part(PartKind(kind), value)
        needs_value = part.kind in (PartKind.CHORUS, PartKind.SECTION)
        is_right = value.isdecimal() if part.kind is PartKind.CHORUS else bool(value) == needs_value
        return part if is_right else None


WHOLE = Part()


def parts_in(lines: Sequence[LabelledLine]) -> list[Part]:
    """The parts some solos have: the whole, choruses where there are several, sections by their names."""
    most = max((int(line.notes["chorus"].max(initial=0)) for line in lines), default=0)
    found = [WHOLE]
    if most > 1:
        found += [Part(PartKind.FIRST), Part(PartKind.LAST)]
        found += [Part(PartKind.CHORUS, str(number)) for number in range(2, most + 1)]
    names = sorted({name for line in lines for name in line.sections if name})
    return [*found, *(Part(PartKind.SECTION, name) for name in names)]


def part_of(line: LabelledLine, part: Part) -> LabelledLine:
    """A line's notes that belong to a part; a phrase that reaches over its edge is cut there."""
    return line if part.kind is PartKind.WHOLE else _cut(line, _inside(line, part))


def _inside(line: LabelledLine, part: Part) -> Flags:
    notes = line.notes
    chorus = notes["chorus"]
    if part.kind is PartKind.SECTION:
        there = part.value in line.sections
        return np.asarray(notes["section"] == line.sections.index(part.value)) if there else np.zeros(len(notes), bool)
    wanted = {PartKind.FIRST: 1, PartKind.LAST: int(chorus.max(initial=0))}.get(part.kind)
    number = int(part.value) if wanted is None else wanted
    return np.asarray((chorus == number) & (chorus > 0))


def _cut(line: LabelledLine, inside: Flags) -> LabelledLine:
    """The notes that are ``inside``; what led to others leads nowhere."""
    rows = np.flatnonzero(inside)
    notes = line.notes[rows].copy()
    if len(rows):
        place = np.full(len(line.notes) + 1, -1, np.int64)
        place[rows] = np.arange(len(rows))
        for name in ("target", "figure"):
            notes[name] = place[notes[name]]
        follows = np.concatenate([[False], np.diff(rows) == 1])
        notes["begins"] |= ~follows
        notes["rest"][:-1] |= ~follows[1:]
        notes["rest"][-1] = True
    return LabelledLine(notes, line.chords, line.contexts, line.sections)
