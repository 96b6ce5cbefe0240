"""Lines laid note against note where that costs least, and the nearest places among many lines.

An alignment of sequences whose costs have names (after S. B. Needleman and C. D. Wunsch, Journal of Molecular Biology
48, 1970, and for places inside longer lines P. H. Sellers, Journal of Algorithms 1, 1980; for melodies M. Mongeau and
D. Sankoff, Computers and the Humanities 24, 1990): notes are compared by their degree against the chord, what they do
and whether they stand on a strong beat, the moves between them by interval and by rhythm. So a line that is
transposed costs nothing; one in another octave, with an ornament or in other values costs little, one that loses its
target much.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.solo.document import Function
from gavotte.theory.chord import DEGREE_SEMITONES
from gavotte.vocabulary.corpus import DEGREES, FUNCTIONS, Corpus, LabelledLine


@dataclass(frozen=True, slots=True)
class Costs:
    """What it costs that two notes, or the moves to them, differ."""

    degree: float = 0.6
    """Another degree against the chord; of a note that only leads on, ``lesser`` of it."""
    kindred: float = 0.25
    """A degree by another sign: ♭3 for 3, ♭9 for 9."""
    unknown: float = 0.3
    """A degree where one of the two has no chord."""
    lesser: float = 0.5
    function: float = 0.2
    """Another function."""
    beat: float = 0.15
    """A strong beat for a weak one."""
    same_move: float = 0.25
    """How much of what two notes cost is counted where the moves to them are the same: a shape over other chords."""
    octave: float = 0.25
    """The same move in another octave."""
    interval: tuple[float, ...] = (0.0, 0.3, 0.55, 0.75, 0.85, 0.95)
    """A move that is larger or smaller by so many semitones; what is larger still costs as the last."""
    contour: float = 0.3
    """A move the other way, besides."""
    rhythm: float = 0.1
    """Each doubling or halving of the time between two notes, up to ``most_rhythm`` of them."""
    most_rhythm: float = 2.0
    ornament: float = 0.4
    """A note more that only leads on; one that is at home in the chord costs ``note``."""
    note: float = 1.0
    lost: float = 0.7
    """A note fewer that only leads on; one that is at home in the chord costs ``note``, one that is led to
    ``target``.
    """
    target: float = 1.5
    edge: float = 0.55
    """A note fewer at the beginning or the end; ``far`` where more than a third of all is left out there."""
    far: float = 1.3

    def left_out(self, notes: int, size: int) -> float:
        """What it costs to leave out so many notes at one end of a line of ``size`` notes."""
        return self.edge * notes + (self.far - self.edge) * max(0.0, notes - size / 3)


COSTS = Costs()
_WORST = 1.3
"""What a note costs, with the move to it, that has nothing in common: likeness is told in shares of it."""
_EDGES = ((1, 1), (1, 2), (1, 3), (2, 1), (3, 1))
"""How many notes the one line goes on and how many the other, from one pair of notes to the next."""
_LARGEST_MOVE, _GAP_STEPS, _FEWEST_STEPS, _MOST_STEPS = 24, 2, -12, 12
_NEVER = np.float32(1e6)
_LEADING = (Function.APPROACH, Function.PASSING)
_Pairs = tuple[tuple[int | None, int | None], ...]


@dataclass(frozen=True, slots=True)
class Aligned:
    """Two lines laid note against note. ``pairs`` are rows of the first and the second line, in order, None where one
    has no note; ``cost`` is what all of it costs, ``likeness`` from 1 (the same) down to 0 (nothing in common).
    """

    pairs: tuple[tuple[int | None, int | None], ...]
    cost: float
    likeness: float


@dataclass(frozen=True, slots=True)
class Near:
    """A place like another line, by the rows of its first and last note in a corpus."""

    first: int
    last: int
    likeness: float


class Asked:
    """The line that others are compared with, made ready for it."""

    def __init__(self, line: LabelledLine, costs: Costs = COSTS) -> None:
        self.costs = costs
        self.corpus = Corpus([line])
        self.size = len(self.corpus)
        pitch = self.corpus.pitch.astype(np.int64)
        self.moves = {back: pitch[back:] - pitch[:-back] for back in (1, 2, 3)}
        onset = self.corpus.onset
        self.gaps = {back: onset[back:] - onset[:-back] for back in (1, 2, 3)}
        targets = set(self.corpus.target[self.corpus.target >= 0].tolist())
        self.loses = [self._loss(row, targets) for row in range(self.size)]
        self.note_costs = [_note_costs(self, row) for row in range(self.size)]
        self.move_costs = {
            (row, mine): _move_costs(self, row, mine)
            for row in range(self.size)
            for mine in dict(_EDGES)
            if row >= mine
        }

    def _loss(self, row: int, targets: set[int]) -> float:
        if row in targets:
            return self.costs.target
        leads = FUNCTIONS[self.corpus.function[row]] in _LEADING
        return self.costs.lost if leads else self.costs.note

    def left_out(self, notes: int) -> float:
        """What it costs that so many notes are left out at one end."""
        return self.costs.left_out(notes, self.size)

    @property
    def most(self) -> float:
        """What a line costs that has nothing in common."""
        return _WORST * max(1, self.size)


def aligned(first: LabelledLine, second: LabelledLine, costs: Costs = COSTS) -> Aligned:
    """Two lines laid note against note, the first one wholly, the second one as far as it is like it."""
    asked, among = Asked(first, costs), Corpus([second])
    if not asked.size or not len(among):
        none: list[tuple[int | None, int | None]] = [(row, None) for row in range(asked.size)]
        return Aligned((*none, *((None, row) for row in range(len(among)))), asked.most, 0.0)
    table = _Table(asked, _Ready(among))
    cost, pairs = table.best(0, len(among) - 1)
    return Aligned(_ends_paired(pairs, len(among)), cost, max(0.0, 1.0 - cost / asked.most))


def _ends_paired(pairs: _Pairs, size: int) -> _Pairs:
    """An alignment in which a first or last note that both lines have left over stands under that of the other."""
    rows = [b for _, b in pairs if b is not None]
    first, last = rows[0], rows[-1]
    start = next(k for k, (_, b) in enumerate(pairs) if b is not None)
    end = len(pairs) - next(k for k, (_, b) in enumerate(reversed(pairs)) if b is not None)
    before, behind = min(start, first, _LEFT_OVER), min(len(pairs) - end, size - 1 - last, _LEFT_OVER)
    head = [(pairs[start - k][0], first - k) for k in range(before, 0, -1)]
    tail = [(pairs[end - 1 + k][0], last + k) for k in range(1, behind + 1)]
    return (*pairs[: start - before], *head, *pairs[start:end], *tail, *pairs[end + behind :])


_LEFT_OVER = 2
"""As many notes at each end are paired though they have little in common."""


class Nearest:
    """Finds the places of many lines that are most like another one."""

    def __init__(self, corpus: Corpus) -> None:
        self._ready = _Ready(corpus)
        self.corpus = corpus

    def to(self, line: LabelledLine, count: int, least: float = 0.45, costs: Costs = COSTS) -> list[Near]:
        """The ``count`` nearest places, the nearest first, none of a likeness below ``least``; no two share a note."""
        asked = Asked(line, costs)
        if not asked.size or not len(self.corpus):
            return []
        table = _Table(asked, self._ready)
        total = table.total()
        found: list[Near] = []
        free = total.copy()
        most = (1.0 - least) * asked.most
        # The best few of all are looked through, not each place: partition is several times as fast as sorting.
        some = np.nonzero(free <= most)[0]
        some = some[np.argsort(free[some], kind="stable")]
        for last in some.tolist():
            give_way()
            if free[last] >= _NEVER:
                continue
            window = max(int(self.corpus.firsts[self.corpus.line_of[last]]), last - 3 * asked.size)
            _, pairs = _Table(asked, self._ready.part(window, last)).best(0, last - window)
            rows = [window + row for _, row in pairs if row is not None]
            first, end = rows[0], rows[-1]
            near = slice(first, end + 1)
            taken = bool((free[near] >= _NEVER).any())
            free[near] = _NEVER
            if not taken:
                found.append(Near(first, end, round(1.0 - float(total[last]) / asked.most, 3)))
            if len(found) == count:
                break
        return found


class _Ready:
    """Many lines with the codes by which costs are looked up."""

    def __init__(self, corpus: Corpus | None) -> None:
        if corpus is None:
            return
        self.size = len(corpus)
        leading = np.isin(corpus.function, [FUNCTIONS.index(function) for function in _LEADING])
        self.leading = leading
        degree = np.where(corpus.quality < 0, _NO_DEGREE, corpus.degree).astype(np.int16)
        degree[corpus.degree < 0] = _NO_DEGREE
        # A note by its degree, its function and whether its beat is strong.
        self.notes = (degree * len(FUNCTIONS) + corpus.function) * 2 + corpus.strong
        pitch, onset = corpus.pitch.astype(np.int32), corpus.onset
        self.moves: dict[int, NDArray[np.int16]] = {}
        self.parted: dict[int, NDArray[np.float32]] = {}
        for back in (1, 2, 3):
            moves = np.zeros(self.size, dtype=np.int32)
            gaps = np.ones(self.size)
            same = np.zeros(self.size, dtype=bool)
            if self.size > back:
                moves[back:] = pitch[back:] - pitch[:-back]
                gaps[back:] = onset[back:] - onset[:-back]
                same[back:] = corpus.line_of[back:] == corpus.line_of[:-back]
            moves = np.clip(moves, -_LARGEST_MOVE, _LARGEST_MOVE) + _LARGEST_MOVE
            self.moves[back] = (moves * _GAP_CLASSES + _gap_class(gaps)).astype(np.int16)
            self.parted[back] = np.where(same, np.float32(0.0), _NEVER)

    def part(self, first: int, last: int) -> _Ready:
        """A stretch of one line."""
        part = _Ready(None)
        rows = slice(first, last + 1)
        part.size = last + 1 - first
        part.leading, part.notes = self.leading[rows], self.notes[rows]
        part.moves = {back: codes[rows] for back, codes in self.moves.items()}
        part.parted = {back: parted[rows].copy() for back, parted in self.parted.items()}
        for back, parted in part.parted.items():
            parted[:back] = _NEVER
        return part


_NO_DEGREE = len(DEGREES)
_GAP_CLASSES = _MOST_STEPS - _FEWEST_STEPS + 1


def _gap_class(gaps: NDArray[np.float64]) -> NDArray[np.int64]:
    """Times between notes in halves of a doubling, from a sixty-fourth of a quarter note to sixty-four."""
    steps = np.round(_GAP_STEPS * np.log2(np.maximum(gaps, 1e-3)))
    classes: NDArray[np.int64] = np.clip(steps, _FEWEST_STEPS, _MOST_STEPS).astype(np.int64) - _FEWEST_STEPS
    return classes


class _Table:
    """What it costs, for each note of the asked line, to have it end at each note of others."""

    def __init__(self, asked: Asked, others: _Ready) -> None:
        self._asked, self._others = asked, others
        ornament = np.where(others.leading, asked.costs.ornament, asked.costs.note).astype(np.float32)
        # What it costs to pass over the notes between two of the others', and that none leads from line to line.
        self._between = {back: others.parted[back][back:].copy() for back in (1, 2, 3)}
        for back, between in self._between.items():
            for k in range(1, back):
                between += ornament[back - k : len(ornament) - k]
        self._notes: list[NDArray[np.float32]] = []
        self._rows: list[NDArray[np.float32]] = []
        for row in range(asked.size):
            give_way()
            self._rows.append(self._row(row))

    def _row(self, row: int) -> NDArray[np.float32]:
        notes = self._asked.note_costs[row][self._others.notes]
        self._notes.append(notes)
        best: NDArray[np.float32] = notes + np.float32(self._asked.left_out(row))
        for mine, theirs in _EDGES:
            if row >= mine:
                np.minimum(best[theirs:], self._arriving(row, mine, theirs), out=best[theirs:])
        return best

    def _arriving(self, row: int, mine: int, theirs: int) -> NDArray[np.float32]:
        """What all costs with this note, from the pair of notes that lies so far back; of the others' notes from
        ``theirs`` on.
        """
        before = self._rows[row - mine]
        passed_over = sum(self._asked.loses[row - k] for k in range(1, mine))
        by_move, of_note = self._asked.move_costs[row, mine]
        moves = self._others.moves[theirs][theirs:]
        costs: NDArray[np.float32] = of_note[moves]
        costs *= self._notes[row][theirs:]
        costs += by_move[moves]
        costs += before[:-theirs]
        costs += self._between[theirs]
        if passed_over:
            costs += np.float32(passed_over)
        return costs

    def total(self) -> NDArray[np.float32]:
        """For each note of the others what the asked line costs that ends there."""
        total = np.full(self._others.size, _NEVER)
        for row, costs in enumerate(self._rows):
            behind = np.float32(self._asked.left_out(self._asked.size - 1 - row))
            np.minimum(total, costs + behind, out=total)
        return total

    def best(self, first: int, last: int) -> tuple[float, tuple[tuple[int | None, int | None], ...]]:
        """The cheapest alignment that ends between two notes of the others: its cost and its pairs."""
        size = self._asked.size
        ends = [
            (float(costs[column]) + self._asked.left_out(size - 1 - row), row, column)
            for row, costs in enumerate(self._rows)
            for column in range(first, last + 1)
        ]
        cost, row, column = min(ends)
        pairs: list[tuple[int | None, int | None]] = [(k, None) for k in range(size - 1, row, -1)]
        while True:
            pairs.append((row, column))
            step = self._came_from(row, column)
            if step is None:
                break
            mine, theirs = step
            pairs += [(row - k, None) for k in range(1, mine)]
            pairs += [(None, column - k) for k in range(1, theirs)]
            row, column = row - mine, column - theirs
        pairs += [(k, None) for k in range(row - 1, -1, -1)]
        return cost, tuple(pairs[::-1])

    def _came_from(self, row: int, column: int) -> tuple[int, int] | None:
        """The step by which a pair was reached, None where the line begins with it."""
        best, step = self._asked.left_out(row) + float(self._notes[row][column]) + 1e-6, None
        for mine, theirs in _EDGES:
            if row >= mine and column >= theirs:
                cost = float(self._arriving(row, mine, theirs)[column - theirs])
                if cost < best:
                    best, step = cost, (mine, theirs)
        return step


def _note_costs(asked: Asked, row: int) -> NDArray[np.float32]:
    """What the note in a row of the asked line costs against each kind of note there is."""
    costs, corpus = asked.costs, asked.corpus
    degree = int(corpus.degree[row]) if corpus.quality[row] >= 0 and corpus.degree[row] >= 0 else _NO_DEGREE
    leads = FUNCTIONS[corpus.function[row]] in _LEADING
    by_degree = _degree_costs(costs)[degree] * (costs.lesser if leads else 1.0)
    by_function = np.where(np.arange(len(FUNCTIONS)) == corpus.function[row], 0.0, costs.function)
    by_beat = np.where(np.arange(2) == int(corpus.strong[row]), 0.0, costs.beat)
    table = by_degree[:, None, None] + by_function[None, :, None] + by_beat[None, None, :]
    flat: NDArray[np.float32] = table.astype(np.float32).reshape(-1)
    return flat


def _degree_costs(costs: Costs) -> NDArray[np.float64]:
    """For each degree what each other one costs in its stead; the last one is that of no chord."""
    known = _DEGREE_COSTS.get(costs)
    if known is not None:
        return known
    table = np.full((len(DEGREES) + 1, len(DEGREES) + 1), costs.unknown)
    for a, first in enumerate(DEGREES):
        for b, second in enumerate(DEGREES):
            same = DEGREE_SEMITONES[first] == DEGREE_SEMITONES[second]
            kin = _PLAIN.get(first.lstrip("b#"), first.lstrip("b#")) == _PLAIN.get(
                second.lstrip("b#"), second.lstrip("b#")
            )
            table[a, b] = 0.0 if same else costs.kindred if kin else costs.degree
    # Of lines without chords the moves say enough.
    table[_NO_DEGREE, _NO_DEGREE] = 0.0
    _DEGREE_COSTS[costs] = table
    return table


_PLAIN = {"2": "9", "4": "11", "6": "13"}
_DEGREE_COSTS: dict[Costs, NDArray[np.float64]] = {}


def _move_costs(asked: Asked, row: int, mine: int) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """What the move to the note in a row, from ``mine`` notes before it, costs against each move and time there is, and
    how much of what the notes cost is counted then.
    """
    costs = asked.costs
    move = int(asked.moves[mine][row - mine])
    others = np.arange(-_LARGEST_MOVE, _LARGEST_MOVE + 1)
    apart = np.abs(others - move)
    steps = np.asarray(costs.interval)
    by_interval = steps[np.minimum(apart, len(steps) - 1)]
    by_interval = np.where(np.sign(others) * np.sign(move) < 0, by_interval + costs.contour, by_interval)
    by_interval = np.where((apart % 12 == 0) & (apart > 0), costs.octave, by_interval)
    gap = int(_gap_class(np.array([asked.gaps[mine][row - mine]]))[0])
    doublings = np.abs(np.arange(_GAP_CLASSES) - gap) / _GAP_STEPS
    by_rhythm = costs.rhythm * np.minimum(doublings, costs.most_rhythm)
    both = (by_interval[:, None] + by_rhythm[None, :]).astype(np.float32).reshape(-1)
    counted = np.where(apart == 0, costs.same_move, 1.0).astype(np.float32)
    return both, np.repeat(counted, _GAP_CLASSES)
