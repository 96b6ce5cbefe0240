"""From a key to the redrawn line at the Write desk: .venv/bin/python benchmarks/writing.py

A 200-bar solo in the real window, offscreen. Each figure is the time from a key press until the line it changes has
been set and painted, over 40 presses in the middle of the solo; labels of so long a solo follow beside the interface.
The longest halt counts what comes after the key as well, until everything rests.
"""

from __future__ import annotations

import os
import statistics
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["GAVOTTE_AUDIO"] = "manual"
sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.big_solo import long_solo
from PyQt6.QtCore import QSettings, QThreadPool
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from gavotte.desktop.app import make_application
from gavotte.desktop.garbage import GarbageCollector
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library


def settle(window: MainWindow) -> float:
    """Until everything rests; gives the longest time between two turns of the event loop."""
    worst, before, rest = 0.0, time.perf_counter(), None
    while True:
        QApplication.processEvents()
        now = time.perf_counter()
        worst, before = max(worst, now - before), now
        pool = QThreadPool.globalInstance()
        busy = not window.desks["write"].page.is_complete or (pool is not None and pool.activeThreadCount() > 0)
        rest = None if busy else rest or now
        if rest is not None and now - rest > 0.35:
            return worst


def main() -> None:
    """Print the figures."""
    app = make_application()
    with tempfile.TemporaryDirectory() as name, Library(Path(name) / "library") as library:
        solo_id = library.add_solo(long_solo(200))
        window = MainWindow(library, QSettings(f"{name}/s.ini", QSettings.Format.IniFormat))
        window.resize(1280, 800)
        window.show()
        GarbageCollector(window).begin()
        window.open_solo(solo_id)
        window.show_desk("write")
        settle(window)
        page = window.desks["write"].page
        # Shortcuts are heard only in the active window.
        window.activateWindow()
        page.setFocus()
        settle(window)
        for words, keys, start in (
            ("write a note", "cdefgab", 600),
            ("write a rest over it", "r", 700),
        ):
            assert window.session.solo is not None
            places = [note.onset for note in window.session.solo.notes if not note.grace][start : start + 40]
            spent, halts = [], []
            for index in range(40):
                window.desks["write"].writer.go_to(places[index])
                settle(window)
                before = window.session.solo
                begun = time.perf_counter()
                QTest.keyClick(page, keys[index % len(keys)])
                assert page.caret is not None
                page.viewport().repaint(page.mapFromScene(page.caret.sceneBoundingRect()).boundingRect())  # type: ignore[union-attr]
                spent.append(time.perf_counter() - begun)
                if window.session.solo is before:
                    # A rest over a rest.
                    spent.pop()
                halts.append(settle(window))
            print(
                f"{words}: median {statistics.median(spent) * 1000:.0f} ms, "
                f"slowest {max(spent) * 1000:.0f} ms, longest halt after it {max(halts) * 1000:.0f} ms"
            )
        window.close()
    app.quit()


if __name__ == "__main__":
    main()
