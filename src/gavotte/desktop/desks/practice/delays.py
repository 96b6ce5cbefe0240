"""How late each microphone hears what is played, measured on clicks and kept."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, QSettings, QTimer, pyqtSignal

from gavotte.desktop.desks.practice.take_player import TakePlayer
from gavotte.desktop.playback.microphone import Microphone, SimulatedMicrophone
from gavotte.desktop.translation import translate
from gavotte.recording.delay import RATE, Delay, click_track, delay_of
from gavotte.recording.errors import RecordingError

SIMULATED = "simulated"
"""The name under which the simulated microphone's delay is kept."""

_KEPT = "practice/delay/"
_TAIL_MS = 600
_SIMULATED = 0.085
"""Seconds by which the simulated microphone is late."""


class Delays(QObject):
    """Signals: ``measured(name)``, a delay is known; ``failed(message)``; ``changed``, measuring begins or ends."""

    measured = pyqtSignal(str)
    failed = pyqtSignal(str)
    changed = pyqtSignal()

    def __init__(self, settings: QSettings, parent: QObject) -> None:
        super().__init__(parent)
        self._settings = settings
        self.player = TakePlayer(settings, self)
        self.player.changed.connect(self._player_changed)
        self.player.failed.connect(self._give_up)
        self._source: Microphone | None = None
        self._name = ""
        self._blocks: list[NDArray[np.int16]] = []

    def delay(self, name: str) -> float | None:
        """Seconds from what is played to what a microphone has of it, None where that was not measured."""
        value = self._settings.value(_KEPT + _plain(name))
        return float(value) if value is not None else None

    def forget(self, name: str) -> None:
        """The delay is not known any more."""
        self._settings.remove(_KEPT + _plain(name))
        self.measured.emit(name)

    @property
    def is_measuring(self) -> bool:
        """Whether clicks are being played and listened to."""
        return self._source is not None

    def measure(self, source: Microphone, name: str) -> None:
        """Play clicks and listen to them with a microphone."""
        self.stop()
        self._source, self._name, self._blocks = source, name, []
        source.heard.connect(self._heard)
        source.stopped.connect(self._give_up)
        track = click_track()
        if isinstance(source, SimulatedMicrophone):
            late = np.concatenate([np.zeros((round(_SIMULATED * RATE), 2), np.float32), track])
            source.prepare(np.asarray(late * 32767, np.int16))
        if not source.open():
            self.stop()
            return
        if isinstance(source, SimulatedMicrophone):
            source.begin_in(0.0)
        self._begun = sum(map(len, self._blocks)) / RATE
        self.player.play_samples(track)
        self.changed.emit()

    def _heard(self, block: NDArray[np.int16]) -> None:
        self._blocks.append(block)

    def _player_changed(self) -> None:
        if self._source is not None and not self.player.is_playing:
            QTimer.singleShot(_TAIL_MS, self._end)

    def _end(self) -> None:
        if self._source is None:
            return
        name, blocks, begun = self._name, self._blocks, self._begun
        self.stop()
        try:
            found: Delay = delay_of(np.concatenate(blocks) if blocks else np.zeros(0, np.int16), begun)
        except RecordingError as error:
            self.failed.emit(str(error))
            return
        self._settings.setValue(_KEPT + _plain(name), max(0.0, found.seconds))
        self.measured.emit(name)

    def _give_up(self, message: str) -> None:
        self.stop()
        self.failed.emit(message)

    def stop(self) -> None:
        """Measure no more."""
        source, self._source = self._source, None
        self._blocks = []
        if source is not None:
            source.heard.disconnect(self._heard)
            source.stopped.disconnect(self._give_up)
            source.close()
            self.player.stop()
            self.changed.emit()


def delay_words(delay: float | None) -> str:
    """A delay in words."""
    if delay is None:
        return translate("Gavotte", "not measured")
    return translate("Gavotte", "{ms} ms").format(ms=round(delay * 1000))


def _plain(name: str) -> str:
    """A microphone's name as the settings can keep it."""
    return name.replace("/", "-") or "usual"
