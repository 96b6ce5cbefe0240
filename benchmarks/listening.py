"""What listening costs and how well beats and tuning are found: .venv/bin/python benchmarks/listening.py

Recordings are the demo's own (a GM band with small unevenness), so beats and tuning are known; another band is harder.
"""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Generator
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["GAVOTTE_AUDIO"] = "manual"

import numpy as np
import soundfile
import soxr
from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QApplication

from gavotte.demo.recordings import record
from gavotte.demo.solos import DEMO_SOLOS
from gavotte.desktop.app import make_application
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.store import Library
from gavotte.recording.beats import find_beats, likely_tempo, onset_envelope
from gavotte.recording.decode import decode
from gavotte.recording.player import RATE, RecordingPlayer
from gavotte.recording.recording import Recording
from gavotte.recording.salience import find_salience
from gavotte.recording.tuning import measure_tuning
from gavotte.recording.waveform import find_peaks

_SHARP = 35
_TOLERANCE = 0.05


def whole(steps: Generator[float, None, Any]) -> tuple[Any, float, float]:
    """What steps return, the seconds they took, and the longest of them."""
    begun = before = time.perf_counter()
    longest = 0.0
    while True:
        try:
            next(steps)
        except StopIteration as end:
            return end.value, time.perf_counter() - begun, longest
        now = time.perf_counter()
        longest, before = max(longest, now - before), now


def f_measure(found: tuple[float, ...], true: tuple[float, ...]) -> float:
    """Harmonic mean of precision and recall, a beat within 50 ms."""
    left = list(true)
    hit = 0
    for beat in found:
        near = [time for time in left if abs(time - beat) <= _TOLERANCE]
        if near:
            left.remove(min(near, key=lambda time: abs(time - beat)))
            hit += 1
    return 2 * hit / max(1, len(found) + len(true))


def memory() -> int:
    """Megabytes in use."""
    lines = Path("/proc/self/status").read_text().splitlines()
    line = next(line for line in lines if line.startswith("VmRSS"))
    return int(line.split()[1]) // 1024


def beats_and_tuning(folder: Path) -> None:
    """A row for each demo recording."""
    for make in DEMO_SOLOS:
        solo = make()
        recording, _, _ = whole(record(solo, folder))
        sound, _ = soundfile.read(folder / recording.path, dtype="int16")
        envelope, seconds, _ = whole(onset_envelope(sound))
        true = recording.beats.times
        written = f_measure(find_beats(envelope, solo.beats_a_minute or 120), true)
        tapped = f_measure(find_beats(envelope, 1.05 * (solo.beats_a_minute or 120), true[:8]), true)
        alone = f_measure(find_beats(envelope, likely_tempo(envelope)), true)
        sharp = soxr.resample(sound.astype(np.float32), RATE * 2 ** (_SHARP / 1200), RATE).astype(np.int16)
        tuning, _, _ = whole(measure_tuning(sound))
        raised, _, _ = whole(measure_tuning(sharp))
        print(
            f"{solo.title}: beats F {written:.3f} at the written tempo, {tapped:.3f} with eight taps at 5 % off, "
            f"{alone:.3f} alone; tuning {tuning:+.1f} cents, raised by {_SHARP}: {raised:+.1f}; "
            f"{len(sound) / RATE / seconds:.0f} × real time"
        )


def playing() -> None:
    """How fast the player is, and how soon it sounds."""
    sound = np.random.default_rng(0).normal(0, 3000, (RATE * 60, 2)).astype(np.int16)
    for speed in (1.0, 0.8, 0.5, 0.2):
        firsts, rates = [], []
        for _ in range(5):
            player = RecordingPlayer(sound)
            player.set_speed(speed)
            begun = time.perf_counter()
            player.play()
            player.read(441)
            firsts.append(1000 * (time.perf_counter() - begun))
            begun = time.perf_counter()
            for _ in range(500):
                player.read(441)
            rates.append(5 / (time.perf_counter() - begun))
        print(f"at {speed:.0%}: first block after {np.median(firsts):.1f} ms, {np.median(rates):.1f} × real time")


def ten_minutes(folder: Path) -> None:
    """A recording of ten minutes: read, shown, painted."""
    rate = RATE * 600
    noise = np.random.default_rng(1).normal(0, 0.1, (RATE * 60, 2)).astype(np.float32)
    with soundfile.SoundFile(folder / "long.flac", "w", RATE, 2) as out:
        for _ in range(10):
            out.write(noise)
    del noise
    before = memory()
    decoded, seconds, longest = whole(decode(folder / "long.flac", folder / "decoded"))
    print(f"10 minutes of FLAC decoded in {seconds:.1f} s, longest step {1000 * longest:.0f} ms")
    _, seconds, longest = whole(find_peaks(decoded.samples()))
    print(f"its peaks found in {seconds:.1f} s, longest step {1000 * longest:.0f} ms")
    _, seconds, longest = whole(find_salience(decoded.samples()[: RATE * 180]))
    print(f"the pitch picture of 3 minutes in {seconds:.1f} s, longest step {1000 * longest:.0f} ms")
    app = make_application()
    with Library(folder / "library") as library:
        solo = library.add_solo(DEMO_SOLOS[0]())
        path = str(folder / "long.flac")
        library.save_recording(solo, Recording("long.flac", path, False, decoded.sha256, decoded.frames))
        window = MainWindow(library, QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
        window.resize(1280, 800)
        window.show()
        window.open_solo(solo)
        window.show_desk("listen")
        while window.studio.tape.is_loading or not window.desks["listen"].page.is_complete:
            QApplication.processEvents()
        for words, start, stop in (
            ("all of it", 0.0, 600.0),
            ("ten seconds", 100.0, 110.0),
            ("a few cycles", 1.0, 1.01),
        ):
            window.desks["listen"].wave.show_stretch(start, stop)
            frames = []
            for step in range(60):
                window.desks["listen"].wave._start += 5
                window.desks["listen"].wave._redraw()
                window.desks["listen"].wave._playhead = start + step * (stop - start) / 60
                begun = time.perf_counter()
                window.desks["listen"].wave.repaint()
                frames.append(time.perf_counter() - begun)
            print(
                f"the wave, {words}: {1000 * np.median(frames):.1f} ms a picture, at most {1000 * max(frames):.1f} ms"
            )
        print(f"memory: {memory()} MB with it open ({before} MB before); {rate / 1e6:.0f} million frames")
        window.close()
    app.quit()


def main() -> None:
    """Print everything."""
    with tempfile.TemporaryDirectory() as name:
        playing()
        beats_and_tuning(Path(name))
        ten_minutes(Path(name))


if __name__ == "__main__":
    main()
