"""Kills while somebody types without a pause: .venv/bin/python benchmarks/kills.py [KILLS]

A window of its own, offscreen, is typed into at the Write desk, a note about every 60 ms, and killed at some moment.
What matters is the first note that is not in the library afterwards: how long before the kill it was written.
"""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from gavotte.library.store import Library
from gavotte.solo.document import Solo

CHILD = """
import sys, time
from pathlib import Path
from PyQt6.QtCore import QSettings, QTimer
from PyQt6.QtTest import QTest
from gavotte.desktop.app import make_application
from gavotte.desktop.garbage import GarbageCollector
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library
app = make_application()
folder = Path(sys.argv[1])
with Library(folder) as library:
    window = MainWindow(library, QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    window.show()
    window.open_solo(sys.argv[2])
    window.show_desk("write")
    collector = GarbageCollector(window)
    collector.begin()
    page = window.desks["write"].page
    window.activateWindow()
    page.setFocus()
    def write():
        QTest.keyClick(page, "cdefgab"[len(window.session.solo.notes) % 7])
        print(len(window.session.solo.notes), time.time(), flush=True)
    timer = QTimer()
    timer.timeout.connect(write)
    timer.start(60)
    app.exec()
"""


def main() -> None:
    """Print what was lost at most, and how often it was how much."""
    kills = int(sys.argv[1]) if len(sys.argv) > 1 else 50
    chance = random.Random(5)
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "GAVOTTE_AUDIO": "manual"}
    lost: list[float] = []
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for _ in range(kills):
            with Library(folder) as library:
                solo = library.add_solo(Solo("Typed"))
            command = [sys.executable, "-c", CHILD, str(folder), solo]
            child = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment)
            assert child.stdout is not None
            written = [child.stdout.readline()]
            time.sleep(chance.uniform(0.2, 4.0))
            killed = time.time()
            os.kill(child.pid, signal.SIGKILL)
            written += child.stdout.read().splitlines()
            child.wait()
            times = {int(number): float(at) for number, at in (line.split() for line in written if line.strip())}
            with Library(folder) as library:
                kept = len(library.solo(solo).notes)
            lost.append(max(0.0, killed - times[kept + 1]) if kept + 1 in times else 0.0)
    lost.sort()
    print(f"{kills} kills: lost at most {lost[-1]:.2f} s of typing, usually {lost[len(lost) // 2]:.2f} s")


if __name__ == "__main__":
    main()
