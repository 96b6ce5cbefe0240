"""The chords of a solo in time, each with how long it lasts."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from gavotte.solo.document import Solo
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
    end = max(solo.end, solo.chords[-1].onset + _BAR) if solo.chords else solo.end
    changes: list[Change] = []
    for index, event in enumerate(solo.chords):
        stop = solo.chords[index + 1].onset if index + 1 < len(solo.chords) else end
        symbol = event.symbol
        if not isinstance(symbol, Chord) or stop <= event.onset:
            continue
        if changes and changes[-1].chord == symbol and changes[-1].end == event.onset:
            changes[-1] = Change(changes[-1].onset, stop - changes[-1].onset, symbol)
        else:
            changes.append(Change(event.onset, stop - event.onset, symbol))
    return tuple(changes)


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
