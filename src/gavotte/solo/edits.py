"""Edits: functions from a solo to a new solo. None of them changes its argument."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace
from fractions import Fraction
from functools import lru_cache
from typing import TypeVar

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import (
    ChordEvent,
    Decision,
    Function,
    Instrument,
    KeyRegion,
    MeterRegion,
    Note,
    Solo,
)
from gavotte.solo.spelling import respell_notes
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.pitch import spell

USUAL_DEVICE = {
    Function.CHORD: "plain",
    Function.EXTENSION: "natural",
    Function.PASSING: "passing",
    Function.APPROACH: "chromatic-passing",
    Function.OUTSIDE: "unexplained",
}
"""The device a function set by hand gets when nothing more is said."""


def with_decision(solo: Solo, note_id: str, function: Function, device: str) -> Solo:
    """The solo with the user's decision about a note in place of any earlier one. Raises KeyError."""
    solo.note(note_id)
    kept = tuple(d for d in solo.decisions if d.note != note_id)
    return replace(solo, decisions=(*kept, Decision(note_id, function, device)))


def without_decision(solo: Solo, note_id: str) -> Solo:
    """The solo with the user's decision about a note taken back."""
    return replace(solo, decisions=tuple(d for d in solo.decisions if d.note != note_id))


def with_details(
    solo: Solo, *, title: str, player: str, style: str, instrument: Instrument, key: Key, blues: bool
) -> Solo:
    """The solo under other names, on another instrument, or heard in another key from its start on.

    The sounding notes stay as they are; key regions after the first stay too.
    """
    first = replace(solo.keys[0], key=key, blues=blues)
    return replace(solo, title=title, player=player, style=style, instrument=instrument, keys=(first, *solo.keys[1:]))


def transposed(solo: Solo, interval: Interval) -> Solo:
    """The whole solo an interval higher: notes, chords and keys."""
    return replace(
        solo,
        notes=tuple(_transposed_note(note, interval) for note in solo.notes),
        chords=tuple(_transposed_chord(event, interval) for event in solo.chords),
        keys=_transposed_keys(solo.keys, interval),
        heard_keys=_transposed_keys(solo.heard_keys, interval),
        readings=tuple(
            replace(
                reading,
                tonic=None if reading.tonic is None else reading.tonic.transposed(interval),
                chords=tuple(_transposed_chord(event, interval) for event in reading.chords),
            )
            for reading in solo.readings
        ),
        dismissed=tuple(replace(slip, midi=slip.midi + interval.semitones) for slip in solo.dismissed),
    )


def _transposed_keys(keys: tuple[KeyRegion, ...], interval: Interval) -> tuple[KeyRegion, ...]:
    return tuple(replace(region, key=Key(region.key.tonic.transposed(interval), region.key.mode)) for region in keys)


# The same note moved by the same interval is the same value again, which the page knows by its identity.
@lru_cache(maxsize=8192)
def _transposed_note(note: Note, interval: Interval) -> Note:
    return replace(note, pitch=note.pitch.transposed(interval))


@lru_cache(maxsize=1024)
def _transposed_chord(event: ChordEvent, interval: Interval) -> ChordEvent:
    symbol = event.symbol
    if not isinstance(symbol, Chord):
        return event
    return replace(event, text=write_chord_symbol(symbol.transposed(interval)))


def excerpt(solo: Solo, first: str, last: str) -> Solo:
    """The notes from ``first`` to ``last`` (ids) with what sounds under them, the bar of ``first`` being bar 1.

    Labels decided by the user come along; sections and phrases are left behind. Raises KeyError.
    """
    start = solo.notes.index(solo.note(first))
    stop = solo.notes.index(solo.note(last))
    notes = solo.notes[min(start, stop) : max(start, stop) + 1]
    grid = BarGrid(solo)
    first_bar = grid.at(notes[0].onset)
    shift = first_bar.onset - first_bar.lead_in
    pickup = first_bar.length if first_bar.number == 0 else Fraction(0)
    if pickup:
        shift = Fraction(0)
    end = max(note.end for note in notes)
    ids = {note.id for note in notes}

    def moved(note: Note) -> Note:
        return replace(note, onset=note.onset - shift)

    tempos = [change for change in solo.tempo_changes if change.onset <= shift]
    return replace(
        solo,
        pickup=pickup,
        tempo=tempos[-1].tempo if tempos else solo.tempo,
        tempo_changes=tuple(
            replace(change, onset=change.onset - shift) for change in solo.tempo_changes if shift < change.onset < end
        ),
        notes=tuple(moved(note) for note in notes),
        chords=_chords_between(solo, notes[0].onset, end, shift, -pickup),
        meters=_regions(solo.meters, shift, end),
        keys=_regions(solo.keys, shift, end),
        odd_bars=tuple(replace(bar, onset=bar.onset - shift) for bar in solo.odd_bars if shift <= bar.onset < end),
        sections=(),
        phrases=(),
        texts=(),
        form_end=Fraction(0),
        chorus=Fraction(0),
        decisions=tuple(d for d in solo.decisions if d.note in ids),
        heard_keys=_regions(solo.heard_keys, shift, end) if solo.heard_keys else (),
        readings=tuple(
            replace(reading, chords=tuple(replace(event, onset=event.onset - shift) for event in reading.chords))
            for reading in solo.readings
            if {reading.first, reading.last} <= ids
        ),
        dismissed=(),
        remarks=(),
    )


def _chords_between(
    solo: Solo, start: Fraction, end: Fraction, shift: Fraction, earliest: Fraction
) -> tuple[ChordEvent, ...]:
    """The chords in force between two times, the first one pulled to where the excerpt's bar starts."""
    events = [event for event in solo.chords if event.onset < end]
    in_force = max((i for i, event in enumerate(events) if event.onset <= start), default=0)
    chosen = [replace(event, onset=event.onset - shift) for event in events[in_force:]]
    if (chosen and chosen[0].onset < earliest) or (chosen and chosen[0].onset > start - shift):
        chosen[0] = replace(chosen[0], onset=earliest)
    return tuple(chosen)


RegionT = TypeVar("RegionT", MeterRegion, KeyRegion)


def _regions(regions: tuple[RegionT, ...], shift: Fraction, end: Fraction) -> tuple[RegionT, ...]:
    """Meter or key regions as they apply from ``shift`` on, their onsets counted from there."""
    first = max((i for i, region in enumerate(regions) if region.onset <= shift), default=0)
    result = [replace(regions[first], onset=Fraction(0))]
    for region in regions[first + 1 :]:
        if region.onset < end:
            result.append(replace(region, onset=region.onset - shift))
    return tuple(result)


def with_notes_moved(solo: Solo, notes: Collection[str], semitones: int) -> Solo:
    """The solo with some notes (ids) moved by semitones and spelled anew; notes that would leave 0 to 127 stay."""
    wanted = frozenset(notes)

    def moved(note: Note) -> Note:
        midi = note.pitch.midi + semitones
        return replace(note, pitch=spell(midi, 0)) if note.id in wanted and 0 <= midi <= 127 else note

    return respell_notes(replace(solo, notes=tuple(moved(note) for note in solo.notes)), wanted)
