"""Cinder Lane: a slow blues in 12/8."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.demo.shorthand import write_out
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.interval import OCTAVE
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter

_CINDER = (
    ("A7", "E4/8 G4 A4"),
    ("A7", "C5/4{bend:1/2} C#5/8 E5/4. D5/8 C5 A4 G4/4."),
    ("D7", "A4/8 C5{slide} D5 F#5/4 E5/8 D5/4 C5/8 A4/4."),
    ("A7", "E5/4.{bend:2} G5/8 F#5 E5 C#5/4 A4/8 r/4."),
    ("A7", "r/8 E4 A4 C#5 E5 G5 Bb5/4{scoop} G5/8 E5 C#5 Bb4"),
    ("D7", "A4/4 F#4/8 A4 C5 D5 F5/4{bend:1/2} D5/8 C5/4."),
    ("D#dim7", "D#4/8 F#4 A4 C5 D#5 F#5 A5/4. G5/8 F#5 D#5"),
    ("A7", "E5/4 Eb5/8 D5{pull-off} C5 A4 C5/4{bend:1/2} A4/8 G4/4."),
    ("F#7b9", "G4/8 A#4 C#5 E5 G5 E5 C#5 A#4 G4 F#4/4.{fall}"),
    ("Bm7", "D5/4 C#5/8 B4 D5{hammer-on} F#5 A5/4. F#5/8 E5 D5"),
    ("E7", "G#4/8 B4 D5 F5 E5 D5 C5 Bb4 G#4 A4 C#5 B4"),
    ("A7 F#7", "C#5/4.{slide} E5/8 G5 E5 F#5/4 E5/8 C#5 A#4 G4"),
    ("Bm7 E7", "B4/8 D5 F#5 A5/4.{bend:1} G#5/8 F5 D5 B4 G#4 Bb4?"),
    ("A7", "*C5 C#5/4.> E4/4. A4/2."),
)


def cinder() -> Solo:
    """A chorus of slow blues in 12/8, on guitar, with bends and slides."""
    meter = Meter.parse("12/8")
    written = write_out(_CINDER, meter.bar_length, Fraction(3, 2))
    guitar = instrument_named("Guitar")
    assert guitar is not None
    return Solo(
        title="Cinder Lane",
        player="Tobiah Wrenfield",
        instrument=guitar,
        style="slow blues in 12/8",
        # A dotted quarter is 54 a minute.
        tempo=Fraction(81),
        pickup=Fraction(3, 2),
        meters=(MeterRegion(Fraction(0), meter),),
        keys=(KeyRegion(Fraction(0), Key.parse("A major"), blues=True),),
        chords=written.chords,
        notes=tuple(replace(note, pitch=note.pitch.transposed(-OCTAVE)) for note in written.notes),
        sections=(Section(Fraction(0), "Chorus"),),
    )
