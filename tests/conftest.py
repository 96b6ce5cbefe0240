"""What all tests share: data files, a solo written in shorthand, a library of its own for each test."""

from __future__ import annotations

import os
from collections.abc import Generator, Iterator, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest
from hypothesis import settings

from gavotte.demo.shorthand import write_out
from gavotte.library.store import Library
from gavotte.solo.document import KeyRegion, MeterRegion, Solo
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter

# No example is timed: machines differ. In continuous integration the same examples are tried every time.
settings.register_profile("gavotte", deadline=None, derandomize="CI" in os.environ)
settings.load_profile("gavotte")

DATA = Path(__file__).parent / "data"


def make_solo(
    bars: Sequence[tuple[str, str]],
    key: str = "C major",
    meter: str = "4/4",
    grouping: str = "",
    blues: bool = False,
    pickup: Fraction = Fraction(0),
    mode: str = "",
) -> Solo:
    """A solo from bars of (chords, notes) in the demo's shorthand."""
    beat = Meter.parse(meter, grouping)
    written = write_out(bars, beat.bar_length, pickup)
    return Solo(
        title="Test",
        pickup=pickup,
        meters=(MeterRegion(Fraction(0), beat),),
        keys=(KeyRegion(Fraction(0), Key.parse(key, mode), blues),),
        chords=written.chords,
        notes=written.notes,
    )


def whole(steps: Generator[float, None, Any]) -> Any:
    """What steps return, once they have run to their end; the shares they tell must rise, to 1 at most."""
    shares: list[float] = []
    while True:
        try:
            shares.append(next(steps))
        except StopIteration as end:
            assert shares == sorted(shares)
            assert all(0 <= share <= 1 for share in shares)
            return end.value


@pytest.fixture
def library(tmp_path: Path) -> Iterator[Library]:
    with Library(tmp_path / "library") as opened:
        yield opened
