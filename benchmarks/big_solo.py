"""A long solo for measuring: the demo's chorus played over and over, each time moved a little."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.demo.solos import ferry
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval

_MOVES = (
    Interval(0, 0),
    Interval(1, 2),
    Interval(-1, -2),
    Interval(2, 3),
    Interval(-2, -3),
    Interval(0, 0),
    Interval(1, 1),
)


def long_solo(bars: int = 200) -> Solo:
    """At least ``bars`` bars with about 7 notes each, chords and keys changing every 32 bars."""
    chorus = replace(
        ferry(),
        pickup=Fraction(0),
        notes=tuple(n for n in ferry().notes if n.onset >= 0),
        chords=tuple(c for c in ferry().chords if c.onset >= 0),
    )
    notes, chords, keys, sections = [], [], [], []
    for number in range(-(-bars // 32)):
        moved, shift = transposed(chorus, _MOVES[number % len(_MOVES)]), Fraction(128 * number)
        notes += [replace(n, id=f"{number}.{n.id}", onset=n.onset + shift) for n in moved.notes]
        chords += [replace(c, id=f"{number}.{c.id}", onset=c.onset + shift) for c in moved.chords]
        keys += [replace(k, onset=k.onset + shift) for k in moved.keys]
        sections += [replace(s, onset=s.onset + shift) for s in moved.sections]
    end = Fraction(4 * bars)
    return replace(
        chorus,
        title="Long solo",
        notes=tuple(n for n in notes if n.end <= end),
        chords=tuple(c for c in chords if c.onset < end),
        keys=tuple(keys),
        sections=tuple(s for s in sections if s.onset < end),
    )
