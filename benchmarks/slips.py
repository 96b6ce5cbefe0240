"""Suspected slips: how many are found among notes moved on purpose, and how many false alarms there are.

``python benchmarks/slips.py`` measures on the demo's solos. ``python benchmarks/slips.py --fit passages.json`` fits how
much each thing surprises (``SURPRISE`` in ``labelling/slips.py``) on the lines of a passage file, whose labels it does
not look at, and prints the amounts: logistic regression that is held near the amounts in use.
"""

from __future__ import annotations

import random
import sys
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np
from scipy.optimize import minimize

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import Labelled, labelled
from gavotte.labelling.search import decide
from gavotte.labelling.slips import SURPRISE, Remedy, features, suspected_slips
from gavotte.solo.document import Solo
from gavotte.solo.edits import with_notes_moved
from gavotte.theory.pitch import spell

REACH = 4
HOLD = 3.0
"""How strongly the fit is held near the amounts in use."""
NAMES = sorted(SURPRISE)


def is_nondiatonic(found: Labelled, i: int) -> bool:
    """Whether a note lies outside the key's scale and the chord, and is no blue note of a blues."""
    note = found.frame.notes[i]
    region = found.frame.span_of(note).key
    at_home = region.key.pitch_classes
    blue = region.blues and (note.pitch - region.key.tonic.pitch_class) % 12 in (3, 6, 10)
    return not note.is_tone and note.pitch % 12 not in at_home and not blue


def moved_notes(solos: Sequence[Solo], number: int, seed: int) -> list[tuple[int, Labelled, int, int]]:
    """Solos (by index) with one note moved by a semitone so that it is nondiatonic, the note's index, and the move."""
    rng = random.Random(seed)
    weights = [len(solo.notes) for solo in solos]
    made: list[tuple[int, Labelled, int, int]] = []
    while len(made) < number:
        which = rng.choices(range(len(solos)), weights)[0]
        solo = solos[which]
        i, by = rng.randrange(1, len(solo.notes) - 1), rng.choice([-1, 1])
        if solo.notes[i].grace:
            continue
        found = labelled(with_notes_moved(solo, [solo.notes[i].id], by))
        if is_nondiatonic(found, i):
            made.append((which, found, i, by))
    return made


def measure(number: int = 500, seed: int = 7) -> None:
    """Print what is found, and the false alarms on the untouched lines."""
    solos = [make() for make in DEMO_SOLOS]
    alarms = [suspected_slips(labelled(solo)) for solo in solos]
    notes, false = sum(len(solo.notes) for solo in solos), sum(map(len, alarms))
    print(f"false alarms: {false} in {notes} notes, one in {notes / max(1, false):.0f}")
    hit = right = 0
    for _, found, i, by in moved_notes(solos, number, seed):
        note = found.solo.notes[i]
        mine = [slip for slip in suspected_slips(found) if slip.note == note.id]
        hit += bool(mine)
        right += any(s.change is Remedy.PITCH and s.pitch and s.pitch.midi == note.pitch.midi - by for s in mine)
    print(f"found: {hit} of {number} ({100 * hit / number:.0f} %), with the right pitch {right}")


def _difference(found: Labelled, i: int, by: int) -> np.ndarray:
    """What moving a note takes away, counted by feature."""
    note = found.frame.notes[i].note
    other, first, last = found.frame.with_note(i, replace(note, pitch=spell(note.pitch.midi + by, 0)), REACH)
    counts: Counter[str] = Counter()
    for k, verdict in zip(range(first, last), decide(other, found.frame.school, first, last), strict=True):
        counts.subtract(features(other, k, verdict.explanation.function, verdict.explanation.device))
        counts.update(features(found.frame, k, found.ruled[k].function, found.ruled[k].device))
    for frame, sign in ((found.frame, 1), (other, -1)):
        if last < len(frame.notes) and not frame.notes[last].rest_before:
            counts[f"move {min(13, abs(frame.notes[last].pitch - frame.notes[last - 1].pitch))}"] += sign
    return np.array([counts[name] for name in NAMES], dtype=float)


def fit(path: Path, number: int = 1000) -> None:
    """Print the amounts that tell moved notes from others best on the lines of a passage file."""
    solos = [passage.solo for passage in read_passages(path.read_text(encoding="utf-8"))]
    wrong = [_difference(found, i, -by) for _, found, i, by in moved_notes(solos, number, 3)]
    sound = []
    for solo in solos:
        found = labelled(solo)
        added = [n.index for n in found.frame.notes if not n.is_tone and not n.note.grace]
        sound += [_difference(found, i, by) for i in added for by in (-1, 1)]
    rows = np.array([*wrong, *sound])
    truth = np.array([1.0] * len(wrong) + [-1.0] * len(sound))
    weight = np.where(truth > 0, 1.0, len(wrong) / len(sound))
    start = np.array([SURPRISE[name] for name in NAMES])

    def loss(amounts: np.ndarray) -> float:
        margin = truth * (rows @ amounts[:-1] + amounts[-1])
        return float(np.sum(weight * np.logaddexp(0, -margin)) + HOLD * np.sum((amounts[:-1] - start) ** 2))

    best = minimize(loss, np.append(start, -3.0), method="L-BFGS-B").x
    for name, amount in zip(NAMES, best[:-1], strict=True):
        print(f"{name:22} {amount:5.1f}")


if __name__ == "__main__":
    if "--fit" in sys.argv:
        fit(Path(sys.argv[-1]))
    else:
        measure()
