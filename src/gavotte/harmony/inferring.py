"""Chords inferred from the notes alone, where none were written: one to a bar, out of the key's own."""

from __future__ import annotations

import math
from dataclasses import replace
from fractions import Fraction

from gavotte.harmony.changes import falls_a_fifth
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ChordEvent, Note, Solo
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import parse_chord, write_chord_symbol
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key

# The step and semitones of each root above the tonic, and the chord on it.
_MAJOR = ((0, 0, "maj7"), (1, 2, "m7"), (2, 4, "m7"), (3, 5, "maj7"), (4, 7, "7"), (5, 9, "m7"))
_MINOR = ((0, 0, "m7"), (1, 2, "m7b5"), (2, 3, "maj7"), (3, 5, "m7"), (4, 7, "7"), (5, 8, "maj7"), (6, 10, "7"))
_CHANGE, _FOREIGN, _SCALE = 0.6, -1.0, -0.2
_ROOT, _THIRD, _OTHER = 1.2, 1.1, 1.0


def with_inferred_chords(solo: Solo) -> Solo:
    """The solo with a chord for each bar, the row of the key's chords that fits its notes best.

    Found by dynamic programming over the bars: a note counts by its length, for itself if it is a tone of the chord and
    against it if it is foreign to chord and key; chords that fall a fifth to the next are liked. Empty bars go on.
    """
    grid = BarGrid(solo)
    bars = [bar for bar in grid.bars if bar.number > 0]
    by_bar: list[list[Note]] = [[] for _ in bars]
    for note in solo.notes:
        bar = grid.at(note.onset)
        if bar.number > 0:
            by_bar[bar.number - 1].append(note)
    chords = key_chords(solo.key_at(Fraction(0)).key)
    best: list[float] = [0.0] * len(chords)
    came: list[list[int]] = []
    for bar, notes in zip(bars, by_bar, strict=True):
        key = solo.key_at(bar.onset).key
        chords = key_chords(key)
        steps, totals = [], []
        for k, chord in enumerate(chords):
            ways = [
                best[j] - (0.0 if j == k else _CHANGE) + (0.5 if falls_a_fifth(chords[j % len(chords)], chord) else 0.0)
                for j in range(len(best))
            ]
            j = max(range(len(ways)), key=lambda j: ways[j])
            steps.append(j)
            totals.append(ways[j] + sum(_fit(note, chord, key) for note in notes))
        came.append(steps)
        best = totals
    path = []
    k = max(range(len(best)), key=lambda k: best[k])
    for steps in reversed(came):
        path.append(k)
        k = steps[k]
    events: list[ChordEvent] = []
    for bar, k in zip(bars, reversed(path), strict=True):
        text = write_chord_symbol(key_chords(solo.key_at(bar.onset).key)[k])
        if not events or events[-1].text != text:
            events.append(ChordEvent(f"inferred{len(events)}", bar.onset, text))
    return replace(solo, chords=tuple(events))


def key_chords(key: Key) -> list[Chord]:
    """The seventh chords a key offers, from its tonic up."""
    rows = _MINOR if key.is_minor else _MAJOR
    return [parse_chord(f"{key.tonic.transposed(Interval(steps, semitones))}{kind}") for steps, semitones, kind in rows]


def _fit(note: Note, chord: Chord, key: Key) -> float:
    pitch_class = note.pitch.pitch_class
    weight = math.sqrt(float(note.duration)) if note.duration > 0 else 0.0
    above = (pitch_class - chord.root.pitch_class) % 12
    if pitch_class in chord.tone_classes:
        return weight * (_ROOT if above == 0 else _THIRD if above in (3, 4) else _OTHER)
    return weight * (_SCALE if pitch_class in key.pitch_classes else _FOREIGN)
