"""The view: how solos are shown, whatever solo it is: written or concert pitch, roman numerals, size."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QSettings, pyqtSignal

from gavotte.solo.document import Solo
from gavotte.solo.instruments import instrument_named
from gavotte.solo.written import as_written, read_by

SMALLEST, LARGEST, STEP = 0.5, 4.0, 1.15


class View(QObject):
    """``written`` shows the instrument's written pitch, ``numerals`` roman numerals, ``zoom`` 1 the usual size.

    ``tablature`` shows it under the staff of instruments with strings.

    ``reader`` is the instrument its user reads everything for, by name; "" reads each solo for its own.

    The school a solo is labelled by belongs to the solo and is kept with it. Signal: ``changed``, emitted by the view
    alone; each change is kept in the settings.
    """

    changed = pyqtSignal()

    def __init__(self, settings: QSettings, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._settings = settings
        self.written: bool = settings.value("written", False, type=bool)
        self.reader = str(settings.value("reader", ""))
        self.numerals: bool = settings.value("numerals", False, type=bool)
        self.tablature: bool = settings.value("tablature", False, type=bool)
        self.zoom = _bounded(float(settings.value("zoom", 1.0)))

    def set_written(self, written: bool) -> None:
        """Show solos and licks as the instrument's player reads them, or in concert pitch."""
        self._set("written", written)

    def set_reader(self, name: str) -> None:
        """Read every solo and lick for one instrument, in its written pitch; "" for the solo's own again."""
        if name and not self.written:
            # Both are told of at once.
            self.written = True
            self._settings.setValue("written", True)
        self._set("reader", name)

    def as_read(self, solo: Solo) -> Solo:
        """A solo as it is taken on by whoever reads it: with their instrument."""
        return read_by(solo, instrument_named(self.reader))

    def written_of(self, solo: Solo) -> Solo:
        """A solo in the written pitch it is read in."""
        return as_written(self.as_read(solo))

    def shown(self, solo: Solo) -> Solo:
        """A solo in the pitch the view shows."""
        return self.written_of(solo) if self.written else solo

    def set_numerals(self, shown: bool) -> None:
        """Show roman numerals under the chord symbols, or not."""
        self._set("numerals", shown)

    def set_tablature(self, shown: bool) -> None:
        """Show tablature under the staff, or not."""
        self._set("tablature", shown)

    def set_zoom(self, zoom: float) -> None:
        """Show pages larger or smaller; 1 is the usual size."""
        self._set("zoom", _bounded(zoom))

    def zoom_by(self, steps: int) -> None:
        """Some steps larger (or smaller); 0 goes back to the usual size."""
        self.set_zoom(self.zoom * STEP**steps if steps else 1.0)

    def _set(self, name: str, value: float | bool | str) -> None:
        if getattr(self, name) != value:
            setattr(self, name, value)
            self._settings.setValue(name, value)
            self.changed.emit()


def _bounded(zoom: float) -> float:
    return min(max(zoom, SMALLEST), LARGEST)
