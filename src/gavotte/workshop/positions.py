"""Positions on strings: on which string, at which fret and with which finger each note of a line is played.

The hand is taken to lie over four frets, one to a finger. Every note can be played at each place its pitch has, with
the hand in each position that reaches it; the cheapest way through all of them is found by dynamic programming, as
S. Sayegh proposed it ("Fingering for string instruments with the optimum path paradigm", Computer Music Journal 13/3,
1989). What counts is named in ``Effort``.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.solo.document import Articulation, Note, Solo
from gavotte.solo.strings import FRETS, Tuning, places


@dataclass(frozen=True, slots=True)
class Effort:
    """What a fingering costs: a fret of a shift of the hand, any shift at all, a finger stretched by a fret, a string
    of the next note further off, strings skipped, an open string, the same finger on another string, a slide or
    slur that leaves its string, a fret higher up.
    """

    shift: float = 0.6
    moving: float = 1.0
    stretch: float = 1.2
    string: float = 0.15
    skip: float = 0.5
    open: float = 0.5
    barre: float = 0.6
    slur: float = 30.0
    high: float = 0.03


EFFORT = Effort()
_FINGERS = 4
_STRETCHED = 5
"""Frets the hand reaches with a finger stretched."""
_SLURS = (Articulation.SLIDE, Articulation.HAMMER_ON, Articulation.PULL_OFF)
_LONG_REST = 1.0
"""Quarter notes between two notes in which the hand moves freely."""


@dataclass(frozen=True, slots=True)
class Place:
    """Where a note is played: the string counted from the highest (1), the fret (0 open), the finger (0 for none), and
    the fret the first finger lies over.
    """

    string: int
    fret: int
    finger: int
    hand: int


@dataclass(frozen=True)
class Fingering:
    """A place for each note, None where a pitch has none on these strings, and what it costs together."""

    places: tuple[Place | None, ...]
    cost: float


def fingering(notes: Sequence[Note], tuning: Tuning, near: int | None = None) -> Fingering:
    """The easiest fingering of a line; with ``near`` one that begins with the hand about that fret.

    A note that has a string keeps it. Pitches beyond the strings have no place.
    """
    options = [_options(note.pitch.midi, note.string, tuning) for note in notes]
    played = [k for k, option in enumerate(options) if option]
    found: list[Place | None] = [None] * len(notes)
    if not played:
        return Fingering(tuple(found), 0.0)
    tables = [_table(options[k]) for k in played]
    costs = tables[0].own + (0.0 if near is None else np.abs(tables[0].hand - near) * 4.0)
    back: list[NDArray[np.intp]] = []
    for before, here in pairwise(played):
        give_way()
        first, second = tables[len(back)], tables[len(back) + 1]
        free = float(notes[here].onset - notes[before].end) >= _LONG_REST
        move = _moves(first, second, _is_slurred(notes[before]), notes[here].pitch.midi == notes[before].pitch.midi)
        total = costs[:, None] + (move * 0.3 if free else move)
        best = total.argmin(axis=0)
        back.append(best)
        costs = total[best, np.arange(len(best))] + second.own
    place = int(costs.argmin())
    cost = float(costs[place])
    for index in range(len(played) - 1, -1, -1):
        found[played[index]] = options[played[index]][place]
        if index:
            place = int(back[index - 1][place])
    return Fingering(tuple(found), round(cost, 3))


def alternatives(notes: Sequence[Note], tuning: Tuning, count: int = 6) -> tuple[Fingering, ...]:
    """Fingerings that begin in other places of the neck, the easiest first, alike ones once."""
    found: dict[tuple[tuple[int, int] | None, ...], Fingering] = {}
    for near in (None, 1, 3, 5, 7, 9, 12, 15):
        one = fingering(notes, tuning, near)
        found.setdefault(tuple(None if p is None else (p.string, p.fret) for p in one.places), one)
    plain = [replace(one, cost=cost_of_fingering(notes, one.places)) for one in found.values()]
    return tuple(sorted(plain, key=lambda one: one.cost)[:count])


def cost_of_fingering(notes: Sequence[Note], line: Sequence[Place | None]) -> float:
    """What a given fingering costs, by the same reckoning."""
    played = [(note, place) for note, place in zip(notes, line, strict=True) if place is not None]
    total = 0.0
    for index, (note, place) in enumerate(played):
        table = _table((place,))
        total += float(table.own[0])
        if index:
            before, last = played[index - 1]
            move = float(
                _moves(_table((last,)), table, _is_slurred(before), note.pitch.midi == before.pitch.midi)[0, 0]
            )
            total += move * (0.3 if float(note.onset - before.end) >= _LONG_REST else 1.0)
    return round(total, 3)


def place_at(string: int, fret: int, finger: int) -> Place:
    """A place as a player writes it: string, fret and finger (0 for an open string)."""
    return Place(string, fret, finger, max(1, fret - finger + 1) if fret else 1)


def next_fingering(notes: Sequence[Note], tuning: Tuning) -> Fingering:
    """The easiest fingering of a line; where the line has it already, the next easiest, and so on round."""
    found = alternatives([replace(note, string=0) for note in notes], tuning)
    strings = [note.string for note in notes]
    there = [k for k, one in enumerate(found) if [p.string if p is not None else 0 for p in one.places] == strings]
    return found[(there[0] + 1) % len(found) if there else 0]


def with_fingering(solo: Solo, places_of_notes: Mapping[str, Place | None]) -> Solo:
    """The solo with strings and fingers written to the notes (ids) that have a place."""

    def fingered(note: Note) -> Note:
        place = places_of_notes.get(note.id)
        if place is None:
            return note
        return replace(note, string=place.string, finger=str(place.finger) if place.finger else "")

    return replace(solo, notes=tuple(map(fingered, solo.notes)))


def free_of_strings(solo: Solo, ids: Collection[str]) -> Solo:
    """The solo without strings and fingers at some notes."""
    notes = (replace(note, string=0, finger="") if note.id in ids else note for note in solo.notes)
    return replace(solo, notes=tuple(notes))


@lru_cache(maxsize=2048)
def _options(midi: int, string: int, tuning: Tuning) -> tuple[Place, ...]:
    """Every way to play a pitch: its places, each with the hand positions that reach it."""
    found = []
    for on, fret in places(midi, tuning):
        if string and on != string:
            continue
        if fret == 0:
            # Whatever position the hand is in goes on.
            found += [Place(on, 0, 0, hand) for hand in range(1, 13)]
            continue
        for finger in range(1, _STRETCHED + 1):
            hand = fret - finger + 1
            if hand >= 1:
                found.append(Place(on, fret, min(finger, _FINGERS), hand))
    return tuple(found)


@dataclass(frozen=True)
class _Table:
    """The ways to play a note as arrays, and what each costs by itself."""

    string: NDArray[np.int64]
    fret: NDArray[np.int64]
    finger: NDArray[np.int64]
    hand: NDArray[np.int64]
    own: NDArray[np.float64]


@lru_cache(maxsize=4096)
def _table(options: tuple[Place, ...]) -> _Table:
    string, fret, finger, hand = (
        np.array([getattr(place, name) for place in options]) for name in ("string", "fret", "finger", "hand")
    )
    stretched = (fret > 0) & (fret - hand >= _FINGERS)
    own = np.where(stretched, EFFORT.stretch, 0.0) + np.where(fret == 0, EFFORT.open, 0.0)
    own = own + EFFORT.high * hand + np.where(fret > FRETS - 2, 1.0, 0.0)
    return _Table(string, fret, finger, hand, own)


def _moves(first: _Table, second: _Table, slurred: bool, repeated: bool) -> NDArray[np.float64]:
    """What it costs to go from each way of playing a note to each way of playing the next."""
    shift = np.abs(first.hand[:, None] - second.hand[None, :])
    strings = np.abs(first.string[:, None] - second.string[None, :])
    cost = EFFORT.shift * shift + np.where(shift > 0, EFFORT.moving, 0.0)
    cost = cost + np.where(strings > 0, EFFORT.string, 0.0) + EFFORT.skip * np.maximum(0, strings - 1)
    stopped = (first.fret[:, None] > 0) & (second.fret[None, :] > 0)
    same_finger = first.finger[:, None] == second.finger[None, :]
    barre = stopped & same_finger & (strings > 0) & (shift == 0)
    cost = cost + np.where(barre, EFFORT.barre, 0.0)
    # One finger can't be at two frets of a string without the hand moving.
    jumps = stopped & same_finger & (strings == 0) & (first.fret[:, None] != second.fret[None, :]) & (shift == 0)
    cost = cost + np.where(jumps, EFFORT.stretch, 0.0)
    if slurred:
        cost = cost + np.where(strings > 0, EFFORT.slur, 0.0)
    if repeated:
        cost = cost + np.where((strings > 0) | (shift > 0), 1.0, 0.0)
    return np.asarray(cost)


def _is_slurred(note: Note) -> bool:
    """Whether a note goes into the next one on its string."""
    return any(note.has(mark) for mark in _SLURS)
