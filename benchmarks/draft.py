"""How well a draft finds the notes: .venv/bin/python benchmarks/draft.py [--few]

Lines are composed by chance over changes (eighths, triplets, repeated notes, rests, bends), at 120, 180 and 240 beats a
minute, and rendered on four instruments with Debian's fluid-soundfont-gm, which nothing was tuned on: alone, under the
band at -6 dB and as loud as the soloist, and as an old record (band at -6 dB, 35 cents sharp, wow, noise, narrow).
Under the bass solo the band
plays without its bass. F1 of the onsets: within 50 ms and 50 cents, by mir_eval.
"""

from __future__ import annotations

import argparse
import random
import time
from collections import defaultdict
from fractions import Fraction

import mir_eval
import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, sosfilt

from evidence import OTHER_FONT, mixed, rendered
from gavotte.recording.draft import DraftNote, find_draft
from gavotte.recording.player import RATE
from gavotte.solo.document import Articulation, ChordEvent, Mark, Note, Solo
from gavotte.solo.instruments import instrument_named
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.performance import perform
from gavotte.steps import whole
from gavotte.theory.chord import Chord
from gavotte.theory.pitch import spell

INSTRUMENTS = (("Alto saxophone", 65), ("Trumpet", 59), ("Guitar", 26), ("Bass", 33))
"""Name, and the General MIDI program it is rendered with; 59 is a muted trumpet."""

TEMPOS = (120, 180, 240)
CONDITIONS = ("alone", "band at -6 dB", "band as loud", "old record")
WISHED = {"alone": 0.95, "band at -6 dB": 0.93, "band as loud": 0.90, "old record": 0.90}
_CHANGES = (
    "Dm7",
    "G7",
    "Cmaj7",
    "A7b9",
    "Dm7",
    "G7",
    "Em7",
    "A7",
    "Fmaj7",
    "Fm6",
    "Cmaj7",
    "A7",
    "Dm7",
    "G7",
    "C6",
    "C6",
)
_BAND = {Voice.BASS: 0.65, Voice.CHORDS: 0.55, Voice.RIDE: 0.4}


def composed(instrument_name: str, tempo: int, seed: int) -> Solo:
    """Sixteen bars by chance: a line that mostly steps, aims at chord tones and rests now and then."""
    chance = random.Random(seed)
    instrument = instrument_named(instrument_name)
    assert instrument is not None
    chords = tuple(ChordEvent(f"c{k}", Fraction(4 * k), text) for k, text in enumerate(_CHANGES))
    low, high = instrument.lowest + 3, min(instrument.highest - 3, instrument.lowest + 34)
    pitch, time_now, notes = (low + high) // 2, Fraction(0), []
    end = Fraction(4 * len(chords))
    while time_now < end:
        roll = chance.random()
        lengths = (
            [Fraction(1, 3)] * 3 if roll < 0.15 else [Fraction(1, 2)] * 2 if roll < 0.75 else [Fraction(1)]
            if roll < 0.9 else [Fraction(2)]
        )  # fmt: skip
        if chance.random() < 0.12:
            time_now += lengths[0] * len(lengths)
            continue
        for length in lengths:
            symbol = chords[int(time_now // 4) % len(chords)].symbol
            assert isinstance(symbol, Chord)
            if chance.random() > 0.1:
                step = chance.choice((-5, -4, -3, -2, -2, -1, -1, 1, 1, 2, 2, 3, 4, 5))
                pitch = min(max(pitch + step, low), high)
                if chance.random() < 0.5:
                    pitch = min(
                        (p for p in range(low, high + 1) if p % 12 in symbol.tone_classes), key=lambda p: abs(p - pitch)
                    )
            bends = length >= 1 and instrument_name != "Bass" and chance.random() < 0.25
            marks = (Mark(Articulation.BEND, Fraction(chance.choice((1, 2)))),) if bends else ()
            notes.append(Note(f"n{len(notes)}", time_now, length, spell(pitch, 0), marks=marks))
            time_now += length
    return Solo(
        "By chance", instrument=instrument, tempo=Fraction(tempo), chords=chords, notes=tuple(notes), style="swing"
    )


def old_record(sound: NDArray[np.int16], seed: int) -> NDArray[np.int16]:
    """35 cents sharp, with wow, noise and crackle, and no lows or highs."""
    chance = np.random.default_rng(seed)
    seconds = np.arange(int(len(sound) / 2 ** (35 / 1200))) / RATE
    speed = 2 ** (35 / 1200) * (1 + 0.003 * np.sin(2 * np.pi * 0.55 * seconds))
    places = np.cumsum(speed)
    places = places[places < len(sound) - 1]
    mono = sound.astype(np.float64).mean(axis=1)
    out = np.interp(places, np.arange(len(mono)), mono)
    band = butter(4, (180, 4500), "bandpass", fs=RATE, output="sos")
    noise = chance.normal(0, 1, len(out)) * np.sqrt((out**2).mean()) * 10 ** (-22 / 20)
    crackle = (chance.random(len(out)) < 12 / RATE) * chance.normal(0, 1, len(out)) * np.abs(out).max() * 0.5
    out = sosfilt(band, out + noise + crackle)
    out = out / np.abs(out).max() * 28000
    return np.stack([out, out], axis=1).astype(np.int16)


def heard_in_old_record(seconds: NDArray[np.float64]) -> NDArray[np.float64]:
    """Where a time of the clean recording lies in the old record."""
    clock = np.arange(int(seconds.max() * RATE) + RATE) / RATE
    speed = 2 ** (35 / 1200) * (1 + 0.003 * np.sin(2 * np.pi * 0.55 * clock))
    return np.interp(seconds, np.cumsum(speed) / RATE, clock)


def score(sounds: list[Sound], found: tuple[DraftNote, ...], start: float, old: bool) -> tuple[float, float, float]:
    """Precision, recall and F1 of the onsets."""
    times = np.array([[sound.start - start, sound.end - start] for sound in sounds])
    if old:
        times = heard_in_old_record(times.ravel()).reshape(times.shape)
    pitches = np.array([440 * 2 ** ((sound.key - 69) / 12) for sound in sounds])
    heard = np.array([[note.start, note.end] for note in found]).reshape(-1, 2)
    hertz = np.array([440 * 2 ** ((note.midi - 69) / 12) for note in found])
    return mir_eval.transcription.precision_recall_f1_overlap(
        times, pitches, heard, hertz, onset_tolerance=0.05, offset_ratio=None
    )[:3]  # type: ignore[no-any-return]


def main() -> None:
    """Print the tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--few", action="store_true", help="one tempo only")
    parser.add_argument("--font", default=OTHER_FONT)
    parser.add_argument("--seed", type=int, default=0)
    options = parser.parse_args()
    scores: dict[tuple[str, str], list[float]] = defaultdict(list)
    trust: dict[int, list[bool]] = defaultdict(list)
    spent = heard_seconds = 0.0
    for index, (name, program) in enumerate(INSTRUMENTS):
        for tempo in TEMPOS[1:2] if options.few else TEMPOS:
            solo = composed(name, tempo, options.seed + 10 * index + tempo)
            performance, _ = perform(solo)
            performance = performance.__class__(performance.sounds, performance.start, performance.end, program)
            sounds = [sound for sound in performance.sounds if sound.voice is Voice.SOLO]
            alone = rendered(performance, {Voice.SOLO: 0.9}, options.font)
            # While the bass plays its solo nobody else plays bass.
            playing = {voice: loud for voice, loud in _BAND.items() if name != "Bass" or voice is not Voice.BASS}
            band = rendered(performance, playing, options.font)
            for condition in CONDITIONS:
                level = {"alone": None, "band as loud": 0.0}.get(condition, -6.0)
                sound = mixed(alone, band, level)
                if condition == "old record":
                    sound = old_record(sound, index)
                began = time.perf_counter()
                draft = whole(find_draft(sound, solo.instrument.lowest, solo.instrument.highest))
                spent += time.perf_counter() - began
                heard_seconds += len(sound) / RATE
                _, _, f1 = score(sounds, draft.notes, performance.start, condition == "old record")
                scores[condition, name].append(f1)
                scores[condition, f"{tempo} a minute"].append(f1)
                scores[condition, "all"].append(f1)
                _note_trust(trust, sounds, draft.notes, performance.start, condition == "old record")
    columns = [*(name for name, _ in INSTRUMENTS), *(f"{tempo} a minute" for tempo in TEMPOS), "all"]
    print("| | " + " | ".join(columns) + " | wished |")
    for condition in CONDITIONS:
        cells = [f"{np.mean(scores[condition, c]):.3f}" if scores[condition, c] else "" for c in columns]
        print(f"| {condition} | " + " | ".join(cells) + f" | {WISHED[condition]:.2f} |")
    for tenth in sorted(trust):
        right = trust[tenth]
        print(f"confidence {tenth * 10} to {tenth * 10 + 10} %: {len(right)} notes, right {np.mean(right):.0%}")
    ratio = spent / heard_seconds
    print(f"{ratio:.3f} seconds for a second of recording; three minutes take {180 * ratio:.0f} s")


def _note_trust(
    trust: dict[int, list[bool]], sounds: list[Sound], found: tuple[DraftNote, ...], start: float, old: bool
) -> None:
    times = np.array([sound.start - start for sound in sounds])
    times = heard_in_old_record(times) if old else times
    for note in found:
        near = [s.key for s, t in zip(sounds, times, strict=True) if abs(t - note.start) <= 0.05]
        trust[min(9, int(10 * note.confidence))].append(note.midi in near)


if __name__ == "__main__":
    main()
