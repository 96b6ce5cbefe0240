"""Roman numerals: a chord named by where it stands in a key."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.harmony.changes import Change
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key

_NUMERALS = ("I", "♭II", "II", "♭III", "III", "IV", "♯IV", "V", "♭VI", "VI", "♭VII", "VII")


def numeral(chord: Chord, key: Key) -> str:
    """The chord's numeral in a key: "ii", "V", "VI7", "viiø", "♯i°"; small letters for minor thirds."""
    return numeral_of(chord, key.tonic.pitch_class)


def numeral_of(chord: Chord, tonic: int) -> str:
    """The chord's numeral above a tonic's pitch class."""
    step = (chord.root.pitch_class - tonic) % 12
    name = _NUMERALS[step]
    if chord.is_diminished and step in (1, 6):
        # The passing diminished chord is heard as the raised degree it comes from.
        return {1: "♯i°", 6: "♯iv°"}[step]
    if chord.third == "b3":
        name = name.lower()
    if chord.is_half_diminished:
        return f"{name}ø"
    if chord.is_diminished:
        return f"{name}°"
    if chord.third == "4":
        return f"{name}sus"
    return f"{name}7" if chord.is_dominant and name != "V" else name


def place_words(step: int) -> str:
    """The degree of the key that lies ``step`` semitones above its tonic: "IV", "♭VI"."""
    return _NUMERALS[step % 12]


@dataclass(frozen=True, slots=True)
class Numbered:
    """A chord with its numeral in the key heard there; ``key`` is that key where another one begins to be heard."""

    change: Change
    numeral: str
    key: Key | None = None

    @property
    def shown(self) -> str:
        """The numeral, with the key in front where that changes: "A♭: ii", "Fm: V"."""
        if self.key is None:
            return self.numeral
        return f"{self.key.tonic.shown}{'m' if self.key.is_minor else ''}: {self.numeral}"
