"""How often a difference is told where there is none: .venv/bin/python benchmarks/profiles.py

Solos of one player, made by chance, are dealt in two sets again and again; every difference that is told is one too
many. Then the time that comparing 300 solos takes.
"""

from __future__ import annotations

import random
import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.players.lines import composed

from gavotte.labelling.labeller import labelled
from gavotte.profile.compared import Known, Side, compared
from gavotte.profile.comparison import differences
from gavotte.profile.measured import Measured, counts_of
from gavotte.steps import whole
from gavotte.vocabulary.corpus import line_of_solo

_SPLITS = 350


def main() -> None:
    """Print how often, and how long."""
    lines = [line_of_solo(labelled(composed("Tenor saxophone", 160, seed))) for seed in range(24)]
    counts = [counts_of(line) for line in lines]
    for solos, first in ((24, 12), (10, 5), (16, 4)):
        chance, told = random.Random(1), 0
        for split in range(_SPLITS):
            dealt = chance.sample(counts[:solos], solos)
            found = differences(Measured(tuple(dealt[:first])), Measured(tuple(dealt[first:])), split)
            told += any(one.stands_out for one in found)
        print(f"{solos} solos, {first} in the first set: {told} of {_SPLITS} splits told a difference")
    long = [line_of_solo(labelled(composed("Tenor saxophone", 160, seed, choruses=4))) for seed in range(30)] * 10
    sides = [Side(tuple(f"{part} {k}" for k in range(150)), tuple(long[150 * part :][:150])) for part in (0, 1)]
    known: Known = {}
    for words in ("first", "again"):
        begun = time.perf_counter()
        whole(compared(*sides, known))
        print(f"{words}: {time.perf_counter() - begun:.1f} s for 300 solos of {len(long[0].notes)} notes")


if __name__ == "__main__":
    main()
