"""Where solos keep, ornament or quote the heads of tunes that stand in the library beside them."""

from __future__ import annotations

from collections.abc import Generator, Mapping

import numpy as np

from gavotte.library.lines import Index, Lines
from gavotte.library.mining import CellPlace, LibraryCell, over_words
from gavotte.library.reader import SoloEntry
from gavotte.library.relatives import relative_of
from gavotte.vocabulary.alignment import Nearest
from gavotte.vocabulary.corpus import Corpus, LabelledLine, degrees_words, stretch

_LEAST_NOTES, _LEAST_LIKE, _KEPT = 4, 0.78, 0.985
_MOST = 60
"""As many places of one phrase are told at most."""


def head_cells(index: Index, solos: Mapping[str, SoloEntry]) -> Generator[float, None, tuple[LibraryCell, ...]]:
    """The phrases of all heads that solos take up, each as a cell whose first place is in the head; those that are
    taken up most often first. In steps that yield the share that is done.
    """
    heads = [name for name in index.solos.ids if name in solos and solos[name].is_head]
    others = [name for name in index.solos.ids if name in solos and not solos[name].is_head]
    numbers = index.solos.number_of
    lines = Lines(tuple(others), Corpus(index.solos.corpus.lines[numbers[name]] for name in others))
    nearest = Nearest(lines.corpus)
    found: list[LibraryCell] = []
    for count, name in enumerate(heads, 1):
        head = index.solos.corpus.lines[numbers[name]]
        known: set[bytes] = set()
        for first, last in _phrases(head):
            # What a head says again is told once.
            moves = (
                np.diff(head.notes["onset"][first : last + 1]).tobytes()
                + head.notes["pitch"][first : last + 1].tobytes()
            )
            if moves in known:
                continue
            known.add(moves)
            cell = _cell(lines, nearest, head, first, last, solos, name)
            if cell is not None:
                found.append(cell)
        yield count / len(heads)
    found.sort(key=lambda cell: -cell.weight)
    return tuple(found)


def _phrases(line: LabelledLine) -> list[tuple[int, int]]:
    starts = np.nonzero(line.notes["begins"])[0].tolist()
    ends = [*(start - 1 for start in starts[1:]), len(line.notes) - 1]
    return [(first, last) for first, last in zip(starts, ends, strict=True) if last - first + 1 >= _LEAST_NOTES]


def _cell(
    lines: Lines,
    nearest: Nearest,
    head: LabelledLine,
    first: int,
    last: int,
    solos: Mapping[str, SoloEntry],
    name: str,
) -> LibraryCell | None:
    """Where a phrase of a head is taken up; None where it is nowhere."""
    part = stretch(head, first, last)
    tune = solos[name]
    places = []
    for near in nearest.to(part, _MOST, _LEAST_LIKE):
        relative = relative_of(lines, near, part, is_lick=False)
        solo = solos[relative.owner]
        same = solo.title.casefold() == tune.title.casefold()
        does = "quotes it" if not same else "keeps it" if relative.likeness >= _KEPT else "ornaments it"
        places.append(CellPlace(solo.id, solo.player, relative.first, relative.last, f"{does}: {relative.words}"))
    if not places:
        return None
    here = CellPlace(name, tune.player, first, last, f"the head, {over_words(head, first)}")
    return LibraryCell((here, *places), float(len(places)), f"from the head of {tune.title}", degrees_words(part))
