"""Which solos are nearest to some others, and in what: figures as deviations from what all solos have in common.

A figure of a solo is held against its value in all solos together, and drawn towards it where it is counted among
little; the deviation is measured by how solos scatter, rare figures and frequent ones alike. Families of figures count
the same, however many figures they have.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.profile.figures import FIGURES, Figure
from gavotte.profile.measured import Counts
from gavotte.profile.seen import Floats

_WORTH = 12.0
"""What is counted among so many is believed by half."""
_MOST = 3.0
"""Deviations count up to so many standard deviations."""
_TOLD = 3
_FEWEST = 3

_FAMILIES = sorted({figure.family for figure in FIGURES})
_FAMILY_OF = np.array([_FAMILIES.index(figure.family) for figure in FIGURES])


@dataclass(frozen=True)
class Near:
    """A solo by its number among those that were asked about: how near it is (1 the same, 0 as unlike as any other,
    below that less) and the figures both have more, or less, of than others do.
    """

    number: int
    closeness: float
    alike: tuple[Figure, ...]


def nearest(own: Sequence[Counts], others: Sequence[Counts]) -> list[Near]:
    """The ``others`` by how near they are to the solos in ``own`` taken together, the nearest first.

    None are told where there are fewer than three others, for nobody can say then what is usual.
    """
    if not own or len(others) < _FEWEST:
        return []
    hits = np.stack([_whole(own, "hits"), *(solo.hits.sum(axis=0) for solo in others)])
    among = np.stack([_whole(own, "among"), *(solo.among.sum(axis=0) for solo in others)])
    away = _deviations(hits, among)
    here, there = away[0], away[1:]
    weights = 1.0 / np.bincount(_FAMILY_OF)[_FAMILY_OF]
    norms = np.sqrt(weights @ (away * away).T)
    closeness = (there * weights) @ here / np.maximum(1e-9, norms[0] * norms[1:])
    shared = np.where(there * here > 0, np.minimum(np.abs(there), np.abs(here)), 0.0)
    order = np.argsort(-closeness, kind="stable")
    return [Near(int(k), float(closeness[k]), _told(shared[k])) for k in order]


def _whole(solos: Sequence[Counts], name: str) -> Floats:
    return np.asarray(sum(getattr(solo, name).sum(axis=0) for solo in solos), np.float64)


def _deviations(hits: Floats, among: Floats) -> NDArray[np.float64]:
    """How far each solo's figures lie from those of all, in standard deviations, shape (solos, figures)."""
    with np.errstate(invalid="ignore", divide="ignore"):
        usual = np.nan_to_num(hits.sum(axis=0) / among.sum(axis=0))
        away = (hits - usual * among) / (among + _WORTH)
    spread = np.sqrt(np.mean(away * away, axis=0))
    return np.asarray(np.clip(np.where(spread > 0, away / np.maximum(spread, 1e-12), 0.0), -_MOST, _MOST), np.float64)


def _told(shared: Floats) -> tuple[Figure, ...]:
    """The figures most shared, of each family the first."""
    found: list[Figure] = []
    for index in np.argsort(-shared, kind="stable"):
        figure = FIGURES[index]
        if shared[index] <= 0 or len(found) == _TOLD:
            break
        if figure.family not in {one.family for one in found}:
            found.append(figure)
    return tuple(found)
