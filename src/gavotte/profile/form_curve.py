"""How high and how dense solos are from bar to bar of their form."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from gavotte.profile.seen import Floats
from gavotte.vocabulary.corpus import LabelledLine

_Z = 1.959964


@dataclass(frozen=True, eq=False)
class Curve:
    """Mean pitch (MIDI numbers, with the 95 % interval of the mean; not a number where nothing is played) and notes a
    beat of each bar of the form, over ``choruses`` of ``solos``.
    """

    pitch: Floats
    low: Floats
    high: Floats
    density: Floats
    solos: int
    choruses: int


@dataclass(frozen=True, eq=False)
class FormCurves:
    """The curves of two sets over a form of so many ``bars``; None for a set that has no solo of that form."""

    bars: int
    here: Curve | None
    there: Curve | None


def form_curves(here: Sequence[LabelledLine], there: Sequence[LabelledLine]) -> FormCurves | None:
    """The curves over the form most solos have, of those both sets have if there are any; None where none has choruses.
    Of forms as frequent the shorter one is taken.
    """
    mine, theirs = (Counter(_bars(line) for line in lines if _bars(line)) for lines in (here, there))
    both = mine + theirs
    if not both:
        return None
    bars = max(both, key=lambda size: (bool(mine[size]) + bool(theirs[size]), both[size], -size))
    return FormCurves(bars, *(_curve([line for line in lines if _bars(line) == bars], bars) for lines in (here, there)))


def _bars(line: LabelledLine) -> int:
    return int(line.notes["form_bars"].max(initial=0))


def _curve(lines: Sequence[LabelledLine], bars: int) -> Curve | None:
    if not lines:
        return None
    inside = [line.notes[(line.notes["form_bar"] >= 0) & (line.notes["form_bar"] < bars)] for line in lines]
    bar = np.concatenate([notes["form_bar"] for notes in inside]).astype(np.int64)
    pitch = np.concatenate([notes["pitch"] for notes in inside]).astype(np.float64)
    count, total, squares = (
        np.bincount(bar, weights, minlength=bars) for weights in (np.ones(len(bar)), pitch, pitch * pitch)
    )
    with np.errstate(invalid="ignore", divide="ignore"):
        mean = total / count
        spread = np.sqrt(np.maximum(0.0, squares / count - mean**2) / np.maximum(1, count - 1))
    choruses = sum(int(notes["chorus"].max(initial=0)) for notes in inside)
    beats = max((float(np.median(notes["bar"] / notes["beat_length"])) for notes in inside if len(notes)), default=4.0)
    return Curve(mean, mean - _Z * spread, mean + _Z * spread, count / max(1, choruses) / beats, len(lines), choruses)
