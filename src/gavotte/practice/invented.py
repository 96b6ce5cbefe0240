"""Invented takes: a line as somebody might play it who rushes, misses, or stops; the stand-in for a microphone."""

from __future__ import annotations

import random
from collections.abc import Generator
from dataclasses import replace
from enum import StrEnum
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from gavotte.solo.document import Note, Solo
from gavotte.sounding.events import Voice
from gavotte.sounding.performance import perform
from gavotte.sounding.rendering import rendered
from gavotte.sounding.synth import Synth
from gavotte.theory.chord import Chord
from gavotte.theory.pitch import spell


class Manner(StrEnum):
    """How an invented take is played."""

    CLEAN = "clean"
    RUSHED = "rushed"
    WRONG_NOTES = "wrong notes"
    STOPPED = "stopped half-way"


_UNEVEN = 0.008
_RUSH = 0.06
_WRONG, _MISSED = 0.12, 0.06
_RING = 0.6
_EIGHTH, _REST, _FARTHEST = Fraction(1, 2), 0.15, 7


def flawed(solo: Solo, manner: Manner, seed: int) -> Solo:
    """The notes that are played of a solo: some are others, some missing, or the end is."""
    chance = random.Random(seed)
    notes = solo.notes
    if manner is Manner.STOPPED:
        notes = notes[: max(1, len(notes) // 2)]
    if manner is Manner.WRONG_NOTES:
        played: list[Note] = []
        for note in notes:
            roll = chance.random()
            if roll < _MISSED:
                continue
            pitch = spell(note.pitch.midi + chance.choice((-2, -1, 1, 2)), 0) if roll < _MISSED + _WRONG else note.pitch
            played.append(replace(note, pitch=pitch))
        notes = tuple(played)
    return replace(solo, notes=notes)


def improvised(solo: Solo, seed: int) -> Solo:
    """A line over a solo's changes, as a beginner might play it: chord tones in eighths, with a rest now and then."""
    chance = random.Random(seed)
    low, high = solo.instrument.lowest + 5, solo.instrument.highest - 5
    pitch = (low + high) // 2
    notes: list[Note] = []
    ends = [*(event.onset for event in solo.chords[1:]), solo.end]
    for event, end in zip(solo.chords, ends, strict=True):
        symbol, now = event.symbol, event.onset
        if not isinstance(symbol, Chord):
            continue
        tones = [midi for midi in range(low, high + 1) if midi % 12 in symbol.tone_classes]
        while now < end:
            length = chance.choice((_EIGHTH, _EIGHTH, _EIGHTH, 2 * _EIGHTH))
            near = [midi for midi in tones if midi != pitch and abs(midi - pitch) <= _FARTHEST]
            if chance.random() > _REST and near:
                pitch = chance.choice(near)
                notes.append(Note(f"n{len(notes)}", now, min(length, end - now), spell(pitch, 0)))
            now += length
    return replace(solo, notes=tuple(notes))


def invented_take(
    solo: Solo, swing: Fraction, rate: float, manner: Manner, synth: Synth, seed: int = 1
) -> Generator[float, None, NDArray[np.int16]]:
    """A take of a solo's notes as sound: 16-bit stereo at 44,100 Hz, at a share of its tempo, from bar 1 on; yields the
    share that is done.
    """
    chance = random.Random(seed)
    performance, _ = perform(flawed(solo, manner, seed), swing)
    sounds = [sound for sound in performance.sounds if sound.voice is Voice.SOLO]
    length = max(0.1, performance.end - performance.start)
    moved = []
    for sound in sounds:
        part = sound.start - performance.start
        by = chance.gauss(0, _UNEVEN) - (_RUSH * part * part / (2 * length) if manner is Manner.RUSHED else 0.0)
        start = max(performance.start, sound.start + by)
        moved.append(replace(sound, start=start, end=max(start + 0.03, sound.end + by)))
    moved.sort(key=lambda sound: sound.start)
    played, lead = replace(performance, sounds=tuple(moved)), performance.start / rate
    sound_made = yield from rendered(played, synth, {Voice.SOLO: 0.9}, rate, _RING, lead)
    loudest = float(np.abs(sound_made).max()) if len(sound_made) else 0.0
    hiss = np.random.default_rng(seed).normal(0, 0.0008, sound_made.shape)
    return np.asarray((sound_made * (0.6 / max(0.01, loudest)) + hiss) * 32767, np.int16)
