"""Things to practise that come from no solo: a scale in a pattern, and changes to play over."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.solo.document import ChordEvent, Instrument, KeyRegion, MeterRegion, Note, Solo
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import Pitch, PitchName
from gavotte.theory.scale import SCALES
from gavotte.workshop.operation import NOTHING_AROUND, Value, Values
from gavotte.workshop.operations.scales import THROUGH
from gavotte.workshop.piece import piece_of
from gavotte.writing.chord_line import ChordLine, read_chord_line

_SYMBOLS = (
    ({4, 10}, "7"), ({4, 11}, "maj7"), ({3, 6, 10}, "m7b5"), ({3, 10}, "m7"), ({3, 11}, "mMaj7"), ({3, 9}, "m6"),
    ({4, 9}, "6"), ({4, 8}, "+"), ({3, 6}, "dim7"),
)  # fmt: skip
"""A chord a scale is heard over: the first whose tones (semitones above the keynote) it has."""
_USUAL = {"blues": "7", "bebop minor": "m7", "whole tone": "7#5", "altered": "7alt"}
"""Scales that are heard over another chord than their tones say."""


def scale_exercise(
    instrument: Instrument, tonic: PitchName, scale: str, pattern: str, order: str, values: str, compass: str
) -> Solo:
    """A scale of ``theory.scale.SCALES`` in a pattern, from its keynote on, over a chord of its own.

    ``pattern``, ``order``, ``values`` and ``compass`` are values of the Workshop's step "Through a scale". Raises
    OperationError where the pattern does not fit into the compass.
    """
    steps = set(SCALES[scale])
    mode = "minor" if 3 in steps and 4 not in steps else "major"
    suffix = _USUAL.get(scale) or next((suffix for needed, suffix in _SYMBOLS if needed <= steps), "")
    seed = Solo(
        "",
        instrument=instrument,
        keys=(KeyRegion(Fraction(0), Key(tonic, mode)),),
        chords=(ChordEvent("c0", Fraction(0), f"{tonic}{suffix}"),),
        notes=(Note("n0", Fraction(0), Fraction(1), _start(instrument, tonic)),),
        form_end=Fraction(4),
    )
    chosen: dict[str, Value] = {
        "scale": scale, "tonic": str(tonic), "pattern": pattern, "order": order, "values": values, "compass": compass,
    }  # fmt: skip
    made = THROUGH.apply(piece_of(seed), Values(THROUGH, chosen), NOTHING_AROUND)
    return replace(made.solo, title=f"{tonic.shown} {scale}")


def _start(instrument: Instrument, tonic: PitchName) -> Pitch:
    """The keynote in the lower half of the instrument."""
    octaves = [Pitch(tonic.letter, tonic.alter, octave) for octave in range(9)]
    inside = [pitch for pitch in octaves if instrument.lowest <= pitch.midi <= instrument.highest]
    return inside[0] if inside else octaves[4]


def changes_of(text: str, instrument: Instrument, key: Key, meter: Meter) -> ChordLine:
    """Changes to play over, read from a chord line; its problems say what can't be read."""
    empty = Solo(
        "",
        instrument=instrument,
        keys=(KeyRegion(Fraction(0), key),),
        meters=(MeterRegion(Fraction(0), meter),),
        form_end=meter.bar_length,
    )
    return read_chord_line(text, empty)
