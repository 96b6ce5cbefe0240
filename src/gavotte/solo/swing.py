"""Swing: where a written time is played, and what is written where something is played.

Swing delays what falls between the beats of a simple meter: the beat's halves last as ``share`` to the rest of it, and
what divides the halves by two goes along. Triplets, and the beats of compound meters, stay where they are written.
"""

from __future__ import annotations

from fractions import Fraction

from gavotte.solo.bars import BarGrid

EVEN = Fraction(1, 2)
_HALF = Fraction(1, 2)


def share_of(swing: Fraction) -> Fraction:
    """The share of a beat its first half takes, where it is ``swing`` times as long as the second."""
    return swing / (swing + 1)


def swung(grid: BarGrid, onset: Fraction, share: Fraction) -> Fraction:
    """Where a written time is played, in quarter notes."""
    if share == EVEN:
        return onset
    start = _beat_start(grid, onset)
    if start is None:
        return onset
    part = onset - start
    if not 0 < part < 1 or part.denominator & (part.denominator - 1):
        return onset
    if part <= _HALF:
        return start + 2 * part * share
    return start + share + 2 * (part - _HALF) * (1 - share)


def unswung(grid: BarGrid, played: float, share: Fraction) -> float:
    """The written time of what is played at one (quarter notes), even between a beat, its middle and the next beat."""
    if share == EVEN:
        return played
    start = _beat_start(grid, Fraction(played))
    if start is None:
        return played
    part, long = played - float(start), float(share)
    if not 0 < part < 1:
        return played
    if part <= long:
        return float(start) + part / (2 * long)
    return float(start) + 0.5 + (part - long) / (2 * (1 - long))


def _beat_start(grid: BarGrid, onset: Fraction) -> Fraction | None:
    """Where the beat of one quarter note that holds a time begins, None where the beats are others."""
    bar, offset = grid.locate(onset)
    _, beat = bar.meter.beat_at(offset)
    return onset - offset + beat.offset if beat.length == 1 else None
