"""Where each note stands in its line: note id to place, worked out once for a line."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from gavotte.solo.by_identity import kept_by_identity

if TYPE_CHECKING:
    from gavotte.solo.document import Note


@kept_by_identity(8)
def places_of(notes: tuple[Note, ...]) -> Mapping[str, int]:
    """Note id to its place among ``notes``, in order."""
    return {note.id: place for place, note in enumerate(notes)}
