"""Quarry at Five: a minor modal vamp in 5/4."""

from __future__ import annotations

from fractions import Fraction

from gavotte.demo.shorthand import write_out
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter

_QUARRY = (
    ("Dm7", "A4/8 C5"),
    # A
    ("Dm7", "D5/4. C5/8 A4/4 F4/8 G4 A4/4"),
    ("Dm7", "r/8 B4 C5 D5 E5 F5 E5/4 C5/4"),
    ("Dm7", "A4/8 G4 F4 E4 F4 A4 C5 E5 D5/4"),
    ("Dm7", "C5/8 C#5 D5 F5 G5/4.> F5/8 r/4"),
    # B
    ("Fm7", "Eb5/4 C5/8 Ab4 G4 Ab4 C5 Eb5 F5/4"),
    ("Fm7", "G5/4. F5/8 Eb5 C5 D5 Eb5 C5/4"),
    ("Fm7", "Bb4/8 B4 C5 Eb5 D5 Db5 C5 Ab4 F4/4"),
    ("Fm7", "G4/8 Ab4 Bb4 C5 Eb5 F5 Ab5/4 G5/4'"),
    # A
    ("Dm7", "F5/4> E5/8 D5 C5 A4 Bb4 G#4 A4/4"),
    ("Dm7", "A4/8 F4 Eb4 Gb4 Bb4 Db5 C5 A4 D5/4"),
    ("Dm7", "E5/8t F5 E5 D5/8 C5 A4/4 G4/8 F4 E4/4"),
    ("Dm7", "*C#5 D5/4.{slide} A4/8 C5/4 r/2"),
    # C
    ("Bbmaj7#11", "D5/8 F5 E5 C5 A4 Bb4 D5 E5 F5/4"),
    ("Bbmaj7#11", "E5/4. D5/8 C5 A4 G4 F4 E4/4"),
    ("Dm7", "F4/8 G4 A4 C5 B4 C5 D5 F5 E5/4"),
    ("Dm7", "C5/8 A4 G4 A4 D4/2 r/4"),
)


def quarry() -> Solo:
    """A minor modal vamp in 5/4 (three and two), on alto saxophone."""
    meter = Meter.parse("5/4", "3+2")
    written = write_out(_QUARRY, meter.bar_length, Fraction(1))
    alto = instrument_named("Alto saxophone")
    assert alto is not None
    return Solo(
        title="Quarry at Five",
        player="Sunniva Abelgard",
        instrument=alto,
        style="even eighths in 5/4",
        tempo=Fraction(160),
        pickup=Fraction(1),
        meters=(MeterRegion(Fraction(0), meter),),
        keys=(KeyRegion(Fraction(0), Key.parse("D minor", "dorian")),),
        chords=written.chords,
        notes=written.notes,
        sections=tuple(Section(Fraction(20 * k), label) for k, label in enumerate("ABAC")),
    )
