"""What comes back in a line: motifs, each with its instances, how they are related, and how much they explain.

Two stretches of as many notes are the same thing where most of what is surprising in the one, its rhythm and its moves
from note to note, is so in the other. They are weighed as repeated patterns are by D. Meredith, K. Lemström and G. A.
Wiggins (*Algorithms for discovering repeated patterns in multidimensional representations of polyphonic music*, Journal
of New Music Research 31, 2002): by how much of the line they cover with how few notes; here a note counts by how
surprising its move and its rhythm are, so that scale runs of even notes, which always come back, weigh little.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.phrasing.line import Line, line_of
from gavotte.solo.document import Solo

_SIZES = tuple(range(3, 13))
_BETWEEN = np.array(_SIZES) - 1
_BEYOND = np.full(_SIZES[-1] - 1, -np.inf)
_LONGEST_BARS = 2.1
_FARTHEST = 3000
"""How many notes apart two stretches are compared at most: what comes back later than that is not sought."""
_SAME_STEPS, _NEAR_STEPS, _SAME_WAY, _OTHER_WAY = 0.95, 0.5, 0.25, -0.3
"""How much of a move's surprise is met by as many letters, one more or less, the same direction, another."""
_ALIKE, _ALIKE_ELSEWHERE = 0.72, 0.85
"""What share of a stretch's surprise another must meet, at the same place of the bar and at another."""
_ENOUGH_BITS, _ENOUGH_ELSEWHERE = 7.0, 9.0
"""How many bits they must share to be more than chance, likewise."""
_ENOUGH_TURNED = 9.0
"""The same for what is turned upside down or backwards."""
_LEAST_IN_PITCH = 0.3
"""What share of the moves' surprise must be met, however well the rhythm agrees."""
_ENOUGH_WORTH = 16.0
"""What a motif must explain in all, in bits."""
_STILL = 0.5
"""What share of its instances a motif must keep when weightier ones have taken theirs."""
_BESIDE_THE_FIRST = 0.2
"""What share of the weightiest motif's weight another must have to be worth telling."""
_LONG, _SAME_IN_EVEN, _SAME_IN_UNEVEN = 6, 0.95, 0.75
"""From so many notes on two stretches by themselves must share so many of their moves, by letters."""
_SAME_LEVEL, _BOTH_BEGIN, _BOTH_END, _IN_SEQUENCE = 1.5, 1.5, 1.5, 2.0
"""Bits for the same pitches, for beginning or ending a gesture both times, and for following at once."""
_OF_TWO = 0.6
"""What is left of the weight of a stretch that itself holds something twice: that is the motif."""


@dataclass(frozen=True, slots=True)
class Instance:
    """A motif at one place, by the indexes of its first and last note."""

    first: int
    last: int


@dataclass(frozen=True, slots=True)
class Motif:
    """Something that comes back. ``relation`` says how its instances are alike; ``weight`` is the share of the line it
    explains beyond its first instance, by surprise.
    """

    instances: tuple[Instance, ...]
    relation: str
    weight: float


def motifs_of(solo: Solo) -> tuple[Motif, ...]:
    """The motifs of a solo, the weightiest first. No note belongs to two of them."""
    return motifs_in(line_of(solo))


def motifs_in(line: Line) -> tuple[Motif, ...]:
    """The same of a line as numbers."""
    if len(line.onsets) < 2 * _SIZES[0]:
        return ()
    pairs = _Pairs(line)
    found: list[Motif] = []
    taken = np.zeros(len(line.onsets), dtype=bool)
    for score, size, start in pairs.by_worth():
        give_way()
        if taken[start : start + size].any():
            continue
        instances = pairs.instances(size, start, taken)
        weight = pairs.weight(size, instances)
        if len(instances) < 2 or weight < max(_STILL * score, _ENOUGH_WORTH):
            continue
        starts = sorted(at for _, at in instances)
        if len(starts) == 2 and not _is_told_apart(line, size, starts[0], starts[1]):
            continue
        for at in starts:
            taken[at : at + size] = True
        relation = _relation(line, size, starts)
        turned = pairs.turned(size, start, taken)
        for at in turned:
            taken[at : at + size] = True
        if turned:
            starts = sorted([*starts, *turned])
            relation = f"{relation}, turned"
        heard = tuple(Instance(line.places[at], line.places[at + size - 1]) for at in starts)
        found.append(Motif(heard, relation, round(min(1.0, weight / pairs.total), 4)))
    pairs.let_go()
    weighed = sorted(found, key=lambda motif: -motif.weight)
    return tuple(motif for motif in weighed if motif.weight >= _BESIDE_THE_FIRST * weighed[0].weight)


class _Pairs:
    """How much any two stretches of as many notes share, worked out lag by lag."""

    def __init__(self, line: Line) -> None:
        self.line = line
        self._rhythm, self._pitch = _surprise(line)
        self._sums = np.concatenate([[0.0], np.cumsum(self._rhythm + self._pitch)])
        self.total = float(self._sums[-1]) or 1.0
        self._shared: dict[int, list[list[tuple[float, int]]]] = {size: [[] for _ in line.onsets] for size in _SIZES}
        self._fitting = np.column_stack([self._fits(size) for size in _SIZES])
        sums = np.concatenate([self._sums, np.full(_SIZES[-1], np.inf)])
        n = len(line.onsets)
        self._own = np.column_stack([sums[size - 1 : size - 1 + n] - sums[:n] for size in _SIZES])
        for lag in range(_SIZES[0], min(_FARTHEST, len(line.onsets) - _SIZES[0]) + 1):
            give_way()
            self._compare(lag)
        for shared in self._shared.values():
            for others in shared:
                others.sort(reverse=True)

    def let_go(self) -> None:
        """Forget all pairs, some at a time: of a long line there are millions, and whoever waits waits for all."""
        for shared in self._shared.values():
            while shared:
                give_way()
                shared.pop()

    def _compare(self, lag: int) -> None:
        """What each stretch shares with the one ``lag`` notes on."""
        line = self.line
        count = len(line.moves) - lag
        moves_a, moves_b = line.moves[:count], line.moves[lag:]
        apart = np.abs(line.steps[:count] - line.steps[lag:])
        met = np.where(np.sign(moves_a) == np.sign(moves_b), _SAME_WAY, _OTHER_WAY)
        met = np.where((met > 0) & (apart <= 1), _NEAR_STEPS, met)
        met = np.where(apart == 0, _SAME_STEPS, met)
        met = np.where(moves_a == moves_b, 1.0, met)
        rhythm = np.abs(line.gaps[:count] - line.gaps[lag:]) < 1e-6
        pitch_bits = np.minimum(self._pitch[:count], self._pitch[lag:])
        rhythm_bits = np.minimum(self._rhythm[:count], self._rhythm[lag:])
        shared = np.concatenate([[0.0], np.cumsum(met * pitch_bits + np.where(rhythm, 1.0, -1.0) * rhythm_bits)])
        in_pitch = np.concatenate([[0.0], np.cumsum((met - _LEAST_IN_PITCH) * pitch_bits)])
        # Each row a start, each column a size; what reaches beyond the end is -inf and never like anything.
        windows = np.lib.stride_tricks.sliding_window_view(np.concatenate([shared, _BEYOND]), len(_BEYOND) + 1)
        plain = windows[:count, _BETWEEN] - windows[:count, :1]
        own = np.maximum(self._own[:count], self._own[lag : lag + count])
        # Few stretches agree at all: the rest is asked of those alone.
        near, column = np.nonzero(plain >= _ALIKE * own)
        if not len(near):
            return
        size = _BETWEEN[column] + 1
        last, bits = near + size - 1, plain[near, column]
        begin = line.begins[near] & line.begins[near + lag]
        end = line.ends[last] & line.ends[last + lag]
        level = line.pitches[near] == line.pitches[near + lag]
        # What follows at once is a sequence, wherever in the bar it falls.
        at_home = np.abs((line.bars[near] - line.bars[near + lag] + 0.5) % 1 - 0.5) < 1e-6
        at_home |= lag == size
        wanted = np.where(at_home, 0.0, _ALIKE_ELSEWHERE) * own[near, column]
        full = bits + _SAME_LEVEL * level + _BOTH_BEGIN * begin + _BOTH_END * end + _IN_SEQUENCE * (lag == size)
        alike = (bits >= wanted) & (full >= np.where(at_home, _ENOUGH_BITS, _ENOUGH_ELSEWHERE)) & (size <= lag)
        alike &= in_pitch[last] - in_pitch[near] >= 0
        alike &= self._fitting[near, column] & self._fitting[near + lag, column]
        found = zip(near[alike].tolist(), size[alike].tolist(), full[alike].tolist(), strict=True)
        for start, notes, value in found:
            self._shared[notes][start].append((value, start + lag))
            self._shared[notes][start + lag].append((value, start))

    def _fits(self, size: int) -> NDArray[np.bool_]:
        """For each start whether a stretch is short enough to be heard as one thing, with no long rest inside."""
        line, n = self.line, len(self.line.onsets)
        fits = np.zeros(n, dtype=bool)
        starts = n - size + 1
        if starts > 0:
            rests = np.concatenate([[0], np.cumsum(line.rests)])
            inside = rests[size - 1 : size - 1 + starts] - rests[:starts]
            fits[:starts] = (line.bars[size - 1 :] - line.bars[:starts] <= _LONGEST_BARS) & (inside == 0)
        return fits

    def candidates(self) -> Iterator[tuple[float, int, int]]:
        """What each stretch that comes back would explain, its size and its start."""
        for size, shared in self._shared.items():
            for start, others in enumerate(shared):
                give_way()
                if others:
                    yield self.weight(size, self.instances(size, start)), size, start

    def by_worth(self) -> Iterator[tuple[float, int, int]]:
        """The same, what explains most first."""
        scores, sizes, starts = [], [], []
        for score, size, start in self.candidates():
            scores.append(score)
            sizes.append(size)
            starts.append(start)
        # Numbers are put in order while others work; a list of thousands of tuples would keep everybody waiting.
        for k in np.lexsort((starts, sizes, scores))[::-1].tolist():
            yield scores[k], sizes[k], starts[k]

    def instances(self, size: int, start: int, taken: NDArray[np.bool_] | None = None) -> list[tuple[float, int]]:
        """The stretches like one, itself first, that share no note with each other or with what is taken."""
        chosen = [(0.0, start)]
        places = [start]
        for bits, other in self._shared[size][start]:
            # In order, so that only the neighbours on either side are asked.
            k = bisect_left(places, other)
            if (k and other - places[k - 1] < size) or (k < len(places) and places[k] - other < size):
                continue
            if taken is None or not taken[other : other + size].any():
                chosen.append((bits, other))
                places.insert(k, other)
        return chosen

    def turned(self, size: int, start: int, taken: NDArray[np.bool_]) -> list[int]:
        """Where a motif stands upside down or backwards, in the same rhythm, on notes that no motif has yet.

        Only of a motif so uneven that it would hardly come about by chance.
        """
        line, between = self.line, size - 1
        moves, steps = line.moves[start : start + between], line.steps[start : start + between]
        gaps = line.gaps[start : start + between]
        if self._own[start, size - _SIZES[0]] < _ENOUGH_TURNED or len(set(np.sign(moves[moves != 0]).tolist())) < 2:
            return []
        window = np.lib.stride_tricks.sliding_window_view
        all_moves, all_steps = window(line.moves, between), window(line.steps, between)
        all_gaps = window(line.gaps, between)
        over = (all_steps == -steps).all(axis=1) | (all_moves == -moves).all(axis=1)
        over &= (np.abs(all_gaps - gaps) < 1e-6).all(axis=1)
        back = (all_moves == -moves[::-1]).all(axis=1) & (np.abs(all_gaps - gaps[::-1]) < 1e-6).all(axis=1)
        places: list[int] = []
        for at in np.nonzero((over | back) & self._fits(size)[: len(over)])[0].tolist():
            if not taken[at : at + size].any() and (not places or at - places[-1] >= size):
                places.append(at)
        return places

    def weight(self, size: int, instances: Sequence[tuple[float, int]]) -> float:
        """What the instances of a stretch explain: what they share with it, more where it is a whole gesture."""
        start = instances[0][1]
        begins, ends = bool(self.line.begins[start]), bool(self.line.ends[start + size - 1])
        on_beat = float(self.line.bars[start] * 4 % 1) < 1e-6
        whole = 1.0 + 0.3 * begins + 0.3 * ends + 0.1 * on_beat
        if self._holds_two(size, start):
            whole *= _OF_TWO
        return whole * sum(bits for bits, _ in instances)

    def _holds_two(self, size: int, start: int) -> bool:
        """Whether something comes back inside a stretch."""
        return min(self._second_ends[start : start + size], default=math.inf) <= start + size

    @cached_property
    def _second_ends(self) -> list[float]:
        """For each start where the second time of what begins there ends first; infinity where nothing comes back."""
        ends = [math.inf] * len(self.line.onsets)
        for size, shared in self._shared.items():
            for start, others in enumerate(shared):
                second = min((other for _, other in others if other > start), default=None)
                if second is not None:
                    ends[start] = min(ends[start], second + size)
        return ends


def _is_told_apart(line: Line, size: int, start: int, other: int) -> bool:
    """Whether two stretches that nothing else is like are heard as one thing: long ones only by their moves.

    Two runs of as many even notes that turn at the same places are still two runs.
    """
    if size < _LONG:
        return True
    one, two = slice(start, start + size - 1), slice(other, other + size - 1)
    same = float(np.mean(line.steps[one] == line.steps[two]))
    is_even = float(np.ptp(line.gaps[one])) < 1e-6
    return same >= (_SAME_IN_EVEN if is_even else _SAME_IN_UNEVEN)


def _surprise(line: Line) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """How surprising each gap and each move is, in bits, were nothing known but lines in general.

    Steps are common, leaps are not; what goes on as before surprises less, an uncommon length more than the usual one.
    """
    sizes = np.abs(line.steps)
    pitch = _MOVE_BITS[np.minimum(sizes, len(_MOVE_BITS) - 1)].copy()
    pitch[1:] *= np.where(line.steps[1:] == line.steps[:-1], _GOES_ON, 1.0)
    usual = float(np.median(line.gaps)) if len(line.gaps) else 1.0
    rhythm = np.where(np.abs(line.gaps - usual) < 1e-6, _USUAL_BITS, _UNUSUAL_BITS)
    rhythm[1:] *= np.where(np.abs(line.gaps[1:] - line.gaps[:-1]) < 1e-6, _GOES_ON, 1.0)
    return rhythm, pitch


_MOVE_BITS = np.array([3.5, 1.6, 2.6, 3.2, 3.8, 4.4])
"""The surprise of a move by so many letters; the last for all larger ones."""
_USUAL_BITS, _UNUSUAL_BITS, _GOES_ON = 0.5, 3.0, 0.6


def _relation(line: Line, size: int, starts: Sequence[int]) -> str:
    """How the instances are alike: what is the same in all of them."""
    between = size - 1
    head = starts[0]
    same_moves = all(np.array_equal(line.moves[head : head + between], line.moves[s : s + between]) for s in starts)
    same_steps = all(np.array_equal(line.steps[head : head + between], line.steps[s : s + between]) for s in starts)
    same_pitch = same_moves and len({int(line.pitches[s]) for s in starts}) == 1
    same_gaps = all(np.allclose(line.gaps[head : head + between], line.gaps[s : s + between]) for s in starts)
    same_place = len({round(float(line.bars[s]) % 1, 4) for s in starts}) == 1
    if same_pitch:
        what = "the same notes"
    elif same_moves:
        what = "transposed"
    elif same_steps:
        what = "transposed in the scale"
    else:
        what = "varied"
    if not same_gaps:
        what += ", in another rhythm"
    return what if same_place else f"{what}, displaced"
