"""Guide-tone threads: the 3rds and 7ths of the chords as the line leads them on.

Where a chord changes, its 7th usually falls a step to the 3rd of the next, or its 3rd stays as the 7th (W. Piston,
*Harmony*, 1941, ch. 18). A thread is what the line itself makes of that.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gavotte.giving_way import give_way
from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.skeleton import Level

_THIRDS_AND_SEVENTHS = frozenset({"3", "b3", "7", "b7", "bb7", "4"})
_A_STEP = 2
_LEAST = 3
_FARTHEST_CHORDS = 1


@dataclass(frozen=True, slots=True)
class Thread:
    """Notes (indexes) that lead on from chord to chord, in order."""

    notes: tuple[int, ...]


def threads_of(found: Labelled, levels: Sequence[Level]) -> tuple[Thread, ...]:
    """The guide-tone threads of a line: guide tones of chord after chord, each a step at most from the one before, of
    three chords at least. A note belongs to one of them at most. None where no chords are written.
    """
    candidates: dict[int, list[int]] = {}
    for note, label, level in zip(found.frame.notes, found.labels, levels, strict=True):
        give_way()
        span = found.frame.span_of(note)
        if span.written and level >= Level.PLAIN and note.is_tone and label.degree in _THIRDS_AND_SEVENTHS:
            candidates.setdefault(note.span, []).append(note.index)
    open_threads: list[tuple[int, list[int]]] = []
    done: list[list[int]] = []
    for place in sorted(candidates):
        going = [thread for last, thread in open_threads if place - last <= _FARTHEST_CHORDS]
        done += [thread for last, thread in open_threads if place - last > _FARTHEST_CHORDS]
        free = list(candidates[place])
        open_threads = []
        for thread in going:
            heard_from = found.frame.notes[thread[-1]].pitch
            near = [i for i in free if abs(found.frame.notes[i].pitch - heard_from) <= _A_STEP]
            if near:
                free.remove(near[0])
                thread.append(near[0])
                open_threads.append((place, thread))
            else:
                done.append(thread)
        # What begins a thread is the last guide tone of its chord: the nearest to the change.
        open_threads += [(place, [i]) for i in free[-1:]]
    done += [thread for _, thread in open_threads]
    return tuple(sorted((Thread(tuple(t)) for t in done if len(t) >= _LEAST), key=lambda thread: thread.notes))
