"""What comes back in a line: motifs, each with its instances, how they are related, and how much they explain.

Two stretches of as many notes are the same thing where most of what is surprising in the one, its rhythm and its moves
from note to note, is so in the other. They are weighed as repeated patterns are by D. Meredith, K. Lemström and G. A.
Wiggins (*Algorithms for discovering repeated patterns in multidimensional representations of polyphonic music*, Journal
of New Music Research 31, 2002): by how much of the line they cover with how few notes; here a note counts by how
surprising its move and its rhythm are, so that scale runs of even notes, which always come back, weigh little.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.phrasing.line import Line, line_of
from gavotte.solo.document import Solo

_SIZES = tuple(range(3, 13))
_LONGEST_BARS = 2.1
_FARTHEST = 3000
"""How many notes apart two stretches are compared at most: what comes back later than that is not sought."""
_SAME_STEPS, _NEAR_STEPS, _SAME_WAY, _OTHER_WAY = 0.95, 0.5, 0.25, -0.3
"""How much of a move's surprise is met by as many letters, one more or less, the same direction, another."""
_ALIKE, _ALIKE_ELSEWHERE = 0.72, 0.85
"""What share of a stretch's surprise another must meet, at the same place of the bar and at another."""
_ENOUGH_BITS, _ENOUGH_ELSEWHERE = 7.0, 9.0
"""How many bits they must share to be more than chance, likewise."""
_LEAST_IN_PITCH = 0.3
"""What share of the moves' surprise must be met, however well the rhythm agrees."""
_ENOUGH_WORTH = 16.0
"""What a motif must explain in all, in bits."""
_STILL = 0.5
"""What share of its instances a motif must keep when weightier ones have taken theirs."""
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
    """The motifs of a line, the weightiest first. No note belongs to two of them."""
    line = line_of(solo)
    if len(line.onsets) < 2 * _SIZES[0]:
        return ()
    pairs = _Pairs(line)
    found: list[Motif] = []
    taken = np.zeros(len(line.onsets), dtype=bool)
    for score, size, start in sorted(pairs.candidates(), reverse=True):
        give_way()
        if taken[start : start + size].any():
            continue
        instances = pairs.instances(size, start, taken)
        weight = pairs.weight(size, instances)
        if len(instances) < 2 or weight < max(_STILL * score, _ENOUGH_WORTH):
            continue
        starts = sorted(at for _, at in instances)
        for at in starts:
            taken[at : at + size] = True
        heard = tuple(Instance(line.places[at], line.places[at + size - 1]) for at in starts)
        found.append(Motif(heard, _relation(line, size, starts), round(min(1.0, weight / pairs.total), 4)))
    return tuple(sorted(found, key=lambda motif: -motif.weight))


class _Pairs:
    """How much any two stretches of as many notes share, worked out lag by lag."""

    def __init__(self, line: Line) -> None:
        self.line = line
        self._rhythm, self._pitch = _surprise(line)
        self._sums = np.concatenate([[0.0], np.cumsum(self._rhythm + self._pitch)])
        self.total = float(self._sums[-1]) or 1.0
        self._shared: dict[int, list[list[tuple[float, int]]]] = {size: [[] for _ in line.onsets] for size in _SIZES}
        self._fitting = {size: self._fits(size) for size in _SIZES}
        self._own = {size: self._sums[size - 1 :] - self._sums[: 1 - size] for size in _SIZES}
        for lag in range(_SIZES[0], min(_FARTHEST, len(line.onsets) - _SIZES[0]) + 1):
            self._compare(lag)
        for shared in self._shared.values():
            for others in shared:
                others.sort(reverse=True)

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
        level = np.where(line.pitches[: len(line.pitches) - lag] == line.pitches[lag:], _SAME_LEVEL, 0.0)
        begin = np.where(line.begins[: len(line.begins) - lag] & line.begins[lag:], _BOTH_BEGIN, 0.0)
        end = np.where(line.ends[: len(line.ends) - lag] & line.ends[lag:], _BOTH_END, 0.0)
        # What follows at once is a sequence, wherever in the bar it falls.
        place = np.abs((line.bars[: len(line.bars) - lag] - line.bars[lag:] + 0.5) % 1 - 0.5) < 1e-6
        for size in _SIZES:
            between = size - 1
            starts = count - between + 1
            if lag < size or starts < 1:
                continue
            own, other = self._own[size][:starts], self._own[size][lag : lag + starts]
            plain = shared[between:] - shared[:starts]
            # Few stretches agree at all: the rest is asked of those alone.
            near = np.flatnonzero(plain >= _ALIKE * np.maximum(own, other))
            if not len(near):
                continue
            at_home = place[near] | (lag == size)
            wanted = np.where(at_home, 0.0, _ALIKE_ELSEWHERE) * np.maximum(own[near], other[near])
            bits = plain[near] + level[near] + begin[near] + end[near + between] + _IN_SEQUENCE * (lag == size)
            enough = np.where(at_home, _ENOUGH_BITS, _ENOUGH_ELSEWHERE)
            contour = in_pitch[near + between] - in_pitch[near] >= 0
            fits = self._fitting[size][near] & self._fitting[size][near + lag]
            alike = (plain[near] >= wanted) & (bits >= enough) & contour & fits
            for start, value in zip(near[alike].tolist(), bits[alike].tolist(), strict=True):
                self._shared[size][start].append((value, start + lag))
                self._shared[size][start + lag].append((value, start))

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
                if others:
                    yield self.weight(size, self.instances(size, start)), size, start

    def instances(self, size: int, start: int, taken: NDArray[np.bool_] | None = None) -> list[tuple[float, int]]:
        """The stretches like one, itself first, that share no note with each other or with what is taken."""
        chosen = [(0.0, start)]
        covered = set(range(start, start + size))
        for bits, other in self._shared[size][start]:
            if other in covered or other + size - 1 in covered:
                continue
            if taken is None or not taken[other : other + size].any():
                chosen.append((bits, other))
                covered.update(range(other, other + size))
        return chosen

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
        end = start + size
        return any(
            at < other and other + part <= end
            for part in range(_SIZES[0], size // 2 + 1)
            for at in range(start, end - 2 * part + 1)
            for _, other in self._shared[part][at]
        )


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
