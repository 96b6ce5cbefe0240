"""What an exact shape sounds over a chord, from each degree it can start on, and structures that lie over chords."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gavotte.labelling.tensions import is_clash
from gavotte.theory.chord import Chord
from gavotte.theory.degrees import shown_degree

STARTS: tuple[str, ...] = ("1", "b9", "9", "b3", "3", "11", "#11", "5", "b13", "13", "b7", "7")
"""The degrees a shape can start on, by semitones above the root."""
STRUCTURES: dict[str, tuple[int, ...]] = {
    "major triad": (0, 4, 7),
    "minor triad": (0, 3, 7),
    "augmented triad": (0, 4, 8),
    "diminished triad": (0, 3, 6),
    "suspended triad": (0, 5, 7),
    "major seventh": (0, 4, 7, 11),
    "dominant seventh": (0, 4, 7, 10),
    "minor seventh": (0, 3, 7, 10),
    "half-diminished": (0, 3, 6, 10),
    "diminished seventh": (0, 3, 6, 9),
    "minor with major seventh": (0, 3, 7, 11),
    "fourths": (0, 5, 10),
    "1-2-3-5": (0, 2, 4, 7),
    "minor 1-2-3-5": (0, 2, 3, 7),
}
"""Shapes by name, as semitones above their first note."""
_BITES = {1: 0.4, 2: 0.2}


@dataclass(frozen=True, slots=True)
class Start:
    """A shape from one of ``STARTS``: the degrees it sounds, how tense they are together (0 for chord tones only), and
    that in words.
    """

    start: str
    degrees: tuple[str, ...]
    tension: float
    words: str

    @property
    def shown(self) -> str:
        """ "7 9 ♯11 13"."""
        return " ".join(shown_degree(degree) for degree in self.degrees)


def starts(chord: Chord, scale: frozenset[int], shape: Sequence[int]) -> tuple[Start, ...]:
    """Every start of a shape over a chord (as read) with the pitch classes of its scale, the calmest first.

    ``shape`` are semitones above its first note.
    """
    return tuple(
        sorted((start_of(chord, scale, shape, k) for k in range(12)), key=lambda s: (s.tension, STARTS.index(s.start)))
    )


def start_of(chord: Chord, scale: frozenset[int], shape: Sequence[int], above: int) -> Start:
    """A shape that starts ``above`` semitones over the root."""
    root = chord.root.pitch_class
    classes = [(root + above + step) % 12 for step in shape]
    degrees = tuple(chord.degree_of(pitch_class) for pitch_class in classes)
    tension = round(sum(_pull(chord, scale, pitch_class) for pitch_class in classes) / max(1, len(classes)), 3)
    return Start(STARTS[above], degrees, tension, _words(chord, scale, classes))


def _pull(chord: Chord, scale: frozenset[int], pitch_class: int) -> float:
    """How strongly a pitch class pulls against a chord: by the nearest tones, more if it clashes or is foreign."""
    if pitch_class in chord.tone_classes:
        return 0.0
    distances = sorted(min((pitch_class - tone) % 12, (tone - pitch_class) % 12) for tone in chord.tone_classes)
    bite = sum(_BITES.get(distance, 0.1) for distance in distances[:2])
    foreign = pitch_class not in scale
    return bite + 0.5 * is_clash(chord, chord.degree_of(pitch_class)) + 0.5 * foreign


def _words(chord: Chord, scale: frozenset[int], classes: Sequence[int]) -> str:
    tones = [c for c in classes if c in chord.tone_classes]
    clashes = [c for c in classes if c not in chord.tone_classes and is_clash(chord, chord.degree_of(c))]
    foreign = [c for c in classes if c not in chord.tone_classes and c not in scale and c not in clashes]
    colours = len(classes) - len(tones) - len(clashes) - len(foreign)
    if len(tones) == len(classes):
        return "all chord tones"
    if colours == len(classes):
        return "all colours"
    said = [
        _counted(len(tones), "chord tone"),
        _counted(colours, "colour"),
        _counted(len(clashes), "clash", "clashes"),
        f"{len(foreign)} outside its scale" if foreign else "",
    ]
    return ", ".join(part for part in said if part)


def _counted(number: int, noun: str, nouns: str = "") -> str:
    return "" if not number else f"{number} {noun if number == 1 else nouns or noun + 's'}"
