"""Words the sentences about notes share: chords, degrees and goals as a player says them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from gavotte.labelling.chords_in_force import ChordSpan
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord, write_chord_symbol
from gavotte.theory.degrees import shown_above_tonic, shown_degree
from gavotte.theory.pitch import music_accidentals


def note_words(note: FramedNote) -> str:
    """A note and where it stands: "F♯ on the and of 2", "F♯ just after beat 2"."""
    on = "" if note.place.startswith("just after") else "on "
    return f"{note.note.pitch.shown} {on}{note.place}"


def chord_words(span: ChordSpan) -> str:
    """The chord in force: "B♭7"; as it is read and as it is written, where that differs: "E9sus4, written D/E".

    Where none is written, it is the key the notes are heard in: "B♭ major".
    """
    return _chord_names(span.text, span.chord)[1] if span.written else _key_words(span)


def chord_name(span: ChordSpan) -> str:
    """The chord in force as it is read, or the key where none is written."""
    return _chord_names(span.text, span.chord)[0] if span.written else _key_words(span)


def _key_words(span: ChordSpan) -> str:
    return f"{span.key.key.tonic.shown} blues" if span.key.blues else span.key.key.shown


@lru_cache(maxsize=512)
def _chord_names(text: str, chord: Chord) -> tuple[str, str]:
    """A chord as it is read, and that with how it is written where it is written otherwise."""
    if not text or parse_chord_symbol(text) == chord:
        return shown_chord(chord), shown_chord(chord)
    name = music_accidentals(write_chord_symbol(chord))
    return name, f"{name}, written {symbol_words(text)}"


def aside(words: str) -> str:
    """Words with a comma behind them where they hold an aside ("E9sus4, written D/E"), for going on after them."""
    return f"{words}," if ", " in words else words


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


def blue_words(note: FramedNote, span: ChordSpan) -> str:
    """A blue note's name: "the blue ♭3 of F"."""
    tonic = span.key.key.tonic
    return f"the blue {shown_above_tonic(note.pitch - tonic.pitch_class)} of {tonic.shown}"


def place_words(frame: Frame, note: FramedNote, chord: str = "") -> str:
    """What a note is where it stands: "the 3rd of E♭7"; a blue note has one name: "the blue ♭3 of F".

    ``chord`` are other words for the chord in force.
    """
    span = frame.span_of(note)
    if note.blue:
        return blue_words(note, span)
    return f"the {own_words(frame, note)} of {chord or chord_words(span)}"


def goal_words(frame: Frame, target: FramedNote) -> str:
    """Where a note leads: "G, the 3rd of E♭7"."""
    return f"{target.note.pitch.shown}, {place_words(frame, target)}"


def target_words(frame: Frame, target: int | None) -> str:
    """The same for a target by its index; "the next note" where none is known."""
    return "the next note" if target is None else goal_words(frame, frame.notes[target])


def names_of(notes: Sequence[FramedNote]) -> str:
    """Several notes: "F", "F and E♭", "F, D♯ and E"."""
    names = [note.note.pitch.shown for note in notes]
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
