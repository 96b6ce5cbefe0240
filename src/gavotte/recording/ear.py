"""The trained ear: how likely the line sounds, and begins a note, at each pitch and moment.

A small network with one hidden layer pair looks at a pitch at a moment through what three witnesses say of it and of
what lies around: the note model, the lead line, and the levels of the pitch's partials (their timbre and how they
rise). It was trained on lines played by made, sampled and recorded instruments, alone and with a band, whose notes are
known (``benchmarks/ear.py``).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.recording import note_model
from gavotte.recording.lead import VOICED

Floats = NDArray[np.float32]

MARGIN = 16
"""Frames on either side of a stretch that are looked at as well."""

FILE = Path(__file__).parent / "models" / "ear.npz"
_SEEN, _FITS, _STRONGEST = 0.08, 0.1, 4
_LEAD_WIDTH = 0.45
_USUAL = 12
_UNLIKELY = 1e-4


@dataclass(frozen=True)
class Testimony:
    """What the witnesses say of some frames: ``notes`` and ``onsets`` of the note model (frames, 88), the lead line's
    pitch and confidence (frames), its usual pitch around (frames), the partials' ``levels`` (frames, pitches, partials)
    from ``lowest`` on.

    ``struck``: 1 for an instrument whose notes are struck or plucked, 0 for a blown or bowed one, 0.5 for one that may
    be either.
    """

    notes: Floats
    onsets: Floats
    pitch: Floats
    confidence: Floats
    around: Floats
    levels: Floats
    lowest: int
    struck: float


def _shifted(values: Floats, by: int) -> Floats:
    """The values ``by`` frames later, the last one held."""
    index = np.clip(np.arange(len(values)) + by, 0, len(values) - 1)
    return values[index]


def _widest(values: Floats, reach: int) -> Floats:
    """The greatest value within ``reach`` frames."""
    out = values
    for by in range(1, reach + 1):
        out = np.maximum(out, np.maximum(_shifted(values, by), _shifted(values, -by)))
    return out


def _at(values: Floats, first: int, width: int, by: int) -> Floats:
    """The columns of pitches ``by`` semitones above, nothing where the model knows none."""
    columns = np.arange(first + by, first + by + width)
    known = (columns >= 0) & (columns < values.shape[1])
    return np.where(known, values[:, np.clip(columns, 0, values.shape[1] - 1)], 0)


def candidates_and_features(testimony: Testimony) -> tuple[NDArray[np.bool_], Floats]:
    """Which (frame, pitch) are worth a look, and what is seen there, shape (those, features)."""
    t = testimony
    width = t.levels.shape[1]
    first = t.lowest - note_model.LOWEST
    notes, onsets = (_at(values, first, width, 0) for values in (t.notes, t.onsets))
    pitches = np.arange(t.lowest, t.lowest + width, dtype=np.float32)
    away = t.pitch[:, None] - pitches
    voiced = np.where(t.confidence >= VOICED, t.confidence, 0).astype(np.float32)
    fit = (np.exp(-0.5 * (away / _LEAD_WIDTH) ** 2) * voiced[:, None]).astype(np.float32)
    fading = 0.85 ** np.arange(t.levels.shape[2], dtype=np.float32)
    power = np.sqrt((10 ** (t.levels / 10) * fading).sum(axis=2))
    loud: Floats = (20 * np.log10(power + 1e-6)).astype(np.float32)
    top = loud.max(axis=1)
    usual = _widest(top[:, None], _USUAL)
    rank = loud - top[:, None]
    strongest = np.partition(rank, -_STRONGEST, axis=1)[:, -_STRONGEST][:, None]
    mask = (_widest(notes, 3) > _SEEN) | (_widest(fit, 3) > _FITS) | (rank >= strongest)
    where = np.nonzero(mask)

    columns: list[Floats] = []

    def see(values: Floats) -> None:
        give_way()
        columns.append(values[where] if values.shape[1] == width else np.broadcast_to(values, mask.shape)[where])

    for by in (-4, -2, 0, 2, 4, 8):
        see(_shifted(notes, by))
    for by in range(-4, 5):
        see(_shifted(onsets, by))
    for by in (-24, -12, -2, -1, 1, 2, 12, 19):
        see(_at(t.notes, first, width, by))
    near = _widest(t.onsets, 2)
    for by in (-12, -1, 1, 12):
        see(_at(near, first, width, by))
    best = notes.max(axis=1, keepdims=True)
    for by in (-6, 0, 6):
        see(_shifted(best, by))
    see(_widest(onsets, 2).max(axis=1, keepdims=True))
    for by in (-6, -3, 0, 3, 6):
        see(_shifted(fit, by))
    trust = t.confidence[:, None]
    for by in (-4, 0, 4):
        see(_shifted(trust, by))
    bounded: Floats = (np.clip(away, -3, 3) / 3).astype(np.float32)
    for by in (-4, 0, 4):
        see(_shifted(bounded, by))
    see(np.clip(np.abs(_shifted(t.pitch, 3) - _shifted(t.pitch, -3)), 0, 3)[:, None])
    relative: Floats = np.clip((loud - usual) / 20, -3, 1).astype(np.float32)
    for by in (-8, -4, -2, 0, 2, 4, 8):
        see(_shifted(relative, by))
    see((rank / 20).clip(-3, 0))
    shape = ((t.levels - loud[:, :, None]) / 20).clip(-3, 1)
    rise = ((_shifted(t.levels, 3) - _shifted(t.levels, -3)) / 20).clip(-2, 2)
    for partial in range(t.levels.shape[2]):
        see(shape[:, :, partial])
    for partial in range(6):
        see(rise[:, :, partial])
    for by in (-12, 12):
        index = np.clip(np.arange(width) + by, 0, width - 1)
        see(np.clip((loud[:, index] - loud) / 20, -2, 2))
    flux = np.maximum(0, _shifted(loud, 1) - _shifted(loud, -1)).mean(axis=1, keepdims=True) / 10
    for by in (-3, -1, 1, 3):
        see(_shifted(flux, by))
    see(np.clip((pitches - t.around[:, None]) / 12, -2, 2))
    see(np.broadcast_to((pitches - t.lowest) / width, mask.shape))
    see(np.broadcast_to(pitches / 60 - 1, mask.shape))
    see(np.full(mask.shape, t.struck, np.float32))
    return mask, np.stack(columns, axis=1).astype(np.float32)


@lru_cache(maxsize=1)
def _weights() -> dict[str, Floats]:
    with np.load(FILE) as file:
        return {name: file[name].astype(np.float32) for name in file.files}


def judged(features: Floats, weights: dict[str, Floats]) -> Floats:
    """How likely the line sounds and begins, by what is seen; shape (rows, 2)."""
    seen = (features - weights["mean"]) / weights["spread"]
    for layer in ("1", "2"):
        seen = np.maximum(0, seen @ weights[f"w{layer}"] + weights[f"b{layer}"])
    return np.asarray(1 / (1 + np.exp(-np.clip(seen @ weights["w3"] + weights["b3"], -15, 15))), np.float32)


def hear(testimony: Testimony) -> tuple[Floats, Floats]:
    """How likely the line sounds, and begins, at each frame and pitch: two arrays of shape (frames, pitches)."""
    mask, features = candidates_and_features(testimony)
    sounds = np.full(mask.shape, _UNLIKELY, np.float32)
    begins = np.full(mask.shape, _UNLIKELY, np.float32)
    if len(features):
        both = judged(features, _weights())
        sounds[mask], begins[mask] = both[:, 0], both[:, 1]
    return sounds, begins


def trusted(features: NDArray[np.float64]) -> NDArray[np.float64]:
    """How likely notes are right, by what speaks for and against each (``line.py``), shape (notes, features).

    A network with one hidden layer, fitted by maximum likelihood on notes of lines the ear was not trained on.
    """
    weights = _weights()
    seen = (features - weights["note_mean"]) / weights["note_spread"]
    hidden = np.tanh(seen @ weights["note_w1"] + weights["note_b1"])
    return np.asarray(1 / (1 + np.exp(-np.clip(hidden @ weights["note_w2"] + weights["note_b2"], -15, 15)))[:, 0])
