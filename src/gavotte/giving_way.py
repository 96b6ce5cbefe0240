"""How long computations give way: to whoever is waited for more, and to whoever does not want them any more.

Whatever goes through a whole solo calls ``give_way`` about every millisecond. Usually that does nothing. Whoever runs
it beside something else says in ``giving_way`` what it shall do there: wait, or raise an error to stop.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import get_ident

_ways: dict[int, Callable[[], None]] = {}
"""By thread. Usually empty, which is quickly seen."""


def give_way() -> None:
    """A place where a long computation may wait or stop."""
    if _ways and (way := _ways.get(get_ident())) is not None:
        way()


@contextmanager
def giving_way(way: Callable[[], None]) -> Iterator[None]:
    """What this thread computes calls ``way`` wherever it may wait or stop."""
    thread = get_ident()
    before = _ways.get(thread)
    _ways[thread] = way
    try:
        yield
    finally:
        if before is None:
            del _ways[thread]
        else:
            _ways[thread] = before
