"""From played times to written ones: the simplest rhythm that explains what was played, beat by beat.

Each beat is divided by 1, 2, 3, 4, 6 or 8 (a dotted one by 3, 6 or 12 first); the choice is a search over the whole
line (dynamic programming over beats) that weighs how far notes lie from their places against how hard the division is
to read. Swung eighths are recognised first, from the beats with two notes, and are written as even ones. Compare A. T.
Cemgil and B. Kappen, "Monte Carlo methods for tempo tracking and rhythm quantization" (2003), for the trade.
"""

from __future__ import annotations

import itertools
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import floor
from statistics import median

import numpy as np

from gavotte.solo.swing import goes_along, swung_part, unswung_part

Played = tuple[Fraction, Fraction]
"""Onset and end in quarter notes, as played."""

_COST_OF_DIVISION = {1: 0.0, 2: 0.5, 3: 2.0, 4: 2.0, 6: 6.5, 8: 6.5}
_COST_IN_COMPOUND = {1: 0.0, 3: 0.5, 6: 2.0, 2: 4.0, 4: 6.5, 12: 7.5}
"""Dotted beats are divided by three."""

_SPREAD, _LEAST_SPREAD, _MOST_SPREAD = 0.045, 0.03, 0.075
_CLASH = 40.0
_QUICKEST, _QUICK_COST = 0.085, 200.0
"""Seconds between the notes of the quickest usual runs, and what each second less costs a division."""

_ROUNDS = 2
_AROUND, _OFF_PLACE, _BELIEF = 5.0, 0.16, 4.0
"""How many beats around say where the line lies behind or ahead, how far off its place a note is no witness, and how
many notes the belief weighs that it lies on the beat."""

_EVEN = (1, 2, 4, 8)
# In a swung line three notes in a beat are a triplet rather than two uneven sixteenths and an eighth.
_UNEVEN_IN_SWING, _UNEVEN_COST = (4, 6, 8), 2.5
_SWING_FROM, _SWING_TO = 0.565, 0.77
_LEGATO, _LEGATO_IN_RUNS = Fraction(3, 5), Fraction(1, 4)
"""The share of the time up to the next note from which on a note counts as held up to it; less within half a beat."""

_EXACT_DENOMINATORS = (1, 2, 3, 4, 5, 6, 7, 8, 12, 16)


@dataclass(frozen=True, slots=True)
class Rhythm:
    """Written (onset, duration) of each note; ``swing`` is the long to short ratio that was heard, None if even."""

    times: tuple[tuple[Fraction, Fraction], ...]
    swing: Fraction | None


def quantise(
    played: Sequence[Played],
    beat: Fraction = Fraction(1),
    tolerance: Fraction = Fraction(1, 480),
    beat_seconds: float | None = None,
) -> Rhythm:
    """The rhythm of a line. ``played`` is in order of onsets and has one note at a time; ``beat`` is in quarter notes.

    A line that already lies on a grid (all but a few times within ``tolerance``) is taken exactly as it is. Another is
    written twice: where its notes lie around their places the first time says how far the player is behind or ahead
    there, how unevenly they play and how much they swing. ``beat_seconds`` is how long a beat usually lasts: of fast
    ones fewer divisions can be played.
    """
    if not played:
        return Rhythm((), None)
    exact = _exact(played, tolerance)
    if exact is not None:
        return Rhythm(exact, None)
    fractions = [float(onset / beat) for onset, _ in played]
    compound = beat.numerator % 3 == 0
    share = None if compound else _swing_share(fractions)
    costs = _costs(_COST_IN_COMPOUND if compound else _COST_OF_DIVISION, beat_seconds)
    feel = _Feel(share, _SPREAD, not compound)
    places = _places(fractions, feel, costs)
    for _ in range(_ROUNDS):
        late = _lateness(fractions, places, feel)
        feel = _felt(fractions, places, late, feel)
        places = _places([time - by for time, by in zip(fractions, late, strict=True)], feel, costs)
    share = feel.share
    onsets = [beat * place for place in places]
    ends = [
        beat * Fraction(feel.written(float(end / beat) - by)).limit_denominator(960)
        for (_, end), by in zip(played, late, strict=True)
    ]
    times = tuple(_with_lengths(played, onsets, ends, beat))
    return Rhythm(times, None if share is None else Fraction(round(share / (1 - share) * 20), 20))


def _exact(played: Sequence[Played], tolerance: Fraction) -> tuple[tuple[Fraction, Fraction], ...] | None:
    """The times on the grid they lie on, or None where they do not."""
    found: list[tuple[Fraction, Fraction]] = []
    missed = 0
    for onset, end in played:
        start, stop = _on_grid(onset, tolerance), _on_grid(end, tolerance)
        missed += (start is None) + (stop is None)
        if missed * 50 > len(played) + 50:
            return None
        start = start if start is not None else onset.limit_denominator(16)
        stop = stop if stop is not None else end.limit_denominator(16)
        found.append((start, max(Fraction(0), stop - start)))
    return tuple(found)


def _on_grid(time: Fraction, tolerance: Fraction) -> Fraction | None:
    for denominator in _EXACT_DENOMINATORS:
        near = Fraction(round(time * denominator), denominator)
        if abs(near - time) <= tolerance:
            return near
    return None


def _swing_share(times: Sequence[float]) -> float | None:
    """The share of a beat that the first of two swung eighths takes; None where eighths are even or too few."""
    by_beat = [list(group) for _, group in itertools.groupby(times, key=lambda time: int(time + 0.1))]
    seconds = [
        group[1] - int(group[0] + 0.1)
        for group in by_beat
        if len(group) == 2 and abs(group[0] - int(group[0] + 0.1)) < 0.12
    ]
    halves = [second for second in seconds if 0.42 < second < _SWING_TO]
    if len(halves) < 4:
        return None
    share = median(halves)
    return share if share >= _SWING_FROM else None


def _costs(costs: dict[int, float], beat_seconds: float | None) -> dict[int, float]:
    """What divisions cost where beats are so short."""
    if beat_seconds is None:
        return costs
    return {
        division: cost + _QUICK_COST * max(0.0, _QUICKEST - beat_seconds / division) for division, cost in costs.items()
    }


@dataclass(frozen=True, slots=True)
class _Feel:
    """How a line is played: the ``share`` of a beat a first eighth takes (None: half), the ``spread`` of its notes in
    beats.

    ``by_halves``: whether beats are halved before all else, as in simple meters.
    """

    share: float | None
    spread: float
    by_halves: bool = True

    def written(self, time: float) -> float:
        """The written place (in beats) at which something is played, wherever it lies."""
        beat = floor(time)
        return time if self.share is None else beat + unswung_part(time - beat, self.share)

    def played(self, place: Fraction) -> float:
        """Where a written place (in beats) is played."""
        beat = floor(place)
        part = place - beat
        if self.share is None or not goes_along(part):
            return float(place)
        return beat + swung_part(float(part), self.share)


_HALF = Fraction(1, 2)


def _lateness(times: Sequence[float], places: Sequence[Fraction], feel: _Feel) -> list[float]:
    """How far behind the beat (in beats) the line lies at each note, by the notes around."""
    where, away = np.array(times), np.array(times) - np.array([feel.played(place) for place in places])
    counts = np.abs(away) < _OFF_PLACE
    if not counts.any():
        return [0.0] * len(times)
    whole = float(np.median(away[counts])) * counts.sum() / (counts.sum() + _BELIEF)
    found = []
    for time in times:
        near = np.exp(-0.5 * ((where - time) / _AROUND) ** 2) * counts
        found.append(float((near @ away + _BELIEF * whole) / (near.sum() + _BELIEF)))
    return found


def _felt(times: Sequence[float], places: Sequence[Fraction], late: Sequence[float], feel: _Feel) -> _Feel:
    """How a line is played, by where its notes lie around their places."""
    share = feel.share
    offs = [
        time - by - floor(place)
        for time, place, by in zip(times, places, late, strict=True)
        if place - floor(place) == _HALF
    ]
    if feel.by_halves and len(offs) >= _FEWEST_HALVES:
        middle = median(offs)
        error = 1.25 * 1.48 * median(abs(off - middle) for off in offs) / len(offs) ** 0.5
        share = middle if middle - 0.5 > 2 * error + _LEAST_SWING and middle < _SWING_TO else None
    away = [abs(time - by - _Feel(share, 0).played(place)) for time, place, by in zip(times, places, late, strict=True)]
    spread = 1.48 * median(away)
    return _Feel(share, min(_MOST_SPREAD, max(_LEAST_SPREAD, spread)), feel.by_halves)


_FEWEST_HALVES, _LEAST_SWING = 6, 0.005


@dataclass(frozen=True, slots=True)
class _Way:
    """A way to write all beats so far: what it costs, the places of its last beat, and the way before that."""

    cost: float
    places: list[Fraction]
    before: _Way | None


def _places(times: Sequence[float], feel: _Feel, costs: dict[int, float]) -> list[Fraction]:
    """Written onsets in beats: the cheapest divisions of all beats together."""
    # By whether the beat before put a note on this beat's first place.
    best: dict[bool, _Way] = {False: _Way(0.0, [], None)}
    for beat in sorted({floor(time) for time in times}):
        mine = times[bisect_left(times, beat) : bisect_left(times, beat + 1)]
        following: dict[bool, _Way] = {}
        for taken, way in best.items():
            blocked = taken and way.places[-1] == beat
            for division, cost in costs.items():
                more, places = _fit(mine, beat, division, feel, blocked)
                more += cost
                reaches = places[-1] == beat + 1
                total = way.cost + more
                if reaches not in following or total < following[reaches].cost:
                    following[reaches] = _Way(total, places, way)
        best = following
    last: _Way | None = min(best.values(), key=lambda way: way.cost)
    found: list[list[Fraction]] = []
    while last is not None:
        found.append(last.places)
        last = last.before
    return [place for places in reversed(found) for place in places]


def _fit(times: Sequence[float], beat: int, division: int, feel: _Feel, taken: bool) -> tuple[float, list[Fraction]]:
    """What a beat's notes cost under one division of it, beside the division itself, and their places."""
    cost, share = 0.0, feel.share
    if share is not None and division in _UNEVEN_IN_SWING:
        cost += _UNEVEN_COST
    places: list[Fraction] = []
    slots: set[int] = set()
    for time in times:
        part = time - beat
        straight = unswung_part(part, share) if share is not None and division in _EVEN else part
        slot = round(straight * division)
        slots.add(slot)
        place = beat + Fraction(slot, division)
        cost += ((time - (feel.played(place) if division in _EVEN else float(place))) / feel.spread) ** 2
        if (places and places[-1] == place) or (taken and slot == 0):
            cost += _CLASH
        places.append(place)
    if division == 3 and feel.by_halves and not slots & {1}:
        # The last third of a beat alone is what a swung or lazy eighth is.
        cost += _UNEVEN_COST
    return cost, places


def _with_lengths(
    played: Sequence[Played], onsets: Sequence[Fraction], ends: Sequence[Fraction], beat: Fraction
) -> list[tuple[Fraction, Fraction]]:
    """Lengths by how long notes were held: nearly up to the next note counts as up to it."""
    times: list[tuple[Fraction, Fraction]] = []
    in_thirds = {floor(onset / beat) for onset in onsets if (onset / beat).denominator % 3 == 0}
    for index, ((start, end), onset) in enumerate(zip(played, onsets, strict=True)):
        last = index + 1 == len(played)
        room = 4 * beat if last else onsets[index + 1] - onset
        held = end - start
        until_next = None if last else played[index + 1][0] - start
        legato = _LEGATO_IN_RUNS if 2 * room <= beat else _LEGATO
        if until_next is not None and room <= 2 * beat and held >= legato * until_next:
            times.append((onset, room))
            continue
        length = _length(onset, ends[index] - onset, beat, floor(onset / beat) in in_thirds)
        times.append((onset, min(length, room)))
    return times


_OTHER_GRID = Fraction(1, 10)
_COST_OF_END = {1: Fraction(0), 2: Fraction(2, 25), 3: Fraction(1, 5), 4: Fraction(1, 5)}


def _length(onset: Fraction, held: Fraction, beat: Fraction, in_thirds: bool) -> Fraction:
    """How long a note before a rest is written: near to how long it was held, and ending where it is easy to read.

    ``in_thirds``: whether its beat is divided by three.
    """
    compound = beat.numerator % 3 == 0
    best, least = beat / 4, None
    for division, cost in _COST_OF_END.items():
        if compound and division in (2, 4):
            continue
        if not compound and division == (4 if in_thirds else 3):
            cost += _OTHER_GRID
        step = beat / division
        end = round((onset + held) / step) * step
        for stop in (end - step, end, end + step):
            length = stop - onset
            if length < beat / 4:
                continue
            total = abs(length - held) / beat + (Fraction(0) if (stop / beat).denominator == 1 else cost)
            if least is None or total < least:
                best, least = length, total
    return best
