"""The frame of a note: what the ear knows about it before it decides what the note does.

For each note: the chord in force and its local scale, the beat, how it is reached and left, and whether it
is held. All distances are in semitones, all lengths in quarter notes.
"""

from __future__ import annotations

import itertools
import math
from bisect import bisect_right
from dataclasses import dataclass
from fractions import Fraction
from typing import NamedTuple

from gavotte.labelling.local_scale import local_scale
from gavotte.labelling.tensions import is_blue, is_clash, is_tension
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import KeyRegion, Note, Solo
from gavotte.theory.chord import Chord
from gavotte.theory.scale import Scale


@dataclass(frozen=True, slots=True)
class ChordSpan:
    """A chord in force from ``onset`` on. ``written`` is False where the key's home chord stands in."""

    onset: Fraction
    chord: Chord
    text: str
    scale: Scale
    key: KeyRegion
    written: bool = True


@dataclass(frozen=True, slots=True)
class FramedNote:
    """One note in its frame.

    ``before`` and ``after`` are the indexes of the nearest earlier and later notes at another pitch (a
    repeated pitch is looked past), None where there is none or a rest lies between; ``move_in`` and
    ``move_out`` the semitones from and to them. ``pitch`` is the MIDI number,
    ``place`` where in the bar it stands ("the and of 2"), ``until_change`` the time from its onset to the next
    chord (infinite where none follows), and ``sounds_on`` whether it sounds into that chord.
    """

    index: int
    note: Note
    pitch: int
    span: int
    degree: str
    is_tone: bool
    in_scale: bool
    tension: bool
    clash: bool
    blue: bool
    strong: bool
    length: float
    beat_length: float
    place: str
    until_change: float
    sounds_on: bool
    held: bool
    rest_before: bool
    rest_after: bool
    before: int | None
    after: int | None
    move_in: int | None
    move_out: int | None
    steps_in: bool
    steps_out: bool

    @property
    def leaps_in(self) -> bool:
        """Reached by more than a step, or after a rest, or first of all."""
        return not self.steps_in

    @property
    def leaps_out(self) -> bool:
        """Left by more than a step into a following note."""
        return self.move_out is not None and not self.steps_out


class _Time(NamedTuple):
    """When a note sounds, in quarter notes, and the beat it falls in."""

    onset: float
    end: float
    length: float
    beat: float
    strong: bool
    place: str


TOLERANCE = 1e-9
"""Room for rounding, in quarter notes. Lengths are compared as floats for speed: exact fractions turn into the same
float every time, and only sums and differences of them need it.
"""


class Frame:
    """All notes of a solo in their frames."""

    def __init__(self, solo: Solo) -> None:
        self.solo = solo
        self.grid = BarGrid(solo)
        self.spans = _chord_spans(solo)
        self._span_onsets = [float(span.onset) for span in self.spans]
        self._places: dict[tuple[object, ...], tuple[float, bool, str]] = {}
        self.notes = self._framed(solo.notes)

    def span_of(self, note: FramedNote) -> ChordSpan:
        """The chord in force under a note."""
        return self.spans[note.span]

    def following_span(self, note: FramedNote) -> ChordSpan | None:
        """The next chord, if it differs."""
        index = note.span + 1
        return self.spans[index] if index < len(self.spans) else None

    def is_resting_point(self, index: int) -> bool:
        """Whether a line can lead into this note: a chord tone, or a colour that is held."""
        note = self.notes[index]
        return not note.note.grace and (note.is_tone or self.is_held_colour(index))

    def is_held_colour(self, index: int) -> bool:
        """Whether the note is an available tension (or blue note) that is held."""
        note = self.notes[index]
        return not note.is_tone and not note.note.grace and note.held and (note.tension or note.blue)

    def on_chord_change(self, note: FramedNote) -> bool:
        """Whether a new chord starts at or since the previous note's onset, at this note."""
        return note.index > 0 and self.spans[note.span].onset == note.note.onset

    def _framed(self, notes: tuple[Note, ...]) -> list[FramedNote]:
        times = [self._time(note) for note in notes]
        pitches = [note.pitch.midi for note in notes]
        # A gap of half a beat is a rest; anything shorter is articulation.
        rests = [b.onset - a.end >= a.beat / 2 - TOLERANCE for a, b in itertools.pairwise(times)]
        last_of_phrase = {phrase.last for phrase in self.solo.phrases}
        return [self._frame(i, note, times, pitches, rests, note.id in last_of_phrase) for i, note in enumerate(notes)]

    def _time(self, note: Note) -> _Time:
        bar, offset = self.grid.locate(note.onset)
        # Few places recur in every bar; plain numbers make a quicker key than fractions do.
        key = (bar.meter.count, bar.meter.unit, bar.meter.grouping, offset.numerator, offset.denominator)
        place = self._places.get(key)
        if place is None:
            _, beat = bar.meter.beat_at(offset)
            strong = beat.strong and beat.offset == offset
            place = self._places[key] = (float(beat.length), strong, bar.meter.place_name(offset))
        onset = note.onset.numerator / note.onset.denominator
        length = note.duration.numerator / note.duration.denominator
        return _Time(onset, onset + length, length, *place)

    def _frame(
        self, i: int, note: Note, times: list[_Time], pitches: list[int], rests: list[bool], phrase_end: bool
    ) -> FramedNote:
        time = times[i]
        rest_before = i == 0 or rests[i - 1]
        rest_after = i + 1 == len(times) or rests[i]
        before = _nearest_other_pitch(pitches, rests, i, -1)
        after = _nearest_other_pitch(pitches, rests, i, 1)
        span_index = max(0, bisect_right(self._span_onsets, time.onset) - 1)
        span = self.spans[span_index]
        change = self._span_onsets[span_index + 1] if span_index + 1 < len(self.spans) else math.inf
        chord, scale = span.chord, span.scale
        pitch, pitch_class = pitches[i], pitches[i] % 12
        is_tone = pitch_class in chord.tone_classes
        degree = chord.degree_of(pitch_class)
        longer = 0 < i < len(times) - 1 and times[i - 1].length <= time.length > times[i + 1].length > 0
        return FramedNote(
            index=i,
            note=note,
            pitch=pitch,
            span=span_index,
            degree=degree,
            is_tone=is_tone,
            in_scale=pitch_class in scale.pitch_classes,
            tension=not is_tone and is_tension(chord, degree, scale),
            clash=not is_tone and is_clash(chord, degree),
            blue=is_blue(chord, pitch_class, span.key),
            strong=time.strong,
            length=time.length,
            beat_length=time.beat,
            place=time.place,
            until_change=change - time.onset,
            sounds_on=time.end > change + TOLERANCE,
            held=not note.grace and (time.length >= time.beat or longer or rest_after or phrase_end),
            rest_before=rest_before,
            rest_after=rest_after,
            before=before,
            after=after,
            move_in=None if before is None else pitch - pitches[before],
            move_out=None if after is None else pitches[after] - pitch,
            steps_in=before is not None and _is_step(pitches[before], pitch, scale),
            steps_out=after is not None and _is_step(pitch, pitches[after], scale),
        )


def _nearest_other_pitch(pitches: list[int], rests: list[bool], i: int, direction: int) -> int | None:
    j = i + direction
    while 0 <= j < len(pitches):
        if rests[min(j, j - direction)]:
            return None
        if pitches[j] != pitches[i]:
            return j
        j += direction
    return None


def _is_step(low: int, high: int, scale: Scale) -> bool:
    distance = abs(high - low)
    return distance in (1, 2) or (distance == 3 and scale.are_neighbours(low, high))


def _chord_spans(solo: Solo) -> tuple[ChordSpan, ...]:
    """The chords in force. N.C. and a missing symbol are read as the key's home chord."""
    events: list[tuple[Fraction, Chord, str, bool]] = []
    for event in solo.chords:
        symbol = event.symbol
        if isinstance(symbol, Chord):
            events.append((event.onset, symbol.as_read, event.text, True))
        else:
            events.append((event.onset, _home_chord(solo.key_at(event.onset)), "", False))
    if not events:
        start = min((note.onset for note in solo.notes), default=Fraction(0))
        events.append((start, _home_chord(solo.key_at(start)), "", False))
    # A symbol written again (in the next bar, say) is no new chord.
    merged = [event for i, event in enumerate(events) if i == 0 or event[1:] != events[i - 1][1:]]
    spans = []
    for i, (onset, chord, text, written) in enumerate(merged):
        following = merged[i + 1][1] if i + 1 < len(merged) else None
        key = solo.key_at(max(onset, Fraction(0)))
        spans.append(ChordSpan(onset, chord, text, local_scale(chord, following, key), key, written))
    return tuple(spans)


def _home_chord(region: KeyRegion) -> Chord:
    return Chord(region.key.tonic, third="b3" if region.key.is_minor else "3")
