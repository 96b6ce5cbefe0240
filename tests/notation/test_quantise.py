from __future__ import annotations

import random
from fractions import Fraction

import pytest

from gavotte.notation.quantise import quantise
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.swing import share_of, swung

HALF, THIRD = Fraction(1, 2), Fraction(1, 3)
LINE = (HALF,) * 8 + (Fraction(1),) + (THIRD,) * 3 + (HALF,) * 6 + (Fraction(2),) + (THIRD,) * 6 + (HALF,) * 10


def played(
    lengths: tuple[Fraction, ...], swing: Fraction, seed: int, late: float = 0.0, uneven: float = 0.0, held: float = 0.9
) -> tuple[list[tuple[Fraction, Fraction]], list[Fraction]]:
    """A line somebody plays in quarter notes, with where its notes are written."""
    chance, grid, onset = random.Random(seed), BarGrid(Solo("", form_end=Fraction(64))), Fraction(0)
    times, written = [], []
    for length in lengths:
        start, end = (swung(grid, time, share_of(swing)) for time in (onset, onset + length))
        by = Fraction(round((late + chance.gauss(0, uneven)) * 960), 960)
        times.append((start + by, start + by + Fraction(round(held * (end - start) * 960), 960)))
        written.append(onset)
        onset += length
    return times, written


@pytest.mark.parametrize("swing", ["1", "11/10", "5/4", "3/2", "2", "5/2"])
@pytest.mark.parametrize("late", [-0.06, 0.0, 0.08])
def test_light_and_heavy_swing_before_and_behind_the_beat(swing: str, late: float) -> None:
    times, written = played(LINE * 2, Fraction(swing), 3, late, 0.025)
    rhythm = quantise(times)
    right = sum(onset == wanted for (onset, _), wanted in zip(rhythm.times, written, strict=True))
    assert right >= 0.97 * len(written)
    heard = float(rhythm.swing or 1)
    assert heard == pytest.approx(float(Fraction(swing)), rel=0.12)


def test_a_line_that_falls_behind_on_the_way_is_followed() -> None:
    times, written = played(LINE * 3, Fraction(3, 2), 4, 0.0, 0.02)
    drifting = [
        (start + Fraction(k, 900), end + Fraction(k, 900)) for k, (start, end) in enumerate(times)
    ]  # a tenth of a beat at the end
    rhythm = quantise(drifting)
    assert sum(o == w for (o, _), w in zip(rhythm.times, written, strict=True)) >= 0.97 * len(written)


def test_the_faster_the_beat_the_fewer_sixteenths_are_believed() -> None:
    times, _ = played(((THIRD,) * 3 + (HALF,) * 4 + (Fraction(1),)) * 4, Fraction(1), 5, 0.0, 0.06)

    def sixteenths(beat_seconds: float) -> int:
        return sum(onset.denominator > 3 for onset, _ in quantise(times, beat_seconds=beat_seconds).times)

    assert sixteenths(0.24) < sixteenths(0.9)
    assert sixteenths(0.24) <= 2


def test_short_notes_before_a_rest_keep_their_written_length_in_swing() -> None:
    lengths = (HALF, HALF) * 8
    times, _ = played(lengths, Fraction(2), 6, 0.0, 0.01, 0.75)
    # Every second beat is silent.
    kept = [time for k, time in enumerate(times) if (k // 2) % 2 == 0]
    assert [duration for _, duration in quantise(kept).times] == [HALF] * len(kept)
