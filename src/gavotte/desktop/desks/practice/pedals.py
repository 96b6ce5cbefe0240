"""Pedals: what is done when a pedal or key of a MIDI device is pressed, learned by pressing it."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QSettings, pyqtSignal

from gavotte.desktop.playback.midi_keyboard import MidiKeyboard
from gavotte.desktop.translation import QT_TRANSLATE_NOOP

ACTIONS = {
    "play": QT_TRANSLATE_NOOP("Gavotte", "Play or stop"),
    "record": QT_TRANSLATE_NOOP("Gavotte", "Record a take, or stop"),
    "clean": QT_TRANSLATE_NOOP("Gavotte", "This pass is clean"),
    "next": QT_TRANSLATE_NOOP("Gavotte", "What comes next today"),
}
_DEVICE, _LEARNED = "practice/pedal_device", "practice/pedal/"
_DOWN = 64
"""A controller's value from which on a pedal is down."""


class Pedals(QObject):
    """``keyboard`` is the device, open while the desk is looked at. Signals: ``pressed(action)``; ``learned``."""

    pressed = pyqtSignal(str)
    learned = pyqtSignal()

    def __init__(self, settings: QSettings, parent: QObject) -> None:
        super().__init__(parent)
        self._settings = settings
        self.keyboard = MidiKeyboard(self)
        self.keyboard.played.connect(lambda midi: self._pressed(f"note {midi}"))
        self.keyboard.controlled.connect(self._controlled)
        self._learning = ""
        self._down: set[int] = set()

    @property
    def device(self) -> str:
        """The device's name, "" for none."""
        return str(self._settings.value(_DEVICE, ""))

    def choose(self, name: str) -> None:
        """Listen to another device."""
        self._settings.setValue(_DEVICE, name)
        self.open()

    def open(self) -> None:
        """Listen to the device that was chosen, where it is there."""
        name = self.device
        if name and name in self.keyboard.devices():
            self.keyboard.open(name)

    def close(self) -> None:
        """Listen no more."""
        self._learning = ""
        self._down.clear()
        self.keyboard.close()

    def code(self, action: str) -> str:
        """What is pressed for something: "note 60", "controller 64", "" for nothing."""
        return str(self._settings.value(_LEARNED + action, ""))

    def learn(self, action: str) -> None:
        """What is pressed next does this from then on; "" learns nothing."""
        self._learning = action
        self.learned.emit()

    @property
    def is_learning(self) -> str:
        """What is being learned."""
        return self._learning

    def forget(self, action: str) -> None:
        """Nothing that is pressed does this any more."""
        self._settings.remove(_LEARNED + action)
        self.learned.emit()

    def _controlled(self, number: int, value: int) -> None:
        if value < _DOWN:
            self._down.discard(number)
        elif number not in self._down:
            # A pedal that goes down slowly says so many times.
            self._down.add(number)
            self._pressed(f"controller {number}")

    def _pressed(self, code: str) -> None:
        if self._learning:
            for action in ACTIONS:
                if self.code(action) == code:
                    self._settings.remove(_LEARNED + action)
            self._settings.setValue(_LEARNED + self._learning, code)
            self._learning = ""
            self.learned.emit()
            return
        action = next((action for action in ACTIONS if self.code(action) == code), "")
        if action:
            self.pressed.emit(action)
