"""Meters: bar length, beats, the strong ones, and how beats are grouped. Lengths in quarter notes."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

MAX_COUNT = 64
"""No meter counts further than this."""

_DEFAULT_GROUPING = {5: (3, 2), 7: (4, 3), 8: (3, 3, 2), 10: (3, 3, 2, 2), 11: (3, 3, 3, 2)}


class MeterError(ValueError):
    """A text or grouping that makes no meter."""


@dataclass(frozen=True, slots=True)
class Beat:
    """One beat of a bar: ``offset`` from the barline and ``length`` in quarter notes."""

    offset: Fraction
    length: Fraction
    strong: bool


@dataclass(frozen=True, slots=True)
class Meter:
    """``count``/``unit`` as written, and ``grouping`` of the counted units, as (3, 2) in 5/4."""

    count: int
    unit: int
    grouping: tuple[int, ...] = ()

    def __post_init__(self) -> None:
        if not 1 <= self.count <= MAX_COUNT or self.unit not in (1, 2, 4, 8, 16, 32, 64):
            raise MeterError(f"{self.count}/{self.unit} is no meter")
        if self.grouping and (sum(self.grouping) != self.count or min(self.grouping) < 1):
            raise MeterError(f"the groups {'+'.join(map(str, self.grouping))} don't add up to {self.count}")

    @classmethod
    def parse(cls, text: str, grouping: str = "") -> Meter:
        """Read "5/4" with an optional grouping "3+2". Raises MeterError."""
        try:
            count, unit = (int(part) for part in text.split("/"))
            groups = tuple(int(part) for part in grouping.split("+")) if grouping else ()
        except ValueError:
            raise MeterError(f"{text!r} {grouping!r} is no meter; write it as 4/4, or 5/4 with 3+2") from None
        return cls(count, unit, groups)

    @property
    def bar_length(self) -> Fraction:
        """Quarter notes in a bar."""
        return Fraction(4 * self.count, self.unit)

    @property
    def is_compound(self) -> bool:
        """Whether the beat is dotted: 6/8, 9/8, 12/8."""
        return self.unit >= 8 and self.count % 3 == 0 and self.count > 3 and not self.grouping

    @property
    def beats(self) -> tuple[Beat, ...]:
        """The bar's beats, in order.

        Compound meters beat in dotted units; eighths in irregular groups beat by the group; cut time is
        felt in quarter notes. The first beat is strong, and with it the third of four and each group's first.
        """
        return _beats(self)

    def beat_at(self, offset: Fraction) -> tuple[int, Beat]:
        """The index and the beat that ``offset`` (quarter notes after the barline) falls in."""
        return _beat_at(self, offset)

    def place_name(self, offset: Fraction) -> str:
        """Where in the bar, as a player counts: "beat 2", "the and of 2", "the last triplet of 3"."""
        return _place_name(self, offset)

    def __str__(self) -> str:
        return f"{self.count}/{self.unit}"


@lru_cache(maxsize=256)
def _beats(meter: Meter) -> tuple[Beat, ...]:
    unit = Fraction(4, meter.unit)
    if meter.is_compound:
        count = meter.count // 3
        return _even(count, 3 * unit, {0, 2} if count == 4 else {0})
    if meter.unit >= 8 and meter.count > 3:
        groups = meter.grouping or _DEFAULT_GROUPING.get(meter.count) or (meter.count,)
        beats, offset = [], Fraction(0)
        for size in groups:
            beats.append(Beat(offset, size * unit, True))
            offset += size * unit
        return tuple(beats)
    if meter.unit <= 2:
        per_unit = 4 // meter.unit
        return _even(meter.count * per_unit, Fraction(1), set(range(0, meter.count * per_unit, 2)))
    if meter.grouping or meter.count > 4:
        strong, position = set(), 0
        for size in meter.grouping or _DEFAULT_GROUPING.get(meter.count) or (meter.count,):
            strong.add(position)
            position += size
        return _even(meter.count, unit, strong)
    return _even(meter.count, unit, {0, 2} if meter.count == 4 else {0})


@lru_cache(maxsize=4096)
def _beat_at(meter: Meter, offset: Fraction) -> tuple[int, Beat]:
    beats = meter.beats
    for index in range(len(beats) - 1, -1, -1):
        if beats[index].offset <= offset:
            return index, beats[index]
    return 0, beats[0]


@lru_cache(maxsize=4096)
def _place_name(meter: Meter, offset: Fraction) -> str:
    index, beat = meter.beat_at(offset)
    part = (offset - beat.offset) / beat.length
    count = index + 1
    if part == 0:
        return f"beat {count}"
    if meter.is_compound:
        names = {
            Fraction(1, 3): "the second eighth of",
            Fraction(2, 3): "the third eighth of",
            Fraction(1, 2): "the middle of",
        }
    else:
        names = {
            Fraction(1, 2): "the and of",
            Fraction(1, 4): "the second sixteenth of",
            Fraction(3, 4): "the last sixteenth of",
            Fraction(1, 3): "the second triplet of",
            Fraction(2, 3): "the last triplet of",
        }
    return f"{names.get(part, 'just after')} {'beat ' if part not in names else ''}{count}"


def _even(count: int, length: Fraction, strong: set[int]) -> tuple[Beat, ...]:
    return tuple(Beat(i * length, length, i in strong) for i in range(count))


COMMON_TIME = Meter(4, 4)
