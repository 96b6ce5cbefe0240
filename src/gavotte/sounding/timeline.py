"""Where a solo's quarter notes fall in seconds: tempo, its changes, and swing (``solo/swing.py``).

Times are nominal seconds, 0 at bar 1 beat 1 and negative in a pickup; playing slower or faster scales them all.
"""

from __future__ import annotations

from bisect import bisect_right
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.swing import share_of, swung

DEFAULT_TEMPO = Fraction(120)
"""Quarter notes a minute where the solo says nothing."""


class Timeline:
    """Turns quarter notes into nominal seconds and back.

    ``swing`` is how many times as long the first half of a beat is as its second (1: even).
    """

    def __init__(self, solo: Solo, swing: Fraction = Fraction(1)) -> None:
        self.grid = BarGrid(solo)
        self._known: dict[Fraction, float] = {}
        self._share = share_of(swing)
        tempos = {Fraction(0): solo.tempo or DEFAULT_TEMPO}
        tempos.update({change.onset: change.tempo for change in solo.tempo_changes if change.tempo > 0})
        self._starts = sorted(tempos)
        self._lengths = [float(60 / tempos[start]) for start in self._starts]
        self._seconds = [0.0]
        for start, following, length in zip(self._starts, self._starts[1:], self._lengths, strict=False):
            self._seconds.append(self._seconds[-1] + float(following - start) * length)
        edges = {bar.onset for bar in self.grid.bars}
        for note in solo.notes:
            give_way()
            edges.update((note.onset, note.end))
        turns = sorted(edges)
        turns = [*turns, self.end] if turns and turns[-1] < self.end else turns
        self._turns = [float(turn) for turn in turns]
        self._turn_seconds = [self.seconds(turn) for turn in turns]

    @property
    def start(self) -> Fraction:
        """Onset of the first bar, in quarter notes: negative for a pickup."""
        return self.grid.bars[0].onset

    @property
    def end(self) -> Fraction:
        """End of the last bar, in quarter notes."""
        return self.grid.bars[-1].end

    def seconds(self, onset: Fraction) -> float:
        """Nominal seconds of a time in quarter notes."""
        give_way()
        known = self._known.get(onset)
        if known is None:
            known = self._known[onset] = self._worked_out(onset)
        return known

    def _worked_out(self, onset: Fraction) -> float:
        played = self.swung(onset)
        index = max(0, bisect_right(self._starts, played) - 1)
        return self._seconds[index] + float(played - self._starts[index]) * self._lengths[index]

    def quarters(self, seconds: float) -> float:
        """The written time, in quarter notes, that sounds at ``seconds``; even between notes and barlines."""
        index = bisect_right(self._turn_seconds, seconds)
        if index in (0, len(self._turns)):
            return self._turns[0 if index == 0 else -1]
        before, after = self._turn_seconds[index - 1], self._turn_seconds[index]
        share = (seconds - before) / (after - before)
        return self._turns[index - 1] + share * (self._turns[index] - self._turns[index - 1])

    def quarter_seconds(self, onset: Fraction) -> float:
        """How long a quarter note lasts at ``onset``, in nominal seconds."""
        return self._lengths[max(0, bisect_right(self._starts, onset) - 1)]

    def swung(self, onset: Fraction) -> Fraction:
        """Where a written time is played, in quarter notes."""
        return swung(self.grid, onset, self._share)
