"""Opening: a solo of the library is read and becomes the open one; a long one is read beside the interface."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.saver import Saver
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.harmony.ground import ground_of
from gavotte.harmony.signature import contradicted
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.solo.document import Solo

READ_AT_ONCE = 400_000
"""Bytes of a document that are read in a moment: some 300 bars."""


class Opening(QObject):
    """Opens solos. Signal: ``failed(message)``. ``coming`` is the solo (id) that is being read, "" where none is."""

    failed = pyqtSignal(str)

    def __init__(
        self, library: Library, saver: Saver, session: SoloSession, activities: Activities, parent: QObject
    ) -> None:
        super().__init__(parent)
        self._library, self._saver, self._session, self._activities = library, saver, session, activities
        self.coming = ""

    def at_hand(self, solo_id: str) -> Solo | None:
        """A solo that need not be read: the open one, or one that is not written yet; None for every other."""
        return self._session.solo if self._session.solo_id == solo_id else self._saver.held(solo_id)

    def open(self, solo_id: str, then: Callable[[], None]) -> None:
        """Open a solo of the library, now or when it has been read, and do what follows.

        What was open stays open until then.
        """
        self._activities.cancel(self)
        self.coming = ""
        if solo_id == self._session.solo_id:
            then()
            return
        held = self._saver.held(solo_id)
        try:
            data = b"" if held is not None else self._library.solo_document(solo_id)
            if held is None and len(data) <= READ_AT_ONCE:
                held = SOLO_DOCUMENT.read(data)
        except (LibraryError, FormatError) as error:
            self.failed.emit(str(error))
            return
        if held is not None:
            self._take(solo_id, then, held)
            return
        self.coming = solo_id
        self._activities.beside(
            self,
            partial(_read, data),
            partial(self._take, solo_id, then),
            self._fail,
            translate("Gavotte", "Opening the solo"),
            self._stop,
        )

    def _take(self, solo_id: str, then: Callable[[], None], solo: Solo) -> None:
        self.coming = ""
        # While it was read it may have been taken back from a rescue.
        self._session.open(solo_id, self._saver.held(solo_id) or solo)
        then()

    def _fail(self, error: Exception) -> None:
        self._stop()
        self.failed.emit(str(error))

    def _stop(self) -> None:
        self.coming = ""


def _read(data: bytes) -> Solo:
    """A solo by its document, with the keys it is heard in: whoever asks for them then has them at once."""
    solo = SOLO_DOCUMENT.read(data)
    contradicted(ground_of(solo))
    return solo
