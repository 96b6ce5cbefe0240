"""Words the sentences about notes share: chords, degrees and goals as a player says them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from gavotte.labelling.chords_in_force import ChordSpan
from gavotte.labelling.frame import Frame, FramedNote
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord
from gavotte.theory.degrees import shown_above_tonic, shown_degree


def note_words(note: FramedNote) -> str:
    """A note and where it stands: "F♯ on the and of 2"."""
    return f"{note.note.pitch.shown} on {note.place}"


def chord_words(span: ChordSpan) -> str:
    """The chord in force as it is written: "B♭7"; where none is, the key the notes are heard in: "B♭ major"."""
    if not span.written:
        return f"{span.key.key.tonic.shown} blues" if span.key.blues else span.key.key.shown
    return symbol_words(span.text) if span.text else shown_chord(span.chord)


@lru_cache(maxsize=512)
def symbol_words(text: str) -> str:
    """A chord symbol as it is shown."""
    return shown_chord(parse_chord_symbol(text))


def degree_of(frame: Frame, degree: str) -> str:
    """A degree as the school writes it."""
    return shown_degree(degree, frame.school.naming)


def own_degree(frame: Frame, note: FramedNote) -> str:
    """A note's degree as the school writes it; where no chord is written, above the key's tonic."""
    span = frame.span_of(note)
    if not span.written:
        return shown_above_tonic(note.pitch - span.key.key.tonic.pitch_class)
    return degree_of(frame, note.degree)


def degree_words(degree: str, shown: str) -> str:
    """A degree as it is said: the root, the 3rd, the ♭9."""
    return {"1": "root", "3": "3rd", "5": "5th", "7": "major 7th"}.get(degree, shown)


def own_words(frame: Frame, note: FramedNote) -> str:
    """A note's degree as it is said: the 3rd; of a key the tonic."""
    shown = own_degree(frame, note)
    if frame.span_of(note).written:
        return degree_words(note.degree, shown)
    return "tonic" if shown == "1" else degree_words(shown, shown)


def goal_words(frame: Frame, target: FramedNote) -> str:
    """Where a note leads: "G, the 3rd of E♭7"."""
    return f"{target.note.pitch.shown}, the {own_words(frame, target)} of {chord_words(frame.span_of(target))}"


def target_words(frame: Frame, target: int | None) -> str:
    """The same for a target by its index; "the next note" where none is known."""
    return "the next note" if target is None else goal_words(frame, frame.notes[target])


def names_of(notes: Sequence[FramedNote]) -> str:
    """Several notes: "F", "F and E♭", "F, D♯ and E"."""
    names = [note.note.pitch.shown for note in notes]
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
