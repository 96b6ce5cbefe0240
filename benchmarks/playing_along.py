"""Ten minutes of playing along: .venv/bin/python benchmarks/playing_along.py

A line through twelve keys, faster at each pass and faster again on the way, played block by block as a sound card asks
for it. Counted are the blocks that took longer than they last (each would be heard as a gap), and measured is how far
each note of the band begins from where it should after all changes of tempo.
"""

from __future__ import annotations

import sys
import time
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.run import RunWishes, Way, run_of
from gavotte.solo.moving import excerpt
from gavotte.sounding.engine import Engine
from gavotte.sounding.events import Voice
from gavotte.sounding.performance import perform
from gavotte.sounding.synth import SAMPLE_RATE, FluidSynth, find_soundfont

_BLOCK = 512
_SECONDS = 600
_FASTER = 1.004
"""By how much the pace grows at each pass, as a climb by clean passes does."""


class _Listening(FluidSynth):
    """Notes at which frame each bass note begins."""

    frame = 0

    def __init__(self) -> None:
        super().__init__(find_soundfont())
        self.struck: list[int] = []

    def note_on(self, voice: Voice, key: int, loudness: int) -> None:
        if voice is Voice.BASS:
            self.struck.append(self.frame)
        super().note_on(voice, key, loudness)

    def render(self, frames: int):  # type: ignore[no-untyped-def]
        self.frame += frames
        return super().render(frames)


def main() -> None:
    """Play, count and measure."""
    solo = DEMO_SOLOS[0]()
    line = replace(excerpt(solo, solo.notes[8].id, solo.notes[40].id), phrases=(), decisions=())
    item = PracticeItem("A line", Kind.LICK, line, 160).with_keys(12)
    run = run_of(item, range(12), RunWishes(Way.KEYS, passes=8, tempo=88, step=4))
    performance, timeline = perform(run.heard, Fraction(3, 2), backing=run.backing)
    synth = _Listening()
    engine = Engine(synth)
    engine.start(performance, performance.start, performance.end)
    turns = [timeline.seconds(one.start) for one in run.passes[1:]]
    pace, changes, late, worst, blocks = 1.0, [(0, performance.start, 1.0)], 0, 0.0, 0
    while engine.is_playing and blocks * _BLOCK < _SECONDS * SAMPLE_RATE:
        begun = time.perf_counter()
        engine.read(_BLOCK)
        spent = time.perf_counter() - begun
        worst = max(worst, spent)
        late += spent > _BLOCK / SAMPLE_RATE
        blocks += 1
        if turns and engine.position >= turns[0]:
            turns.pop(0)
            pace *= _FASTER
            engine.set_rate(pace)
            changes.append((blocks * _BLOCK, engine.position, pace))
    bass = sorted(sound.start for sound in performance.sounds if sound.voice is Voice.BASS)
    errors = []
    for start, frame in zip(bass, synth.struck, strict=False):
        base, position, speed = next(c for c in reversed(changes) if c[1] <= start + 1e-9)
        due = base + (start - position) / speed * SAMPLE_RATE
        errors.append(abs(frame - due) / SAMPLE_RATE * 1000)
    seconds = blocks * _BLOCK / SAMPLE_RATE
    print(f"{seconds:.0f} s in blocks of {1000 * _BLOCK / SAMPLE_RATE:.1f} ms, {len(changes) - 1} changes of tempo,")
    print(f"{len(run.passes)} passes in 12 keys from {run.passes[0].tempo} to {run.passes[-1].tempo}.")
    print(f"Blocks that came late: {late}; the slowest took {1000 * worst:.1f} ms.")
    print(f"{len(errors)} bass notes: off by {np.median(errors):.3f} ms in the middle, {max(errors):.3f} ms at most,")
    print(f"the last fifty by {np.mean(errors[-50:]):.3f} ms.")


if __name__ == "__main__":
    main()
