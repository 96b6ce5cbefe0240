"""What sets one set of solos apart from another: the figures that differ more than chance would have them differ.

Shares are compared by their log odds with an informed prior, which keeps what is rare from standing out by accident (B.
Monroe, M. Colaresi, K. Quinn, "Fightin' words", Political Analysis, 2008); means by their difference. How far apart two
sets are that are one and the same is found by dealing the solos (or, where there are few, the phrases) to two sets
anew and looking at the greatest difference of all figures together (the maximum of a permutation test; P. Westfall, S.
Young, *Resampling-Based Multiple Testing*, 1993): what is said to differ does so at that confidence as a whole.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gavotte.giving_way import give_way
from gavotte.profile.figures import FIGURES, Figure, Unit
from gavotte.profile.measured import Measured
from gavotte.profile.seen import Floats

CONFIDENCE = 0.95
_TRIES = 600
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
    hits, among, is_here = _units(here, there, by_solo)
    z = _standing(hits, among, is_here[None, :].astype(float))[0]
    chance = np.random.default_rng(seed)
    dealt = np.stack([chance.permutation(is_here) for _ in range(_TRIES)]).astype(float)
    greatest = np.sort(np.nanmax(np.abs(_standing(hits, among, dealt)), axis=1))
    found = []
    for index, figure in enumerate(FIGURES):
        if not np.isfinite(z[index]):
            continue
        base, base_there = float(here.among[:, index].sum()), float(there.among[:, index].sum())
        beyond = _TRIES - int(np.searchsorted(greatest, abs(z[index]) - 1e-12))
        found.append(
            Difference(
                figure,
                float(here.hits[:, index].sum()) / base,
                float(there.hits[:, index].sum()) / base_there,
                base,
                base_there,
                float(z[index]),
                (beyond + 1) / (_TRIES + 1),
            )
        )
    return sorted(found, key=lambda one: -abs(one.z))


def _units(here: Measured, there: Measured, by_solo: bool) -> tuple[Floats, Floats, np.ndarray]:
    """What is dealt anew: solos or phrases, with what was counted in each, and which belong to the first set."""
    if by_solo:
        parts = [(s.hits.sum(axis=0)[None, :], s.among.sum(axis=0)[None, :]) for s in (*here.solos, *there.solos)]
    else:
        parts = [(s.hits, s.among) for s in (*here.solos, *there.solos)]
    sizes = [len(part[0]) for part in parts]
    first = sum(sizes[: len(here.solos)])
    hits, among = (np.concatenate([part[k] for part in parts]) for k in (0, 1))
    return hits, among, np.arange(len(hits)) < first


def _standing(hits: Floats, among: Floats, dealt: Floats) -> Floats:
    """How many standard errors apart both sets are, by dealing and figure; not a number where it can't be compared."""
    give_way()
    ones, base = dealt @ hits, dealt @ among
    total_ones, total = hits.sum(axis=0), among.sum(axis=0)
    others, other_base = total_ones - ones, total - base
    with np.errstate(invalid="ignore", divide="ignore"):
        shares = _log_odds(ones, base, others, other_base, total_ones, total)
        means = _mean_difference(hits, among, dealt, ones, base, others, other_base)
        z = np.where(_IS_SHARE, shares, means)
    z[(base < _LEAST) | (other_base < _LEAST)] = np.nan
    z[:, np.all(~np.isfinite(z), axis=0)] = np.nan
    return np.asarray(z, np.float64)


def _log_odds(
    ones: Floats, base: Floats, others: Floats, other_base: Floats, total_ones: Floats, total: Floats
) -> Floats:
    usual = np.clip(total_ones / total, 1e-6, 1 - 1e-6)
    prior = _PRIOR * usual
    here, rest = ones + prior, base - ones + _PRIOR - prior
    there, other_rest = others + prior, other_base - others + _PRIOR - prior
    apart = np.log(here / rest) - np.log(there / other_rest)
    error = np.sqrt(1 / here + 1 / there + 1 / rest + 1 / other_rest)
    return np.where(total_ones > 0, apart / error, np.nan)


def _mean_difference(
    hits: Floats, among: Floats, dealt: Floats, ones: Floats, base: Floats, others: Floats, other_base: Floats
) -> Floats:
    """The difference of two ratios by its standard error, from how the units scatter around the common ratio."""
    usual = hits.sum(axis=0) / among.sum(axis=0)
    away = (hits - usual * among) ** 2
    error = np.sqrt((dealt @ away) / base**2 + ((1 - dealt) @ away) / other_base**2)
    return np.asarray((ones / base - others / other_base) / error, np.float64)
