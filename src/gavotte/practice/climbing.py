"""How the tempo climbs while a run goes on: at each pass, after clean passes, or after minutes."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

from gavotte.practice.take import Take, Verdict

_SLIPS = 20
"""A pass is clean with one slip for so many notes."""


class When(StrEnum):
    """What the tempo climbs by."""

    PASSES = "passes"
    CLEAN = "clean passes"
    MINUTES = "minutes"


@dataclass(frozen=True, slots=True)
class Climb:
    """By how much the tempo climbs (``step``, beats a minute), after how many clean passes in a row or minutes
    (``need``), up to ``most``.
    """

    when: When = When.PASSES
    step: int = 0
    need: int = 2
    most: int = 400


@dataclass(frozen=True, slots=True)
class Climbing:
    """Where a climb stands: the tempo, clean passes in a row at it, and when it was reached (seconds of playing)."""

    tempo: int
    clean: int = 0
    since: float = 0.0

    def passed(self, climb: Climb, is_clean: bool, seconds: float) -> Climbing:
        """Where it stands after another pass, so many seconds after the beginning."""
        if climb.when is When.CLEAN:
            clean = self.clean + 1 if is_clean else 0
            return self._higher(climb, seconds) if clean >= climb.need else replace(self, clean=clean)
        if climb.when is When.MINUTES and seconds - self.since >= 60 * climb.need - 1e-6:
            return self._higher(climb, seconds)
        return self

    def _higher(self, climb: Climb, seconds: float) -> Climbing:
        return Climbing(max(self.tempo, min(climb.most, self.tempo + climb.step)), 0, seconds)


def is_clean(take: Take) -> bool:
    """Whether a take was played cleanly: at most one slip for twenty notes; added notes are slips too."""
    if not take.notes:
        return False
    slips = len(take.notes) - take.count(Verdict.RIGHT) + len(take.added)
    return slips <= len(take.notes) / _SLIPS
