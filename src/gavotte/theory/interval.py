"""Intervals: diatonic steps and semitones together, so that a third and an augmented second differ."""

from __future__ import annotations

from dataclasses import dataclass

_SIZES = ("unison", "second", "third", "fourth", "fifth", "sixth", "seventh")
_PERFECT = {0, 3, 4}
_MAJOR_SEMITONES = (0, 2, 4, 5, 7, 9, 11)
_ORDINALS = {
    8: "octave",
    9: "ninth",
    10: "tenth",
    11: "eleventh",
    12: "twelfth",
    13: "thirteenth",
    14: "fourteenth",
    15: "double octave",
}


@dataclass(frozen=True, slots=True)
class Interval:
    """``steps`` diatonic steps (a third is 2) and ``semitones``; both negative for an interval downwards."""

    steps: int
    semitones: int

    def __neg__(self) -> Interval:
        return Interval(-self.steps, -self.semitones)

    def __add__(self, other: Interval) -> Interval:
        return Interval(self.steps + other.steps, self.semitones + other.semitones)

    @property
    def name(self) -> str:
        """The interval's name without its direction: "minor third", "augmented fourth"."""
        down = self.steps < 0 or (self.steps == 0 and self.semitones < 0)
        steps, semitones = (-self.steps, -self.semitones) if down else (self.steps, self.semitones)
        octaves, size = divmod(steps, 7)
        excess = semitones - 12 * octaves - _MAJOR_SEMITONES[size]
        number = steps + 1
        noun = _SIZES[size] if number < 8 else _ORDINALS.get(number, f"{number}th")
        if size in _PERFECT:
            kind = {0: "perfect", 1: "augmented", -1: "diminished", 2: "doubly augmented", -2: "doubly diminished"}
        else:
            kind = {
                0: "major",
                -1: "minor",
                1: "augmented",
                -2: "diminished",
                2: "doubly augmented",
                -3: "doubly diminished",
            }
        return f"{kind.get(excess, f'{excess:+d} semitones')} {noun}"


UNISON = Interval(0, 0)
OCTAVE = Interval(7, 12)
