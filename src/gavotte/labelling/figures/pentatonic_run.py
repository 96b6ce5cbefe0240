"""Moved pentatonics and stacked fourths: runs that leave the chord by a shape of their own and not by an arpeggio."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence

from gavotte.labelling.figures.run import Run, foreign, is_blues_run, lasts_a_beat, moves, stretch_from
from gavotte.labelling.figures.spelled import Spelled, chord_of
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import parse_chord_symbol
from gavotte.theory.scale import collection_pitch_classes

_PENTATONICS = tuple(collection_pitch_classes("minor pentatonic", root) for root in range(12))
_FEWEST_PITCHES, _FEWEST_FOREIGN = 4, 2
_FOURTH, _STACKED = 5, 3
FOURTHS = "fourths"
_OF_CHORD = frozenset({"1", "b3", "3", "b5", "5", "#5", "bb7", "b7", "7", "9"})


def pentatonic_runs(frame: Frame, start: int, last: int) -> Iterator[Run]:
    """The runs from the note at ``start`` on within one minor pentatonic (1 ♭3 4 5 ♭7), or of stacked fourths.

    At least two of their notes are foreign to the chord. Each is called by the minor seventh chord of its pentatonic.
    """
    stretch = stretch_from(frame, start, last)
    if len(foreign(stretch)) < _FEWEST_FOREIGN:
        return
    for root, classes in enumerate(_PENTATONICS):
        notes = _begun_within(stretch, classes)
        if len({note.pitch for note in notes}) >= _FEWEST_PITCHES and _is_run(frame, notes):
            yield Run(tuple(notes), chord_of(root, "m7"), _distance(notes, root))
    fourths = stretch[:_STACKED]
    if are_fourths(fourths) and _is_run(frame, fourths):
        yield Run(tuple(fourths), _chord_of_fourths(fourths))


def _begun_within(stretch: Sequence[FramedNote], classes: frozenset[int]) -> list[FramedNote]:
    return list(itertools.takewhile(lambda note: note.pitch % 12 in classes, stretch))


def are_fourths(notes: Sequence[FramedNote]) -> bool:
    """Whether three notes are stacked in perfect fourths, upwards or downwards."""
    return len(notes) == _STACKED and moves(notes) in ([_FOURTH] * 2, [-_FOURTH] * 2)


def shape_words(notes: Sequence[FramedNote], implied: str) -> str:
    """What the notes are in words where they are no tones of the chord they are called by (a symbol), else ""."""
    chord = parse_chord_symbol(implied)
    if not isinstance(chord, Chord):
        return ""
    if all(chord.degree_of(note.pitch % 12) in _OF_CHORD for note in notes):
        return ""
    if are_fourths(notes):
        return f"{FOURTHS} ({' '.join(note.note.pitch.shown for note in notes)})"
    return f"the {chord.root.shown} minor pentatonic"


def moved_fourths(run: Run, notes: Sequence[FramedNote]) -> Run | None:
    """The notes as the same stack of fourths on another pitch, None where they are none."""
    moved = are_fourths(run.notes) and moves(notes) == moves(run.notes)
    if not moved or (notes[0].pitch - run.notes[0].pitch) % 12 == 0:
        return None
    return Run(tuple(notes), _chord_of_fourths(notes))


def _chord_of_fourths(notes: Sequence[FramedNote]) -> Spelled:
    """The lowest of the fourths is heard as the root: 1 4 ♭7."""
    return chord_of(min(note.pitch for note in notes) % 12, "m7")


def _is_run(frame: Frame, notes: Sequence[FramedNote]) -> bool:
    enough = len(foreign(notes)) >= _FEWEST_FOREIGN and lasts_a_beat(notes)
    return enough and not is_blues_run(frame, notes)


def _distance(notes: Sequence[FramedNote], root: int) -> int:
    """How far the root is from being heard: 0 where it is the first note, 1 where it is played, else 2."""
    if notes[0].pitch % 12 == root:
        return 0
    return 1 if any(note.pitch % 12 == root for note in notes) else 2
