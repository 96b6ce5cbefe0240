"""Tension: how strongly a note pulls against its chord, 0 for a chord tone and at most 1."""

from __future__ import annotations

from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote


def tension(frame: Frame, note: FramedNote) -> float:
    """A semitone from the nearest chord tones bites more than a whole tone; accent and length add weight."""
    tones = frame.span_of(note).tones
    if note.is_tone:
        return 0.0
    pitch_class = note.pitch % 12
    distances = sorted(min((pitch_class - tone) % 12, (tone - pitch_class) % 12) for tone in tones)
    bite = sum({1: 0.4, 2: 0.2}.get(distance, 0.1) for distance in distances[:2])
    weight = 1.0 + (0.15 if note.strong else 0.0) + (0.15 if note.held else 0.0)
    return min(1.0, round(bite * weight, 3))
