"""The skeleton of a line by levels: what is left of it when more and more of its ornament is taken away.

The levels are those of a reduction as H. Schenker's pupils write it (A. Forte and S. E. Gilbert, *Introduction to
Schenkerian Analysis*, 1982), kept to what a player does at the music stand: without ornaments, one note a beat, one a
strong beat, one a bar. Each level holds notes of the one above it only.
"""

from __future__ import annotations

import itertools
from collections.abc import Collection, Sequence
from dataclasses import replace
from enum import IntEnum
from fractions import Fraction

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.phrases import Phrase
from gavotte.phrasing.strong_beats import kept_at, kept_on_strong_beats, strong_beats
from gavotte.solo.document import Function, Note, Solo


class Level(IntEnum):
    """How much of a line is left."""

    ALL = 0
    PLAIN = 1
    BEATS = 2
    STRONG = 3
    BARS = 4


_ORNAMENTS = (Function.PASSING, Function.APPROACH)


def levels_of(found: Labelled) -> tuple[Level, ...]:
    """For each note the last level at which it is still there; the user's own reductions go before all else."""
    notes, grid = found.solo.notes, found.frame.grid
    levels = [
        Level.ALL if note.grace or label.function in _ORNAMENTS else Level.PLAIN
        for note, label in zip(notes, found.labels, strict=True)
    ]
    beats = [
        bar.onset + beat.offset for bar in grid.bars for beat in bar.meter.beats if bar.onset + beat.offset < bar.end
    ]
    strong = strong_beats(found)
    _raise(levels, kept_at(found, beats), Level.BEATS)
    kept = kept_at(found, strong)
    _raise(levels, kept, Level.STRONG)
    of_bar: dict[int, int] = {}
    for onset, index in zip(strong, kept, strict=True):
        if index is not None:
            of_bar.setdefault(grid.index_at(onset), index)
    _raise(levels, tuple(of_bar.values()), Level.BARS)
    places = found.solo.places
    for reduction in found.solo.reductions:
        if reduction.note in places:
            levels[places[reduction.note]] = Level(min(max(reduction.level, Level.ALL), Level.BARS))
    return tuple(levels)


def _raise(levels: list[Level], kept: Sequence[int | None], level: Level) -> None:
    for index in kept:
        if index is not None:
            levels[index] = max(levels[index], level)


def kept_notes(found: Labelled, levels: Sequence[Level], level: Level) -> frozenset[str]:
    """The ids of the notes that are there at a level."""
    pairs = zip(found.solo.notes, levels, strict=True)
    return frozenset(note.id for note, last in pairs if last >= level)


def strong_notes(found: Labelled) -> frozenset[str]:
    """The ids of the notes that are there at the level of strong beats, without asking for the other levels."""
    notes, places = found.solo.notes, found.solo.places
    kept = {notes[index].id for index in kept_on_strong_beats(found) if index is not None}
    for reduction in found.solo.reductions:
        if reduction.note in places:
            (kept.add if reduction.level >= Level.STRONG else kept.discard)(reduction.note)
    return frozenset(kept)


def reduced(solo: Solo, phrases: Sequence[Phrase], kept: Collection[str], folded: bool = False) -> Solo:
    """A solo of which only some notes (ids) are left, each held to the next one of its phrase, or to the phrase's end.

    ``folded`` puts every note into the octave nearest to the note before it, so that the line can be sung.
    """
    line: list[Note] = []
    for phrase in phrases:
        give_way()
        inside = [note for note in solo.notes[phrase.first : phrase.last + 1] if not note.grace]
        left = [note for note in inside if note.id in kept]
        end = max((note.end for note in inside), default=Fraction(0))
        for note, following in itertools.pairwise([*left, None]):
            assert note is not None
            until = end if following is None else following.onset
            line.append(replace(note, duration=until - note.onset, written=(), tuplet=None, marks=()))
    if folded:
        line = _folded(line)
    ids = {note.id for note in line}
    return replace(
        solo, notes=tuple(line), decisions=tuple(decision for decision in solo.decisions if decision.note in ids)
    )


def _folded(line: Sequence[Note]) -> list[Note]:
    folded: list[Note] = []
    for note in line:
        if folded:
            away = note.pitch.midi - folded[-1].pitch.midi
            octaves = -round(away / 12)
            if octaves:
                pitch = note.pitch
                note = replace(note, pitch=replace(pitch, octave=pitch.octave + octaves))
        folded.append(note)
    return folded
