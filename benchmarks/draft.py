"""How well a draft finds the notes and writes them: .venv/bin/python benchmarks/draft.py [--tuned] [--few] [--seed N]

Lines are composed by chance over changes (eighths, triplets, sixteenths at slow tempos, rests, bends up and back) and
played as people play (``players/lines.py``): unevenly, a little behind the beat, swung less the faster, slurred,
scooped. They sound on sampled and recorded instruments in a room, alone, under the band at -6 dB and as loud as the
soloist, and as an old record (band at -6 dB, 35 cents sharp, wow, noise, narrow). The instruments reported on are
others than those tuned on (``--tuned``); under a bass solo the band plays without its bass. Needs Debian's fluid-
soundfont-gm, and npm for the recorded notes.

Onsets: F1 within 50 ms and 50 cents, by mir_eval. On the page: the share of the written notes that come back with their
onset, length and pitch, by exact beats and by taps that spread by 20 ms and were settled.
"""

from __future__ import annotations

import argparse
import sys
import time
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import mir_eval
import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.players.cast import REPORTED, SITUATIONS, TUNED_ON, Record, Singer, records

from gavotte.recording.beat_map import Alignment, BeatMap
from gavotte.recording.beats import FRAME_SECONDS, onset_envelope
from gavotte.recording.draft import find_draft, player_of
from gavotte.recording.line import DraftNote
from gavotte.recording.player import RATE
from gavotte.recording.taps import settled
from gavotte.solo.bars import BarGrid
from gavotte.steps import whole
from gavotte.writing.drafting import SURE, proposed

WISHED = {
    "alone": (0.96, 0.85), "band at -6 dB": (0.94, 0.80), "band as loud": (0.90, 0.72), "old record": (0.92, 0.75),
}  # fmt: skip
_TEMPOS = (128, 200)


@dataclass(frozen=True)
class Outcome:
    """What became of a record: precision, recall and F1 of its onsets; shares right on the page by exact beats and by
    taps; and of each note how sure it was and whether it was right.
    """

    singer: str
    situation: str
    onsets: tuple[float, float, float]
    page: tuple[float, float]
    notes: tuple[tuple[float, bool], ...]
    seconds: float
    heard: float


def outcome(record: Record) -> Outcome:
    """Draft a record and compare."""
    begun = time.perf_counter()
    draft = whole(find_draft(record.sound, player_of(record.take.solo.instrument)))
    spent = time.perf_counter() - begun
    hertz = mir_eval.util.midi_to_hz(np.array([note.midi for note in record.take.notes]))
    found = np.array([[note.start, max(note.end, note.start + 0.01)] for note in draft.notes]).reshape(-1, 2)
    found_hertz = mir_eval.util.midi_to_hz(np.array([note.midi for note in draft.notes]))
    how = {"onset_tolerance": 0.05, "offset_ratio": None}
    onsets = mir_eval.transcription.precision_recall_f1_overlap(record.spans, hertz, found, found_hertz, **how)[:3]
    pairs = mir_eval.transcription.match_notes(record.spans, hertz, found, found_hertz, **how)
    right = {index for _, index in pairs}
    settled_taps, _ = settled(record.taps, whole(onset_envelope(record.sound)), FRAME_SECONDS)
    return Outcome(
        record.singer.name,
        record.situation,
        onsets,
        (on_page(record, draft.notes, record.beats), on_page(record, draft.notes, settled_taps)),
        tuple((note.confidence, index in right) for index, note in enumerate(draft.notes)),
        spent,
        len(record.sound) / RATE,
    )


def on_page(record: Record, notes: tuple[DraftNote, ...], beats: tuple[float, ...]) -> float:
    """The share of the written notes that come back as they were."""
    solo = record.take.solo
    empty = replace(solo, notes=(), form_end=solo.end)
    proposal = proposed(empty, notes, Alignment(BeatMap(beats), BarGrid(empty))).proposal
    found = {(note.onset, note.duration, note.pitch.midi) for phrase in proposal for note in phrase.notes}
    return sum((note.onset, note.duration, note.pitch.midi) in found for note in solo.notes) / len(solo.notes)


def outcomes(job: tuple[Singer, int, int]) -> list[Outcome]:
    """A singer's line in every situation."""
    return [outcome(record) for record in records(*job)]


def main() -> None:
    """Print the tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--tuned", action="store_true", help="the part that was tuned on")
    parser.add_argument("--few", action="store_true", help="one tempo only")
    parser.add_argument("--seed", type=int, default=77_000)
    options = parser.parse_args()
    cast = TUNED_ON if options.tuned else REPORTED
    tempos = _TEMPOS[:1] if options.few else _TEMPOS
    jobs = [(singer, tempo, options.seed + 53 * index + tempo) for index, singer in enumerate(cast) for tempo in tempos]
    with ProcessPoolExecutor() as pool:
        found = [result for results in pool.map(outcomes, jobs) for result in results]
    _print_onsets(found)
    _print_page(found)
    _print_doubt(found)
    ratio = sum(result.seconds for result in found) / sum(result.heard for result in found)
    print(f"\n{ratio:.3f} seconds for a second of recording, several at a time; three minutes take {180 * ratio:.0f} s")


def _print_onsets(found: list[Outcome]) -> None:
    print("F1 of the onsets (precision, recall)\n\n| | " + " | ".join(SITUATIONS) + " |")
    print("|---|" + "---|" * len(SITUATIONS))
    rows: dict[str, dict[str, list[tuple[float, float, float]]]] = defaultdict(lambda: defaultdict(list))
    for result in found:
        for name in (result.singer, "all"):
            rows[name][result.situation].append(result.onsets)
    for name in (*sorted(rows.keys() - {"all"}), "all"):
        means = {situation: np.mean(values, axis=0) for situation, values in rows[name].items()}
        cells = [
            f"{means[s][2]:.3f}" + (f" ({means[s][0]:.2f}, {means[s][1]:.2f})" if name == "all" else "") for s in means
        ]
        print(f"| {name} | " + " | ".join(cells) + " |")
    print("| wished | " + " | ".join(f"{WISHED[s][0]:.2f}" for s in SITUATIONS) + " |")


def _print_page(found: list[Outcome]) -> None:
    print("\nRight on the page: onset, length and pitch\n\n| | " + " | ".join(SITUATIONS) + " |")
    print("|---|" + "---|" * len(SITUATIONS))
    for index, words in enumerate(("exact beats", "settled taps")):
        means = [np.mean([r.page[index] for r in found if r.situation == s]) for s in SITUATIONS]
        print(f"| {words} | " + " | ".join(f"{mean:.2f}" for mean in means) + " |")
    print("| wished | " + " | ".join(f"{WISHED[s][1]:.2f}" for s in SITUATIONS) + " |")


def _print_doubt(found: list[Outcome]) -> None:
    notes = [note for result in found for note in result.notes]
    for words, is_right in (("wrong", False), ("right", True)):
        some = [confidence < SURE for confidence, right in notes if right is is_right]
        print(f"\nof the {len(some)} {words} notes {np.mean(some):.0%} are marked ?", end="")
    print()
    for tenth in range(10):
        some = [right for confidence, right in notes if min(9, int(10 * confidence)) == tenth]
        if some:
            print(f"sure by {10 * tenth} to {10 * tenth + 10} %: {len(some)} notes, right {np.mean(some):.0%}")


if __name__ == "__main__":
    main()
