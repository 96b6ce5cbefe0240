"""Cells planted in lines made by chance: ``PYTHONPATH=. python benchmarks/cells.py [LINES [NOTES]]``.

Lines walk about in a key as lines do, with runs, leaps and rests. Into them cells are put, transposed, some with an
added note, in twice the values, with a note an octave off, or cut short. A planted cell is found where another has
half of its places; a cell is right where half of its places are planted ones of one cell.
"""

from __future__ import annotations

import random
import resource
import sys
import time
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.solo.document import Note, Solo
from gavotte.steps import whole
from gavotte.theory.pitch import spell
from gavotte.vocabulary.cells import Cell, Place, cells_of

Shape = list[tuple[int, Fraction]]
"""Notes as semitones above the first, and quarter notes from one to the next."""
_CELLS, _EIGHTH = 12, Fraction(1, 2)
_MAJOR = (0, 2, 4, 5, 7, 9, 11)


@dataclass(frozen=True)
class Corpus:
    """Lines, and for each cell where it was put."""

    solos: tuple[Solo, ...]
    planted: tuple[tuple[Place, ...], ...]


def corpus(seed: int, lines: int = 200, notes: int = 60) -> Corpus:
    """Lines with cells in them: always the same for a seed."""
    chance = random.Random(seed)
    shapes = [_shape(chance) for _ in range(_CELLS)]
    wanted = [(k, chance.randrange(lines)) for k in range(_CELLS) for _ in range(chance.randint(4, 9))]
    planted: list[list[Place]] = [[] for _ in shapes]
    solos = []
    for number in range(lines):
        line = _Walk(chance)
        here = [k for k, where in wanted if where == number]
        chance.shuffle(here)
        every = max(8, notes // (len(here) + 1))
        for k in here:
            line.walk(every)
            first = len(line.notes)
            line.put(_varied(shapes[k], chance))
            planted[k].append(Place(number, first, len(line.notes) - 1))
        line.walk(max(8, notes - len(line.notes)))
        solos.append(Solo(f"Line {number}", notes=tuple(line.notes)))
    return Corpus(tuple(solos), tuple(map(tuple, planted)))


class _Walk:
    """A line that is made note by note."""

    def __init__(self, chance: random.Random) -> None:
        self.chance, self.notes, self.time = chance, [], Fraction(0)  # type: ignore[var-annotated]
        self.key, self.step, self.way = chance.randrange(12), 21 + chance.randrange(10), 1

    def add(self, midi: int, gap: Fraction, length: Fraction | None = None) -> None:
        number = len(self.notes)
        self.notes.append(Note(f"n{number}", self.time, length or gap, spell(min(96, max(40, midi)), 0)))
        self.time += gap

    def walk(self, count: int) -> None:
        """So many notes of the key: runs, arpeggios, leaps, chromatic notes between, rests."""
        chance = self.chance
        for _ in range(count):
            if chance.random() < 0.25:
                self.way = -self.way
            self.step += self.way * chance.choices((1, 2, 3, 4), (60, 28, 8, 4))[0]
            if not 18 < self.step < 36:
                self.step, self.way = min(35, max(19, self.step)), -self.way
            octave, degree = divmod(self.step, 7)
            midi = 12 * octave + 24 + _MAJOR[degree] + self.key % 12 - 12 * (self.key > 6)
            midi += chance.choices((0, -1, 1), (88, 7, 5))[0]
            gap = chance.choices((_EIGHTH, Fraction(1), Fraction(1, 3), Fraction(3, 2)), (80, 10, 6, 4))[0]
            rest = chance.random() < 0.06
            self.add(midi, gap + (2 if rest else 0), gap)

    def put(self, shape: Shape) -> None:
        """A cell, near where the line is."""
        base = (self.notes[-1].pitch.midi if self.notes else 67) + self.chance.randint(-4, 4)
        for semitones, gap in shape:
            self.add(min(80, max(50, base)) + semitones, gap)


def _shape(chance: random.Random) -> Shape:
    """A cell of five to nine notes such as players have: steps, thirds, a leap, mostly eighths."""
    pitch, shape = 0, []
    for _ in range(chance.randint(5, 9)):
        gap = chance.choices((_EIGHTH, Fraction(1), Fraction(1, 3)), (80, 14, 6))[0]
        shape.append((pitch, gap))
        pitch += chance.choice((-1, 1)) * chance.choices((1, 2, 3, 4, 5, 7, 9), (24, 26, 20, 12, 8, 6, 4))[0]
    return shape


def _varied(shape: Shape, chance: random.Random) -> Shape:
    kind = chance.random()
    inside = chance.randrange(1, len(shape) - 1)
    if kind < 0.15:
        # An approach from a half step below takes half of the time before it.
        pitch, gap = shape[inside - 1]
        added = (shape[inside][0] - 1, gap / 2)
        return [*shape[: inside - 1], (pitch, gap / 2), added, *shape[inside:]]
    if kind < 0.25:
        return [(pitch, 2 * gap) for pitch, gap in shape]
    if kind < 0.35:
        return [(pitch - 12 * (k >= inside), gap) for k, (pitch, gap) in enumerate(shape)]
    return shape[:-1] if kind < 0.45 else shape


def agreement(made: Corpus, cells: Sequence[Cell]) -> tuple[int, int, int, int]:
    """How many planted cells were found, of how many; how many cells are right, of how many."""
    recalled = sum(
        any(_shared(planted, cell.places) >= max(2, len(planted) / 2) for cell in cells) for planted in made.planted
    )
    right = sum(
        any(_shared(cell.places, planted) >= max(2, len(cell.places) / 2) for planted in made.planted) for cell in cells
    )
    return recalled, len(made.planted), right, len(cells)


def _shared(places: Sequence[Place], others: Sequence[Place]) -> int:
    """How many of some places share half of their notes with one of the others."""
    return sum(any(_overlap(a, b) for b in others) for a in places)


def _overlap(a: Place, b: Place) -> bool:
    if a.line != b.line:
        return False
    shared = max(0, min(a.last, b.last) - max(a.first, b.first) + 1)
    return shared >= 0.5 * (a.last - a.first + 1 + b.last - b.first + 1 - shared)


def repeated(solos: Sequence[Solo], size: int = 6) -> list[Cell]:
    """The plain way: the same moves between ``size`` notes, wherever they come again."""
    places: dict[tuple[int, ...], list[Place]] = {}
    for number, solo in enumerate(solos):
        pitches = [note.pitch.midi for note in solo.notes]
        for i in range(len(pitches) - size + 1):
            moves = tuple(b - a for a, b in zip(pitches[i : i + size - 1], pitches[i + 1 : i + size], strict=True))
            places.setdefault(moves, []).append(Place(number, i, i + size - 1))
    return [Cell(tuple(found), 0.0, "transposed") for found in places.values() if len(found) > 1]


def main() -> None:
    """Print the figures of five collections, and the time and memory of the last."""
    lines, notes = (int(word) for word in (sys.argv[1:3] + ["200", "60"][len(sys.argv) - 1 :]))
    sums, plain, took = [0, 0, 0, 0], [0, 0, 0, 0], 0.0
    for seed in range(100, 105):
        made = corpus(seed, lines, notes)
        begun = time.perf_counter()
        cells = whole(cells_of(made.solos))
        took = time.perf_counter() - begun
        sums = [a + b for a, b in zip(sums, agreement(made, cells), strict=True)]
        plain = [a + b for a, b in zip(plain, agreement(made, repeated(made.solos)), strict=True)]
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
    print(f"{sums[0]} of {sums[1]} planted cells found; {sums[2]} of {sums[3]} found are planted")
    print(f"the same six notes: {plain[0]} of {plain[1]} found; {plain[2]} of {plain[3]} found are planted")
    print(f"{lines} lines of {notes} notes: {took:.1f} s, {memory} MB")


if __name__ == "__main__":
    main()
