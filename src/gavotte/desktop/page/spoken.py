"""The page in words, note by note, for a screen reader."""

from __future__ import annotations

from gavotte.desktop.words import DEVICE_WORDS, FUNCTION_WORDS, counted
from gavotte.notation.values import value_of
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Articulation, Note, Solo
from gavotte.solo.label import Label
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord, shown_degree

_VALUE_WORDS = {1: "whole note", 2: "half", 4: "quarter", 8: "eighth", 16: "sixteenth", 32: "32nd", 64: "64th"}
_SIGNS = str.maketrans({"♭": " flat ", "♯": " sharp ", "♮": " natural "})


def spoken_selection(solo: Solo, grid: BarGrid, labels: dict[str, Label], selected: tuple[str, ...], note: str) -> str:
    """The note where the user is, and before it how many are selected."""
    words = spoken_note(solo.note(note), grid, labels.get(note))
    if len(selected) > 1:
        return f"{counted(len(selected), 'note', 'notes')} selected, {words}"
    return words


def spoken_note(note: Note, grid: BarGrid, label: Label | None) -> str:
    """Pitch, length, place, function and degree of a note, and what is played with it."""
    parts = [_read(f"{note.pitch.shown}{note.pitch.octave}"), _length(note), grid.place(note.onset)]
    if label is not None:
        function = FUNCTION_WORDS[label.function].lower()
        device = DEVICE_WORDS.get(label.device, label.device)
        parts.append(function if device in ("plain", function) else f"{function}, {device}")
        if label.chord:
            parts.append(
                f"{_read(shown_degree(label.degree))} of {_read(shown_chord(parse_chord_symbol(label.chord)))}"
            )
        if label.in_doubt:
            parts.append("in doubt")
    parts += [_mark(mark.articulation) for mark in note.marks]
    if note.uncertain:
        parts.append("heard uncertainly")
    return ", ".join(" ".join(part.split()) for part in parts)


def _length(note: Note) -> str:
    if note.grace:
        return "grace note"
    value = value_of(note.duration)
    if value is None:
        return f"{note.duration} quarters"
    return ("dotted " if value.dots == 1 else "double dotted " if value.dots else "") + _VALUE_WORDS[value.base]


def _mark(articulation: Articulation) -> str:
    return str(articulation).replace("-", " ")


def _read(text: str) -> str:
    return text.translate(_SIGNS)
