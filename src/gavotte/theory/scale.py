"""Named scales as semitones above their root."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

SCALES: dict[str, tuple[int, ...]] = {
    "major": (0, 2, 4, 5, 7, 9, 11),
    "dorian": (0, 2, 3, 5, 7, 9, 10),
    "phrygian": (0, 1, 3, 5, 7, 8, 10),
    "lydian": (0, 2, 4, 6, 7, 9, 11),
    "mixolydian": (0, 2, 4, 5, 7, 9, 10),
    "aeolian": (0, 2, 3, 5, 7, 8, 10),
    "locrian": (0, 1, 3, 5, 6, 8, 10),
    "locrian with 9": (0, 1, 2, 3, 5, 6, 8, 10),
    "harmonic minor": (0, 2, 3, 5, 7, 8, 11),
    "melodic minor": (0, 2, 3, 5, 7, 9, 11),
    "lydian dominant": (0, 2, 4, 6, 7, 9, 10),
    "altered": (0, 1, 3, 4, 6, 8, 10),
    "whole tone": (0, 2, 4, 6, 8, 10),
    "whole-half diminished": (0, 2, 3, 5, 6, 8, 9, 11),
    "major pentatonic": (0, 2, 4, 7, 9),
    "minor pentatonic": (0, 3, 5, 7, 10),
    "blues": (0, 3, 5, 6, 7, 10),
    "mixed blues": (0, 2, 3, 4, 5, 6, 7, 9, 10),
    "diminished": (0, 1, 3, 4, 6, 7, 9, 10),
    "bebop major": (0, 2, 4, 5, 7, 8, 9, 11),
    "bebop minor": (0, 2, 3, 4, 5, 7, 9, 10),
    "bebop dominant": (0, 2, 4, 5, 7, 9, 10, 11),
}

COLLECTIONS = (
    "minor pentatonic", "major pentatonic", "blues", "major", "dorian", "mixolydian", "aeolian", "phrygian", "lydian",
    "locrian", "harmonic minor", "melodic minor", "whole tone", "altered", "lydian dominant", "diminished",
    "bebop dominant", "bebop major", "bebop minor", "mixed blues",
)  # fmt: skip
"""The collections a stretch can be read in, of two that fit alike the plainer first."""
BLUES_COLLECTIONS = frozenset({"blues", "mixed blues", "minor pentatonic"})
"""Those whose ♭3, ♭5 and ♭7 are heard as blue notes."""


@lru_cache(maxsize=512)
def collection_pitch_classes(kind: str, tonic: int) -> frozenset[int]:
    """The pitch classes of a collection ``kind`` (a key of SCALES) above a tonic's pitch class."""
    return frozenset((tonic + step) % 12 for step in SCALES[kind])


@dataclass(frozen=True, slots=True)
class Scale:
    """A set of pitch classes with the name a player calls it by."""

    name: str
    pitch_classes: frozenset[int]

    @classmethod
    def named(cls, kind: str, root: int, root_name: str) -> Scale:
        """The scale ``kind`` (a key of SCALES) on a root pitch class, called "``root_name`` ``kind``"."""
        return cls(f"{root_name} {kind}", collection_pitch_classes(kind, root))

    def __contains__(self, pitch_class: int) -> bool:
        return pitch_class % 12 in self.pitch_classes

    def are_neighbours(self, low: int, high: int) -> bool:
        """Whether no scale tone lies between two MIDI numbers that both belong to the scale."""
        low, high = sorted((low, high))
        return low in self and high in self and not any(between in self for between in range(low + 1, high))
