"""What was worked out for a long value, kept by its identity: comparing it would cost more than working it out."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from functools import wraps
from typing import TypeVar

ValueT = TypeVar("ValueT")
ResultT = TypeVar("ResultT")


def kept_by_identity(number: int) -> Callable[[Callable[[ValueT], ResultT]], Callable[[ValueT], ResultT]]:
    """A decorator that keeps what a function of one value gave for the ``number`` values asked for last."""

    def decorate(function: Callable[[ValueT], ResultT]) -> Callable[[ValueT], ResultT]:
        known: deque[tuple[ValueT, ResultT]] = deque(maxlen=number)

        @wraps(function)
        def remembered(value: ValueT) -> ResultT:
            for other, result in tuple(known):
                if other is value:
                    return result
            result = function(value)
            known.append((value, result))
            return result

        return remembered

    return decorate
