"""How well phrases and motifs that were found agree with those that were marked."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from tests.phrasing.marked_lines import Marked

from gavotte.phrasing.motifs import Instance, Motif
from gavotte.solo.document import Solo

WITHIN = 1.0
"""How far two ends may lie apart, in quarter notes from the one next phrase to the other."""


def agreeing_ends(line: Marked, ends: Sequence[int]) -> tuple[int, int, int]:
    """How many ends agree, how many are marked, and how many were found; the end of the line does not count."""
    wanted, found = _next_onsets(line.solo, line.ends), _next_onsets(line.solo, ends)
    right = 0
    for onset in wanted:
        near = [other for other in found if abs(other - onset) <= WITHIN]
        if near:
            found.remove(min(near, key=lambda other: abs(other - onset)))
            right += 1
    return right, len(wanted), len(_next_onsets(line.solo, ends))


def _next_onsets(solo: Solo, ends: Sequence[int]) -> list[float]:
    return [float(solo.notes[end + 1].onset) for end in ends if end + 1 < len(solo.notes)]


def ends_at_rests(solo: Solo) -> list[int]:
    """The plain way: a phrase ends at each rest of a beat and each note of two."""
    return [i for i, (a, b) in enumerate(pairwise(solo.notes)) if b.onset - a.end >= 1 or a.duration >= 2]


def repeated_intervals(solo: Solo, size: int = 5) -> list[Motif]:
    """The plain way: the same intervals between ``size`` notes, wherever they come again."""
    places: dict[tuple[int, ...], list[Instance]] = {}
    pitches = [note.pitch.midi for note in solo.notes]
    for i in range(len(pitches) - size + 1):
        moves = tuple(b - a for a, b in pairwise(pitches[i : i + size]))
        known = places.setdefault(moves, [])
        if not known or known[-1].last < i:
            known.append(Instance(i, i + size - 1))
    return [Motif(tuple(found), "transposed", 0.0) for found in places.values() if len(found) > 1]


def agreeing_motifs(line: Marked, motifs: Sequence[Motif]) -> tuple[int, int, int, int]:
    """Marked motifs that were found, of how many; found motifs that are marked, of how many.

    A motif is found where another has half of its instances, and two at least: they share half of their notes.
    """
    recalled = sum(
        max((sum(any(_overlap(i, (p.first, p.last)) for p in m.instances) for i in marks) for m in motifs), default=0)
        >= max(2, len(marks) / 2)
        for marks in line.motifs.values()
    )
    right = sum(
        any(
            sum(any(_overlap(i, (p.first, p.last)) for i in marks) for p in m.instances) >= max(2, len(m.instances) / 2)
            for marks in line.motifs.values()
        )
        for m in motifs
    )
    return recalled, len(line.motifs), right, len(motifs)


def _overlap(a: tuple[int, int], b: tuple[int, int]) -> bool:
    shared = max(0, min(a[1], b[1]) - max(a[0], b[0]) + 1)
    return shared >= 0.5 * ((a[1] - a[0] + 1) + (b[1] - b[0] + 1) - shared)
