"""What is to sound: notes with their bends, on channels, in nominal seconds."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import IntEnum
from functools import cached_property


class Voice(IntEnum):
    """Who plays. The value is the synthesiser's channel."""

    SOLO = 0
    BASS = 1
    CHORDS = 2
    DRUMS = 9
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


_HELD = 5.0
"""Seconds from which on a sound of the band is one that is held."""


class CueKind(IntEnum):
    """What a cue tells; of those at one time the smaller ones come first."""

    OFF = 0
    BEND = 1
    ON = 2


@dataclass(frozen=True, slots=True)
class Cue:
    """One thing to tell a synthesiser at ``time`` (nominal seconds): a note that begins or ends, or where it is bent.

    ``value`` is the loudness of a note that begins, the semitones of a bend.
    """

    time: float
    kind: CueKind
    voice: Voice
    key: int
    value: float


def cues_of(sounds: Iterable[Sound]) -> list[Cue]:
    """What is to be told for some sounds, in the order of time."""
    cues = []
    for sound in sounds:
        cues.append(Cue(sound.start, CueKind.ON, sound.voice, sound.key, sound.loudness))
        cues.append(Cue(sound.end, CueKind.OFF, sound.voice, sound.key, 0))
        if sound.voice is Voice.SOLO:
            # Each note starts from its own pitch, whatever was bent before.
            if not sound.bends or sound.bends[0][0] > 0:
                cues.append(Cue(sound.start, CueKind.BEND, sound.voice, sound.key, 0.0))
            cues += [
                Cue(sound.start + after, CueKind.BEND, sound.voice, sound.key, semitones)
                for after, semitones in sound.bends
                if sound.start + after < sound.end
            ]
    return sorted(cues, key=lambda cue: (cue.time, cue.kind))


@dataclass(frozen=True)
class Performance:
    """Everything that sounds, and the click apart so that it can count in. ``program`` is the soloist's (GM),
    ``chords_program`` that of the chords.
    """

    sounds: tuple[Sound, ...]
    start: float
    end: float
    program: int = 0
    chords_program: int = 0

    @cached_property
    def held(self) -> list[Sound]:
        """What is held so long that whoever begins in the middle must hear it from there on."""
        return [sound for sound in self.sounds if sound.voice is not Voice.SOLO and sound.end - sound.start > _HELD]

    @cached_property
    def cues(self) -> list[Cue]:
        """What is to be told to play it, in the order of time; of a long solo it takes a while to put together."""
        return cues_of(self.sounds)
