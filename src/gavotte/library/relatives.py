"""The nearest relatives of a line in a library: among its licks, and among the places of its solos."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from gavotte.library.lines import Index, Lines
from gavotte.vocabulary.alignment import Aligned, Near, aligned
from gavotte.vocabulary.corpus import LabelledLine, stretch
from gavotte.vocabulary.likeness import told

LEAST_LIKE = 0.75
"""What is less like than that is no relative."""
MOST = 12


@dataclass(frozen=True, slots=True)
class Relative:
    """A lick or a place of a solo (by its ``owner``'s id) that is like a line: the rows of its first and last note in
    the line of that, how they are aligned (rows of the place itself), and how it stands to the line in one sentence.
    """

    owner: str
    is_lick: bool
    first: int
    last: int
    line: LabelledLine
    aligned: Aligned
    words: str

    @property
    def likeness(self) -> float:
        """From 1, the same, down to 0."""
        return self.aligned.likeness


def relatives_of(
    index: Index, line: LabelledLine, own_lick: str = "", own_solo: str = "", most: int = MOST
) -> tuple[Relative, ...]:
    """The relatives of a line, the nearest first. ``own_lick`` and ``own_solo`` are where it comes from: what it is
    itself is none of them. Of a place that is kept as a lick the lick is told.
    """
    own = line.pitches
    found: list[Relative] = []
    for near in index.licks.nearest.to(line, most + 1, LEAST_LIKE):
        relative = relative_of(index.licks, near, line, is_lick=True)
        if relative.owner != own_lick:
            found.append(relative)
    kept = [own, *(relative.line.pitches for relative in found)]
    for near in index.solos.nearest.to(line, most + len(kept), LEAST_LIKE):
        relative = relative_of(index.solos, near, line, is_lick=False)
        is_own = relative.owner == own_solo and relative.line.pitches == own
        if not is_own and not _is_among(relative.line.pitches, kept[1:]):
            found.append(relative)
    found.sort(key=lambda relative: -relative.likeness)
    return tuple(found[:most])


def relative_of(lines: Lines, near: Near, line: LabelledLine, is_lick: bool) -> Relative:
    """A place of some lines that is near to another one, as a relative of that."""
    corpus = lines.corpus
    number = int(corpus.line_of[near.first])
    start = int(corpus.firsts[number])
    part = stretch(corpus.lines[number], near.first - start, near.last - start)
    pairs = aligned(line, part)
    return Relative(
        lines.ids[number], is_lick, near.first - start, near.last - start, part, pairs, told(line, part, pairs)
    )


def _is_among(pitches: tuple[int, ...], others: Iterable[tuple[int, ...]]) -> bool:
    """Whether some pitches are just those of another line, or a part of them."""
    size = len(pitches)
    return any(pitches == other[k : k + size] for other in others for k in range(len(other) - size + 1))
