"""Recordings of the demo solos, played by Gavotte's own band with the small unevenness of people."""

from __future__ import annotations

import hashlib
import random
from collections.abc import Generator
from dataclasses import replace
from pathlib import Path

import numpy as np
import soundfile

from gavotte.demo.arcade import arcade
from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.whole_file import whole_file
from gavotte.library.recordings import FOLDER
from gavotte.library.store import Library
from gavotte.practice.own_solo import beats_of
from gavotte.recording.player import RATE
from gavotte.recording.recording import Recording
from gavotte.solo.document import Solo
from gavotte.sounding.events import Performance, Sound, Voice
from gavotte.sounding.performance import perform
from gavotte.sounding.rendering import rendered
from gavotte.sounding.synth import FluidSynth, find_soundfont
from gavotte.steps import scaled

_LEAD_IN = 1.0
_UNEVEN = {Voice.SOLO: 0.011, Voice.BASS: 0.006, Voice.CHORDS: 0.008, Voice.DRUMS: 0.004}
_LEVELS = {Voice.SOLO: 0.95, Voice.BASS: 0.65, Voice.CHORDS: 0.45, Voice.DRUMS: 0.4, Voice.CLICK: 0.0}
_PLAYING = 0.95
"""The share of the work that is playing; the rest is writing the file."""


def to_be_recorded(library: Library) -> list[tuple[str, Solo]]:
    """The demo solos of a library that have no recording yet, by id, as they are to be played: whole."""
    known = {made.title: made for made in (make() for make in (*DEMO_SOLOS, arcade))}
    return [
        (entry.id, known[entry.title])
        for entry in library.solos()
        if entry.title in known and library.recording(entry.id) is None
    ]


def record(solo: Solo, library_folder: Path) -> Generator[float, None, Recording]:
    """Play a solo into a FLAC file in the library's folder, in steps. Raises SynthError where there is no synthesiser.

    The file is there whole or not at all.
    """
    performance, timeline = perform(solo, None)
    # The same people play every time.
    performance = _by_people(performance, random.Random(solo.title))
    playing = rendered(performance, FluidSynth(find_soundfont()), _LEVELS, lead=_LEAD_IN)
    sound = yield from scaled(playing, 0.0, _PLAYING)
    sound *= 0.8 / max(0.01, float(np.abs(sound).max()))
    name = f"{solo.title}.flac"
    path = library_folder / FOLDER / name
    path.parent.mkdir(parents=True, exist_ok=True)
    with whole_file(path) as draft:
        soundfile.write(draft, sound, RATE, format="FLAC", subtype="PCM_16")
    yield 1.0
    offset = _LEAD_IN - performance.start
    return Recording(
        name,
        f"{FOLDER}/{name}",
        True,
        hashlib.sha256(path.read_bytes()).hexdigest(),
        len(sound),
        beats_of(timeline, offset),
    )


def _by_people(performance: Performance, chance: random.Random) -> Performance:
    """The performance with every sound a little early or late."""

    def moved(sound: Sound) -> Sound:
        spread = _UNEVEN.get(sound.voice, 0.0)
        by = max(-2 * spread, min(2 * spread, chance.gauss(0, spread)))
        start = max(performance.start, sound.start + by)
        return replace(sound, start=start, end=max(start + 0.03, sound.end + by))

    return replace(performance, sounds=tuple(sorted(map(moved, performance.sounds), key=lambda sound: sound.start)))
