"""Stretches of the interface's own work in which the worker threads wait.

Python lets one thread run at a time. What answers an event, and paints the page after it, would else share its time
with every worker that computes.
"""

from __future__ import annotations

import threading
import time
from contextlib import ContextDecorator

_LONGEST = 1.0
"""Seconds a stretch is left undisturbed at most: it may have asked the user something, and wait for the answer."""

_free = threading.Event()
_free.set()


class Undisturbed(ContextDecorator):
    """A stretch of the interface's thread in which workers wait where they can. It must not wait for one of them."""

    _depth = 0
    began = 0.0
    """When the outermost stretch began, in seconds of a clock that never goes back."""

    def __enter__(self) -> None:
        if not Undisturbed._depth:
            Undisturbed.began = time.monotonic()
        Undisturbed._depth += 1
        _free.clear()

    def __exit__(self, *_: object) -> None:
        Undisturbed._depth -= 1
        if not Undisturbed._depth:
            _free.set()


def wait_for_interface() -> None:
    """Wait, in a worker, while the interface is at work."""
    if not _free.is_set() and (left := Undisturbed.began + _LONGEST - time.monotonic()) > 0:
        _free.wait(left)
