"""A line as text, to be typed or played in: "| C7 | E4/8 F F# G A Bb C5 Bb |", chords and notes bar by bar.

A note is a letter with its accidental, an octave where it is not the nearest, and behind "/" its value where that is
another one than before ("/4." dotted, "/8t" in a triplet); "r" is a rest, "~" ties on to the next note.
"""

from __future__ import annotations

import re
from fractions import Fraction

from gavotte.solo.document import Note
from gavotte.theory.pitch import LETTERS, Pitch, PitchError, PitchName, spell

_TOKEN = re.compile(
    r"(?P<name>r|[A-Ga-g][#b♯♭]{0,2})(?P<octave>\d)?(?:/(?P<value>1|2|4|8|16|32)(?P<more>[.t]?))?(?P<tie>~?)"
)
_FACTORS = {"": Fraction(1), ".": Fraction(3, 2), "t": Fraction(2, 3)}
MOST_NOTES = 400


class CellTextError(ValueError):
    """A text that is no line; says which word of it can't be read."""


def read_cell(text: str, near: Pitch | None = None) -> tuple[Note, ...]:
    """The notes of a text, from bar 1 beat 1 on; "|" is only for the eye. ``near`` is what the first lies nearest to.

    Raises CellTextError.
    """
    notes: list[Note] = []
    time, length = Fraction(0), Fraction(1, 2)
    before = near or Pitch("B", 0, 4)
    tied = False
    for word in text.replace("|", " ").split():
        match = _TOKEN.fullmatch(word)
        if match is None:
            raise CellTextError(f"“{word}” is no note. Write a letter with # or b, an octave and a value: Eb5/8.")
        if match["value"]:
            length = Fraction(4, int(match["value"])) * _FACTORS[match["more"]]
        if match["name"] != "r":
            try:
                name = PitchName.parse(match["name"][0].upper() + match["name"][1:])
            except PitchError as error:
                raise CellTextError(f"“{word}”: {error}.") from error
            pitch = Pitch(name.letter, name.alter, int(match["octave"])) if match["octave"] else _nearest(name, before)
            if tied and notes and notes[-1].pitch == pitch:
                notes[-1] = Note(notes[-1].id, notes[-1].onset, notes[-1].duration + length, pitch)
            else:
                notes.append(Note(f"n{len(notes)}", time, length, pitch))
            before = pitch
        tied = bool(match["tie"])
        time += length
        if len(notes) > MOST_NOTES:
            raise CellTextError(f"A line has {MOST_NOTES} notes at most.")
    if not notes:
        raise CellTextError("There is no note in it. Write for instance E4 F F# G A Bb C5.")
    return tuple(notes)


def _nearest(name: PitchName, before: Pitch) -> Pitch:
    """The pitch of a name nearest to another one by letter, at most a fourth away."""
    step = LETTERS.index(name.letter) - LETTERS.index(before.letter)
    octave = before.octave + (1 if step < -3 else -1 if step > 3 else 0)
    return Pitch(name.letter, name.alter, min(8, max(0, octave)))


def played_word(midi: int, fifths: int) -> str:
    """How a key that was played is written in a text: "Eb5"."""
    return str(spell(midi, fifths))
