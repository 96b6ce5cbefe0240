"""What sets one set of solos apart from another: the figures that differ more than chance would have them differ.

Shares are compared by their log odds with an informed prior, which keeps what is rare from standing out by accident (B.
Monroe, M. Colaresi, K. Quinn, "Fightin' words", Political Analysis, 2008), means by their difference; in both the
scatter from solo to solo counts. How far apart two sets are that are one and the same is found by dealing the solos
(or, where there are few, the phrases) to two sets anew and looking at the greatest difference of all figures together
(the maximum of a permutation test; P. Westfall, S. Young, *Resampling-Based Multiple Testing*, 1993): what is said to
differ does so at that confidence as a whole.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gavotte.giving_way import give_way
from gavotte.profile.figures import FIGURES, Figure, Unit
from gavotte.profile.measured import Measured
from gavotte.profile.seen import Floats

CONFIDENCE = 0.95
_TRIES, _AT_A_TIME = 600, 60
_PRIOR = 40.0
"""So many notes the prior is worth, with the share both sets have together."""

_FEWEST_SOLOS = 8
"""From so many solos in both sets together on they are dealt whole; else their phrases are."""

_LEAST = 12.0
"""What is counted among fewer, in either set, is not compared."""

_IS_SHARE = np.array([figure.unit is Unit.SHARE for figure in FIGURES])


@dataclass(frozen=True)
class Difference:
    """How a figure differs: its value in one set and the ``other``, how many standard errors apart they are (``z``,
    above 0 where it is higher here), and how likely chance would bring as much in any figure (``chance``).
    """

    figure: Figure
    value: float
    other: float
    among: float
    among_other: float
    z: float
    chance: float

    @property
    def stands_out(self) -> bool:
        """Whether it is told as a difference."""
        return self.chance <= 1 - CONFIDENCE


def differences(here: Measured, there: Measured, seed: int = 1) -> list[Difference]:
    """How all figures differ that can be compared, the greatest difference first."""
    if not here.solos or not there.solos:
        return []
    by_solo = len(here.solos) + len(there.solos) >= _FEWEST_SOLOS
    units, is_here = _units(here, there, by_solo)
    z = _standing(units, is_here[None, :].astype(float))[0]
    chance = np.random.default_rng(seed)
    dealt = np.stack([chance.permutation(is_here) for _ in range(_TRIES)]).astype(float)
    parts = [dealt[first : first + _AT_A_TIME] for first in range(0, _TRIES, _AT_A_TIME)]
    anew = np.concatenate([_standing(units, part) for part in parts])
    greatest = np.sort(np.abs(np.nan_to_num(anew)).max(axis=1))
    found = []
    for index, figure in enumerate(FIGURES):
        if not np.isfinite(z[index]):
            continue
        base, base_there = float(here.among[:, index].sum()), float(there.among[:, index].sum())
        found.append(
            Difference(
                figure,
                float(here.hits[:, index].sum()) / base,
                float(there.hits[:, index].sum()) / base_there,
                base,
                base_there,
                float(z[index]),
                chance_of(z[index], greatest),
            )
        )
    return sorted(found, key=lambda one: -abs(one.z))


def chance_of(z: float, greatest: Floats) -> float:
    """How likely chance brings as much in any figure, from the ``greatest`` each dealing brought, in order."""
    beyond = len(greatest) - int(np.searchsorted(greatest, abs(z) - 1e-12))
    return (beyond + 1) / (len(greatest) + 1)


def _units(here: Measured, there: Measured, by_solo: bool) -> tuple[tuple[Floats, ...], np.ndarray]:
    """What is dealt anew, solos or phrases, and which of it belongs to the first set.

    By unit and figure: whether anything could be counted, what was counted and what it was counted among, their squares
    and product, and the sums of these of the phrases inside. Shape of each (units, figures).
    """
    parts: list[tuple[Floats, ...]] = []
    for solo in (*here.solos, *there.solos):
        inside = _squares(solo.hits, solo.among)
        hits, among = solo.hits, solo.among
        if by_solo:
            hits, among = hits.sum(axis=0)[None, :], among.sum(axis=0)[None, :]
            inside = [square.sum(axis=0)[None, :] for square in inside]
        parts.append(((among > 0).astype(np.float64), hits, among, *_squares(hits, among), *inside))
    first = sum(len(part[0]) for part in parts[: len(here.solos)])
    columns = tuple(np.concatenate([part[k] for part in parts]) for k in range(len(parts[0])))
    return columns, np.arange(len(columns[0])) < first


def _squares(hits: Floats, among: Floats) -> list[Floats]:
    return [hits * hits, hits * among, among * among]


def _standing(units: tuple[Floats, ...], dealt: Floats) -> Floats:
    """How many standard errors apart both sets are, by dealing and figure; not a number where it can't be compared."""
    give_way()
    total = [column.sum(axis=0) for column in units]
    mine = [dealt @ column for column in units]
    here = _Part(*mine)
    there = _Part(*(whole - own for whole, own in zip(total, mine, strict=True)))
    with np.errstate(invalid="ignore", divide="ignore"):
        prior = _PRIOR * np.clip(total[1] / total[2], 1e-6, 1 - 1e-6)
        variances = here.scatter(there.unit), there.scatter(here.unit)
        odds, error = here.log_odds(prior, variances[0])
        other, other_error = there.log_odds(prior, variances[1])
        shares = (odds - other) / np.sqrt(error + other_error)
        means = (here.ratio - there.ratio) / np.sqrt(variances[0] + variances[1])
        z = np.where(_IS_SHARE, np.where(total[1] > 0, shares, np.nan), means)
    z[(here.among < _LEAST) | (there.among < _LEAST)] = np.nan
    return np.asarray(z, np.float64)


@dataclass(frozen=True)
class _Part:
    """One side of each dealing: in how many units something could be counted, and sums over them of what was counted,
    of what it was counted among, of their squares and product, and of those of the phrases inside. Shape (dealings,
    figures).
    """

    count: Floats
    hits: Floats
    among: Floats
    hh: Floats
    ha: Floats
    aa: Floats
    hh_inside: Floats
    ha_inside: Floats
    aa_inside: Floats

    @property
    def ratio(self) -> Floats:
        """The value of each figure."""
        return self.hits / self.among

    @property
    def unit(self) -> Floats:
        """How much units scatter around the ratio, for each square of what they are counted among; not a number where
        there is but one.
        """
        several = np.where(self.count > 1, self.count / np.maximum(1, self.count - 1), np.nan)
        return np.asarray(self._around(self.hh, self.ha, self.aa) / self.aa * several, np.float64)

    def scatter(self, other: Floats) -> Floats:
        """The variance of the ratio, from how the units scatter around it: notes of one solo are much alike. A single
        one scatters as those of the ``other`` set do. A few may agree by accident: it is no smaller than the scatter of
        their phrases has it.
        """
        unit = np.where(np.isnan(self.unit), np.nan_to_num(other), self.unit)
        inside = self._around(self.hh_inside, self.ha_inside, self.aa_inside)
        return np.asarray(np.maximum(unit * self.aa, inside) / self.among**2, np.float64)

    def _around(self, hh: Floats, ha: Floats, aa: Floats) -> Floats:
        """The sum of squares around the ratio."""
        return np.asarray(np.maximum(0.0, hh - 2 * self.ratio * ha + self.ratio**2 * aa), np.float64)

    def log_odds(self, prior: Floats, scatter: Floats) -> tuple[Floats, Floats]:
        """The log odds of the share with its prior, and their variance: that of counts, or of the units where these
        scatter more.
        """
        ones, rest = self.hits + prior, self.among - self.hits + _PRIOR - prior
        share = ones / (ones + rest)
        variance = np.maximum(1 / ones + 1 / rest, scatter / (share * (1 - share)) ** 2)
        return np.log(ones / rest), variance
