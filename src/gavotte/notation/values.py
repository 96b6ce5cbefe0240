"""Note values: which lengths one notehead or rest can have, and how longer ones are split.

Lengths are in quarter notes. The splitting keeps the middle of the bar and the beats visible, the way
G. Read, *Music Notation* (1979), ch. 8, asks for.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from gavotte.theory.meter import Meter

_SHORTEST = Fraction(1, 32)


@dataclass(frozen=True, slots=True)
class Value:
    """A written value: ``base`` as in MEI (4 is a quarter), with dots."""

    base: int
    dots: int

    @property
    def length(self) -> Fraction:
        """Quarter notes."""
        plain = Fraction(4, self.base)
        return plain * (2 - Fraction(1, 2**self.dots))


_VALUES = {Value(base, dots).length: Value(base, dots) for dots in (2, 1, 0) for base in (1, 2, 4, 8, 16, 32, 64)}
_COMMON = sorted((length for length, value in _VALUES.items() if value.dots < 2), reverse=True)


def value_of(length: Fraction) -> Value | None:
    """The single written value of a length, if there is one."""
    return _VALUES.get(length)


def nearest_value(length: Fraction) -> Value:
    """The longest plain or dotted value that fits into a length (for lengths no value has)."""
    return _VALUES[next((c for c in _COMMON if c <= length), _COMMON[-1])]


@lru_cache(maxsize=8192)
def split_at_beats(start: Fraction, end: Fraction, meter: Meter, rest: bool) -> tuple[tuple[Fraction, Fraction], ...]:
    """Cut a sounding or silent stretch of one bar into (start, end) pieces that each have a written value.

    Positions are offsets from the barline.
    """
    beats = meter.beats
    bar_end = meter.bar_length
    strong = [beat.offset for beat in beats if beat.strong and beat.offset > 0]
    edges = {beat.offset for beat in beats} | {bar_end}
    for middle in strong:
        if start < middle < end and not _may_cross_middle(start, end, meter, edges, rest):
            return split_at_beats(start, middle, meter, rest) + split_at_beats(middle, end, meter, rest)
    inner = sorted(edge for edge in edges if start < edge < end)
    if inner and not _may_cross_beats(start, end, meter, edges, rest):
        cut = inner[0] if start not in edges else inner[-1]
        return split_at_beats(start, cut, meter, rest) + split_at_beats(cut, end, meter, rest)
    return _whole_values(start, end)


def _may_cross_middle(start: Fraction, end: Fraction, meter: Meter, edges: set[Fraction], rest: bool) -> bool:
    if value_of(end - start) is None or start not in edges or end not in edges:
        return False
    if start == 0:
        return not rest or end == meter.bar_length
    return not rest and meter.count == 4 and end - start == 2


def _may_cross_beats(start: Fraction, end: Fraction, meter: Meter, edges: set[Fraction], rest: bool) -> bool:
    value = value_of(end - start)
    if value is None or value.dots > 1:
        return False
    if start in edges:
        return end in edges or (not rest and not meter.is_compound and value.dots == 1 and value.base == 4)
    if rest or meter.is_compound:
        return False
    # A syncopation: an eighth off the beat, lasting to an eighth off the beat or to a beat.
    half = Fraction(1, 2)
    return start % half == 0 and end % half == 0


def _whole_values(start: Fraction, end: Fraction) -> tuple[tuple[Fraction, Fraction], ...]:
    pieces = []
    while end - start >= _SHORTEST / 2:
        length = end - start
        value = value_of(length)
        piece = length if value else min(nearest_value(length).length, length)
        pieces.append((start, start + piece))
        start += piece
    return tuple(pieces)
