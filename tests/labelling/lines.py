"""Lines composed for these tests, with the label of each note, shortened.

A label is a code of ``SHORT``; a number behind it says how many notes on its target lies, where that is not the next.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from fractions import Fraction
from typing import Any, NamedTuple

from tests.conftest import make_solo

from gavotte.solo.document import Solo
from gavotte.solo.label import Label

SHORT = {
    "c": "chord/plain", "a": "chord/anticipation", "k": "chord/carried",
    "n": "extension/natural", "A": "extension/altered", "B": "extension/blue", "C": "extension/clash",
    "p": "passing/passing", "u": "passing/neighbour", "s": "passing/step",
    "cb": "approach/chromatic-below", "ca": "approach/chromatic-above", "cp": "approach/chromatic-passing",
    "cn": "approach/chromatic-neighbour", "db": "approach/double-below", "da": "approach/double-above",
    "e": "approach/enclosure", "i": "outside/implied", "x": "outside/unexplained",
}  # fmt: skip

Line = tuple[str, dict[str, Any], list[tuple[str, str]], str]
"""Name, setting, bars, and labels."""

_CODE = re.compile(r"([a-zA-Z]+)(\d*)")
_LEADS = ("passing/", "approach/")


class Expected(NamedTuple):
    """What a note should be called ("passing/step"), and the index of its target if it is to lead anywhere."""

    label: str
    target: int | None


def solo_of(line: Line) -> Solo:
    """The line as a solo."""
    _, setting, bars, _ = line
    return make_solo(bars, **setting)


def expected_of(line: Line) -> list[Expected]:
    """What each note of the line should be called."""
    expected = []
    for index, text in enumerate(line[3].split()):
        match = _CODE.fullmatch(text)
        assert match is not None, text
        label = SHORT[match[1]]
        leads = label.startswith(_LEADS)
        expected.append(Expected(label, index + int(match[2] or 1) if leads else None))
    return expected


def found_in(labels: Sequence[Label], places: Mapping[str, int]) -> list[Expected]:
    """The same of labels that were found. ``places`` are the indexes of the notes by their ids."""
    found = []
    for label in labels:
        name = f"{label.function}/{label.device}"
        leads = name.startswith(_LEADS) and label.target is not None
        found.append(Expected(name, places[label.target or ""] if leads else None))
    return found


READ_AFTER: list[Line] = [
    (
        'a waltz', {'key': 'Eb major', 'meter': '3/4'},
        [('Ebmaj7', 'Bb4/8 Ab4 G4 F4 Eb4 D4'), ('Fm7', 'Db5/8 C5 Ab4 F4 G4 Ab4'), ('Bb7', 'Ab4/8 B4 G4 Ab4 D5/4')],
        "c p c p c c ca c c c p c c A s c c",
    ),
    (
        'six eight', {'key': 'A minor', 'meter': '6/8'},
        [('Am', 'E4/8 G#4 A4 C5 B4 A4'), ('E7', 'G#4/8 F4 E4 D4 E4 G#4'), ('Am', 'A4/2.')],
        "c s c c p c c p c c c c c",
    ),
    (
        'a suspended dominant', {'key': 'F major'},
        [('C9sus4', 'F4/8 G4 Bb4 C5 D5 C5 Bb4 A4'), ('Fmaj7', 'A4/4 G4/8 F4 C5/2')],
        "c c c c u c c a c p c c",
    ),
    (
        'half-diminished and altered, in twelve', {'key': 'D minor', 'meter': '12/8'},
        [('Em7b5 A7alt', 'E5/8 G5 Bb5 A5 F5 F#5 G5 Bb4 C5 C#5 Eb5 F5'), ('Dm6', 'E5/4. D5/8 C#5 D5 B4/4. A4/4.')],
        "c c c n db2 db c A cp c e2 e n c u c c c",
    ),
    (
        'a passing diminished chord', {'key': 'G major'},
        [
            ("G6 G#dim7", "B4/8 D5 C#5 C5 B4 G#4 A4 F5"),
            ("Am7 D7", "E5/8 C5 B4 A4 F#4 A4 Bb4 C5"),
            ("Gmaj7", "B4/4 A#4/8 B4 E5/2"),
        ],
        "c c cp2 cp c c x c c c p c c c A c c cn c n",
    ),
    (
        'a tritone substitute', {'key': 'C major'},
        [('Dm7 Db7', 'F5/8 E5 D5 A4 Ab4 G4 F4 Eb4'), ('Cmaj7#11', 'E4/8 F#4 A4 G4 B4/2')],
        "c p c c c p c e c e2 e c c",
    ),
    (
        'an augmented dominant', {'key': 'F major'},
        [('C7#5', 'E4/8 G#4 Bb4 D5 C5 F#4 G4 G#4'), ('F6/9', 'A4/4 D5/8 G4 C5/2')],
        "c c c s c db2 db c c c n c",
    ),
    (
        'minor with a major seventh', {'key': 'C minor'},
        [('Cm(maj7)', 'C5/8 D5 Eb5 G5 B5 A5 G5 Ab5'), ('Fm6', 'G5/4 F5/8 E5 Eb5 D5 C5 Ab4'), ('Cm6', 'G4/1')],
        "c p c c c p c cn n c cp2 cp c c c c",
    ),
    (
        'a slip of a half step, in five', {'key': 'G dorian', 'mode': 'dorian', 'meter': '5/4', 'grouping': '3+2'},
        [('Gm7', 'D5/8 Bb4 G4 A4 Bb4 C5 B4 D#5 F#5 C#5'), ('Gm7', 'D5/8 C5 Bb4 A4 F4 G4 Bb4/4 r/4')],
        "c c c p c n i i i i c p c n c c c",
    ),
    (
        'triads', {'key': 'E minor'},
        [('Em C', 'E4/8 G4 A4 B4 C5 B4 A4 G4'), ('G D', 'F#4/8 G4 B4 A4 A4/4. C#5/8'), ('Em', 'B4/2 F#4/2')],
        "c c p c c p2 p c u c c a c s c n",
    ),
    (
        'slash chords', {'key': 'C major'},
        [('Fmaj7/G', 'G4/8 A4 C5 E5 D5 B4 C5 A4'), ('C/E', 'G4/4 F4/8 D#4 E4/2')],
        "c n c n c s c s c e2 e c",
    ),
    (
        'a slow blues', {'key': 'D major', 'blues': True, 'meter': '12/8'},
        [('D7', 'F4/8 F#4 A4 C5 B4 A4 G#4 G4 F4 D4 F4 F#4'), ('G7', 'F4/4. D4/8 F4 G4 Ab4 G4 F4 D4/4.')],
        "cb c c c p c B p B c cb c c c c c cn c c c",
    ),
    (
        'a cycle of dominants', {'key': 'Bb major'},
        [
            ("D7 G7", "A4/8 C5 Eb5 F#4 G4 B4 D5 F5"),
            ("C7 F7", "E5/8 D5 Db5 Bb4 A4 C5 Eb5 Gb5"),
            ("Bbmaj7", "F5/4 D5/8 C#5 D5/2"),
        ],
        "c c A c c c c c c n A c c c c A c c cn c",
    ),
    (
        'sixteenths in two', {'key': 'Ab major', 'meter': '2/4'},
        [('Eb7', 'G4/16 Bb4 Db5 E5 Eb5 D5 Db5 C5'), ('Abmaj7', 'B4/16 C5 Bb4 Ab4 G4/4')],
        "c c c A c cp c n cn c p c c",
    ),
    (
        'notes among rests', {'key': 'C major'},
        [('Dm7', 'r/8 E5/8 D5 r B4/4 C5'), ('G7', 'r/4 A4/8 r/8 A#4/8 B4 r/4'), ('C', 'r/8 D5/4. E5/2')],
        "s c s c n cb c n c",
    ),
    (
        'no run over the barline', {'key': 'C major'},
        [('Dm7', 'D5/8 F5 E5 D5 C5 A4 Bb4 Db5'), ('G7', 'Eb5/8 Gb5 F5 D5 B4 G4 A4 B4'), ('Cmaj7', 'C5/1')],
        "c c p c c c C C e2 e c c c c p c c",
    ),
    (
        'a pattern that moves up', {'key': 'C major'},
        [('G7', 'F4/8 A4 C5 E5 F#4 A#4 C#5 E#5'), ('Cmaj7', 'G4/2 E4/2')],
        "c n n n i i i c c c",
    ),
    (
        'a cycle over a vamp', {'key': 'D minor', 'mode': 'dorian'},
        [('Dm7', 'A4/8 F4 D4 E4 F#4 A#4 C#5 E5'), ('Dm7', 'B4/8 D#5 F#5 A5 A5 F5 D5 C5'), ('Dm7', 'A4/1')],
        "c c c n i i i i i i i c c c c c c",
    ),
    (
        'a tritone arpeggio', {'key': 'F major'},
        [('Gm7', 'D5/8 C5 Bb4 A4 G4 Bb4 D5 F5'), ('C7', 'Db5/8 F5 Ab5 Cb6 Bb5 G5 E5 C5'), ('Fmaj7', 'A4/1')],
        "c p c p c c c c i i i i c c c c c",
    ),
    (
        'triad pairs', {'key': 'C major'},
        [('Fmaj7#11', 'F4/8 A4 C5 G4 B4 D5 C5 A4'), ('Fmaj7#11', 'F4/8 A4 C5 D5 B4 G4 E4 C4')],
        "c c c n n n c c c c c n n n c c",
    ),
    (
        'approached from above', {'key': 'G major'},
        [('Am7', 'C5/8 E5 F#5 F5 E5 C5 A4 G4'), ('D7', 'F#4/4 r/8 B4/8 Bb4 A4 F#4 D4'), ('G', 'B4/1')],
        "c c p2 cp c c c c c da2 da c c c c",
    ),
    (
        'long enclosures', {'key': 'Bb major'},
        [('Bbmaj7', 'F5/8 D5 Bb4 C5 E5 Eb5 C#5 D5'), ('Ebmaj7', 'F5/8 F#5 A5 Ab5 F#5 G5 Eb5/4'), ('Bb6', 'D5/1')],
        "c c c e4 e3 e2 e c n e4 e3 e2 e c c c",
    ),
    (
        'a bass line in sixteenths', {'key': 'E minor'},
        [
            ("Em7", "E2/16 G2 A2 A#2 B2 D3 B2 A2 G2 F#2 E2 D2 D#2 E2 G2 B2"),
            ("A7", "A2/16 C#3 E3 G3 F#3 F3 E3 C#3 A2/4 r/4"),
        ],
        "c c p2 cp c c c p c p c c p c c c c c c c cp2 cp c c c",
    ),
    (
        'anticipations', {'key': 'C major'},
        [('Am7', 'C5/8 B4 A4 G4 E4 A4 C5 B4~'), ('G7', 'B4/8 A4 G4 F4 E4 D4 B3 C4'), ('Cmaj7', 'C4/4 E4/4 G4/2')],
        "c p c c c c c a p c c p c c a c c c",
    ),
    (
        'minor in nine', {'key': 'C minor', 'meter': '9/8'},
        [
            ("Fm7", "C5/8 Db5 C5 Ab4 G4 F4 Eb4 F4 Ab4"),
            ("G7b9", "B4/8 D5 F5 Ab5 G5 F5 Eb5 D5 B4"),
            ("Cm7", "C5/4. Eb5/8 D5 C5 Bb4/4."),
        ],
        "c cn c c p c c c c c c c A c c p c c c c p c c",
    ),
]  # fmt: skip
"""Lines whose labels were read against the rules after the program had given them."""

LABELLED_BEFORE: list[Line] = [
    (
        'chromatic approaches in a ii-V', {'key': 'F major'},
        [
            ("Gm7", "r/8 D5/8 F5 Gb5 G5 F5 D5 Bb4"),
            ("C7", "A4/8 C5 E5 G5 Bb5 A5 G5 Gb5"),
            ("Fmaj7", "F5/4 E5/8 C5 A4/2"),
        ],
        "c c cp c c c c n c c c c p c cp2 c c c c",
    ),
    (
        'half-diminished, with a chromatic link', {'key': 'Bb minor'},
        [
            ("Cm7b5", "Eb5/8 Gb5 Bb5 A5 Ab5 Gb5 F5 E5"),
            ("F7b9", "Eb5/8 C5 A4 Gb4 F4 A4 C5 Db5"),
            ("Bbm7", "F5/4 Eb5/8 D5 Db5/2"),
        ],
        "c c c cp2 p c cp2 cp c c c p c c c a c p2 cp c",
    ),
    (
        'a blues with early and blue notes', {'key': 'F major', 'blues': True},
        [
            ("F7", "C5/8 Ab4 A4 C5 D5 C5 Ab4 F4"),
            ("Bb7", "D5/8 F5 Ab5 G5 F5 D5 Db5 Bb4"),
            ("F7", "A4/4 C5/8 B4 Bb4/4 A4/4"),
        ],
        "c cb c c u c a c c c c p c c A c c c cp2 cp c",
    ),
    (
        'a waltz with early notes', {'key': 'Ab major', 'meter': '3/4'},
        [
            ("Abmaj7", "Eb5/4 D5/8 Eb5 C5/4"),
            ("Db", "F5/4. Eb5/8 Db5 Bb4"),
            ("Eb7", "Bb4/8 G4 Db5 F5 E5 C5"),
            ("Ab6", "Ab4/2."),
        ],
        "c cn c c c p c a c c c n A a c",
    ),
    (
        'a pentatonic half a step up', {'key': 'E minor', 'mode': 'dorian'},
        [
            ("Em7", "E5/8 G5 B5 A5 F#5 D5 E5 B4"),
            ("Em7", "F4/8 Ab4 Bb4 C5 Eb5 C5 Bb4 Ab4"),
            ("Em7", "B4/4 E5/4 D5/8 B4 G4 A4"),
            ("Em7", "B4/1"),
        ],
        "c c c n n c c c i i i i i i i i c c c c c p c",
    ),
    (
        'fourths off the chord', {'key': 'D minor', 'mode': 'dorian'},
        [
            ("Dm7", "A4/8 C5 D5 E5 F5 D5 C5 A4"),
            ("Dm7", "Eb4/8 Ab4 Db5 r/8 D5/8 F5 A5 G5"),
            ("Dm7", "F5/4 E5/8 C5 D5/2"),
        ],
        "c c c p c c c c i i i c c c p c n c c",
    ),
    (
        'sixteenths over a vamp', {'key': 'A minor', 'mode': 'dorian'},
        [
            ("Am7", "A4/16 C5 D5 D#5 E5 r/16 G5 E5 D5 C5 A4 G4 F#4 F4 E4 r/16"),
            ("D7", "F#4/16 A4 C5 E5 D5 C5 B4 Bb4 A4 F#4 G4 G#4 A4/4"),
        ],
        "c c p2 cp c c c p c c c cp2 cp c c c c n c c cp2 cp c c cp2 cp c",
    ),
    (
        'a passing diminished chord in a bossa', {'key': 'C major'},
        [
            ("Cmaj7", "G4/4. B4/8 D5/4 E5/4"),
            ("C#dim7", "G5/8 E5 D#5 E5 C#5 Bb4 A4 G4"),
            ("Dm7", "F4/8 A4 C5 E5 G5 F5 E5 D5"),
            ("G7", "B4/8 D5 F5 Ab5 G5 F5 Eb5 D5"),
        ],
        "c c n c c c u c c c p c c c c n n c p c c c c A c c cp c",
    ),
    (
        'triads in a rock line', {'key': 'A minor'},
        [
            ("Am", "E5/4 D5/8 C5 A4 B4 C5 A4"),
            ("G", "B4/8 D5 E5 D5 B4/4 G4/4"),
            ("F", "A4/8 C5 F5 E5 C5 G#4 A4/4"),
            ("E7", "B4/8 D5 F5 E5 D5 B4 G#4 B4"),
            ("Am", "A4/1"),
        ],
        "c p c c p c c c c u c c c c c c n c n c c c A c c c c c c",
    ),
    (
        'a minor blues with a held blue note', {'key': 'C minor', 'blues': True},
        [
            ("Cm7", "r/4 Eb5/8 F5 Gb5 F5 Eb5 C5"),
            ("Fm7", "Ab4/8 C5 Bb4 Ab4 Gb4/4 F4/4"),
            ("Cm7", "G4/8 Bb4 B4 C5 Eb5 D5 C5/4"),
        ],
        "c p B p c c c c p c B c c c p c c p c",
    ),
    (
        'chromatic runs in five', {'key': 'Bb major', 'meter': '5/4', 'grouping': '3+2'},
        [
            ("Gm7", "G4/8 Bb4 D5 F5 A5 G5 F5 E5 Eb5 D5"),
            ("C7", "E5/8 G5 F#5 F5 E5 D5 C5 Bb4 A4 G4"),
            ("Fmaj7", "A4/2 C5/4 E5/2"),
        ],
        "c c c c n c c cp2 cp c c c cp2 cp c p c c p c c c c",
    ),
    (
        'a triad and the one below it', {'key': 'G major'},
        [
            ("Am7", "E5/8 D5 C5 A4 B4/8t D#5 F#5 Bb4 D5 F5"),
            ("D7", "C5/8 A4 F#4 D4 Eb4 F#4 A4 G4"),
            ("Gmaj7", "B4/2 D5/2"),
        ],
        "c p c c i i i i i i c c c c A c c a c c",
    ),
    (
        'enclosures in a ballad key', {'key': 'Eb major'},
        [
            ("Ebmaj7", "Bb4/8 G4 Ab4 F#4 G4 Bb4 D5 C5"),
            ("Cm7", "Eb5/8 D5 C5 B4 C5 D5 Eb5 E5"),
            ("Fm7 Bb7", "F5/8 Ab5 G5 Eb5 D5 F5 Ab4 A4"),
            ("Eb6", "Bb4/4 C5/4 G4/2"),
        ],
        "c c e2 e c c c a c p c cn c cp3 c cp c c n c c c c cp c c c",
    ),
    (
        'half-diminished and altered in minor', {'key': 'D minor'},
        [
            ("Em7b5", "r/8 D5/8 E5 G5 F5 D5 Bb4 C#5"),
            ("A7alt", "C#5/8 Bb4 C5 Eb5 F5 Eb5 C5 Bb4"),
            ("Dm6", "A4/8 F4 E4 D4 C#4 D4 B3/4"),
        ],
        "c c c C c c a c A A A A A A cp c c p c u c c",
    ),
    (
        'six eight in sharps', {'key': 'E major', 'meter': '6/8'},
        [
            ("E", "G#4/8 A4 B4 C#5 B4 A#4"),
            ("F#m7", "A4/8 C#5 E5 D#5 C#5 B4"),
            ("B7", "A4/8 G#4 F#4 E4 D#4 E#4"),
            ("E6", "E4/4. r/4."),
        ],
        "c p c u c cp c c c p c p c p c p c e c",
    ),
    (
        'a ii-V half a step up', {'key': 'C major'},
        [
            ("Dm7", "D5/8 F5 A5 C6 Eb5 Gb5 Bb5 Db6"),
            ("G7", "Ab4/8 C5 Eb5 Gb5 F5 D5 B4 G4"),
            ("C6", "E4/4 G4/4 A4/2"),
        ],
        "c c c c i i i i i i i i c c c c c c c",
    ),
    (
        'enclosures by raised steps', {'key': 'F minor'},
        [
            ("Fm7", "C5/8 Ab4 G4 E4 F4 Ab4 C5 D5"),
            ("Bbm7", "Db5/8 F5 Ab5 G5 F5 E5 Eb5 Db5"),
            ("C7b9", "C5/8 Bb4 G4 E4 F4 G4 Ab4 Bb4"),
            ("Fm", "Ab4/1"),
        ],
        "c c e2 e c c c e c c c p c p2 p c c c c c p c p c c",
    ),
    (
        'a slow blues in flats', {'key': 'Bb major', 'blues': True, 'meter': '12/8'},
        [
            ("Bb7", "F5/8 Db5 Bb4 Ab4 F4 Ab4 Bb4 Db5 D5 F5/4."),
            ("Eb7", "G4/8 Bb4 Db5 C5 Db5 E5 Eb5 Db5 Bb4 G4/4."),
        ],
        "c B c c c c c cb c c c c c u c e c c c c",
    ),
    (
        'a lydian vamp', {'key': 'F major', 'mode': 'lydian'},
        [
            ("Fmaj7#11", "A4/4 B4/8 C5 E5/4 D5/8 B4"),
            ("Fmaj7#11", "C5/4 G4/4 A4/2"),
        ],
        "c p c c e2 e c n c",
    ),
    (
        'triads over slash chords', {'key': 'D major'},
        [
            ("D", "F#4/8 A4 B4 A4 F#4 E4 D4 E4"),
            ("A/C#", "A4/8 C#5 E5 F#5 E5 D5 C#5 B4"),
            ("Bm7", "A4/8 F#4 D4 F#4 A4 C#5 B4 A4"),
            ("Gmaj7", "B4/2 F#5/2"),
        ],
        "c c u c c p c a c c c u c p c p c c c c c n c c c c",
    ),
    (
        'a run that yields to an enclosure', {'key': 'F# minor'},
        [
            ("G#m7b5", "B4/8 D5 F#5 E5 D5 C#5 B4 A#4"),
            ("C#7b9", "G#4/8 B4 D5 F#5 E5 E#5 G#5 B5"),
            ("F#m7", "A5/4 G#5/8 F#5 E5/2"),
        ],
        "c c c p c p c p c c A e2 e c c c c p c c",
    ),
    (
        'triads on the way down', {'key': 'A minor', 'mode': 'dorian'},
        [
            ("Am7", "B4/8t D#5 F#5 Bb4 D5 F5 A4 C5 E5 G5 F#5 E5"),
            ("D7", "F#5/8 E5 D5 C5 A4/2"),
        ],
        "i i i i i i c c c c p c c p c c c",
    ),
    (
        'fourths down, in three', {'key': 'C minor', 'mode': 'dorian', 'meter': '3/4'},
        [
            ("Cm7", "Eb5/8 D5 C5 G4 Bb4 C5"),
            ("Cm7", "Db5/8 Ab4 Eb4 D4 F4 G4"),
            ("Cm7", "C5/2."),
        ],
        "c p c c c c i i c n s c c",
    ),
    (
        'a held blue note over IV', {'key': 'G major', 'blues': True},
        [
            ("C7", "E5/4 Bb4/8 C5 Db5/4 C5/4"),
            ("G7", "B4/8 D5 Bb4 B4 D5/4 G4/4"),
            ("D7", "C5/8 F5 D5 A4 F#4 A4 C5 A4"),
            ("G7", "B4/1"),
        ],
        "c c c B c c c cb c c c c A c c c c c c c",
    ),
    (
        'a pickup and a grace note', {'key': 'Bb major', 'pickup': Fraction(1, 1)},
        [
            ("", "F4/8 A4"),
            ("Bbmaj7", "*C#5 D5/4 F5/8 D5 C5 Bb4 A4 G4"),
            ("Gm7", "F4/8 G4 A4 Bb4 D5 Eb5 E5 F5"),
            ("C7", "E5/4 r/4 Eb5/8 D5 Bb4 G4"),
            ("F7", "A4/4 C5/8 Eb5 Gb5 F5 Eb5 D5"),
            ("Bbmaj7", "D5/2 Bb4/2"),
        ],
        "c c cb c c c p c c p c c p c c cp2 cp c c A n c c c c c A c c a c c",
    ),
    (
        'seven eighths', {'key': 'G major', 'meter': '7/8', 'grouping': '2+2+3'},
        [
            ("Am7", "E5/8 D5 C5 B4 A4 G#4 A4"),
            ("D7", "F#4/8 A4 C5 B4 A4 G4 F#4"),
            ("G", "G4/4. r/2"),
        ],
        "c p c p c cn c c c c p c p c c",
    ),
    (
        'upper structures through a bossa', {'key': 'Eb major'},
        [
            ("Ebmaj7", "G4/4 Bb4/8 D5 F5/4 Eb5/8 D5~"),
            ("Ab7#11", "D5/8 C5 D5 Bb4 Gb4 Ab4 Bb4 C5"),
            ("Gm7 C7", "D5/8 Bb4 A4 F4 E4 G4 Bb4 Db5"),
            ("Fm7 Bb7", "C5/8 Ab4 G4 Eb4 D4 F4 Ab4 B4"),
            ("Ebmaj7", "Bb4/2 G4/2"),
        ],
        "c c c n c c c A n c c p c c c n c c c c A c c n c c c c A c c",
    ),
    (
        'a note carried over', {'key': 'C major'},
        [
            ("Dm7", "D4/8 F4 A4 C5 D5 C5 A4 C5"),
            ("G7", "C5/8 B4 G4 F4 D4 F4 A4 G4"),
            ("Cmaj7", "E4/4 G4/8 F4 E4/2"),
        ],
        "c c c c c c c c k c c c c c n c c c p c",
    ),
    (
        'whole tone and lydian dominant', {'key': 'G major'},
        [
            ("Gmaj7", "B4/8 D5 F#5 E5 D5 C5 B4 A#4"),
            ("B7#5", "A4/8 G4 D#4 F4 G4 A4 B4 C#5"),
            ("Em7", "D5/8 B4 G4 E4 F#4 G4 B4 D5"),
            ("A7#11", "C#5/4 D#5/4 B4/4 A4/4"),
        ],
        "c c c p c cp3 c cp c c c p c c c p c c c c p c c c c A s c",
    ),
    (
        'minor with the sixth', {'key': 'D minor'},
        [
            ("Dm6", "A4/8 B4 D5 E5 F5 E5 Eb5 D5"),
            ("A7", "C#5/8 E5 G5 Bb5 A5 F5 E5 Eb5"),
            ("Dm6", "D5/4 C#5/8 E5 D5/2"),
        ],
        "c c c p c cp3 cp2 c c c c A c A c cp c e2 e c",
    ),
    (
        'triads and a suspended chord', {'key': 'Db major'},
        [
            ("Db", "F4/8 Gb4 Ab4 Bb4 C5 Db5 C5 Ab4"),
            ("Bbm", "F5/4 Eb5/8 Db5 C5/4 Bb4/4"),
            ("Gb", "Bb4/8 Db5 Eb5 Db5 Bb4 Ab4 Gb4 Ab4"),
            ("Ab7sus4", "Db5/4 C5/8 Db5 Eb5/4 Bb4/4"),
            ("Db", "Ab4/1"),
        ],
        "c p c p2 p c n c c p c n c c c u c c p c a c u c c n c",
    ),
    (
        'a pentatonic over lydian', {'key': 'F major', 'mode': 'lydian'},
        [
            ("Fmaj7", "C5/8 A4 G4 F4 E4 F4 A4 C5"),
            ("Fmaj7", "F#4/8 A4 B4 C#5 E5 C#5 B4 A4"),
            ("Fmaj7", "G4/4 F4/4 r/2"),
        ],
        "c c p c c c c c i c i i c i i c n c",
    ),
    (
        'sixteenths over a sharp nine', {'key': 'A minor'},
        [
            ("E7#9", "E4/16 G4 G#4 B4 D5 B4 G#4 G4 E4 D4 E4 G4 G#4/4"),
            ("Am7", "A4/4 C5/8 B4 A4/2"),
        ],
        "c cb c c c c c A c c c cb c c c p c",
    ),
    (
        'a chromatic link after a tritone substitute', {'key': 'Ab major'},
        [
            ("Bbm7", "F5/8 Eb5 Db5 Bb4 Ab4 G4 Gb4 F4"),
            ("A7", "E4/8 G4 A4 C#5 B4 A4 G4 E4"),
            ("Abmaj7", "Eb4/8 C5 B4 Bb4 Ab4/2"),
        ],
        "c p c c c cp3 cp2 c c c c c p c c c c c cp2 p c",
    ),
    (
        'chromatic runs in sharps', {'key': 'B major'},
        [
            ("Bmaj7", "F#5/8 E5 D#5 C#5 C5 B4 A#4 B4"),
            ("G#m7", "D#5/8 E5 F#5 G#5 F#5 E5 D#5 D5"),
            ("C#m7 F#7", "C#5/8 E5 G#5 B5 A#5 G5 E5 C#5"),
            ("B6", "D#5/4 r/8 G#4/8 F#4 D#4 B3/4"),
        ],
        "c p c cp3 cp2 c c c c p c c c cp3 c cp c c c c c A c c c c c c c",
    ),
    (
        'clashes on purpose', {'key': 'C major'},
        [
            ("Cmaj7", "E4/4 F4/2 E4/4"),
            ("Am7", "E5/4 F5/2 C5/4"),
            ("D7", "F#5/4 C#5/4 r/4 A4/4"),
            ("G7", "C5/2 B4/2"),
        ],
        "c C c c C c c C c C c",
    ),
    (
        'slips', {'key': 'F major'},
        [
            ("Fmaj7", "C5/8 A4 F4 G4 A4 C5 Eb5 C5"),
            ("Gm7", "Bb4/8 D5 F5 B4 D5 Bb4 A4 G4"),
        ],
        "c c c p c c x c c c c x c c p c",
    ),
    (
        'a sidestep and a double approach', {'key': 'Bb major'},
        [
            ("Cm7", "C5/8 Eb5 G5 Bb5 B5 F#5 D#5 A#4"),
            ("F7", "A4/8 C5 Eb5 G5 Gb5 F5 Eb5 D5~"),
            ("Bbmaj7", "D5/2 F5/2"),
        ],
        "c c c c i i c c c c c da2 da c c a c",
    ),
]  # fmt: skip
"""Lines labelled by hand before the program saw them; what was mended afterwards the measurements tell."""

BY_RULE: list[Line] = [
    (
        'struck again after the change, in no run', {'key': 'C minor'},
        [
            ("Cm7", "C5/8 Eb5 G5 Bb5 E5 G#5 B5 D6"),
            ("G7", "D6/8 B5 G5 F5 D5 G5 F5 D5"),
        ],
        "c c c c i i i a c c c c c c c c",
    ),
    (
        'the same in a waltz', {'key': 'C major', 'meter': '3/4'},
        [
            ("Dm7", "D5/8 F5 Eb5 Gb5 Bb5 B5"),
            ("G7", "B5/8 G5 F5 D5 B4/4"),
        ],
        "c c i i i a c c c c c",
    ),
    (
        'chromatic links in a minor waltz', {'key': 'C minor', 'meter': '3/4'},
        [
            ("Cm7", "G5/8 Gb5 F5 Eb5 E5 F5"),
            ("Cm7", "G5/4 C5/2"),
        ],
        "c cp2 p c cp2 p c c",
    ),
    (
        'a chromatic link in twelve', {'key': 'Bb major', 'meter': '12/8'},
        [
            ("Bbmaj7", "F5/8 D5 Db5 C5 Bb4 A4 G4 A4 Bb4 r/4."),
        ],
        "c c cp2 p c c u c c",
    ),
    (
        'a run that yields to a double approach', {'key': 'F major'},
        [
            ("Gm7", "G4/8 Bb4 D5 F5 C#5 E5 A5 G#5"),
            ("Gm7", "G5/4 D5/4 Bb4/2"),
        ],
        "c c c c x n da2 da c c c",
    ),
    (
        'a run that stands before its goal', {'key': 'G major'},
        [
            ("Am7", "A4/8 C5 E5 G5 Bb4 Db5 Gb5 F5"),
            ("Am7", "E5/4 C5/4 A4/2"),
        ],
        "c c c c i i i i c c c",
    ),
    (
        'a moved pentatonic in five', {'key': 'F minor', 'mode': 'dorian', 'meter': '5/4', 'grouping': '3+2'},
        [
            ("Fm7", "F5/8 Eb5 C5 Ab4 A4 B4 C#5 E5 F#5 E5"),
            ("Fm7", "Eb5/4 C5/4 Bb4/8 Ab4 F4/2"),
        ],
        "c c c c i i i i i i c c p c c",
    ),
    (
        'held blue notes in a minor blues', {'key': 'A minor', 'blues': True, 'meter': '12/8'},
        [
            ("Am7", "E5/4. Eb5/4. D5/8 C5 A4 C5/4."),
            ("Dm7", "Eb5/4. D5/4. C5/8 A4 F4 D4/4."),
        ],
        "c B p c c c B c c c c c",
    ),
]  # fmt: skip
"""Lines that each hold one rule to its word, labelled before the program saw them."""

LINES: list[Line] = [*READ_AFTER, *LABELLED_BEFORE, *BY_RULE]
