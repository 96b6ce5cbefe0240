"""Putting notes on the line and taking them off: one note sounds at a time, chords stay where they are."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable
from dataclasses import replace
from fractions import Fraction

from gavotte.solo.document import Note, Solo

_NUMBERED = re.compile(r"n(\d+)")


def fresh_ids(solo: Solo, count: int) -> list[str]:
    """Names for new notes that no note of the solo has, nor any decision speaks of."""
    known = [note.id for note in solo.notes] + [decision.note for decision in solo.decisions]
    numbers = [int(match[1]) for match in map(_NUMBERED.fullmatch, known) if match]
    first = max(numbers, default=-1) + 1
    return [f"n{first + k}" for k in range(count)]


def with_line(solo: Solo, notes: Iterable[Note]) -> Solo:
    """The solo with another line of notes. Decisions and phrases that speak of missing notes go with them."""
    line = tuple(sorted(notes, key=lambda note: (note.onset, not note.grace)))
    ids = {note.id for note in line}
    return replace(
        solo,
        notes=line,
        decisions=tuple(decision for decision in solo.decisions if decision.note in ids),
        phrases=tuple(phrase for phrase in solo.phrases if phrase.first in ids and phrase.last in ids),
    )


def cleared(solo: Solo, start: Fraction, end: Fraction, keep: Collection[str] = ()) -> Solo:
    """Silence from ``start`` up to ``end``: a note that sounds into it stops there, one that starts in it goes."""
    kept: list[Note] = []
    for note in solo.notes:
        if note.id in keep:
            kept.append(note)
        elif start <= note.onset < end:
            continue
        elif note.onset < start < note.end:
            kept.append(replace(note, duration=start - note.onset, written=()))
        else:
            kept.append(note)
    return with_line(solo, kept)


def placed(solo: Solo, *notes: Note) -> Solo:
    """The solo with these notes in place of what sounded there; a note with the same name is exchanged."""
    ids = {note.id for note in notes}
    others = replace(solo, notes=tuple(note for note in solo.notes if note.id not in ids))
    for note in notes:
        if not note.grace:
            others = cleared(others, note.onset, note.end)
    # Decisions about notes that were only exchanged stay.
    return with_line(replace(others, decisions=solo.decisions, phrases=solo.phrases), (*others.notes, *notes))


def note_at(solo: Solo, time: Fraction) -> Note | None:
    """The note that sounds at a time."""
    return next((note for note in solo.notes if not note.grace and note.onset <= time < note.end), None)


def note_before(solo: Solo, time: Fraction) -> Note | None:
    """The last note that starts before a time."""
    return next((note for note in reversed(solo.notes) if not note.grace and note.onset < time), None)


def opened(solo: Solo, at: Fraction, length: Fraction) -> Solo:
    """Room of ``length`` from ``at`` on: what follows moves on until a rest takes it up.

    A note that sounds across ``at`` stops there.
    """
    cut = [
        replace(note, duration=at - note.onset, written=()) if note.onset < at < note.end else note
        for note in solo.notes
    ]
    following = [note for note in cut if note.onset >= at]
    moved: list[Note] = []
    for index, note in enumerate(following):
        moved.append(replace(note, onset=note.onset + length))
        after = following[index + 1] if index + 1 < len(following) else None
        if after is not None and after.onset - note.end >= length:
            moved += following[index + 1 :]
            break
    # A rest right at the place takes up the new room by itself.
    if following and following[0].onset - at >= length:
        moved = following
    return with_line(solo, [note for note in cut if note.onset < at] + moved)


def closed(solo: Solo, start: Fraction, end: Fraction) -> Solo:
    """The stretch taken out: what follows, up to the next rest of its length, moves up."""
    length = end - start
    emptied = cleared(solo, start, end)
    before = [note for note in emptied.notes if note.onset < end]
    following = [note for note in emptied.notes if note.onset >= end]
    moved: list[Note] = []
    sounded = end
    for index, note in enumerate(following):
        if note.onset - sounded >= length:
            moved += following[index:]
            break
        moved.append(replace(note, onset=note.onset - length))
        sounded = note.end
    return with_line(solo, before + moved)
