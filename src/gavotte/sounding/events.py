"""What is to sound: notes with their bends, on channels, in nominal seconds."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum


class Voice(IntEnum):
    """Who plays. The value is the synthesiser's channel."""

    SOLO = 0
    BASS = 1
    CHORDS = 2
    RIDE = 9
    CLICK = 10


@dataclass(frozen=True, slots=True)
class Sound:
    """One sounding note.

    ``start`` and ``end`` in nominal seconds, ``key`` a MIDI number, ``loudness`` a MIDI velocity (1 to 127).
    ``bends`` are (seconds from the start, semitones), each holding until the next.
    """

    voice: Voice
    start: float
    end: float
    key: int
    loudness: int
    bends: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True, slots=True)
class Performance:
    """Everything that sounds, and the click apart so that it can count in. ``program`` is the soloist's (GM)."""

    sounds: tuple[Sound, ...]
    start: float
    end: float
    program: int = 0
