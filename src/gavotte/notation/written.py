"""Notation: what is written for a solo, bar by bar, derived from its notes' onsets and lengths.

Each bar holds events in order. An event is one notehead (of a note, or of one of its tied parts), one rest,
or one grace note; it knows its tuplet and its beam by number, numbers that count within the bar.
"""

from __future__ import annotations

import itertools
from collections.abc import Container, Iterable
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import takewhile
from math import lcm

from gavotte.giving_way import give_way
from gavotte.notation.values import Value, nearest_value, split_at_beats, value_of
from gavotte.solo.bars import Bar, BarGrid
from gavotte.solo.differences import differing
from gavotte.solo.document import ChordEvent, Note, Solo
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import Pitch


@dataclass(frozen=True, slots=True)
class TupletSpan:
    """``actual`` in the time of ``normal`` from ``start`` to ``end`` (offsets in the bar)."""

    start: Fraction
    end: Fraction
    actual: int
    normal: int


@dataclass(frozen=True, slots=True)
class Event:
    """One notehead, rest or grace note.

    ``onset`` is in quarter notes of the solo. ``note`` is None for a rest; ``part`` counts the tied parts of
    a note. ``accidental`` is the sign to show ("" for none).
    """

    onset: Fraction
    length: Fraction
    value: Value
    note: Note | None = None
    part: int = 0
    tied_on: bool = False
    tied_from: bool = False
    tuplet: int | None = None
    beam: int | None = None
    accidental: str = ""
    whole_bar: bool = False

    @property
    def is_rest(self) -> bool:
        """Whether nothing sounds."""
        return self.note is None


@dataclass(frozen=True, slots=True)
class WrittenBar:
    """A bar with its events and tuplets."""

    bar: Bar
    key: Key
    events: tuple[Event, ...]
    tuplets: tuple[TupletSpan, ...]


_LARGEST_TUPLET = 64
"""Onsets on a finer odd grid than this are no rhythm anybody writes; they are shown at the nearest plain values."""

_SIGNS = {-2: "ff", -1: "f", 0: "n", 1: "s", 2: "ss", 3: "ts", -3: "tf"}
_SHARP_ORDER, _FLAT_ORDER = "FCGDAEB", "BEADGCF"


class Notation:
    """The written form of a solo. ``bars`` are worked out on first use, one at a time."""

    def __init__(self, solo: Solo, like: Notation | None = None) -> None:
        """``like`` is the notation of a value of the solo before: bars that hold the same notes stay as they are."""
        self.solo = solo
        self.grid = BarGrid(solo)
        self._written: dict[int, tuple[list[Note], WrittenBar]] = {}
        self._written_before: dict[int, tuple[list[Note], WrittenBar]] = {}
        self._notes_in: list[list[Note]] = [[] for _ in self.grid.bars]
        if like is None:
            self._put(solo.notes, range(len(self.grid.bars)))
        else:
            self._put_like(like)
        self._chords_in: list[list[ChordEvent]]
        if like is not None and solo.chords is like.solo.chords and self.grid.bars is like.grid.bars:
            self._chords_in = like._chords_in
        else:
            self._chords_in = [[] for _ in self.grid.bars]
            for chord in solo.chords:
                self._chords_in[self.grid.index_at(chord.onset)].append(chord)

    def _put(self, notes: Iterable[Note], bars: Container[int]) -> None:
        """Put notes, in order, into those of the bars they sound in that are among ``bars``."""
        for note in notes:
            give_way()
            for index in self._bars_of(note):
                if index in bars:
                    self._notes_in[index].append(note)

    def _put_like(self, like: Notation) -> None:
        """Put the notes into their bars; those that hold the same notes as in ``like`` are taken from there."""
        old, new = like.grid.bars, self.grid.bars
        pairs = zip(old, new, strict=False)
        common = len(new) if old is new else sum(1 for _ in takewhile(lambda pair: pair[0] == pair[1], pairs))
        # The last bar holds what lies behind it, too.
        kept = len(new) if common == len(old) == len(new) else min(common, len(old) - 1, len(new) - 1)
        written = {**like._written_before, **like._written}
        self._written_before = written if kept == len(new) else {i: known for i, known in written.items() if i < kept}
        start, old_stop, new_stop = differing(like.solo.notes, self.solo.notes)
        gone, come = like.solo.notes[start:old_stop], self.solo.notes[start:new_stop]
        touched = set(range(kept, len(new)))
        touched.update(index for note in come for index in self._bars_of(note))
        touched.update(index for note in gone for index in like._bars_of(note) if index < len(new))
        looked_in = {*(index for index in touched if index < len(old)), *range(kept, len(old))}
        staying = {note.id: note for index in looked_in for note in like._notes_in[index]}
        for note in gone:
            staying.pop(note.id, None)
        self._notes_in[:kept] = like._notes_in[:kept]
        for index in touched:
            self._notes_in[index] = []
        staying.update((note.id, note) for note in come)
        self._put(sorted(staying.values(), key=lambda note: self.solo.places[note.id]), touched)

    def _bars_of(self, note: Note) -> range:
        """The indexes of the bars a note is written in."""
        return self.grid.sounding(note.onset, note.duration)

    def __len__(self) -> int:
        return len(self.grid.bars)

    def chords(self, index: int) -> list[ChordEvent]:
        """The chord symbols that start in a bar."""
        return self._chords_in[index]

    def bar(self, index: int) -> WrittenBar:
        """The written form of one bar."""
        if index in self._written:
            return self._written[index][1]
        give_way()
        bar, notes = self.grid.bars[index], self._notes_in[index]
        key = self.solo.key_at(max(bar.onset, Fraction(0))).key
        before = self._written_before.get(index)
        if before is not None and before[1].key == key and _are_same(before[0], notes):
            written = before[1]
        else:
            events, tuplets = _write_bar(bar, notes)
            written = WrittenBar(bar, key, _with_accidentals(_with_beams(events, tuplets, bar), key), tuplets)
        self._written[index] = (notes, written)
        return written


def _are_same(some: list[Note], others: list[Note]) -> bool:
    """Whether two bars hold the very same notes."""
    return len(some) == len(others) and all(a is b for a, b in zip(some, others, strict=True))


def _write_bar(bar: Bar, notes: list[Note]) -> tuple[list[Event], tuple[TupletSpan, ...]]:
    shift = bar.lead_in - bar.onset
    full_end = bar.lead_in + bar.length
    sounding: list[tuple[Fraction, Fraction, Note]] = []
    position = bar.lead_in
    for note in notes:
        if note.grace:
            continue
        start = max(position, bar.lead_in, note.onset + shift)
        end = min(full_end, note.end + shift)
        if end > start:
            sounding.append((start, end, note))
            position = end
    tuplets = _tuplet_spans([(s, e) for s, e, _ in sounding], bar)
    events: list[Event] = []
    position = bar.lead_in
    for start, end, note in sounding:
        if start > position:
            events += _pieces(position, start, None, bar, tuplets)
        events += list(_graces(notes, note, bar))
        events += _pieces(start, end, note, bar, tuplets)
        position = end
    if not sounding:
        return [Event(bar.onset, bar.length, nearest_value(bar.length), whole_bar=True)], ()
    if position < full_end:
        events += _pieces(position, full_end, None, bar, tuplets)
    return events, tuplets


def _graces(notes: list[Note], main: Note, bar: Bar) -> list[Event]:
    """The grace notes right before a note, where that note starts in this bar."""
    index = next(i for i, note in enumerate(notes) if note is main)
    first = index
    while first and notes[first - 1].grace and notes[first - 1].onset == main.onset:
        first -= 1
    return [Event(note.onset, Fraction(0), Value(8, 0), note) for note in notes[first:index]]


def _tuplet_spans(pieces: list[tuple[Fraction, Fraction]], bar: Bar) -> tuple[TupletSpan, ...]:
    """The stretches of a bar that need a tuplet: beats, joined where a note crosses from one into the next."""
    beats = [(beat.offset, beat.offset + beat.length) for beat in bar.meter.beats]
    edges = sorted({edge for piece in pieces for edge in piece})
    if _odd_part(edges) == 1:
        return ()
    spans: list[tuple[Fraction, Fraction]] = []
    i = 0
    while i < len(beats):
        start, end = beats[i]
        j = i
        while _odd_part(_inside(edges, start, end)) > 1:
            crosses = any(s < end < e and s > start and _odd_part([s - start]) > 1 for s, e in pieces)
            crosses = crosses or any(s < end < e and _odd_part([e - start]) > 1 and s >= start for s, e in pieces)
            if not crosses or j + 1 >= len(beats):
                break
            j += 1
            end = beats[j][1]
        if _odd_part(_inside(edges, start, end)) > 1:
            spans.append((start, end))
        i = j + 1
    found = (_tuplet(start, end, _inside(edges, start, end)) for start, end in spans)
    return tuple(span for span in found if span.actual <= _LARGEST_TUPLET)


def _inside(edges: list[Fraction], start: Fraction, end: Fraction) -> list[Fraction]:
    return [edge - start for edge in edges if start < edge < end]


def _odd_part(positions: list[Fraction]) -> int:
    denominator = lcm(*(p.denominator for p in positions)) if positions else 1
    while denominator % 2 == 0:
        denominator //= 2
    return denominator


def _tuplet(start: Fraction, end: Fraction, positions: list[Fraction]) -> TupletSpan:
    length = end - start
    actual = _odd_part([p / length for p in positions])
    normal = 1
    while normal * 2 <= actual:
        normal *= 2
    # Over a dotted length (a compound beat) the plain division is by three.
    if length.numerator % 3 == 0:
        actual, normal = _odd_part([p / length for p in positions]), 3
        while normal * 2 <= actual:
            normal *= 2
    return TupletSpan(start, end, actual, normal)


def _pieces(
    start: Fraction, end: Fraction, note: Note | None, bar: Bar, tuplets: tuple[TupletSpan, ...]
) -> list[Event]:
    """One note or silence within a bar as events, tied to each other where a note needs several."""
    cuts = sorted({start, end, *(edge for t in tuplets for edge in (t.start, t.end) if start < edge < end)})
    written = _written_cuts(note, bar)
    cuts = sorted(set(cuts) | {cut for cut in written if start < cut < end})
    stretches: list[tuple[Fraction, Fraction, int | None, Value]] = []
    pieces: list[tuple[Fraction, Fraction, int | None, Value]]
    for low, high in itertools.pairwise(cuts):
        inside = next((k for k, t in enumerate(tuplets) if t.start <= low < t.end), None)
        if inside is None:
            pieces = [
                (a, b, None, value_of(b - a) or nearest_value(b - a))
                for a, b in split_at_beats(low, high, _meter_for(bar), note is None)
            ]
        else:
            pieces = _tuplet_pieces(low, high, tuplets[inside], inside)
        stretches += pieces
    origin = bar.onset - bar.lead_in
    return [
        Event(
            origin + low,
            high - low,
            value,
            note,
            part=k,
            tuplet=tuplet,
            tied_on=note is not None and origin + high < note.end,
            tied_from=note is not None and origin + low > note.onset,
        )
        for k, (low, high, tuplet, value) in enumerate(stretches)
    ]


def _meter_for(bar: Bar) -> Meter:
    """The bar's meter; a bar longer than its meter is cut by plain quarter beats."""
    if bar.lead_in + bar.length <= bar.meter.bar_length:
        return bar.meter
    return Meter(max(1, -(-bar.length.numerator // bar.length.denominator)), 4)


def _written_cuts(note: Note | None, bar: Bar) -> list[Fraction]:
    """Offsets in the bar where the note's own tied parts meet."""
    if note is None or not note.written or sum(note.written) != note.duration:
        return []
    cuts, position = [], note.onset - bar.onset + bar.lead_in
    for length in note.written[:-1]:
        position += length
        cuts.append(position)
    return cuts


def _tuplet_pieces(
    low: Fraction, high: Fraction, span: TupletSpan, number: int
) -> list[tuple[Fraction, Fraction, int | None, Value]]:
    """Pieces inside a tuplet; written lengths are stretched by its ratio."""
    ratio = Fraction(span.actual, span.normal)
    pieces: list[tuple[Fraction, Fraction, int | None, Value]] = []
    while low < high:
        shown = (high - low) * ratio
        value = value_of(shown) or nearest_value(shown)
        length = min(high - low, value.length / ratio)
        pieces.append((low, low + length, number, value))
        low += length
        if shown < Fraction(1, 16):
            break
    return pieces


def _with_beams(events: list[Event], tuplets: tuple[TupletSpan, ...], bar: Bar) -> list[Event]:
    """Number the beams: eighths and shorter join within a beat, plain eighths within half a 4/4 bar."""
    origin = bar.onset - bar.lead_in
    groups: dict[tuple[object, ...], list[int]] = {}
    halves = _halves_of_plain_eighths(events, bar)
    run = 0
    previous_beat: object = None
    for i, event in enumerate(events):
        if event.note is not None and event.note.grace:
            continue
        if event.is_rest or event.value.base < 8:
            run += 1
            continue
        offset = event.onset - origin
        beat, _ = bar.meter.beat_at(offset)
        place: object = ("half", offset // 2) if offset // 2 in halves else ("beat", beat)
        if event.tuplet is not None:
            place = ("tuplet", event.tuplet, beat)
        if place != previous_beat:
            run += 1
        previous_beat = place
        groups.setdefault((place, run), []).append(i)
    beamed = list(events)
    for number, members in enumerate(group for group in groups.values() if len(group) > 1):
        for i in range(members[0], members[-1] + 1):
            beamed[i] = replace(beamed[i], beam=number)
    return beamed


def _halves_of_plain_eighths(events: list[Event], bar: Bar) -> set[Fraction]:
    """Which halves of a 4/4 bar hold nothing but plain eighths."""
    if (bar.meter.count, bar.meter.unit) != (4, 4):
        return set()
    origin = bar.onset - bar.lead_in
    halves: set[Fraction] = set()
    for half in (Fraction(0), Fraction(1)):
        inside = [
            e
            for e in events
            if half * 2 <= e.onset - origin < half * 2 + 2 and not (e.note is not None and e.note.grace)
        ]
        if len(inside) == 4 and all(e.value == Value(8, 0) and not e.is_rest and e.tuplet is None for e in inside):
            halves.add(half)
    return halves


def signature(fifths: int) -> dict[str, int]:
    """Which letters a key signature alters, and by how much."""
    if fifths >= 0:
        return dict.fromkeys(_SHARP_ORDER[: min(fifths, 7)], 1)
    return dict.fromkeys(_FLAT_ORDER[: min(-fifths, 7)], -1)


def _with_accidentals(events: list[Event], key: Key) -> tuple[Event, ...]:
    """Show an accidental where a pitch differs from the signature or from earlier in the bar."""
    signed = signature(key.fifths)
    state: dict[tuple[str, int], int] = {}
    shown = []
    for event in events:
        pitch: Pitch | None = event.note.pitch if event.note is not None else None
        if pitch is not None and not event.tied_from:
            place = (pitch.letter, pitch.octave)
            if state.get(place, signed.get(pitch.letter, 0)) != pitch.alter:
                event = replace(event, accidental=_SIGNS[pitch.alter])
            state[place] = pitch.alter
        shown.append(event)
    return tuple(shown)
