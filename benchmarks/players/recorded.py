"""A line played on single notes recorded from players (CC BY 3.0), fetched once from the package registry by ``npm``.

Each note is the nearest recorded one, read a little faster or slower; its loudness over the first moments is evened
out, and a slurred note begins behind its attack. Nothing of it is part of the application.
"""

from __future__ import annotations

import subprocess
import tarfile
import tempfile
from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path

import numpy as np
import platformdirs
import soundfile
from benchmarks.players.lines import PlayedNote
from benchmarks.players.made import bent
from numpy.typing import NDArray

from gavotte.recording.player import RATE

_CACHE = Path(platformdirs.user_cache_dir("gavotte-benchmarks"))
_CLASSES = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_FADE, _RELEASE = 0.012, 0.05
_MISNAMED = {("trumpet", 48), ("trumpet", 58), ("cello", 40), ("cello", 70), ("clarinet", 90)}
"""Notes that sound at another pitch than their file says."""


def fetched(name: str) -> Path:
    """The folder with an instrument's notes; fetched where it is not there yet. Raises CalledProcessError."""
    folder = _CACHE / name
    if folder.is_dir():
        return folder
    _CACHE.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=_CACHE) as place:
        package = f"tonejs-instrument-{name}-mp3"
        subprocess.run(["npm", "pack", package, "--silent"], cwd=place, check=True, capture_output=True)
        with tarfile.open(next(Path(place).glob("*.tgz"))) as archive:
            archive.extractall(place, filter="data")
        try:
            (Path(place) / "package").rename(folder)
        except OSError:
            # Another process was faster.
            if not folder.is_dir():
                raise
    return folder


@lru_cache(maxsize=16)
def _notes(name: str) -> dict[int, NDArray[np.float32]]:
    """The recorded notes by MIDI number: mono, from where they begin, equally loud over a quarter of a second."""
    found = {}
    for path in sorted(fetched(name).glob("*.mp3")):
        stem = path.stem.split(" ")[0]
        midi = 12 * (int(stem[-1]) + 1) + _CLASSES[stem[0]] + ("s" in stem[1:])
        if (name, midi) in _MISNAMED:
            continue
        sound, rate = soundfile.read(path, dtype="float32", always_2d=True)
        assert rate == RATE
        mono = sound.mean(axis=1)
        level = np.sqrt(np.convolve(mono**2, np.ones(441) / 441, "same"))
        early = level[: int(0.6 * RATE)]
        begins = int(np.argmax(early > 0.12 * early.max()))
        mono = mono[max(0, begins - 220) :]
        loud = float(np.sqrt((mono[: RATE // 4] ** 2).mean())) or 1.0
        found[midi] = mono / loud
    return found


def voice(notes: Sequence[PlayedNote], name: str, seconds: float) -> NDArray[np.float32]:
    """The line as mono sound of ``seconds``, its loudest point at 1."""
    sounds = _notes(name)
    out = np.zeros(int(seconds * RATE) + RATE, np.float32)
    for index, note in enumerate(notes):
        nearest = min(sounds, key=lambda midi: abs(midi - note.midi))
        is_joined = index + 1 < len(notes) and notes[index + 1].slurred
        ring = note.end - note.start + (_FADE if is_joined else _RELEASE)
        since = np.arange(int(ring * RATE)) / RATE
        speed = 2 ** ((note.midi - nearest + bent(note, since)) / 12)
        skip = 0.09 * RATE if note.slurred else 0.0
        places = skip + np.cumsum(speed)
        source = sounds[nearest]
        sound = np.interp(places, np.arange(len(source)), source, right=0.0)
        attack = np.minimum(1, since / _FADE) if note.slurred else np.minimum(1, since / 0.002)
        release = np.clip((ring - since) / (_FADE if is_joined else _RELEASE), 0, 1)
        at = int(note.start * RATE)
        out[at : at + len(sound)] += (note.loudness * sound * attack * release).astype(np.float32)[: len(out) - at]
    out = out[: int(seconds * RATE)]
    return out / max(1e-9, float(np.abs(out).max()))
