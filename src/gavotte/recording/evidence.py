"""The doubtful note: how strongly each pitch it could be is sounding, and how far that can be trusted.

A candidate's strength is its salience over the note; the lead line, where it was followed, speaks for one of them,
which above all settles octaves. Shares come from a log-linear model of the two with a weight each, fitted by maximum
likelihood on rendered solos with their notes known (``benchmarks/evidence.py``).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gavotte.recording.lead import VOICED, Lead
from gavotte.recording.salience import FRAME_SECONDS, LOWEST, PER_SEMITONE, Salience

CANDIDATES = (-12, -2, -1, 0, 1, 2, 12)
"""Semitones from the note in question: its neighbours and its octaves."""

WEIGHT = 4.0
LEAD_WEIGHT = 3.0
CERTAIN, LIKELY = 0.9, 0.6
_ATTACK, _RELEASE = 0.025, 0.01
_FLOOR = 2.0


@dataclass(frozen=True)
class Candidate:
    """A pitch a note could be: its MIDI number, how strongly it sounds (0 to 1), and its share of the verdict."""

    midi: int
    strength: float
    share: float


def weigh(
    salience: Salience,
    start: float,
    end: float,
    midi: int,
    cents: float = 0.0,
    *,
    lead: Lead | None = None,
    weight: float = WEIGHT,
    lead_weight: float = LEAD_WEIGHT,
) -> tuple[Candidate, ...]:
    """The pitches around ``midi``, the likeliest first, in the stretch from ``start`` to ``end`` seconds.

    ``cents`` is how far the recording's pitch has to be moved to be in tune. Nothing where the stretch lies outside.
    """
    first = round((start + min(_ATTACK, 0.3 * (end - start))) / FRAME_SECONDS)
    last = max(first + 1, round((end - min(_RELEASE, 0.2 * (end - start))) / FRAME_SECONDS))
    rows = salience.values[max(0, first) : last]
    if not len(rows):
        return ()
    pitches = [midi + step for step in CANDIDATES if 0 <= _bin(midi + step, cents) < salience.values.shape[1]]
    strengths = []
    for pitch in pitches:
        middle = _bin(pitch, cents)
        near = rows[:, max(0, middle - 1) : middle + 2].max(axis=1)
        strengths.append(float(near.mean()))
    logs = weight * np.log(np.array(strengths) + _FLOOR)
    if lead is not None:
        logs += lead_weight * np.array([_followed(lead, start, end, pitch - cents / 100) for pitch in pitches])
    shares = np.exp(logs - logs.max())
    shares /= shares.sum()
    found = [
        Candidate(pitch, strength / 255, float(share))
        for pitch, strength, share in zip(pitches, strengths, shares, strict=True)
    ]
    return tuple(sorted(found, key=lambda candidate: -candidate.share))


def _followed(lead: Lead, start: float, end: float, midi: float) -> float:
    """The share of a stretch in which the lead line lies at a pitch."""
    frames = lead.between(start + min(_ATTACK, 0.3 * (end - start)), end)
    if not len(lead.midi[frames]):
        return 0.0
    there = (lead.confidence[frames] >= VOICED) & (np.abs(lead.midi[frames] - midi) < 0.5)
    return float(there.mean())


def strongest_pitch(salience: Salience, lead: Lead | None, start: float, end: float, cents: float = 0.0) -> int | None:
    """The MIDI number that sounds strongest in a stretch of seconds: the lead line's, else the salience's.

    None where nothing sounds. ``cents`` is as for ``weigh``.
    """
    if lead is not None:
        frames = lead.between(start, end)
        voiced = lead.midi[frames][lead.confidence[frames] >= VOICED]
        if len(voiced) * 2 > len(lead.midi[frames]):
            return round(float(np.median(voiced)) + cents / 100)
    first, last = round(start / FRAME_SECONDS), round(end / FRAME_SECONDS)
    rows = salience.values[max(0, first) : max(first + 1, last)]
    if not rows.size or not rows.any():
        return None
    return round(float(salience.pitch_of(int(np.argmax(rows.mean(axis=0))))) + cents / 100)


def _bin(midi: int, cents: float) -> int:
    return round((midi - cents / 100 - LOWEST) * PER_SEMITONE)
