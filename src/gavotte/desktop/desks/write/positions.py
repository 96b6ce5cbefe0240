"""Finding positions on the strings for notes of the open solo, beside the interface; asked again, the next ones."""

from __future__ import annotations

from PyQt6.QtCore import QObject

from gavotte.desktop.activity import Activities
from gavotte.desktop.asks import Asks
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.view import View
from gavotte.desktop.translation import translate
from gavotte.solo.document import Note, Solo
from gavotte.solo.strings import usual_tuning
from gavotte.workshop.positions import free_of_strings, next_fingering, with_fingering


class Positions(QObject):
    """Writes a string and a finger to the selected notes, or to all where at most one is selected."""

    def __init__(self, session: SoloSession, view: View, activities: Activities, asks: Asks, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._view, self._activities, self._asks = session, view, activities, asks

    def find(self) -> None:
        """Find the easiest positions, or the next after those that are there."""
        solo = self._session.solo
        if solo is None or not solo.notes:
            return
        tuning = usual_tuning(solo.instrument)
        if tuning is None:
            words = translate("Gavotte", "{instrument} has no strings to finger")
            self._asks.tell(words.format(instrument=solo.instrument.name))
            return
        selected = self._session.selection.notes()
        ids = frozenset(selected) if len(selected) > 1 else frozenset(note.id for note in solo.notes)
        line = [note for note in solo.notes if note.id in ids]

        def look() -> Solo:
            found = next_fingering(line, tuning)
            places = dict(zip((note.id for note in line), found.places, strict=True))
            return with_fingering(free_of_strings(solo, ids), places)

        def take(changed: Solo) -> None:
            if self._session.solo is not solo:
                return
            missing = [note for note in changed.notes if note.id in ids and not note.string]
            first, last = (line[0].id, line[-1].id) if len(selected) > 1 else (None, None)
            selection = (first, last) if first is not None and last is not None else None
            self._session.edit(translate("Gavotte", "Find positions"), changed, selection)
            self._view.set_tablature(True)
            self._tell(missing)

        self._activities.cancel(self)
        words = translate("Gavotte", "Finding positions")
        self._activities.beside(self, look, take, lambda error: self._asks.notice(str(error)), words)

    def _tell(self, missing: list[Note]) -> None:
        if missing:
            words = translate("Gavotte", "{count} notes lie beyond the strings, the first is {pitch}")
            self._asks.notice(words.format(count=len(missing), pitch=missing[0].pitch.shown))
