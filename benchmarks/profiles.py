"""What profiles tell of players whose habits are known: .venv/bin/python benchmarks/profiles.py

Solos of one player, made by chance, are dealt in two sets again and again; every difference that is told is one too
many. Then five habits are planted in half of them: are they the strongest differences, and are solos nearest to those
with the same habits? Then the time that comparing 300 solos takes.
"""

from __future__ import annotations

import random
import sys
import time
from collections.abc import Callable, Mapping
from dataclasses import replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.players.lines import composed

from gavotte.labelling.labeller import Labelled, labelled
from gavotte.phrasing.phrases import phrases_of
from gavotte.profile.compared import Known, Side, compared
from gavotte.profile.comparison import differences
from gavotte.profile.measured import Counts, Measured, counts_of
from gavotte.profile.nearest import nearest
from gavotte.solo.document import Note, Solo
from gavotte.steps import whole
from gavotte.theory.chord import Chord
from gavotte.theory.pitch import spell
from gavotte.vocabulary.corpus import line_of_solo

_SPLITS = 350
_OFTEN = 0.25


def _moved(note: Note, pitch_class: int) -> Note:
    """The note at the nearest pitch of a class."""
    midi = note.pitch.midi + (pitch_class - note.pitch.midi + 6) % 12 - 6
    return replace(note, pitch=spell(midi, 0), written=())


def _root(found: Labelled, index: int) -> Chord | None:
    return found.frame.span_of(found.frame.notes[index]).chord


def _ends_on_the_root(found: Labelled, chance: random.Random) -> Solo:
    notes = list(found.solo.notes)
    for phrase in phrases_of(found.solo, found.labels):
        chord = _root(found, phrase.last)
        if chord is not None and chance.random() < 3 * _OFTEN:
            notes[phrase.last] = _moved(notes[phrase.last], chord.root.pitch_class)
    return replace(found.solo, notes=tuple(notes))


def _flat_nines(found: Labelled, chance: random.Random) -> Solo:
    notes = list(found.solo.notes)
    for index, note in enumerate(notes):
        chord = _root(found, index)
        if chord is not None and chord.is_dominant and chance.random() < _OFTEN:
            notes[index] = _moved(note, chord.root.pitch_class + 1)
    return replace(found.solo, notes=tuple(notes))


def _repeats(found: Labelled, chance: random.Random) -> Solo:
    notes = list(found.solo.notes)
    for index in range(1, len(notes)):
        if chance.random() < _OFTEN:
            notes[index] = replace(notes[index], pitch=notes[index - 1].pitch, written=())
    return replace(found.solo, notes=tuple(notes))


def _leaves_out(found: Labelled, chance: random.Random) -> Solo:
    """Every note that follows within half a quarter is left out now and then: longer values."""
    notes = [note for note in found.solo.notes if note.onset.denominator == 1 or chance.random() > 2 * _OFTEN]
    return replace(found.solo, notes=tuple(notes))


def _lower(found: Labelled, chance: random.Random) -> Solo:
    del chance
    lower = tuple(replace(note, pitch=spell(note.pitch.midi - 12, 0), written=()) for note in found.solo.notes)
    return replace(found.solo, notes=lower)


HABITS: Mapping[str, tuple[Callable[[Labelled, random.Random], Solo], Callable[[str], bool]]] = {
    "ends phrases on the root": (_ends_on_the_root, lambda n: n in ("ending on 1", "function chord last")),
    "flat nines over dominants": (
        _flat_nines,
        lambda n: n in ("degree b9 over dominant", "altered on dominants", "foreign", "device altered", "tension")
        or n.startswith(("function extension", "tension on V", "landing on b9")),
    ),
    "repeats notes": (_repeats, lambda n: n == "step repeated" or n == "turning"),
    "leaves notes out between beats": (
        _leaves_out,
        lambda n: n.startswith(("value", "beat of", "density", "phrase notes", "silence", "begins", "rest")),
    ),
    "plays lower": (_lower, lambda n: n.startswith("register")),
}  # fmt: skip
"""Each habit with what plants it, and the figures (by name) that say so."""


def _solos(count: int, first: int) -> list[Solo]:
    return [composed("Tenor saxophone", 160, first + seed) for seed in range(count)]


def _counted(solo: Solo) -> Counts:
    return counts_of(line_of_solo(labelled(solo)))


def _planted() -> None:
    plain = [_counted(solo) for solo in _solos(12, 500)]
    for name, (plant, tells) in HABITS.items():
        chance = random.Random(name)
        habit = [_counted(plant(labelled(solo), chance)) for solo in _solos(12, 600)]
        told = [one for one in differences(Measured(tuple(habit)), Measured(tuple(plain))) if one.stands_out]
        first = [one.figure.name for one in told[:5]]
        right = sum(tells(figure) for figure in first)
        print(f"{name}: of the {len(first)} strongest {right} say so; {', '.join(first)}")
        near = nearest(habit[:1], [*plain, *habit[1:]])[:5]
        print(f"  of the five solos nearest to one {sum(one.number >= len(plain) for one in near)} have the habit")


def main() -> None:
    """Print how often, and how long."""
    counts = [_counted(solo) for solo in _solos(24, 0)]
    for solos, first in ((24, 12), (10, 5), (16, 4)):
        chance, told = random.Random(1), 0
        for split in range(_SPLITS):
            dealt = chance.sample(counts[:solos], solos)
            found = differences(Measured(tuple(dealt[:first])), Measured(tuple(dealt[first:])), split)
            told += any(one.stands_out for one in found)
        print(f"{solos} solos, {first} in the first set: {told} of {_SPLITS} splits told a difference")
    _planted()
    long = [
        line_of_solo(labelled(composed("Tenor saxophone", 160, seed, choruses=4))) for seed in range(30)
    ] * 10  # fmt: skip
    sides = [Side(tuple(f"{part} {k}" for k in range(150)), tuple(long[150 * part :][:150])) for part in (0, 1)]
    known: Known = {}
    for words in ("first", "again"):
        begun = time.perf_counter()
        whole(compared(*sides, known))
        print(f"{words}: {time.perf_counter() - begun:.1f} s for 300 solos of {len(long[0].notes)} notes")


if __name__ == "__main__":
    main()
