"""Where each note stands in its line: note id to place, worked out once for a line."""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from gavotte.solo.document import Note

_KNOWN: deque[tuple[tuple[Note, ...], Mapping[str, int]]] = deque(maxlen=8)
"""The lines asked for last, told by identity: comparing a thousand notes would cost more than counting them."""


def places_of(notes: tuple[Note, ...]) -> Mapping[str, int]:
    """Note id to its place among ``notes``, in order."""
    for known, places in tuple(_KNOWN):
        if known is notes:
            return places
    places = {note.id: place for place, note in enumerate(notes)}
    _KNOWN.append((notes, places))
    return places
