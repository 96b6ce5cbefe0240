"""Spelled pitch: a letter, an accidental and, for a sounding pitch, an octave.

Spelling is kept everywhere because it carries meaning (E♭ is the ♭9 of D, D♯ its augmented octave).
The line of fifths (… B♭ F C G D …) numbers the spelled names so that intervals add up like integers;
see D. Temperley, *The Cognition of Basic Musical Structures* (2001), ch. 5.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from gavotte.theory.interval import Interval

LETTERS = "CDEFGAB"
_LETTER_SEMITONES = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_FIFTHS_LETTERS = "FCGDAEB"
_ACCIDENTALS = {"": 0, "#": 1, "##": 2, "###": 3, "b": -1, "bb": -2, "bbb": -3}
_WRITTEN = {value: sign for sign, value in _ACCIDENTALS.items()}
_SHOWN = {value: sign.replace("b", "♭").replace("#", "♯") for sign, value in _ACCIDENTALS.items()}
_NAME = re.compile(r"([A-G])(#{1,3}|b{1,3}|)")
_PITCH = re.compile(r"([A-G])(#{1,3}|b{1,3}|)(-?\d+)")


class PitchError(ValueError):
    """A text or number that names no pitch."""


def plain_accidentals(text: str) -> str:
    """Return ``text`` with the music signs ♭ ♯ 𝄫 𝄪 written as b, #, bb, ##."""
    for sign, plain in (("𝄫", "bb"), ("𝄪", "##"), ("♭", "b"), ("♯", "#")):
        text = text.replace(sign, plain)
    return text


def music_accidentals(text: str) -> str:
    """Return ``text`` with every b and # written as ♭ and ♯; for names and degrees, not for prose."""
    return text.replace("b", "♭").replace("#", "♯")


@dataclass(frozen=True, slots=True)
class PitchName:
    """A letter with an accidental, in no octave. ``alter`` is in semitones (♭ is −1)."""

    letter: str
    alter: int = 0

    def __post_init__(self) -> None:
        if self.letter not in _LETTER_SEMITONES or self.alter not in _WRITTEN:
            raise PitchError(f"no pitch has the letter {self.letter!r} altered by {self.alter} semitones")

    @classmethod
    def parse(cls, text: str) -> PitchName:
        """Read "Eb", "F#", "B♭". Raises PitchError."""
        match = _NAME.fullmatch(plain_accidentals(text.strip()))
        if match is None:
            raise PitchError(f"{text!r} is no note name; write a letter A to G with # or b, as in Eb")
        return cls(match[1], _ACCIDENTALS[match[2]])

    @classmethod
    def from_fifths(cls, fifths: int) -> PitchName:
        """The name ``fifths`` steps up the line of fifths from C."""
        alter, index = divmod(fifths + 1, 7)
        return cls(_FIFTHS_LETTERS[index], alter)

    @property
    def fifths(self) -> int:
        """Place on the line of fifths: F −1, C 0, G 1, B♭ −2."""
        return _FIFTHS_LETTERS.index(self.letter) - 1 + 7 * self.alter

    @property
    def pitch_class(self) -> int:
        """Semitones above C, 0 to 11."""
        return (_LETTER_SEMITONES[self.letter] + self.alter) % 12

    def transposed(self, interval: Interval) -> PitchName:
        """The name an interval above. Raises PitchError past a triple accidental."""
        index = LETTERS.index(self.letter) + interval.steps
        letter = LETTERS[index % 7]
        alter = (
            _LETTER_SEMITONES[self.letter]
            + self.alter
            + interval.semitones
            - _LETTER_SEMITONES[letter]
            - 12 * (index // 7)
        )
        return PitchName(letter, alter)

    @property
    def shown(self) -> str:
        """The name with music signs: "E♭"."""
        return self.letter + _SHOWN[self.alter]

    def __str__(self) -> str:
        return self.letter + _WRITTEN[self.alter]


@dataclass(frozen=True, slots=True)
class Pitch:
    """A spelled, sounding pitch. ``octave`` 4 starts at middle C; C♭4 sounds a semitone below it."""

    letter: str
    alter: int
    octave: int

    def __post_init__(self) -> None:
        PitchName(self.letter, self.alter)

    @classmethod
    def parse(cls, text: str) -> Pitch:
        """Read "Eb4", "F#5", "C-1". Raises PitchError."""
        match = _PITCH.fullmatch(plain_accidentals(text.strip()))
        if match is None:
            raise PitchError(f"{text!r} is no pitch; write letter, accidental and octave, as in Eb4")
        return cls(match[1], _ACCIDENTALS[match[2]], int(match[3]))

    @property
    def name(self) -> PitchName:
        """The pitch's name without its octave."""
        return PitchName(self.letter, self.alter)

    @property
    def midi(self) -> int:
        """MIDI note number; middle C is 60."""
        return 12 * (self.octave + 1) + _LETTER_SEMITONES[self.letter] + self.alter

    @property
    def pitch_class(self) -> int:
        """Semitones above C, 0 to 11."""
        return self.midi % 12

    @property
    def staff_step(self) -> int:
        """Diatonic steps above C0: what decides the place on a staff."""
        return 7 * self.octave + LETTERS.index(self.letter)

    def transposed(self, interval: Interval) -> Pitch:
        """The pitch an interval above (below for a negative one). Raises PitchError past a triple accidental."""
        name = self.name.transposed(interval)
        return Pitch(name.letter, name.alter, (self.staff_step + interval.steps) // 7)

    @property
    def shown(self) -> str:
        """The name with music signs and without the octave: "E♭"."""
        return self.letter + _SHOWN[self.alter]

    def __str__(self) -> str:
        return f"{self.name}{self.octave}"


@lru_cache(maxsize=4096)
def spell(midi: int, around_fifths: int) -> Pitch:
    """Spell a MIDI note number by the name nearest to ``around_fifths`` + 2 on the line of fifths.

    With the fifths of a major key (C 0, G 1, F −1) this gives its seven notes and the chromatic ones
    from ♭3 to ♯4.
    """
    centre = around_fifths + 2
    names = (PitchName.from_fifths(f) for f in range(centre - 6, centre + 6))
    name = next(n for n in names if n.pitch_class == midi % 12)
    octave = (midi - _LETTER_SEMITONES[name.letter] - name.alter) // 12 - 1
    return Pitch(name.letter, name.alter, octave)


def respelled(pitch: Pitch, name: PitchName) -> Pitch:
    """The same sounding pitch under another name. Raises PitchError where the name sounds otherwise."""
    if name.pitch_class != pitch.pitch_class:
        raise PitchError(f"{name.shown} does not sound like {pitch.shown}")
    octave = (pitch.midi - _LETTER_SEMITONES[name.letter] - name.alter) // 12 - 1
    return Pitch(name.letter, name.alter, octave)
