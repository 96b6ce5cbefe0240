"""When Python looks for values that refer to each other in a circle: in the interface's thread, at quiet moments.

Left to itself Python looks whenever enough values were made, in whatever thread made them. A look at everything takes
longer than the interface may stand still, and a widget taken away by another thread brings the program down.
"""

from __future__ import annotations

import gc
import time

from PyQt6.QtCore import QObject, QTimer

from gavotte.giving_back import give_back

_EVERY_MILLISECONDS = 500
_YOUNG = 2_000
"""More new values than this are looked through soon: about a millisecond's work."""
_QUIET = 500
"""Fewer new values than this between two looks: nothing is going on."""
_LATEST = 120
"""After this many looks at what is new it is put to what is old, quiet or not: at least a minute of steady work."""
_STILL = 20
"""After so many looks in a row at which nothing was going on, nobody feels a look at everything."""
_LONGEST = 600
"""After so many looks, five minutes, everything is looked at though there was no such moment; unless it is felt."""
_FELT_SECONDS = 0.1
"""A look at everything that will take longer waits for a moment at which nothing has been going on for long."""
_LONG_STILL = 120
"""So many looks, a minute: whoever was there is doing something else."""


class GarbageCollector(QObject):
    """Frees what is no longer used; as long as it is at work nothing else does."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._young_looks = self._before = self._still = self._since_whole = 0
        self._wants_whole = False
        self._felt: bool | None = None
        self._seconds_a_value = 0.0
        self._timer = QTimer(self)
        self._timer.setInterval(_EVERY_MILLISECONDS)
        self._timer.timeout.connect(self.look)

    def begin(self) -> None:
        """From now on look at quiet moments only; what has been loaded by now stays and is never looked at."""
        gc.disable()
        self._look_at_everything()
        self._timer.start()

    def end(self) -> None:
        """Leave it to Python again."""
        self._timer.stop()
        gc.unfreeze()
        gc.enable()

    def look(self) -> None:
        """Look through what is new when it is much, through everything when nothing has been going on for a while."""
        new = gc.get_count()[0]
        quiet = abs(new - self._before) < _QUIET
        self._still = self._still + 1 if quiet else 0
        if self._young_looks >= _LATEST or (self._young_looks and quiet):
            gc.collect(1)
            # What is still used stays for long, as a rule.
            gc.freeze()
            self._young_looks, self._wants_whole, self._felt = 0, True, None
        elif new > _YOUNG:
            gc.collect(1)
            self._young_looks += 1
        self._since_whole += 1
        if self._wants_whole and (self._still >= _STILL or self._since_whole >= _LONGEST):
            if self._felt is None:
                # Counting them goes through all of them, so it is done once, and where there may be use for it.
                self._felt = gc.get_freeze_count() * self._seconds_a_value >= _FELT_SECONDS
            if not self._felt or self._still >= _LONG_STILL:
                self._look_at_everything()
                self._wants_whole, self._since_whole = False, 0
        self._before = gc.get_count()[0]

    def _look_at_everything(self) -> None:
        begun = time.perf_counter()
        gc.unfreeze()
        gc.collect()
        gc.freeze()
        give_back()
        self._seconds_a_value = (time.perf_counter() - begun) / max(1, gc.get_freeze_count())
