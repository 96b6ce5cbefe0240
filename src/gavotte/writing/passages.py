"""Passages: stretches of the line that are chosen, copied, moved in time, given other lengths, cut and joined."""

from __future__ import annotations

import itertools
from collections.abc import Collection
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.formats.document import DocumentKind, with_version
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Note, Solo
from gavotte.writing.placing import cleared, closed, fresh_ids, opened, placed, with_line

PHRASE_REST = Fraction(1)
"""A rest of this length, in quarter notes, parts two phrases where none are marked."""


@dataclass(frozen=True, slots=True)
class Passage:
    """Notes that were copied, their onsets counted from the first, and the time they take up.

    ``root`` is that of the chord they were copied from, "" where none is known.
    """

    notes: tuple[Note, ...]
    length: Fraction
    root: str = ""


PASSAGE_DOCUMENT = DocumentKind("gavotte-passage", 2, "passage", Passage, {1: with_version(2)})
"""A passage on its way through the clipboard."""


def chosen(solo: Solo, ids: Collection[str]) -> list[Note]:
    """The notes with these ids, in order."""
    return [note for note in solo.notes if note.id in ids]


def copied(solo: Solo, ids: Collection[str]) -> Passage | None:
    """Some notes as a passage; None where there are none."""
    notes = chosen(solo, ids)
    if not notes:
        return None
    start = notes[0].onset
    return Passage(
        tuple(replace(note, onset=note.onset - start) for note in notes), max(note.end for note in notes) - start
    )


def pasted(solo: Solo, passage: Passage, at: Fraction, insert: bool = False) -> tuple[Solo, tuple[str, ...]]:
    """A passage at a time, over what is there or before it; gives the names of its notes."""
    base = opened(solo, at, passage.length) if insert else cleared(solo, (at, at + passage.length))
    names = fresh_ids(solo, len(passage.notes))
    notes = [replace(note, id=name, onset=note.onset + at) for note, name in zip(passage.notes, names, strict=True)]
    return with_line(base, (*base.notes, *notes)), tuple(names)


def removed(solo: Solo, ids: Collection[str], close: bool = False) -> Solo:
    """Some notes taken out: silence stays in their place, or with ``close`` what follows moves up."""
    notes = chosen(solo, ids)
    if not notes:
        return solo
    emptied = with_line(solo, [note for note in solo.notes if note.id not in ids])
    start, end = notes[0].onset, max(note.end for note in notes)
    return closed(emptied, start, end) if close and end > start else emptied


def moved_in_time(solo: Solo, ids: Collection[str], by: Fraction) -> Solo:
    """Some notes earlier or later, over what is there. Nothing moves before the start of the solo."""
    notes = chosen(solo, ids)
    if not notes or notes[0].onset + by < -solo.pickup:
        return solo
    return placed(solo, *(replace(note, onset=note.onset + by) for note in notes))


def with_length(solo: Solo, ids: Collection[str], length: Fraction) -> Solo:
    """Some notes with another length; of several, each follows the one before as closely as it did."""
    notes = [note for note in chosen(solo, ids) if not note.grace]
    if not notes or length <= 0:
        return solo
    laid: list[Note] = []
    shift = Fraction(0)
    for note in notes:
        laid.append(replace(note, onset=note.onset + shift, duration=length, written=(), tuplet=None))
        shift += length - note.duration
    return placed(solo, *laid, *(note for note in chosen(solo, ids) if note.grace))


def split(solo: Solo, ids: Collection[str]) -> Solo:
    """Some notes cut in two: at the first beat inside, else in the middle. The second half is a note of its own."""
    grid = BarGrid(solo)
    notes = [note for note in chosen(solo, ids) if not note.grace]
    names = iter(fresh_ids(solo, len(notes)))
    line = [note for note in solo.notes if note.id not in {note.id for note in notes}]
    for note in notes:
        cut = _cut(grid, note)
        line.append(replace(note, duration=cut - note.onset, written=(), tuplet=None))
        line.append(
            replace(note, id=next(names), onset=cut, duration=note.end - cut, written=(), tuplet=None, marks=())
        )
    return with_line(solo, line)


def _cut(grid: BarGrid, note: Note) -> Fraction:
    bar, _ = grid.locate(note.onset)
    start = bar.onset - bar.lead_in
    beats = [start + beat.offset for beat in bar.meter.beats] + [bar.end]
    return next((beat for beat in beats if note.onset < beat < note.end), note.onset + note.duration / 2)


def joined(solo: Solo, ids: Collection[str]) -> Solo:
    """Some notes as one: the first, held to the end of the last."""
    notes = [note for note in chosen(solo, ids) if not note.grace]
    if len(notes) < 2:
        return solo
    first, end = notes[0], max(note.end for note in notes)
    gone = {note.id for note in notes[1:]}
    line = [
        replace(note, duration=end - first.onset, written=(), tuplet=None) if note.id == first.id else note
        for note in solo.notes
        if note.id not in gone
    ]
    return with_line(solo, line)


def phrase_around(solo: Solo, note_id: str) -> tuple[str, str]:
    """The first and the last note of the phrase a note is in: as marked, else from rest to rest. Raises KeyError."""
    ids = [note.id for note in solo.notes]
    here = ids.index(solo.note(note_id).id)
    for phrase in solo.phrases:
        if ids.index(phrase.first) <= here <= ids.index(phrase.last):
            return phrase.first, phrase.last
    return next((first, last) for first, last in phrases_of(solo) if ids.index(last) >= here)


def bar_around(solo: Solo, time: Fraction) -> tuple[str, str] | None:
    """The first and the last note that start in the bar of a time; None where none do."""
    bar = BarGrid(solo).at(time)
    inside = [note.id for note in solo.notes if bar.onset <= note.onset < bar.end]
    return (inside[0], inside[-1]) if inside else None


def phrases_of(solo: Solo) -> list[tuple[str, str]]:
    """Every phrase as (first, last), from rest to rest."""
    if not solo.notes:
        return []
    starts = [solo.notes[0].id]
    ends = []
    for note, following in itertools.pairwise(solo.notes):
        if following.onset - note.end >= PHRASE_REST:
            ends.append(note.id)
            starts.append(following.id)
    return list(zip(starts, [*ends, solo.notes[-1].id], strict=True))
