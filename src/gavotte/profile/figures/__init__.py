"""The figures a profile is made of. Each is a sum over notes divided by another: how often something is so among the
notes where it could be, or a mean; its formula is written beside it.

``FIGURES`` holds them all, family by family. To add one, write in the module of its family what is counted and what it
is counted among.
"""

from gavotte.profile.figures.degrees import degrees, devices, endings, landings, targets
from gavotte.profile.figures.functions import by_beat, by_chord, by_place, functions, readings, tension
from gavotte.profile.figures.kind import Figure, Unit
from gavotte.profile.figures.motion import intervals, rhythm
from gavotte.profile.figures.phrases import lengths, places, quarters, recalled

__all__ = ["FIGURES", "Figure", "Unit"]

FIGURES: tuple[Figure, ...] = (
    *functions(), *by_chord(), *by_beat(), *by_place(), *tension(), *readings(), *devices(), *targets(), *degrees(),
    *landings(), *endings(), *lengths(), *places(), *quarters(), *recalled(), *intervals(), *rhythm(),
)  # fmt: skip
"""All figures, family by family."""
