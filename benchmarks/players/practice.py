"""Lines to train the ear on: instruments of the part that may be tuned on, each sound changed by chance, in rooms and
bands.

What is changed: partials, attacks, glides and breath of made sounds, the size of an instrument (a note read faster or
slower), its colour (an equaliser), dynamics, tempo, room, hiss, how loud who plays in the band, where the soloist
stands, and in one of four the age of the record.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, replace

import numpy as np
from benchmarks.players import made, recorded, sampled
from benchmarks.players.lines import PlayedNote, Take, composed, played
from benchmarks.players.stage import in_old_record, mixed, old_record, roomy
from numpy.typing import NDArray
from scipy.signal import fftconvolve

from gavotte.recording.player import RATE
from gavotte.sounding.events import Voice

SAMPLED = {
    "Alto saxophone": (65, 64), "Tenor saxophone": (66,), "Soprano saxophone": (64, 65), "Baritone saxophone": (67,),
    "Trumpet": (56, 59), "Flugelhorn": (56,), "Trombone": (57,), "Horn": (60,), "Tuba": (58,), "Clarinet": (71,),
    "Oboe": (68,), "Bassoon": (70,), "Flute": (73, 75, 72), "Harmonica": (22,), "Voice": (53, 52), "Violin": (40,),
    "Viola": (41,), "Cello": (42,), "Guitar": (24, 25, 26, 27), "Bass": (32, 33, 34, 35, 43), "Vibraphone": (11, 12),
    "Piano": (0, 4),
}  # fmt: skip
RECORDED = {
    "Clarinet": ("clarinet",), "Bass clarinet": ("clarinet",), "Violin": ("violin",), "Viola": ("violin", "cello"),
    "Cello": ("cello",), "Guitar": ("guitar-electric", "guitar-acoustic", "guitar-nylon", "harp"),
    "Bass": ("bass-electric", "cello", "cello", "tuba"), "Piano": ("piano", "harp"), "Tuba": ("tuba",),
    "Vibraphone": ("xylophone", "piano", "harp"), "Trombone": ("tuba", "cello"),
    "Baritone saxophone": ("cello", "clarinet", "tuba"),
}  # fmt: skip
MADE = {
    "Alto saxophone": ("reed",), "Tenor saxophone": ("reed",), "Baritone saxophone": ("reed",), "Bassoon": ("reed",),
    "Soprano saxophone": ("reed",), "Clarinet": ("cylinder reed",), "Bass clarinet": ("cylinder reed",),
    "Trumpet": ("brass",), "Trombone": ("low brass", "brass"), "Horn": ("low brass",), "Tuba": ("low brass",),
    "Flugelhorn": ("low brass",), "Flute": ("flute",), "Violin": ("bowed",), "Cello": ("bowed",),
    "Bass": ("bowed", "low plucked", "low plucked"), "Guitar": ("plucked",), "Vibraphone": ("plucked",),
}  # fmt: skip
_TABLES: dict[str, dict[str, tuple[int | str, ...]]] = {"sampled": SAMPLED, "recorded": RECORDED, "made": MADE}  # type: ignore[dict-item]
_LOW = (
    "Baritone saxophone", "Trombone", "Bass", "Tenor saxophone", "Cello", "Tuba", "Bass clarinet", "Bassoon", "Guitar",
)  # fmt: skip
_TEMPOS = (84, 100, 120, 140, 160, 184, 208, 232, 260)
_LEVELS = (None, -9.0, -6.0, -6.0, -3.0, 0.0, 0.0, 2.0)


@dataclass(frozen=True)
class Practice:
    """A line to train on: what was played, how it sounds, and its notes' beginnings and ends in it (seconds)."""

    instrument: str
    take: Take
    sound: NDArray[np.int16]
    spans: NDArray[np.float64]


def practice(number: int) -> Practice:
    """One of any number of lines, the same every time."""
    chance = random.Random(7919 * number + 11)
    kind = chance.choice(tuple(_TABLES))
    table = _TABLES[kind]
    names = sorted(table) if chance.random() < 0.5 else [name for name in _LOW if name in table]
    name = chance.choice(names)
    of = chance.choice(table[name])
    bends = name not in ("Bass", "Vibraphone", "Piano")
    solo = composed(name, chance.choice(_TEMPOS), 31 * number + 7, bends, chance.choice((17, 24, 31)))
    take = played(solo, 31 * number + 8)
    quietest = chance.choice((0.3, 0.5, 0.7))
    notes = tuple(replace(note, loudness=chance.uniform(quietest, 1)) for note in take.notes)
    take = replace(take, notes=notes)
    size = chance.choice((0, 0, chance.randint(-9, 9), chance.randint(-5, 12)))
    if kind == "made":
        line = made.voice(notes, _changed(made.RECIPES[str(of)], chance), take.seconds, number)
    else:
        line = _of_size(notes, of, take.seconds, size)
    levels = {Voice.BASS: chance.uniform(0.3, 0.9), Voice.CHORDS: chance.uniform(0.25, 0.85)}
    levels[Voice.DRUMS] = chance.uniform(0.2, 0.7)
    if name == "Bass":
        del levels[Voice.BASS]
    programs = chance.choice((32, 32, 33, 35)), chance.choice((0, 0, 1, 4, 16, 26, 11))
    band = sampled.band(take.band, "", take.seconds, programs=programs, levels=levels)
    line, band = (
        roomy(_coloured(sound, chance), chance.uniform(0.2, 1.3), chance.uniform(0.05, 0.45), number + k)
        for k, sound in enumerate((line, band))
    )
    level = chance.choice(_LEVELS)
    side = chance.choice((0.0, 0.0, 0.0, chance.uniform(-0.6, 0.6)))
    sound = mixed(line, None if level is None else band, level or 0.0, side, chance.uniform(-65, -30), number)
    spans = np.array([[note.start, note.end] for note in notes]).reshape(-1, 2)
    if chance.random() < 0.25:
        sound, spans = old_record(sound, number), in_old_record(spans.ravel()).reshape(-1, 2)
    return Practice(name, take, sound, spans)


def _changed(recipe: made.Recipe, chance: random.Random) -> made.Recipe:
    def by(low: float, high: float) -> float:
        return chance.uniform(low, high)

    return replace(
        recipe,
        fading=min(0.93, recipe.fading * by(0.88, 1.1)),
        even=min(1.0, recipe.even * by(0.6, 1.4)),
        formants=tuple((hertz * by(0.7, 1.4), gain * by(0.5, 2)) for hertz, gain in recipe.formants),
        swell=recipe.swell * by(0.5, 2.2),
        glide=recipe.glide * by(0.6, 1.8),
        breath=recipe.breath * by(0.5, 2.5),
        chiff=recipe.chiff * by(0.3, 2),
        shake=recipe.shake * by(0.5, 1.8),
        decay=recipe.decay * by(0.6, 2),
    )


def _of_size(notes: tuple[PlayedNote, ...], of: int | str, seconds: float, semitones: int) -> NDArray[np.float32]:
    """The line on an instrument that much larger: played higher and faster, then read slower."""
    ratio = 2 ** (semitones / 12)
    moved = tuple(
        replace(note, start=note.start / ratio, end=note.end / ratio, midi=note.midi + semitones) for note in notes
    )
    length = seconds / ratio + 0.2
    sound = recorded.voice(moved, of, length) if isinstance(of, str) else sampled.voice(moved, of, "", length)
    return np.interp(np.arange(int(seconds * RATE)) / ratio, np.arange(len(sound)), sound).astype(np.float32)


def _coloured(sound: NDArray[np.float32], chance: random.Random) -> NDArray[np.float32]:
    """A sound through an equaliser set by chance: a slope, and three broad bells."""
    hertz = np.fft.rfftfreq(4096, 1 / RATE)
    gain = chance.uniform(-3.5, 2) * np.log2(np.maximum(hertz, 60) / 800)
    for _ in range(3):
        middle, width = 2 ** chance.uniform(6.5, 12.5), chance.uniform(0.25, 0.8)
        gain += chance.uniform(-9, 7) * np.exp(-0.5 * (np.log2(np.maximum(hertz, 20) / middle) / width) ** 2)
    impulse = np.roll(np.fft.irfft(10 ** (np.clip(gain, -24, 14) / 20)), 2048) * np.hanning(4096)
    return fftconvolve(sound, impulse)[2048 : 2048 + len(sound)].astype(np.float32)
