"""Many solos labelled in one go: ``python benchmarks/batch.py [how many]``; time and peak memory of the label command.

Each solo has 500 notes: a piece of the long solo (see ``big_solo``), every one in another key or from another bar.
"""

from __future__ import annotations

import resource
import subprocess
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path

from benchmarks.big_solo import long_solo

from gavotte.formats.musicxml_write import write_musicxml
from gavotte.solo.document import Solo
from gavotte.solo.moving import transposed_simply
from gavotte.theory.interval import Interval

NOTES = 500
_MOVES = (Interval(0, 0), Interval(1, 2), Interval(2, 3), Interval(3, 5), Interval(-1, -2))


def solos(number: int) -> list[Solo]:
    """As many solos of 500 notes."""
    whole = long_solo(400)
    made = []
    for k in range(number):
        start = 7 * (k % 100)
        moved = transposed_simply(whole, _MOVES[k % len(_MOVES)])
        notes = moved.notes[start : start + NOTES]
        made.append(replace(moved, title=f"Solo {k + 1}", notes=notes, form_end=notes[-1].end))
    return made


def main(number: int) -> None:
    """Print what labelling them takes."""
    with tempfile.TemporaryDirectory() as folder:
        files = []
        for solo in solos(number):
            path = Path(folder) / f"{solo.title}.musicxml"
            path.write_bytes(write_musicxml(solo))
            files.append(str(path))
        for kind in ("--csv", "--json", "--musicxml"):
            start = time.perf_counter()
            run = subprocess.run(
                [sys.executable, "-m", "gavotte", "label", kind, *files], capture_output=True, check=True
            )
            seconds = time.perf_counter() - start
            peak = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
            each = f"{seconds:.0f} s, {1000 * seconds / number:.0f} ms each"
            size = f"{len(run.stdout) / 1e6:.1f} MB out"
            print(f"{kind[2:]:9} {number} solos of {NOTES} notes: {each}, at most {peak:.0f} MB so far; {size}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 500)
