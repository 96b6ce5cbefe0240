"""A score's parts on one common time line: its bars, their lengths and numbers, in the order they are read."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from collections.abc import Mapping
from fractions import Fraction

from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml_part import Part, measure_lengths, read_part
from gavotte.theory.meter import COMMON_TIME

MAX_BAR = 64
"""Quarter notes a bar may last at the most; free cadenzas stay far below."""


class Reading:
    """Parts read from bars in a certain order. Raises FormatError where a bar can't be right.

    ``lengths`` are those of the bars in quarter notes; ``tempos`` are (onset, quarter notes a minute) from all
    parts. Positions count from the start of the score.
    """

    def __init__(self, measures: Mapping[str, list[ET.Element]], names: Mapping[str, str]) -> None:
        self.lengths = measure_lengths(dict(measures))
        first = next(iter(measures.values()), [])
        self._numbers = [measure.get("number", "") for measure in first]
        self._implicit = [measure.get("implicit") == "yes" for measure in first]
        for number, length in zip(self._numbers, self.lengths, strict=False):
            if length > MAX_BAR:
                raise FormatError(
                    f"Bar {number} would last {float(length):g} quarter notes; its note lengths can't be right."
                )
        self.parts = {
            part_id: read_part(part_id, names.get(part_id, ""), bars, self.lengths)
            for part_id, bars in measures.items()
        }
        self.tempos = [tempo for part in self.parts.values() for tempo in part.tempos]

    @property
    def pickup(self) -> Fraction:
        """Length of an incomplete first bar, 0 where there is none."""
        meters = [meter for part in self.parts.values() for onset, meter in part.meters if onset == 0]
        full = meters[0].bar_length if meters else Fraction(4)
        first = self.lengths[0] if self.lengths else full
        marked = self._implicit[0] or self._numbers[0] == "0"
        is_pickup = len(self.lengths) > 1 and 0 < first < full and (marked or first <= full / 2)
        return first if is_pickup else Fraction(0)

    def odd_bars(self, part: Part) -> list[tuple[Fraction, Fraction]]:
        """(onset, length) of the bars that are not as long as their meter says; the pickup is none of them.

        Two bars that make up one full bar together (the halves around a repeat sign) count as that bar.
        """
        odd: list[tuple[Fraction, Fraction]] = []
        onset = Fraction(0)
        changes = dict(part.meters)
        meter = COMMON_TIME
        for index, length in enumerate(self.lengths):
            meter = changes.get(onset, meter)
            if length != meter.bar_length and not (index == 0 and self.pickup):
                last = odd[-1] if odd else None
                if last is not None and sum(last) == onset and last[1] + length == meter.bar_length:
                    odd.pop()
                else:
                    odd.append((onset, length))
            onset += length
        return odd

    def bar_number(self, onset: Fraction) -> str:
        """The number of the bar that holds a position, as written."""
        position = Fraction(0)
        for number, length in zip(self._numbers, self.lengths, strict=False):
            if position + length > onset:
                return number
            position += length
        return self._numbers[-1] if self._numbers else "?"
