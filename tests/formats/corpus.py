"""All MusicXML files that come with music21, and notes and chords in a form two readers can be compared in.

Notes are compared bar by bar, (bar, place in the bar, length, MIDI number) with times in fortieths of a quarter
note: divisions too coarse for a tuplet are read as what is written here, as they stand there.
"""

from __future__ import annotations

import hashlib
from bisect import bisect_right
from collections.abc import Iterable
from fractions import Fraction
from itertools import accumulate
from pathlib import Path

import music21

from gavotte.formats.musicxml import Score
from gavotte.formats.musicxml_chord import UnreadableHarmonyError, chord_of_harmony
from gavotte.formats.musicxml_reading import Reading
from gavotte.theory.chord import Chord

ROOT = Path(music21.__file__).parent
FILES = sorted(
    str(path.relative_to(ROOT)) for path in ROOT.rglob("*") if path.suffix.lower() in (".xml", ".musicxml", ".mxl")
)

Placed = tuple[int, Fraction, Fraction, int]


def digest(notes: Iterable[Placed]) -> str:
    """A short text that is the same for the same notes in any order."""
    rows = sorted((bar, round(float(at) * 40), round(float(length) * 40), midi) for bar, at, length, midi in notes)
    return hashlib.sha1(repr(rows).encode()).hexdigest()[:16]


def _placer(reading: Reading):  # type: ignore[no-untyped-def]
    starts = [Fraction(0), *accumulate(reading.lengths)]

    def place(onset: Fraction) -> tuple[int, Fraction]:
        index = min(bisect_right(starts, onset) - 1, len(reading.lengths) - 1)
        return index, onset - starts[index]

    return place


def notes_of(score: Score) -> list[Placed]:
    """Every note of a score but grace notes, tied ones one by one."""
    place = _placer(score.written)
    return [
        (*place(note.onset), note.length, note.pitch.midi)
        for part in score.written.parts.values()
        for voice in part.voices.values()
        for note in voice
        if not note.grace
    ]


def chords_of(score: Score) -> list[list[object]]:
    """Every chord symbol: bar, place, root and pitch classes; None where it can't be read, [] for N.C."""
    place = _placer(score.written)
    found: list[list[object]] = []
    for part in score.written.parts.values():
        for onset, element, transpose in part.harmonies:
            bar, at = place(onset)
            try:
                symbol = chord_of_harmony(element)
            except UnreadableHarmonyError:
                found.append([bar, str(at), None, None])
                continue
            if isinstance(symbol, Chord):
                chord = symbol.transposed(transpose)
                classes = chord.pitch_classes | ({chord.bass.pitch_class} if chord.bass else set())
                found.append([bar, str(at), chord.root.pitch_class, sorted(classes)])
            else:
                found.append([bar, str(at), None, []])
    return sorted(found, key=lambda row: (row[0], Fraction(str(row[1]))))
