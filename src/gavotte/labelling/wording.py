"""Words the sentences about notes share: chords, degrees and goals as a player says them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from gavotte.labelling.chords_in_force import ChordSpan
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord
from gavotte.theory.degrees import shown_degree


def note_words(note: FramedNote) -> str:
    """A note and where it stands: "F♯ on the and of 2"."""
    return f"{note.note.pitch.shown} on {note.place}"


def chord_words(span: ChordSpan) -> str:
    """The chord in force as it is written: "B♭7"."""
    return symbol_words(span.text) if span.text else shown_chord(span.chord)


@lru_cache(maxsize=512)
def symbol_words(text: str) -> str:
    """A chord symbol as it is shown."""
    return shown_chord(parse_chord_symbol(text))


def degree_of(frame: Frame, degree: str) -> str:
    """A degree as the school writes it."""
    return shown_degree(degree, frame.school.naming)


def degree_words(degree: str, shown: str) -> str:
    """A degree as it is said: the root, the 3rd, the ♭9."""
    return {"1": "root", "3": "3rd", "5": "5th", "7": "major 7th"}.get(degree, shown)


def goal_words(frame: Frame, target: FramedNote) -> str:
    """Where a note leads: "G, the 3rd of E♭7"."""
    chord = chord_words(frame.span_of(target))
    return f"{target.note.pitch.shown}, the {degree_words(target.degree, degree_of(frame, target.degree))} of {chord}"


def target_words(frame: Frame, target: int | None) -> str:
    """The same for a target by its index; "the next note" where none is known."""
    return "the next note" if target is None else goal_words(frame, frame.notes[target])


def names_of(notes: Sequence[FramedNote]) -> str:
    """Several notes: "F", "F and E♭", "F, D♯ and E"."""
    names = [note.note.pitch.shown for note in notes]
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
