"""Names of notes and chords in texts: what stands in {braces} is named for whoever reads a version.

"over {G7}" is "over G7" in concert pitch and "over A7" for a B♭ instrument. Texts that are proposed have their names in
braces already (``braced``).
"""

from __future__ import annotations

import re

from gavotte.theory.interval import UNISON, Interval
from gavotte.theory.pitch import PitchError, PitchName, plain_accidentals

_BRACES = re.compile(r"\{([^{}\n]{1,60})\}")
_NAME = re.compile(r"^([A-G](?:♭♭|♯♯|♭|♯|bb|##|b(?!\w)|b(?=\d)|#)?)(.*)$", re.DOTALL)
_BASS = re.compile(r"/([A-G](?:♭|♯|b|#)?)(?![\w♭♯])")
_AROUND = "(,.;:)“”’"


def named_for(text: str, interval: Interval = UNISON) -> str:
    """A text with the names in its braces an interval higher, without the braces. What is no name stays as it is."""
    return _BRACES.sub(lambda match: higher(match[1], interval), text)


def higher(name: str, interval: Interval) -> str:
    """A note, chord or key by its name, an interval higher: "D♭7" a major second higher is "E♭7"."""
    if interval == UNISON:
        return name
    return " ".join(_higher(word, interval) for word in name.split(" "))


def _higher(word: str, interval: Interval) -> str:
    match = _NAME.match(word)
    if match is None:
        return word
    try:
        root, rest = _moved(match[1], interval), _BASS.sub(lambda bass: f"/{_moved(bass[1], interval)}", match[2])
    except PitchError:
        return word
    return f"{root}{rest}"


def _moved(name: str, interval: Interval) -> str:
    moved = PitchName.parse(plain_accidentals(name)).transposed(interval)
    return _SIMPLER.get(moved.shown, moved.shown)


_SIMPLER = {
    "C♭♭": "B♭", "D♭♭": "C", "E♭♭": "D", "F♭♭": "E♭", "G♭♭": "F", "A♭♭": "G", "B♭♭": "A",
    "C♯♯": "D", "D♯♯": "E", "E♯♯": "F♯", "F♯♯": "G", "G♯♯": "A", "A♯♯": "B", "B♯♯": "C♯",
}  # fmt: skip
"""Names with two signs, as they are read in a text."""


def braced(text: str, elsewhere: str) -> str:
    """A text with braces around what is another word in the same text about the same music in another key.

    Where the two are built differently, nothing is put in braces.
    """
    words, others = text.split(" "), elsewhere.split(" ")
    if len(words) != len(others):
        return text
    return " ".join(_braced(word, other) for word, other in zip(words, others, strict=True))


def _braced(word: str, other: str) -> str:
    core = word.strip(_AROUND)
    if word == other or not core or "{" in word:
        return word
    start = word.index(core)
    return f"{word[:start]}{{{core}}}{word[start + len(core) :]}"
