"""Taking a line to the Workshop from another desk, whether it is kept as a lick or not."""

from __future__ import annotations

from PyQt6.QtCore import QObject

from gavotte.desktop.asks import Asks
from gavotte.vocabulary.lick import Lick

TAKEN = "taken"
"""The view in which the Workshop takes what is on its way there."""


class ToTheBench(QObject):
    """Holds the line that is on its way."""

    def __init__(self, asks: Asks, parent: QObject) -> None:
        super().__init__(parent)
        self._asks = asks
        self._lick: Lick | None = None

    def send(self, lick: Lick) -> None:
        """Go to the Workshop with a line."""
        self._lick = lick
        self._asks.go("workshop", "", TAKEN)

    def arrived(self) -> Lick | None:
        """The line that was on its way; the next time there is none."""
        lick, self._lick = self._lick, None
        return lick
