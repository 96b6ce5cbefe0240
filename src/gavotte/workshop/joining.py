"""Joining: the ways to get from one note to another in so many notes, and two lines joined by one of them.

A way is the cheapest path through the pitches its kind allows (dynamic programming): small steps cost least, leaps of
more than a fifth are taken only where there is no other way, chord tones are sought on the beats.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from gavotte.theory.chord import Chord
from gavotte.workshop.approach import WAYS, approach_pitches
from gavotte.workshop.tones import tones_of

FIFTH = 7
_AROUND = 12
"""Semitones a way may go beyond the two notes it joins."""


@dataclass(frozen=True, slots=True)
class Ground:
    """What a way goes over: the chord, its scale's pitch classes, and for each of its notes whether it is on a beat."""

    chord: Chord
    scale: frozenset[int]
    on_beat: tuple[bool, ...]


@dataclass(frozen=True, slots=True)
class Way:
    """A way from one note to another: what it goes by, its pitches (MIDI) between the two, and what it costs."""

    words: str
    pitches: tuple[int, ...]
    cost: float


def ways(start: int, goal: int, count: int, ground: Ground) -> tuple[Way, ...]:
    """The ways from a pitch to another one in ``count`` notes between them, the smoothest first, alike ones once."""
    if count == 0:
        return (Way("straight on", (), _move_cost(start, goal)),)
    scale, tones = ground.scale, ground.chord.tone_classes
    chromatic = frozenset(range(12))
    found = [
        _along("by the scale", start, goal, count, scale, ground),
        _along("by the chord’s tones", start, goal, count, tones, ground),
        _along("by half steps", start, goal, count, chromatic, ground),
    ]
    for words, offsets in WAYS.values():
        size = len(offsets)
        if size > count:
            continue
        name = next(key for key, (own, _) in WAYS.items() if own == words)
        figure = approach_pitches(goal, name, tones_of(scale))
        for classes, by in ((scale, "the scale"), (tones, "the chord’s tones")):
            lead = _along("", start, figure[0], count - size, classes, ground)
            if lead is None:
                continue
            pitches = (*lead.pitches, *figure)
            told = words if size == count else f"{by}, then {words}"
            found.append(Way(told, pitches, _cost((start, *pitches, goal), ground)))
    distinct = {way.pitches: way for way in sorted(filter(None, found), key=lambda way: -way.cost)}
    return tuple(sorted(distinct.values(), key=lambda way: way.cost))


def _along(words: str, start: int, goal: int, count: int, classes: frozenset[int], ground: Ground) -> Way | None:
    """The cheapest way through pitches of some classes."""
    if count == 0:
        return None if start == goal else Way(words, (), _cost((start, goal), ground))
    low, high = min(start, goal) - _AROUND, max(start, goal) + _AROUND
    allowed = [pitch for pitch in range(max(0, low), min(127, high) + 1) if pitch % 12 in classes]
    best: dict[tuple[int, int], tuple[float, tuple[int, ...]]] = {(start, 0): (0.0, ())}
    for place in range(count):
        following: dict[tuple[int, int], tuple[float, tuple[int, ...]]] = {}
        for (pitch, direction), (cost, path) in best.items():
            for other in allowed:
                if other == pitch or (place + 1 == count and other == goal):
                    continue
                step, rest = _step(pitch, other, direction, classes)
                total = cost + step + _weight(other, place, ground)
                key = (other, rest)
                if key not in following or total < following[key][0]:
                    following[key] = (total, (*path, other))
        best = following
    ends = [
        (cost + _step(pitch, goal, direction, classes)[0], path) for (pitch, direction), (cost, path) in best.items()
    ]
    if not ends:
        return None
    _, path = min(ends)
    return Way(words, path, _cost((start, *path, goal), ground))


def _step(first: int, second: int, direction: int, classes: frozenset[int]) -> tuple[float, int]:
    """What a move costs, and its direction. Neighbours among the pitches there are cost nothing."""
    turn = 1 if second > first else -1
    skipped = sum(pitch % 12 in classes for pitch in range(min(first, second) + 1, max(first, second)))
    leap = abs(second - first)
    cost = 0.5 * skipped**1.5 + (0.3 if direction and turn != direction else 0.0)
    return cost + (40.0 if leap > FIFTH else 0.0), turn


def _weight(pitch: int, place: int, ground: Ground) -> float:
    on_beat = ground.on_beat[place] if place < len(ground.on_beat) else False
    return 0.0 if not on_beat or pitch % 12 in ground.chord.tone_classes else 0.4


def _move_cost(first: int, second: int) -> float:
    leap = abs(second - first)
    return (0.6 if leap == 0 else (max(0, leap - 2) / 4) ** 1.5) + (6.0 if leap > FIFTH else 0.0)


def _cost(line: Sequence[int], ground: Ground) -> float:
    """What a whole way costs, whatever it goes by: its moves, its turns, foreign notes and those on beats that are no
    chord tones.
    """
    moves = sum(_move_cost(a, b) for a, b in pairwise(line))
    signs = [int(math.copysign(1, b - a)) for a, b in pairwise(line)]
    turns = sum(0.25 for a, b in pairwise(signs) if a != b)
    inner = line[1:-1]
    foreign = sum(0.3 for pitch in inner if pitch % 12 not in ground.scale)
    weights = sum(_weight(pitch, place, ground) for place, pitch in enumerate(inner))
    return round(moves + turns + foreign + weights, 3)


def on_beats(start: Fraction, count: int, length: Fraction, beat: Fraction = Fraction(1)) -> tuple[bool, ...]:
    """For notes of one length from a time on, which of them are on a beat."""
    return tuple((start + k * length) % beat == 0 for k in range(count))
