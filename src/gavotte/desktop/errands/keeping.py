"""Keeping a lick: the selected notes go into the vocabulary under the name that is proposed, or another."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.activity import Activities
from gavotte.desktop.asks import Asks
from gavotte.desktop.errands.library_edits import LibraryEdits
from gavotte.desktop.errands.lick_dialog import LickDialog
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.translation import translate
from gavotte.library.already import already_there
from gavotte.library.store import Library
from gavotte.recording.beat_map import Alignment
from gavotte.solo.bars import BarGrid
from gavotte.vocabulary.kinds import kind_of
from gavotte.vocabulary.lick import Lick

_FEWEST = 3
"""As many notes have relatives that tell something."""


class Keeping(QObject):
    """Signal: ``kept(lick id)``."""

    kept = pyqtSignal(str)

    def __init__(
        self,
        library: Library,
        session: SoloSession,
        tape: Tape,
        activities: Activities,
        edits: LibraryEdits,
        asks: Asks,
        window: QWidget,
    ) -> None:
        super().__init__(window)
        self._library, self._session, self._tape, self._activities = library, session, tape, activities
        self._edits, self._asks, self._window = edits, asks, window
        self.dialog: LickDialog | None = None

    def keep(self) -> None:
        """Keep the selected notes as a lick, after showing the name proposed."""
        lick = self._session.lick()
        if lick is None or len(self._session.selection.notes()) < 2:
            self._asks.tell(translate("Gavotte", "Select two notes or more to keep them as a lick"))
            return
        lick = self._with_span(lick)
        dialog = self.dialog = LickDialog(self._window, lick)
        dialog.accepted.connect(lambda: self._put(dialog))
        dialog.open()
        self._look_for(lick, dialog)

    def _with_span(self, lick: Lick) -> Lick:
        """The lick with where it sounds in the solo's recording, where that is known."""
        solo, beats = self._session.solo, self._tape.beats
        if solo is None or self._tape.recording is None or not beats.is_usable:
            return lick
        alignment = Alignment(beats, BarGrid(solo))
        first, last = (solo.note(lick.solo.notes[k].id) for k in (0, -1))
        start, end = alignment.seconds(first.onset), alignment.seconds(last.end)
        return replace(lick, span=(max(0.0, start), max(0.0, end)))

    def _look_for(self, lick: Lick, dialog: LickDialog) -> None:
        """Tell in the dialog what of the lick stands in the vocabulary already."""

        def look() -> tuple[str, ...]:
            with self._library.read_apart() as reader:
                return already_there(reader, lick)

        def show(said: tuple[str, ...]) -> None:
            # Another dialog may have taken its place by now.
            if dialog is self.dialog and dialog.isVisible():
                dialog.show_already_there(said)

        self._activities.cancel(self)
        self._activities.beside(self, look, show, lambda _: None)

    def find_kind(self) -> None:
        """Find all of the kind the selected notes are: at the Vocabulary desk, in the vocabulary and in all solos."""
        selected, found = self._session.selection.notes(), self._session.found
        if found is None or not selected:
            self._asks.tell(translate("Gavotte", "Select a note or several to find all of their kind"))
            return
        places = [found.solo.places[note] for note in selected if note in found.solo.places]
        if places:
            self._asks.go("vocabulary", "", f"find:{kind_of(found, min(places), max(places))}")

    def find_relatives(self) -> None:
        """Find what is like the selected notes, at the Vocabulary desk."""
        if self._session.solo_id is None or len(self._session.selection.notes()) < _FEWEST:
            self._asks.tell(translate("Gavotte", "Select three notes or more to find what is like them"))
            return
        self._asks.go("vocabulary", "", "like")

    def _put(self, dialog: LickDialog) -> None:
        stack = self._session.undo_stack
        lick_id = self._edits.keep_lick(dialog.lick, stack)
        if lick_id is None:
            # What was typed is still there, for another try.
            dialog.open()
            return
        self.kept.emit(lick_id)
        self._asks.notice(
            translate("Gavotte", "Kept “{name}”.").format(name=dialog.lick.name),
            translate("Gavotte", "See it in all keys"),
            lambda: self._asks.go("vocabulary", lick_id, "keys"),
            stack.indexChanged,
        )
