"""Trains the ear of the draft: .venv/bin/python benchmarks/ear.py OUT.npz [--lines 700] [--trust-of WEIGHTS.npz]

Lines are made by chance on sounds that may be tuned on (``players/practice.py``); a network with two hidden layers
learns from what the witnesses say of them where the line sounds and where it begins (cross entropy, Adam: D. Kingma and
J. Ba, "Adam: a method for stochastic optimization", 2015). How far a note can be trusted is then learned from lines it
has not heard, half of them on sounds it does not know (``players/cast.py``); ``--trust-of WEIGHTS`` does only that.
About an hour on two cores. The file goes to ``src/gavotte/recording/models/ear.npz``; what the ear is worth is measured
by ``benchmarks/draft.py``.
"""

from __future__ import annotations

import argparse
import sys
from concurrent.futures import ProcessPoolExecutor
from itertools import pairwise
from pathlib import Path

import mir_eval
import numpy as np
from numpy.typing import NDArray

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.players.cast import TRUST_LEARNED_ON, records
from benchmarks.players.lines import Take
from benchmarks.players.made import bent
from benchmarks.players.practice import practice

from gavotte.recording import ear, line
from gavotte.recording.draft import Heard, Player, listened, player_of, testimony_of
from gavotte.recording.path import best_path
from gavotte.solo.instruments import instrument_named
from gavotte.steps import whole

Floats = NDArray[np.float32]
_HIDDEN = (80, 40)
_ROUNDS, _BATCH, _RATE = 6, 4096, 2e-3
_EASY = 0.35
"""The share of the moments in which nothing sounds or begins that is learned from; each then counts for more."""

_EVIDENCE, _NOTE_HIDDEN, _NOTE_ROUNDS = 16, 10, 3000


def lesson(number: int) -> tuple[Floats, Floats, Floats]:
    """What is seen in a line, what is true of it (sounding, beginning), and how much each row counts."""
    line_heard = practice(number)
    instrument = instrument_named(line_heard.instrument)
    assert instrument is not None
    player = player_of(instrument)
    listening = whole(listened(line_heard.sound, player))
    mask, features = ear.candidates_and_features(testimony_of(listening, player, slice(0, len(listening.times))))
    truth = _truth(line_heard.take, line_heard.spans, listening.in_recording, player)[mask]
    matters = truth.max(axis=1) > 0
    kept = matters | (np.random.default_rng(number).random(len(truth)) < _EASY)
    counts = np.where(matters, 1, 1 / _EASY).astype(np.float32)
    return features[kept].astype(np.float16), truth[kept], counts[kept]


def _truth(take: Take, spans: NDArray[np.float64], times: NDArray[np.float64], player: Player) -> Floats:
    """Whether the line sounds, and begins, at each frame and pitch; shape (frames, pitches, 2)."""
    truth = np.zeros((len(times), player.highest - player.lowest + 1, 2), np.float32)
    for note, (start, end) in zip(take.notes, spans, strict=True):
        frames = np.flatnonzero((times >= start) & (times < end))
        since = (times[frames] - start) * (note.end - note.start) / (end - start)
        pitches = note.midi + np.round(bent(note, since)).astype(int) - player.lowest
        inside = (pitches >= 0) & (pitches < truth.shape[1])
        truth[frames[inside], pitches[inside], 0] = 1
        middle, row = float(np.interp(start, times, np.arange(len(times)))), note.midi - player.lowest
        for frame in range(max(0, int(middle) - 1), min(len(times), int(middle) + 3)):
            if 0 <= row < truth.shape[1]:
                near = np.clip(1.25 - abs(frame - middle) / 1.6, 0, 1)
                truth[frame, row, 1] = max(truth[frame, row, 1], near)
    return truth


class Adam:
    """Weights by name and how they are moved down their gradients."""

    def __init__(self, weights: dict[str, Floats]) -> None:
        self.weights = weights
        self._means = {name: np.zeros_like(values) for name, values in weights.items()}
        self._squares = {name: np.zeros_like(values) for name, values in weights.items()}
        self._steps = 0

    def step(self, gradients: dict[str, Floats], rate: float, decay: float) -> None:
        """Move every weight a step; ``decay`` draws the matrices towards nothing."""
        self._steps += 1
        for name, gradient in gradients.items():
            self._means[name] += 0.1 * (gradient - self._means[name])
            self._squares[name] += 0.001 * (gradient**2 - self._squares[name])
            mean = self._means[name] / (1 - 0.9**self._steps)
            square = self._squares[name] / (1 - 0.999**self._steps)
            shrink = decay * self.weights[name] if self.weights[name].ndim > 1 else 0
            self.weights[name] -= (rate * (mean / (np.sqrt(square) + 1e-8) + shrink)).astype(np.float32)


def trained(features: Floats, truth: Floats, counts: Floats) -> dict[str, Floats]:
    """The ear's weights."""
    chance = np.random.default_rng(1)
    some = features[::7].astype(np.float32)
    mean, spread = some.mean(axis=0), some.std(axis=0) + 1e-3
    sizes = (features.shape[1], *_HIDDEN, 2)
    weights: dict[str, Floats] = {}
    for layer, (above, below) in enumerate(pairwise(sizes), 1):
        scale = np.sqrt(2 / above) if layer < 3 else 0.1
        weights[f"w{layer}"] = chance.normal(0, scale, (above, below)).astype(np.float32)
        weights[f"b{layer}"] = np.zeros(below, np.float32)
    weights["b3"][:] = (-2, -4)
    adam = Adam(weights)
    for turn in range(_ROUNDS):
        rate = _RATE * 0.5 * (1 + np.cos(np.pi * turn / _ROUNDS)) + 2e-5
        order = chance.permutation(len(features))
        for first in range(0, len(order) - _BATCH, _BATCH):
            rows = order[first : first + _BATCH]
            seen = (features[rows].astype(np.float32) - mean) / spread
            # In most batches a few witnesses are silent: no single one is relied on.
            seen *= (chance.random((len(rows), 1)) < 0.7) | (chance.random((1, seen.shape[1])) > 0.04)
            adam.step(_gradients(weights, seen, truth[rows], counts[rows]), rate, 1e-4)
        print(f"round {turn + 1} of {_ROUNDS}", flush=True)
    return {**weights, "mean": mean, "spread": spread}


def _gradients(weights: dict[str, Floats], seen: Floats, truth: Floats, counts: Floats) -> dict[str, Floats]:
    first = np.maximum(0, seen @ weights["w1"] + weights["b1"])
    second = np.maximum(0, first @ weights["w2"] + weights["b2"])
    said = 1 / (1 + np.exp(-np.clip(second @ weights["w3"] + weights["b3"], -15, 15)))
    error = (said - truth) * counts[:, None] / len(seen)
    error[:, 1] *= 2
    to_second = (error @ weights["w3"].T) * (second > 0)
    to_first = (to_second @ weights["w2"].T) * (first > 0)
    return {
        "w3": second.T @ error, "b3": error.sum(axis=0),
        "w2": first.T @ to_second, "b2": to_second.sum(axis=0),
        "w1": seen.T @ to_first, "b1": to_first.sum(axis=0),
    }  # fmt: skip


def notes_heard(job: tuple[int, int, Path]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """What speaks for each note of a singer's drafts, and whether it is right."""
    index, tempo, weights = job
    ear.FILE = weights
    singer = TRUST_LEARNED_ON[index]
    found, right = [], []
    for record in records(singer, tempo, 1000 + 37 * index + tempo):
        player = player_of(record.take.solo.instrument)
        listening = whole(listened(record.sound, player))
        heard = Heard(listening.in_recording, *whole(listening.heard(player)), player.lowest)
        path = whole(best_path(heard.sounds, heard.begins))
        features = line.evidence_of(path, heard, listening.lead, listening.cents)
        notes = line.notes_of(path, heard, listening.lead, listening.cents)
        pitches = np.array([note.midi for note in record.take.notes])
        pairs = mir_eval.transcription.match_notes(
            record.spans, mir_eval.util.midi_to_hz(pitches),
            np.array([[note.start, max(note.end, note.start + 0.01)] for note in notes]),
            mir_eval.util.midi_to_hz(np.array([note.midi for note in notes])),
            onset_tolerance=0.05, offset_ratio=None,
        )  # fmt: skip
        is_right = np.zeros(len(notes))
        is_right[[heard_index for _, heard_index in pairs]] = 1
        found.append(features)
        right.append(is_right)
    return np.concatenate(found), np.concatenate(right)


def trust(features: NDArray[np.float64], right: NDArray[np.float64]) -> dict[str, Floats]:
    """The weights that say how far a note can be trusted."""
    chance = np.random.default_rng(0)
    mean, spread = features.mean(axis=0), features.std(axis=0) + 1e-6
    seen = ((features - mean) / spread).astype(np.float32)
    weights = {
        "w1": chance.normal(0, 0.3, (seen.shape[1], _NOTE_HIDDEN)).astype(np.float32),
        "b1": np.zeros(_NOTE_HIDDEN, np.float32),
        "w2": chance.normal(0, 0.3, (_NOTE_HIDDEN, 1)).astype(np.float32),
        "b2": np.zeros(1, np.float32),
    }
    adam = Adam(weights)
    for turn in range(_NOTE_ROUNDS):
        rows = chance.integers(0, len(seen), 1024)
        hidden = np.tanh(seen[rows] @ weights["w1"] + weights["b1"])
        said = 1 / (1 + np.exp(-(hidden @ weights["w2"] + weights["b2"])))
        error = ((said - right[rows, None]) / len(rows)).astype(np.float32)
        to_hidden = (error @ weights["w2"].T) * (1 - hidden**2)
        gradients = {
            "w2": hidden.T @ error, "b2": error.sum(axis=0),
            "w1": seen[rows].T @ to_hidden, "b1": to_hidden.sum(axis=0),
        }  # fmt: skip
        for name in ("w1", "w2"):
            gradients[name] = gradients[name] + 1e-3 * weights[name]
        adam.step(gradients, 0.01 * (1 - turn / _NOTE_ROUNDS) + 1e-4, 0.0)
    found = {f"note_{name}": values for name, values in weights.items()}
    return {**found, "note_mean": mean.astype(np.float32), "note_spread": spread.astype(np.float32)}


def main() -> None:
    """Train, and write the weights."""
    parser = argparse.ArgumentParser()
    parser.add_argument("out", type=Path)
    parser.add_argument("--lines", type=int, default=700)
    parser.add_argument("--trust-of", type=Path, help="weights of which only the trust is learned anew")
    options = parser.parse_args()
    with ProcessPoolExecutor() as pool:
        if options.trust_of is None:
            lessons = list(pool.map(lesson, range(options.lines), chunksize=4))
            weights = trained(*(np.concatenate(part) for part in zip(*lessons, strict=True)))
        else:
            weights = dict(np.load(options.trust_of))
        np.savez_compressed(options.out, **(trust(np.zeros((2, _EVIDENCE)), np.zeros(2)) | weights))
        jobs = [(index, tempo, options.out) for index in range(len(TRUST_LEARNED_ON)) for tempo in (112, 216)]
        notes = list(pool.map(notes_heard, jobs))
    weights |= trust(*(np.concatenate(part) for part in zip(*notes, strict=True)))
    np.savez_compressed(options.out, **{name: values.astype(np.float32) for name, values in weights.items()})


if __name__ == "__main__":
    main()
