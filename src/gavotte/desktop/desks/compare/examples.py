"""The places a figure is heard at, laid under one another: the first set's, then the other's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import labelled
from gavotte.library.errors import LibraryError
from gavotte.library.reader import LibraryReader
from gavotte.profile.compared import Side
from gavotte.profile.examples import examples_of
from gavotte.profile.figures import Figure
from gavotte.profile.seen import Seen
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import excerpt
from gavotte.workshop.stacked import Block, stacked

EACH = 3
"""So many examples of each set."""


@dataclass(frozen=True)
class Laid:
    """Examples as one piece of music with its labels; ``counted`` are the ids of the notes that are counted, and
    ``sources`` by the number of the example the solo it is from and its first note there.
    """

    solo: Solo
    labels: dict[str, Label]
    counted: frozenset[str]
    sources: tuple[tuple[str, str], ...]


_LONG, _BESIDE = 1500, 40
"""A solo of more notes is labelled only around an example, with so many notes on both sides."""


def _around(solo: Solo, first: int, last: int) -> Solo:
    """What is labelled to have the labels of a stretch."""
    if len(solo.notes) <= _LONG:
        return solo
    low, high = max(0, first - _BESIDE), min(len(solo.notes) - 1, last + _BESIDE)
    return excerpt(solo, solo.notes[low].id, solo.notes[high].id)


def laid_out(reader: LibraryReader, figure: Figure, sides: Sequence[Side]) -> Laid | None:
    """The examples of a figure, None where there is none."""
    blocks: list[Block] = []
    counted: set[str] = set()
    sources: list[tuple[str, str]] = []
    for side in sides:
        for example in examples_of(figure, side.lines, EACH):
            solo_id = side.ids[example.line]
            try:
                solo = reader.solo(solo_id)
            except (LibraryError, FormatError):
                continue
            if example.last >= len(solo.notes):
                continue
            found = labelled(_around(solo, example.first, example.last))
            first, last = solo.notes[example.first], solo.notes[example.last]
            part = replace(excerpt(solo, first.id, last.id), phrases=(), decisions=())
            there = {note.id for note in part.notes}
            labels = tuple(label for label in found.labels if label.note in there)
            place = BarGrid(solo).at(first.onset).number
            words = translate("Gavotte", "{player}: {title}, bar {bar}")
            who = solo.player or translate("Gavotte", "Unknown")
            number = len(blocks)
            blocks.append(Block(part, labels, words.format(player=who, title=solo.title, bar=place)))
            sources.append((solo_id, first.id))
            seen = Seen(side.lines[example.line])
            hits = np.nan_to_num(figure.parts(seen)[0]) > 0
            for place_in_solo in seen.line.notes["place"][hits].tolist():
                if example.first <= place_in_solo <= example.last:
                    counted.add(f"{number}:{solo.notes[place_in_solo].id}")
    if not blocks:
        return None
    solo, labels_of = stacked(blocks, figure.words[:1].upper() + figure.words[1:])
    return Laid(solo, {label.note: label for label in labels_of}, frozenset(counted), tuple(sources))
