"""How a lick stands to the solo it comes from: whether that was corrected there since, and what it would be now."""

from __future__ import annotations

from dataclasses import replace
from enum import StrEnum

from gavotte.solo.document import Solo
from gavotte.solo.label import Label
from gavotte.solo.moving import excerpt
from gavotte.vocabulary.lick import Lick, keep_lick


class Link(StrEnum):
    """How a lick stands to its solo."""

    SAME = "same"
    CHANGED = "changed"
    """Its notes or chords are others there now."""
    GONE = "gone"
    """Its first or last note is no longer there."""


def link_to(lick: Lick, solo: Solo) -> Link:
    """How a lick stands to the solo it comes from."""
    if not lick.solo.notes:
        return Link.GONE
    first, last = lick.solo.notes[0].id, lick.solo.notes[-1].id
    if first not in solo.places or last not in solo.places or solo.places[first] > solo.places[last]:
        return Link.GONE
    now = excerpt(solo, first, last)
    same = _sounding(now) == _sounding(lick.solo)
    return Link.SAME if same else Link.CHANGED


def _sounding(solo: Solo) -> tuple[object, ...]:
    """What a lick is by its notes and chords."""
    notes = tuple((n.id, n.onset, n.duration, n.pitch, n.grace) for n in solo.notes)
    return notes, tuple((chord.onset, chord.text) for chord in solo.chords)


def followed(lick: Lick, solo: Solo, labels: tuple[Label, ...]) -> Lick:
    """The lick as its solo has it now; what the user says of it stays. Its name does too, if it was given by hand.

    Raises KeyError where its first or last note is gone.
    """
    first, last = lick.solo.notes[0].id, lick.solo.notes[-1].id
    now = keep_lick(solo, lick.source.solo_id, labels, first, last, lick.span)
    return replace(
        now,
        name=now.name if lick.name == lick.proposed_name else lick.name,
        tags=lick.tags,
        words=lick.words,
        rating=lick.rating,
        status=lick.status,
    )
