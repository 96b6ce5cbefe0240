"""How strongly every pitch sounds, frame by frame: the picture in which a line can be seen.

Each candidate pitch gathers the spectrum at its first eight partials, higher ones counting less (a harmonic sum:
D. Hermes, "Measurement of pitch by subharmonic summation", JASA 83 (1988)). What lies between the partials counts
against it, and what has no odd partials counts little: that keeps the ghosts an octave away faint. The values
are evidence to look at, not probabilities.
"""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_back import give_back
from gavotte.recording.frames import framed
from gavotte.recording.player import RATE, Samples

LOWEST, HIGHEST = 36, 96
"""MIDI numbers of the lowest and highest pitch of the picture, C2 and C7."""

PER_SEMITONE = 5
HOP = 1024
FRAME_SECONDS = HOP / RATE
_WINDOW = 4096
_PADDED = 8192
_CHUNK = 128
_OFTEN = 16
_SEEN = 2000
"""Of so many frames it is found how bright the picture is."""
_PARTIALS = 8
_FADING, _AGAINST = 0.84, 0.35
_ODD_LIMIT = 1.7
"""How many times its odd partials the strength of a pitch may be; a voice that fades like 1/n has 1.66."""

_BRIGHT = 99.95


@dataclass(frozen=True)
class Salience:
    """``values``: uint8, shape (frames, bins); bin 0 is LOWEST, PER_SEMITONE bins to a semitone, frames HOP apart."""

    values: NDArray[np.uint8]

    def pitch_of(self, row: float) -> float:
        """The MIDI number, with fractions, of a place on the bin axis."""
        return LOWEST + row / PER_SEMITONE

    def strongest(self, seconds: float, midi: float, within: float = 1.5) -> float | None:
        """The pitch (MIDI number, to a few cents) that sounds strongest near a place; None where nothing does.

        ``within`` semitones up and down are looked at.
        """
        frame = round(seconds / FRAME_SECONDS)
        if not 0 <= frame < len(self.values):
            return None
        middle = (midi - LOWEST) * PER_SEMITONE
        low = max(0, round(middle - within * PER_SEMITONE))
        high = min(self.values.shape[1], round(middle + within * PER_SEMITONE) + 1)
        row = self.values[frame, low:high].astype(np.float64)
        if len(row) < 3 or row.max() < 20:
            return None
        best = int(np.argmax(row))
        shift = 0.0
        if 0 < best < len(row) - 1:
            a, b, c = row[best - 1 : best + 2]
            bend = a - 2 * b + c
            shift = 0.5 * (a - c) / bend if bend else 0.0
        return self.pitch_of(low + best + shift)


def find_salience(samples: Samples) -> Generator[float, None, Salience]:
    """Go through a recording, yielding the share that is done; returns its salience."""
    window = np.hanning(_WINDOW).astype(np.float32)
    on, between, odd = _partial_weights()
    parts = []
    for share, view in framed(samples, HOP, _WINDOW, _CHUNK):
        spectrum = np.sqrt(np.abs(np.fft.rfft(view * window, _PADDED, axis=1)).astype(np.float32))
        gathered = np.minimum(spectrum @ on, _ODD_LIMIT * (spectrum @ odd))
        strength = np.maximum(0, gathered - _AGAINST * (spectrum @ between))
        above = np.maximum(0, strength - np.median(strength, axis=1, keepdims=True))
        # Half as many bytes are enough: a long recording has many frames.
        parts.append(above.astype(np.float16))
        yield 0.9 * share
    frames = sum(map(len, parts))
    seen = np.concatenate([part[:: max(1, frames // _SEEN)] for part in parts])
    bright = float(np.percentile(seen.astype(np.float32), _BRIGHT)) or 1.0
    values = np.empty((frames, parts[0].shape[1]), np.uint8)
    first = 0
    while parts:
        part = parts.pop(0)
        values[first : first + len(part)] = np.minimum(250 / bright * part.astype(np.float32), 255)
        first += len(part)
        if len(parts) % _OFTEN == 0:
            yield 0.9 + 0.1 * first / frames
    give_back()
    yield 1.0
    return Salience(values)


def _partial_weights() -> tuple[NDArray[np.float32], NDArray[np.float32], NDArray[np.float32]]:
    """Matrices (spectrum bins, pitch bins): all partials of a pitch, what lies between them, and the odd partials."""
    pitches = LOWEST + np.arange((HIGHEST - LOWEST) * PER_SEMITONE + 1) / PER_SEMITONE
    hertz = 440 * 2 ** ((pitches - 69) / 12)
    size = _PADDED // 2 + 1
    matrices = []
    for offset, step in ((0.0, 1), (0.5, 1), (0.0, 2)):
        matrix = np.zeros((size, len(hertz)), np.float32)
        for partial in range(1, _PARTIALS + 1, step):
            place = (partial + offset) * hertz * _PADDED / RATE
            bins = np.floor(place).astype(np.int64)
            share = place - bins
            inside = np.flatnonzero(bins + 1 < size)
            weight = _FADING ** (partial - 1)
            np.add.at(matrix, (bins[inside], inside), weight * (1 - share[inside]))
            np.add.at(matrix, (bins[inside] + 1, inside), weight * share[inside])
        matrices.append(matrix)
    return matrices[0], matrices[1], matrices[2]
