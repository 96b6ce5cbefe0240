"""How well takes are judged, on takes rendered with known mistakes: .venv/bin/python benchmarks/takes.py [--tuned]

Invented lines of sixteen bars, played cleanly, unevenly, rushed, with wrong, missed and added notes, stopped half-way,
and badly in every way, at 60 to 260 quarter notes a minute, in a room with hiss; alone, and with the band bleeding into
the microphone 10 dB below. Sounds are those of ``players/cast.py``, one part to tune on, the other to report on. For
each verdict the share of those passed that are true (precision) and of the true ones that are found (recall); the error
of an onset is that of the heard moment after the median of the take, its latency, is taken off.
"""

from __future__ import annotations

import argparse
import random
import sys
import time
from collections import defaultdict
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.players import sampled
from benchmarks.players.cast import REPORTED, TUNED_ON, Singer, font_of, sung
from benchmarks.players.lines import PlayedNote, composed, played
from benchmarks.players.stage import mixed, roomy

from gavotte.practice.due import due_line
from gavotte.practice.hearing import hear_take
from gavotte.practice.take import Take, Verdict
from gavotte.solo.document import Solo
from gavotte.sounding.events import Voice
from gavotte.steps import whole

KINDS = ("clean", "uneven", "rushed", "wrong notes", "missed notes", "added notes", "stopped", "everything")
TEMPOS = (60, 84, 112, 144, 176, 208, 240, 260)
BLEED = {"alone": None, "band at -10 dB": -10.0}


@dataclass(frozen=True)
class Played:
    """A flawed take: the notes as they were played, and for each written one what became of it."""

    notes: tuple[PlayedNote, ...]
    verdicts: dict[str, tuple[Verdict, int | None, float | None]]
    added: tuple[tuple[float, int], ...]


def flawed(notes: tuple[PlayedNote, ...], kind: str, seed: int, low: int, high: int) -> Played:
    """What becomes of a take with a kind of mistakes."""
    chance = random.Random(seed)
    every = kind == "everything"
    shares = {
        name: (0.06 if every else 0.12) if every or kind == f"{name} notes" else 0.0
        for name in ("wrong", "missed", "added")
    }
    uneven = 0.022 if kind == "uneven" or every else 0.0
    rush = 0.08 if kind == "rushed" else 0.04 if every else 0.0
    stop = len(notes) * 6 // 10 if kind == "stopped" else len(notes)
    first, last = notes[0].start, notes[-1].end

    def moved(time: float) -> float:
        """Where a moment lies when the tempo rises evenly."""
        part = time - first
        return first + part - rush * part * part / (2 * (last - first))

    out: list[PlayedNote] = []
    verdicts: dict[str, tuple[Verdict, int | None, float | None]] = {}
    added: list[tuple[float, int]] = []
    for index, note in enumerate(notes):
        if index >= stop or chance.random() < shares["missed"]:
            verdicts[note.written.id] = (Verdict.MISSED, None, None)
            if out and note.slurred:
                out[-1] = replace(out[-1], end=min(out[-1].end, moved(note.start)))
            continue
        start = max(0.05, moved(note.start) + max(-0.05, min(0.05, chance.gauss(0, uneven))))
        start = max(start, out[-1].start + 0.05) if out else start
        end = max(start + 0.05, moved(note.end))
        pitch = note.midi
        if chance.random() < shares["wrong"]:
            pitch += chance.choice([away for away in (-3, -2, -1, 1, 2, 3, 4) if low <= pitch + away <= high])
        slurred = note.slurred and bool(out) and out[-1].midi != pitch and out[-1].end >= start - 0.1
        if out:
            out[-1] = replace(out[-1], end=start if slurred else min(out[-1].end, start))
        out.append(replace(note, start=start, end=end, midi=pitch, slurred=slurred))
        right = pitch == note.midi
        verdicts[note.written.id] = (Verdict.RIGHT if right else Verdict.WRONG, pitch, start)
        room = (moved(notes[index + 1].start) if index + 1 < len(notes) else end) - start
        if room > 0.22 and chance.random() < shares["added"] * 2:
            middle = start + 0.5 * room
            extra = pitch + chance.choice([away for away in (-5, -2, -1, 1, 2, 5) if low <= pitch + away <= high])
            out[-1] = replace(out[-1], end=min(out[-1].end, middle), bent=0.0)
            out.append(PlayedNote(middle, start + 0.95 * room, extra, 0.8, False, note.written))
            added.append((middle, extra))
    return Played(tuple(out), verdicts, tuple(added))


@dataclass(frozen=True)
class Outcome:
    """What was said of a take and what is true."""

    singer: str
    kind: str
    tempo: int
    bleed: str
    take: Take
    truth: Played
    spent: float
    seconds: float


def rendered(singer: Singer, kind: str, tempo: int, seed: int) -> Iterator[tuple[str, Solo, Played, NDArray[np.int16]]]:
    """A flawed take in each surrounding."""
    solo = composed(singer.instrument, tempo, seed, bends=singer.instrument not in ("Bass", "Vibraphone"))
    take = played(solo, seed + 1)
    low, high = min(n.midi for n in take.notes), max(n.midi for n in take.notes)
    truth = flawed(take.notes, kind, seed + 3, low, high)
    line = sung(singer, truth.notes, take.seconds, seed)
    chance = random.Random(seed + 4)
    without = (Voice.BASS,) if singer.instrument == "Bass" else ()
    band = roomy(sampled.band(take.band, font_of(singer), take.seconds, without), 0.6, 0.3, seed + 1)
    line = roomy(line, chance.uniform(0.2, 0.8), chance.uniform(0.05, 0.3), seed)
    hiss = chance.uniform(-60, -40)
    for name, level in BLEED.items():
        yield name, solo, truth, mixed(line, None if level is None else band, level or 0.0, 0.0, hiss, seed)


def outcomes(job: tuple[Singer, str, int, int]) -> list[Outcome]:
    """A take judged in each surrounding."""
    singer, kind, tempo, seed = job
    found = []
    for bleed, solo, truth, sound in rendered(*job):
        begun = time.perf_counter()
        # Every other take is to a click whose tempo is known.
        take = whole(hear_take(sound, due_line(solo), float(tempo) if seed % 2 else None))
        spent = time.perf_counter() - begun
        found.append(Outcome(singer.name, kind, tempo, bleed, take, truth, spent, len(sound) / 44_100))
    return found


def jobs_of(cast: tuple[Singer, ...], seed: int) -> list[tuple[Singer, str, int, int]]:
    """Every kind of take by every singer, at tempos that go round."""
    return [
        (singer, kind, TEMPOS[(3 * number + index) % len(TEMPOS)], seed + 97 * index + 11 * number)
        for index, singer in enumerate(cast)
        for number, kind in enumerate(KINDS)
    ]


def onset_errors(outcome: Outcome) -> NDArray[np.float64]:
    """Seconds from each rightly heard note to when it began, the take's median taken off."""
    pairs = [
        (note.seconds, outcome.truth.verdicts[note.note][2])
        for note in outcome.take.notes
        if note.seconds is not None and outcome.truth.verdicts[note.note][2] is not None
    ]
    away = np.array([heard - true for heard, true in pairs if heard is not None and true is not None])
    return np.abs(away - np.median(away)) if len(away) else away


def tally(found: list[Outcome]) -> dict[Verdict, tuple[float, float]]:
    """Precision and recall of each verdict."""
    said, true, both = (defaultdict(int) for _ in range(3))
    for outcome in found:
        for note in outcome.take.notes:
            verdict, pitch, _ = outcome.truth.verdicts[note.note]
            said[note.verdict] += 1
            true[verdict] += 1
            # A wrong note counts where the pitch that was heard is the one that was played.
            both[verdict] += note.verdict is verdict and (verdict is not Verdict.WRONG or note.heard == pitch)
    return {v: (both[v] / max(1, said[v]), both[v] / max(1, true[v])) for v in Verdict}


def added_tally(found: list[Outcome]) -> tuple[float, float]:
    """Precision and recall of the added notes."""
    said = sum(len(outcome.take.added) for outcome in found)
    true = sum(len(outcome.truth.added) for outcome in found)
    both = 0
    for outcome in found:
        left = list(outcome.take.added)
        for seconds, midi in outcome.truth.added:
            hit = next((a for a in left if a.midi == midi and abs(a.seconds - seconds) < 0.08), None)
            if hit is not None:
                left.remove(hit)
                both += 1
    return both / max(1, said), both / max(1, true)


def main() -> None:
    """Print the tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--tuned", action="store_true", help="the sounds that were tuned on")
    parser.add_argument("--few", action="store_true", help="every third singer")
    parser.add_argument("--seed", type=int, default=5_000)
    options = parser.parse_args()
    cast = TUNED_ON if options.tuned else REPORTED
    jobs = jobs_of(cast[::3] if options.few else cast, options.seed)
    with ProcessPoolExecutor() as pool:
        found = [result for results in pool.map(outcomes, jobs) for result in results]
    print(
        f"{len(found)} takes\n\n| | right | wrong | missed | added | onset error, median (90 %), ms |\n"
        "|---|---|---|---|---|---|"
    )

    def row(words: str, some: list[Outcome]) -> None:
        cells = [f"{p:.3f} / {r:.3f}" for p, r in (*tally(some).values(), added_tally(some))]
        errors = np.concatenate([onset_errors(outcome) for outcome in some])
        median, most = (1000 * np.percentile(errors, share) for share in (50, 90))
        print(f"| {words} | " + " | ".join(cells) + f" | {median:.0f} ({most:.0f}) |")

    for bleed in BLEED:
        row(bleed, [outcome for outcome in found if outcome.bleed == bleed])
    for names, of in (
        (KINDS, lambda outcome: outcome.kind),
        (sorted({outcome.singer for outcome in found}), lambda outcome: outcome.singer),
        (TEMPOS, lambda outcome: outcome.tempo),
    ):
        for name in names:
            some = [outcome for outcome in found if of(outcome) == name]
            if some:
                row(str(name), some)
    ratio = sum(outcome.spent for outcome in found) / sum(outcome.seconds for outcome in found)
    print(f"\n{ratio:.3f} seconds for a second of take, several at a time")
    wild = [
        abs(outcome.take.tempo / outcome.tempo - 1) for outcome in found if outcome.kind not in ("rushed", "everything")
    ]
    print(f"tempo off by more than 2 % in {sum(off > 0.02 for off in wild)} of {len(wild)} takes at an even tempo")


if __name__ == "__main__":
    main()
