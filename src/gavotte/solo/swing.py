"""Swing: where a written time is played.

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
    if not 0 < part < 1 or not goes_along(part):
        return onset
    if part <= _HALF:
        return start + 2 * part * share
    return start + share + 2 * (part - _HALF) * (1 - share)


def goes_along(part: Fraction) -> bool:
    """Whether a part of a beat is one that swing moves: a half, or what divides the halves by two."""
    return not part.denominator & (part.denominator - 1)


def swung_part(part: float, share: float) -> float:
    """Where in a beat (0 to 1) something written at ``part`` of it is played, if it goes along."""
    return 2 * part * share if part <= 0.5 else share + 2 * (part - 0.5) * (1 - share)


def unswung_part(part: float, share: float) -> float:
    """What part of a beat (0 to 1) is written where one is played, even between the beat, its middle and the next."""
    return part / (2 * share) if part <= share else 0.5 + (part - share) / (2 * (1 - share))


def _beat_start(grid: BarGrid, onset: Fraction) -> Fraction | None:
    """Where the beat of one quarter note that holds a time begins, None where the beats are others."""
    bar, offset = grid.locate(onset)
    _, beat = bar.meter.beat_at(offset)
    return onset - offset + beat.offset if beat.length == 1 else None
