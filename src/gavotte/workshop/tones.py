"""A set of pitch classes as a row of tones from the lowest to the highest, however many there are to an octave."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from functools import lru_cache


@dataclass(frozen=True, slots=True)
class Tones:
    """``classes`` are pitch classes, rising from 0. Tones are numbered from the lowest above MIDI 0."""

    classes: tuple[int, ...]

    def place(self, midi: int) -> tuple[int, int]:
        """The tone at or below a pitch, by its number, and how many semitones the pitch lies above it."""
        octave, pitch_class = divmod(midi, 12)
        index = bisect_right(self.classes, pitch_class) - 1
        number = octave * len(self.classes) + index
        return number, midi - self.midi(number)

    def midi(self, number: int) -> int:
        """The pitch of a tone."""
        octave, index = divmod(number, len(self.classes))
        return 12 * octave + self.classes[index]

    def nearest(self, midi: int) -> int:
        """The number of the tone nearest to a pitch, of two the lower one."""
        number, above = self.place(midi)
        return number + 1 if above and self.midi(number + 1) - midi < above else number


@lru_cache(maxsize=512)
def tones_of(classes: frozenset[int]) -> Tones:
    """The tones of some pitch classes. Raises ValueError where there is none."""
    if not classes:
        raise ValueError("a row of tones needs at least one pitch class")
    return Tones(tuple(sorted(classes)))
