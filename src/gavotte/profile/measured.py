"""A set of solos as figures: what was counted in each phrase, the values, and how sure they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.profile.figures import FIGURES, Figure, Unit
from gavotte.profile.seen import Floats, Seen
from gavotte.vocabulary.corpus import LabelledLine

_Z = 1.959964
"""The standard normal quantile of 97.5 %."""

_TRIES, _AT_A_TIME, _FEW, _FEW_SOLOS = 400, 10, 30, 3


@dataclass(frozen=True)
class Counts:
    """What was counted in one solo: ``hits`` and ``among``, shape (phrases, figures)."""

    hits: Floats
    among: Floats


def counts_of(line: LabelledLine) -> Counts:
    """What the figures count in a line, phrase by phrase."""
    seen = Seen(line)
    hits, among = [], []
    for figure in FIGURES:
        give_way()
        counted, base = figure.parts(seen)
        hits.append(seen.by_phrase(np.where(np.isnan(counted), 0.0, counted)))
        among.append(seen.by_phrase(base))
    return Counts(np.stack(hits, axis=1), np.stack(among, axis=1))


@dataclass(frozen=True)
class Value:
    """What a figure comes to in a set: its ``value`` between ``low`` and ``high`` (95 %), and how many it is counted
    ``among``; ``is_small`` where that is little to go by.
    """

    figure: Figure
    value: float
    low: float
    high: float
    among: float
    is_small: bool


@dataclass(frozen=True)
class Measured:
    """A set of solos by what was counted in each of them."""

    solos: tuple[Counts, ...]

    @cached_property
    def hits(self) -> Floats:
        """What was counted, by solo and figure."""
        return _sums([solo.hits for solo in self.solos])

    @cached_property
    def among(self) -> Floats:
        """What it was counted among, by solo and figure."""
        return _sums([solo.among for solo in self.solos])

    def values(self, seed: int = 1) -> list[Value]:
        """Every figure that can be told. Shares have Wilson's interval (E. B. Wilson, "Probable inference, the law of
        succession, and statistical inference", 1927), means and ratios one from resampled phrases (B. Efron, "Bootstrap
        methods", 1979).
        """
        hits, among = self.hits.sum(axis=0), self.among.sum(axis=0)
        resampled = _resampled(self.solos, seed)
        found = []
        for index, figure in enumerate(FIGURES):
            base = float(among[index])
            if base <= 0:
                continue
            value = float(hits[index]) / base
            if figure.unit is Unit.SHARE and not figure.is_of_time:
                low, high = wilson(float(hits[index]), base)
            else:
                anew = resampled[:, index]
                anew = anew[np.isfinite(anew)]
                low, high = (float(np.percentile(anew, q)) if len(anew) else value for q in (2.5, 97.5))
            is_small = base < _FEW or len(self.solos) < _FEW_SOLOS
            found.append(Value(figure, value, low, high, base, is_small))
        return found


def measured(lines: Sequence[LabelledLine]) -> Measured:
    """The figures of a set of lines."""
    return Measured(tuple(counts_of(line) for line in lines if len(line.notes)))


def wilson(hits: float, among: float) -> tuple[float, float]:
    """Wilson's score interval of a share, 95 %."""
    share, z = hits / among, _Z
    middle = (share + z * z / (2 * among)) / (1 + z * z / among)
    half = z / (1 + z * z / among) * np.sqrt(share * (1 - share) / among + z * z / (4 * among * among))
    # At the ends both halves are equal, up to the last digit.
    low = 0.0 if hits <= 0 else max(0.0, float(middle - half))
    return low, 1.0 if hits >= among else min(1.0, float(middle + half))


def _sums(parts: Sequence[NDArray[np.float64]]) -> Floats:
    return np.stack([part.sum(axis=0) for part in parts]) if parts else np.zeros((0, len(FIGURES)))


def _resampled(solos: Sequence[Counts], seed: int) -> Floats:
    """The values of all figures when phrases are drawn again with replacement, shape (tries, figures)."""
    hits = np.concatenate([solo.hits for solo in solos]) if solos else np.zeros((0, len(FIGURES)))
    among = np.concatenate([solo.among for solo in solos]) if solos else np.zeros((0, len(FIGURES)))
    count = len(hits)
    chance, found = np.random.default_rng(seed), []
    for _ in range(0, _TRIES, _AT_A_TIME):
        give_way()
        drawn = chance.multinomial(count, np.full(count, 1 / max(1, count)), _AT_A_TIME).astype(float)
        with np.errstate(invalid="ignore", divide="ignore"):
            found.append((drawn @ hits) / (drawn @ among))
    return np.concatenate(found)
