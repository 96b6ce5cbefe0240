"""The view: how solos are shown, whatever solo it is: written or concert pitch, roman numerals, size."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QSettings, pyqtSignal

SMALLEST, LARGEST, STEP = 0.5, 4.0, 1.15


class View(QObject):
    """``written`` shows the instrument's written pitch, ``numerals`` roman numerals, ``zoom`` 1 the usual size.

    The school a solo is labelled by belongs to the solo and is kept with it. Signal: ``changed``, emitted by the view
    alone; each change is kept in the settings.
    """

    changed = pyqtSignal()

    def __init__(self, settings: QSettings, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._settings = settings
        self.written: bool = settings.value("written", False, type=bool)
        self.numerals: bool = settings.value("numerals", False, type=bool)
        self.zoom = _bounded(float(settings.value("zoom", 1.0)))

    def set_written(self, written: bool) -> None:
        """Show solos and licks as the instrument's player reads them, or in concert pitch."""
        self._set("written", written)

    def set_numerals(self, shown: bool) -> None:
        """Show roman numerals under the chord symbols, or not."""
        self._set("numerals", shown)

    def set_zoom(self, zoom: float) -> None:
        """Show pages larger or smaller; 1 is the usual size."""
        self._set("zoom", _bounded(zoom))

    def zoom_by(self, steps: int) -> None:
        """Some steps larger (or smaller); 0 goes back to the usual size."""
        self.set_zoom(self.zoom * STEP**steps if steps else 1.0)

    def _set(self, name: str, value: float | bool) -> None:
        if getattr(self, name) != value:
            setattr(self, name, value)
            self._settings.setValue(name, value)
            self.changed.emit()


def _bounded(zoom: float) -> float:
    return min(max(zoom, SMALLEST), LARGEST)
