"""An étude from one's own vocabulary: licks laid over a whole progression, so that they fit its chords and join well.

Where licks can begin (every chord, and every bar of a long one) is gone through in time with a beam search: the
cheapest beginnings are kept and led on by whatever fits there. What counts is named in ``Price``.
"""

from __future__ import annotations

import random
from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from math import log2

from gavotte.giving_way import give_way
from gavotte.harmony.changes import Change
from gavotte.harmony.foreignness import chord_quality
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Note, Solo, Text
from gavotte.workshop.over import changes_within, make_room, pickup_of, unit_of
from gavotte.workshop.piece import Bit, Piece, changed_pitch, nearest_way, piece_of

EMPTY, SOURCE = "-", "source"
"""In place of a lick's id: nothing is to be played there, or the line that lies on the bench."""
_BEAM = 24
_MOST_HERE = 24
"""Licks over one run of chords that are looked at in one place."""
_MOST_OTHERS = 12
_FACTORS = (Fraction(1), Fraction(1, 2), Fraction(2))
_EIGHTH = 0.5
_MOST_SILENCE = 4.0
"""Quarter notes of silence beyond which more of it costs no more: that nothing is laid has its own price."""
_MOST_WAYS = 400
"""So many ways to a place are kept before the dear ones are dropped."""


@dataclass(frozen=True, slots=True)
class Price:
    """What a way through a progression costs, in the order of the fields: each semitone of a join beyond a third, a
    join beyond a fifth, a lick that was there already, each semitone further from its own register than a tritone, a
    quarter note of silence more or less than wished, a place left empty, a semitone out of range, values doubled or
    halved, twice or half as many notes to a beat as wished, and the most that chance may add.
    """

    join: float = 0.25
    leap: float = 4.0
    again: float = 6.0
    octave: float = 0.1
    silence: float = 0.35
    nothing: float = 2.5
    range: float = 3.0
    values: float = 1.5
    density: float = 3.0
    chance: float = 0.8


PRICE = Price()


@dataclass(frozen=True)
class Wishes:
    """``rest`` is how many quarter notes of silence are wished between licks, ``repeats`` whether a lick may come
    again, ``seed`` decides among what is about as good. ``held`` says what stands where, whatever it costs: at an onset
    (quarter notes) a lick's id, ``EMPTY`` or ``SOURCE``. ``density`` is how many notes to a quarter note are wished
    within licks, ``compass`` the lowest and highest pitch (MIDI); without them any will do, and the instrument's range.
    """

    rest: Fraction = Fraction(1)
    repeats: bool = False
    seed: int = 1
    held: Mapping[Fraction, str] | None = None
    density: int | None = None
    compass: tuple[int, int] | None = None


@dataclass(frozen=True)
class Stock:
    """A lick that can be laid: its id, name, where it comes from, and its line by its own first chord."""

    id: str
    name: str
    source: str
    changes: tuple[Change, ...]
    notes: tuple[Note, ...]

    @property
    def key(self) -> tuple[object, ...]:
        """What it can be laid on: the kinds of its chords and how their roots move."""
        return _key(self.changes)

    @cached_property
    def density(self) -> float:
        """Notes to a quarter note, from the first onset to the last end."""
        return len(self.notes) / float(self.notes[-1].end - self.notes[0].onset)


def stocked(lick_id: str, name: str, source: str, solo: Solo) -> Stock | None:
    """A line as it can be laid; None where it has no chord or no note."""
    notes = [note for note in solo.notes if not note.grace]
    if not notes:
        return None
    try:
        unit = unit_of(piece_of(replace(solo, notes=tuple(notes))))
    except ValueError:
        return None
    return Stock(lick_id, name, source, unit.changes, unit.piece.solo.notes)


def _key(changes: Sequence[Change]) -> tuple[object, ...]:
    roots = [change.chord.as_read.root.pitch_class for change in changes]
    return tuple((chord_quality(c.chord), (r - roots[0]) % 12) for c, r in zip(changes, roots, strict=True))


@dataclass(frozen=True)
class _Laid:
    """A lick at a place: from when on, in how many times its values, moved by how many semitones."""

    stock: Stock
    at: Fraction
    factor: Fraction
    move: int

    @cached_property
    def start(self) -> float:
        return float(self.at + self.stock.notes[0].onset * self.factor)

    @cached_property
    def end(self) -> float:
        return float(self.at + self.stock.notes[-1].end * self.factor)

    @cached_property
    def last_onset(self) -> float:
        return float(self.at + self.stock.notes[-1].onset * self.factor)

    @cached_property
    def first_pitch(self) -> int:
        return self.stock.notes[0].pitch.midi + self.move

    @cached_property
    def last_pitch(self) -> int:
        return self.stock.notes[-1].pitch.midi + self.move


@dataclass(frozen=True, slots=True)
class _Way:
    """A way so far: what it cost, what was laid last, the way before that, and the ids of all that was laid."""

    cost: float
    last: _Laid | None = None
    before: _Way | None = None
    used: frozenset[str] = frozenset()

    @property
    def laid(self) -> tuple[_Laid, ...]:
        """All that was laid, in order."""
        if self.last is None:
            return ()
        return (*(self.before.laid if self.before is not None else ()), self.last)


def etude(progression: Solo, stock: Sequence[Stock], wishes: Wishes, source: Stock | None = None) -> Piece:
    """Licks over a progression, each with its origin in ``bits``. Raises ValueError where nothing fits anywhere."""
    maker = _Maker(progression, stock, wishes, source)
    best = maker.search()
    if not best.laid:
        raise ValueError("No lick of the vocabulary fits these chords. Choose others, or keep more licks.")
    return maker.piece(best)


class _Maker:
    """Lays licks over one progression."""

    def __init__(self, progression: Solo, stock: Sequence[Stock], wishes: Wishes, source: Stock | None) -> None:
        self._progression, self._wishes = progression, wishes
        self._grid = BarGrid(progression)
        self._changes = changes_within(progression, self._grid.bars[-1].end)
        self._by_key: dict[tuple[object, ...], list[Stock]] = defaultdict(list)
        self._by_id = {one.id: one for one in stock}
        self._source = source
        for one in stock if wishes.density is None else sorted(stock, key=self._off_density):
            there = self._by_key[one.key]
            if wishes.density is None or len(there) < 2 * _MOST_HERE:
                there.append(one)
        self._longest = max((len(one.changes) for one in stock), default=1)
        self._rest = float(wishes.rest)
        instrument = progression.instrument
        self._low, self._high = wishes.compass or (instrument.lowest, instrument.highest)
        self._octaves = (0, -12, 12) if wishes.compass is None else (0, -12, 12, -24, 24)
        self._dice = random.Random(wishes.seed)
        self._onsets = self._places()

    def _places(self) -> list[Fraction]:
        """Where a lick can begin: with every chord, and with every bar of one that goes on."""
        bars = [bar.onset for bar in self._grid.bars if bar.number > 0]
        first = self._changes[0].onset
        places = {change.onset for change in self._changes} | {onset for onset in bars if onset >= first}
        return sorted(places | set(self._wishes.held or ()))

    def search(self) -> _Way:
        """The cheapest way there is to the end."""
        ways: dict[int, list[_Way]] = {0: [_Way(0.0)]}
        end = self._changes[-1].end
        finished: list[_Way] = []
        for index, onset in enumerate(self._onsets):
            give_way()
            here = sorted(ways.pop(index, ()), key=lambda way: way.cost)[:_BEAM]
            if not here:
                continue
            following = self._onsets[index + 1] if index + 1 < len(self._onsets) else end
            candidates = [(laid, price, self._after(laid, following)) for laid, price in self.candidates(onset)]
            held = (self._wishes.held or {}).get(onset)
            for way in here:
                if held is None or held == EMPTY:
                    nothing = PRICE.nothing * float(following - onset) / 4
                    self._put(ways, finished, index + 1, replace(way, cost=way.cost + nothing))
                for laid, price, after in candidates:
                    step = self._step(way, laid)
                    if step is not None:
                        used = way.used | {laid.stock.id}
                        self._put(ways, finished, after, _Way(way.cost + price + step, laid, way, used))
        return min(finished, key=lambda way: way.cost)

    def _after(self, laid: _Laid, following: Fraction) -> int:
        """The number of the place where the next lick can begin."""
        return bisect_left(self._onsets, max(laid.last_onset + _EIGHTH, float(following)))

    def _put(self, ways: dict[int, list[_Way]], finished: list[_Way], index: int, way: _Way) -> None:
        there = finished if index >= len(self._onsets) else ways.setdefault(index, [])
        there.append(way)
        if len(there) > _MOST_WAYS:
            there.sort(key=lambda way: way.cost)
            del there[_BEAM:]

    def candidates(self, onset: Fraction) -> list[tuple[_Laid, float]]:
        """What can be laid from a place on, each with what it costs by itself."""
        held = (self._wishes.held or {}).get(onset)
        if held == EMPTY:
            return []
        return list(self._fitting(onset, held))

    def _fitting(self, onset: Fraction, held: str | None) -> Iterator[tuple[_Laid, float]]:
        index = max((k for k, change in enumerate(self._changes) if change.onset <= onset), default=0)
        here = self._changes[index]
        first = replace(here, onset=onset, length=here.end - onset)
        for size in range(1, self._longest + 1):
            run = (first, *self._changes[index + 1 : index + size])
            if len(run) < size:
                return
            for one in self._wanted(_key(run), held):
                for laid in self._laid(one, run):
                    yield laid, self._own_price(laid)

    def _wanted(self, key: tuple[object, ...], held: str | None) -> Sequence[Stock]:
        if held is None:
            there = self._by_key.get(key, [])
            return self._dice.sample(there, _MOST_HERE) if len(there) > _MOST_HERE else there
        one = self._source if held == SOURCE else self._by_id.get(held)
        return (one,) if one is not None and one.key == key else ()

    def _laid(self, one: Stock, run: Sequence[Change]) -> Iterator[_Laid]:
        """A lick on a run of chords, in every octave that suits the instrument; nothing where it has no room."""
        room = run[-1].end - run[0].onset
        for factor in _FACTORS:
            fits = all(a.length * factor == b.length for a, b in zip(one.changes[:-1], run[:-1], strict=True))
            # Over one chord nothing tells in which values a line would be at home but its own.
            if not fits or (len(run) == 1 and factor != 1) or one.notes[-1].onset * factor >= room:
                continue
            by = nearest_way(_root(run[0]) - _root(one.changes[0]))
            pitches = [note.pitch.midi + by for note in one.notes]
            beyond = {octave: _beyond(pitches, octave, self._low, self._high) for octave in self._octaves}
            for octave in [octave for octave, far in beyond.items() if far == min(beyond.values())]:
                yield _Laid(one, run[0].onset, factor, by + octave)
            return

    def _own_price(self, laid: _Laid) -> float:
        pitches = [note.pitch.midi + laid.move for note in laid.stock.notes]
        price = PRICE.range * _beyond(pitches, 0, self._low, self._high)
        price += PRICE.octave * max(0, abs(laid.move) - 6)
        price += PRICE.density * self._off_density(laid.stock, laid.factor)
        return price + (PRICE.values if laid.factor != 1 else 0.0) + PRICE.chance * self._dice.random()

    def _off_density(self, one: Stock, factor: Fraction = Fraction(1)) -> float:
        """How many times two a lick has more or fewer notes to a beat than wished."""
        wished = self._wishes.density
        return 0.0 if wished is None else abs(log2(one.density / float(factor) / wished))

    def _step(self, way: _Way, laid: _Laid) -> float | None:
        """What it costs to lead a way on by a lick; None where it can't be."""
        before = way.last
        if before is None:
            return PRICE.silence * max(0.0, laid.start - float(self._onsets[0]))
        if laid.start < before.last_onset + _EIGHTH:
            return None
        cost = 0.0
        if laid.stock.id in way.used:
            if not self._wishes.repeats and laid.at not in (self._wishes.held or ()):
                return None
            cost += PRICE.again / (6 if self._wishes.repeats else 1)
        gap = abs(laid.first_pitch - before.last_pitch)
        cost += PRICE.join * max(0, gap - 4) + (PRICE.leap if gap > 7 else 0.0)
        silence = max(0.0, laid.start - before.end)
        return cost + PRICE.silence * min(_MOST_SILENCE, abs(silence - self._rest))

    # -- what comes of it ---------------------------------------------------------------------------

    def piece(self, way: _Way) -> Piece:
        """The way as music, with where each bit came from."""
        notes: list[Note] = []
        texts, bits = [], []
        line = way.laid
        for number, laid in enumerate(line):
            start = laid.at + laid.stock.notes[0].onset * laid.factor
            make_room(notes, start)
            for note in laid.stock.notes:
                moved = replace(
                    note,
                    id=f"{number}:{note.id}",
                    onset=laid.at + note.onset * laid.factor,
                    duration=note.duration * laid.factor,
                    written=() if laid.factor != 1 else note.written,
                )
                notes.append(changed_pitch(moved, note.pitch.midi + laid.move))
            others = tuple(
                other.stock.id
                for other, _ in sorted(self._others(line, number), key=lambda pair: pair[1])
                if other.stock.id != laid.stock.id
            )
            bits.append(
                Bit(laid.stock.id, laid.stock.name, laid.stock.source, laid.at, notes[-1].end, others[:_MOST_OTHERS])
            )
            texts.append(Text(max(start, Fraction(0)), laid.stock.source.split(",")[0]))
        end = self._changes[-1].end
        make_room(notes, end)
        solo = replace(self._progression, pickup=pickup_of(notes, self._progression), texts=tuple(texts))
        return replace(Piece(solo).with_notes(notes), bits=tuple(bits))

    def _others(self, line: Sequence[_Laid], place: int) -> Iterator[tuple[_Laid, float]]:
        """What else could stand in a place: what fits its chords and lies between its neighbours."""
        before = line[place - 1] if place else None
        after = line[place + 1] if place + 1 < len(line) else None
        for other, price in self._fitting(line[place].at, None):
            if before is not None and other.start < before.last_onset + _EIGHTH:
                continue
            if after is not None and after.start < other.last_onset + _EIGHTH:
                continue
            gap = abs(other.first_pitch - before.last_pitch) if before is not None else 0
            ahead = abs(after.first_pitch - other.last_pitch) if after is not None else 0
            yield other, price + PRICE.join * (gap + ahead)


def _root(change: Change) -> int:
    return change.chord.as_read.root.pitch_class


def _beyond(pitches: Sequence[int], octaves: int, low: int, high: int) -> int:
    return sum(max(0, low - pitch - octaves) + max(0, pitch + octaves - high) for pitch in pitches)
