"""Whether it helps a draft that the band comes again with the form: .venv/bin/python benchmarks/repeats.py [--looped]

What the note model hears at the same place of the other choruses is held against a beginning there, with several
weights (an idea used on whole spectrograms by Z. Rafii and B. Pardo, "REpeating Pattern Extraction Technique", IEEE
Transactions on Audio, Speech, and Language Processing, 2013). Three choruses of sixteen bars; the band plays another
chorus each time, with ``--looped`` the same one. It did not help (``docs/measurements.md``), so the draft does without.
"""

from __future__ import annotations

import random
import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from functools import partial
from pathlib import Path

import mir_eval
import numpy as np
from numpy.typing import NDArray

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.players import sampled
from benchmarks.players.cast import TUNED_ON, Singer, font_of, sung
from benchmarks.players.lines import CHANGES, composed, played
from benchmarks.players.stage import mixed, roomy

from gavotte.recording import note_model
from gavotte.recording.draft import _with_expected, listened, player_of
from gavotte.recording.line import Heard, notes_of
from gavotte.recording.path import best_path
from gavotte.solo.instruments import instrument_named
from gavotte.sounding.events import Voice
from gavotte.steps import whole

WEIGHTS = (0.0, 0.5, 1.0, 2.0, 3.0, 6.0)
_CHORUSES, _TEMPO, _BINS = 3, 150, 6
_PLACES = 4 * len(CHANGES) * _BINS


def held_against(notes: NDArray[np.float16], beats: NDArray[np.float64], columns: NDArray[np.int64]) -> NDArray:
    """How much oftener each pitch is heard at a place of the other choruses than anywhere, shape (frames, pitches).

    ``beats`` are the frames' places in quarter notes from the first chorus on, below 0 for none.
    """
    inside = np.flatnonzero((beats >= 0) & (beats < _CHORUSES * 4 * len(CHANGES)))
    place = (beats[inside] * _BINS).astype(int)
    chorus, place = place // _PLACES, place % _PLACES
    heard = np.zeros((_CHORUSES, _PLACES, len(columns)), np.float32)
    np.maximum.at(heard, (chorus, place), notes[inside][:, columns].astype(np.float32))
    # A band is never quite together: its neighbours count as well.
    wide = np.maximum(heard, np.maximum(np.roll(heard, 1, axis=1), np.roll(heard, -1, axis=1)))
    others = (wide.sum(axis=0)[place] - wide[chorus, place]) / (_CHORUSES - 1)
    found = np.zeros((len(beats), len(columns)))
    found[inside] = np.maximum(0, others - wide.mean(axis=(0, 1)))
    return found


def scores(job: tuple[Singer, int, float], looped: bool) -> list[float]:
    """The onset F1 of a line under a band, with each weight."""
    singer, seed, level = job
    solo = composed(singer.instrument, _TEMPO, seed, singer.instrument != "Bass", choruses=_CHORUSES)
    take, chance = played(solo, seed + 1), random.Random(seed + 2)
    sounds = take.band
    if looped:
        start, per = take.beats[0] - 0.05, take.beats[4 * len(CHANGES)] - take.beats[0]
        one = [sound for sound in sounds if start <= sound.start < start + per]
        sounds = tuple(replace(s, start=s.start + k * per, end=s.end + k * per) for k in range(_CHORUSES) for s in one)
    without = (Voice.BASS,) if singer.instrument == "Bass" else ()
    line = roomy(sung(singer, take.notes, take.seconds, seed), chance.uniform(0.3, 1.1), 0.2, seed)
    band = roomy(sampled.band(sounds, font_of(singer), take.seconds, without), chance.uniform(0.3, 1.1), 0.2, seed + 1)
    sound = mixed(line, band, level, 0.0, chance.uniform(-60, -38), seed)
    instrument = instrument_named(singer.instrument)
    assert instrument is not None
    player = player_of(instrument)
    listening = whole(listened(sound, player))
    sounding, begins = whole(listening.heard(player))
    beats = np.interp(listening.in_recording, take.beats, np.arange(len(take.beats)), left=-1, right=-1)
    columns = np.arange(player.lowest, player.highest + 1) - note_model.LOWEST
    against = held_against(listening.notes, beats, columns)
    spans = np.array([[note.start, note.end] for note in take.notes])
    hertz = mir_eval.util.midi_to_hz(np.array([note.midi for note in take.notes]))
    found = []
    for weight in WEIGHTS:
        weighed = _with_expected(begins, -weight * against)
        heard = Heard(listening.in_recording, sounding, weighed, player.lowest)
        notes = notes_of(whole(best_path(sounding, weighed)), heard, listening.lead, listening.cents)
        times = np.array([[note.start, max(note.end, note.start + 0.01)] for note in notes]).reshape(-1, 2)
        pitches = mir_eval.util.midi_to_hz(np.array([note.midi for note in notes]))
        how = {"onset_tolerance": 0.05, "offset_ratio": None}
        found.append(mir_eval.transcription.precision_recall_f1_overlap(spans, hertz, times, pitches, **how)[2])
    return found


def main() -> None:
    """Print the mean F1 by weight and loudness of the band."""
    singers = [TUNED_ON[k] for k in (0, 1, 3, 4, 6, 15)]
    for level in (-6.0, 0.0):
        jobs = [(singer, 100 + 7 * k, level) for k, singer in enumerate(singers)]
        with ProcessPoolExecutor(2) as pool:
            means = np.mean(list(pool.map(partial(scores, looped="--looped" in sys.argv), jobs)), axis=0)
        print(f"band at {level:+.0f} dB:", ", ".join(f"{w:g}: {f:.3f}" for w, f in zip(WEIGHTS, means, strict=True)))


if __name__ == "__main__":
    main()
