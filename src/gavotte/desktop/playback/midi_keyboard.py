"""MIDI keyboards: notes played on a connected one, or on the stand-in where there is none."""

from __future__ import annotations

import logging
import sys
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.translation import translate

log = logging.getLogger(__name__)

_SEQUENCER = Path("/dev/snd/seq")
_BACKEND = "mido.backends.rtmidi"


class MidiKeyboard(QObject):
    """Keys pressed on the MIDI keyboards that are plugged in.

    Signals: ``played(midi)``, ``released(midi)`` and ``controlled(number, value)`` (a pedal or slider, 0 to 127), in
    the interface's thread whatever thread the device speaks in; ``failed(message)``.

    ``play``, ``let_go`` and ``control`` are the stand-in: whoever calls them is heard as a device would be.
    """

    played = pyqtSignal(int)
    released = pyqtSignal(int)
    controlled = pyqtSignal(int, int)
    failed = pyqtSignal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._port: Any = None
        self.name = ""

    def devices(self) -> list[str]:
        """The names of the keyboards that are connected; none where the machine has no MIDI."""
        if sys.platform == "linux" and not _SEQUENCER.exists():
            return []
        try:
            import mido

            names: list[str] = mido.Backend(_BACKEND, load=True).get_input_names()
        except Exception as error:
            # Without a sequencer, or without the driver's library, the system has no MIDI: each says so differently.
            log.info("no MIDI here: %s", error)
            return []
        # Every system has a through port, which plays nothing by itself.
        return list(dict.fromkeys(name for name in names if "through" not in name.lower()))

    def open(self, name: str) -> bool:
        """Listen to a keyboard, in place of the one before; "" listens to none."""
        self.close()
        if not name:
            return True
        try:
            import mido

            self._port = mido.Backend(_BACKEND, load=True).open_input(name, callback=self._received)
        except Exception as error:
            self.failed.emit(translate("Gavotte", "{name} can't be opened: {error}").format(name=name, error=error))
            return False
        self.name = name
        return True

    def close(self) -> None:
        """Listen to nothing more."""
        if self._port is not None:
            self._port.close()
            self._port = None
        self.name = ""

    def _received(self, message: Any) -> None:
        if message.type == "note_on" and message.velocity > 0:
            self.played.emit(message.note)
        elif message.type in ("note_on", "note_off"):
            self.released.emit(message.note)
        elif message.type == "control_change":
            self.controlled.emit(message.control, message.value)

    def control(self, number: int, value: int) -> None:
        """A pedal or slider of the stand-in."""
        self.controlled.emit(number, value)

    def play(self, midi: int) -> None:
        """A key of the stand-in."""
        self.played.emit(midi)

    def let_go(self, midi: int) -> None:
        """A key of the stand-in is let go."""
        self.released.emit(midi)
