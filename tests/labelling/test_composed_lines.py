"""Lines composed for these tests, their labels read against the rules by hand, held in every key and many meters."""

from __future__ import annotations

from typing import Any

import pytest
from tests.conftest import make_solo

from gavotte.labelling.labeller import label_solo
from gavotte.solo.moving import transposed
from gavotte.theory.interval import Interval

SHORT = {
    "c": "chord/plain", "a": "chord/anticipation", "k": "chord/carried",
    "n": "extension/natural", "A": "extension/altered", "B": "extension/blue", "C": "extension/clash",
    "p": "passing/passing", "u": "passing/neighbour", "s": "passing/step",
    "cb": "approach/chromatic-below", "ca": "approach/chromatic-above", "cp": "approach/chromatic-passing",
    "cn": "approach/chromatic-neighbour", "db": "approach/double-below", "da": "approach/double-above",
    "e": "approach/enclosure", "i": "outside/implied", "x": "outside/unexplained",
}  # fmt: skip

LINES: list[tuple[str, dict[str, Any], list[tuple[str, str]], str]] = [
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
        "c c c n db db c A cp c e e n c u c c c",
    ),
    (
        'a passing diminished chord', {'key': 'G major'},
        [
            ("G6 G#dim7", "B4/8 D5 C#5 C5 B4 G#4 A4 F5"),
            ("Am7 D7", "E5/8 C5 B4 A4 F#4 A4 Bb4 C5"),
            ("Gmaj7", "B4/4 A#4/8 B4 E5/2"),
        ],
        "c c cp cp c c x c c c p c c c A c c cn c n",
    ),
    (
        'a tritone substitute', {'key': 'C major'},
        [('Dm7 Db7', 'F5/8 E5 D5 A4 Ab4 G4 F4 Eb4'), ('Cmaj7#11', 'E4/8 F#4 A4 G4 B4/2')],
        "c p c c c p c e c e e c c",
    ),
    (
        'an augmented dominant', {'key': 'F major'},
        [('C7#5', 'E4/8 G#4 Bb4 D5 C5 F#4 G4 G#4'), ('F6/9', 'A4/4 D5/8 G4 C5/2')],
        "c c c s c db db c c c n c",
    ),
    (
        'minor with a major seventh', {'key': 'C minor'},
        [('Cm(maj7)', 'C5/8 D5 Eb5 G5 B5 A5 G5 Ab5'), ('Fm6', 'G5/4 F5/8 E5 Eb5 D5 C5 Ab4'), ('Cm6', 'G4/1')],
        "c p c c c p c cn n c cp cp c c c c",
    ),
    (
        'a slip of a half step, in five', {'key': 'G dorian', 'mode': 'dorian', 'meter': '5/4', 'grouping': '3+2'},
        [('Gm7', 'D5/8 Bb4 G4 A4 Bb4 C5 B4 D#5 F#5 C#5'), ('Gm7', 'D5/8 C5 Bb4 A4 F4 G4 Bb4/4 r/4')],
        "c c c p c n i i i i c p c n c c c",
    ),
    (
        'triads', {'key': 'E minor'},
        [('Em C', 'E4/8 G4 A4 B4 C5 B4 A4 G4'), ('G D', 'F#4/8 G4 B4 A4 A4/4. C#5/8'), ('Em', 'B4/2 F#4/2')],
        "c c p c c p p c u c c a c s c n",
    ),
    (
        'slash chords', {'key': 'C major'},
        [('Fmaj7/G', 'G4/8 A4 C5 E5 D5 B4 C5 A4'), ('C/E', 'G4/4 F4/8 D#4 E4/2')],
        "c n c n c s c s c e e c",
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
        'a slip over the barline', {'key': 'C major'},
        [('Dm7', 'D5/8 F5 E5 D5 C5 A4 Bb4 Db5'), ('G7', 'Eb5/8 Gb5 F5 D5 B4 G4 A4 B4'), ('Cmaj7', 'C5/1')],
        "c c p c c c i i i i c c c c p c c",
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
        "c c p cp c c c c c da da c c c c",
    ),
    (
        'long enclosures', {'key': 'Bb major'},
        [('Bbmaj7', 'F5/8 D5 Bb4 C5 E5 Eb5 C#5 D5'), ('Ebmaj7', 'F5/8 F#5 A5 Ab5 F#5 G5 Eb5/4'), ('Bb6', 'D5/1')],
        "c c c e e e e c n e e e e c c c",
    ),
    (
        'a bass line in sixteenths', {'key': 'E minor'},
        [
            ("Em7", "E2/16 G2 A2 A#2 B2 D3 B2 A2 G2 F#2 E2 D2 D#2 E2 G2 B2"),
            ("A7", "A2/16 C#3 E3 G3 F#3 F3 E3 C#3 A2/4 r/4"),
        ],
        "c c p cp c c c p c p c c p c c c c c c c cp cp c c c",
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
"""Name, setting, bars, and the label of each note, shortened."""

KEYS = (
    Interval(0, 0), Interval(1, 1), Interval(1, 2), Interval(2, 3), Interval(2, 4), Interval(3, 5), Interval(3, 6),
    Interval(-3, -5), Interval(-2, -4), Interval(-2, -3), Interval(-1, -2), Interval(-1, -1),
)  # fmt: skip


@pytest.mark.parametrize("interval", KEYS, ids=lambda interval: f"{interval.semitones:+}")
@pytest.mark.parametrize(("name", "setting", "bars", "expected"), LINES, ids=[line[0] for line in LINES])
def test_a_line_in_every_key(
    name: str, setting: dict[str, Any], bars: list[tuple[str, str]], expected: str, interval: Interval
) -> None:
    solo = transposed(make_solo(bars, **setting), interval)
    found = [f"{label.function}/{label.device}" for label in label_solo(solo)]
    assert found == [SHORT[code] for code in expected.split()]


def test_the_lines_hold_every_device() -> None:
    said = {SHORT[code] for _, _, _, expected in LINES for code in expected.split()}
    assert said >= {label for code, label in SHORT.items() if code not in ("k", "C", "da", "x")} | {SHORT["da"]}
