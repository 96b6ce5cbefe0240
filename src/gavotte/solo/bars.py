"""The bars of a solo: numbers, onsets and lengths, from its meters, pickup and odd bars."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from fractions import Fraction

from gavotte.solo.document import Solo
from gavotte.theory.meter import Meter


@dataclass(frozen=True, slots=True)
class Bar:
    """One bar: ``number`` 0 is the pickup; ``onset`` and ``length`` in quarter notes."""

    number: int
    onset: Fraction
    length: Fraction
    meter: Meter

    @property
    def end(self) -> Fraction:
        """Onset of the next bar."""
        return self.onset + self.length

    @property
    def lead_in(self) -> Fraction:
        """How far into its meter the bar starts: a pickup counts from the end of a full bar."""
        return self.meter.bar_length - self.length if self.number == 0 else Fraction(0)


class BarGrid:
    """All bars of a solo, up to the one its last note or chord falls in."""

    def __init__(self, solo: Solo) -> None:
        self.bars = _bars(solo)
        self._beat_ones = [bar.onset - bar.lead_in for bar in self.bars]
        self._onsets = [float(bar.onset) for bar in self.bars]

    def index_at(self, onset: Fraction) -> int:
        """Index of the bar that holds ``onset``; times outside fall in the first or last bar."""
        return max(0, bisect_right(self._onsets, onset.numerator / onset.denominator) - 1)

    def at(self, onset: Fraction) -> Bar:
        """The bar that holds ``onset``."""
        return self.bars[self.index_at(onset)]

    def locate(self, onset: Fraction) -> tuple[Bar, Fraction]:
        """The bar that holds ``onset``, and quarter notes from where its beat 1 is (or would be)."""
        index = self.index_at(onset)
        return self.bars[index], onset - self._beat_ones[index]

    def place(self, onset: Fraction) -> str:
        """ "bar 3, the and of 2"."""
        bar, offset = self.locate(onset)
        where = f"bar {bar.number}" if bar.number else "the pickup"
        return f"{where}, {bar.meter.place_name(offset)}"


def bars_written(solo: Solo) -> int:
    """How many bars have a note that starts in them."""
    grid = BarGrid(solo)
    return len({grid.index_at(note.onset) for note in solo.notes})


def _bars(solo: Solo) -> tuple[Bar, ...]:
    regions = solo.meters
    odd = {bar.onset: bar.length for bar in solo.odd_bars}
    bars: list[Bar] = []
    if solo.pickup:
        bars.append(Bar(0, -solo.pickup, solo.pickup, regions[0].meter))
    onset, number, region, end = Fraction(0), 1, 0, solo.end
    last_odd = max(odd, default=Fraction(-1))
    while onset < end or number == 1 or onset <= last_odd or (solo.chords and solo.chords[-1].onset >= onset):
        while region + 1 < len(regions) and regions[region + 1].onset <= onset:
            region += 1
        meter = regions[region].meter
        length = odd.get(onset, meter.bar_length)
        if region + 1 < len(regions) and onset < regions[region + 1].onset < onset + length:
            length = regions[region + 1].onset - onset
        bars.append(Bar(number, onset, length, meter))
        onset, number = onset + length, number + 1
    return tuple(bars)
