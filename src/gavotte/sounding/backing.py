"""How a band is wished: what the bass does, how much is played, and the seed that decides the rest."""

from __future__ import annotations

import random
from dataclasses import dataclass
from enum import IntEnum, StrEnum
from fractions import Fraction


class Feel(StrEnum):
    """What the band stands on."""

    STYLE = "style"
    IN_TWO = "in two"
    PEDAL_FIFTH = "pedal on the fifth"
    PEDAL_KEYNOTE = "pedal on the keynote"
    DRONE = "drone"


class Intensity(IntEnum):
    """How much is played, and how loud; growing from one to the next over the whole length where it is ``GROWING``."""

    QUIET = 1
    MIDDLE = 2
    DRIVING = 3
    GROWING = 4


@dataclass(frozen=True, slots=True)
class Backing:
    """How the band plays. The same ``seed`` always gives the same band; from ``held_from`` on (quarter notes) the last
    chord is held, None for nowhere.
    """

    feel: Feel = Feel.STYLE
    intensity: Intensity = Intensity.MIDDLE
    seed: int = 0
    held_from: Fraction | None = None

    def at(self, share: float) -> Intensity:
        """How much is played where a share (0 to 1) of the music is behind."""
        if self.intensity is not Intensity.GROWING:
            return self.intensity
        return Intensity(1 + min(2, int(3 * share)))

    def chance(self, part: str, bar: int) -> random.Random:
        """What decides for a part of the band in a bar: other bars don't change it."""
        return random.Random(f"{self.seed} {part} {bar}")


USUAL_BACKING = Backing()

LOUDER = {Intensity.QUIET: -10, Intensity.MIDDLE: 0, Intensity.DRIVING: 8}
"""What is added to a MIDI velocity."""
