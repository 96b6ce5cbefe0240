"""From the command to a window that can be used, memory, and the first sound: .venv/bin/python benchmarks/start.py

Each start is a process of its own, offscreen, on a demo library of its own, timed from before the process begins to
the moment the interface has nothing left to do with the last desk's page complete. ``--cold`` (as root) empties the
system's file cache before each start.
"""

from __future__ import annotations

import argparse
import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

CHILD = """
import os, sys, time
from pathlib import Path
begun = float(sys.argv[1])
from gavotte.desktop.app import make_application
app = make_application()
from PyQt6.QtCore import QElapsedTimer, QSettings, QTimer
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library
folder = Path(sys.argv[2])
with Library(folder) as library:
    window = MainWindow(library, QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat))
    window.show()
    app.processEvents()
    shown = time.time() - begun
    while not window.desks["label"].page.is_complete:
        app.processEvents()
    usable = time.time() - begun
    clock = QElapsedTimer()
    clock.start()
    window.studio.transport.warm_up()
    warmed = clock.elapsed()
    engine = window.studio.transport.engine
    clock.restart()
    window.studio.playing.toggle()
    while engine.position <= 0 and clock.elapsed() < 3000:
        app.processEvents()
        if window.studio.transport.is_playing:
            break
    played = clock.nsecsElapsed() / 1e6
    peak = next(line.split()[1] for line in open("/proc/self/status") if line.startswith("VmHWM"))
    now = next(line.split()[1] for line in open("/proc/self/status") if line.startswith("VmRSS"))
    print(f"{shown:.3f} {usable:.3f} {warmed} {played:.1f} {int(now) // 1024} {int(peak) // 1024}")
    window.close()
"""

_ENVIRONMENT = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
"""As a user starts it: what Python has compiled once is kept."""


def start(folder: Path) -> list[float]:
    """One start: seconds to the shown and to the usable window, ms to warm up and to play, MB now and at most."""
    done = subprocess.run(
        [sys.executable, "-c", CHILD, str(time.time()), str(folder)],
        env={**_ENVIRONMENT, "QT_QPA_PLATFORM": "offscreen", "GAVOTTE_AUDIO": "manual"},
        check=True,
        capture_output=True,
        text=True,
    )
    return [float(part) for part in done.stdout.split()]


def main() -> None:
    """Start several times and print the figures."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--starts", type=int, default=7)
    parser.add_argument("--cold", action="store_true", help="empty the file cache before each start (root)")
    options = parser.parse_args()
    from PyQt6.QtCore import QSettings

    from gavotte.demo.build import build_demo
    from gavotte.library.store import Library

    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        build_demo(folder / "demo")
        with Library(folder / "demo") as library:
            first = library.solos()[0].id
        settings = QSettings(str(folder / "demo" / "settings.ini"), QSettings.Format.IniFormat)
        settings.setValue("solo", first)
        settings.setValue("desk", "label")
        settings.sync()
        rows = []
        start(folder / "demo")  # compiles what has changed
        for _ in range(options.starts):
            if options.cold:
                os.sync()
                Path("/proc/sys/vm/drop_caches").write_text("3")
            rows.append(start(folder / "demo"))
    for words, unit, column in (
        ("window shown", "s", 0),
        ("window usable, the solo's page complete", "s", 1),
        ("sound warmed up", "ms", 2),
        ("play pressed to playing", "ms", 3),
        ("memory", "MB", 4),
        ("memory at most", "MB", 5),
    ):
        values = sorted(row[column] for row in rows)
        print(f"{words}: median {statistics.median(values):g} {unit}, {values[0]:g} to {values[-1]:g}")


if __name__ == "__main__":
    main()
