"""How often the evidence for a note is right, and how far its shares can be trusted:
.venv/bin/python benchmarks/evidence.py

The demo solos are rendered with their notes known, at their own tempo, twice and three times as fast: alone, and under
the band at -6 dB and as loud as the soloist. The weight is fitted on two of them with the usual SoundFont; the tables
come from the other three with Debian's fluid-soundfont-gm, which nothing was fitted on. ``--fit`` prints how well each
weight does on the two.
"""

from __future__ import annotations

import argparse
import itertools
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.recording.evidence import LEAD_WEIGHT, WEIGHT, weigh
from gavotte.recording.lead import Lead, find_lead
from gavotte.recording.player import RATE
from gavotte.recording.salience import Salience, find_salience
from gavotte.sounding.engine import Engine
from gavotte.sounding.events import Performance, Voice
from gavotte.sounding.performance import perform
from gavotte.sounding.synth import FluidSynth, find_soundfont
from gavotte.steps import whole

MIXES = (("alone", None), ("band at -6 dB", -6.0), ("band as loud", 0.0))
FITTED = (1, 3)
OTHER_FONT = "/usr/share/sounds/sf2/FluidR3_GM.sf2"
_BAND = {Voice.BASS: 0.65, Voice.CHORDS: 0.55, Voice.DRUMS: 0.4}


def rendered(performance: Performance, levels: dict[Voice, float], font: str) -> NDArray[np.float32]:
    """A performance with only some voices."""
    engine = Engine(FluidSynth(find_soundfont(font)))
    for voice in Voice:
        engine.level(voice, levels.get(voice, 0.0))
    engine.start(performance, performance.start, performance.end)
    blocks = int((performance.end - performance.start + 0.5) * RATE / 4410)
    return np.concatenate([engine.read(4410) for _ in range(blocks)])


def mixed(solo: NDArray[np.float32], band: NDArray[np.float32], decibels: float | None) -> NDArray[np.int16]:
    """Solo and band, the band this much louder in the mean."""
    out = solo
    if decibels is not None:
        loud = [float(np.sqrt((part**2).mean())) for part in (solo, band)]
        out = solo + band * np.float32(loud[0] / loud[1] * 10 ** (decibels / 20))
    return (out / np.abs(out).max() * 28000).astype(np.int16)


Heard = tuple[Salience, Lead, list[tuple[float, float, int]]]


def material(solos: Iterable[int], font: str) -> dict[str, list[Heard]]:
    """For each mix, each solo's salience, its lead line, and its notes as they sound: start, end, MIDI number.

    Bent notes are left out.
    """
    found: dict[str, list[Heard]] = defaultdict(list)
    for index, faster in itertools.product(solos, (1, 2, 3)):
        written = DEMO_SOLOS[index]()
        performance, _ = perform(replace(written, tempo=(written.tempo or 120) * faster), None)
        solo, band = rendered(performance, {Voice.SOLO: 0.9}, font), rendered(performance, _BAND, font)
        notes = [
            (sound.start - performance.start, sound.end - performance.start, sound.key)
            for sound in performance.sounds
            if sound.voice is Voice.SOLO and not sound.bends and sound.end - sound.start > 0.05
        ]
        for name, decibels in MIXES:
            sound = mixed(solo, band, decibels)
            found[name].append((whole(find_salience(sound)), whole(find_lead(sound, 36, 96)), notes))
    return found


def likelihood(heard: list[Heard], weight: float, lead_weight: float) -> float:
    """Mean log share of the true pitch."""
    shares = [
        next(
            c.share
            for c in weigh(salience, start, end, midi, lead=lead, weight=weight, lead_weight=lead_weight)
            if c.midi == midi
        )
        for salience, lead, notes in heard
        for start, end, midi in notes
    ]
    return float(np.mean(np.log(np.maximum(shares, 1e-6))))


def main() -> None:
    """Print the tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--fit", action="store_true")
    options = parser.parse_args()
    if options.fit:
        heard = [entry for entries in material(FITTED, "").values() for entry in entries]
        for weight, lead_weight in itertools.product((2.0, 3.0, 4.0, 5.0), (0.0, 1.0, 2.0, 3.0, 4.0, 6.0)):
            print(f"weights {weight}, {lead_weight}: mean log share {likelihood(heard, weight, lead_weight):.4f}")
    found = material([index for index in range(len(DEMO_SOLOS)) if index not in FITTED], OTHER_FONT)
    trust: dict[int, list[bool]] = defaultdict(list)
    for name, _ in MIXES:
        rows: dict[str, list[tuple[bool, bool]]] = defaultdict(list)
        for salience, lead, notes in found[name]:
            for start, end, midi in notes:
                candidates = weigh(salience, start, end, midi, lead=lead)
                shares = {c.midi: c.share for c in candidates}
                neighbours = all(shares[midi] > shares.get(midi + step, 0) for step in (-1, 1))
                long = "100 ms and more" if end - start >= 0.1 else "60 to 100 ms"
                rows[long].append((neighbours, candidates[0].midi == midi))
                trust[min(9, int(10 * candidates[0].share))].append(candidates[0].midi == midi)
        for words, outcomes in sorted(rows.items()):
            both = np.mean(outcomes, axis=0)
            print(
                f"{name}, {words}: {len(outcomes)} notes, above both neighbours {both[0]:.1%}, "
                f"above octaves and whole tones too {both[1]:.1%}"
            )
    for tenth in sorted(trust):
        right = trust[tenth]
        print(f"first share {tenth * 10} to {tenth * 10 + 10} %: {len(right)} notes, right {np.mean(right):.0%}")
    print(f"weights in use: {WEIGHT}, {LEAD_WEIGHT}")


if __name__ == "__main__":
    main()
