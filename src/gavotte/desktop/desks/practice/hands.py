"""What one sets up before practising: pedals, and how late the microphone hears."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.delays import SIMULATED, Delays
from gavotte.desktop.desks.practice.pedals import Pedals
from gavotte.desktop.desks.practice.setup_dialog import SetupDialog
from gavotte.desktop.desks.practice.take_panel import FromKeyboard
from gavotte.desktop.desks.practice.taking import Taking
from gavotte.desktop.playback.microphone import CardMicrophone, Microphone
from gavotte.practice.invented import Manner


class Hands(QObject):
    """``wanted`` says where the next take comes from. Signal: ``pressed(action)``, a pedal was pressed."""

    pressed = pyqtSignal(str)

    def __init__(
        self, studio: Studio, taking: Taking, wanted: Callable[[], Manner | FromKeyboard | str], desk: QWidget
    ) -> None:
        super().__init__(desk)
        self._studio, self._taking, self._wanted, self._desk = studio, taking, wanted, desk
        self.pedals, self.delays = Pedals(studio.settings, self), Delays(studio.settings, self)
        self.dialog: SetupDialog | None = None
        self.pedals.pressed.connect(self._pressed)
        self.pedals.keyboard.failed.connect(studio.asks.notice)

    def set_up(self) -> None:
        """Ask for pedals, the microphone's delay, breaks."""
        self._studio.transport.stop()
        self._taking.stop()
        settings = self._studio.settings
        dialog = self.dialog = SetupDialog(
            self._desk, settings, self.pedals, self.delays, self._microphone_name, self._microphone
        )
        dialog.open()

    @property
    def late(self) -> float:
        """Seconds from what is played to what the chosen microphone has of it, as far as that is known."""
        name = self._microphone_name()
        delay = self.delays.delay(name) if name is not None else None
        return self._studio.transport.latency if delay is None else delay

    def _microphone_name(self) -> str | None:
        """The microphone the next take comes from, None where it is a keyboard."""
        wanted = self._wanted()
        if isinstance(wanted, FromKeyboard):
            return None
        return SIMULATED if isinstance(wanted, Manner) else wanted

    def _microphone(self) -> Microphone:
        name = self._microphone_name()
        return self._taking.simulated if name in (None, SIMULATED) else CardMicrophone(name or "", self)

    def microphone(self) -> Microphone | None:
        """A source for what is sung; None where a keyboard is chosen."""
        return None if self._microphone_name() is None else self._microphone()

    def _pressed(self, action: str) -> None:
        if self.dialog is None or not self.dialog.isVisible():
            self.pressed.emit(action)

    def close(self) -> None:
        """Let go of the devices."""
        self.pedals.close()
        self.delays.stop()
