"""Where one sounding thing comes out: its output, opened when it is first needed, and replaced where it gives up."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QSettings, QTimer, pyqtSignal

from gavotte.desktop.playback.outputs import Output, SimulatedOutput, Sounding, open_output

DEVICE = "sound/device"
"""Where the settings keep the name of the output that was chosen, "" for the usual one."""


class SoundOut(QObject):
    """The output of one sounding thing. Signals: ``changed`` (another output, or none), ``failed(message)``."""

    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, settings: QSettings, parent: QObject) -> None:
        super().__init__(parent)
        self._settings = settings
        self.output: Output | None = None
        self._sounding: Sounding | None = None
        self._is_running = False

    def open(self, sounding: Sounding) -> None:
        """Make ready to let something sound; nothing happens where that is so already."""
        if self.output is not None:
            return
        self._sounding = sounding
        self.output = open_output(sounding, self, str(self._settings.value(DEVICE, "")))
        self.output.stopped.connect(self._lost)
        self.changed.emit()

    def start(self) -> None:
        """Begin to pull."""
        self._is_running = True
        if self.output is not None:
            self.output.start()

    def stop(self) -> None:
        """Pull no more."""
        self._is_running = False
        if self.output is not None:
            self.output.stop()

    def close(self) -> None:
        """Let the output go; ``open`` opens another."""
        self.stop()
        output, self.output, self._sounding = self.output, None, None
        if output is not None:
            output.stopped.disconnect(self._lost)
            output.close()
            # As a child it would be kept as long as its parent, and with it what it let sound.
            output.setParent(None)

    @property
    def is_heard(self) -> bool:
        """Whether there is a sound card; True as long as nobody has looked."""
        return self.output is None or self.output.is_heard

    @property
    def latency(self) -> float:
        """Seconds between what is pulled and what is heard."""
        return self.output.latency if self.output is not None else 0.0

    def _lost(self, message: str) -> None:
        """The card is gone: the clock runs on, simulated."""
        if self._sounding is None:
            return
        old, self.output = self.output, SimulatedOutput(self._sounding, self)
        self.output.stopped.connect(self._lost)
        if self._is_running:
            self.output.start()
        if old is not None:
            QTimer.singleShot(0, old.close)
        self.failed.emit(message)
        self.changed.emit()
