"""Heard keys: which key each stretch of the chords is in, with the written signature as what is expected.

A hidden path through 24 keys is found that explains the chords most cheaply (A. Viterbi, 1967): each chord costs what
it is foreign in a key, a change of key costs, and so does every bar away from the written key. A stretch only counts as
a key of its own when it is long enough, holds a cadence into its tonic, and rests there.
"""

from __future__ import annotations

import itertools
import math
from bisect import bisect_left, bisect_right
from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from operator import attrgetter

from gavotte.harmony.changes import Change
from gavotte.harmony.foreignness import cadences, chord_quality, foreign_step, foreignness
from gavotte.harmony.home import tonic_name
from gavotte.solo.differences import number_alike
from gavotte.solo.document import KeyRegion, Solo
from gavotte.theory.key import Key

CHANGE_OF_KEY = 3.0
"""What leaving one key for another costs, in bars of a chord that is wholly foreign."""
CHANGE_TO_RELATIVE = 0.8
"""The same between a major key and its relative minor, which need no other signature."""
AWAY_FROM_WRITTEN, IN_RELATIVE = 0.25, 0.15
"""What each bar in another key than the written one costs, and in its relative."""
CADENCE, MINOR_TWO_FIVE = 1.0, 0.5
"""What a cadence into the key's tonic is worth, and what a half-diminished ii before it adds."""
_BAR, _SECOND = 4.0, 2
_SHORTEST_BARS, _SHORTEST_TONIC = 4, 4


@dataclass(frozen=True, slots=True)
class HeardKey:
    """A key from ``onset`` up to ``end`` in quarter notes; ``why`` is what it is heard from, "" where it is written."""

    onset: Fraction
    end: Fraction
    key: Key
    blues: bool
    why: str = ""

    @property
    def region(self) -> KeyRegion:
        """As a region of the document."""
        return KeyRegion(self.onset, self.key, self.blues)


def hear_keys(solo: Solo, changes: Sequence[Change]) -> tuple[HeardKey, ...]:
    """The keys heard from the changes of a solo, whatever its user set; at least one. See ``ground_of``."""
    written = spans_of(solo.keys, solo.end)
    if len(changes) < 3:
        return written
    path = _with_their_twos(_cheapest_path(solo, changes), changes)
    regions: list[HeardKey] = []
    for (tonic, minor), group in itertools.groupby(zip(path, changes, strict=True), key=lambda pair: pair[0]):
        stretch = [change for _, change in group]
        regions += _region(solo, tonic, minor, stretch)
    return _joined(solo, regions) or written


def key_heard_at(keys: Sequence[HeardKey], onset: Fraction) -> HeardKey:
    """Which of some heard keys, in order and at least one, is in force at an onset: before the first, the first."""
    return keys[max(0, bisect_right(keys, onset, key=_onset) - 1)]


_onset = attrgetter("onset")


def spans_of(regions: Sequence[KeyRegion], end: Fraction) -> tuple[HeardKey, ...]:
    """Regions of keys, at least one, with where each ends; the last one at ``end``."""
    ends = [region.onset for region in regions[1:]] + [max(end, regions[-1].onset)]
    return tuple(
        HeardKey(region.onset, end, region.key, region.blues) for region, end in zip(regions, ends, strict=True)
    )


@lru_cache(maxsize=4096)
def _cost_of(quality: str, root: int, blues: bool, home: int) -> tuple[float, ...]:
    """What a bar of a chord costs in each state (tonic, + 12 for minor), ``home`` being the written key's."""
    away = [AWAY_FROM_WRITTEN] * 24
    away[home], away[_RELATIVE[home]] = 0.0, IN_RELATIVE
    return tuple(foreign_step((root - state) % 12, quality, state >= 12, blues) + away[state] for state in range(24))


_RELATIVE = tuple((state + 9) % 12 + 12 if state < 12 else (state + 3) % 12 for state in range(24))
"""For each state that of the relative key."""


def _cheapest_path(solo: Solo, changes: Sequence[Change]) -> list[tuple[int, bool]]:
    """For each chord the key it is heard in, as tonic and whether minor."""
    like = next((walk for walk in reversed(tuple(_WALKED)) if walk.written == solo.keys), None)
    same = 0 if like is None else number_alike(like.changes, changes)
    came, all_totals = ([], []) if like is None else (like.came[:same], like.totals[:same])
    totals = all_totals[-1] if all_totals else [0.0] * 24
    left = _home(solo.key_at(max(changes[max(0, same - 1)].onset, Fraction(0)))) if changes else 0
    for index, change in enumerate(changes[same:], same):
        written = solo.key_at(max(change.onset, Fraction(0)))
        home = _home(written)
        bars = min(2.0, float(change.length) / _BAR)
        root, minor = change.chord.root.pitch_class, change.chord.third == "b3"
        costs = _cost_of(chord_quality(change.chord), root, written.blues, home)
        best = min(totals)
        cheapest, leave = totals.index(best), best + (CHANGE_OF_KEY if index else 0.0)
        came_from, arrived = _arrivals(totals, cheapest, leave)
        if left != home:
            # Where the signature changes, the line is free to change with it.
            if totals[left] < arrived[home]:
                came_from[home], arrived[home] = left, totals[left]
            left = home
        came.append(came_from)
        totals = [total + cost * bars for total, cost in zip(arrived, costs, strict=True)]
        if index and cadences(changes[index - 1].chord, change.chord, root, minor):
            two_five = minor and index > 1 and changes[index - 2].chord.is_half_diminished
            totals[root + 12 * minor] -= CADENCE * bars + (MINOR_TWO_FIVE if two_five else 0.0)
        all_totals.append(totals)
    _WALKED.append(_Walk(solo.keys, tuple(changes), came, all_totals))
    state = totals.index(min(totals))
    path = []
    for steps in reversed(came):
        path.append((state % 12, state >= 12))
        state = steps[state]
    return path[::-1]


def _arrivals(totals: Sequence[float], cheapest: int, leave: float) -> tuple[list[int], list[float]]:
    """For each state the one it is best come from (itself, its relative, or the cheapest of all), and at what cost."""
    came_from, arrived = [], []
    for state, total in enumerate(totals):
        origin, relative = state, _RELATIVE[state]
        from_relative = totals[relative] + CHANGE_TO_RELATIVE
        if from_relative < total:
            origin, total = relative, from_relative
        if leave < total:
            origin, total = cheapest, leave
        came_from.append(origin)
        arrived.append(total)
    return came_from, arrived


def _home(written: KeyRegion) -> int:
    """The state of a written key."""
    return written.key.tonic.pitch_class + 12 * written.key.is_minor


def _with_their_twos(path: list[tuple[int, bool]], changes: Sequence[Change]) -> list[tuple[int, bool]]:
    """The path with each half-diminished ii in the minor key it leads into, though it is at home before it as well."""
    for index in range(len(path) - 1, 0, -1):
        (tonic, minor), before = path[index], changes[index - 1].chord
        if minor and before.is_half_diminished and (before.root.pitch_class - tonic) % 12 == _SECOND:
            path[index - 1] = path[index]
    return path


@dataclass(frozen=True, slots=True)
class _Walk:
    """How the cheapest path was found: for each change from which state each came, and what each has cost by then."""

    written: tuple[KeyRegion, ...]
    changes: tuple[Change, ...]
    came: list[list[int]]
    totals: list[list[float]]


_WALKED: deque[_Walk] = deque(maxlen=2)
"""The paths found last: an edit leaves most of the changes before it as they were."""


def _region(solo: Solo, tonic: int, minor: bool, stretch: list[Change]) -> list[HeardKey]:
    """The stretch as a key of its own, or as what is written there, where it does not rest in the key it leans to."""
    onset, end = stretch[0].onset, stretch[-1].end
    written = solo.key_at(max(onset, Fraction(0)))
    if (tonic, minor) == (written.key.tonic.pitch_class, written.key.is_minor):
        return [HeardKey(onset, end, written.key, written.blues)]
    homecomings = [b for a, b in itertools.pairwise(stretch) if cadences(a.chord, b.chord, tonic, minor)]
    at_home = sum(
        float(change.length)
        for change in stretch
        if change.chord.root.pitch_class == tonic and foreignness(change.chord, tonic, minor) == 0.0
    )
    if not homecomings or at_home < _SHORTEST_TONIC or end - onset < _SHORTEST_BARS * _BAR:
        return [HeardKey(onset, end, written.key, written.blues)]
    key = Key(tonic_name(stretch, tonic), "minor" if minor else "major")
    bar_words = f"{math.ceil(at_home / _BAR)} bars" if at_home > _BAR else "a bar"
    return [HeardKey(onset, end, key, False, f"a cadence into {key.shown}, and {bar_words} at rest there")]


def _joined(solo: Solo, regions: list[HeardKey]) -> tuple[HeardKey, ...]:
    """Neighbours in one key as one; a written change of key inside a stretch is kept."""
    joined: list[HeardKey] = []
    for region in regions:
        inside: Sequence[KeyRegion] = ()
        if not region.why:
            low, high = (
                bisect_right(solo.keys, region.onset, key=_onset),
                bisect_left(solo.keys, region.end, key=_onset),
            )
            inside = solo.keys[low:high]
        pieces = [region]
        for change in inside:
            last = pieces.pop()
            pieces += [
                HeardKey(last.onset, change.onset, last.key, last.blues),
                HeardKey(change.onset, last.end, change.key, change.blues),
            ]
        for piece in pieces:
            if joined and (joined[-1].key, joined[-1].blues) == (piece.key, piece.blues):
                joined[-1] = HeardKey(joined[-1].onset, piece.end, piece.key, piece.blues, joined[-1].why)
            else:
                joined.append(piece)
    return tuple(joined)
