"""Two sets side by side: what each figure comes to in both, and how they differ."""

from __future__ import annotations

from collections.abc import Generator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from gavotte.profile.comparison import Difference, differences
from gavotte.profile.figures import FIGURES, Figure
from gavotte.profile.measured import Counts, Measured, Value, counts_of
from gavotte.profile.parts import WHOLE, Part, part_of
from gavotte.steps import scaled
from gavotte.vocabulary.corpus import LabelledLine

_COUNTING = 0.9
Known = dict[tuple[str, int], Counts]
"""What was counted before, by a solo's id and the hash of its line."""


@dataclass(frozen=True)
class Row:
    """A figure in both sets, and its difference; None for what can't be told or compared."""

    figure: Figure
    here: Value | None
    there: Value | None
    difference: Difference | None

    @property
    def stands_out(self) -> bool:
        """Whether it is told as a difference."""
        return self.difference is not None and self.difference.stands_out


@dataclass(frozen=True)
class Side:
    """One of the sets: the ids of its solos with their lines."""

    ids: tuple[str, ...]
    lines: tuple[LabelledLine, ...]

    @property
    def notes(self) -> int:
        """How many notes they have."""
        return sum(len(line.notes) for line in self.lines)


@dataclass(frozen=True)
class Compared:
    """Both sides, and a row for each figure that can be told in one of them, in the order of ``FIGURES``."""

    here: Side
    there: Side
    rows: tuple[Row, ...]

    @property
    def apart(self) -> list[Row]:
        """What sets them apart, the greatest difference first."""
        return [row for row in self.farthest if row.stands_out]

    @cached_property
    def farthest(self) -> list[Row]:
        """Every figure that can be compared, the greatest difference first, whether chance could bring it or not."""
        told = [row for row in self.rows if row.difference is not None]
        return sorted(told, key=lambda row: -abs(row.difference.z) if row.difference is not None else 0.0)


def compared(here: Side, there: Side, known: Known) -> Generator[float, None, Compared]:
    """Compare two sets, yielding the share that is done. What is counted anew is put into ``known``."""
    middle = _COUNTING * len(here.ids) / max(1, len(here.ids) + len(there.ids))
    first = yield from scaled(counted(here, known), 0.0, middle)
    other = yield from scaled(counted(there, known), middle, _COUNTING)
    both = [Measured(tuple(first)), Measured(tuple(other))]
    values = [_values(one) for one in both]
    apart = {one.figure.name: one for one in differences(both[0], both[1])}
    yield 1.0
    rows = [
        Row(figure, values[0].get(figure.name), values[1].get(figure.name), apart.get(figure.name))
        for figure in FIGURES
    ]
    told = tuple(row for row in rows if any(v is not None and v.value for v in (row.here, row.there)))
    return Compared(here, there, told)


def counted(side: Side, known: Known) -> Generator[float, None, list[Counts]]:
    """What is counted in the solos of a side, yielding the share that is done. What is new is put into ``known``."""
    found = []
    for number, (solo_id, line) in enumerate(zip(side.ids, side.lines, strict=True), 1):
        key = (solo_id, hash(line.notes.tobytes()))
        if key not in known:
            known[key] = counts_of(line)
        found.append(known[key])
        yield number / len(side.ids)
    return found


def _values(one: Measured) -> dict[str, Value]:
    return {value.figure.name: value for value in one.values()} if one.solos else {}


def side_of(ids: Sequence[str], by_id: Mapping[str, LabelledLine], part: Part = WHOLE) -> Side:
    """The side of some solos, or of a part of each; those without a line, or without that part, are left out."""
    there = [(name, part_of(by_id[name], part)) for name in ids if name in by_id]
    there = [(name, line) for name, line in there if len(line.notes)]
    return Side(tuple(name for name, _ in there), tuple(line for _, line in there))
