"""Putting notes on the line and taking them off: one note sounds at a time, chords stay where they are."""

from __future__ import annotations

import itertools
import re
from bisect import bisect_left, bisect_right, insort
from collections.abc import Iterable, Iterator
from dataclasses import replace
from fractions import Fraction
from typing import Protocol, TypeVar

from gavotte.solo.by_identity import followed_by_identity
from gavotte.solo.differences import differing
from gavotte.solo.document import Decision, Note, Solo

_NUMBERED = re.compile(r"^n([0-9]+)$", re.MULTILINE)


def fresh_ids(solo: Solo, count: int) -> list[str]:
    """Names for new notes that no note of the solo has, nor any decision speaks of."""
    first = max(_highest(solo.notes), _highest(solo.decisions)) + 1
    return [f"n{first + k}" for k in range(count)]


_Named = tuple[Note, ...] | tuple[Decision, ...]


def _highest_after(before: _Named, highest: int, named: _Named) -> int | None:
    start, old_stop, stop = differing(before, named)
    if old_stop + stop - 2 * start > len(named) // 2:
        # No edit of the same line.
        return None
    # A number that has become free stays unused: elsewhere something may still speak of the note that had it.
    return max(highest, _highest_number(named[start:stop]))


@followed_by_identity(4, _highest_after)
def _highest(named: _Named) -> int:
    """The highest number that notes have in their names, or that notes have which decisions speak of; -1 for none."""
    return _highest_number(named)


def _highest_number(named: _Named) -> int:
    names = (item.id if isinstance(item, Note) else item.note for item in named)
    # One search through all of them: this is done at every key.
    return max(map(int, _NUMBERED.findall("\n".join(names))), default=-1)


def fresh_chord_ids(solo: Solo) -> Iterator[str]:
    """Names for new chords that no chord of the solo has."""
    taken = {event.id for event in solo.chords}
    return (name for name in (f"c{number}" for number in itertools.count()) if name not in taken)


def with_line(solo: Solo, notes: Iterable[Note]) -> Solo:
    """The solo with another line of notes. What was decided about missing notes goes with them."""
    return _with_ordered(solo, tuple(sorted(notes, key=_place)))


def _with_ordered(solo: Solo, line: tuple[Note, ...]) -> Solo:
    """The same for notes in order already: sorting a long line takes as long as all else that is done to it."""
    start, old_stop, new_stop = differing(solo.notes, line)
    gone = {note.id for note in solo.notes[start:old_stop]} - {note.id for note in line[start:new_stop]}
    return replace(
        solo,
        notes=line,
        decisions=_about_others(solo.decisions, gone),
        phrases=tuple(phrase for phrase in solo.phrases if phrase.first not in gone and phrase.last not in gone),
        phrase_starts=_about_others(solo.phrase_starts, gone),
        phrase_words=_about_others(solo.phrase_words, gone),
        reductions=_about_others(solo.reductions, gone),
    )


class _AboutNote(Protocol):
    """What was decided about a note."""

    @property
    def note(self) -> str: ...


AboutT = TypeVar("AboutT", bound=_AboutNote)


def _about_others(decided: tuple[AboutT, ...], gone: set[str]) -> tuple[AboutT, ...]:
    """What was decided about other notes than those that are gone."""
    kept = tuple(about for about in decided if about.note not in gone) if gone else decided
    # What stays the same value is known at once to be the same.
    return kept if len(kept) < len(decided) else decided


def _place(note: Note) -> tuple[float, bool]:
    """The order of notes on the line; as a float, which is quick and tells the shortest notes apart."""
    return note.onset.numerator / note.onset.denominator, not note.grace


def cleared(solo: Solo, *stretches: tuple[Fraction, Fraction]) -> Solo:
    """Silence from the start of each stretch up to its end: a note that sounds into one stops there, one that starts in
    it goes.
    """
    notes = solo.notes
    for start, end in stretches:
        notes = _silenced(notes, start, end)
    return _with_ordered(solo, notes)


def _silenced(notes: tuple[Note, ...], start: Fraction, end: Fraction) -> tuple[Note, ...]:
    """The same of a line in order."""
    first = bisect_left(notes, (float(start), False), key=_place)
    last = bisect_left(notes, (float(end), False), key=_place)
    # The notes before may sound into it: one, if the line is in order.
    before = [
        replace(note, duration=start - note.onset, written=()) if note.onset < start < note.end else note
        for note in notes[max(0, first - _SOUNDING) : first]
    ]
    return (*notes[: max(0, first - _SOUNDING)], *before, *notes[last:])


_SOUNDING = 8
"""So many notes before a place may still sound there."""


def placed(solo: Solo, *notes: Note) -> Solo:
    """The solo with these notes in place of what sounded there; a note with the same name is exchanged."""
    places = solo.places
    exchanged = sorted({places[note.id] for note in notes if note.id in places})
    between = itertools.pairwise((-1, *exchanged, len(solo.notes)))
    others = tuple(itertools.chain.from_iterable(solo.notes[before + 1 : place] for before, place in between))
    for note in notes:
        if not note.grace:
            others = _silenced(others, note.onset, note.end)
    line = list(others)
    for note in notes:
        insort(line, note, key=_place)
    return _with_ordered(solo, tuple(line))


def notes_between(solo: Solo, start: Fraction, end: Fraction) -> tuple[Note, ...]:
    """The notes that start from ``start`` up to ``end``."""
    first = bisect_left(solo.notes, (float(start), False), key=_place)
    return solo.notes[first : bisect_left(solo.notes, (float(end), False), key=_place)]


def note_at(solo: Solo, time: Fraction) -> Note | None:
    """The note that sounds at a time."""
    last = bisect_right(solo.notes, (float(time), True), key=_place)
    near = solo.notes[max(0, last - _SOUNDING) : last]
    return next((note for note in near if not note.grace and note.onset <= time < note.end), None)


def first_note_from(solo: Solo, time: Fraction) -> Note | None:
    """The first note that starts at a time or after it."""
    first = bisect_left(solo.notes, (float(time), False), key=_place)
    return solo.notes[first] if first < len(solo.notes) else None


def note_before(solo: Solo, time: Fraction) -> Note | None:
    """The last note that starts before a time."""
    first = bisect_left(solo.notes, (float(time), False), key=_place)
    return next((note for note in reversed(solo.notes[:first]) if not note.grace and note.onset < time), None)


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
    emptied = cleared(solo, (start, end))
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
