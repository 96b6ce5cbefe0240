"""What can change about the things a desk shows, and the one way a widget follows: now, or when it is shown."""

from __future__ import annotations

from collections.abc import Callable
from enum import Flag, auto

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.undisturbed import Undisturbed


class Update(Flag):
    """What is another than before."""

    REPLACED = auto()
    """Another solo is open, or none."""
    EDITED = auto()
    """The open solo's value; its labels may still be to come."""
    LABELLED = auto()
    """The labels."""
    VIEW = auto()
    """Written or concert pitch, numerals, size."""
    SELECTION = auto()
    RECORDING = auto()
    """The recording, or what is known of it."""
    LIBRARY = auto()
    """Which solos and licks there are."""


NOTHING = Update(0)
EVERYTHING = ~NOTHING


class Follower(QObject):
    """Has a widget follow changes: ``show`` is called with them while the widget is seen, else once it is.

    What changes while the widget is hidden is put together, so that it is shown once.
    """

    def __init__(self, widget: QWidget, show: Callable[[Update], None]) -> None:
        super().__init__(widget)
        self._widget, self._show = widget, show
        self._missed = NOTHING
        widget.installEventFilter(self)

    def note(self, change: Update) -> None:
        """Something changed."""
        self._missed |= change
        if self._widget.isVisible():
            self.catch_up()

    @Undisturbed()
    def catch_up(self) -> None:
        """Show what was missed."""
        missed, self._missed = self._missed, NOTHING
        if missed:
            self._show(missed)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Show and watched is self._widget:
            self.catch_up()
        return False
