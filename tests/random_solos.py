"""Solos no one would play, made by chance: any meter, key, chords and notes."""

from __future__ import annotations

import random
from fractions import Fraction

from gavotte.solo.document import ChordEvent, KeyRegion, MeterRegion, Note, Solo
from gavotte.solo.instruments import INSTRUMENTS
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import spell

F = Fraction
METERS = [Meter(4, 4), Meter(3, 4), Meter(5, 4), Meter(6, 8), Meter(12, 8), Meter(7, 4), Meter(2, 2)]
KEYS = ["C major", "Bb major", "E minor", "F# major", "Eb minor", "D dorian"]
CHORDS = [
    *("Dm7", "G7", "Cmaj7", "Am7", "D7b9", "Bm7b5", "E7alt", "F6", "Bb7", "Eb7#11"),
    *("Adim7", "C7sus4", "Fm6", "Abmaj7", "F#m7b5", "C/E", "Gm7/C", "B7#5", "N.C.", "Gb13b9"),
]
LENGTHS = [F(1, 2)] * 5 + [F(1, 4), F(1, 3), F(1), F(3, 2), F(1, 6), F(2, 3), F(5, 2)]
MOVES = [-5, -4, -3, -2, -2, -1, -1, 0, 1, 1, 2, 2, 3, 4, 5]


def random_solo(seed: int) -> Solo:
    """The solo of a seed: always the same."""
    chance = random.Random(seed)
    meter, pickup = chance.choice(METERS), chance.choice([F(0), F(0), F(1)])
    notes: list[Note] = []
    time, pitch = -pickup, 67
    for number in range(chance.randint(1, 60)):
        if chance.random() < 0.1:
            time += chance.choice([F(1, 2), F(1), F(1, 3)])
        pitch = min(84, max(52, pitch + chance.choice(MOVES)))
        length = chance.choice(LENGTHS)
        notes.append(Note(f"n{number}", time, length, spell(pitch, chance.choice([0, -3, 2]))))
        time += length
    chords: list[ChordEvent] = []
    onset = F(0)
    while onset < time and chance.random() < 0.97:
        chords.append(ChordEvent(f"c{len(chords)}", onset, chance.choice(CHORDS)))
        onset += chance.choice([meter.bar_length, meter.bar_length / 2])
    key = Key.parse(chance.choice(KEYS))
    return Solo(
        f"Solo {seed}",
        instrument=chance.choice(INSTRUMENTS),
        pickup=pickup,
        meters=(MeterRegion(F(0), meter),),
        keys=(KeyRegion(F(0), key, chance.random() < 0.3),),
        chords=tuple(chords),
        notes=tuple(notes),
    )
