"""What drafting ten minutes costs: .venv/bin/python benchmarks/drafting.py

The demo's recordings one after another, up to ten minutes, in the real window, offscreen: how long it takes, how much
memory the process has at its highest, and the longest time between two turns of the event loop meanwhile.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["GAVOTTE_AUDIO"] = "manual"
sys.path.insert(0, str(Path(__file__).parents[1]))

import numpy as np
import soundfile
from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QApplication

from gavotte.demo.recordings import record
from gavotte.demo.solos import DEMO_SOLOS
from gavotte.desktop.app import make_application
from gavotte.desktop.garbage import GarbageCollector
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library
from gavotte.recording.beat_map import BeatMap
from gavotte.recording.player import RATE
from gavotte.recording.recording import Recording
from gavotte.steps import whole

_SECONDS = 600


def megabytes(name: str) -> int:
    """A figure of the process's memory."""
    lines = Path("/proc/self/status").read_text().splitlines()
    return int(next(line for line in lines if line.startswith(name)).split()[1]) // 1024


def ten_minutes(folder: Path) -> Recording:
    """A recording of ten minutes, with even beats."""
    with soundfile.SoundFile(folder / "long.flac", "w", RATE, 2) as out:
        for make in DEMO_SOLOS * 9:
            made = whole(record(make(), folder))
            out.write(soundfile.read(folder / made.path)[0][: max(0, _SECONDS * RATE - out.frames)])
    sha = "0" * 64
    beats = BeatMap(tuple(np.arange(1.0, _SECONDS, 0.4).tolist()))
    return Recording("long.flac", str(folder / "long.flac"), False, sha, _SECONDS * RATE, beats)


def prepare(folder: Path) -> None:
    """A library with one solo without notes and the long recording, made by another process: its memory is its own."""
    recording = ten_minutes(folder)
    with Library(folder / "library") as library:
        solo = replace(DEMO_SOLOS[0](), notes=(), chords=())
        library.save_recording(library.add_solo(solo), recording)


def main() -> None:
    """Print the figures."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        child = os.fork()
        if child == 0:
            prepare(folder)
            os._exit(0)
        os.waitpid(child, 0)
        app = make_application()
        with Library(folder / "library") as library:
            window = MainWindow(library, QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
            window.resize(1280, 800)
            window.show()
            GarbageCollector(window).begin()
            window.open_solo(library.solos()[0].id)
            window.show_desk("listen")
            while not window.desks["listen"].has_recording or not window.activities.is_idle:
                QApplication.processEvents()
            print(f"with the recording open: {megabytes('VmRSS')} MB, of it files {megabytes('RssFile')} MB")
            window.show_desk("write")
            drafts = window.desks["write"].drafts
            begun = before = time.perf_counter()
            drafts.draft(True)
            highest = own = 0
            worst = 0.0
            while drafts.drafter.is_drafting:
                QApplication.processEvents()
                now = time.perf_counter()
                worst, before = max(worst, now - before), now
                highest, own = max(highest, megabytes("VmRSS")), max(own, megabytes("RssAnon"))
                time.sleep(0.001)
            notes = sum(len(phrase.notes) for phrase in drafts.proposal)
            print(
                f"{notes} notes drafted in {time.perf_counter() - begun:.0f} s; at its highest {highest} MB "
                f"({own} MB without files); longest halt {1000 * worst:.0f} ms"
            )
            window.close()
        app.quit()


if __name__ == "__main__":
    main()
