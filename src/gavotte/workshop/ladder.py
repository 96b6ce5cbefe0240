"""A chord as a ladder: its seven degrees as they sound there, so that a line can be set on other chords by degree.

A rung is numbered in steps above the root (0 root, 1 ninth, 2 third, 3 eleventh, 4 fifth, 5 thirteenth, 6 seventh);
seven steps are an octave. Chord tones and written tensions stand as the symbol has them, the rest as the local scale.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from gavotte.theory.chord import DEGREE_SEMITONES, Chord

STEPS = 7
_STEP_OF_NUMBER = {"1": 0, "2": 1, "9": 1, "3": 2, "4": 3, "11": 3, "5": 4, "6": 5, "13": 5, "7": 6}
_WAYS = ((0,), (2, 1, 3), (4, 3), (5, 6), (7, 6, 8), (9, 8), (10, 11, 9))
"""Semitones each step can stand at, the likeliest first."""


@dataclass(frozen=True, slots=True)
class Rung:
    """A place on a ladder: ``step`` above the root, negative below it, and by how many semitones it is altered."""

    step: int
    alter: int = 0


@dataclass(frozen=True, slots=True)
class Ladder:
    """A ``chord`` and the semitones of its seven steps above the root, rising."""

    chord: Chord
    semitones: tuple[int, ...]

    @property
    def root(self) -> int:
        """The root's pitch class."""
        return self.chord.root.pitch_class

    def rung(self, midi: int, root: int) -> Rung:
        """Where a pitch stands above ``root``, the root's MIDI number it is counted from."""
        octave, above = divmod(midi - root, 12)
        step = step_of(self.chord, self.chord.degree_of(midi % 12))
        return Rung(step + STEPS * octave, above - self.semitones[step])

    def midi(self, rung: Rung, root: int) -> int:
        """The pitch of a rung above ``root``."""
        octave, step = divmod(rung.step, STEPS)
        return root + 12 * octave + self.semitones[step] + rung.alter

    def is_tone(self, step: int) -> bool:
        """Whether a step is one of the chord's tones."""
        tones = {step_of(self.chord, degree) for degree in self.chord.tones}
        return step % STEPS in tones


def step_of(chord: Chord, degree: str) -> int:
    """The step (0 to 6) a degree of a chord stands on; the fourth of a sus chord stands in for its third."""
    if chord.is_suspended and degree == chord.third:
        return 2
    if degree == "#9" and chord.is_minor:
        return 2
    return _STEP_OF_NUMBER[degree.lstrip("b#")]


@lru_cache(maxsize=2048)
def ladder_of(chord: Chord, pitch_classes: frozenset[int]) -> Ladder:
    """The ladder of a chord (as read) over a local scale's pitch classes."""
    root = chord.root.pitch_class
    inside = {(pitch_class - root) % 12 for pitch_class in pitch_classes}
    steps: list[int | None] = [None] * STEPS
    steps[0] = 0
    for degree in chord.tensions[::-1]:
        # Of two ninths the first one written stands on the ladder.
        steps[step_of(chord, degree)] = DEGREE_SEMITONES[degree]
    for degree in chord.tones:
        steps[step_of(chord, degree)] = DEGREE_SEMITONES[degree]
    taken = {semitones for semitones in steps if semitones is not None}
    for step, ways in enumerate(_WAYS):
        if steps[step] is None:
            fitting = [way for way in ways if way in inside]
            free = [way for way in fitting if way not in taken]
            steps[step] = (free or fitting or list(ways))[0]
            taken.add(steps[step] or 0)
    filled = [semitones or 0 for semitones in steps]
    for step in range(1, STEPS):
        filled[step] = max(filled[step], filled[step - 1])
    return Ladder(chord, tuple(filled))
