"""Moving a solo: in time, in pitch, and a piece of it by itself.

``ROLES`` says of every field of a solo and its parts what becomes of it when the solo is moved. Shifting and
transposing follow it, so that a new field only has to be declared.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from enum import Enum
from fractions import Fraction
from functools import lru_cache
from typing import Any, TypeVar

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import (
    ChordEvent,
    Decision,
    Dismissed,
    KeyRegion,
    Mark,
    MeterRegion,
    Note,
    OddBar,
    Phrase,
    PhraseStart,
    PhraseWords,
    Reading,
    Reduction,
    Remark,
    Section,
    Solo,
    TempoChange,
    Text,
)
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import read_or_keep, write_chord_symbol
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.pitch import Pitch, PitchError, PitchName, respelled, spell


class Role(Enum):
    """What becomes of a field when its solo is moved."""

    TIME = "moves in time"
    PITCH = "moves in pitch"
    PARTS = "holds parts that move"
    STAYS = "stays"


T, P, PARTS, S = Role.TIME, Role.PITCH, Role.PARTS, Role.STAYS
ROLES: Mapping[type, Mapping[str, Role]] = {
    Solo: {
        "title": S, "player": S, "instrument": S, "style": S, "tempo": S, "pickup": S, "meters": PARTS, "keys": PARTS,
        "odd_bars": PARTS, "chords": PARTS, "sections": PARTS, "notes": PARTS, "phrases": S, "decisions": S,
        "tempo_changes": PARTS, "swing": S, "texts": PARTS, "form_end": T, "chorus": S, "school": S,
        "heard_keys": PARTS, "readings": PARTS, "dismissed": PARTS, "passed": PARTS, "remarks": PARTS,
        "phrase_starts": S, "phrase_words": S, "reductions": S, "year": S,
        "album": S, "is_head": S, "source": S, "tags": S,
    },
    Note: {
        "id": S, "onset": T, "duration": S, "pitch": P, "written": S, "tuplet": S, "grace": S, "marks": S,
        "uncertain": S, "finger": S, "string": S, "pick": S,
    },
    ChordEvent: {"id": S, "onset": T, "text": P},
    MeterRegion: {"onset": T, "meter": S},
    KeyRegion: {"onset": T, "key": P, "blues": S},
    OddBar: {"onset": T, "length": S},
    TempoChange: {"onset": T, "tempo": S},
    Section: {"onset": T, "label": S},
    Text: {"onset": T, "words": S},
    Reading: {"first": S, "last": S, "kind": S, "tonic": P, "collection": S, "chords": PARTS},
    Dismissed: {"note": S, "midi": P},
    Remark: {"onset": T, "words": S},
    Phrase: {"first": S, "last": S},
    Decision: {"note": S, "function": S, "device": S},
    PhraseStart: {"note": S, "begins": S},
    PhraseWords: {"note": S, "words": S},
    Reduction: {"note": S, "level": S},
    Mark: {"articulation": S, "semitones": S},
}  # fmt: skip
"""The role of every field. Lengths stay: they are the same wherever they begin. A ``form_end`` of 0 means none."""

ValueT = TypeVar("ValueT")


def shifted(value: ValueT, by: Fraction) -> ValueT:
    """A solo, or a part of one, with every time moved by some quarter notes."""
    if not by:
        return value
    changes: dict[str, Any] = {}
    for name, role in ROLES[type(value)].items():
        field = getattr(value, name)
        if role is Role.TIME and not (name == "form_end" and not field):
            changes[name] = field + by
        elif role is Role.PARTS and field:
            changes[name] = tuple(shifted(part, by) for part in field)
    return replace(value, **changes) if changes else value  # type: ignore[type-var]


def transposed(value: ValueT, interval: Interval) -> ValueT:
    """A solo, or a part of one, an interval higher: notes, chords, keys, readings.

    Raises PitchError where no name is left.
    """
    changes: dict[str, Any] = {}
    for name, role in ROLES[type(value)].items():
        field = getattr(value, name)
        if role is Role.PITCH:
            changes[name] = _higher(field, interval)
        elif role is Role.PARTS and field:
            changes[name] = tuple(_transposed_part(part, interval) for part in field)
    return replace(value, **changes) if changes else value  # type: ignore[type-var]


# The same note moved by the same interval is the same value again, which the page knows by its identity.
@lru_cache(maxsize=2048)
def _transposed_part(part: Any, interval: Interval) -> Any:
    return transposed(part, interval)


def _higher(value: object, interval: Interval) -> object:
    """A pitch, its name, its MIDI number, a key or the text of a chord symbol, an interval higher."""
    if isinstance(value, Pitch | PitchName):
        return value.transposed(interval)
    if isinstance(value, Key):
        return Key(value.tonic.transposed(interval), value.mode)
    if isinstance(value, int):
        return value + interval.semitones
    if isinstance(value, str):
        symbol = read_or_keep(value)
        return write_chord_symbol(symbol.transposed(interval)) if isinstance(symbol, Chord) else value
    return value


def transposed_simply(solo: Solo, interval: Interval) -> Solo:
    """The transposed solo with double accidentals written as the simple note that sounds the same."""
    try:
        return spelled_simply(solo, interval)
    except PitchError:
        return _with_simple_names(_by_semitones(solo, interval))


def spelled_simply(solo: Solo, interval: Interval) -> Solo:
    """The same where every pitch can be spelled by the interval. Raises PitchError where one can't."""
    return _with_simple_names(transposed(solo, interval))


def _with_simple_names(moved: Solo) -> Solo:
    return replace(
        moved,
        notes=tuple(_simple_note(note) for note in moved.notes),
        chords=tuple(_simple_chord(event) for event in moved.chords),
    )


def _by_semitones(solo: Solo, interval: Interval) -> Solo:
    """For pitches no interval can spell: move by sound, spell by the new key."""
    key = solo.keys[0].key
    new_key = Key(key.tonic.transposed(interval), key.mode)
    notes = tuple(
        replace(note, pitch=spell(note.pitch.midi + interval.semitones, new_key.fifths)) for note in solo.notes
    )
    rest = transposed(replace(solo, notes=()), interval)
    return replace(rest, notes=notes, keys=(replace(solo.keys[0], key=new_key),))


def _simple_name(name: PitchName) -> PitchName:
    """The name itself, or for a double accidental the plain name of the same sound."""
    if abs(name.alter) < 2:
        return name
    pitch = spell(60 + name.pitch_class, 0 if name.alter > 0 else -2)
    return pitch.name


@lru_cache(maxsize=2048)
def _simple_note(note: Note) -> Note:
    if abs(note.pitch.alter) < 2:
        return note
    return replace(note, pitch=respelled(note.pitch, _simple_name(note.pitch.name)))


@lru_cache(maxsize=1024)
def _simple_chord(event: ChordEvent) -> ChordEvent:
    symbol = event.symbol
    if not isinstance(symbol, Chord):
        return event
    bass = None if symbol.bass is None else _simple_name(symbol.bass)
    return replace(event, text=write_chord_symbol(replace(symbol, root=_simple_name(symbol.root), bass=bass)))


def excerpt(solo: Solo, first: str, last: str) -> Solo:
    """The notes from ``first`` to ``last`` (ids) with what sounds under them, the bar of ``first`` being bar 1.

    Labels decided by the user come along; sections and phrases are left behind. Raises KeyError.
    """
    start, stop = solo.places[first], solo.places[last]
    notes = solo.notes[min(start, stop) : max(start, stop) + 1]
    grid = BarGrid(solo)
    first_bar = grid.at(notes[0].onset)
    shift = first_bar.onset - first_bar.lead_in
    pickup = first_bar.length if first_bar.number == 0 else Fraction(0)
    if pickup:
        shift = Fraction(0)
    end = max(note.end for note in notes)
    ids = {note.id for note in notes}

    tempos = [change for change in solo.tempo_changes if change.onset <= shift]
    return replace(
        solo,
        pickup=pickup,
        tempo=tempos[-1].tempo if tempos else solo.tempo,
        tempo_changes=tuple(shifted(change, -shift) for change in solo.tempo_changes if shift < change.onset < end),
        notes=tuple(shifted(note, -shift) for note in notes),
        chords=_chords_between(solo, notes[0].onset, end, shift, -pickup),
        meters=_regions(solo.meters, shift, end),
        keys=_regions(solo.keys, shift, end),
        odd_bars=tuple(shifted(bar, -shift) for bar in solo.odd_bars if shift <= bar.onset < end),
        sections=(),
        phrases=(),
        texts=(),
        form_end=Fraction(0),
        chorus=Fraction(0),
        decisions=tuple(d for d in solo.decisions if d.note in ids),
        heard_keys=_regions(solo.heard_keys, shift, end) if solo.heard_keys else (),
        readings=tuple(shifted(reading, -shift) for reading in solo.readings if {reading.first, reading.last} <= ids),
        dismissed=(),
        passed=(),
        remarks=(),
        phrase_starts=(),
        phrase_words=(),
        reductions=tuple(reduction for reduction in solo.reductions if reduction.note in ids),
        is_head=False,
    )


def _chords_between(
    solo: Solo, start: Fraction, end: Fraction, shift: Fraction, earliest: Fraction
) -> tuple[ChordEvent, ...]:
    """The chords in force between two times, the first one pulled to where the excerpt's bar starts."""
    events = [event for event in solo.chords if event.onset < end]
    in_force = max((i for i, event in enumerate(events) if event.onset <= start), default=0)
    chosen = [shifted(event, -shift) for event in events[in_force:]]
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
            result.append(shifted(region, -shift))
    return tuple(result)
