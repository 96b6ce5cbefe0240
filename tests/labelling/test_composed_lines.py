"""Composed lines have the labels they should, in every key and many meters."""

from __future__ import annotations

import pytest
from tests.labelling.lines import LINES, SHORT, Line, expected_of, found_in, solo_of

from gavotte.labelling.labeller import label_solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval

KEYS = (
    Interval(0, 0), Interval(1, 1), Interval(1, 2), Interval(2, 3), Interval(2, 4), Interval(3, 5), Interval(3, 6),
    Interval(-3, -5), Interval(-2, -4), Interval(-2, -3), Interval(-1, -2), Interval(-1, -1),
)  # fmt: skip


@pytest.mark.parametrize("interval", KEYS, ids=lambda interval: f"{interval.semitones:+}")
@pytest.mark.parametrize("line", LINES, ids=[line[0] for line in LINES])
def test_a_line_in_every_key(line: Line, interval: Interval) -> None:
    solo = transposed(solo_of(line), interval)
    assert found_in(label_solo(solo), solo.places) == expected_of(line)


def test_the_lines_hold_every_device() -> None:
    assert {expected.label for line in LINES for expected in expected_of(line)} == set(SHORT.values())
