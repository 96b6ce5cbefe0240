"""The vocabulary at scale: ``PYTHONPATH=. python benchmarks/vocabulary.py [LICKS [SOLOS]]``.

A library of so many licks and solos is made in a folder of its own, from phrases made by chance (see ``relatives``) and
from solos that join them. Then: making the index, reading it again, searching, relatives, names, opening the desk.
"""

from __future__ import annotations

import os
import random
import resource
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from benchmarks.relatives import other

from gavotte.labelling.labeller import label_solo
from gavotte.library.lines import index_of, line_of_lick
from gavotte.library.relatives import relatives_of
from gavotte.library.searching import answers
from gavotte.library.store import Library
from gavotte.solo.document import Solo
from gavotte.solo.moving import shifted
from gavotte.steps import whole
from gavotte.vocabulary.lick import keep_lick
from gavotte.vocabulary.query import read_query

_QUERIES = (
    "3 5 b7 b9", "enclosure of 3", "+2 +1 -4", "up up down to 3", "rhythm 8-8-4-x", "in long-ii-V-I",
    "altered on V", "to 9 notes 4-8", "tag blues", "named dominant", "by player 7",
)  # fmt: skip


def joined(seed: int, notes: int) -> Solo:
    """A solo of about so many notes, from phrases made by chance one after the other."""
    chance = random.Random(seed)
    start, parts, chords, count = Fraction(0), [], [], 0
    while count < notes:
        phrase = other(chance.randrange(10**6))
        parts += [replace(shifted(n, start), id=f"n{count + k}") for k, n in enumerate(phrase.notes)]
        chords += [replace(shifted(c, start), id=f"c{len(chords) + k}") for k, c in enumerate(phrase.chords)]
        count += len(phrase.notes)
        start += 16
    return Solo(f"Solo {seed}", player=f"Player {seed % 20}", notes=tuple(parts), chords=tuple(chords))


def timed(do: Callable[[], object]) -> tuple[float, object]:
    """How many milliseconds something takes, the least of three times, and what it gives."""
    least, found = float("inf"), None
    for _ in range(3):
        begun = time.perf_counter()
        found = do()
        least = min(least, 1000 * (time.perf_counter() - begun))
    return least, found


def filled(folder: Path, licks: int, solos: int) -> Library:
    """A library of so many licks and solos."""
    library = Library(folder)
    with library.as_one_step():
        for seed in range(solos):
            library.add_solo(joined(seed, 400))
        for seed in range(licks):
            solo = replace(other(seed), title=f"Solo {seed % 100}", player=f"Player {seed % 20}")
            lick = keep_lick(solo, "", label_solo(solo), solo.notes[0].id, solo.notes[-1].id)
            library.add_lick(replace(lick, tags=("blues",) if seed % 9 == 0 else ()))
    return library


def desk_opens(library: Library, folder: Path) -> tuple[float, float]:
    """Milliseconds until the desk is shown for the first time, and when it is gone to again."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ["GAVOTTE_AUDIO"] = "manual"
    from PyQt6.QtCore import QSettings

    from gavotte.desktop.app import make_application
    from gavotte.desktop.shell.window import MainWindow

    app = make_application()
    window = MainWindow(library, QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat))
    window.show()
    app.processEvents()
    took = []
    for _ in range(2):
        begun = time.perf_counter()
        window.show_desk("vocabulary")
        app.processEvents()
        took.append(1000 * (time.perf_counter() - begun))
        while not window.activities.is_idle:
            app.processEvents()
        window.show_desk("shelf")
        app.processEvents()
    window.close()
    return took[0], took[1]


def main() -> None:
    """Print the figures."""
    licks, solos = (int(word) for word in (sys.argv[1:3] + ["10000", "200"][len(sys.argv) - 1 :]))
    folder = Path(tempfile.mkdtemp())
    begun = time.perf_counter()
    library = filled(folder / "library", licks, solos)
    print(f"{licks} licks, {solos} solos: made in {time.perf_counter() - begun:.0f} s")
    begun = time.perf_counter()
    index = whole(index_of(library))
    sizes = f"{len(index.licks.corpus)} and {len(index.solos.corpus)} notes"
    print(f"index made in {time.perf_counter() - begun:.1f} s: {sizes}")
    for start in range(0, len(index.fresh), 500):
        library.save_lines(index.fresh[start : start + 500])
    took, index = timed(lambda: whole(index_of(library)))  # type: ignore[assignment]
    print(f"index read again: {took:.0f} ms")
    entries, rows = {e.id: e for e in library.licks()}, {e.id: e for e in library.solos()}
    names = {entry.name for entry in entries.values()}
    print(f"names: {len(names)} of {len(entries)} differ ({len(names) / len(entries):.3f})")
    some = {entry.name for entry in list(entries.values())[:1000]}
    print(f"names of 1,000: {len(some) / min(1000, len(entries)):.3f}")
    slowest = 0.0
    for text in _QUERIES:
        query = read_query(text if text != "by player 7" else 'by "player 7"')

        def ask() -> object:
            words = library.licks_with_words(query.words) if query.words else frozenset()  # noqa: B023
            return answers(index, query, entries, rows, words)  # noqa: B023

        took, found = timed(ask)
        slowest = max(slowest, took)
        print(f"  {text:24} {took:6.1f} ms  {len(found.licks)} licks, {len(found.places)} places")  # type: ignore[attr-defined]
    print(f"slowest search {slowest:.0f} ms")
    lines = [line_of_lick(library.lick(name)) for name in list(entries)[:12]]
    relatives_of(index, lines[0])
    spent = [timed(lambda line=line: relatives_of(index, line))[0] for line in lines]  # type: ignore[misc]
    print(f"relatives: {sum(spent) / len(spent):.0f} ms on average, {max(spent):.0f} at most")
    first, again = desk_opens(library, folder)
    print(f"the desk opens in {first:.0f} ms, {again:.0f} when it is gone to again")
    print(f"{resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024} MB")


if __name__ == "__main__":
    main()
