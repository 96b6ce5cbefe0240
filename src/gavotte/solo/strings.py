"""Strings: tunings of guitars and basses, and where a pitch lies on them."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.solo.document import Instrument
from gavotte.solo.instruments import instrument_named
from gavotte.theory.pitch import Pitch, PitchError, spell

FRETS = 22
MOST_STRINGS = 10


@dataclass(frozen=True, slots=True)
class Tuning:
    """Open strings from the lowest to the highest, as sounding MIDI numbers."""

    name: str
    strings: tuple[int, ...]

    @classmethod
    def parse(cls, text: str) -> Tuning:
        """Read "E2 A2 D3 G3 B3 E4", lowest string first. Raises PitchError that names the string at fault."""
        words = text.split()
        if not 1 <= len(words) <= MOST_STRINGS:
            raise PitchError(f"A tuning has 1 to {MOST_STRINGS} strings; write them as E2 A2 D3 G3 B3 E4.")
        pitches = []
        for number, word in enumerate(words, 1):
            try:
                pitches.append(Pitch.parse(word[:1].upper() + word[1:]).midi)
            except PitchError as error:
                raise PitchError(f"String {number}: {error}") from error
        return cls(text.strip(), tuple(pitches))

    def moved(self, semitones: int) -> Tuning:
        """The tuning with every string as much higher."""
        if not semitones:
            return self
        return Tuning(self.name, tuple(string + semitones for string in self.strings))

    @property
    def text(self) -> str:
        """The open strings by name, lowest first."""
        return " ".join(str(spell(midi, 0)) for midi in self.strings)


TUNINGS = (
    Tuning("Guitar", (40, 45, 50, 55, 59, 64)),
    Tuning("Bass, 4 strings", (28, 33, 38, 43)),
    Tuning("Bass, 5 strings", (23, 28, 33, 38, 43)),
)
"""The usual ones."""
_OF_INSTRUMENTS = {"Guitar": TUNINGS[0], "Bass": TUNINGS[1]}


def usual_tuning(instrument: Instrument) -> Tuning | None:
    """The usual tuning of an instrument, as its notes stand on its page; None for one without strings to finger.

    A part in written pitch lies as much higher as its notes do.
    """
    tuning, own = _OF_INSTRUMENTS.get(instrument.name), instrument_named(instrument.name)
    if tuning is None or own is None:
        return None
    return tuning.moved(instrument.lowest - own.lowest)


def fret_of(midi: int, string: int, tuning: Tuning) -> int | None:
    """The fret of a pitch on a string counted from the highest (1); None where it does not lie there."""
    if not 1 <= string <= len(tuning.strings):
        return None
    fret = midi - tuning.strings[-string]
    return fret if 0 <= fret <= FRETS else None


def places(midi: int, tuning: Tuning) -> list[tuple[int, int]]:
    """Every (string, fret) a pitch can be played at, highest string first."""
    found = ((string, fret_of(midi, string, tuning)) for string in range(1, len(tuning.strings) + 1))
    return [(string, fret) for string, fret in found if fret is not None]
