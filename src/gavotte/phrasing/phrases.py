"""Where a line is divided into phrases.

Each place between two notes is weighed by what makes a listener hear an end there (a rest, a long note, a leap, a new
unit of the form, a rhythm that begins again), each stretch between two ends by how far it is from the usual length;
the best division of the whole line is found by dynamic programming. After the grouper of D. Temperley, *The Cognition
of Basic Musical Structures* (2001), ch. 3, whose rules for gaps, lengths and parallels these are; leaps as in the
local boundary model of E. Cambouropoulos (ICMC 2001), and as there a time is long beside the times about it. The
weights were fitted on lines composed for it.
"""

from __future__ import annotations

import itertools
import math
import statistics
from bisect import bisect_left
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from gavotte.giving_way import give_way
from gavotte.phrasing.line import number
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function, Note, Solo
from gavotte.solo.label import Label
from gavotte.theory.meter import Meter


@dataclass(frozen=True, slots=True)
class Weights:
    """What speaks for the end of a phrase, and against a phrase of another than the usual length."""

    rest: float = 0.64
    """Each beat of rest, up to ``most_rest``."""
    most_rest: float = 0.86
    long: float = 0.66
    """Each doubling of the time to the next note against the usual one, up to ``most_long`` doublings."""
    nearby: float = 0.85
    """How much of what is usual is that of the notes about, and not of the whole line: by the logarithm."""
    peak: float = 0.1
    """A longer time to the next note than both before and after it."""
    most_long: float = 2.95
    leap: float = 0.29
    """A leap of a fifth and more."""
    four_bars: float = 1.1
    two_bars: float = 1.39
    bar: float = 0.24
    """A new unit of the form begins about here: of four bars, of two, of one; where a bar has fewer than four beats,
    the larger ones are of twice as many."""
    parallel: float = 0.29
    """The rhythm that begins here has begun before at the same place of the bar."""
    shape: float = 0.35
    """So has the contour: the directions of the first moves, with the first two times."""
    ahead: float = 0.33
    """It begins again further on, where as much speaks for an end as here."""
    leads: float = 1.52
    """What speaks against an end within a figure, or between it and what it leads to."""
    sequence: float = 1.86
    """What speaks against an end inside a sequence: between the first, second and third time of a cell."""
    boundary: float = 2.15
    """What any end must be worth."""
    short: float = 4.7
    long_phrase: float = 4.8
    """What a phrase costs that is half the shortest usual length, or double the longest; beyond it, by the square."""
    shortest: float = 1.7
    longest: float = 4.03
    """The usual lengths, in bars of four beats."""


WEIGHTS = Weights()
_A_FIFTH, _BARS_AT_MOST, _FIRST_NOTES = 7, 9.0, 4
_A_BREATH = 0.5
_PICKUP_BEATS, _A_MOMENT, _FOUR = 1.5, 1e-6, 4


@dataclass(frozen=True, slots=True)
class Phrase:
    """A phrase by the indexes of its first and last note."""

    first: int
    last: int


def phrases_of(solo: Solo, labels: Sequence[Label] = (), weights: Weights = WEIGHTS) -> tuple[Phrase, ...]:
    """The phrases of a line, in order; together they hold every note. None where there is no note.

    Where ``labels`` are given, one for each note, a note that only leads on seldom ends a phrase before it has arrived.

    A phrase begins where the user says so (``Solo.phrase_starts``), and nowhere where the user says that none does.
    """
    heads = [i for i, note in enumerate(solo.notes) if not note.grace]
    if not heads:
        return (Phrase(0, len(solo.notes) - 1),) if solo.notes else ()
    grid = BarGrid(solo)
    notes = [solo.notes[i] for i in heads]
    leading = _leading(notes, [labels[i] for i in heads] if labels else [])
    starts = _best_starts(notes, grid, weights, leading, *_decided(solo, heads))
    # Grace notes belong to the note they lead into.
    firsts = [0, *(heads[start - 1] + 1 for start in starts[1:])]
    lasts = [*(first - 1 for first in firsts[1:]), len(solo.notes) - 1]
    return tuple(Phrase(first, last) for first, last in zip(firsts, lasts, strict=True))


def _leading(notes: Sequence[Note], labels: Sequence[Label]) -> frozenset[int]:
    """The notes before which a figure is still under way, or has not arrived, without a breath between."""
    leading = set()
    for i in range(1, len(labels)):
        before, label = labels[i - 1], labels[i]
        leads_on = before.function is Function.APPROACH and before.target is not None
        inside = before.group is not None and before.group == label.group
        if (leads_on or inside) and notes[i].onset - notes[i - 1].end < _A_BREATH:
            leading.add(i)
    return frozenset(leading)


def _decided(solo: Solo, heads: Sequence[int]) -> tuple[list[int], frozenset[int]]:
    """Where, of the notes but grace notes, a phrase must begin, in order, and where none may."""
    places = solo.places
    marks = {bisect_left(heads, places[mark.note]): mark.begins for mark in solo.phrase_starts if mark.note in places}
    wanted = sorted(i for i, begins in marks.items() if begins and 0 < i < len(heads))
    return wanted, frozenset(i for i, begins in marks.items() if not begins)


def gestures_of(solo: Solo, phrases: Sequence[Phrase]) -> tuple[tuple[Phrase, ...], ...]:
    """For each phrase the smaller gestures it is made of: itself where it is one. They end where something speaks for
    an end, and have three notes at least.
    """
    heads = [i for i, note in enumerate(solo.notes) if not note.grace]
    notes = [solo.notes[i] for i in heads]
    worths = _worths(notes, _places(notes, BarGrid(solo)), replace(WEIGHTS, boundary=0.0))
    worth_of = dict(zip(heads[1:], worths, strict=True)) if heads else {}
    return tuple(_gestures(phrase, heads, worth_of) for phrase in phrases)


def _gestures(phrase: Phrase, heads: Sequence[int], worth_of: Mapping[int, float]) -> tuple[Phrase, ...]:
    inside = heads[bisect_left(heads, phrase.first) : bisect_left(heads, phrase.last + 1)]
    firsts = [phrase.first]
    last_cut = 0
    for i in range(1, len(inside)):
        is_end = worth_of[inside[i]] >= _A_GESTURE
        if is_end and i - last_cut >= _LEAST_NOTES and len(inside) - i >= _LEAST_NOTES:
            firsts.append(inside[i - 1] + 1)
            last_cut = i
    lasts = [*(first - 1 for first in firsts[1:]), phrase.last]
    return tuple(Phrase(first, last) for first, last in zip(firsts, lasts, strict=True))


_LEAST_NOTES, _A_GESTURE = 3, 1.3
"""The notes a gesture has at least, and what must speak for an end of one."""


@dataclass(frozen=True, slots=True)
class _Place:
    """Where a note begins, in bars from the first numbered one; its beat and its bar, in quarter notes."""

    at: float
    beat: float
    bar: float


def _places(notes: Sequence[Note], grid: BarGrid) -> list[_Place]:
    first = next((k for k, bar in enumerate(grid.bars) if bar.number > 0), 0)
    places = []
    beat_of: dict[tuple[Meter, float], float] = {}
    for note in notes:
        give_way()
        index = grid.index_at(note.onset)
        bar = grid.bars[index]
        whole, onset, start, end = (number(time) for time in (bar.meter.bar_length, note.onset, bar.onset, bar.end))
        # A pickup is the end of a bar.
        share = (onset - start) / (end - start) if bar.number > 0 else 1 - (end - onset) / whole
        at = (bar.meter, onset - start)
        if at not in beat_of:
            beat_of[at] = number(bar.meter.beat_at(note.onset - bar.onset)[1].length)
        places.append(_Place(index - first + share, beat_of[at], whole))
    return places


def _best_starts(
    notes: Sequence[Note],
    grid: BarGrid,
    weights: Weights,
    leading: frozenset[int],
    wanted: Sequence[int],
    barred: frozenset[int],
) -> list[int]:
    """The notes with which the phrases of the best division begin: among them all ``wanted``, and none ``barred``."""
    where = _places(notes, grid)
    worth = [0.0, *_worths(notes, where, weights)]
    for i in leading:
        worth[i] -= weights.leads
    beats = _beats(notes, where)
    best = [0.0] + [-math.inf] * len(notes)
    came = [0] * (len(notes) + 1)
    for stop in range(1, len(notes) + 1):
        give_way()
        if stop in barred and stop < len(notes):
            continue
        # The last wanted start before the end: no phrase may lead over it.
        floor = wanted[k - 1] if (k := bisect_left(wanted, stop)) else 0
        here = worth[stop] if stop < len(notes) else 0.0
        for start in range(stop - 1, floor - 1, -1):
            length = (beats[stop] - beats[start]) / _FOUR
            if length > _BARS_AT_MOST and best[stop] > -math.inf:
                break
            most = best[start] + here
            # No length makes a phrase better than one of a usual length.
            if most > best[stop] and (total := most - _strange(length, weights)) > best[stop]:
                best[stop], came[stop] = total, start
    starts = []
    stop = len(notes)
    while stop > 0:
        stop = came[stop]
        starts.append(stop)
    return starts[::-1]


def _beats(notes: Sequence[Note], where: Sequence[_Place]) -> list[float]:
    """How many beats have passed when each note begins, and when the last one ends."""
    beats = [0.0]
    for (a, b), place in zip(itertools.pairwise(notes), where, strict=False):
        beats.append(beats[-1] + (number(b.onset) - number(a.onset)) / place.beat)
    return [*beats, beats[-1] + float(notes[-1].duration) / where[-1].beat]


def _strange(bars: float, weights: Weights) -> float:
    """What a phrase of so many bars costs for its length."""
    if bars < weights.shortest:
        return weights.short * math.log2(weights.shortest / max(bars, 1 / 16)) ** 2
    if bars > weights.longest:
        return weights.long_phrase * math.log2(bars / weights.longest) ** 2
    return 0.0


def _worths(notes: Sequence[Note], where: Sequence[_Place], weights: Weights) -> list[float]:
    """What speaks for a phrase to begin with each note but the first."""
    pairs = zip(itertools.pairwise(notes), where, strict=False)
    apart = [(number(b.onset) - number(a.onset)) / place.beat for (a, b), place in pairs]
    usual = _usual(apart, weights.nearby)
    ways = np.sign(np.diff([note.pitch.midi for note in notes])).tolist()
    begun: set[tuple[float, ...]] = set()
    worths = []
    rhythms = []
    for i in range(1, len(notes)):
        give_way()
        before, note = notes[i - 1], notes[i]
        end = number(before.onset) + number(before.duration)
        rest = max(0.0, (number(note.onset) - end) / where[i - 1].beat)
        worth = weights.rest * min(rest, weights.most_rest)
        worth += weights.long * min(weights.most_long, max(0.0, math.log2(max(apart[i - 1], _A_MOMENT) / usual[i - 1])))
        worth += weights.peak * _is_peak(apart, i - 1)
        worth += weights.leap * (abs(note.pitch.midi - before.pitch.midi) >= _A_FIFTH)
        worth += _form(where[i - 1].at, where[i], weights)
        rhythm = (round(where[i].at % 1, 4), *(round(x, 4) for x in apart[i : i + _FIRST_NOTES]))
        # Its last entry tells a shape from a rhythm.
        shape = (rhythm[0], *ways[i : i + _FIRST_NOTES], *rhythm[1:3], math.inf)
        worth += weights.parallel * (rhythm in begun) + weights.shape * (shape in begun)
        if worth > weights.boundary:
            begun |= {rhythm, shape}
        worths.append(worth - weights.boundary)
        rhythms.append(rhythm)
    last = {rhythm: i for i, rhythm in enumerate(rhythms) if worths[i] > 0}
    for i, rhythm in enumerate(rhythms):
        worths[i] += weights.ahead * (last.get(rhythm, -1) > i)
    for i in _inside_sequences(notes, apart):
        worths[i - 1] -= weights.sequence
    return worths


def _usual(apart: Sequence[float], nearby: float) -> list[float]:
    """What is usual about each time between two notes: between the median of all and that of the times about it."""
    if not apart:
        return []
    whole = max(statistics.median(apart), _A_MOMENT)
    usual = []
    for i in range(len(apart)):
        give_way()
        about = statistics.median(apart[max(0, i - _ABOUT) : i + _ABOUT + 1])
        usual.append(whole ** (1 - nearby) * max(about, _A_MOMENT) ** nearby)
    return usual


_ABOUT = 8
"""As many times before and after another are about it."""


def _is_peak(apart: Sequence[float], i: int) -> bool:
    """Whether a time is longer than the one before and the one after it."""
    before = i == 0 or apart[i] > apart[i - 1] + _A_MOMENT
    after = i + 1 == len(apart) or apart[i] > apart[i + 1] + _A_MOMENT
    return before and after


def _inside_sequences(notes: Sequence[Note], apart: Sequence[float]) -> list[int]:
    """The notes with which the second or third member of a sequence begins: a cell of three notes to eight that is
    heard three times at once, in one rhythm and with one contour, one of them not even.
    """
    ways = np.sign(np.diff([note.pitch.midi for note in notes]))
    gaps = np.array(apart)
    inside: set[int] = set()
    for size in _CELLS:
        count = len(gaps) - size
        if count < size:
            break
        in_time = np.abs(gaps[size:] - gaps[:count]) < _A_MOMENT
        alike = np.concatenate([[0], np.cumsum(in_time & (ways[size:] == ways[:count]))])
        starts = np.arange(max(0, count - 2 * size + 2))
        # The move between two members is free, but not how long it takes.
        again = alike[starts + size - 1] - alike[starts] == size - 1
        again &= in_time[starts + size - 1]
        again &= alike[starts + 2 * size - 1] - alike[starts + size] == size - 1
        for start in np.nonzero(again)[0].tolist():
            cell = slice(start, start + size)
            if len(set(ways[cell].tolist())) > 1 or float(np.ptp(gaps[cell])) > _A_MOMENT:
                inside |= {start + size, start + 2 * size}
    return sorted(inside)


_CELLS = range(3, 9)


def _form(before: float, here: _Place, weights: Weights) -> float:
    """What a new unit of the form is worth that begins between two notes, or up to a pickup behind the second."""
    pickup = _PICKUP_BEATS * here.beat / here.bar
    best = 0.0
    short = 2 if here.bar < _FOUR * here.beat - _A_MOMENT else 1
    for unit, worth in ((4 * short, weights.four_bars), (2 * short, weights.two_bars), (1, weights.bar)):
        start = math.ceil((before + _A_MOMENT) / unit) * unit
        if before < start <= here.at + pickup:
            best = max(best, worth)
    return best
