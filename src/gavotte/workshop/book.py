"""A book of licks: all of them on one sheet, by the harmony they are played over, with what stands where."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.vocabulary.contexts import CONTEXTS
from gavotte.vocabulary.lick import Lick
from gavotte.workshop.stacked import Block, stacked

OTHER = "other changes"


@dataclass(frozen=True, slots=True)
class Entry:
    """A line of the contents: where its lick begins in the book (quarter notes), over what, and its name."""

    onset: Fraction
    context: str
    name: str


def book_of(licks: Sequence[Lick], title: str) -> tuple[Solo, tuple[Label, ...], tuple[Entry, ...]]:
    """The book's music and labels, and its contents. Raises ValueError where there is no lick."""
    order = {name: place for place, name in enumerate((*CONTEXTS, OTHER))}
    contexts = [(next(iter(lick.contexts), OTHER), lick) for lick in licks]
    contexts.sort(key=lambda pair: order.get(pair[0], len(order)))
    solo, labels = stacked([Block(lick.solo, lick.labels, lick.name) for _, lick in contexts], title)
    entries = [
        Entry(section.onset, context, lick.name)
        for section, (context, lick) in zip(solo.sections, contexts, strict=True)
    ]
    return solo, labels, tuple(entries)
