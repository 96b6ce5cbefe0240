"""Waltz for an Empty Ferris Wheel: 32 bars in three."""

from __future__ import annotations

from fractions import Fraction

from gavotte.demo.shorthand import write_out
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter

_WHEEL = (
    ("D7", "D4/8 F#4"),
    # A
    ("Gmaj7", "B4/4. A4/8 G4 F#4"),
    ("Em7", "G4/8 B4 D5 F#5 E5/4"),
    ("Am7", "C5/8 B4 A4 G4 E4 G#4"),
    ("D7", "A4/4 C5/8 E5 Eb5 C5"),
    ("Bm7", "D5/4. F#5/8 A5/4"),
    ("E7b9", "G#5/8 F5 D5 B4 G#4 B4"),
    ("Am7", "C5/8t D5 E5 G5/8 E5 C5/4"),
    ("D7", "B4/8 C5 C#5 D5 A4 F#4"),
    # A
    ("Gmaj7", "G4/4{slide} B4/8 D5 F#5 A5"),
    ("Em7", "G5/4. F#5/8 E5 D5"),
    ("Am7", "C5/8 E5 G5 B5 A5/4"),
    ("D7", "Bb5/8 A5 F#5 Eb5 C5 A4"),
    ("Bm7b5", "D5/8 F5 A5 F5 E5 D5"),
    ("E7b9", "F5/4 D5/8 B4 G#4 A4"),
    ("Am7", "C5/4 B4/8 A4 G4 E4"),
    ("D7", "F#4/8 A4 C5 E5 D5/4"),
    # B
    ("Cmaj7", "E5/4> G5/8 B5 A5 G5"),
    ("F7", "A5/8 Eb5 C5 A4 G4 A4"),
    ("Bm7", "D5/8 F#5 A5 C#6 B5/4"),
    ("E7b9", "D6/8 B5 G#5 F5 E5 D5"),
    ("Am7", "C5/8 D#5 E5 G5 B5 G5"),
    ("Cm6", "A5/8 G5 Eb5 C5 B4 C5"),
    ("Bm7", "D5/8 E5 F#5 A5 F#5 D5"),
    ("Bb7", "F5/8 D5 Bb4 Ab4 B4 G#4"),
    # A
    ("Am7", "A4/4 C5/8 E5 G5/4"),
    ("D7", "A4/8 F#4 Db5 F5 Ab5 C6"),
    ("Gmaj7", "B5/4 A5/8 F#5 G5 D5"),
    ("E7b9", "B4/8 D5 F5 G#5 E5/4'"),
    ("Am7", "r/8 C5 E5 G5 F#5 E5"),
    ("D7b9", "Eb5/8 D5 C5 A4 F#4 A#4"),
    ("G6", "B4/4. D5/8 E5 G5"),
    ("G6", "B5/2 r/4"),
)


def wheel() -> Solo:
    """A 32-bar waltz, on clarinet."""
    meter = Meter.parse("3/4")
    written = write_out(_WHEEL, meter.bar_length, Fraction(1))
    clarinet = instrument_named("Clarinet")
    assert clarinet is not None
    return Solo(
        title="Waltz for an Empty Ferris Wheel",
        player="Perpetua Lindqvarn",
        instrument=clarinet,
        style="jazz waltz",
        tempo=Fraction(152),
        pickup=Fraction(1),
        meters=(MeterRegion(Fraction(0), meter),),
        keys=(KeyRegion(Fraction(0), Key.parse("G major")),),
        chords=written.chords,
        notes=written.notes,
        sections=tuple(Section(Fraction(24 * k), label) for k, label in enumerate("AABA")),
    )
