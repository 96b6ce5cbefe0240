"""Where each note stands in its line: note id to place, worked out once for a line."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from gavotte.solo.by_identity import followed_by_identity
from gavotte.solo.differences import differing

if TYPE_CHECKING:
    from gavotte.solo.document import Note

_LONG = 1_000
"""Notes: of a shorter line the places are numbered anew faster than they are told from those of another."""
_FEW = 300
"""So many notes may differ from those of a line whose places are known; they are looked up first."""


class _PlacesLike(Mapping[str, int]):
    """The places in a line that is nearly another one, whose places are known; ``differ`` notes are not the same."""

    def __init__(self, notes: tuple[Note, ...], base: tuple[Note, ...], known: dict[str, int]) -> None:
        self.notes, self.base, self.known = notes, base, known
        self._start, self._stop, stop = differing(base, notes)
        self._moved = stop - self._stop
        self.differ = stop - self._start + self._stop - self._start
        few = notes[self._start : stop] if self.differ <= _FEW else ()
        self._between = {note.id: place for place, note in enumerate(few, self._start)}

    def __getitem__(self, note: str) -> int:
        place = self._between.get(note)
        if place is not None:
            return place
        place = self.known[note]
        if place < self._start:
            return place
        if place < self._stop:
            raise KeyError(note)
        return place + self._moved

    def __iter__(self) -> Iterator[str]:
        return (note.id for note in self.notes)

    def __len__(self) -> int:
        return len(self.notes)


def _places_like(
    before: tuple[Note, ...], places: Mapping[str, int], notes: tuple[Note, ...]
) -> Mapping[str, int] | None:
    if len(notes) < _LONG or abs(len(notes) - len(before)) > _FEW:
        return None
    if isinstance(places, _PlacesLike):
        before, places = places.base, places.known
    if not isinstance(places, dict):
        return None
    found = _PlacesLike(notes, before, places)
    return found if found.differ <= _FEW else None


@followed_by_identity(8, _places_like)
def places_of(notes: tuple[Note, ...]) -> Mapping[str, int]:
    """Note id to its place among ``notes``, in order."""
    return {note.id: place for place, note in enumerate(notes)}
