"""What a band reads: the chords while they last, the beats of bars, and keynotes."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.solo.bars import Bar
from gavotte.solo.document import Solo
from gavotte.sounding.timeline import Timeline
from gavotte.theory.chord import Chord
from gavotte.theory.voicing import voicings


@dataclass(frozen=True, slots=True)
class Span:
    """A chord while it lasts, in quarter notes, and its voicing from the bass up."""

    start: Fraction
    end: Fraction
    chord: Chord
    voicing: tuple[int, ...]


class HarmonyHeard:
    """The chords of a solo as its band hears them, its pickup excepted. ``bars`` are those the band plays."""

    def __init__(self, solo: Solo, timeline: Timeline) -> None:
        self.end = timeline.end
        self.bars = [bar for bar in timeline.grid.bars if bar.number > 0]
        ends = [*(event.onset for event in solo.chords[1:]), timeline.end]
        named = [
            (max(Fraction(0), event.onset), end, symbol)
            for event, end in zip(solo.chords, ends, strict=False)
            if isinstance(symbol := event.symbol, Chord) and end > max(Fraction(0), event.onset)
        ]
        found = voicings(chord for _, _, chord in named)
        self.spans = [
            Span(start, end, chord, voicing) for (start, end, chord), voicing in zip(named, found, strict=True)
        ]
        self._starts = [float(span.start) for span in self.spans]
        self._keys = [(float(region.onset), region.key.tonic.pitch_class) for region in solo.keys]

    def span_at(self, onset: Fraction) -> Span | None:
        """The chord that sounds at a time, None for none."""
        index = bisect_right(self._starts, onset.numerator / onset.denominator) - 1
        return self.spans[index] if index >= 0 and onset < self.spans[index].end else None

    def share_behind(self, onset: Fraction) -> float:
        """The share of the music (0 to 1) that lies before a time."""
        return float(onset / self.end) if self.end else 0.0

    def changes_within(self, bar: Bar) -> list[Fraction]:
        """When chords change inside a bar, its first beat excepted."""
        first = bisect_right(self._starts, float(bar.onset))
        last = bisect_right(self._starts, float(bar.end) - 1e-9)
        return [span.start for span in self.spans[first:last]]

    def keynote(self, onset: Fraction) -> int:
        """The pitch class of the keynote in force."""
        found = [tonic for start, tonic in self._keys if start <= onset]
        return found[-1] if found else self._keys[0][1]


def beats_of_bar(bar: Bar) -> list[tuple[Fraction, bool]]:
    """The beats of a bar that lie in it, with whether they are strong."""
    give_way()
    times = [(bar.onset - bar.lead_in + beat.offset, beat.strong) for beat in bar.meter.beats]
    return [(time, strong) for time, strong in times if bar.onset <= time < bar.end]
