"""The beat map: where the beats of a solo lie in its recording, and the way from one to the other.

A map is made by tapping or detection and corrected by hand; tempo may change from beat to beat. Beats are those of the
solo's meter (dotted ones in 12/8).
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise
from math import floor
from statistics import median

from gavotte.solo.bars import BarGrid
from gavotte.solo.swing import goes_along, share_of, swung_part, unswung_part

_A_MOMENT = 1e-6
CLOSEST = 0.1
"""Seconds two beats are apart at least."""


@dataclass(frozen=True)
class BeatMap:
    """``times``: seconds of successive beats, rising. ``downbeat``: which of them (from 0) is beat 1 of bar 1.

    ``swing``: how many times as long the first of two eighths is heard as the second; 1 where they are even.
    """

    times: tuple[float, ...] = ()
    downbeat: int = 0
    swing: Fraction = Fraction(1)

    @property
    def is_usable(self) -> bool:
        """Whether it says anything: two beats make a tempo."""
        return len(self.times) >= 2

    def nearest(self, seconds: float) -> int | None:
        """The index of the beat nearest to a time."""
        if not self.times:
            return None
        index = bisect_left(self.times, seconds)
        return min(
            (i for i in (index - 1, index) if 0 <= i < len(self.times)), key=lambda i: abs(self.times[i] - seconds)
        )

    def beats_a_minute(self, index: int) -> float | None:
        """The tempo around a beat, from the beats beside it."""
        low, high = max(0, index - 2), min(len(self.times) - 1, index + 2)
        return 60 * (high - low) / (self.times[high] - self.times[low]) if high > low else None


def from_taps(taps: Iterable[float]) -> BeatMap:
    """The map of a run of taps; of two that are closer than anybody taps the first counts."""
    times: list[float] = []
    for tap in sorted(taps):
        if not times or tap - times[-1] >= CLOSEST:
            times.append(tap)
    return BeatMap(tuple(times))


def with_taps(beats: BeatMap, taps: Iterable[float]) -> BeatMap:
    """The map with new taps in the place of the beats they run over."""
    new = from_taps(taps).times
    if not new:
        return beats
    usual = median(b - a for a, b in pairwise(new)) if len(new) > 1 else 0.0
    kept = [time for time in beats.times if time < new[0] - usual / 2 or time > new[-1] + usual / 2]
    return _with_times(beats, [*kept, *new])


def with_beat_moved(beats: BeatMap, index: int, seconds: float) -> BeatMap:
    """A beat at another time, between its neighbours."""
    low = beats.times[index - 1] + CLOSEST if index > 0 else 0.0
    high = beats.times[index + 1] - CLOSEST if index + 1 < len(beats.times) else float("inf")
    if low > high:
        return beats
    times = list(beats.times)
    times[index] = min(max(seconds, low), high)
    return replace(beats, times=tuple(times))


def with_beat(beats: BeatMap, seconds: float) -> BeatMap:
    """A beat more; none where another is too close."""
    if any(abs(time - seconds) < CLOSEST for time in beats.times):
        return beats
    return _with_times(beats, [*beats.times, seconds])


def without_beat(beats: BeatMap, index: int) -> BeatMap:
    """A beat less."""
    return _with_times(beats, [time for i, time in enumerate(beats.times) if i != index])


def with_downbeat(beats: BeatMap, index: int) -> BeatMap:
    """Beat 1 of bar 1 at this beat."""
    return replace(beats, downbeat=max(0, min(index, len(beats.times) - 1)))


def doubled(beats: BeatMap) -> BeatMap:
    """A beat more between each two: the taps were half as fast as the beat."""
    times = [t for a, b in pairwise(beats.times) for t in (a, (a + b) / 2)]
    return BeatMap((*times, *beats.times[-1:]), 2 * beats.downbeat)


def halved(beats: BeatMap) -> BeatMap:
    """Every second beat, counted from the downbeat."""
    first = beats.downbeat % 2
    return BeatMap(beats.times[first::2], (beats.downbeat - first) // 2)


def continued(beats: BeatMap, until: float) -> BeatMap:
    """The map carried on to ``until`` at the tempo of its last beats."""
    if not beats.is_usable:
        return beats
    step = max(CLOSEST, median(b - a for a, b in pairwise(beats.times[-9:])))
    times = list(beats.times)
    while times[-1] + step <= until:
        times.append(times[-1] + step)
    return replace(beats, times=tuple(times))


def _with_times(beats: BeatMap, times: Iterable[float]) -> BeatMap:
    """Other times; the downbeat stays at the beat it was, or at the nearest."""
    anchor = beats.times[beats.downbeat] if beats.downbeat < len(beats.times) else 0.0
    changed = replace(beats, times=tuple(sorted(times)))
    return replace(changed, downbeat=changed.nearest(anchor) or 0)


class Alignment:
    """The way between a solo's written time (quarter notes) and a recording's seconds, by a beat map and its swing.

    Between beats what is played runs evenly; before the first and after the last at the tempo there.
    """

    def __init__(self, beats: BeatMap, grid: BarGrid) -> None:
        """For a usable map; raises ValueError for another."""
        if not beats.is_usable:
            raise ValueError("a map of fewer than two beats aligns nothing")
        self.beats, self.grid = beats, grid
        self._share, self._swings = float(share_of(beats.swing)), beats.swing != 1
        self._onsets = _beat_onsets(grid, len(beats.times) - beats.downbeat, beats.downbeat)
        self._seconds = list(beats.times[: len(self._onsets)])

    @property
    def beat_seconds(self) -> float:
        """How long a beat usually lasts."""
        return median(after - before for before, after in pairwise(self.beats.times))

    def seconds(self, onset: Fraction) -> float:
        """Where in the recording a written time is heard."""
        time = onset.numerator / onset.denominator
        index = _segment(self._onsets, time)
        if self._swings and goes_along(onset) and self._is_quarter(index):
            beat = self._onsets[index - 1] + floor(time - self._onsets[index - 1])
            time = beat + swung_part(time - beat, self._share)
        return _between(self._onsets, self._seconds, index, time)

    def quarters(self, seconds: float) -> float:
        """The written time that is heard at a place of the recording."""
        index = _segment(self._seconds, seconds)
        time = _between(self._seconds, self._onsets, index, seconds)
        if self._swings and self._is_quarter(index):
            beat = self._onsets[index - 1] + floor(time - self._onsets[index - 1])
            time = beat + unswung_part(time - beat, self._share)
        return time

    def played(self, seconds: float) -> float:
        """The time in quarter notes at a place of the recording as it is played, swing and all."""
        return _between(self._seconds, self._onsets, _segment(self._seconds, seconds), seconds)

    def _is_quarter(self, index: int) -> bool:
        """Whether the beat that ends at an index lasts a quarter note: others are not swung."""
        return abs(self._onsets[index] - self._onsets[index - 1] - 1) < _A_MOMENT

    def bars(self) -> list[tuple[float, int]]:
        """(seconds, number) of each bar's start, within the beats there are."""
        end = self._onsets[-1]
        return [
            (self.seconds(bar.onset), bar.number)
            for bar in self.grid.bars
            if bar.number > 0 and self._onsets[0] <= bar.onset <= end
        ]


def _beat_onsets(grid: BarGrid, after: int, before: int) -> list[float]:
    """The written times of ``before`` beats leading up to bar 1 and ``after`` from it on."""
    onsets: list[float] = []
    bars = [bar for bar in grid.bars if bar.number > 0]
    for bar in bars:
        for beat in bar.meter.beats:
            if bar.onset + beat.offset < bar.end:
                onsets.append(float(bar.onset + beat.offset))
    last = bars[-1]
    start = last.end
    while len(onsets) < after:
        # The recording goes on after the solo: so do its bars.
        onsets += [float(start + beat.offset) for beat in last.meter.beats]
        start += last.meter.bar_length
    first = float(bars[0].meter.beats[0].length)
    lead = [float(bars[0].onset) - first * (before - k) for k in range(before)]
    return [*lead, *onsets[:after]]


def _segment(xs: list[float], x: float) -> int:
    """The index of the one behind a place: the last or first pair goes on beyond the ends."""
    return min(max(bisect_right(xs, x), 1), len(xs) - 1)


def _between(xs: list[float], ys: list[float], index: int, x: float) -> float:
    x0, x1, y0, y1 = xs[index - 1], xs[index], ys[index - 1], ys[index]
    return y0 + (x - x0) * (y1 - y0) / (x1 - x0)
