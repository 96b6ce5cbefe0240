"""Music for a version's readers: in their pitch and clef, in the octave that lies best on the staff."""

from __future__ import annotations

from dataclasses import replace

from gavotte.sheets.sheet import Version
from gavotte.solo.document import Instrument, Solo
from gavotte.solo.written import as_written, written_interval
from gavotte.theory.interval import UNISON, Interval

_READERS = {
    Version.CONCERT: Instrument("Concert instrument"),
    Version.B_FLAT: Instrument("B♭ instrument", -1, -2),
    Version.E_FLAT: Instrument("E♭ instrument", -5, -9),
    Version.F: Instrument("F instrument", -4, -7),
    Version.BASS_CLEF: Instrument("Bass clef instrument", 0, 0, "F4"),
}
_STAFF = {"G2": (58, 84), "F4": (38, 62)}
"""What lies on a staff with two ledger lines, as MIDI numbers."""
_AN_OCTAVE = 1.5
"""How many semitones beyond that each note may lie before the line is read an octave away."""
_OCTAVES = (0, 1, -1, 2, -2, 3, -3)


def for_version(solo: Solo, version: Version | None) -> Solo:
    """A solo as a version's readers read it; for None as it sounds.

    In concert pitch a guitar or bass keeps its own octave and strings.
    """
    return solo if version is None else as_written(taken_on(solo, version))


def interval_of(solo: Solo, version: Version | None) -> Interval:
    """How far above the solo its names stand in a version, less than an octave."""
    if version is None:
        return UNISON
    interval = written_interval(taken_on(solo, version))
    octaves = interval.semitones // 12
    return Interval(interval.steps - 7 * octaves, interval.semitones - 12 * octaves)


def plain_interval(version: Version | None) -> Interval:
    """The same for names that belong to no solo."""
    if version is None:
        return UNISON
    return Interval(-_READERS[version].transposition_steps, -_READERS[version].transposition_semitones)


def taken_on(solo: Solo, version: Version) -> Solo:
    """The sounding solo with a version's reader in place of its instrument."""
    reader, own = _READERS[version], solo.instrument
    if version is Version.CONCERT:
        if own.name in ("Guitar", "Bass"):
            return solo
        # Concert pitch on the page: where the player reads bass clef it stays so.
        clef = own.chosen_clef or own.clef
        return replace(solo, instrument=replace(reader, clef=clef))
    octaves = _best_octaves(solo, reader)
    return replace(
        solo,
        instrument=replace(
            reader,
            transposition_steps=reader.transposition_steps - 7 * octaves,
            transposition_semitones=reader.transposition_semitones - 12 * octaves,
            lowest=own.lowest,
            highest=own.highest,
        ),
    )


def _best_octaves(solo: Solo, reader: Instrument) -> int:
    """By how many octaves the written line is moved: as little beyond the staff as can be without going far."""
    low, high = _STAFF[reader.clef]
    written = [note.pitch.midi - reader.transposition_semitones for note in solo.notes]

    def burden(octaves: int) -> float:
        pitches = (pitch + 12 * octaves for pitch in written)
        beyond = sum(max(0, low - pitch) + max(0, pitch - high) for pitch in pitches)
        return beyond + _AN_OCTAVE * len(written) * abs(octaves)

    return min(_OCTAVES, key=burden)
