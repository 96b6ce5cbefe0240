"""Edits: functions from a solo to a new solo. None of them changes its argument."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace

from gavotte.solo.document import (
    Decision,
    Function,
    Instrument,
    Note,
    Solo,
)
from gavotte.solo.spelling import respell_notes
from gavotte.theory.key import Key
from gavotte.theory.pitch import spell

USUAL_DEVICE = {
    Function.CHORD: "plain",
    Function.EXTENSION: "natural",
    Function.PASSING: "passing",
    Function.APPROACH: "chromatic-passing",
    Function.OUTSIDE: "unexplained",
}
"""The device a function set by hand gets when nothing more is said."""


def with_decision(solo: Solo, note_id: str, function: Function, device: str) -> Solo:
    """The solo with the user's decision about a note in place of any earlier one. Raises KeyError."""
    solo.note(note_id)
    kept = tuple(d for d in solo.decisions if d.note != note_id)
    return replace(solo, decisions=(*kept, Decision(note_id, function, device)))


def without_decision(solo: Solo, note_id: str) -> Solo:
    """The solo with the user's decision about a note taken back."""
    return replace(solo, decisions=tuple(d for d in solo.decisions if d.note != note_id))


def with_details(
    solo: Solo, *, title: str, player: str, style: str, instrument: Instrument, key: Key, blues: bool
) -> Solo:
    """The solo under other names, on another instrument, or heard in another key from its start on.

    The sounding notes stay as they are; key regions after the first stay too.
    """
    first = replace(solo.keys[0], key=key, blues=blues)
    return replace(solo, title=title, player=player, style=style, instrument=instrument, keys=(first, *solo.keys[1:]))


def with_notes_moved(solo: Solo, notes: Collection[str], semitones: int) -> Solo:
    """The solo with some notes (ids) moved by semitones and spelled anew; notes that would leave 0 to 127 stay."""
    wanted = frozenset(notes)

    def moved(note: Note) -> Note:
        midi = note.pitch.midi + semitones
        return replace(note, pitch=spell(midi, 0)) if note.id in wanted and 0 <= midi <= 127 else note

    return respell_notes(replace(solo, notes=tuple(moved(note) for note in solo.notes)), wanted)
