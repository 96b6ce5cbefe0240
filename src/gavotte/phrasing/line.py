"""A line as numbers: when its notes sound and how they move."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.theory.pitch import LETTERS

_A_REST = 1.0
"""Beats of silence over which nothing is one gesture."""
_A_BREATH = 0.5


@dataclass(frozen=True, eq=False)
class Line:
    """The notes of a line but its grace notes, each array one entry for each note, or for each move between two.

    ``places`` are indexes into the solo's notes, ``onsets`` quarter notes, ``bars`` the same in bars, ``beats_a_bar``
    the beats of each note's bar, ``pitches`` MIDI numbers, ``letters`` the same in letters; ``moves`` semitones,
    ``steps`` letters and ``gaps`` quarter notes from onset to onset: one entry fewer. ``rests`` says that a rest of a
    beat follows, ``begins`` and ``ends`` that a gesture begins or ends there (a rest of half a beat or a long note
    parts gestures).
    """

    places: list[int]
    onsets: NDArray[np.float64]
    bars: NDArray[np.float64]
    beats_a_bar: NDArray[np.float64]
    pitches: NDArray[np.int64]
    letters: NDArray[np.int64]
    moves: NDArray[np.int64]
    steps: NDArray[np.int64]
    gaps: NDArray[np.float64]
    rests: NDArray[np.bool_]
    begins: NDArray[np.bool_]
    ends: NDArray[np.bool_]


def number(time: Fraction) -> float:
    """A time as a binary fraction: quicker than ``float``, which is asked for of every note."""
    return time.numerator / time.denominator


def line_of(solo: Solo) -> Line:
    """The line of a solo."""
    places = [i for i, note in enumerate(solo.notes) if not note.grace]
    notes = [solo.notes[i] for i in places]
    grid = BarGrid(solo)
    bars, beats, per_bar = [], [], []
    for note in notes:
        give_way()
        index = grid.index_at(note.onset)
        bar = grid.bars[index]
        start, length = number(bar.onset), number(bar.end) - number(bar.onset)
        bars.append(index + (number(note.onset) - start) / length)
        beats.append(number(bar.meter.beat_at(note.onset - bar.onset)[1].length))
        per_bar.append(length / beats[-1])
    onsets = np.array([number(note.onset) for note in notes])
    ends_at = onsets + np.array([number(note.duration) for note in notes])
    pitches = np.array([note.pitch.midi for note in notes], dtype=np.int64)
    letters = np.array([LETTERS.index(n.pitch.letter) + 7 * n.pitch.octave for n in notes], dtype=np.int64)
    gaps = np.diff(onsets)
    silence = np.append(onsets[1:] - ends_at[:-1], np.inf) / np.array(beats) if notes else np.zeros(0)
    usual = float(np.median(gaps)) if len(gaps) else 1.0
    long = np.append(gaps >= 1.9 * usual, True) if notes else np.zeros(0, dtype=bool)
    ends = (silence >= _A_BREATH) | long
    begins = np.concatenate([[True], ends[:-1]]) if notes else np.zeros(0, dtype=bool)
    return Line(
        places,
        onsets,
        np.array(bars),
        np.array(per_bar),
        pitches,
        letters,
        np.diff(pitches),
        np.diff(letters),
        gaps,
        silence >= _A_REST,
        begins,
        ends,
    )
