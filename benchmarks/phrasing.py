"""Phrases, motifs and the skeleton on marked lines: ``PYTHONPATH=. python benchmarks/phrasing.py``.

Beside each figure stands that of the plain way: ends at rests and long notes, the same five notes again, the note that
sounds on the strong beat. Then how long it takes on 200 bars.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence

from benchmarks.big_solo import long_solo
from tests.phrasing.marked_lines import FIFTH, FIRST, FOURTH, SECOND, SIXTH, THIRD, Line, Marked, marked
from tests.phrasing.measuring import agreeing_ends, agreeing_motifs, ends_at_rests, repeated_intervals

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.motifs import Motif, motifs_of
from gavotte.phrasing.phrases import phrases_of
from gavotte.phrasing.strong_beats import kept_on_strong_beats, strong_beats
from gavotte.solo.document import Solo


def ends(lines: Sequence[Marked], find: Callable[[Solo], Sequence[int]]) -> str:
    """F1, precision and recall of the ends found."""
    counts = [agreeing_ends(line, find(line.solo)) for line in lines]
    right, wanted, found = (sum(count[k] for count in counts) for k in range(3))
    return f"F1 {2 * right / (wanted + found):.3f} (precision {right / found:.3f}, recall {right / wanted:.3f})"


def motifs(lines: Sequence[Marked], find: Callable[[Solo], Sequence[Motif]]) -> str:
    """How many marked motifs are found, and how many of those found are marked."""
    counts = [agreeing_motifs(line, find(line.solo)) for line in lines]
    recalled, wanted, right, found = (sum(count[k] for count in counts) for k in range(4))
    return f"{recalled} of {wanted} found; {right} of {found} found are marked"


def strong(lines: Sequence[Marked]) -> str:
    """How many strong beats have the note that was marked, and how many the note that sounds there."""
    kept = plain = total = 0
    for line in lines:
        found = labelled(line.solo)
        for beat, note, wanted in zip(strong_beats(found), kept_on_strong_beats(found), line.strong, strict=True):
            sounding = [i for i, other in enumerate(line.solo.notes) if other.onset <= beat < other.end]
            kept += note == wanted
            plain += (sounding[0] if sounding else None) == wanted
            total += 1
    return f"{kept} of {total} ({kept / total:.3f}); the note that sounds there: {plain / total:.3f}"


def best(do: Callable[[], object]) -> float:
    """The shortest of five times, in milliseconds."""
    times = []
    for _ in range(5):
        start = time.perf_counter()
        do()
        times.append(time.perf_counter() - start)
    return 1000 * min(times)


def main() -> None:
    """Print the figures."""
    sets: list[tuple[str, list[Line]]] = [("first", FIRST), ("second", SECOND), ("third", THIRD)]
    sets += [("fourth", FOURTH), ("fifth", FIFTH), ("sixth, not tuned on", SIXTH)]
    for name, group in sets:
        lines = [marked(line) for line in group]
        print(f"{name}: {len(lines)} lines, {sum(len(line.solo.notes) for line in lines)} notes")
        print("  ends  ", ends(lines, lambda solo: [phrase.last for phrase in phrases_of(solo, labelled(solo).labels)]))
        print("   plain", ends(lines, ends_at_rests))
        print("  motifs", motifs(lines, motifs_of))
        print("   plain", motifs(lines, repeated_intervals))
        if group is FIRST:
            print("  strong", strong(lines))
    solo = long_solo(200)
    found = labelled(solo)
    print(f"{len(solo.notes)} notes: phrases {best(lambda: phrases_of(solo)):.0f} ms, ", end="")
    print(f"motifs {best(lambda: motifs_of(solo)):.0f} ms, ", end="")
    print(f"strong beats {best(lambda: kept_on_strong_beats(found)):.0f} ms")


if __name__ == "__main__":
    main()
