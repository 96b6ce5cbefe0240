"""Cells: what recurs in many lines, up to transposition, beyond what chance would bring.

Every run of three to twelve notes is counted: as moves in semitones, and with their rhythm as moves in semitones, in
letters, and without regard to octaves. How often chance alone would bring it says a null model: lines that go on from
move to move as these lines do, each move hanging on the one before it, where there are many notes on two (a Markov
chain; what is rare is filled up from shorter contexts, and in the end from what lines in general do, after I. H. Witten
and T. C. Bell, *The zero-frequency problem*, IEEE Transactions on Information Theory 37, 1991). A cell weighs as many
bits as its number of places is less likely than that (the tail of a Poisson distribution), less the bits it takes to
choose among all cells there are: who looks at thousands finds rare ones. So scale runs, which recur everywhere, weigh
little.

What is chosen takes its notes with it: of a longer cell no parts are listed, unless they recur elsewhere as well.
"""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.phrasing.line import Line, line_of
from gavotte.solo.document import Solo
from gavotte.steps import scaled
from gavotte.vocabulary.corpus import LabelledLine

FEWEST_NOTES, MOST_NOTES = 3, 12
_LARGEST_MOVE = 16
"""Larger moves, in semitones, are taken for one of this size."""
_STEP_COUNTS = np.array([3.0, 10.0, 12.0, 7.0, 5.0, 4.0, 1.2, 2.5, 1.0, 1.0, 0.5, 0.4, 1.2, *([0.15] * 4)])
"""How often lines in general move by so many semitones, up or down, among all moves; to be made shares of."""
_LARGEST_STEP = 9
"""The same in letters."""
_GAP_CLASSES = 16
"""Lengths are told apart by quarters of a doubling, from a sixteenth of a beat to eight beats."""
_SURE_BITS = 10.0
"""How many bits a cell must weigh to be told: chance would bring one such in a thousand collections."""
_SURE_OF_TWO = 20.0
"""The same for what is there but twice: no chain of moves knows all that lines do by habit."""
_MANY_TIMES = 3.0
"""How many times as often as by chance a cell must recur: of what is a little more frequent than expected nobody thinks
as of a cell, however sure it is."""
_HALF = 0.5
"""A place counts as taken where more of its notes than this share belong to cells chosen before."""
_FEWEST_PLACES = 2


@dataclass(frozen=True, slots=True)
class Place:
    """Where a cell stands: which line, and the indexes of its first and last note there."""

    line: int
    first: int
    last: int


@dataclass(frozen=True, slots=True)
class Cell:
    """A cell with its places, in order. ``weight`` is in bits beyond chance; ``relation`` says how they are alike."""

    places: tuple[Place, ...]
    weight: float
    relation: str


@dataclass(frozen=True, eq=False)
class Told:
    """What of a line's notes but grace notes cells are told by: their indexes in the solo, MIDI numbers, when they
    begin (quarter notes), and whether a rest of a beat follows; and of each move between two the semitones and
    letters.
    """

    places: Sequence[int]
    pitches: NDArray[np.int64]
    onsets: NDArray[np.float64]
    rests: NDArray[np.bool_]
    moves: NDArray[np.int64]
    steps: NDArray[np.int64]

    @property
    def gaps(self) -> NDArray[np.float64]:
        """Quarter notes from each note to the next."""
        return np.diff(self.onsets)

    @staticmethod
    def of(line: Line) -> Told:
        """Those of a line."""
        return Told(line.places, line.pitches, line.onsets, line.rests, line.moves, line.steps)


def told_of(line: LabelledLine) -> Told:
    """What cells are told by of a labelled line."""
    notes = line.notes
    onsets, pitches = notes["onset"].astype(np.float64), notes["pitch"].astype(np.int64)
    ends = onsets + notes["length"]
    silence = np.append(onsets[1:] - ends[:-1], np.inf)[: len(onsets)]
    rests = silence >= notes["beat_length"] * _A_REST
    letters = notes["letter"].astype(np.int64)
    return Told(notes["place"].tolist(), pitches, onsets, rests, np.diff(pitches), np.diff(letters))


_A_REST = 0.999
"""Beats of silence over which nothing is one cell; lengths are kept with few digits."""


def cells_of(solos: Sequence[Solo]) -> Generator[float, None, tuple[Cell, ...]]:
    """The cells of some solos, the weightiest first; in steps that yield the share that is done."""
    lines = []
    for number, solo in enumerate(solos, 1):
        lines.append(Told.of(line_of(solo)))
        yield 0.3 * number / len(solos)
    return (yield from scaled(cells_in(lines), 0.3, 1.0))


def cells_in(lines: Sequence[Told]) -> Generator[float, None, tuple[Cell, ...]]:
    """The same of lines that were gone through before."""
    mine = _Mine(lines)
    if mine.is_empty:
        return ()
    candidates: list[_Candidate] = []
    sizes = range(FEWEST_NOTES, MOST_NOTES + 1)
    for number, size in enumerate(sizes, 1):
        for view in mine.views:
            candidates += mine.candidates(view, size)
        yield 0.7 * number / len(sizes)
    cells = []
    candidates.sort(key=lambda candidate: -candidate.weight)
    for number, candidate in enumerate(candidates):
        cell = mine.take(candidate)
        if cell is not None:
            cells.append(cell)
        if number % 256 == 0:
            yield 0.7 + 0.3 * number / len(candidates)
    cells.sort(key=lambda cell: -cell.weight)
    return tuple(cells)


@dataclass(frozen=True, slots=True)
class _Candidate:
    """Some equal stretches of so many notes, by where they start, and what they weigh."""

    weight: float
    size: int
    starts: NDArray[np.int64]
    bits: float
    choices: float


_View = tuple[NDArray[np.int64], tuple["_Surprise", ...]]
"""What moves are told apart by, and how surprising that is."""


class _Mine:
    """All lines end to end, with what each move is worth; ``views`` are what moves are told apart by."""

    def __init__(self, lines: Sequence[Told]) -> None:
        self.lines = lines
        self._first_of = np.cumsum([0, *(len(line.onsets) for line in lines)])
        count = int(self._first_of[-1])
        self.taken = np.zeros(count, dtype=bool)
        self._line_of = np.repeat(np.arange(len(lines)), [len(line.onsets) for line in lines])
        # One move for each note but the last of its line; where a rest follows, or the line ends, none is heard.
        self._moves = _end_to_end([np.append(line.moves, 0)[: len(line.onsets)] for line in lines], np.int64)
        self._gaps = _end_to_end([np.append(line.gaps, 0.0)[: len(line.onsets)] for line in lines], np.float64)
        self._steps = _end_to_end([np.append(line.steps, 0)[: len(line.onsets)] for line in lines], np.int64)
        parted = _end_to_end([line.rests for line in lines], np.bool_)
        self._broken = np.concatenate([[0], np.cumsum(parted)])
        moves = np.clip(self._moves, -_LARGEST_MOVE, _LARGEST_MOVE) + _LARGEST_MOVE
        steps = np.clip(self._steps, -_LARGEST_STEP, _LARGEST_STEP) + _LARGEST_STEP
        classes, rhythm = self._moves % 12, _gap_classes(lines, self._gaps)
        in_moves, in_rhythm = _Surprise(moves, parted, _prior()), _Surprise(rhythm, parted, _even(_GAP_CLASSES + 1))
        in_steps = _Surprise(steps, parted, _even(2 * _LARGEST_STEP + 1))
        in_classes = _Surprise(classes, parted, _even(12))
        self._in_moves, in_time = in_moves, _GAP_CLASSES + 1
        self.views: tuple[_View, ...] = (
            (moves, (in_moves,)),
            (moves * in_time + rhythm, (in_moves, in_rhythm)),
            (steps * in_time + rhythm, (in_steps, in_rhythm)),
            (classes * in_time + rhythm, (in_classes, in_rhythm)),
        )

    @property
    def is_empty(self) -> bool:
        """Whether there are too few notes for anything to recur."""
        return len(self.taken) < 2 * FEWEST_NOTES

    def candidates(self, view: _View, size: int) -> list[_Candidate]:
        """All stretches of so many notes that recur more often than by chance."""
        tokens, surprises = view
        starts = np.arange(len(tokens) - size + 1)
        starts = starts[self._broken[starts + size - 1] == self._broken[starts]]
        if len(starts) < _FEWEST_PLACES:
            return []
        names = np.zeros(len(starts), dtype=np.uint64)
        for k in range(size - 1):
            names = names * np.uint64(1_000_003) + tokens[starts + k].astype(np.uint64)
        _, inverse, counts = np.unique(names, return_inverse=True, return_counts=True)
        order = np.argsort(inverse, kind="stable")
        edges = np.concatenate([[0], np.cumsum(counts)])
        choices = float(np.log2(len(counts) * len(self.views)))
        several = np.nonzero(counts >= _FEWEST_PLACES)[0]
        heads, times = starts[order[edges[several]]], counts[several]
        worth = self._worth(surprises, heads, size)
        likely = _beyond_chance(times, len(starts), worth) - choices
        found = []
        for k in np.nonzero(_is_told(times, len(starts), worth, likely))[0].tolist():
            give_way()
            kind = several[k]
            here = starts[order[edges[kind] : edges[kind + 1]]]
            found.append(_Candidate(float(likely[k]), size, here, float(worth[k]), choices))
        return found

    @staticmethod
    def _worth(surprises: Sequence[_Surprise], heads: NDArray[np.int64], size: int) -> NDArray[np.float64]:
        """How many bits stretches of so many notes have that begin at ``heads``."""
        worth = np.zeros(len(heads))
        for surprise in surprises:
            for k in range(size - 1):
                worth += surprise.bits(heads + k, min(k, surprise.order))
        return worth

    def take(self, candidate: _Candidate) -> Cell | None:
        """The cell of a candidate, where enough of its places are free yet; its notes are taken then."""
        give_way()
        size = candidate.size
        free: list[int] = []
        for start in candidate.starts.tolist():
            apart = not free or start - free[-1] >= size
            if apart and self.taken[start : start + size].mean() < _HALF:
                free.append(start)
        if len(free) < _FEWEST_PLACES:
            return None
        times, bits = np.array([len(free)]), np.array([candidate.bits])
        weights = _beyond_chance(times, len(self.taken), bits) - candidate.choices
        if not _is_told(times, len(self.taken), bits, weights)[0]:
            return None
        near = self._variants(free[0], size, free)
        starts = sorted([*((start, size) for start in free), *near])
        for start, notes in starts:
            self.taken[start : start + notes] = True
        places = tuple(self._place(start, notes) for start, notes in starts)
        return Cell(places, round(float(weights[0]), 1), self._relation(free, size, bool(near)))

    def _place(self, start: int, size: int) -> Place:
        number = int(self._line_of[start])
        first, heads = start - int(self._first_of[number]), self.lines[number].places
        return Place(number, heads[first], heads[first + size - 1])

    def _relation(self, starts: list[int], size: int, varied: bool) -> str:
        """How the places of a cell are alike."""
        stretches = [slice(start, start + size - 1) for start in starts]
        if not self._all_same(self._moves, stretches):
            words = ["transposed in the scale" if self._all_same(self._steps, stretches) else "with octaves moved"]
        else:
            words = ["the same notes" if len({self._pitch(start) for start in starts}) == 1 else "transposed"]
        if not self._all_same(self._gaps, stretches):
            words.append("in other rhythms")
        if varied:
            words.append("ornamented")
        return ", ".join(words)

    @staticmethod
    def _all_same(values: NDArray[np.generic], stretches: list[slice]) -> bool:
        head = values[stretches[0]]
        return all(np.allclose(values[stretch].astype(float), head.astype(float)) for stretch in stretches)

    def _pitch(self, place: int) -> int:
        number = int(self._line_of[place])
        return int(self.lines[number].pitches[place - int(self._first_of[number])])

    def _variants(self, head: int, size: int, exact: list[int]) -> list[tuple[int, int]]:
        """Where the cell stands with one note more or one fewer inside: with an approach note added, or left out."""
        moves = self._moves[head : head + size - 1]
        # With a note more or fewer, anywhere, there is less to recognise it by; chance must bring none of that.
        own = self._worth((self._in_moves,), np.array([head]), size)
        bits = float(own[0]) - _LOST_BITS - np.log2(2 * size)
        if size < _ORNAMENTED or bits < np.log2(len(self.taken)):
            return []
        span = float(self._gaps[head : head + size - 1].sum())
        found: list[tuple[int, int]] = []
        blocked = self.taken.copy()
        for start in exact:
            blocked[start : start + size] = True
        for other in (size + 1, size - 1):
            for start in self._with_moves(moves, other):
                inside = slice(start, start + other)
                as_long = abs(float(self._gaps[start : start + other - 1].sum()) - span) <= _SAME_SPAN * span
                if as_long and not blocked[inside].any():
                    found.append((start, other))
                    blocked[inside] = True
        return found

    def _with_moves(self, moves: NDArray[np.int64], size: int) -> list[int]:
        """Where stretches of ``size`` notes stand that are the moves with one inner note more, or one fewer."""
        whole, longer = self._moves, size - 1 > len(moves)
        starts = np.arange(max(0, len(whole) - size + 1))
        starts = starts[self._broken[starts + size - 1] == self._broken[starts]]
        places: set[int] = set()
        for k in range(len(moves) - (0 if longer else 1)):
            if longer:
                # The move at k is made in two: the note between is the ornament.
                fits = whole[starts + k] + whole[starts + k + 1] == moves[k]
                behind = [(j, j + 1) for j in range(k + 1, len(moves))]
            else:
                # Two moves of the cell are one here: the note between is left out.
                fits = whole[starts + k] == moves[k] + moves[k + 1]
                behind = [(j, j - 1) for j in range(k + 2, len(moves))]
            fitting = starts[fits]
            for mine, here in [*((j, j) for j in range(k)), *behind]:
                fitting = fitting[whole[fitting + here] == moves[mine]]
            places.update(fitting.tolist())
        return sorted(places)


_ORNAMENTED, _SAME_SPAN, _LOST_BITS = 5, 0.51, 3.5
"""Of so many notes a cell must be for its ornamented places to be sought, how far they may differ in length, and what
one note is worth in bits."""


def _end_to_end(parts: Sequence[NDArray[np.generic]], kind: type[np.generic]) -> NDArray:  # type: ignore[type-arg]
    return np.concatenate([*parts, np.zeros(0, dtype=kind)]).astype(kind)


def _prior() -> NDArray[np.float64]:
    """The share of each move in lines in general, from the largest down to the largest up."""
    both = np.concatenate([_STEP_COUNTS[:0:-1], _STEP_COUNTS])
    shares: NDArray[np.float64] = both / both.sum()
    return shares


def _even(number: int) -> NDArray[np.float64]:
    """As many kinds that are all as likely."""
    return np.full(number, 1.0 / number)


def _gap_classes(lines: Sequence[Told], gaps: NDArray[np.float64]) -> NDArray[np.int64]:
    """The length of each move in classes, against the usual one of its line: twice as fast is the same rhythm."""
    usual = np.concatenate(
        [np.full(len(line.onsets), float(np.median(line.gaps)) if len(line.gaps) else 1.0) for line in lines]
        or [np.zeros(0)]
    )
    doublings = np.log2(np.maximum(gaps, 1e-6) / np.maximum(usual, 1e-6))
    classes: NDArray[np.int64] = np.clip(np.round(4 * doublings) + _GAP_CLASSES / 2, 0, _GAP_CLASSES).astype(np.int64)
    return classes


class _Surprise:
    """How surprising tokens are after the one or two (``order``) before them, counted on the lines themselves."""

    def __init__(self, tokens: NDArray[np.int64], parted: NDArray[np.bool_], prior: NDArray[np.float64]) -> None:
        heard, kinds = ~parted, len(prior)
        self.order = 2 if len(tokens) >= _MANY_NOTES else 1
        singles = np.bincount(tokens[heard], minlength=kinds).astype(float)
        self._total, self._seen = float(singles.sum()), float(np.count_nonzero(singles)) or 1.0
        self._single, self._prior = singles[tokens], prior[tokens]
        # For each order and place: how often the token follows there, how often anything does, and how many kinds.
        self._orders: list[tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]] = []
        context, known = np.zeros(len(tokens), dtype=np.int64), heard.copy()
        for back in range(1, self.order + 1):
            known = known & np.concatenate([[False], known])[: len(tokens)]
            context = context * kinds + np.concatenate([np.zeros(back, dtype=np.int64), tokens])[: len(tokens)]
            together, times, different = (np.zeros(len(tokens)) for _ in range(3))
            names, inverse = np.unique(context[known], return_inverse=True)
            pairs, pair_of = np.unique(inverse * kinds + tokens[known], return_inverse=True)
            together[known] = np.bincount(pair_of, minlength=len(pairs))[pair_of]
            times[known] = np.bincount(inverse, minlength=len(names))[inverse]
            different[known] = np.bincount(pairs // kinds, minlength=len(names))[inverse]
            self._orders.append((together, times, different))

    def bits(self, place: NDArray[np.int64], order: int) -> NDArray[np.float64]:
        """The bits of the token at each place, after as many tokens before it as ``order`` says."""
        singles = self._single[place] + self._seen * self._prior[place]
        share: NDArray[np.float64] = singles / (self._total + self._seen)
        for together, times, different in self._orders[:order]:
            kinds = different[place]
            longer = (together[place] + kinds * share) / np.maximum(times[place] + kinds, 1.0)
            share = np.where(kinds > 0, longer, share)
        bits: NDArray[np.float64] = -np.log2(share)
        return bits


_MANY_NOTES = 25_000
"""From so many on there is enough to count what follows two moves; with fewer the cells would explain themselves."""


def _is_told(
    counts: NDArray[np.int64], places: int, bits: NDArray[np.float64], weights: NDArray[np.float64]
) -> NDArray[np.bool_]:
    """Whether stretches that recur so often, and weigh so much, are worth telling."""
    enough = np.where(counts == _FEWEST_PLACES, _SURE_OF_TWO, _SURE_BITS)
    told: NDArray[np.bool_] = (weights >= enough) & (counts >= _MANY_TIMES * places * np.exp2(-bits))
    return told


def _beyond_chance(counts: NDArray[np.int64], places: int, bits: NDArray[np.float64]) -> NDArray[np.float64]:
    """How unlikely it is, in bits, to find a stretch so often among so many places, where each has so many bits."""
    # Loaded with the first cells: it would lengthen every start.
    from scipy.special import gammaln, pdtrc

    expected = places * np.exp2(-bits)
    with np.errstate(divide="ignore"):
        tail = np.log(pdtrc(counts - 1, expected))
    # A tail too small for a number is as good as its first term, which is told as a logarithm.
    first = counts * np.log(expected) - expected - gammaln(counts + 1)
    unlikely: NDArray[np.float64] = -np.where(np.isfinite(tail), tail, first) / np.log(2)
    return unlikely
