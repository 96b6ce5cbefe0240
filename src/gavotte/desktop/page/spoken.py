"""The page in words, note by note, for a screen reader."""

from __future__ import annotations

from bisect import bisect_right
from fractions import Fraction

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.words import counted, device_words, function_words
from gavotte.notation.values import value_of
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Articulation, Note, Solo
from gavotte.solo.label import Label
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord

_VALUE_WORDS = {
    1: QT_TRANSLATE_NOOP("Gavotte", "whole note"),
    2: QT_TRANSLATE_NOOP("Gavotte", "half"),
    4: QT_TRANSLATE_NOOP("Gavotte", "quarter"),
    8: QT_TRANSLATE_NOOP("Gavotte", "eighth"),
    16: QT_TRANSLATE_NOOP("Gavotte", "sixteenth"),
    32: QT_TRANSLATE_NOOP("Gavotte", "32nd"),
    64: QT_TRANSLATE_NOOP("Gavotte", "64th"),
}
_TUPLETS = {
    (3, 2): QT_TRANSLATE_NOOP("Gavotte", "triplet {value}"),
    (5, 4): QT_TRANSLATE_NOOP("Gavotte", "quintuplet {value}"),
    (7, 4): QT_TRANSLATE_NOOP("Gavotte", "septuplet {value}"),
}
"""So many in the time of so many."""
_TIED = [Fraction(4, base) for base in (1, 2, 4, 8, 16, 32)]
_SIGNS = str.maketrans({"♭": " flat ", "♯": " sharp ", "♮": " natural "})


def spoken_selection(solo: Solo, grid: BarGrid, labels: dict[str, Label], selected: tuple[str, ...], note: str) -> str:
    """The note where the user is, and before it how many are selected."""
    words = spoken_note(solo.note(note), grid, labels.get(note))
    if len(selected) > 1:
        return translate("Gavotte", "{count} selected, {words}").format(
            count=counted(len(selected), "note"), words=words
        )
    return words


def spoken_note(note: Note, grid: BarGrid, label: Label | None) -> str:
    """Pitch, length, place, function and degree of a note, and what is played with it."""
    length = translate("Gavotte", "grace note") if note.grace else spoken_length(note.duration)
    parts = [_read(f"{note.pitch.shown}{note.pitch.octave}"), length, grid.place(note.onset)]
    if label is not None and label.decided:
        parts.append(translate("Gavotte", "your decision"))
    if label is not None and label.heard:
        parts.append(translate("Gavotte", "heard in {reading}").format(reading=_read(label.heard)))
    if label is not None:
        function = function_words(label.function, label).lower()
        device = device_words(label.device)
        parts.append(function if device in (said("plain"), function) else f"{function}, {device}")
        if label.chord:
            parts.append(
                translate("Gavotte", "{degree} of {chord}").format(
                    degree=_read(label.shown_degree), chord=_read(shown_chord(parse_chord_symbol(label.chord)))
                )
            )
        else:
            parts.append(translate("Gavotte", "{degree} of the key").format(degree=_read(label.shown_degree)))
        if label.in_doubt:
            parts.append(translate("Gavotte", "in doubt"))
    parts += [_mark(mark.articulation) for mark in note.marks]
    if note.uncertain:
        parts.append(translate("Gavotte", "heard uncertainly"))
    return ", ".join(" ".join(part.split()) for part in parts)


def spoken_moment(solo: Solo, time: Fraction) -> str:
    """What stands at a time: a note that goes on there, or a rest; "" where a note begins."""
    index = bisect_right(solo.notes, time, key=lambda note: note.onset) - 1
    note = solo.notes[index] if index >= 0 else None
    if note is None or note.end <= time:
        return translate("Gavotte", "rest")
    if note.onset == time:
        return ""
    return translate("Gavotte", "{pitch} goes on, tied").format(pitch=_read(f"{note.pitch.shown}{note.pitch.octave}"))


def spoken_length(duration: Fraction) -> str:
    """A length as a player says it: "dotted quarter", "triplet eighth", "half tied to eighth"."""
    plain = _value(duration)
    if plain:
        return plain
    for (actual, normal), words in _TUPLETS.items():
        written = _value(duration * Fraction(actual, normal))
        if written:
            return said(words).format(value=written)
    longest = next((value for value in _TIED if value < duration), None)
    rest = "" if longest is None else _value(duration - longest)
    if longest is not None and rest:
        return translate("Gavotte", "{first} tied to {second}").format(first=_value(longest), second=rest)
    return translate("Gavotte", "{duration} quarters").format(duration=duration)


def _value(duration: Fraction) -> str:
    value = value_of(duration)
    if value is None:
        return ""
    dots = ("{value}", translate("Gavotte", "dotted {value}"), translate("Gavotte", "double dotted {value}"))
    return dots[min(value.dots, 2)].format(value=said(_VALUE_WORDS[value.base]))


def _mark(articulation: Articulation) -> str:
    return str(articulation).replace("-", " ")


def _read(text: str) -> str:
    return text.translate(_SIGNS)
