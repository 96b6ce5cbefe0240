"""Two-Bucket Blues: two choruses and the bar they end in."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.demo.shorthand import write_out
from gavotte.solo.document import KeyRegion, MeterRegion, Section, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.theory.interval import OCTAVE
from gavotte.theory.key import Key
from gavotte.theory.meter import COMMON_TIME

_BUCKET = (
    ("Bb7", "F4/8 G4"),
    # first chorus
    ("Bb7", "r/8 Bb4 Db5{slide} D5 F5/4> G5/8 F5"),
    ("Eb7", "Db5/4 Bb4/8 G4 Ab4 A4 Bb4/4"),
    ("Bb7", "D5/8 F5 Ab5/4 F5/8 Db5{bend:1/2} Bb4/4"),
    ("Fm7 Bb7", "Ab4/8 C5 Eb5 G5 F5 D5 Cb5 Ab4"),
    ("Eb7", "G4/4 Bb4/8 Db5 Eb5/4{fall} r/4"),
    ("Edim7", "E4/8 G4 Bb4 Db5 E5 Db5 Bb4 G4"),
    ("Bb7", "F5/4 E5/8 Eb5 D5 Bb4 r/4"),
    ("Dm7 G7b9", "A4/8 C5 F5 D5 B4 Ab4 F4 D4"),
    ("Cm7", "Eb4/8 G4 Bb4 D5 C5/4 r/8 G4/8"),
    ("F7", "A4/8 C5 Eb5 Gb5 F5 C5 Eb5 C#5"),
    ("Bb7 G7", "D5/4 Bb4/8 F4 B4 D5 F5 Ab5"),
    ("Cm7 F7", "G5/8 E5? C5 G4 A4/4 r/4"),
    # second chorus
    ("Bb7", "Bb4/8t D5 F5 Ab5/4> r/4 F5/8 Ab5"),
    ("Eb7", "G5/8 F5 Eb5 Db5 Bb4 Ab4 F#4 G4"),
    ("Bb7", "D5/4. F5/8 Db5/4{bend:1} Bb4/4"),
    ("Fm7 Bb7", "C5/8 Ab4 Eb5 C5 D5 F5 Ab5 Cb6"),
    ("Eb7", "Bb5/4> G5/8 Eb5 Db5 Bb4{pull-off} G4/4"),
    ("Edim7", "Bb4/8 G4 E4 G4 Bb4 Db5 E5 G5"),
    ("Bb7", "F5/8t G5{hammer-on} Ab5 F5/8 D5 Db5/4{bend:1/2} Bb4/4"),
    ("Dm7 G7b9", "r/8 A4 C5 F5 Ab5 F5 D5 B4"),
    ("Cm7", "C5/4 Eb5/8 E5 F5 F#5 G5/4"),
    ("F7", "F#4/8 A4 C#5 E5 Eb5 C5 A4 Gb4"),
    ("Bb7 G7", "F4/8 Bb4 D5 F5 Ab5 F5 D5 B4"),
    ("Cm7 F7", "C5/8 Eb5 G5 Bb5 A5 Gb5 Eb5 C5"),
    ("Bb7", "D5/4 Bb4/4' r/2"),
)


def bucket() -> Solo:
    """A jazz blues of two choruses, on guitar."""
    written = write_out(_BUCKET, COMMON_TIME.bar_length, Fraction(1))
    guitar = instrument_named("Guitar")
    assert guitar is not None
    return Solo(
        title="Two-Bucket Blues",
        player="Ilka Rosenquill",
        instrument=guitar,
        style="jazz blues",
        tempo=Fraction(126),
        pickup=Fraction(1),
        meters=(MeterRegion(Fraction(0), COMMON_TIME),),
        keys=(KeyRegion(Fraction(0), Key.parse("Bb major"), blues=True),),
        chords=written.chords,
        # Written down as a guitarist reads it, an octave above the sound.
        notes=tuple(replace(note, pitch=note.pitch.transposed(-OCTAVE)) for note in written.notes),
        sections=(Section(Fraction(0), "1st chorus"), Section(Fraction(48), "2nd chorus")),
    )
