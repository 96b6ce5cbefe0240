"""A line and its band played on a SoundFont."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
from benchmarks.players.lines import PlayedNote
from numpy.typing import NDArray

from gavotte.recording.player import RATE
from gavotte.sounding.engine import Engine
from gavotte.sounding.events import Performance, Sound, Voice
from gavotte.sounding.synth import FluidSynth, find_soundfont

OTHER_FONT = "/usr/share/sounds/sf2/FluidR3_GM.sf2"
_LEVELS = {Voice.BASS: 0.65, Voice.CHORDS: 0.55, Voice.DRUMS: 0.4}
_BLOCK = 4410


@lru_cache(maxsize=4)
def _synth(font: str) -> FluidSynth:
    return FluidSynth(find_soundfont(font))


def voice(notes: Sequence[PlayedNote], program: int, font: str, seconds: float) -> NDArray[np.float32]:
    """The line as mono sound of ``seconds`` on a General MIDI program."""
    sounds = []
    for note in notes:
        length = note.end - note.start
        bends: tuple[tuple[float, float], ...] = ()
        if note.bent:
            top = min(0.35, 0.4 * length)
            bends = tuple((0.1 * top + 0.9 * top * k / 8, note.bent * k / 8) for k in range(9))
            if note.back:
                bends += tuple((length * (0.6 + 0.025 * k), note.bent * (1 - k / 8)) for k in range(1, 9))
        elif note.scooped:
            bends = tuple((0.012 * k, -1 + k / 8) for k in range(9))
        loud = round(50 + 70 * note.loudness) - (25 if note.slurred else 0)
        # Slurred notes overlap a little.
        end = note.end + (0.01 if note.slurred else 0.0)
        sounds.append(Sound(Voice.SOLO, note.start, end, note.midi, loud, bends))
    return _rendered(Performance(tuple(sounds), 0.0, seconds, program), {Voice.SOLO: 0.9}, font)


def band(
    sounds: Sequence[Sound],
    font: str,
    seconds: float,
    without: Sequence[Voice] = (),
    programs: tuple[int, int] = (32, 0),
    levels: Mapping[Voice, float] = _LEVELS,
) -> NDArray[np.float32]:
    """The band as mono sound of ``seconds``; ``programs`` are those of bass and chords."""
    synth = _synth(font)
    for voice, program in zip((Voice.BASS, Voice.CHORDS), programs, strict=True):
        synth._synth.program_select(int(voice), synth._font, 0, program)
    levels = {voice: level for voice, level in levels.items() if voice not in without}
    return _rendered(Performance(tuple(sorted(sounds, key=lambda s: s.start)), 0.0, seconds), levels, font)


def _rendered(performance: Performance, levels: Mapping[Voice, float], font: str) -> NDArray[np.float32]:
    engine = Engine(_synth(font))
    for voice in Voice:
        engine.level(voice, levels.get(voice, 0.0))
    engine.start(performance, 0.0, performance.end)
    blocks = int(performance.end * RATE / _BLOCK) + 1
    sound = np.concatenate([engine.read(_BLOCK) for _ in range(blocks)]).mean(axis=1)
    return np.asarray(sound[: int(performance.end * RATE)], np.float32)
