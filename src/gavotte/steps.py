"""Work in steps: generators that yield the share that is done and return what they find."""

from __future__ import annotations

from collections.abc import Generator
from typing import TypeVar

FoundT = TypeVar("FoundT")


def whole(steps: Generator[float, None, FoundT]) -> FoundT:
    """What steps return, gone through to their end at once."""
    while True:
        try:
            next(steps)
        except StopIteration as end:
            found: FoundT = end.value
            return found


def scaled(steps: Generator[float, None, FoundT], low: float, high: float) -> Generator[float, None, FoundT]:
    """A part of a larger work: its shares as shares of the whole, from ``low`` to ``high``."""
    try:
        while True:
            try:
                share = next(steps)
            except StopIteration as end:
                found: FoundT = end.value
                return found
            yield low + (high - low) * share
    finally:
        # Given up on the way, the part cleans up after itself at once.
        steps.close()
