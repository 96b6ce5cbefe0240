"""From the path to the notes of a line: their beginnings and ends, pitches, bends, and how far each can be trusted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.recording.ear import trusted
from gavotte.recording.lead import VOICED, Lead
from gavotte.recording.path import Stretch, log_odds

Floats = NDArray[np.float32]

_SHORTEST = 0.035
_BEFORE, _AFTER = 2, 3
"""Frames around the first one in which a note's beginning is looked for."""

_HELD, _HELD_SHARE = 6, 0.4
"""Frames, or the share of a note, for which a pitch is held and not only passed."""

_LEAST_BEND, _MOST_BEND, _NEAR_PATH = 0.4, 4.0, 0.8
_OTHERS = 3
_OCTAVE = 12
_WIDE = 9


@dataclass(frozen=True)
class DraftNote:
    """One note of a draft: ``start`` and ``end`` in seconds, its MIDI number, and how likely it is right (0 to 1).

    ``bend`` is how far the pitch rises within the note, in semitones; 0 where it does not. ``others`` are the next
    likeliest MIDI numbers with their shares.
    """

    start: float
    end: float
    midi: int
    confidence: float
    bend: float = 0.0
    others: tuple[tuple[int, float], ...] = ()


@dataclass(frozen=True)
class Heard:
    """What was heard on frames at ``times`` (seconds of the recording): how likely the line ``sounds`` and ``begins``
    at each pitch from ``lowest`` on, shape (frames, pitches).
    """

    times: NDArray[np.float64]
    sounds: Floats
    begins: Floats
    lowest: int


def notes_of(path: Sequence[Stretch], heard: Heard, lead: Lead, cents: float) -> list[DraftNote]:
    """The notes on a path. ``cents``: how far the recording lies above A 440."""
    found = _found(path, heard)
    if not found:
        return []
    trust = trusted(_evidence(found, heard, lead, cents))
    return [
        DraftNote(
            start, end, heard.lowest + pitch, float(share),
            _bend(lead, start, end, heard.lowest + pitch + cents / 100, int(stretch.pitches.max()) - pitch),
            _others(stretch, heard, pitch),
        )
        for (start, end, stretch, pitch), share in zip(found, trust, strict=True)
    ]  # fmt: skip


def evidence_of(path: Sequence[Stretch], heard: Heard, lead: Lead, cents: float) -> NDArray[np.float64]:
    """What speaks for and against each of the notes ``notes_of`` gives, shape (notes, features)."""
    return _evidence(_found(path, heard), heard, lead, cents)


_Found = tuple[float, float, Stretch, int]
"""Seconds at which a note begins and ends, where it lies on the path, and its pitch from the lowest."""


def _evidence(found: Sequence[_Found], heard: Heard, lead: Lead, cents: float) -> NDArray[np.float64]:
    return np.array([_features(found, index, heard, lead, cents) for index in range(len(found))])


def _found(path: Sequence[Stretch], heard: Heard) -> list[_Found]:
    found = []
    for stretch in path:
        pitch = _held_pitch(stretch)
        start, end = _start(stretch, heard, pitch), float(heard.times[min(stretch.last, len(heard.times) - 1)])
        if end - start >= _SHORTEST:
            found.append((start, end, stretch, pitch))
    return found


def _held_pitch(stretch: Stretch) -> int:
    """The first pitch that is held (a scoop only passes its first ones), else the commonest."""
    pitches = stretch.pitches
    for run in np.split(pitches, np.flatnonzero(np.diff(pitches)) + 1):
        if len(run) >= _HELD or len(run) >= _HELD_SHARE * len(pitches):
            return int(run[0])
    values, counts = np.unique(pitches, return_counts=True)
    return int(values[np.argmax(counts)])


def _start(stretch: Stretch, heard: Heard, pitch: int) -> float:
    """When a note begins, between the frames: the middle of what speaks for a beginning."""
    first, after = max(0, stretch.first - _BEFORE), stretch.first + _AFTER
    weights = np.maximum(heard.begins[first:after, pitch], heard.begins[first:after, stretch.pitches[0]])
    return float(weights @ heard.times[first:after] / weights.sum())


def _bend(lead: Lead, start: float, end: float, midi: float, on_path: int) -> float:
    """How far the line rises above a pitch, in semitones to a quarter tone; 0 for less than ``_LEAST_BEND``."""
    frames = lead.between(start + 0.03, end - 0.01)
    pitches = lead.midi[frames][lead.confidence[frames] >= VOICED] - midi
    if len(pitches) < 5:
        return 0.0
    high = float(np.percentile(pitches, 85))
    near = abs(float(np.median(pitches[: max(2, len(pitches) // 4)]))) <= 0.75
    if not _LEAST_BEND <= high <= _MOST_BEND or not (near or on_path > 0):
        return 0.0
    return round(2 * high) / 2 if not on_path or abs(high - on_path) < _NEAR_PATH else float(on_path)


def _others(stretch: Stretch, heard: Heard, pitch: int) -> tuple[tuple[int, float], ...]:
    """The next likeliest pitches of a note, each with its share of all of them."""
    shares = heard.sounds[stretch.first : stretch.last].mean(axis=0)
    shares = shares / max(1e-6, float(shares.sum()))
    order = [int(k) for k in np.argsort(shares)[::-1] if k != pitch][:_OTHERS]
    return tuple((heard.lowest + k, float(shares[k])) for k in order)


def _features(found: Sequence[_Found], index: int, heard: Heard, lead: Lead, cents: float) -> NDArray[np.float64]:
    """What speaks for and against a note, for ``trusted``."""
    give_way()
    start, end, stretch, pitch = found[index]
    frames = slice(stretch.first, max(stretch.first + 1, stretch.last))
    sounds, begins = heard.sounds[frames], heard.begins[frames]
    rows = np.arange(len(sounds))
    on_path = sounds[rows, stretch.pitches[: len(rows)]]
    rest = sounds.copy()
    rest[rows, stretch.pitches[: len(rows)]] = 0
    rest[:, max(0, pitch - 1) : pitch + 2] = 0
    mean_of_rest = rest.mean(axis=0)
    octaves = [mean_of_rest[k] for k in (pitch - _OCTAVE, pitch + _OCTAVE) if 0 <= k < sounds.shape[1]]
    near = slice(max(0, stretch.first - _BEFORE), stretch.first + _AFTER)
    struck = heard.begins[near][:, [pitch, int(stretch.pitches[0])]]
    inside = begins[5:-2]
    voiced = lead.between(start + 0.02, end)
    agrees = (lead.confidence[voiced] >= VOICED) & (
        np.abs(lead.midi[voiced] - cents / 100 - heard.lowest - pitch) < 0.6
    )
    before = abs(found[index - 1][3] - pitch) if index else 0
    after = abs(found[index + 1][3] - pitch) if index + 1 < len(found) else 0
    gap = start - found[index - 1][1] if index else 1.0
    following = found[index + 1][0] - end if index + 1 < len(found) else 1.0

    def odds(value: float) -> float:
        return float(log_odds(np.array([value], np.float32), 7)[0])

    return np.array([
        odds(float(on_path.mean())),
        odds(float(np.percentile(on_path, 20))),
        odds(float(struck.max())),
        odds(float(struck.max(axis=1).sum() / 4)),
        odds(float(mean_of_rest.max())),
        odds(float(max(octaves, default=0.0))),
        np.log(end - start),
        float(agrees.mean()) if len(agrees) else 0.0,
        odds(float(inside.max())) if inside.size else -7.0,
        odds(float(inside[:, pitch].max())) if inside.size else -7.0,
        float(before > _WIDE) + float(after > _WIDE),
        float(before > _WIDE and after > _WIDE),
        min(gap, 0.3),
        min(following, 0.3),
        odds(float(on_path[:4].mean())),
        float(len(np.unique(stretch.pitches)) > 1),
    ])  # fmt: skip
