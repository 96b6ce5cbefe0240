"""Written pitch: a solo as its player reads it."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, replace

from gavotte.solo.differences import differing
from gavotte.solo.document import Instrument, Solo
from gavotte.solo.moving import spelled_simply, transposed_simply
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.pitch import PitchError

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


def read_by(solo: Solo, reader: Instrument | None) -> Solo:
    """The solo as the player of another instrument takes it on: with that instrument in place of its own.

    It is read whole octaves away where the two lie so far apart: a trumpet's line an octave lower on the tenor. Which,
    follows from the instruments alone: no note that is written moves all others. None leaves the solo as it is.
    """
    own = solo.instrument
    if reader is None or reader.name == own.name:
        return solo
    middle, goal = own.lowest + own.highest, reader.lowest + reader.highest
    octaves = round((goal - middle) / 24)
    return replace(
        solo,
        instrument=replace(
            reader,
            transposition_steps=reader.transposition_steps - 7 * octaves,
            transposition_semitones=reader.transposition_semitones - 12 * octaves,
            lowest=reader.lowest - 12 * octaves,
            highest=reader.highest - 12 * octaves,
        ),
    )


def as_written(solo: Solo) -> Solo:
    """The solo in the instrument's written pitch: notes, chords, keys and the instrument's range move along.

    The result counts as concert pitch of an instrument that does not transpose. Keys beyond six sharps or flats
    are written enharmonically. What an edit did not touch is the same value as before it.
    """
    interval = written_interval(solo)
    if not interval.semitones:
        return solo
    turned = tuple(_TURNED)
    known = next((known for known in turned if known.concert is solo), None)
    if known is not None:
        return known.written
    reads = _without_transposition(solo.instrument, interval)
    try:
        like = next((known for known in reversed(turned) if known.is_like(solo, interval)), None)
        moved = spelled_simply(solo, interval) if like is None else _turned_like(solo, interval, like)
    except PitchError:
        return replace(transposed_simply(solo, interval), instrument=reads)
    written = replace(moved, instrument=reads)
    _TURNED.append(_Turned(solo, interval, written))
    return written


def _without_transposition(instrument: Instrument, interval: Interval) -> Instrument:
    return replace(
        instrument,
        transposition_steps=0,
        transposition_semitones=0,
        lowest=instrument.lowest + interval.semitones,
        highest=instrument.highest + interval.semitones,
    )


@dataclass(frozen=True, slots=True)
class _Turned:
    """A solo in concert pitch, and the same an interval higher."""

    concert: Solo
    interval: Interval
    written: Solo

    def is_like(self, solo: Solo, interval: Interval) -> bool:
        """Whether it may well be an older value of a solo; if it is not, little is shared with it."""
        return self.interval == interval and self.concert.title == solo.title


_TURNED: deque[_Turned] = deque(maxlen=3)
"""The solos turned last."""


def _turned_like(solo: Solo, interval: Interval, like: _Turned) -> Solo:
    """The same as of nearly the same solo, with what they do not share made anew. Raises PitchError."""
    start, old_stop, stop = differing(like.concert.notes, solo.notes)
    same_chords = solo.chords is like.concert.chords
    part = replace(solo, notes=solo.notes[start:stop], chords=() if same_chords else solo.chords)
    fresh = spelled_simply(part, interval)
    old = like.written
    return replace(
        fresh,
        notes=(*old.notes[:start], *fresh.notes, *old.notes[old_stop:]),
        chords=old.chords if same_chords else fresh.chords,
    )
