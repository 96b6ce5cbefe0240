"""How degrees are shown: the same tone has several names, and players differ about them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from gavotte.theory.pitch import music_accidentals


@dataclass(frozen=True, slots=True)
class DegreeNaming:
    """Which of a tone's names is shown. The stored degree never changes.

    ``compound``: 9 11 13 rather than 2 4 6. ``sharp_ninth``: ♯9 over a major third rather than ♭3. ``flat_thirteenth``:
    ♭13 rather than ♯5. ``sharp_eleventh``: ♯11 rather than ♭5. ``diminished_seventh``: °7 rather than ♭♭7.
    """

    compound: bool = True
    sharp_ninth: bool = True
    flat_thirteenth: bool = True
    sharp_eleventh: bool = True
    diminished_seventh: bool = True


USUAL_NAMING = DegreeNaming()
_SIMPLE = {"9": "2", "11": "4", "13": "6"}


@lru_cache(maxsize=1024)
def shown_degree(degree: str, naming: DegreeNaming = USUAL_NAMING) -> str:
    """A stored degree in music type: "♭9", "♯11", "°7" for the diminished seventh."""
    if degree == "bb7":
        return "°7" if naming.diminished_seventh else "♭♭7"
    if degree == "#9" and not naming.sharp_ninth:
        return "♭3"
    if degree == "b13" and not naming.flat_thirteenth:
        return "♯5"
    if degree == "#11" and not naming.sharp_eleventh:
        return "♭5"
    if not naming.compound:
        bare = degree.lstrip("b#")
        degree = degree[: len(degree) - len(bare)] + _SIMPLE.get(bare, bare)
    return music_accidentals(degree)


_ABOVE_TONIC = ("1", "♭2", "2", "♭3", "3", "4", "♭5", "5", "♭6", "6", "♭7", "7")


def shown_above_tonic(semitones: int) -> str:
    """The name of a tone above a tonic, by semitones."""
    return _ABOVE_TONIC[semitones % 12]
