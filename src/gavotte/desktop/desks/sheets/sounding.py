"""What is heard of a sheet: the music of the piece that is worked on, or of all of them."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from gavotte.desktop.activity import Activities
from gavotte.sheets.composing import Composer
from gavotte.sheets.music_beside import music_of
from gavotte.sheets.sheet import TeachingSheet
from gavotte.solo.document import Solo
from gavotte.steps import whole

_SOON_MS = 300


class Sounding(QObject):
    """``music`` is what is heard, None for nothing. Signal: ``changed``, it is other music."""

    changed = pyqtSignal()

    def __init__(self, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._activities, self._composer = activities, Composer()
        self.music: Solo | None = None
        self._wanted: tuple[TeachingSheet, str] | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._work)

    @property
    def is_current(self) -> bool:
        """Whether the music is that of the piece and sheet that are shown."""
        return not self._soon.isActive() and not self._activities.of(self)

    def show(self, sheet: TeachingSheet | None, piece: str) -> None:
        """Have a piece (by its id) heard; all of the sheet where that has no music or is ""."""
        if sheet is None:
            self.stop()
            self._take(None)
        elif self._wanted is None or self._wanted[0] is not sheet or self._wanted[1] != piece:
            self._wanted = sheet, piece
            self._soon.start(_SOON_MS)

    def stop(self) -> None:
        """Work nothing out any more; the next ``show`` begins anew."""
        self._soon.stop()
        self._activities.cancel(self)
        self._wanted = None

    def _work(self) -> None:
        if self._wanted is None:
            return
        (sheet, piece), composer, before = self._wanted, self._composer, self.music

        def work() -> Solo | None:
            composed = whole(composer.composed(sheet, None))
            found = music_of(composed, piece) or music_of(composed)
            music = None if found is None else found[0]
            return before if music == before else music

        self._activities.cancel(self)
        self._activities.beside(self, work, self._take, lambda error: self._take(None))

    def _take(self, music: Solo | None) -> None:
        if music is not self.music:
            self.music = music
            self.changed.emit()
