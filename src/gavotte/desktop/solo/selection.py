"""The selection: which notes of a solo are meant, from the one where it began to the one it has come to."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.solo.document import Note
from gavotte.solo.places import places_of


class Selection(QObject):
    """``anchor`` is the note (id) a selection began with, ``current`` the one it has come to; None for no notes.

    Signal: ``changed``, emitted by the selection alone.
    """

    changed = pyqtSignal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.anchor: str | None = None
        self.current: str | None = None
        self._notes: tuple[Note, ...] = ()

    def among(self, notes: tuple[Note, ...]) -> bool:
        """Choose from this line of notes from now on; True where what was selected is no more there.

        Nobody is told yet: ``tell`` does that, when everything else that is new has been put in place.
        """
        self._notes, places = notes, places_of(notes)
        if self.current in places and self.anchor in places:
            return False
        lost = self.current is not None
        self.anchor = self.current = None
        return lost

    def put(self, anchor: str | None, current: str | None) -> bool:
        """Take notes as the selected ones without telling anybody yet; True where they are others than before."""
        if (anchor, current) == (self.anchor, self.current):
            return False
        self.anchor, self.current = anchor, current
        return True

    def tell(self) -> None:
        """Say that the selection is another one."""
        self.changed.emit()

    def select(self, anchor: str | None, current: str | None) -> None:
        """Select the notes from ``anchor`` to ``current``."""
        if self.put(anchor, current):
            self.changed.emit()

    def lift(self) -> bool:
        """Keep of several notes only the one the selection has come to; False where there are not several."""
        if len(self.notes()) < 2:
            return False
        self.select(self.current, self.current)
        return True

    def notes(self) -> tuple[str, ...]:
        """Ids of the selected notes, in the order of the line."""
        places = places_of(self._notes)
        anchor, current = (places.get(note or "") for note in (self.anchor, self.current))
        if anchor is None or current is None:
            return ()
        low, high = sorted((anchor, current))
        return tuple(note.id for note in self._notes[low : high + 1])
