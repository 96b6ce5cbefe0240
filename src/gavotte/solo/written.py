"""Written pitch: a solo as its player reads it."""

from __future__ import annotations

from dataclasses import replace

from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed_simply
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key

_MOST_ACCIDENTALS = 6


def written_interval(solo: Solo) -> Interval:
    """How far above the sounding pitch the instrument's part is written, spelled so that its keys can be read."""
    instrument = solo.instrument
    interval = Interval(-instrument.transposition_steps, -instrument.transposition_semitones)
    if not interval.semitones:
        return interval
    tonic = solo.keys[0].key.tonic.transposed(interval)
    fifths = Key(tonic, solo.keys[0].key.mode).fifths
    if fifths > _MOST_ACCIDENTALS:
        return interval + Interval(1, 0)
    if fifths < -_MOST_ACCIDENTALS:
        return interval + Interval(-1, 0)
    return interval


def as_written(solo: Solo) -> Solo:
    """The solo in the instrument's written pitch: notes, chords, keys and the instrument's range move along.

    The result counts as concert pitch of an instrument that does not transpose. Keys beyond six sharps or flats
    are written enharmonically.
    """
    instrument, interval = solo.instrument, written_interval(solo)
    if not interval.semitones:
        return solo
    reads = replace(
        instrument,
        transposition_steps=0,
        transposition_semitones=0,
        lowest=instrument.lowest + interval.semitones,
        highest=instrument.highest + interval.semitones,
    )
    return replace(transposed_simply(solo, interval), instrument=reads)
