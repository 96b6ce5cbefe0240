"""Rain on the Tin Arcade: 24 bars in minor that somebody has only begun to write down."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.demo.shorthand import write_out
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME

_ARCADE = (
    # A
    ("Gm6", "G4/8 Bb4 D5 E5 D5 Bb4 A4 G4"),
    ("Am7b5 D7b9", "C5/8 Eb5 G5 A5 F#5 Eb5 C5 A4"),
    ("Gm6", "Bb4/4. A4/8 G4 Bb4 D5 G5"),
    ("G7b9", "F5/8 D5 B4 Ab4 G4 B4 D5 F5"),
    ("Cm7", "Eb5/4 G5/8 F5 Eb5 D5 C5 Bb4"),
    ("F7", "A4/8 C5 Eb5 G5 F5/4 r/4"),
    ("Bbmaj7", "r/8 D5 F5 A5 G5 F5 D5 C5"),
    ("Am7b5 D7b9", "Eb5/8 C5 A4 G4 F#4 A4 C5 Eb5"),
    # B
    ("Gm7", "D5/4. Bb4/8 G4/4 r/4"),
    ("C7", "r/8 G4 Bb4 D5 E5/4 G5/4{bend:1}"),
    ("Fm7", "F5/8t G5 Ab5 F5/8 Eb5 C5/4 Ab4/4"),
    ("Bb7", "D5/8 F5 Ab5 F5 D5 Cb5 Bb4 Ab4"),
    ("Ebmaj7", "G4/4 Bb4/8 D5 Eb5 G5 F5 D5"),
    ("Cm7", "C5/4 Eb5/8 D5 C5/4 r/4"),
    ("Am7b5", "r/8 A4 C5 Eb5 G5 Eb5 C5 A4"),
    ("D7b9", "F#4/8 A4 C5 Eb5 D5 C5 A4 F#4"),
    # A
    ("Gm6", "G4/8t Bb4 D5 G5/8> E5 D5 Bb4 G4/4"),
    ("Am7b5 D7b9", "A4/8 C5 Eb5 G5 F#5 Eb5 C5 A4"),
    ("Gm6", "Bb4/4 G4/4' r/8 D5 E5 G5"),
    ("G7b9", "Ab5/8 F5 D5 B4 Ab4 B4 D5 F5"),
    ("Cm7", "Eb5/8 D5 C5 G4 Bb4 C5 Eb5 G5"),
    ("F7", "F5/4 Eb5/8 C5 A4 C5 Eb5 C5"),
    ("Am7b5 D7b9", "C5/8 A4 Eb5 C5 F#4 A4 C5 A4"),
    ("Gm6", "Bb4/4 G4/8 D4 G4/2"),
)
WRITTEN_BARS = 8


def arcade() -> Solo:
    """The whole solo, as it is played on alto saxophone."""
    written = write_out(_ARCADE, COMMON_TIME.bar_length)
    alto = instrument_named("Alto saxophone")
    assert alto is not None
    return Solo(
        title="Rain on the Tin Arcade",
        player="Nella Brackwater",
        instrument=alto,
        style="medium swing",
        tempo=Fraction(138),
        meters=(MeterRegion(Fraction(0), COMMON_TIME),),
        keys=(KeyRegion(Fraction(0), Key.parse("G minor")),),
        chords=written.chords,
        notes=written.notes,
        sections=tuple(Section(Fraction(32 * k), label) for k, label in enumerate("ABA")),
        form_end=len(_ARCADE) * COMMON_TIME.bar_length,
    )


def begun_arcade() -> Solo:
    """What of it is written: its first eight bars, and the changes of all."""
    whole = arcade()
    end = WRITTEN_BARS * COMMON_TIME.bar_length
    return replace(whole, notes=tuple(note for note in whole.notes if note.onset < end))
