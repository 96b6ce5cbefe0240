"""Keeping a lick: the selected notes go into the vocabulary under the name that is proposed, or another."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.asks import Asks
from gavotte.desktop.errands.library_edits import LibraryEdits
from gavotte.desktop.errands.lick_dialog import LickDialog
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate


class Keeping(QObject):
    """Signal: ``kept(lick id)``."""

    kept = pyqtSignal(str)

    def __init__(self, session: SoloSession, edits: LibraryEdits, asks: Asks, window: QWidget) -> None:
        super().__init__(window)
        self._session, self._edits, self._asks, self._window = session, edits, asks, window
        self.dialog: LickDialog | None = None

    def keep(self) -> None:
        """Keep the selected notes as a lick, after showing the name proposed."""
        lick = self._session.lick()
        if lick is None or len(self._session.selection.notes()) < 2:
            self._asks.tell(translate("Gavotte", "Select two notes or more to keep them as a lick"))
            return
        dialog = self.dialog = LickDialog(self._window, lick)
        dialog.accepted.connect(lambda: self._put(dialog))
        dialog.open()

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
