"""Work that goes on in a thread while pages are laid out in small steps."""

from __future__ import annotations

import threading
from collections.abc import Callable, Generator
from concurrent.futures import ThreadPoolExecutor
from time import sleep
from typing import TypeVar

from gavotte.giving_way import giving_way

FoundT = TypeVar("FoundT")
_A_MOMENT_SECONDS = 0.004


class _GivenUpError(Exception):
    """Nobody wants it any more."""


def worked_beside(work: Callable[[], FoundT], share: float) -> Generator[float, None, FoundT]:
    """What some work comes to, done in a thread while the steps go on, and given up with them; ``share`` is what they
    yield meanwhile.
    """
    stopped = threading.Event()

    def give_way() -> None:
        if stopped.is_set():
            raise _GivenUpError

    def run() -> FoundT:
        with giving_way(give_way):
            return work()

    pool = ThreadPoolExecutor(max_workers=1)
    try:
        found = pool.submit(run)
        while not found.done():
            sleep(_A_MOMENT_SECONDS)
            yield share
        return found.result()
    finally:
        stopped.set()
        pool.shutdown(wait=False)
