"""Keys: a tonic and a mode, their signature and their scale."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from gavotte.theory.pitch import PitchName, plain_accidentals

_MODE_FIFTHS = {
    "major": 0,
    "minor": -3,
    "ionian": 0,
    "dorian": -2,
    "phrygian": -4,
    "lydian": 1,
    "mixolydian": -1,
    "aeolian": -3,
    "locrian": -5,
}
_MODE_SCALES = {
    "major": (0, 2, 4, 5, 7, 9, 11),
    "ionian": (0, 2, 4, 5, 7, 9, 11),
    # Raised 6 and 7 count as notes of a minor key beside the natural ones.
    "minor": (0, 2, 3, 5, 7, 8, 9, 10, 11),
    "aeolian": (0, 2, 3, 5, 7, 8, 10),
    "dorian": (0, 2, 3, 5, 7, 9, 10),
    "phrygian": (0, 1, 3, 5, 7, 8, 10),
    "lydian": (0, 2, 4, 6, 7, 9, 11),
    "mixolydian": (0, 2, 4, 5, 7, 9, 10),
    "locrian": (0, 1, 3, 5, 6, 8, 10),
}


MODES = frozenset(_MODE_FIFTHS)
"""The modes a key can have."""


class KeyNameError(ValueError):
    """A text that names no key."""


@dataclass(frozen=True, slots=True)
class Key:
    """A tonic with a mode ("major", "minor" or a church mode, as for a modal vamp)."""

    tonic: PitchName
    mode: str = "major"

    def __post_init__(self) -> None:
        if self.mode not in _MODE_FIFTHS:
            raise KeyNameError(f"{self.mode!r} is no mode; known are {', '.join(sorted(_MODE_FIFTHS))}")

    @classmethod
    def parse(cls, text: str, mode: str = "") -> Key:
        """Read "Bb major" or "C minor"; ``mode``, where given, replaces the mode in the text.

        Raises KeyNameError.
        """
        parts = plain_accidentals(text).split()
        if not 1 <= len(parts) <= 2:
            raise KeyNameError(f"{text!r} is no key; write a tonic and a mode, as in 'Bb major'")
        try:
            tonic = PitchName.parse(parts[0])
        except ValueError as error:
            raise KeyNameError(str(error)) from error
        return cls(tonic, (mode or (parts[1] if len(parts) == 2 else "major")).lower())

    @classmethod
    def from_fifths(cls, fifths: int, mode: str = "major") -> Key:
        """The key with this signature (sharps positive, flats negative) in the given mode."""
        return cls(PitchName.from_fifths(fifths - _MODE_FIFTHS.get(mode, 0)), mode)

    @property
    def fifths(self) -> int:
        """Signature: number of sharps, negative for flats."""
        return self.tonic.fifths + _MODE_FIFTHS[self.mode]

    @property
    def is_minor(self) -> bool:
        """Whether the third above the tonic is minor."""
        return 3 in _MODE_SCALES[self.mode]

    @property
    def pitch_classes(self) -> frozenset[int]:
        """The key's scale as pitch classes; a minor key has both forms of 6 and 7."""
        return _pitch_classes(self.tonic.pitch_class, self.mode)

    @property
    def shown(self) -> str:
        """ "B♭ major"."""
        return f"{self.tonic.shown} {self.mode}"

    def __str__(self) -> str:
        return f"{self.tonic} {self.mode}"


@lru_cache(maxsize=512)
def _pitch_classes(tonic: int, mode: str) -> frozenset[int]:
    return frozenset((tonic + step) % 12 for step in _MODE_SCALES[mode])
