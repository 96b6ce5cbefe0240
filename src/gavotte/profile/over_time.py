"""What changes over the years, or from month to month: the figures that rise or fall more than chance would have it.

A figure's trend is how much more of it there is in later solos than in all of them together. What chance brings is
found by dealing the times to the solos anew and looking at the greatest trend of all figures (the maximum of a
permutation test, as in ``comparison``).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from gavotte.giving_way import give_way
from gavotte.profile.comparison import CONFIDENCE, chance_of
from gavotte.profile.figures import FIGURES, Figure
from gavotte.profile.measured import Counts, Measured, Value
from gavotte.profile.seen import Floats

FEWEST_SOLOS, FEWEST_TIMES = 5, 2
_TRIES, _AT_A_TIME = 600, 60
_LEAST = 12.0
_IN_SOLOS = 4
"""A figure must be counted in so many solos."""


@dataclass(frozen=True)
class Change:
    """How a figure goes: where ``z`` is above 0 it rises, and ``chance`` is how likely any figure would go as far by
    accident; ``values`` are those at the times there are, None where nothing could be counted.
    """

    figure: Figure
    z: float
    chance: float
    values: tuple[Value | None, ...]

    @property
    def stands_out(self) -> bool:
        """Whether it is told as a change."""
        return self.chance <= 1 - CONFIDENCE


@dataclass(frozen=True)
class OverTime:
    """The times there are, in order, how many solos each has, and the changes, the greatest first."""

    times: tuple[str, ...]
    solos: tuple[int, ...]
    changes: tuple[Change, ...]


def over_time(solos: Sequence[tuple[str, Counts]], seed: int = 1) -> OverTime | None:
    """What changes in solos from different times (their names sort as they follow one another).

    None where there are too few solos or times to say.
    """
    times = tuple(sorted({time for time, _ in solos}))
    if len(solos) < FEWEST_SOLOS or len(times) < FEWEST_TIMES:
        return None
    parts = [Measured(tuple(counts for time, counts in solos if time == wanted)) for wanted in times]
    values = [{value.figure.name: value for value in part.values()} for part in parts]
    hits = np.stack([counts.hits.sum(axis=0) for _, counts in solos])
    among = np.stack([counts.among.sum(axis=0) for _, counts in solos])
    when = np.array([times.index(time) for time, _ in solos], np.float64)
    z = _trend(hits, among, when[None, :])[0]
    chance = np.random.default_rng(seed)
    greatest: list[float] = []
    for _ in range(0, _TRIES, _AT_A_TIME):
        dealt = np.stack([chance.permutation(when) for _ in range(_AT_A_TIME)])
        greatest += np.abs(np.nan_to_num(_trend(hits, among, dealt))).max(axis=1).tolist()
    ordered = np.sort(greatest)
    changes = []
    for index, figure in enumerate(FIGURES):
        if np.isfinite(z[index]):
            told = tuple(part.get(figure.name) for part in values)
            changes.append(Change(figure, float(z[index]), chance_of(z[index], ordered), told))
    changes.sort(key=lambda one: -abs(one.z))
    return OverTime(times, tuple(len(part.solos) for part in parts), tuple(changes))


def _trend(hits: Floats, among: Floats, when: Floats) -> Floats:
    """How figures go with time, shape (dealings, figures): the t value of a line through the solos' values, each
    counting for as much as the figure is counted among there.
    """
    give_way()
    counted = (among > 0).sum(axis=0)
    with np.errstate(invalid="ignore", divide="ignore"):
        total = among.sum(axis=0)
        away = hits - hits.sum(axis=0) / total * among
        scatter = np.where(among > 0, away**2 / among, 0.0).sum(axis=0)
        middle = (when @ among) / total
        along = when @ away - middle * away.sum(axis=0)
        spread = (when**2) @ among - middle**2 * total
        share = np.clip(along**2 / (spread * scatter), 0.0, _STRAIGHT)
        z = np.sign(along) * np.sqrt(share * (counted - 2) / (1 - share))
    z[:, (counted < _IN_SOLOS) | (total < _LEAST)] = np.nan
    return np.asarray(np.where(spread > 1e-9, z, np.nan), np.float64)


_STRAIGHT = 0.999
"""Values that lie on a line exactly, as of few solos they may, count as this much of one."""
