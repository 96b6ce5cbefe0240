"""The bars of a solo: numbers, onsets and lengths, from its meters, pickup and odd bars."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import Counter, deque
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from gavotte.solo.by_identity import followed_by_identity
from gavotte.solo.differences import differing
from gavotte.solo.document import MeterRegion, OddBar, Solo
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


_A_MOMENT = 1e-6
"""Quarter notes: shorter than any note, longer than what is lost in reckoning with binary fractions."""


class BarGrid:
    """All bars of a solo, up to the one its last note or chord falls in; ``onsets`` are where they begin, as floats."""

    def __init__(self, solo: Solo) -> None:
        last_chord = solo.chords[-1].onset if solo.chords else None
        self.bars, self._beat_ones, self.onsets = _bars(solo.meters, solo.odd_bars, solo.pickup, solo.end, last_chord)

    def index_at(self, onset: Fraction) -> int:
        """Index of the bar that holds ``onset``; times outside fall in the first or last bar."""
        return max(0, bisect_right(self.onsets, onset.numerator / onset.denominator) - 1)

    def sounding(self, onset: Fraction, length: Fraction) -> range:
        """Indexes of the bars in which something sounds that begins at ``onset``; where it has no ``length``, of one.

        What ends at a barline does not reach into the bar behind it.
        """
        onsets = self.onsets
        # Binary fractions are quick.
        start = onset.numerator / onset.denominator
        first = max(0, bisect_right(onsets, start) - 1)
        if first + 1 == len(onsets):
            return range(first, first + 1)
        end = start + length.numerator / length.denominator - _A_MOMENT
        return range(first, first + 1 if end < onsets[first + 1] else bisect_right(onsets, end))

    def at(self, onset: Fraction) -> Bar:
        """The bar that holds ``onset``."""
        return self.bars[self.index_at(onset)]

    def locate(self, onset: Fraction) -> tuple[Bar, Fraction]:
        """The bar that holds ``onset``, and quarter notes from where its beat 1 is (or would be)."""
        index = self.index_at(onset)
        return self.bars[index], onset - self._beat_ones[index]

    def place_of(self, above: int, below: int) -> tuple[Bar, int, int]:
        """What ``locate`` says of the onset ``above / below`` (in lowest terms), the offset as such a pair too."""
        index = max(0, bisect_right(self.onsets, above / below) - 1)
        one = self._beat_ones[index]
        if one.denominator == 1:
            return self.bars[index], above - one.numerator * below, below
        offset = Fraction(above, below) - one
        return self.bars[index], offset.numerator, offset.denominator

    def place(self, onset: Fraction) -> str:
        """ "bar 3, the and of 2"."""
        bar, offset = self.locate(onset)
        where = f"bar {bar.number}" if bar.number else "the pickup"
        return f"{where}, {bar.meter.place_name(offset)}"


def bars_written(solo: Solo) -> int:
    """How many bars have a note that starts in them."""
    return len(_notes_in_bars(solo)[1])


BarCounts = tuple[list[float], Counter[int]]
"""Where the bars begin, and how many notes start in each that has one, by its index."""


def _counts_after(before: Solo, known: BarCounts, solo: Solo) -> BarCounts | None:
    """The counts after an edit that left the bars where they are, or added or dropped some at the end."""
    grid = BarGrid(solo)
    onsets, counts = known
    common = min(len(onsets), len(grid.onsets))
    start, old_stop, new_stop = differing(before.notes, solo.notes)
    if onsets[:common] != grid.onsets[:common] or old_stop + new_stop - 2 * start > len(solo.notes) // 2:
        return None
    gone = Counter(max(0, bisect_right(onsets, _rough(note.onset)) - 1) for note in before.notes[start:old_stop])
    return grid.onsets, counts + Counter(grid.index_at(note.onset) for note in solo.notes[start:new_stop]) - gone


@followed_by_identity(2, _counts_after)
def _notes_in_bars(solo: Solo) -> BarCounts:
    grid = BarGrid(solo)
    return grid.onsets, Counter(grid.index_at(note.onset) for note in solo.notes)


def _rough(time: Fraction) -> float:
    """A time as a float, which is quick."""
    return time.numerator / time.denominator


Grid = tuple[tuple[Bar, ...], list[Fraction], list[float]]
"""The bars, where the beat 1 of each is (or would be), and their onsets."""


# Everything asks for the bars of the same few solos again and again.
@lru_cache(maxsize=64)
def _bars(
    regions: tuple[MeterRegion, ...],
    odd_bars: tuple[OddBar, ...],
    pickup: Fraction,
    end: Fraction,
    last_chord: Fraction | None,
) -> Grid:
    odd = {bar.onset: bar.length for bar in odd_bars}
    last = max([*odd, *([last_chord] if last_chord is not None else [])], default=Fraction(-1))
    laid = (regions, odd_bars, pickup)
    # Writing on at the end of a long solo only adds a bar to those that were laid out before.
    before = next((grid for known, grid in reversed(tuple(_LAID)) if known == laid), None)
    bars = [] if before is None else list(before[0][: _bars_up_to(before, end, last)])
    if pickup and not bars:
        bars.append(Bar(0, -pickup, pickup, regions[0].meter))
    onset, number, region = (bars[-1].end, bars[-1].number + 1, 0) if bars else (Fraction(0), 1, 0)
    if before is not None and len(bars) == len(before[0]) and not (onset < end or onset <= last):
        return before
    while onset < end or number == 1 or onset <= last:
        while region + 1 < len(regions) and regions[region + 1].onset <= onset:
            region += 1
        meter = regions[region].meter
        length = odd.get(onset, meter.bar_length)
        if region + 1 < len(regions) and onset < regions[region + 1].onset < onset + length:
            length = regions[region + 1].onset - onset
        bars.append(Bar(number, onset, length, meter))
        onset, number = onset + length, number + 1
    grid = tuple(bars), [bar.onset - bar.lead_in for bar in bars], [float(bar.onset) for bar in bars]
    _LAID.append((laid, grid))
    return grid


def _bars_up_to(grid: Grid, end: Fraction, last: Fraction) -> int:
    """How many of the bars begin before ``end``, or up to ``last``: bar 1 at least."""
    bars, _, onsets = grid
    count = max(bisect_left(onsets, _rough(end)), bisect_right(onsets, _rough(last)))
    while count < len(bars) and bars[count].number <= 1:
        count += 1
    return count


_LAID: deque[tuple[tuple[tuple[MeterRegion, ...], tuple[OddBar, ...], Fraction], Grid]] = deque(maxlen=4)
"""The bars laid out last, with what they follow from besides the end."""
