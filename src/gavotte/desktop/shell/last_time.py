"""From one start to the next: which solo, notes and desk the window was at, and how each desk stood."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from PyQt6.QtCore import QByteArray, QSettings

from gavotte.desktop.desk.desk import Desk
from gavotte.desktop.desk.studio import Studio


@dataclass(frozen=True)
class Place:
    """Where the window was: the open solo by its id, the current note and the other end of the selection, the desk."""

    solo: str
    note: str
    anchor: str
    desk: str


class LastTime:
    """Keeps in the settings where the window is, and gives back where it was."""

    def __init__(self, settings: QSettings, studio: Studio, desks: Mapping[str, Desk]) -> None:
        self._settings, self._studio, self._desks = settings, studio, desks

    @property
    def place(self) -> Place:
        """Where the window was; "" for what is not known."""
        note = self._said("note")
        return Place(self._said("solo"), note, self._said("anchor") or note, self._said("desk"))

    @property
    def geometry(self) -> QByteArray | None:
        """Where the window was on the screen, and how large."""
        geometry = self._settings.value("geometry")
        return geometry if isinstance(geometry, QByteArray) else None

    def recall(self) -> None:
        """Have every desk go back to how it stood."""
        for name, desk in self._desks.items():
            desk.recall(self._said(f"desks/{name}"))

    def _said(self, name: str) -> str:
        return str(self._settings.value(name, "") or "")

    def keep(self, desk: str, geometry: QByteArray) -> None:
        """Remember where the window is now: at which desk, and where on the screen."""
        selection = self._studio.session.selection
        for key, value in (
            ("solo", self._studio.opening.coming or self._studio.session.solo_id or ""),
            ("note", selection.current or ""),
            ("anchor", selection.anchor or ""),
            ("desk", desk),
            ("geometry", geometry),
        ):
            self._settings.setValue(key, value)
        for name, known in self._desks.items():
            self._settings.setValue(f"desks/{name}", known.remembered())
