"""A bar labelled by hand, held against the labeller: two opinions, of which either may be right."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass, replace

from gavotte.labelling.labeller import Labelled
from gavotte.solo.document import Function, Note, Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import excerpt

_FEWEST, _MOST = 3, 8


@dataclass(frozen=True)
class BarToLabel:
    """A bar as ``music`` with its chords, the notes that are asked for with the ``labels`` the labeller gave them, and
    where it comes from.
    """

    music: Solo
    notes: tuple[Note, ...]
    labels: tuple[Label, ...]
    places: tuple[str, ...]
    place: str


@dataclass(frozen=True)
class Opinion:
    """What was said of a note of a bar (its number), what the labeller says, its reason, and what speaks for what was
    said ("" where nothing was found that does).
    """

    number: int
    said: Function
    label: Label
    argument: str = ""

    @property
    def agrees(self) -> bool:
        """Whether both say the same."""
        return self.said is self.label.function


def bars_to_label(found: Labelled) -> list[BarToLabel]:
    """The bars of a labelled line that are worth labelling by hand: a few notes, over chords, not all of one kind."""
    grid, solo = found.frame.grid, found.solo
    by_bar: dict[int, list[int]] = {}
    for index, note in enumerate(solo.notes):
        if not note.grace:
            by_bar.setdefault(grid.index_at(note.onset), []).append(index)
    made = []
    for number, indexes in by_bar.items():
        labels = [found.labels[index] for index in indexes]
        if not _FEWEST <= len(indexes) <= _MOST or not all(label.chord for label in labels):
            continue
        if len({label.function for label in labels}) < 2:
            continue
        notes = tuple(solo.notes[index] for index in indexes)
        music = replace(excerpt(solo, notes[0].id, notes[-1].id), decisions=(), phrases=())
        bar = grid.bars[number]
        places = tuple(bar.meter.place_name(note.onset - bar.onset + bar.lead_in) for note in notes)
        name = f"bar {bar.number}" if bar.number else "the pickup"
        made.append(BarToLabel(music, notes, tuple(labels), places, ", ".join(filter(None, (solo.title, name)))))
    return made


def compared_with(bar: BarToLabel, said: Sequence[Function]) -> list[Opinion]:
    """What was said of each note beside what the labeller says. Raises ValueError where they are not as many."""
    if len(said) != len(bar.labels):
        raise ValueError(f"{len(said)} labels for {len(bar.labels)} notes")
    opinions = []
    for number, (function, label) in enumerate(zip(said, bar.labels, strict=True)):
        other = next((one for one in label.alternatives if one.function is function), None)
        opinions.append(Opinion(number, function, label, other.reason if other is not None else ""))
    return opinions


def one_of(bars: Sequence[BarToLabel], seed: int) -> BarToLabel | None:
    """One of some bars, by chance."""
    return random.Random(seed).choice(bars) if bars else None
