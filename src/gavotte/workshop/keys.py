"""A lick in all twelve keys, spelled for reading and kept inside the instrument's range."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, replace
from enum import StrEnum

from gavotte.solo.document import Note, Solo
from gavotte.solo.moving import transposed_simply
from gavotte.theory.chord import Chord
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.pitch import LETTERS, PitchName
from gavotte.writing.passages import phrases_of


class KeyOrder(StrEnum):
    """How the keys of a sheet follow each other, from the lick's own key on."""

    CIRCLE = "circle of fifths"
    CHROMATIC = "chromatic"
    WHOLE_STEPS = "whole steps"
    MINOR_THIRDS = "minor thirds"
    RANDOM = "random"


_RISES = {KeyOrder.CIRCLE: 5, KeyOrder.CHROMATIC: 1, KeyOrder.WHOLE_STEPS: 2, KeyOrder.MINOR_THIRDS: 3}


def key_steps(order: KeyOrder, seed: int = 1) -> tuple[int, ...]:
    """How many semitones above the first key each of the twelve stands. Where an order comes back to its first key
    before all have been there, it goes on a half step higher; at random the seed decides, and the own key is first.
    """
    if order is KeyOrder.RANDOM:
        others = list(range(1, 12))
        random.Random(seed).shuffle(others)
        return (0, *others)
    rise = _RISES[order]
    round_trip = 12 // math.gcd(12, rise)
    return tuple((rise * number + number // round_trip) % 12 for number in range(12))


@dataclass(frozen=True)
class InKey:
    """The lick in one key. ``in_range`` is False where no octave of it fits the instrument."""

    key: Key
    solo: Solo
    in_range: bool


_TONICS = ("C", "C# Db", "D", "D# Eb", "E", "F", "F# Gb", "G", "G# Ab", "A", "A# Bb", "B Cb")


def in_all_keys(solo: Solo, order: KeyOrder = KeyOrder.CIRCLE, seed: int = 1) -> tuple[InKey, ...]:
    """The solo in twelve keys, its own first. By the circle of fifths each key falls a fifth."""
    return tuple(in_one_of_all_keys(solo, number, order, seed) for number in range(12))


def in_one_of_all_keys(solo: Solo, number: int, order: KeyOrder = KeyOrder.CIRCLE, seed: int = 1) -> InKey:
    """The solo in one of the twelve keys, counted from 0, its own."""
    return in_key(solo, (solo.keys[0].key.tonic.pitch_class + key_steps(order, seed)[number]) % 12)


def in_key(solo: Solo, tonic: int) -> InKey:
    """The solo moved so that its key's tonic is the pitch class ``tonic``: the best spelling and octave."""
    own = solo.keys[0].key
    if tonic == own.tonic.pitch_class:
        return InKey(own, solo, _fits(solo))
    names = [PitchName.parse(name) for name in _TONICS[tonic].split()]
    candidates = [_moved(solo, own.tonic, name) for name in names]
    return min(candidates, key=lambda c: (_burden(c.solo), abs(c.key.fifths)))


def _moved(solo: Solo, old: PitchName, new: PitchName) -> InKey:
    steps = (LETTERS.index(new.letter) - LETTERS.index(old.letter)) % 7
    semitones = (new.pitch_class - old.pitch_class) % 12
    # B to C flat and the like: the letters go up by a seventh where the sound does not.
    if steps == 6 and semitones == 0:
        steps = -1
    elif steps == 0 and semitones == 11:
        steps = 7
    interval = Interval(steps, semitones)
    moved = transposed_simply(solo, interval)
    best = _octave(moved, _best_octave(solo, moved))
    if not _fits(best):
        best = _by_phrase(solo, moved)
    return InKey(best.keys[0].key, best, _fits(best))


def _by_phrase(original: Solo, moved: Solo) -> Solo:
    """The moved solo with each phrase in the octave that suits it: a phrase is never torn apart."""
    notes: list[Note] = []
    for first, last in phrases_of(moved):
        span = slice(moved.places[first], moved.places[last] + 1)
        part = replace(moved, notes=moved.notes[span])
        notes += _octave(part, _best_octave(replace(original, notes=original.notes[span]), part)).notes
    return replace(moved, notes=tuple(notes))


def _burden(solo: Solo) -> int:
    """How hard a spelling is to read: accidentals in notes, chord roots and signature."""
    chords = [event.symbol for event in solo.chords]
    roots = sum(abs(chord.root.alter) for chord in chords if isinstance(chord, Chord))
    fifths = solo.keys[0].key.fifths
    # Horn players meet six flats far more often than six sharps.
    signature = abs(fifths) + (4 if fifths > 5 else 0)
    awkward = sum(note.pitch.name in _AWKWARD for note in solo.notes)
    return sum(abs(note.pitch.alter) for note in solo.notes) + 2 * roots + signature + awkward


_AWKWARD = {PitchName("C", -1), PitchName("F", -1), PitchName("E", 1), PitchName("B", 1)}


def _best_octave(original: Solo, moved: Solo) -> int:
    """How many octaves to shift by: as few semitones beyond the range as can be, then as near as can be."""
    instrument = moved.instrument
    pitches = [note.pitch.midi for note in moved.notes]
    start = original.notes[0].pitch.midi if original.notes else 0

    def cost(octaves: int) -> tuple[int, int]:
        shifted = [pitch + 12 * octaves for pitch in pitches]
        beyond = sum(max(0, instrument.lowest - p) + max(0, p - instrument.highest) for p in shifted)
        return beyond, abs(shifted[0] - start) if shifted else 0

    return min((-2, -1, 0, 1), key=cost)


def _octave(solo: Solo, octaves: int) -> Solo:
    if not octaves:
        return solo
    notes = tuple(replace(note, pitch=replace(note.pitch, octave=note.pitch.octave + octaves)) for note in solo.notes)
    return replace(solo, notes=notes)


def _fits(solo: Solo) -> bool:
    instrument = solo.instrument
    return all(instrument.lowest <= note.pitch.midi <= instrument.highest for note in solo.notes)
