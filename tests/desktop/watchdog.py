"""A Qt application that notes for how long each turn of its event loop keeps everybody waiting."""

from __future__ import annotations

import time

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QApplication

MOST_SECONDS = 1.0
"""No event may take longer, by the clock and by what this thread computed: another program may have the machine."""


class WatchedApplication(QApplication):
    """Keeps the event that took longest since ``forget``. An event that waits for others counts by itself."""

    def __init__(self, arguments: list[str]) -> None:
        super().__init__(arguments)
        self._depth = 0
        self._since = self._computed_since = 0.0
        self.longest, self.longest_event = 0.0, ""

    def forget(self) -> None:
        """Begin anew."""
        self.longest, self.longest_event = 0.0, ""

    def notify(self, receiver: QObject | None, event: QEvent | None) -> bool:
        if self._depth:
            self._note(receiver, event)
        self._begin()
        self._depth += 1
        try:
            return super().notify(receiver, event)
        finally:
            self._depth -= 1
            self._note(receiver, event)
            self._begin()

    def _begin(self) -> None:
        self._since, self._computed_since = time.perf_counter(), time.thread_time()

    def _note(self, receiver: QObject | None, event: QEvent | None) -> None:
        stood = time.perf_counter() - self._since
        if stood <= self.longest:
            return
        stood = min(stood, 2 * (time.thread_time() - self._computed_since))
        if stood > self.longest:
            self.longest = stood
            self.longest_event = f"{type(receiver).__name__}: {event.type() if event is not None else ''}"
