"""What musicians ask for, in one line: "3 5 ♭7 ♭9 on V", "enclosure of 5 on ii", "+2 +1 -4", "C E♭ G", "up up down".

A query is a row of words. Degrees, moves in semitones with their sign, pitches and directions follow each other in the
line; where several kinds are given they are asked of the same notes, each row from the first of them on. The words
behind ``from`` and ``to`` are the degrees of the first and the last note, behind ``of`` that of a note that is led to,
behind ``on`` a numeral or a kind of chord, behind ``over`` a chord by its symbol. Functions and devices stand by their
names.
"""

from __future__ import annotations

import difflib
import re
from collections.abc import Callable
from dataclasses import dataclass, field

from gavotte.solo.document import Function
from gavotte.solo.label import DEVICES
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import read_or_keep
from gavotte.theory.pitch import PitchName

EXAMPLES = ("3 5 b7 b9 on V", "enclosure of 5 on ii", "+2 +1 -4", "C Eb G", "up up down to 3", "approach over G7")
"""Queries as one writes them, one for each kind of word."""

_DEGREES = {
    "1": "1", "b2": "b9", "b9": "b9", "2": "9", "9": "9", "#9": "#9", "b3": "b3", "3": "3", "4": "11", "11": "11",
    "#11": "#11", "#4": "#11", "b5": "b5", "5": "5", "#5": "#5", "b6": "b13", "b13": "b13", "6": "13", "13": "13",
    "b7": "b7", "7": "7", "bb7": "bb7",
}  # fmt: skip
SAME_TONES = (frozenset({"#9", "b3"}), frozenset({"b5", "#11"}), frozenset({"#5", "b13"}), frozenset({"bb7", "13"}))
"""Degrees that are one tone by two names: whoever asks for the one means the other too."""
_WAYS = {"up": 1, "down": -1, "same": 0}
_NUMERAL = re.compile(r"^[b#]?(?:[iI]{1,3}|[iI]?[vV]|[vV][iI]{1,2})(?:7|ø|°)?$")
CHORD_KINDS = ("major", "minor", "dominant", "half-diminished", "diminished", "sus")
"""Kinds of chords, as they are asked for."""
_DEVICE_NAMES = {device: function for function, devices in DEVICES.items() for device in devices}
_DOUBLES = {"double": ("double-below", "double-above"), "chromatic": (
    "chromatic-below", "chromatic-above", "chromatic-passing", "chromatic-neighbour",
)}  # fmt: skip
_MARKERS = ("from", "to", "of", "on", "over")


class QueryError(ValueError):
    """A query that can't be read: it says which word, where it stands, and what would do."""


@dataclass(frozen=True, slots=True)
class Query:
    """What is asked for. Degrees are in stored form ("b9"); empty rows and "" ask for nothing.

    ``functions`` and ``devices`` must each be had by a note; ``target`` is the degree that such a note leads to.
    """

    degrees: tuple[str, ...] = ()
    moves: tuple[int, ...] = ()
    pitches: tuple[PitchName, ...] = ()
    ways: tuple[int, ...] = ()
    functions: tuple[Function, ...] = ()
    devices: tuple[tuple[str, ...], ...] = ()
    target: str = ""
    first: str = ""
    last: str = ""
    numeral: str = ""
    kind: str = ""
    chord: Chord | None = None

    @property
    def size(self) -> int:
        """How many notes in a row are asked for; 1 where it is of single notes or figures."""
        moving = max(len(self.moves), len(self.ways))
        return max(len(self.degrees), len(self.pitches), moving + 1 if moving else 1)

    @property
    def is_row(self) -> bool:
        """Whether notes in a row are asked for."""
        return bool(self.degrees or self.moves or self.pitches or self.ways)


_ROWS = ("degrees", "moves", "pitches", "ways")


@dataclass
class _Reading:
    """A query while its words are read."""

    words: list[str]
    at: int = 0
    rows: dict[str, list[object]] = field(default_factory=lambda: {name: [] for name in _ROWS})
    functions: list[Function] = field(default_factory=list)
    devices: list[tuple[str, ...]] = field(default_factory=list)
    said: dict[str, object] = field(default_factory=dict)

    def following(self, marker: str, what: str) -> str:
        """The word behind a marker."""
        self.at += 1
        if self.at >= len(self.words):
            raise QueryError(f"Behind “{marker}” (word {self.at}) {what} is missing.")
        return self.words[self.at]


def read_query(text: str) -> Query:
    """The query of a line. Raises QueryError."""
    reading = _Reading(text.replace("♭", "b").replace("♯", "#").replace("−", "-").replace(",", " ").split())
    if not reading.words:
        raise QueryError(f"Nothing is asked for. Ask for instance: {'; '.join(EXAMPLES)}.")
    while reading.at < len(reading.words):
        word = reading.words[reading.at]
        if word in _MARKERS:
            _read_marker(reading, word)
        elif not any(read(reading, word) for read in _READERS):
            raise QueryError(_unknown(word, reading.at))
        reading.at += 1
    query = Query(
        functions=tuple(reading.functions),
        devices=tuple(reading.devices),
        **{name: tuple(row) for name, row in reading.rows.items()},  # type: ignore[arg-type]
        **reading.said,  # type: ignore[arg-type]
    )
    if query.target and not (query.functions or query.devices):
        raise QueryError("“of” says where a note leads: say which, as in “enclosure of 5” or “approach of 3”.")
    return query


def _read_marker(reading: _Reading, marker: str) -> None:
    if marker in ("from", "to", "of"):
        word = reading.following(marker, "a degree")
        if word not in _DEGREES:
            raise QueryError(f"Behind “{marker}” stands a degree, as in “{marker} 3”; “{word}” is none.")
        reading.said[{"from": "first", "to": "last", "of": "target"}[marker]] = _DEGREES[word]
        return
    if marker == "over":
        word = reading.following(marker, "a chord")
        symbol = read_or_keep(word)
        if not isinstance(symbol, Chord):
            raise QueryError(f"Behind “over” stands a chord symbol, as in “over G7”; “{word}” can't be read as one.")
        reading.said["chord"] = symbol
        return
    word = reading.following(marker, "a numeral or a kind of chord")
    if word in CHORD_KINDS:
        reading.said["kind"] = word
    elif _NUMERAL.match(word):
        reading.said["numeral"] = word
    else:
        kinds = ", ".join(CHORD_KINDS)
        raise QueryError(f"Behind “on” stands a numeral (ii, V, bVII) or one of {kinds}; “{word}” is neither.")


def _read_degree(reading: _Reading, word: str) -> bool:
    if word in _DEGREES:
        reading.rows["degrees"].append(_DEGREES[word])
    return word in _DEGREES


def _read_move(reading: _Reading, word: str) -> bool:
    is_move = bool(re.fullmatch(r"[+-]\d{1,2}", word))
    if is_move:
        reading.rows["moves"].append(int(word))
    return is_move


def _read_pitch(reading: _Reading, word: str) -> bool:
    is_pitch = bool(re.fullmatch(r"[A-G](?:b{1,2}|#{1,2})?", word))
    if is_pitch:
        reading.rows["pitches"].append(PitchName(word[0], word.count("#") - word.count("b")))
    return is_pitch


def _read_way(reading: _Reading, word: str) -> bool:
    if word in _WAYS:
        reading.rows["ways"].append(_WAYS[word])
    return word in _WAYS


def _read_function(reading: _Reading, word: str) -> bool:
    # "passing" is a function and one of its devices: the function is meant, which holds the device.
    if word in tuple(Function):
        reading.functions.append(Function(word))
    elif word in _DEVICE_NAMES or word in _DOUBLES:
        reading.devices.append(_DOUBLES.get(word, (word,)))
    else:
        return False
    return True


_READERS: tuple[Callable[[_Reading, str], bool], ...] = (
    _read_degree,
    _read_move,
    _read_pitch,
    _read_way,
    _read_function,
)


def _unknown(word: str, at: int) -> str:
    known = [*map(str, Function), *_DEVICE_NAMES, *_DOUBLES, *_WAYS, *_MARKERS, *_DEGREES]
    near = difflib.get_close_matches(word.lower(), known, 1)
    hint = f" Do you mean “{near[0]}”?" if near else f" Ask for instance: {'; '.join(EXAMPLES)}."
    return f"“{word}” (word {at + 1}) is nothing that can be asked for.{hint}"
