"""Which heard note is which written one.

First the tempo and the place of the take are found by a vote: every pair of a written and a heard note of the same
pitch votes for the moment at which bar 1 would have begun, at every tempo; the fullest moment wins. Then the two lines
are laid along each other by dynamic programming over pairs, as sequences are (S. Needleman and C. Wunsch, 1970): a note
may be another pitch, be missing, or be added, and the time between two pairs is held against the tempo. A pause or a
jump costs as much as a few mistakes, however long it is.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way

Times = NDArray[np.float64]
Pitches = NDArray[np.int64]

_SLOWEST, _FASTEST = 0.45, 2.2
"""How much longer or shorter than nominal a take may be where its tempo is not known."""

_TEMPO_STEP, _KNOWN_WITHIN = 0.005, 0.04
_BIN, _START_WITHIN = 0.03, 1.0
_USUAL_SPREAD = 0.5
_MOST_VOTES = 3_000_000

_REACH = 6
"""So many notes in a row may be missing or added before it is a jump."""

_MISSING, _ADDED, _WRONG, _NEAR_WRONG, _OCTAVE = 1.0, 1.0, 1.25, 1.0, 0.3
_JUMP, _MOST_LATE = 3.0, 2.5
_LOOSE, _LOOSE_DUE = 0.06, 0.06
"""Seconds by which the time between two notes usually differs from the tempo's, and a note from when it was due."""

_FULL = 6_000_000
"""Up to so many pairs each is looked at; beyond, those near the place that was voted for."""

_ROOM, _ROOM_SHARE = 8.0, 0.1
_NEAR_DUE = 2.0
"""Seconds from when it was due within which a note is looked for."""


@dataclass(frozen=True)
class Place:
    """Where a take lies: a written moment of ``nominal`` seconds is played at ``start`` + ``rate`` × nominal seconds.

    ``share``: how many of the written notes voted for it, 0 to 1.
    """

    start: float
    rate: float
    share: float


def voted(
    due: Times,
    due_pitches: Pitches,
    heard: Times,
    heard_pitches: Pitches,
    rate: float | None,
    start: float | None = None,
) -> Place:
    """The place most pairs of notes agree on; ``rate`` is how much longer than nominal it is played, and ``start`` when
    nominal 0 was played (within a second), where they are known.
    """
    if not len(due) or not len(heard):
        return Place(float(heard[0]) if len(heard) else 0.0, rate or 1.0, 0.0)
    most = max(1, _MOST_VOTES * 12 // max(1, len(due)))
    if len(heard) > most:
        heard, heard_pitches = heard[:most], heard_pitches[:most]
    written, played = np.nonzero((due_pitches[:, None] - heard_pitches[None, :]) % 12 == 0)
    weights: Times = np.where(due_pitches[written] == heard_pitches[played], 1.0, 0.5)
    if not len(written):
        return Place(float(heard[0]), rate or 1.0, 0.0)
    low, high = (_SLOWEST, _FASTEST) if rate is None else (rate * (1 - _KNOWN_WITHIN), rate * (1 + _KNOWN_WITHIN))
    count = int(np.ceil(np.log(high / low) / _TEMPO_STEP)) + 1
    best, found = -1.0, Place(0.0, 1.0, 0.0)
    for candidate in np.geomspace(low, high, count):
        give_way()
        starts = heard[played] - candidate * due[written]
        counts = weights if start is None else np.where(np.abs(starts - start) <= _START_WITHIN, weights, 0.0)
        bins = np.floor((starts - starts.min()) / _BIN).astype(np.int64)
        votes: Times = np.convolve(np.bincount(bins, counts), (0.5, 1.0, 0.5), "same")
        usual = 1.0 if rate is not None else float(np.exp(-0.5 * (np.log(candidate) / _USUAL_SPREAD) ** 2))
        top = int(np.argmax(votes))
        if votes[top] * usual > best:
            best = float(votes[top] * usual)
            near = np.abs(bins - top) <= 1
            voters = len(np.unique(written[near]))
            found = Place(float(np.median(starts[near])), float(candidate), voters / len(due))
    return found


def pairs_of(
    due: Times,
    due_pitches: Pitches,
    heard: Times,
    heard_pitches: Pitches,
    around: Place | None,
    near: bool = False,
) -> list[tuple[int, int]]:
    """(written, heard) of the notes that belong together, in order; with ``near`` none lies far from its place.

    Where the place of the take is only known roughly (``around``), the time between notes is held against its tempo.
    Without it ``due`` are the very seconds at which notes are due, and each note is held against its own.
    """
    count = len(due)
    if not count or not len(heard):
        return []
    if around is None:
        first, last = np.searchsorted(heard, due - _NEAR_DUE), np.searchsorted(heard, due + _NEAR_DUE)
    elif near:
        place = around.start + around.rate * due
        first, last = np.searchsorted(heard, place - _NEAR_DUE), np.searchsorted(heard, place + _NEAR_DUE)
    else:
        first, last = _corridor(due, heard, around)
    scores: list[NDArray[np.float64]] = []
    came: list[NDArray[np.int64]] = []
    expected = due if around is None else around.rate * due
    # The best way to stand anywhere behind a pair, ready to jump.
    ready = np.full(len(heard) + 1, np.inf)
    ready_from = np.full(len(heard) + 1, -1, np.int64)
    for note in range(count):
        give_way()
        low, high = int(first[note]), int(last[note])
        span = np.arange(low, high)
        cost = _pitch_costs(due_pitches[note], heard_pitches[low:high])
        if around is None:
            cost = cost + np.minimum(_MOST_LATE, 0.5 * ((heard[low:high] - due[note]) / _LOOSE_DUE) ** 2)
        # To begin here: what was written before is missing; what was heard before counts a little.
        best = _MISSING * note + 0.3 * np.minimum(span - int(first[0]), 30) * _ADDED
        source = np.full(len(span), -1, np.int64)
        if note:
            jump = ready[low:high] + _JUMP
            better = jump < best
            best, source = np.where(better, jump, best), np.where(better, ready_from[low:high], source)
        for back in range(1, min(_REACH, note) + 1):
            earlier = note - back
            before = scores[earlier]
            if not len(before):
                continue
            wanted = expected[note] - expected[earlier]
            for skip in range(1, _REACH + 1):
                index = span - skip - int(first[earlier])
                inside = (index >= 0) & (index < len(before))
                if not inside.any():
                    continue
                safe = np.clip(index, 0, len(before) - 1)
                away = heard[span] - heard[np.maximum(span - skip, 0)] - wanted
                total = before[safe] + _MISSING * (back - 1) + _ADDED * (skip - 1)
                if around is not None:
                    total += np.minimum(_MOST_LATE, 0.5 * (away / (_LOOSE + 0.06 * wanted)) ** 2)
                total = np.where(inside, total, np.inf)
                better = total < best
                best = np.where(better, total, best)
                source = np.where(better, earlier * (len(heard) + 1) + safe + int(first[earlier]), source)
        scores.append(best + cost)
        came.append(source)
        # From here a jump is possible to whatever comes later in both lines; what is jumped over is missing or added.
        ready = ready + _MISSING
        own = np.full(len(heard) + 1, np.inf)
        own[low + 1 : high + 1] = scores[-1]
        mine = own < ready
        ready = np.where(mine, own, ready)
        ready_from = np.where(mine, note * (len(heard) + 1) + np.arange(len(heard) + 1) - 1, ready_from)
        ready, ready_from = _carried(ready, ready_from)
    return _walked_back(scores, came, first, len(heard), int(last[-1]))


def _carried(ready: NDArray[np.float64], source: NDArray[np.int64]) -> tuple[NDArray[np.float64], NDArray[np.int64]]:
    """The best of what is ready up to each heard note, what was added meanwhile counted."""
    cost = 0.5 * _ADDED * np.arange(len(ready))
    levelled = ready - cost
    lowest = np.minimum.accumulate(levelled)
    at = np.maximum.accumulate(np.where(levelled <= lowest, np.arange(len(ready)), 0))
    return lowest + cost, source[at]


def _corridor(due: Times, heard: Times, around: Place) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """The first and the last heard note (not with it) that each written one may be."""
    if len(due) * len(heard) <= _FULL:
        return np.zeros(len(due), np.int64), np.full(len(due), len(heard), np.int64)
    middle = around.start + around.rate * due
    room = _ROOM + _ROOM_SHARE * np.abs(middle - middle[0])
    return np.searchsorted(heard, middle - room), np.searchsorted(heard, middle + room)


def _pitch_costs(written: int, heard: Pitches) -> NDArray[np.float64]:
    away = np.abs(heard - written)
    wrong = np.where(away <= 2, _NEAR_WRONG, _WRONG)
    return np.where(away == 0, 0.0, np.where(away % 12 == 0, _OCTAVE, wrong))


def _walked_back(
    scores: list[NDArray[np.float64]],
    came: list[NDArray[np.int64]],
    first: NDArray[np.int64],
    heard: int,
    end: int,
) -> list[tuple[int, int]]:
    count = len(scores)
    best, note, at = np.inf, -1, -1
    for index, score in enumerate(scores):
        if not len(score):
            continue
        played = np.arange(len(score)) + int(first[index])
        ends = score + _MISSING * (count - 1 - index) + 0.3 * np.minimum(end - 1 - played, 30) * _ADDED
        lowest = int(np.argmin(ends))
        if ends[lowest] < best:
            best, note, at = float(ends[lowest]), index, int(played[lowest])
    if best >= _MISSING * count + 0.3 * min(end - int(first[0]), 30) * _ADDED:
        return []
    pairs = []
    while note >= 0:
        pairs.append((note, at))
        code = int(came[note][at - int(first[note])])
        note, at = (code // (heard + 1), code % (heard + 1)) if code >= 0 else (-1, -1)
    return pairs[::-1]
