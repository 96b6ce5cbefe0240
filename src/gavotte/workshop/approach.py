"""The ways to approach a goal: from below, from above, double, enclosed, each as pitches about it."""

from __future__ import annotations

from gavotte.workshop.tones import Tones

_SCALE = 100
"""In a way of approaching: not semitones, but a step of the scale above (+) or below (−)."""
WAYS: dict[str, tuple[str, tuple[int, ...]]] = {
    "below": ("a half step from below", (-1,)),
    "above": ("a half step from above", (1,)),
    "scale above": ("a scale step from above", (_SCALE,)),
    "scale below": ("a scale step from below", (-_SCALE,)),
    "double below": ("two half steps from below", (-2, -1)),
    "double above": ("two half steps from above", (2, 1)),
    "enclosure": ("enclosed: scale step above, half step below", (_SCALE, -1)),
    "enclosure turned": ("enclosed: half step below, scale step above", (-1, _SCALE)),
    "enclosure chromatic": ("enclosed: half steps above and below", (1, -1)),
    "enclosure long": ("enclosed in three: above, two half steps below", (_SCALE, -2, -1)),
    "enclosure wide": ("enclosed in four: two from above, two from below", (2, 1, -2, -1)),
}
"""Ways to a goal: their words, and where their notes stand, in semitones from it."""


def approach_pitches(goal: int, way: str, tones: Tones) -> list[int]:
    """The pitches that lead to a goal (MIDI) in one of ``WAYS``; ``tones`` are those of the scale."""
    return [_stand(goal, by, tones) for by in WAYS[way][1]]


def _stand(goal: int, by: int, tones: Tones) -> int:
    if abs(by) != _SCALE:
        return goal + by
    number, above = tones.place(goal)
    if by > 0:
        return tones.midi(number + 1)
    return tones.midi(number if above else number - 1)
