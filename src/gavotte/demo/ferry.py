"""Lamplight on the Ferry: a 32-bar A-A-B-A at a medium swing."""

from __future__ import annotations

from fractions import Fraction

from gavotte.demo.shorthand import write_out
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME

_FERRY = (
    ("C7", "E4/8 G4"),
    # A
    ("Fmaj7", "A4/4.> G4/8 F4 A4 C5 E5"),
    ("D7b9", "F#5/8 Eb5 C5 A4 F#4 A4 C5 A4"),
    ("Gm7", "Bb4/4 D5/8 F5 A5/4 G5/8 F5"),
    ("C7", "E5/8 Db5 Bb4 G4 F4 G4 Bb4 G#4"),
    ("Am7 D7", "A4/8 C5 E5 G5 F#5 Eb5 D5 C5"),
    ("Gm7 C7", "Bb4/8 D5 F5 A5 Ab5 G5 E5 C5"),
    ("Fmaj7 D7", "A4/8 G4 F4 E4 F#4 A4 C5 Eb5"),
    ("Gm7 C7", "D5/4 Bb4/8 A4 G4/4' r/4"),
    # A
    ("Fmaj7", "r/4 C5/8t D5 E5 F5/8 A5> G5 E5"),
    ("D7b9", "F#5/4 Eb5/8 D5 C5 A4 F#4 A4"),
    ("Gm7", "Bb4/8 C5 C#5 D5 F5 D5 Bb4 G4"),
    ("C7", "E4/8 G4 Bb4 Db5 C5 G4 Bb4 G#4"),
    ("Am7 D7", "A4/4 C5/8 E5 Eb5 C5 A4 F#4"),
    ("Gm7 C7", "G4/8 Bb4 D5 F5 E5 D5 C5 Bb4"),
    ("F6", "A4/4 F4/8 C4 r/2"),
    ("F6", "r/2 F4/8 G4 A4 Bb4"),
    # B
    ("Cm7", "C5/4 Eb5/8 G5 Bb5/4.> G5/8"),
    ("F7", "A5/8 Gb5 Eb5 C5 A4 Db5 B4 C5"),
    ("Bbmaj7", "D5/4. C5/8 Bb4 D5 F5 A5"),
    ("Bbmaj7", "C6/4 Ab5/8? F5 D5/4 r/4"),
    ("Bbm7", "r/8 F5 Ab5 C6 Bb5 Ab5 F5 Db5"),
    ("Eb7", "G5/8 F5 Eb5 Db5 Bb4 A4 Bb4 G4"),
    ("Am7 D7b9", "C5/8t Bb4 A4 G4/8 E4 F#4 A4 C5 Eb5?"),
    ("Gm7 C7", "D5/8 Bb4 F5 D5 Ab4 Cb5 Eb5 Gb5"),
    # A
    ("Fmaj7", "F5/8> E5 C5 A4 G4 A4 C5 E5"),
    ("D7b9", "Eb5/4 C5/8 A4 F#4 G4 G#4 A4"),
    ("Gm7", "Bb4/8 G4 D5 Bb4 F5 D5 A5 F5"),
    ("C7", "Gb5/8 E5 Db5 Bb4 G4 Ab4 A4 Bb4"),
    ("Am7 D7", "C5/4 E5/8 A5 F#5 Eb5 C5 A4"),
    ("Gm7 C7", "Bb4/8 D5 G5 F5 E5 Db5 Bb4 G4"),
    ("F6", "*G#4 A4/8{slide} C5 F5 D5 C5/4 r/4"),
    ("F6", "r/8 C5 D5 A4 F4/2"),
)


def ferry() -> Solo:
    """A 32-bar A-A-B-A at a medium swing, on trumpet."""
    written = write_out(_FERRY, COMMON_TIME.bar_length, Fraction(1))
    trumpet = instrument_named("Trumpet")
    assert trumpet is not None
    return Solo(
        title="Lamplight on the Ferry",
        player="Odo Vantongeren",
        instrument=trumpet,
        style="medium swing",
        tempo=Fraction(148),
        pickup=Fraction(1),
        meters=(MeterRegion(Fraction(0), COMMON_TIME),),
        keys=(KeyRegion(Fraction(0), Key.parse("F major")),),
        chords=written.chords,
        notes=written.notes,
        sections=tuple(Section(Fraction(32 * k), label) for k, label in enumerate("AABA")),
    )
