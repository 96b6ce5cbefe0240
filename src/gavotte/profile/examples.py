"""Where a figure is heard: the phrases that have most of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from gavotte.profile.figures import Figure
from gavotte.profile.seen import Seen
from gavotte.vocabulary.corpus import LabelledLine


@dataclass(frozen=True, slots=True)
class Example:
    """A phrase of a line (its number among those given): its first and last note by their places in the solo."""

    line: int
    first: int
    last: int


def examples_of(figure: Figure, lines: Sequence[LabelledLine], most: int = 3) -> list[Example]:
    """The phrases in which what a figure counts is most frequent, from different lines as far as there are."""
    found: list[tuple[float, Example]] = []
    for number, line in enumerate(lines):
        seen = Seen(line)
        if not seen.count:
            continue
        counted = np.nan_to_num(figure.parts(seen)[0])
        by_phrase = seen.by_phrase(counted)
        firsts = np.flatnonzero(seen.begins)
        lasts = np.flatnonzero(seen.ends)
        for phrase in np.argsort(-by_phrase, kind="stable")[:most]:
            if by_phrase[phrase] > 0:
                places = line.notes["place"]
                example = Example(number, int(places[firsts[phrase]]), int(places[lasts[phrase]]))
                found.append((float(by_phrase[phrase]), example))
    found.sort(key=lambda one: -one[0])
    chosen: list[Example] = []
    for is_new in (True, False):
        for _, example in found:
            is_known = example in chosen or (is_new and example.line in {other.line for other in chosen})
            if len(chosen) < most and not is_known:
                chosen.append(example)
    return chosen
