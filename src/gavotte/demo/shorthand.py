"""A shorthand for writing solos by hand: bars of chord symbols and notes.

A note is ``pitch/length`` with marks behind it: ``Eb5/8``, ``D5/4.``, ``F5/8t`` (triplet), ``r/4`` (rest). A
length holds until another is given. Marks: ``>`` accent, ``'`` staccato, ``~`` tied to the next note, ``?``
uncertain, ``{slide}``, ``{bend:2}`` (in semitones) and the other articulations by name; ``*`` in front makes
a grace note. Chords of a bar share it evenly.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.solo.document import Articulation, ChordEvent, Mark, Note
from gavotte.theory.chord_symbol import parse_chord_symbol, write_chord_symbol
from gavotte.theory.pitch import Pitch

_TOKEN = re.compile(
    r"(?P<grace>\*?)(?P<pitch>r|[A-G][#b]*\d)(?:/(?P<length>\d+)(?P<mod>[.t]?))?(?P<marks>(?:[>'~?]|\{[^}]*\})*)"
)
_STRETCH = {"": Fraction(1), ".": Fraction(3, 2), "t": Fraction(2, 3)}
_SIGNS = {">": Articulation.ACCENT, "'": Articulation.STACCATO}


class ShorthandError(ValueError):
    """A bar that can't be read or does not add up."""


@dataclass(frozen=True)
class Written:
    """What a piece of shorthand holds."""

    notes: tuple[Note, ...]
    chords: tuple[ChordEvent, ...]


def write_out(bars: Sequence[tuple[str, str]], bar_length: Fraction, pickup: Fraction = Fraction(0)) -> Written:
    """The notes and chords of bars of (chords, notes). With a pickup the first bar is it. Raises ShorthandError."""
    notes: list[Note] = []
    chords: list[ChordEvent] = []
    length = Fraction(1, 2)
    onset = -pickup
    tied = False
    for number, (symbols, text) in enumerate(bars, 0 if pickup else 1):
        expected = pickup if number == 0 else bar_length
        start = onset
        names = symbols.split()
        for k, name in enumerate(names):
            symbol = write_chord_symbol(parse_chord_symbol(name))
            chords.append(ChordEvent(f"c{len(chords)}", start + expected * k / len(names), symbol))
        for token in text.split():
            match = _TOKEN.fullmatch(token)
            if match is None:
                raise ShorthandError(f"bar {number}: {token!r} is no note")
            if match["length"]:
                length = Fraction(4, int(match["length"])) * _STRETCH[match["mod"]]
            grace = bool(match["grace"])
            duration = Fraction(0) if grace else length
            if match["pitch"] != "r":
                note = Note(
                    f"n{len(notes)}",
                    onset,
                    duration,
                    Pitch.parse(match["pitch"]),
                    grace=grace,
                    marks=_marks(match["marks"]),
                    uncertain="?" in match["marks"],
                )
                if tied:
                    first = notes.pop()
                    note = replace(first, duration=first.duration + duration)
                notes.append(note)
            tied = "~" in match["marks"]
            onset += duration
        if onset - start != expected:
            raise ShorthandError(f"bar {number} holds {onset - start} quarter notes, not {expected}")
    return Written(tuple(notes), tuple(chords))


def _marks(text: str) -> tuple[Mark, ...]:
    marks = [Mark(_SIGNS[sign]) for sign in re.sub(r"\{[^}]*\}", "", text) if sign in _SIGNS]
    for name in re.findall(r"\{([^}]*)\}", text):
        kind, _, semitones = name.partition(":")
        marks.append(Mark(Articulation(kind), Fraction(semitones) if semitones else None))
    return tuple(marks)
