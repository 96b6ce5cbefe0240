"""The drafted phrases of a library's solos that are not decided yet: what they are kept in."""

from __future__ import annotations

import itertools

from gavotte.formats.document import DocumentKind, with_version
from gavotte.solo.bounds import within_bounds
from gavotte.solo.document import Solo
from gavotte.writing.drafting import Proposal


def _checked(proposal: Proposal) -> Proposal:
    """The proposal, once it is certain that its notes are notes, in order. Raises ValueError."""
    if any(not phrase.notes for phrase in proposal):
        raise ValueError("a phrase has no notes")
    notes = tuple(note for phrase in proposal for note in phrase.notes)
    within_bounds(Solo("", notes=notes))
    heard = [note for phrase in proposal for note in phrase.heard]
    if any(not 0 <= note.midi <= 127 or not 0 <= note.start <= note.end <= _MOST_SECONDS for note in heard):
        raise ValueError("it was heard beyond any recording")
    if any(after.onset < before.onset for before, after in itertools.pairwise(notes)):
        raise ValueError("its notes are out of order")
    return proposal


_MOST_SECONDS = 100_000

DRAFT_DOCUMENT: DocumentKind[Proposal] = DocumentKind(
    "gavotte-draft", 2, "draft", Proposal, {1: with_version(2)}, _checked
)
