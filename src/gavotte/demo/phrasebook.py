"""Writing solos in phrases: what a player likes to play over each pair of bars, as degrees of the chords.

A phrase is two bars with ``;`` between them. A note is a degree of the chord that sounds there with marks for where it
lies, ``^`` above the note before, ``v`` below it, else as near as can be, and a length that holds until another is
given: ``3/8 5^ b7^ b9^ 1v``. ``r`` is a rest.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.demo.shorthand import ShorthandError, Written, write_out
from gavotte.theory.chord import DEGREE_SEMITONES, Chord
from gavotte.theory.chord_symbol import parse_chord_symbol
from gavotte.theory.pitch import PitchName, spell

_TOKEN = re.compile(r"(?P<degree>r|[b#]{0,2}\d{1,2})(?P<way>[v^]?)(?:/(?P<length>\d+)(?P<mod>[.t]?))?(?P<marks>[>'~]*)")
_STRETCH = {"": Fraction(1), ".": Fraction(3, 2), "t": Fraction(2, 3)}


@dataclass(frozen=True)
class Player:
    """A player's phrases by what they are played over, and the compass (MIDI numbers) they are kept in."""

    name: str
    phrases: Mapping[str, Sequence[str]]
    low: int
    high: int


@dataclass(frozen=True)
class Pair:
    """Two bars of a form: what they are called in a phrasebook, and the chords of each."""

    kind: str
    first: str
    second: str


def solo_of(player: Player, form: Sequence[Pair], choruses: int, bar: Fraction, fifths: int, start: int = 0) -> Written:
    """Notes and chords of so many choruses, the player's phrases of each kind in turn from number ``start`` on.

    ``fifths`` is that of the key, for spelling. Raises ShorthandError for a phrase that does not fill its bars.
    """
    taken: dict[str, int] = {}
    bars: list[tuple[str, str]] = []
    pitch = (player.low + player.high) // 2
    for pair in [*form] * choruses:
        store = player.phrases[pair.kind]
        number = taken.get(pair.kind, start)
        taken[pair.kind] = number + 1
        # The second time through, the second bars are those of other phrases: nobody plays the same twice.
        answer = number + number // len(store)
        texts = store[number % len(store)].split(";")[0], store[answer % len(store)].split(";")[1]
        for chords, text in zip((pair.first, pair.second), texts, strict=True):
            written, pitch = _bar(text, chords.split(), bar, pitch, player, fifths)
            bars.append((chords, written))
    return write_out(bars, bar)


def _bar(text: str, chords: Sequence[str], bar: Fraction, pitch: int, player: Player, fifths: int) -> tuple[str, int]:
    """A bar in the shorthand of notes, and the last pitch in it."""
    onset, length, out = Fraction(0), Fraction(1, 2), []
    for token in text.split():
        match = _TOKEN.fullmatch(token)
        if match is None:
            raise ShorthandError(f"{token!r} is no degree")
        if match["length"]:
            length = Fraction(4, int(match["length"])) * _STRETCH[match["mod"]]
        size = f"/{Fraction(4) / (length / _STRETCH[_mod(length)])}{_mod(length)}"
        if match["degree"] == "r":
            out.append(f"r{size}")
        else:
            symbol = parse_chord_symbol(chords[min(len(chords) - 1, int(onset * len(chords) / bar))])
            assert isinstance(symbol, Chord)
            pitch = _placed(symbol, match["degree"], match["way"], pitch, player)
            out.append(f"{_named(symbol, match['degree'], pitch, fifths)}{size}{match['marks']}")
        onset += length
    if onset != bar:
        raise ShorthandError(f"{text.strip()!r} fills {onset} of {bar} quarter notes")
    return " ".join(out), pitch


def _mod(length: Fraction) -> str:
    """How a length is written: plain, dotted, or of a triplet."""
    if length.denominator % 3 == 0:
        return "t"
    return "." if length.numerator == 3 else ""


def _placed(chord: Chord, degree: str, way: str, before: int, player: Player) -> int:
    target = (chord.root.pitch_class + DEGREE_SEMITONES[degree]) % 12
    up = before + ((target - before) % 12 or 12)
    if way == "^":
        pitch = up
    elif way == "v":
        pitch = up - 12 if (target - before) % 12 else before - 12
    else:
        same = before if target == before % 12 else None
        pitch = same if same is not None else min((up, up - 12), key=lambda p: abs(p - before))
    while pitch > player.high:
        pitch -= 12
    while pitch < player.low:
        pitch += 12
    return pitch


def _named(chord: Chord, degree: str, pitch: int, fifths: int) -> str:
    """The pitch as it is written: by its degree, unless that would take a double accidental."""
    name: PitchName = chord.name_of(degree)
    if abs(name.alter) > 1 or name.pitch_class != pitch % 12:
        spelled = spell(pitch, fifths)
        return f"{spelled.letter}{_signs(spelled.alter)}{spelled.octave}"
    octave = (pitch - name.alter) // 12 - 1
    return f"{name.letter}{_signs(name.alter)}{octave}"


def _signs(alter: int) -> str:
    return "#" * alter if alter > 0 else "b" * -alter
