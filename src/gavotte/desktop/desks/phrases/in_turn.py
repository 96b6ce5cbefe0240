"""Playing several places of the solo, one after the other."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer

from gavotte.desktop.playback.playing import Playing
from gavotte.desktop.playback.transport import Transport
from gavotte.desktop.solo.session import SoloSession

_BETWEEN_MS = 350
_NEAR = 0.75
"""Quarter notes before its end from which on a place has been heard: who stops earlier wants silence."""


class InTurn(QObject):
    """Selects and plays place after place; whoever stops the music ends it."""

    def __init__(self, session: SoloSession, transport: Transport, playing: Playing, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._transport, self._playing = session, transport, playing
        self._places: list[tuple[str, str]] = []
        self._end, self._heard = 0.0, 0.0
        self._between = QTimer(self)
        self._between.setSingleShot(True)
        self._between.setInterval(_BETWEEN_MS)
        self._between.timeout.connect(self._next)
        transport.playhead_moved.connect(self._follow)
        transport.playing_changed.connect(self._changed)

    @property
    def waits(self) -> bool:
        """Whether places are still to be played."""
        return bool(self._places)

    def play(self, places: list[tuple[str, str]]) -> None:
        """Play places by the ids of their first and last notes."""
        self.stop()
        self._places = list(places)
        self._next()

    def stop(self) -> None:
        """Play none of them any more."""
        self._places = []
        self._between.stop()

    def _next(self) -> None:
        solo = self._session.solo
        if not self._places or solo is None:
            return
        first, last = self._places[0]
        if first not in solo.places or last not in solo.places:
            self.stop()
            return
        rest = self._places[1:]
        # What sounds is stopped first, which would end this.
        self._places = []
        self._session.selection.select(first, last)
        self._end, self._heard = float(solo.note(last).end), float(solo.note(first).onset)
        self._playing.play()
        self._places = rest

    def _follow(self, time: float) -> None:
        self._heard = time

    def _changed(self, playing: bool) -> None:
        if playing or not self._places:
            return
        if self._heard >= self._end - _NEAR:
            self._between.start()
        else:
            self.stop()
