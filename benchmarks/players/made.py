"""A line played on sounds made of sines and noise: reed, brass, flute, bowed and plucked.

Blown and bowed lines are one voice with a pitch that glides between slurred notes, wavers and shakes (vibrato),
partials shaped by formants and by how loud it is, breath, and attacks that take their time; plucked ones ring and fade
note by note. The recipe is additive synthesis with control curves, as in X. Serra and J. Smith, "Spectral modeling
synthesis", Computer Music Journal 14 (1990).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from benchmarks.players.lines import PlayedNote
from numpy.typing import NDArray
from scipy.signal import butter, sosfilt

from gavotte.recording.player import RATE

Floats = NDArray[np.float64]
_STEP = 64
"""Frames between two points of a control curve."""


@dataclass(frozen=True)
class Recipe:
    """How a voice sounds. Times in seconds, ``glide`` from slurred note to note, levels as shares of the tone's.

    ``fading`` is how much quieter each partial is than the one below, ``even`` the share of the even ones, ``formants``
    are (Hz, gain), ``swell`` how long an attack takes, ``breath`` how loud noise is, ``shake`` the vibrato in cents.
    """

    fading: float
    even: float = 1.0
    formants: tuple[tuple[float, float], ...] = ()
    swell: float = 0.03
    glide: float = 0.025
    breath: float = 0.02
    chiff: float = 0.1
    shake: float = 15.0
    plucked: bool = False
    decay: float = 1.0


RECIPES = {
    "reed": Recipe(0.78, 0.8, ((700, 1.5), (1500, 1.2), (3000, 0.6)), 0.022, 0.02, 0.03, 0.15, 18),
    "cylinder reed": Recipe(0.72, 0.25, ((1200, 1.0),), 0.04, 0.02, 0.02, 0.05, 8),
    "brass": Recipe(0.82, 1.0, ((1200, 1.2),), 0.045, 0.035, 0.015, 0.1, 12),
    "low brass": Recipe(0.86, 1.0, ((550, 1.3),), 0.07, 0.05, 0.012, 0.08, 12),
    "flute": Recipe(0.42, 0.9, (), 0.05, 0.015, 0.12, 0.3, 20),
    "bowed": Recipe(0.85, 1.0, ((450, 0.8), (1100, 0.9), (2600, 0.8)), 0.09, 0.03, 0.03, 0.15, 25),
    "plucked": Recipe(0.7, 0.9, ((900, 0.6),), 0.003, 0.012, 0.0, 0.4, 0, True, 1.2),
    "low plucked": Recipe(0.6, 0.9, ((300, 0.6),), 0.006, 0.015, 0.0, 0.3, 0, True, 0.9),
}


def voice(notes: Sequence[PlayedNote], recipe: Recipe, seconds: float, seed: int) -> NDArray[np.float32]:
    """The line as mono sound of ``seconds``, its loudest point at 1."""
    chance = np.random.default_rng(seed)
    out = _plucked(notes, recipe, seconds, chance) if recipe.plucked else _blown(notes, recipe, seconds, chance)
    return (out / max(1e-9, float(np.abs(out).max()))).astype(np.float32)


def _blown(notes: Sequence[PlayedNote], recipe: Recipe, seconds: float, chance: np.random.Generator) -> Floats:
    count = int(seconds * RATE)
    times = np.arange(0, count + _STEP, _STEP) / RATE
    pitch = np.full(len(times), float(notes[0].midi) if notes else 60.0)
    loud, chiff = np.zeros(len(times)), np.zeros(len(times))
    waver = np.cumsum(chance.normal(0, 1, len(times)))
    waver = 0.04 * (waver - np.convolve(waver, np.ones(200) / 200, "same")) / 6
    for index, note in enumerate(notes):
        here = (times >= note.start) & (times < (notes[index + 1].start if index + 1 < len(notes) else seconds))
        since = times[here] - note.start
        curve = np.full(len(since), float(note.midi)) + bent(note, since)
        if note.slurred and index:
            glide = recipe.glide * chance.uniform(0.6, 1.4)
            from_pitch = float(notes[index - 1].midi)
            curve += (from_pitch - note.midi) * (1 - np.clip(since / glide, 0, 1)) ** 2
        elif note.scooped:
            curve -= chance.uniform(0.6, 1.2) * np.exp(-since / 0.04)
        length = note.end - note.start
        if recipe.shake and length > 0.3:
            depth = recipe.shake / 100 * np.clip((since - 0.18) / 0.2, 0, 1)
            curve += depth * np.sin(2 * np.pi * chance.uniform(4.8, 6.2) * since)
        pitch[here] = curve
        swell = recipe.swell * chance.uniform(0.6, 1.6) * (1.4 if note.midi < 50 else 1.0)
        if note.slurred:
            level = note.loudness * (1 - 0.3 * np.exp(-((since - 0.004) ** 2) / 0.0002))
        else:
            level = note.loudness * (1 - np.exp(-since / (swell / 2)))
            chiff[here] += note.loudness * np.exp(-since / 0.012) * recipe.chiff
        level = level * (1 - 0.25 * np.clip(since / max(length, 0.1), 0, 1))
        after = note.end - note.start
        is_joined = index + 1 < len(notes) and notes[index + 1].slurred
        if not is_joined:
            level = np.where(since > after, level * np.exp(-(since - after) / 0.025), level)
        loud[here] = np.maximum(level, loud[here])
    frames = np.arange(count)
    curve_at = frames / _STEP
    midi = np.interp(curve_at, np.arange(len(times)), pitch + waver)
    level = np.interp(curve_at, np.arange(len(times)), loud)
    hertz = 440 * 2 ** ((midi - 69) / 12)
    phase = 2 * np.pi * np.cumsum(hertz) / RATE
    out = np.zeros(count)
    # Louder is brighter.
    slope = np.log(recipe.fading) * (1.35 - 0.5 * level)
    for partial in range(1, 25):
        places = partial * hertz
        gain = np.exp(slope * (partial - 1)) * (recipe.even if partial % 2 == 0 else 1.0)
        for centre, boost in recipe.formants:
            gain = gain * (1 + boost * np.exp(-0.5 * (np.log2(places / centre) / 0.45) ** 2))
        gain[places > 0.45 * RATE] = 0.0
        if float(gain.max()) < 1e-3:
            break
        out += gain * np.sin(partial * phase + chance.uniform(0, 6))
    out *= level
    noise = chance.normal(0, 1, count)
    breath = sosfilt(butter(2, (700, 6000), "bandpass", fs=RATE, output="sos"), noise)
    tip = np.interp(curve_at, np.arange(len(times)), chiff)
    usual = float(np.sqrt((out**2).mean())) or 1.0
    return np.asarray(out + usual * 4 * breath * (recipe.breath * level + tip))


def bent(note: PlayedNote, since: Floats) -> Floats:
    """The semitones above its written pitch through a note."""
    if not note.bent:
        return np.zeros(len(since))
    length = note.end - note.start
    top = min(0.35, 0.4 * length)
    up = np.clip((since - 0.15 * top) / (0.85 * top), 0, 1)
    if note.back:
        up = up * (1 - np.clip((since - 0.6 * length) / (0.2 * length), 0, 1))
    return np.asarray(note.bent * up)


def _plucked(notes: Sequence[PlayedNote], recipe: Recipe, seconds: float, chance: np.random.Generator) -> Floats:
    out = np.zeros(int(seconds * RATE) + RATE)
    for note in notes:
        ring = note.end - note.start + 0.06
        count = int(ring * RATE)
        since = np.arange(count) / RATE
        hertz = 440 * 2 ** ((note.midi + bent(note, since) - 69) / 12)
        phase = 2 * np.pi * np.cumsum(hertz) / RATE
        sound = np.zeros(count)
        pick = chance.uniform(0.15, 0.35)
        for partial in range(1, 21):
            stiff = partial * np.sqrt(1 + 0.00008 * partial**2)
            if stiff * float(hertz.max()) > 0.45 * RATE:
                break
            gain = recipe.fading ** (partial - 1) * abs(np.sin(np.pi * partial * pick)) + 0.02
            for centre, boost in recipe.formants:
                gain *= 1 + boost * float(np.exp(-0.5 * (np.log2(stiff * hertz[0] / centre) / 0.5) ** 2))
            sound += gain * np.exp(-since * (1 + 0.25 * partial) / recipe.decay) * np.sin(stiff * phase)
        level = note.loudness * (0.65 if note.slurred else 1.0)
        swell = 0.01 if note.slurred else recipe.swell
        hand = 0.0 if note.slurred else recipe.chiff
        click = chance.normal(0, 1, count) * np.exp(-since / 0.004) * hand
        damped = np.minimum(1, (ring - since) / 0.04)
        at = int(note.start * RATE)
        out[at : at + count] += (level * (sound * np.minimum(1, since / swell) + click) * damped)[: len(out) - at]
    return out[: int(seconds * RATE)]
