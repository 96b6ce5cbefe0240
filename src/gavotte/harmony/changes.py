"""The chords of a solo in time, each with how long it lasts."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from fractions import Fraction

from gavotte.solo.by_identity import kept_by_identity
from gavotte.solo.document import ChordEvent, Solo
from gavotte.theory.chord import Chord

_BAR = 4


@dataclass(frozen=True, slots=True)
class Change:
    """A chord from ``onset`` for ``length`` quarter notes."""

    onset: Fraction
    length: Fraction
    chord: Chord

    @property
    def end(self) -> Fraction:
        """Where the chord stops."""
        return self.onset + self.length


def changes_of(solo: Solo) -> tuple[Change, ...]:
    """Every chord that can be read, in order; a symbol written again goes on, of two at one place the second counts."""
    if not solo.chords:
        return ()
    last = solo.chords[-1]
    changes = list(_before_last(solo.chords))
    _go_on(changes, last, max(solo.end, last.onset + _BAR))
    return tuple(changes)


@kept_by_identity(4)
def _before_last(chords: tuple[ChordEvent, ...]) -> tuple[Change, ...]:
    """The changes of all chords but the last, which alone lasts to the end of whatever is played over it."""
    changes: list[Change] = []
    for event, following in itertools.pairwise(chords):
        _go_on(changes, event, following.onset)
    return tuple(changes)


def _go_on(changes: list[Change], event: ChordEvent, stop: Fraction) -> None:
    """Put the next chord behind the changes so far."""
    symbol = event.symbol
    if not isinstance(symbol, Chord) or stop <= event.onset:
        return
    if changes and changes[-1].chord == symbol and changes[-1].end == event.onset:
        changes[-1] = Change(changes[-1].onset, stop - changes[-1].onset, symbol)
    else:
        changes.append(Change(event.onset, stop - event.onset, symbol))


def falls_a_fifth(first: Chord, second: Chord) -> bool:
    """Whether the root falls by a fifth (or rises by a fourth)."""
    return (first.root.pitch_class - second.root.pitch_class) % 12 == 7


def falls_a_semitone(first: Chord, second: Chord) -> bool:
    """Whether the root slides down a half step, as a tritone substitute's does."""
    return (first.root.pitch_class - second.root.pitch_class) % 12 == 1


def is_two_five(first: Chord, second: Chord) -> bool:
    """Whether two chords are a ii-V, in major or minor."""
    prepares = first.third == "b3" and first.seventh == "b7"
    return prepares and (second.is_dominant or second.is_suspended) and falls_a_fifth(first, second)
