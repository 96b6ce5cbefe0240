"""Planted ambiguities: a line on which everyone agrees, and one like it where a note could be heard otherwise."""

from __future__ import annotations

from typing import Any, NamedTuple

Bars = list[tuple[str, str]]


class Planted(NamedTuple):
    """A kind of label; a clear line and the index of a note so labelled; an ambiguous line, and the index there."""

    name: str
    label: str
    setting: dict[str, Any]
    clear: Bars
    sure: int
    ambiguous: Bars
    doubtful: int


PLANTED = [
    Planted(
        "one foreign note in a run instead of four", "outside/implied", {"key": "G major"},
        [("Am7", "A4/8 C5 E5 G5 Bb4 Db5 F5 Ab5"), ("Am7", "G5/1")], 4,
        [("Am7", "A4/8 C5 E5 G5 D5 F#5 A5 C#6"), ("Am7", "E5/1")], 4,
    ),
    Planted(
        "a run from off the beat", "outside/implied", {"key": "G major"},
        [("Am7", "A4/8 C5 E5 G5 Bb4 Db5 F5 Ab5"), ("Am7", "G5/1")], 5,
        [("Am7", "A4/8 C5 E5 Bb4 Db5 F5 Ab5 G5"), ("Am7", "E5/1")], 4,
    ),
    Planted(
        "a run of three notes", "outside/implied", {"key": "G major"},
        [("Am7", "A4/8 C5 E5 G5 Bb4 Db5 F5 Ab5"), ("Am7", "G5/1")], 4,
        [("Am7", "A4/8 C5 E5 G5 Bb4 Db5 F5 r"), ("Am7", "G5/1")], 4,
    ),
    Planted(
        "a pentatonic with two foreign notes", "outside/implied", {"key": "F major", "mode": "lydian"},
        [("Fmaj7", "C5/8 A4 G4 F4 F#4 G#4 B4 C#5"), ("Fmaj7", "F5/4 E5/4 C5/2")], 4,
        [("Fmaj7", "C5/8 A4 G4 F4 A4 B4 C#5 F#5"), ("Fmaj7", "A5/4 E5/4 C5/2")], 5,
    ),
    Planted(
        "an enclosure with a chord tone and a note of the scale", "approach/enclosure", {"key": "C minor"},
        [("Dm7b5", "F4/8 D4 Eb4 C#4 D4/2")], 2,
        [("Dm7b5", "F4/8 D4 Eb4 C4 D4/2")], 2,
    ),
    Planted(
        "an enclosure with a chord tone", "approach/enclosure", {"key": "C major"},
        [("Cmaj7", "C5/8 G4 F4 D#4 E4/2")], 3,
        [("C7", "C5/8 G4 Bb4 G#4 A4/2"), ("F", "A4/1")], 3,
    ),
    Planted(
        "an early note left by leap, not tied", "chord/anticipation", {"key": "C major"},
        [("G7", "B4/8 D5 F5 D5 B4 A4 G4 C5~"), ("Cmaj7", "C5/1")], 7,
        [("G7", "B4/8 D5 F5 D5 B4 A4 G4 C5"), ("Cmaj7", "G4/1")], 7,
    ),
    Planted(
        "a leaning note on a strong beat", "passing/step", {"key": "C major"},
        [("Cmaj7", "G4/4 C5/8 F4 E4/2")], 2,
        [("Cmaj7", "G4/4 C5/4 F4/4 E4/4")], 2,
    ),
    Planted(
        "a leaning colour", "passing/step", {"key": "C major"},
        [("Cmaj7", "G4/4 C5/8 F4 E4/2")], 2,
        [("Cmaj7", "E4/4 G4/8 D5 C5/2")], 2,
    ),
    Planted(
        "one added note that goes on by step", "extension/natural", {"key": "C major"},
        [("Dm7", "F4/8 A4 C5 E5 G5 A5 F5/4")], 3,
        [("Dm7", "F4/8 A4 C5 E5 D5 A4 F4/4")], 3,
    ),
    Planted(
        "a colour on a strong beat, stepped through", "extension/natural", {"key": "C major"},
        [("Cmaj7", "G4/4 C5/4 D5/2")], 2,
        [("Cmaj7", "G4/4 C5/4 D5/8 C#5 A4/4"), ("Cmaj7", "G4/1")], 2,
    ),
    Planted(
        "a clash in passing", "extension/clash", {"key": "C major"},
        [("Cmaj7", "G4/4 C5/4 F5/2")], 2,
        [("Cmaj7", "G4/8 C5 F4 B4 G4/2")], 2,
    ),
    Planted(
        "a turn instead of a neighbour", "passing", {"key": "C major"},
        [("Cmaj7", "E4/8 D4 E4 G4 C5/2")], 1,
        [("Cmaj7", "G4/8 C4 D4 C#4 C4/2")], 2,
    ),
]  # fmt: skip
