"""Lines composed for phrases and what comes back in them, marked by hand.

Among the notes ``,`` ends a phrase, ``[a`` and ``a]`` enclose an instance of the motif ``a``. ``LATER`` holds the
strong beats a teacher gives to a later note than the one that sounds there: line, bar, which beat, how many notes on.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from tests.conftest import make_solo

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo

Line = tuple[str, dict[str, Any], list[tuple[str, str]]]
"""Name, setting, and bars of chords and marked notes."""


@dataclass(frozen=True)
class Marked:
    """A line with its marks: the last note of each phrase, the instances of each motif, a note for each strong beat."""

    name: str
    solo: Solo
    ends: tuple[int, ...]
    motifs: dict[str, tuple[tuple[int, int], ...]]
    strong: tuple[int | None, ...]


def marked(line: Line) -> Marked:
    """A line with its marks read."""
    name, setting, bars = line
    ends: list[int] = []
    motifs: dict[str, list[tuple[int, int]]] = {}
    begun: dict[str, int] = {}
    plain: list[tuple[str, str]] = []
    count = 0
    for chords, text in bars:
        tokens = []
        for token in text.split():
            if token == ",":
                ends.append(count - 1)
            elif re.fullmatch(r"\[[a-z]", token):
                begun[token[1]] = count
            elif re.fullmatch(r"[a-z]\]", token):
                motifs.setdefault(token[0], []).append((begun.pop(token[0]), count - 1))
            else:
                tokens.append(token)
                count += not token.startswith("r")
        plain.append((chords, " ".join(tokens)))
    solo = make_solo(plain, **setting)
    return Marked(name, solo, tuple(ends), {key: tuple(found) for key, found in motifs.items()}, _strong(name, solo))


def _strong(name: str, solo: Solo) -> tuple[int | None, ...]:
    """The note that sounds on each strong beat, in a rest the first within an eighth; a later one where marked so."""
    kept: list[int | None] = []
    for bar in BarGrid(solo).bars:
        for number, beat in enumerate(beat for beat in bar.meter.beats if beat.strong):
            at = bar.onset + beat.offset
            there = [i for i, note in enumerate(solo.notes) if note.onset <= at < note.end]
            soon = [i for i, note in enumerate(solo.notes) if at <= note.onset <= at + Fraction(1, 2)]
            first = next(iter([*there, *soon]), None)
            kept.append(None if first is None else first + LATER.get((name, bar.number, number), 0))
    return tuple(kept)


FIRST: list[Line] = [
    (
        'swing in C', {'key': 'C major'},
        [
            ("Cmaj7", "[a E4/8 G4 A4 C5 B4/4 a] r/4"),
            ("A7", "[a E4/8 G4 A4 C#5 Bb4/4 a] r/4 ,"),
            ("Dm7", "[a F4/8 A4 C5 D5 C5/4 a] B4/8 A4"),
            ("G7", "G4/4 F4/8 D4 G4/2 ,"),
            ("Em7 A7", "[b B4/8 D5 G5/4 E5/4 b] r/8 C#5/8"),
            ("Dm7 G7", "[b A4/8 C5 F5/4 D5/4 b] r/8 B4/8"),
            ("Cmaj7", "C5/8 B4 A4 G4 E4/2 ,"),
            ("G7", "r/1"),
            ("Fmaj7", "[a A4/8 C5 D5 F5 E5/4 a] r/4"),
            ("Fm6", "[a Ab4/8 C5 D5 F5 Eb5/4 a] r/4 ,"),
            ("Em7", "D5/8 E5 G5 F#5 G5 E5 D5 B4"),
            ("A7", "C#5/4 A4/8 Bb4 A4/2 ,"),
            ("Dm7", "[c F5/8 E5 D5 C5 A4/4 c] r/4"),
            ("G7", "[c F5/8 Eb5 D5 B4 G4/4 c] r/4 ,"),
            ("C6", "E4/8 G4 C5 D5 E5/2"),
            ("C6", "C5/2 r/2 ,"),
        ],
    ),
    (
        'blues in F, riffs', {'key': 'F major', 'blues': True},
        [
            ("F7", "r/8 [r C5/8 Ab4 F4 r] r/2"),
            ("Bb7", "r/8 [r C5/8 Ab4 F4 r] r/4 D4/8 F4"),
            ("F7", "A4/8 C5 Eb5 D5 C5/2 ,"),
            ("F7", "r/2 r/8 A4/8 Bb4 B4"),
            ("Bb7", "C5/8 Ab4 F4 Ab4 Bb4/4 D5/4"),
            ("Bb7", "F5/8 D5 Db5 Bb4 Ab4/4 r/4 ,"),
            ("F7", "r/8 [r C5/8 Ab4 F4 r] r/2"),
            ("D7", "r/8 [r C5/8 A4 F#4 r] , r/4 Eb4/8 D4"),
            ("Gm7", "[s Bb4/8 D5 F5 A5 G5/4 s] r/4"),
            ("C7", "[s G4/8 Bb4 D5 F5 E5/4 s] r/4 ,"),
            ("F7", "C5/8 D5 F5 Ab5 F5 D5 C5 Ab4"),
            ("C7", "F4/2 r/2 ,"),
            ("F7", "r/8 [r C5/8 Ab4 F4 r] r/8 [r C5/8 Ab4 F4 r]"),
            ("Bb7", "D4/4 F4/8 Ab4 Bb4/2 ,"),
            ("F7", "Eb5/8 D5 C5 A4 F4 G4 A4 C5"),
            ("F7", "F5/4 r/4 r/2 ,"),
        ],
    ),
    (
        'waltz in G', {'key': 'G major', 'meter': '3/4'},
        [
            ("Gmaj7", "[w B4/4. A4/8 B4/4 w]"),
            ("Em7", "[w G4/4. F#4/8 G4/4 w]"),
            ("Am7", "[w E4/4. D4/8 E4/4 w]"),
            ("D7", "F#4/2. ,"),
            ("Bm7", "[w D5/4. C#5/8 D5/4 w]"),
            ("E7", "[w B4/4. A4/8 B4/4 w]"),
            ("Am7", "C5/8 B4 A4 G4 E4 C4"),
            ("D7", "D4/2. ,"),
            ("Gmaj7", "[v G4/8 B4 D5 G5 F#5 D5 v]"),
            ("Cmaj7", "[v C4/8 E4 G4 C5 B4 G4 v]"),
            ("F#m7b5", "[v F#4/8 A4 C5 F#5 E5 C5 v]"),
            ("B7", "D#5/2 r/4 ,"),
            ("Em7", "G5/4 F#5/8 E5 D5 B4"),
            ("A7", "C#5/4 B4/8 A4 G4 E4"),
            ("D7", "F#4/4 A4/4 C5/4"),
            ("G6", "B4/2. ,"),
        ],
    ),
    (
        'bebop in B flat, few rests', {'key': 'Bb major'},
        [
            ("Bbmaj7", "r/8 F4/8 A4 C5 D5 C5 Bb4 A4"),
            ("G7", "G4/8 B4 D5 F5 Ab5 G5 F5 Eb5"),
            ("Cm7", "D5/8 Eb5 G5 Bb5 A5 G5 F5 Eb5"),
            ("F7", "D5/8 C5 A4 C5 Eb5/4 , r/8 D5/8"),
            ("Dm7", "[p F5/8 D5 A4 F4 p] [p G5/8 E5 Bb4 G4 p]"),
            ("G7", "[p Ab5/8 F5 B4 Ab4 p] G4/8 B4 D5 F5"),
            ("Cm7", "Eb5/8 D5 C5 Bb4 G4 Eb4 F4 G4"),
            ("F7", "A4/4 r/4 r/2 ,"),
            ("Bb7", "r/8 D5/8 F5 Ab5 G5 F5 D5 Bb4"),
            ("Ebmaj7", "G4/8 Bb4 D5 F5 Eb5 D5 Bb4 G4"),
            ("Ebm7", "Gb4/8 Bb4 Db5 F5 Eb5 Db5 Bb4 Gb4"),
            ("Ab7", "F4/8 Ab4 C5 Eb5 Gb5/4 r/4 ,"),
            ("Bbmaj7", "F5/8 D5 Bb4 A4 Bb4 D5 F5 A5"),
            ("G7", "Ab5/8 G5 F5 D5 B4 G4 Ab4 B4"),
            ("Cm7 F7", "C5/8 Eb5 G5 Bb5 A5 F5 Eb5 C5"),
            ("Bb6", "D5/4 Bb4/4 r/2 ,"),
        ],
    ),
    (
        'modal in D, sparse then busy', {'key': 'D minor', 'mode': 'dorian'},
        [
            ("Dm7", "[m D5/4 C5/8 A4 m] r/2"),
            ("Dm7", "[m D5/4 C5/8 G4 m] r/2 ,"),
            ("Dm7", "F4/8 G4 A4 C5 D5/2"),
            ("Dm7", "r/1 ,"),
            ("Dm7", "[m A5/4 G5/8 E5 m] r/2"),
            ("Dm7", "[m A5/4 G5/8 D5 m] r/2 ,"),
            ("Dm7", "C5/8 D5 F5 G5 A5/4 G5/4"),
            ("Dm7", "E5/2 r/2 ,"),
            ("Ebm7", "[n Eb5/8 Gb5 F5 Db5 n] [n Eb5/8 Gb5 F5 Db5 n]"),
            ("Ebm7", "[n Bb4/8 Db5 C5 Ab4 n] [n Bb4/8 Db5 C5 Ab4 n]"),
            ("Ebm7", "Gb4/8 Ab4 Bb4 Db5 Eb5 F5 Gb5 Ab5"),
            ("Ebm7", "Bb5/2 r/2 ,"),
            ("Dm7", "[m D5/4 C5/8 A4 m] r/2"),
            ("Dm7", "[m D5/4 C5/8 G4 m] , r/4 F4/8 G4"),
            ("Dm7", "A4/4 C5/4 D5/4 E5/4"),
            ("Dm7", "D5/1 ,"),
        ],
    ),
    (
        'bossa in E minor, syncopated', {'key': 'E minor'},
        [
            ("Em7", "[q E4/8 G4/4 B4/8 D5/4 B4/4 q]"),
            ("Em7", "A4/8 B4/4. r/2 ,"),
            ("F#m7b5", "[q F#4/8 A4/4 C5/8 E5/4 C5/4 q]"),
            ("B7", "B4/8 A4/4. r/2 ,"),
            ("Em7", "[q G4/8 B4/4 D5/8 F#5/4 D5/4 q]"),
            ("A7", "C#5/8 E5/4 G5/8 F#5/4 E5/4"),
            ("Dmaj7", "D5/4. C#5/8 A4/4 F#4/4"),
            ("G7", "F4/2 r/2 ,"),
            ("Cmaj7", "[x E5/8 D5 E5/4 C5/4 r/4 x]"),
            ("F#m7b5", "[x A4/8 G4 A4/4 F#4/4 r/4 x] ,"),
            ("B7", "[x D#5/8 C5 D#5/4 B4/4 r/4 x]"),
            ("Em7", "G4/8 A4 B4 D5 E5/2 ,"),
            ("Am7", "C5/4. B4/8 A4/4 E4/4"),
            ("D7", "F#4/4. A4/8 C5/4 E5/4"),
            ("Gmaj7", "D5/8 B4/4. r/4 F#4/4"),
            ("B7", "D#4/2 r/2 ,"),
        ],
    ),
    (
        'five four in G minor', {'key': 'G minor', 'meter': '5/4', 'grouping': '3+2'},
        [
            ("Gm7", "[k G4/4 Bb4/8 D5 F5/4 D5/4 r/4 k]"),
            ("C7", "[k E4/4 G4/8 Bb4 D5/4 Bb4/4 r/4 k] ,"),
            ("Gm7", "[k D5/4 F5/8 G5 Bb5/4 G5/4 r/4 k]"),
            ("C7", "A5/8 G5 E5 C5 Bb4/4 G4/4 r/4 ,"),
            ("Ebmaj7", "G4/8 Bb4 D5 F5 Eb5 D5 Bb4 G4 F4/4"),
            ("D7", "F#4/8 A4 C5 Eb5 D5 C5 A4 F#4 D4/4 ,"),
            ("Gm7", "Bb4/2 A4/4 G4/4 D4/4"),
            ("Gm7", "F4/2. r/2 ,"),
            ("Cm7", "[k C5/4 Eb5/8 G5 Bb5/4 G5/4 r/4 k]"),
            ("F7", "[k A4/4 C5/8 Eb5 G5/4 Eb5/4 r/4 k] ,"),
            ("Bbmaj7", "D5/8 C5 Bb4 A4 F4/4 D4/4 Bb3/4"),
            ("Ebmaj7", "G4/2. r/2 ,"),
            ("Am7b5", "C5/4 A4/8 C5 Eb5/4 G5/4 F5/4"),
            ("D7", "Eb5/4 C5/8 A4 F#4/4 A4/4 C5/4"),
            ("Gm7", "Bb4/8 A4 G4 F4 D4/4 G4/2"),
            ("Gm7", "r/2. r/2 ,"),
        ],
    ),
    (
        'slow blues in twelve, C', {'key': 'C major', 'blues': True, 'meter': '12/8'},
        [
            ("C7", "r/8 G4/8 Bb4 C5/4. r/8 Eb5/8 C5 Bb4/4. ,"),
            ("F7", "r/8 [y A4/8 C5 Eb5/4. y] r/8 [y A4/8 C5 D5/4. y]"),
            ("C7", "C5/8 Bb4 G4 E4/4. r/4. r/4. ,"),
            ("C7", "r/4. r/4. r/8 C5/8 D5 Eb5/8 E5 G5"),
            ("F7", "A5/8 G5 F5 Eb5/4. C5/8 D5 C5 A4/4. ,"),
            ("F#dim7", "r/8 [y A4/8 C5 Eb5/4. y] r/8 [y A4/8 C5 F#5/4. y]"),
            ("C7", "G5/8 E5 C5 Bb4/4. G4/4. r/4. ,"),
            ("A7", "r/8 C#5/8 E5 G5/8 Bb5 G5 E5/8 C#5 Bb4 A4/4."),
            ("Dm7", "F5/8 D5 A4 F4/4. r/8 A4/8 C5 E5/4. ,"),
            ("G7", "D5/8 B4 G4 F4/4. r/8 G4/8 B4 D5/4."),
            ("C7", "Eb5/8 C5 Bb4 G4/4. C4/4. r/4. ,"),
            ("G7", "r/1."),
            ("C7", "r/8 G4/8 Bb4 C5/4. r/8 Eb5/8 C5 Bb4/4. ,"),
            ("F7", "r/8 [y A4/8 C5 Eb5/4. y] r/8 [y A4/8 C5 D5/4. y]"),
            ("C7", "C5/8 Bb4 G4 E4/4. Eb4/8 E4 G4 Bb4/4."),
            ("C7", "C5/2. r/2. ,"),
        ],
    ),
    (
        'ballad in A flat, long notes', {'key': 'Ab major'},
        [
            ("Abmaj7", "C5/2 Eb5/4 G5/4"),
            ("Fm7", "F5/4. Eb5/8 C5/2 ,"),
            ("Bbm7", "[z Db5/4 C5/8 Bb4 F4/2 z]"),
            ("Eb7", "[z G4/4 F4/8 Eb4 Bb3/2 z] ,"),
            ("Cm7", "r/4 Eb4/8 G4 Bb4/4 D5/4"),
            ("F7", "Eb5/4. C5/8 A4/2 ,"),
            ("Bbm7", "[z F5/4 Eb5/8 Db5 Bb4/2 z]"),
            ("Eb7", "[z Db5/4 C5/8 Bb4 G4/2 z] ,"),
            ("Abmaj7", "Ab4/8 C5 Eb5 G5 F5 Eb5 C5 Bb4"),
            ("Dbmaj7", "Ab4/4 F4/4 C5/2 ,"),
            ("Dm7b5", "[z Ab5/4 F5/8 D5 C5/2 z]"),
            ("G7", "[z F5/4 D5/8 B4 Ab4/2 z] ,"),
            ("Cm7", "G4/4 C5/8 D5 Eb5/4 G5/4"),
            ("Bbm7 Eb7", "F5/8 Db5 Bb4 Ab4 G4/4 Db5/4"),
            ("Ab6", "C5/2. Eb5/4"),
            ("Ab6", "Ab4/1 ,"),
        ],
    ),
    (
        'hard bop in C minor, over the bar line', {'key': 'C minor'},
        [
            ("Cm7", "r/2 r/8 G4/8 C5 D5"),
            ("Cm7", "Eb5/8 D5 C5 G4 Bb4/4 , r/8 C5/8"),
            ("Fm7", "Ab4/8 C5 Eb5 G5 F5/4 r/8 Eb5/8"),
            ("Fm7", "D5/8 C5 Ab4 F4 G4/4 r/4 ,"),
            ("Dm7b5", "r/8 [t F4/8 Ab4 C5 Eb5/4 t] r/4"),
            ("G7", "r/8 [t D4/8 F4 Ab4 B4/4 t] r/4 ,"),
            ("Cm7", "[u Eb5/8 G5 F5 Eb5 u] [u D5/8 F5 Eb5 D5 u]"),
            ("Cm7", "[u C5/8 Eb5 D5 C5 u] G4/4 r/4 ,"),
            ("Ab7", "r/8 [t Ab4/8 C5 Eb5 Gb5/4 t] r/4"),
            ("G7", "r/8 [t G4/8 B4 D5 F5/4 t] r/4 ,"),
            ("Cm7", "Eb5/8 C5 G4 Eb4 D4 F4 G4 Bb4"),
            ("F7", "A4/8 C5 Eb5 G5 F5 Eb5 C5 A4"),
            ("Bbm7", "Db5/8 F5 Ab5 F5 Db5 Bb4 Ab4 F4"),
            ("Eb7", "G4/4 Bb4/4 r/2 ,"),
            ("Dm7b5 G7", "F5/8 D5 C5 Ab4 G4 B4 D5 F5"),
            ("Cm6", "Eb5/4 C5/4 r/2 ,"),
        ],
    ),
    (
        'rock in A, two-bar calls', {'key': 'A major'},
        [
            ("A", "[h A4/8 B4 C#5 E5/4. r/4 h]"),
            ("D", "F#5/8 E5 D5/4 r/2 ,"),
            ("A", "[h A4/8 B4 C#5 E5/4. r/4 h]"),
            ("E", "D5/8 B4 G#4/4 r/2 ,"),
            ("F#m", "[h F#4/8 G#4 A4 C#5/4. r/4 h]"),
            ("D", "D5/8 C#5 A4/4 r/2 ,"),
            ("Bm", "D5/4 C#5/8 B4 A4 F#4 A4 B4"),
            ("E", "G#4/2 r/2 ,"),
            ("A", "E5/8 C#5 A4 C#5 E5 C#5 A4 C#5"),
            ("D", "F#5/8 D5 A4 D5 F#5 D5 A4 D5"),
            ("A", "E5/8 C#5 A4 C#5 E5/2"),
            ("E", "r/1 ,"),
            ("A", "[h A4/8 B4 C#5 E5/4. r/4 h]"),
            ("D", "F#5/8 E5 D5 C#5 A4/4 r/4 ,"),
            ("E", "B4/8 C#5 D5 E5 G#5 F#5 E5 D5"),
            ("A", "C#5/2 A4/2 ,"),
        ],
    ),
    (
        'swing in E flat, triplets and sequences', {'key': 'Eb major'},
        [
            ("Ebmaj7", "G4/8t Bb4 D5 F5/4 Eb5/8 D5 Bb4/4"),
            ("Cm7", "r/4 [g Eb5/8 D5 C5 G4 g] r/4"),
            ("Fm7", "r/4 [g Ab4/8 G4 F4 C4 g] r/4 ,"),
            ("Bb7", "D4/8t F4 Ab4 C5/4 Bb4/8 Ab4 F4/4"),
            ("Gm7", "r/4 [g Bb4/8 A4 G4 D4 g] r/4"),
            ("C7", "r/4 [g Bb4/8 G4 E4 Db4 g] r/4 ,"),
            ("Fm7", "C5/8 Ab4 F4 G4 Ab4 C5 Eb5 G5"),
            ("Bb7", "F5/4 D5/4 r/2 ,"),
            ("Eb7", "Db5/8t Bb4 G4 Eb4/4 r/2"),
            ("Abmaj7", "C5/8t Ab4 Eb4 C4/4 r/2 ,"),
            ("Abm7", "Eb5/8 Cb5 Ab4 Gb4 Ab4 Cb5 Eb5 Gb5"),
            ("Db7", "F5/8 Eb5 Db5 Cb5 Ab4/4 r/4 ,"),
            ("Ebmaj7", "G4/8 Bb4 Eb5 G5 F5 Eb5 D5 Bb4"),
            ("C7", "Db5/8 C5 Bb4 G4 E4 G4 Bb4 Db5"),
            ("Fm7 Bb7", "C5/8 Ab4 F4 Ab4 G4 F4 D4 Bb3"),
            ("Eb6", "Eb4/4 r/4 r/2 ,"),
        ],
    ),
]  # fmt: skip
"""Marked before there was a program; then it was tuned on them."""

SECOND: list[Line] = [
    (
        'swing in G, answers', {'key': 'G major'},
        [
            ("Gmaj7", "r/4 [a D5/8 B4 G4 A4 B4/4 a]"),
            ("E7", "r/2 G#4/8 B4 D5/4 ,"),
            ("Am7", "r/4 [a E5/8 C5 A4 B4 C5/4 a]"),
            ("D7", "r/2 F#4/8 A4 C5/4 ,"),
            ("Gmaj7", "B4/8 C5 D5 E5 F#5 D5 B4 G4"),
            ("Em7", "E4/8 G4 B4 D5 C#5/4 B4/4"),
            ("A7", "[b A4/8 C#5 E5 G5 F#5/4 E5/4 b]"),
            ("D7", "[b F#4/8 A4 C5 E5 D5/4 C5/4 b] ,"),
            ("G7", "r/4 [a D5/8 B4 G4 A4 B4/4 a] ,"),
            ("G7", "r/2 F4/8 G4 A4 B4"),
            ("Cmaj7", "C5/4 E5/8 G5 F#5 E5 D5 C5"),
            ("Cm6", "Eb5/4 D5/8 C5 A4/2 ,"),
            ("Bm7", "r/8 [c D5/8 F#5 D5 B4/4 c] r/4"),
            ("Am7 D7", "r/8 [c C5/8 E5 C5 A4/4 c] r/4"),
            ("Gmaj7", "G4/8 A4 B4 D5 E5 D5 B4 A4"),
            ("G6", "G4/2 r/2 ,"),
        ],
    ),
    (
        'minor blues in D, three calls', {'key': 'D minor', 'blues': True},
        [
            ("Dm7", "[a A4/8 C5 D5/4 F5/8 D5/4. a] ,"),
            ("Dm7", "r/2 r/4 C5/8 A4"),
            ("Dm7", "[a A4/8 C5 D5/4 F5/8 D5/4. a] ,"),
            ("D7", "r/2 F#4/8 A4 C5 Eb5"),
            ("Gm7", "[a D5/8 F5 G5/4 Bb5/8 G5/4. a]"),
            ("Gm7", "F5/8 D5 Bb4 G4 A4/4 r/4 ,"),
            ("Dm7", "F4/8 A4 C5 E5 D5 C5 A4 F4"),
            ("Dm7", "D4/2 r/2 ,"),
            ("Bb7", "[e F5/8 D5 Bb4 Ab4 e] [e F5/8 D5 Bb4 Ab4 e]"),
            ("A7", "[e E5/8 C#5 A4 G4 e] [e E5/8 C#5 A4 G4 e]"),
            ("Dm7", "F4/8 G4 A4 C5 D5/2 ,"),
            ("A7", "r/1"),
            ("Dm7", "[a A4/8 C5 D5/4 F5/8 D5/4. a]"),
            ("Gm7", "Bb4/8 D5 F5/4 E5/8 D5 Bb4 G4 ,"),
            ("A7", "C#5/4 Bb4/8 A4 G4/4 E4/4"),
            ("Dm6", "F4/2 D4/2 ,"),
        ],
    ),
    (
        'bebop in F, long runs', {'key': 'F major'},
        [
            ("Fmaj7", "r/4 A4/8 C5 E5 G5 F5 E5"),
            ("Em7b5 A7", "D5/8 Bb4 G4 E4 C#4 E4 G4 Bb4"),
            ("Dm7", "A4/8 F4 D4 F4 A4/4 , r/8 G4/8"),
            ("Cm7 F7", "[a Eb4/8 G4 Bb4 D5 a] C5/8 A4 F4 Eb4"),
            ("Bb7", "[a D4/8 F4 Ab4 C5 a] Bb4/8 G4 E4 D4"),
            ("Am7", "[a C4/8 E4 G4 B4 a] A4/8 G4 F4 E4"),
            ("Abm7", "Eb4/8 Gb4 Cb5 Eb5 Db5/4 r/4 ,"),
            ("Gm7", "D5/8 C5 Bb4 A4 G4 Bb4 D5 F5"),
            ("C7", "E5/8 Db5 Bb4 G4 E4 F4 G4 Bb4"),
            ("Fmaj7", "A4/8 C5 F5 A5 G5 E5 C5 Bb4"),
            ("D7", "A4/4 F#4/4 r/2 ,"),
            ("Gm7", "r/8 [q Bb4/8 D5 Bb4 A4/4 q] r/8 [q G4/8"),
            ("C7", "Bb4/8 G4 F4/4 q] r/8 E4/8 G4 Bb4"),
            ("Am7", "C5/8 E5 G5 E5 C5 A4 G4 E4"),
            ("Gm7 C7", "F4/8 G4 Bb4 D5 C5 Bb4 G4 E4"),
            ("F6", "F4/2 r/2 ,"),
        ],
    ),
    (
        'jazz waltz in B flat minor', {'key': 'F minor', 'meter': '3/4'},
        [
            ("Bbm7", "[a F4/8 Ab4 Bb4/4 Db5/4 a]"),
            ("Eb7", "[a G4/8 Bb4 Db5/4 F5/4 a]"),
            ("Abmaj7", "Eb5/4. C5/8 Ab4/4"),
            ("Abmaj7", "G4/2. ,"),
            ("Am7b5", "[a Eb4/8 G4 A4/4 C5/4 a]"),
            ("D7", "[a F#4/8 A4 C5/4 Eb5/4 a]"),
            ("Gm7", "D5/4. Bb4/8 G4/4"),
            ("C7", "E4/2. ,"),
            ("Fm7", "[b C5/8 Ab4 F4 Ab4 C5/4 b]"),
            ("Bbm7", "[b Db5/8 Bb4 F4 Bb4 Db5/4 b]"),
            ("Gm7b5", "[b Bb4/8 G4 Db4 G4 Bb4/4 b]"),
            ("C7", "C5/4 r/2 ,"),
            ("Fm7", "Ab4/8 C5 Eb5/4 G5/4"),
            ("Db7", "F5/8 Db5 Cb5/4 Ab4/4"),
            ("C7", "G4/8 Bb4 Db5 Bb4 G4 E4"),
            ("Fm6", "F4/2. ,"),
        ],
    ),
    (
        'bossa in D, two-bar cells', {'key': 'D major'},
        [
            ("Dmaj7", "F#4/4. A4/8 [a C#5/4 B4/8 A4"),
            ("B7", "D#5/4. a] , r/8 r/4 B4/4"),
            ("Em7", "G4/4. B4/8 [a D5/4 C#5/8 B4"),
            ("A7", "E5/4. a] , r/8 r/4 C#5/4"),
            ("F#m7", "A4/8 C#5/4 E5/8 D5/4 C#5/4"),
            ("B7", "B4/8 D#5/4 F#5/8 E5/4 D#5/4"),
            ("Em7", "G5/4 F#5/8 E5 B4/4 G4/4"),
            ("A7", "A4/2 r/2 ,"),
            ("D7", "[d A4/8 C5 A4 F#4/4. r/4 d]"),
            ("Gmaj7", "[d B4/8 D5 B4 G4/4. r/4 d] ,"),
            ("Gm6", "[d Bb4/8 D5 Bb4 G4/4. r/4 d]"),
            ("F#m7", "A4/8 C#5 E5/4 C#5/2 ,"),
            ("B7", "r/8 D#5/8 F#5 A5 G5 F#5 D#5 B4"),
            ("Em7", "G4/8 B4 D5 F#5 E5/4 D5/4"),
            ("A7", "C#5/8 E5 G5 Bb5 A5 G5 E5 C#5"),
            ("D6", "D5/2 r/2 ,"),
        ],
    ),
    (
        'funk in E, sixteenths', {'key': 'E major', 'blues': True},
        [
            ("E7", "[a E4/16 G4 A4 Bb4 B4/8 r/8 a] [a E4/16 G4 A4 Bb4 B4/8 r/8 a]"),
            ("E7", "D5/8 B4 A4/16 G4 E4/8 r/2 ,"),
            ("E7", "[a E4/16 G4 A4 Bb4 B4/8 r/8 a] [a E4/16 G4 A4 Bb4 B4/8 r/8 a]"),
            ("E7", "E5/8 D5 B4/16 A4 G4/8 E4/4 r/4 ,"),
            ("A7", "[b C#5/16 E5 G5 E5 A5/8 G5 b] r/2"),
            ("A7", "[b C#5/16 E5 G5 E5 F#5/8 E5 b] r/2 ,"),
            ("E7", "B4/16 D5 E5 G5 F#5/8 E5 D5/16 B4 A4 G4 E4/4"),
            ("E7", "r/1 ,"),
            ("C7", "G4/8 Bb4 C5 E5 D5 C5 Bb4 G4"),
            ("B7", "F#4/8 A4 B4 D#5 C#5 B4 A4 F#4 ,"),
            ("E7", "[a E4/16 G4 A4 Bb4 B4/8 r/8 a] r/2"),
            ("E7", "G#4/8 B4 D5/4 r/2 ,"),
            ("A7", "C#5/8 A4 G4 E4 G4/4 A4/4"),
            ("B7", "D#5/8 B4 A4 F#4 A4/4 B4/4 ,"),
            ("E7", "E5/16 D5 B4 A4 G4/8 A4 B4 D5 E5 G5"),
            ("E7", "E5/2 r/2 ,"),
        ],
    ),
]  # fmt: skip
"""Marked after that and measured at first sight; now tuned on too."""

THIRD: list[Line] = [
    (
        'rhythm changes in B flat, pickups', {'key': 'Bb major'},
        [
            ("Bbmaj7 G7", "r/4 [a Bb4/8 D5 F5/4 r/8 D5/8"),
            ("Cm7 F7", "Eb5/8 C5 A4/4 a] , r/4 r/8 F4/8"),
            ("Bbmaj7 G7", "[b Bb4/8 C5 D5 F5 Ab5 G5 F5 D5"),
            ("Cm7 F7", "Eb5/8 C5 A4 F4 b] G4/4 r/4 ,"),
            ("Bb7", "r/4 [a Ab4/8 D5 F5/4 r/8 D5/8"),
            ("Ebmaj7 Ab7", "G5/8 Eb5 C5/4 a] , r/4 r/8 C5/8"),
            ("Bbmaj7 G7", "D5/8 F5 A5 G5 F5 D5 B4 Ab4"),
            ("Cm7 F7", "G4/4 F4/4 r/2 ,"),
            ("D7", "[c F#5/4 E5/8 F#5 D5/2 c]"),
            ("D7", "C5/8 A4 F#4 A4 C5/4 r/4 ,"),
            ("G7", "[c B4/4 A4/8 B4 G4/2 c]"),
            ("G7", "F5/8 D5 B4 D5 F5/4 r/4 ,"),
            ("C7", "[c E5/4 D5/8 E5 C5/2 c]"),
            ("C7", "Bb4/8 G4 E4 G4 Bb4/4 r/8 G4/8 ,"),
            ("F7", "A4/8 C5 Eb5 G5 F5 Eb5 C5 A4"),
            ("Bb6", "Bb4/2 r/2 ,"),
        ],
    ),
    (
        'six eight in A minor', {'key': 'A minor', 'meter': '6/8'},
        [
            ("Am7", "[a E5/4. C5/8 D5 E5 a]"),
            ("Dm7", "[a F5/4. D5/8 E5 F5 a]"),
            ("G7", "G5/4 F5/8 E5 D5 B4"),
            ("Cmaj7", "C5/4. r/4. ,"),
            ("Fmaj7", "[a A4/4. F4/8 G4 A4 a]"),
            ("Bm7b5", "[a B4/4. G4/8 A4 B4 a]"),
            ("E7", "D5/4 C5/8 B4 G#4 E4"),
            ("Am7", "A4/4. r/4. ,"),
            ("Dm7", "[b D5/8 F5 A5 G5/4 F5/8 b]"),
            ("G7", "[b B4/8 D5 F5 E5/4 D5/8 b]"),
            ("Cmaj7", "[b G4/8 B4 D5 C5/4 B4/8 b]"),
            ("Fmaj7", "A4/4. r/8 C5/8 B4 ,"),
            ("Bm7b5", "A4/8 D5 F5 A5/4."),
            ("E7", "G#5/8 F5 D5 B4/4."),
            ("Am7", "C5/4 E5/8 D5 B4 G#4"),
            ("Am6", "A4/4. r/4. ,"),
        ],
    ),
    (
        'shuffle blues in A, sixteen bars', {'key': 'A major', 'blues': True},
        [
            ("A7", "[a C5/8 C#5 E5 A5 G5 E5 C#5 A4 a]"),
            ("A7", "r/4 G4/8 A4 C5/4 A4/4 ,"),
            ("A7", "[a C5/8 C#5 E5 A5 G5 E5 C#5 A4 a]"),
            ("A7", "r/4 E4/8 G4 A4/2 ,"),
            ("D7", "[a F4/8 F#4 A4 D5 C5 A4 F#4 D4 a]"),
            ("D7", "r/4 C5/8 D5 F5/4 D5/4 ,"),
            ("A7", "[q E5/8 G5 E5/4 C#5/8 E5 C#5/4 q]"),
            ("A7", "A4/2 r/2 ,"),
            ("E7", "[q B4/8 D5 B4/4 G#4/8 B4 G#4/4 q]"),
            ("D7", "[q A4/8 C5 A4/4 F#4/8 A4 F#4/4 q]"),
            ("A7", "E4/8 G4 A4 C5 C#5 A4 E4 G4"),
            ("E7", "A4/2 r/2 ,"),
            ("A7", "r/8 [z E5/8 C5 A4 G4/4 z] r/8 [z E5/8"),
            ("D7", "C5/8 A4 F#4/4 z] r/2 ,"),
            ("A7", "C5/8 C#5 E5 G5 A5 G5 E5 C#5"),
            ("A7", "A4/2 r/2 ,"),
        ],
    ),
    (
        'ballad in D flat, breathing', {'key': 'Db major'},
        [
            ("Dbmaj7", "r/4 F5/8 Ab5 C6/4 Bb5/4"),
            ("Bbm7", "Ab5/4. F5/8 Db5/2 ,"),
            ("Ebm7", "r/4 [a Gb4/8 Bb4 Db5/4 F5/4 a]"),
            ("Ab7", "Eb5/4. C5/8 Ab4/2 ,"),
            ("Fm7", "r/4 [a Ab4/8 C5 Eb5/4 G5/4 a]"),
            ("Bb7", "F5/4 D5/8 Bb4 Ab4/2 ,"),
            ("Ebm7", "r/8 Gb4/8 Bb4 Db5 F5 Eb5 Db5 Bb4"),
            ("Ab7", "C5/8 Eb5 Gb5/4 F5/2 ,"),
            ("Dbmaj7", "[s F5/8 Eb5 Db5/4 Ab4/2 s]"),
            ("Gbmaj7", "[s Bb4/8 Ab4 Gb4/4 Db4/2 s] ,"),
            ("Gm7b5", "r/4 G4/8 Bb4 Db5/4 F5/4"),
            ("C7", "E5/4. Db5/8 Bb4/4 r/4 ,"),
            ("Fm7", "Ab4/8 C5 Eb5 G5 F5 Eb5 C5 Ab4"),
            ("Ebm7 Ab7", "Gb4/4 Bb4/4 C5/4 Eb5/4"),
            ("Db6", "F5/2. Ab5/4"),
            ("Db6", "Db5/1 ,"),
        ],
    ),
    (
        'post bop in F minor, displaced cells', {'key': 'F minor'},
        [
            ("Fm7", "[a C5/8 Eb5 F5/8 r/8 a] r/8 [a C5/8 Eb5 F5/8 a]"),
            ("Fm7", "r/8 [a C5/8 Eb5 F5/8 a] r/4 r/4 ,"),
            ("Dbmaj7", "Ab4/8 C5 F5 Eb5 C5 Ab4 F4 Eb4"),
            ("Dbmaj7", "F4/4. r/8 r/2 ,"),
            ("Bm7", "[b D5/8 F#5 E5 C#5 b] [b B4/8 D5 C#5 A4 b]"),
            ("E7", "[b G#4/8 B4 A4 F#4 b] E4/8 F#4 G#4 B4"),
            ("Fm7", "C5/4 Ab4/8 C5 Eb5/4. F5/8"),
            ("Fm7", "G5/4 r/4 r/2 ,"),
            ("Bbm7", "[d F5/4 Db5/8 F5/8 r/8 Db5/4. d]"),
            ("Eb7", "[d G5/4 Eb5/8 G5/8 r/8 Eb5/4. d] ,"),
            ("Abmaj7", "C5/8 Eb5 G5 Bb5 Ab5 G5 Eb5 C5"),
            ("Dbmaj7", "F4/2 r/2 ,"),
            ("Gm7b5", "r/8 Bb4/8 Db5 F5 Eb5 Db5 Bb4 G4"),
            ("C7", "E4/8 G4 Bb4 Db5 C5/4 r/4 ,"),
            ("Fm7", "Ab4/8 G4 F4 C5 Ab4 G4 F4 Eb4"),
            ("Fm6", "F4/2 r/2 ,"),
        ],
    ),
    (
        'samba in G, long phrases', {'key': 'G major'},
        [
            ("Gmaj7", "D5/8 B4 G4/4 A4/8 B4/4 D5/8"),
            ("Gmaj7", "F#5/4 E5/8 D5 B4/4 A4/4"),
            ("Am7", "C5/8 A4 E4/4 G4/8 A4/4 C5/8"),
            ("D7", "B4/4 A4/8 F#4 D4/2 ,"),
            ("Bm7", "[a D5/8 F#5/4 A5/8 F#5/4 D5/4 a]"),
            ("E7", "[a B4/8 D5/4 F5/8 D5/4 B4/4 a]"),
            ("Am7", "[a C5/8 E5/4 G5/8 E5/4 C5/4 a]"),
            ("D7", "A4/4 F#4/4 r/2 ,"),
            ("G7", "r/8 F4/8 A4 B4 D5/4 F5/4"),
            ("Cmaj7", "E5/8 D5 C5 B4 G4/4 E4/4"),
            ("Cm7", "Eb4/8 G4 Bb4 D5 C5/4 Bb4/4"),
            ("F7", "A4/2. r/4 ,"),
            ("Bm7 E7", "r/4 [k D5/8 B4 F#4/4 k] r/8 B4/8"),
            ("Am7 D7", "r/4 [k C5/8 A4 E4/4 k] r/8 A4/8 ,"),
            ("Gmaj7", "B4/8 D5 F#5 A5 G5 F#5 D5 B4"),
            ("G6", "G4/2 r/2 ,"),
        ],
    ),
]  # fmt: skip
"""Marked before the program saw them; looked at since, so tuned on a little."""

FOURTH: list[Line] = [
    (
        "swing in D minor, questions and answers",
        {"key": "D minor"},
        [
            ("Dm6", "[a A4/8 D5 E5 F5 E5/4. a] D5/8"),
            ("Dm6", "A4/4 r/4 r/2 ,"),
            ("Em7b5", "[a G4/8 D5 E5 F5 E5/4. a] D5/8"),
            ("A7", "C#5/4 r/4 r/2 ,"),
            ("Dm6", "r/8 [b F5/8 D5 A4 Bb4/4 b] r/8 F4/8"),
            ("D7", "r/8 [b F#5/8 D5 A4 C5/4 b] r/8 Bb4/8"),
            ("Gm7", "[c Bb4/8 D5 F5 A5 G5 F5 c] Eb5 D5"),
            ("C7", "C5/8 Bb4 G4 E4 G4/2 ,"),
            ("Fmaj7", "[c A4/8 C5 E5 G5 F5 E5 c] D5 C5"),
            ("Bbmaj7", "A4/8 F4 D4 F4 A4/2 ,"),
            ("Em7b5", "[a G4/8 D5 E5 F5 E5/4. a] D5/8"),
            ("A7", "Bb4/8 G4 E4 C#4 E4/4 r/4 ,"),
            ("Dm6", "r/4 D4/8 E4 F4 A4 D5 E5"),
            ("Gm7", "F5/8 D5 Bb4 G4 A4/4 Bb4"),
            ("Em7b5 A7", "G4/8 Bb4 D5 E5 C#5 A4 G4 E4"),
            ("Dm6", "D4/2 r/2 ,"),
        ],
    ),
    (
        "blues in B flat, three against four",
        {"key": "Bb major", "blues": True},
        [
            ("Bb7", "[r D5/8 F5 Bb4/4 r] r/4 [r D5/8 F5"),
            ("Eb7", "Bb4/4 r] r/4 [r Db5/8 F5 Bb4/4 r] ,"),
            ("Bb7", "F4/8 Ab4 Bb4 D5 F5 D5 Bb4 Ab4"),
            ("Bb7", "G4/4 F4/8 Ab4 Bb4/2 ,"),
            ("Eb7", "[s G4/8 Bb4 Db5 Eb5/4. Db5/4 s]"),
            ("Edim7", "[s G4/8 Bb4 Db5 E5/4. Db5/4 s] ,"),
            ("Bb7", "r/4 F5/8 E5 Eb5 D5 Db5 C5"),
            ("G7", "B4/8 D5 F5 Ab5 G5/4 r/4 ,"),
            ("Cm7", "[t Eb5/8 C5 G4 Bb4/4. t] r/4"),
            ("F7", "[t Eb5/8 C5 A4 G4/4. t] r/4 ,"),
            ("Bb7 G7", "[r D5/8 F5 Bb4/4 r] [r B4/8 D5 G4/4 r]"),
            ("Cm7 F7", "[r Eb5/8 G5 C5/4 r] A4/4 r/4 ,"),
            ("Bb7", "D4/8 F4 Ab4 C5 Bb4/2"),
            ("Eb7", "r/8 G4/8 Bb4 Db5 F5 Eb5 Db5 Bb4"),
            ("Bb7", "Ab4/8 F4 D4 F4 Ab4/4 Bb4/4"),
            ("Bb7", "F4/2 r/2 ,"),
        ],
    ),
    (
        "waltz in E flat, turning figures",
        {"key": "Eb major", "meter": "3/4"},
        [
            ("Ebmaj7", "[a G4/8 Bb4 Eb5/4 D5/4 a]"),
            ("Cm7", "[a G4/8 C5 Eb5/4 D5/4 a]"),
            ("Fm7", "C5/4. Bb4/8 Ab4/4"),
            ("Bb7", "F4/2 r/4 ,"),
            ("Ebmaj7", "[a G4/8 Bb4 Eb5/4 D5/4 a]"),
            ("C7", "[a G4/8 Bb4 E5/4 Db5/4 a]"),
            ("Fm7", "C5/4 Ab4/4 F4/4"),
            ("Bb7", "D4/2 r/4 ,"),
            ("Gm7", "[b Bb4/8 A4 Bb4 D5 F5/4 b]"),
            ("C7", "[b Bb4/8 A4 Bb4 C5 E5/4 b]"),
            ("Fm7", "[b Ab4/8 G4 Ab4 C5 Eb5/4 b]"),
            ("Bb7", "[b Ab4/8 G4 Ab4 Bb4 D5/4 b] ,"),
            ("Ebmaj7", "G5/4. F5/8 Eb5/8 D5"),
            ("Abmaj7", "C5/8 Bb4 Ab4 G4 F4 Eb4"),
            ("Fm7 Bb7", "Ab4/4 C5/4 D5/4"),
            ("Eb6", "Eb5/2. ,"),
        ],
    ),
    (
        "hard swing in A flat, long lines",
        {"key": "Ab major"},
        [
            ("Bbm7", "r/8 F4/8 Ab4 Db5 C5 Bb4 Ab4 F4"),
            ("Eb7", "[q G4/8 Bb4 A4 Bb4 q] Db5 F5 Eb5 Db5"),
            ("Abmaj7", "C5/8 Bb4 Ab4 G4 Eb4/4 r/4 ,"),
            ("F7", "r/8 A4/8 C5 Eb5 Gb5 Eb5 C5 A4"),
            ("Bbm7", "[q Db5/8 F5 E5 F5 q] Ab5 F5 Db5 Bb4"),
            ("Eb7", "C5/8 Bb4 G4 F4 G4/4 r/4 ,"),
            ("Cm7", "[d G4/8 Bb4 Eb5/4 C5/8 Bb4/4. d]"),
            ("F7", "[d A4/8 C5 Eb5/4 C5/8 A4/4. d] ,"),
            ("Bbm7", "Db5/8 C5 Bb4 Ab4 F4 Ab4 C5 Db5"),
            ("Gb7", "E5/8 Db5 Bb4 Ab4 Gb4 Ab4 Bb4 Db5"),
            ("Abmaj7", "[q C5/8 Eb5 D5 Eb5 q] G5 Eb5 C5 Ab4"),
            ("F7", "A4/4 Gb4/4 F4/4 r/4 ,"),
            ("Bbm7", "[e Db5/8 Bb4/4 F4/8 Ab4/4 e] r/4"),
            ("Eb7", "[e Bb4/8 G4/4 Db4/8 F4/4 e] r/4 ,"),
            ("Abmaj7", "Eb4/8 G4 Bb4 C5 Eb5 C5 Bb4 G4"),
            ("Ab6", "Ab4/2 r/2 ,"),
        ],
    ),
    (
        "even eighths in F sharp minor, open",
        {"key": "F# minor"},
        [
            ("F#m7", "[a C#5/4. B4/8 A4/4 F#4/4 a]"),
            ("F#m7", "r/1"),
            ("Dmaj7", "[a C#5/4. B4/8 A4/4 F#4/4 a]"),
            ("E7", "[a D5/4. C#5/8 B4/4 G#4/4 a] ,"),
            ("F#m7", "r/8 [k F#4/8 A4 B4 C#5/4 k] r/4"),
            ("F#m7", "r/8 [k F#4/8 A4 B4 C#5/4 k] E5/4"),
            ("Dmaj7", "C#5/2 A4/2 ,"),
            ("E7", "r/2 [k E4/8 G#4 A4 B4/8 k]"),
            ("Bm7", "r/8 D5/8 C#5 B4 A4 F#4 E4 D4"),
            ("C#7", "E#4/8 G#4 B4 D5 C#5/2 ,"),
            ("F#m7", "[w A5/8 F#5/8. E5/16 C#5/4. r/4 w]"),
            ("B7", "[w A5/8 F#5/8. D#5/16 B4/4. r/4 w] ,"),
            ("Dmaj7", "F#5/8 E5 C#5 A4 B4 C#5 D5 E5"),
            ("C#7", "E#5/4 D5/4 B4/4 G#4/4"),
            ("F#m7", "[a C#5/4. B4/8 A4/4 F#4/4 a]"),
            ("F#m7", "F#4/1 ,"),
        ],
    ),
    (
        "bossa in C, answers a third higher",
        {"key": "C major"},
        [
            ("Cmaj7", "[a E4/8 G4/4 B4/8 A4/2 a]"),
            ("Cmaj7", "r/2 r/8 G4/8 A4 B4"),
            ("Dm7", "[a F4/8 A4/4 C5/8 B4/2 a]"),
            ("G7", "r/2 r/8 A4/8 B4 C5 ,"),
            ("Em7", "[a G4/8 B4/4 D5/8 C5/2 a]"),
            ("A7", "C#5/8 E5 G5 Bb5 A5 G5 E5 C#5 ,"),
            ("Dm7", "[b D5/4 A4/8 C5/4 F4/8 A4/4 b]"),
            ("G7", "[b B4/4 F4/8 A4/4 D4/8 F4/4 b] ,"),
            ("Cmaj7", "E4/8 D4 E4 G4 B4 C5 D5 E5"),
            ("F7", "Eb5/8 C5 A4 F4 Eb4/2 ,"),
            ("Em7", "[c B4/8 C5 B4 G4/4. r/4 c]"),
            ("A7", "[c Bb4/8 C#5 Bb4 G4/4. r/4 c]"),
            ("Dm7", "[c A4/8 B4 A4 F4/4. r/4 c] ,"),
            ("G7", "D4/8 F4 A4 C5 B4 G4 F4 D4"),
            ("Cmaj7", "E4/4 G4/4 D5/2"),
            ("C6", "C5/2 r/2 ,"),
        ],
    ),
]
"""Made after the program, and before it was run on them: nothing is tuned on these."""

LATER = {
    ("bebop in B flat, few rests", 3, 0): 1,
    ("bebop in B flat, few rests", 3, 1): 1,
    ("bebop in B flat, few rests", 4, 0): 1,
    ("bebop in B flat, few rests", 9, 1): 1,
    ("bebop in B flat, few rests", 14, 0): 1,
    ("bossa in E minor, syncopated", 2, 0): 1,
    ("bossa in E minor, syncopated", 6, 1): 1,
    ("five four in G minor", 4, 0): 1,
    ("slow blues in twelve, C", 15, 1): 1,
    ("ballad in A flat, long notes", 9, 1): 1,
    ("hard bop in C minor, over the bar line", 4, 0): 1,
    ("swing in E flat, triplets and sequences", 13, 1): 1,
    ("swing in E flat, triplets and sequences", 15, 1): 1,
}
