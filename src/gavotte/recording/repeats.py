"""What comes again with the form: where the band sounds alike in every chorus, the line is likelier elsewhere.

A soloist plays something else each time round, a band the same chords and mostly the same roots. What the note model
hears at the same place of the other choruses is therefore held against a beginning there (an idea used on whole
spectrograms by Z. Rafii and B. Pardo, "REpeating Pattern Extraction Technique", IEEE Transactions on Audio, Speech, and
Language Processing, 2013).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gavotte.recording import note_model

FEWEST = 3
"""From so many choruses on it can be told what comes again."""

_BINS = 6
"""Places in a quarter note that are told apart."""


@dataclass(frozen=True)
class Form:
    """Where each frame lies: its ``chorus`` (from 0, below 0 for none), and its ``place`` there in quarter notes;
    a chorus lasts ``quarters``.
    """

    chorus: NDArray[np.int64]
    place: NDArray[np.float64]
    quarters: float

    @property
    def count(self) -> int:
        """How many choruses there are."""
        return int(self.chorus.max()) + 1 if len(self.chorus) else 0


def held_against(
    notes: NDArray[np.float16], form: Form, lowest: int, highest: int, weight: float
) -> NDArray[np.float64] | None:
    """The log odds that are taken from a beginning, shape (frames, pitches): so much the more the oftener the pitch is
    heard at that place of the other choruses, beside how often it is heard anywhere. None for too few choruses.

    ``notes`` are the note model's activations, shape (frames, 88).
    """
    if form.count < FEWEST:
        return None
    bins = max(1, round(form.quarters * _BINS))
    column = np.clip(np.arange(lowest, highest + 1) - note_model.LOWEST, 0, notes.shape[1] - 1)
    heard = np.zeros((form.count, bins, len(column)), np.float32)
    there = np.zeros((form.count, bins), np.bool_)
    inside = np.flatnonzero(form.chorus >= 0)
    where = np.clip((form.place[inside] * _BINS).astype(np.int64), 0, bins - 1)
    np.maximum.at(heard, (form.chorus[inside], where), notes[inside][:, column].astype(np.float32))
    there[form.chorus[inside], where] = True
    # A band is never quite together: its neighbours count as well.
    wide = np.maximum(heard, np.maximum(np.roll(heard, 1, axis=1), np.roll(heard, -1, axis=1)))
    known = there.sum(axis=0)
    total = (wide * there[..., None]).sum(axis=0)
    usual = total.sum(axis=0) / max(1, int(known.sum()))
    odds = np.zeros((len(form.chorus), len(column)))
    own = wide[form.chorus[inside], where] * there[form.chorus[inside], where][:, None]
    others = (total[where] - own) / np.maximum(1, known[where] - 1)[:, None]
    odds[inside] = -weight * np.where((known[where] >= FEWEST)[:, None], np.maximum(0, others - usual), 0)
    return odds
