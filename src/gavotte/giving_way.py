"""How long computations give way: to whoever is waited for more, and to whoever does not want them any more.

Whatever goes through a whole solo calls ``give_way`` about every millisecond. Usually that does nothing. Whoever runs
it beside something else says in ``giving_way`` what it shall do there: wait, or raise an error to stop.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

_here = threading.local()


def give_way() -> None:
    """A place where a long computation may wait or stop."""
    way: Callable[[], None] | None = getattr(_here, "way", None)
    if way is not None:
        way()


@contextmanager
def giving_way(way: Callable[[], None]) -> Iterator[None]:
    """What this thread computes calls ``way`` wherever it may wait or stop."""
    before: Callable[[], None] | None = getattr(_here, "way", None)
    _here.way = way
    try:
        yield
    finally:
        _here.way = before
