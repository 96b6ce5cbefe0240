"""The degrees a shape can start on over a chord, and the structures players lay over chords."""

from __future__ import annotations

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
