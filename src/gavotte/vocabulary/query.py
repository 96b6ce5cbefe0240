"""What musicians ask for, in one line: "3 5 ♭7 ♭9 on V", "enclosure of 5 on ii", "+2 +1 -4", "C E♭ G", "up up down".

A query is a row of words. Degrees, moves in semitones with their sign, pitches, directions and the values behind
``rhythm`` follow each other in the line; where several kinds are given they are asked of the same notes, each row
from the first of them on. The words behind ``from``, ``to`` and ``highest`` are the degrees of the first, last and
highest note, behind ``of`` that of a note that is led to, behind ``on`` a numeral or a kind of chord, behind ``over``
a chord by its symbol, behind ``in`` a harmonic context. Functions and devices stand by their names. ``notes`` and
``bars`` say how long it is, ``by``, ``tag``, ``status``, ``rated`` and ``named`` whose, and which of the licks. What
has several words stands in quotation marks.
"""

from __future__ import annotations

import difflib
import re
from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from functools import lru_cache

from gavotte.solo.document import Function
from gavotte.solo.label import DEVICES
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import read_or_keep
from gavotte.theory.pitch import PitchName
from gavotte.vocabulary.contexts import CONTEXTS
from gavotte.vocabulary.corpus import QUALITIES
from gavotte.vocabulary.lick import MOST_STARS, STATUSES

EXAMPLES = (
    "3 5 b7 b9 on V", "enclosure of 5 on ii", "+2 +1 -4", "C Eb G", "up up down to 3", "approach over G7",
    "rhythm 8-8-4 from 5", "altered in short-ii-V-I", "to 9 notes 4-8",
)  # fmt: skip
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
_VALUE = re.compile(r"(1|2|4|8|16|32)([.t]?)")
_STRETCH = {"": Fraction(1), ".": Fraction(3, 2), "t": Fraction(2, 3)}
_NUMBERS = re.compile(r"(\d{1,3})(?:-(\d{1,3}))?")
_DEVICE_NAMES = {device: function for function, devices in DEVICES.items() for device in devices}
_DOUBLES = {"double": ("double-below", "double-above"), "chromatic": (
    "chromatic-below", "chromatic-above", "chromatic-passing", "chromatic-neighbour",
)}  # fmt: skip
MARKERS = {
    "from": "the degree of the first note", "to": "the degree of the last note",
    "highest": "the degree of the highest note", "of": "the degree a note leads to",
    "on": "a numeral or a kind of chord", "over": "a chord symbol", "in": "a harmonic context",
    "rhythm": "note values with hyphens between", "notes": "how many notes", "bars": "how many bars", "by": "a player",
    "tag": "a tag", "status": "new, learning or mine", "rated": "at least how many stars",
    "named": "words of the name, the title or your notes",
}  # fmt: skip
"""The words that say what the one behind them is, each with what stands there."""


DEGREE_WORDS = ("1", "b9", "9", "#9", "b3", "3", "11", "#11", "b5", "5", "b13", "13", "b7", "7")
"""The degrees, as they are usually asked for."""
WAY_MEANINGS = (("up", "to a higher note"), ("down", "to a lower note"), ("same", "the note again"))
DEVICE_MEANINGS = {
    "chord": "chord tones", "extension": "colours", "passing": "passing notes", "approach": "approach notes",
    "outside": "notes outside", "enclosure": "from both sides to a note", "double": "two approaches from one side",
    "chromatic": "approaches by half steps", "chromatic-below": "from a half step below",
    "chromatic-above": "from a half step above", "double-below": "two notes from below",
    "double-above": "two notes from above", "chromatic-passing": "half steps between tones",
    "chromatic-neighbour": "a half step away and back", "neighbour": "away and back", "altered": "altered colours",
    "blue": "blue notes", "anticipation": "early notes", "carried": "notes carried over",
    "implied": "another chord implied",
    "clash": "what rubs", "unexplained": "what nobody can explain",
}  # fmt: skip
"""Functions and devices, as they are asked for, and what they mean."""


class QueryError(ValueError):
    """A query that can't be read: it says which word, where it stands, and what would do.

    ``start`` and ``end`` are where that word stands in the line, by characters.
    """

    def __init__(self, message: str, start: int = 0, end: int = 0) -> None:
        super().__init__(message)
        self.start, self.end = start, end


@dataclass(frozen=True, slots=True)
class Query:
    """What is asked for. Degrees are in stored form ("b9"); empty rows and "" ask for nothing.

    ``functions`` and ``devices`` must each be had by a note; ``target`` is the degree that such a note leads to.
    ``rhythm`` are the times from note to note in quarter notes, the last one the value of the last note, 0 where that
    is open. ``notes``  and ``bars`` are the fewest and the most, both with 0 for no bound. ``context``, ``player``,
    ``tag`` and ``words`` are parts of what is meant, in small letters but for ``context``.
    """

    degrees: tuple[str, ...] = ()
    moves: tuple[int, ...] = ()
    pitches: tuple[PitchName, ...] = ()
    ways: tuple[int, ...] = ()
    rhythm: tuple[Fraction, ...] = ()
    functions: tuple[Function, ...] = ()
    devices: tuple[tuple[str, ...], ...] = ()
    target: str = ""
    first: str = ""
    last: str = ""
    numeral: str = ""
    kind: str = ""
    chord: Chord | None = None
    highest: str = ""
    notes: tuple[int, int] = (0, 0)
    bars: tuple[int, int] = (0, 0)
    context: str = ""
    player: str = ""
    tag: str = ""
    status: str = ""
    rated: int = 0
    words: str = ""

    @property
    def size(self) -> int:
        """How many notes in a row are asked for; 1 where it is of single notes or figures."""
        moving = max(len(self.moves), len(self.ways))
        return max(len(self.degrees), len(self.pitches), len(self.rhythm), moving + 1 if moving else 1)

    @property
    def is_row(self) -> bool:
        """Whether notes in a row are asked for."""
        return bool(self.degrees or self.moves or self.pitches or self.ways or self.rhythm)

    @property
    def is_figure(self) -> bool:
        """Whether single notes and figures are asked for, by what they do."""
        return not self.is_row and bool(self.functions or self.devices)

    @property
    def is_whole(self) -> bool:
        """Whether whole phrases or licks are asked for: by how they begin or end, how long or whose they are."""
        about = (self.first, self.last, self.highest, self.context, self.player, self.tag, self.status, self.words)
        harmony = self.numeral or self.kind or self.chord
        return (
            not self.is_row
            and not self.is_figure
            and (any(about) or any(self.notes) or any(self.bars) or bool(self.rated) or not harmony)
        )


_ROWS = ("degrees", "moves", "pitches", "ways", "rhythm")


_WORD = re.compile(r"[“\"„]([^”\"“]*)[”\"“]?|[^\s,]+")


@dataclass(frozen=True, slots=True)
class Word:
    """A word of a line, and where it stands, by characters."""

    text: str
    start: int
    end: int
    quoted: bool = False


def words_of(line: str) -> tuple[Word, ...]:
    """The words of a line; what stands in quotation marks is one."""
    plain = line.replace("♭", "b").replace("♯", "#").replace("−", "-")
    found = []
    for match in _WORD.finditer(plain):
        quoted = match[1] is not None
        found.append(Word(match[1] if quoted else match[0], match.start(), match.end(), quoted))
    return tuple(found)


@dataclass
class _Reading:
    """A query while its words are read."""

    words: tuple[Word, ...]
    at: int = 0
    rows: dict[str, list[object]] = field(default_factory=lambda: {name: [] for name in _ROWS})
    functions: list[Function] = field(default_factory=list)
    devices: list[tuple[str, ...]] = field(default_factory=list)
    said: dict[str, object] = field(default_factory=dict)

    def following(self, marker: str) -> str:
        """The word behind a marker."""
        self.at += 1
        if self.at >= len(self.words):
            before = self.words[-1]
            what = MARKERS[marker]
            raise QueryError(f"Behind “{marker}” (word {self.at}) {what} is missing.", before.start, before.end)
        return self.words[self.at].text

    def refused(self, message: str) -> QueryError:
        """The error that the word that is read can't stand there."""
        word = self.words[min(self.at, len(self.words) - 1)]
        return QueryError(message, word.start, word.end)


def read_query(text: str) -> Query:
    """The query of a line. Raises QueryError."""
    reading = _Reading(words_of(text))
    if not reading.words:
        raise QueryError(f"Nothing is asked for. Ask for instance: {'; '.join(EXAMPLES)}.")
    while reading.at < len(reading.words):
        word = reading.words[reading.at].text
        if word in _MARKER_READERS and not reading.words[reading.at].quoted:
            _MARKER_READERS[word](reading, word)
        elif not any(read(reading, word) for read in _READERS):
            raise reading.refused(_unknown(word, reading.at))
        reading.at += 1
    query = Query(
        functions=tuple(reading.functions),
        devices=tuple(reading.devices),
        **{name: tuple(row) for name, row in reading.rows.items()},  # type: ignore[arg-type]
        **reading.said,  # type: ignore[arg-type]
    )
    if query.target and not (query.functions or query.devices):
        raise QueryError(
            "“of” says where a note leads: say which, as in “enclosure of 5” or “approach of 3”.", 0, len(text)
        )
    return query


_DEGREE_OF = {"from": "first", "to": "last", "of": "target", "highest": "highest"}


def _read_degree_of(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    if word not in _DEGREES:
        raise reading.refused(f"Behind “{marker}” stands a degree, as in “{marker} 3”; “{word}” is none.")
    reading.said[_DEGREE_OF[marker]] = _DEGREES[word]


def _read_over(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    symbol = read_or_keep(word)
    if not isinstance(symbol, Chord):
        raise reading.refused(f"Behind “over” stands a chord symbol, as in “over G7”; “{word}” can't be read as one.")
    reading.said["chord"] = symbol


def _read_on(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    if word in QUALITIES:
        reading.said["kind"] = word
    elif _NUMERAL.match(word):
        reading.said["numeral"] = word
    else:
        kinds = ", ".join(QUALITIES)
        raise reading.refused(f"Behind “on” stands a numeral (ii, V, bVII) or one of {kinds}; “{word}” is neither.")


def _read_context(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    wanted = plain_context(word)
    if not any(wanted in plain_context(name) for name in CONTEXTS):
        known = ", ".join(CONTEXTS)
        raise reading.refused(f"Behind “in” stands a harmonic context, one of {known}; “{word}” is part of none.")
    reading.said["context"] = word


@lru_cache(maxsize=512)
def plain_context(name: str) -> str:
    """A context without what may be typed in several ways: spaces and hyphens, commas, dashes, sharps."""
    text = name.replace("♯", "#").replace("♭", "b")
    for sign in (" ", "-", "–", ",", "°"):
        text = text.replace(sign, "")
    return text


def _read_rhythm(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    parts = word.split("-")
    for number, part in enumerate(parts, 1):
        if part == "x" and number == len(parts) > 1:
            reading.rows["rhythm"].append(Fraction(0))
            return
        match = _VALUE.fullmatch(part)
        if match is None:
            raise reading.refused(
                "Behind “rhythm” stand note values with hyphens between, as in “rhythm 8-8-4.” (a dot) or “rhythm "
                f"8t-8t-8t-4” (triplets), at the end x for any length; “{part or word}” is none."
            )
        reading.rows["rhythm"].append(Fraction(4, int(match[1])) * _STRETCH[match[2]])


def _read_size(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    match = _NUMBERS.fullmatch(word)
    if match is None:
        raise reading.refused(
            f"Behind “{marker}” stands how many, as in “{marker} 4” or “{marker} 4-8”; “{word}” is no number."
        )
    low = int(match[1])
    high = int(match[2]) if match[2] else low
    reading.said[marker] = (min(low, high), max(low, high))


def _read_words(reading: _Reading, marker: str) -> None:
    reading.said[{"by": "player", "tag": "tag", "named": "words"}[marker]] = reading.following(marker).casefold()


def _read_status(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    if word not in STATUSES:
        raise reading.refused(f"Behind “status” stands one of {', '.join(STATUSES)}; “{word}” is none.")
    reading.said["status"] = word


def _read_rating(reading: _Reading, marker: str) -> None:
    word = reading.following(marker)
    if not (word.isdigit() and 1 <= int(word) <= MOST_STARS):
        raise reading.refused(f"Behind “rated” stands a number from 1 to {MOST_STARS}; “{word}” is none.")
    reading.said["rated"] = int(word)


_MARKER_READERS: dict[str, Callable[[_Reading, str], None]] = {
    **dict.fromkeys(_DEGREE_OF, _read_degree_of), "over": _read_over, "on": _read_on, "in": _read_context,
    "rhythm": _read_rhythm, "notes": _read_size, "bars": _read_size, "by": _read_words, "tag": _read_words,
    "named": _read_words, "status": _read_status, "rated": _read_rating,
}  # fmt: skip


def _read_degrees(reading: _Reading, word: str) -> bool:
    parts = word.split("-")
    if not all(part in _DEGREES for part in parts):
        return False
    reading.rows["degrees"] += [_DEGREES[part] for part in parts]
    return True


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
    _read_degrees,
    _read_move,
    _read_pitch,
    _read_way,
    _read_function,
)


def _unknown(word: str, at: int) -> str:
    known = [*map(str, Function), *_DEVICE_NAMES, *_DOUBLES, *_WAYS, *MARKERS, *_DEGREES]
    near = difflib.get_close_matches(word.lower(), known, 1)
    hint = f" Do you mean “{near[0]}”?" if near else f" Ask for instance: {'; '.join(EXAMPLES)}."
    return f"“{word}” (word {at + 1}) is nothing that can be asked for.{hint}"
