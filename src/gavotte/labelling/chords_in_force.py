"""The chords in force: what each stretch of a line is heard against, and which of its pitch classes are chord tones."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import NamedTuple

from gavotte.harmony.ground import Ground
from gavotte.harmony.keys import HeardKey, key_heard_at
from gavotte.labelling.local_scale import local_scale
from gavotte.labelling.tensions import ALTERED_TENSIONS, is_tension
from gavotte.solo.document import KeyRegion, Reading, ReadingKind, Solo
from gavotte.solo.school import School
from gavotte.solo.stretches import read_stretches
from gavotte.theory.chord import DEGREE_SEMITONES, Chord, UnreadChord
from gavotte.theory.scale import Scale


@dataclass(frozen=True, slots=True)
class ChordSpan:
    """A chord in force from ``onset`` on, and the pitch classes that count as its tones.

    ``written`` is False where the key's home chord stands in; ``unread`` is a symbol there that can't be read.
    ``over`` is the written chord where the user has another one heard.
    """

    onset: Fraction
    chord: Chord
    text: str
    scale: Scale
    key: KeyRegion
    tones: frozenset[int]
    written: bool = True
    unread: str = ""
    over: Chord | None = None


class _Event(NamedTuple):
    """A chord that begins to be in force."""

    onset: Fraction
    chord: Chord
    text: str
    written: bool
    unread: str = ""
    over: Chord | None = None


def chord_spans(solo: Solo, school: School, ground: Ground) -> tuple[ChordSpan, ...]:
    """The chords in force. N.C., what can't be read and a missing symbol are read as the key's home chord."""
    keys = ground.keys
    events = _written_events(solo, keys)
    for reading, covered in read_stretches(solo):
        if reading.kind is ReadingKind.IMPLIED and reading.chords:
            events = _with_implied(solo, events, reading, covered)
    # A symbol written again (in the next bar, say) is no new chord.
    merged = [event for i, event in enumerate(events) if i == 0 or event[1:] != events[i - 1][1:]]
    spans = []
    for i, event in enumerate(merged):
        following = merged[i + 1].chord if i + 1 < len(merged) else None
        key = key_heard_at(keys, event.onset).region
        scale = local_scale(event.chord, following, key)
        tones = _tones(event.chord, scale, school)
        spans.append(
            ChordSpan(event.onset, event.chord, event.text, scale, key, tones, event.written, event.unread, event.over)
        )
    return tuple(spans)


def _written_events(solo: Solo, keys: Sequence[HeardKey]) -> list[_Event]:
    events: list[_Event] = []
    for event in solo.chords:
        symbol = event.symbol
        if events and events[-1].onset == event.onset:
            # Two chords at one place: the second counts.
            events.pop()
        if isinstance(symbol, Chord):
            events.append(_Event(event.onset, symbol.as_read, event.text, True))
        else:
            unread = event.text if isinstance(symbol, UnreadChord) else ""
            events.append(_Event(event.onset, _home_chord(key_heard_at(keys, event.onset).region), "", False, unread))
    if not events:
        start = min((note.onset for note in solo.notes), default=Fraction(0))
        events.append(_Event(start, _home_chord(key_heard_at(keys, start).region), "", False))
    return events


def _with_implied(solo: Solo, events: list[_Event], reading: Reading, covered: range) -> list[_Event]:
    """The chords with those of a reading in force over the notes it covers, and the written ones after it."""
    start = solo.notes[covered.start].onset
    after = covered.stop
    end = solo.notes[after].onset if after < len(solo.notes) else solo.notes[-1].end
    before = [event for event in events if event.onset < start]
    inside = [event for event in events if start <= event.onset < end]
    behind = [event for event in events if event.onset >= end]
    in_force = (before or events)[-1 if before else 0]
    implied = []
    for index, chord in enumerate(reading.chords):
        symbol = chord.symbol
        if isinstance(symbol, Chord):
            onset = start if index == 0 else chord.onset
            under = [event for event in (in_force, *inside) if event.onset <= onset] or [in_force]
            implied.append(_Event(onset, symbol.as_read, chord.text, True, over=under[-1].chord))
    last = (inside or [in_force])[-1]
    resumed = [] if behind and behind[0].onset == end else [last._replace(onset=end)]
    return [*before, *(event for event in implied if start <= event.onset < end), *resumed, *behind]


def _tones(chord: Chord, scale: Scale, school: School) -> frozenset[int]:
    """The pitch classes that count as chord tones: the chord's own, and 6 and 9 where the school has them so."""
    added = set()
    if school.ninth_is_tone and is_tension(chord, "9", scale) and not ALTERED_TENSIONS & set(chord.tensions):
        added.add((chord.root.pitch_class + DEGREE_SEMITONES["9"]) % 12)
    if school.sixth_is_tone and (chord.is_major or chord.is_dominant) and is_tension(chord, "13", scale):
        added.add((chord.root.pitch_class + DEGREE_SEMITONES["13"]) % 12)
    return chord.tone_classes | added


def _home_chord(region: KeyRegion) -> Chord:
    return Chord(region.key.tonic, third="b3" if region.key.is_minor else "3")
