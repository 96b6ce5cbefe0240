"""What was worked out for a long value, kept by its identity: comparing it would cost more than working it out."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from functools import update_wrapper
from typing import Generic, TypeVar

ValueT = TypeVar("ValueT")
ResultT = TypeVar("ResultT")

_TRIED = 2
"""So many values known last may be what an edit was made of."""


def kept_by_identity(number: int) -> Callable[[Callable[[ValueT], ResultT]], Callable[[ValueT], ResultT]]:
    """A decorator that keeps what a function of one value gave for the ``number`` values asked for last."""

    def decorate(function: Callable[[ValueT], ResultT]) -> Callable[[ValueT], ResultT]:
        return _Kept(number, function)

    return decorate


def followed_by_identity(
    number: int, follow: Callable[[ValueT, ResultT, ValueT], ResultT | None]
) -> Callable[[Callable[[ValueT], ResultT]], Callable[[ValueT], ResultT]]:
    """The same, where what a value gives can be made out of what another one gave that it is an edit of.

    ``follow(before, result, value)`` gives that, or None where it would be as quick to work it out.
    """

    def decorate(function: Callable[[ValueT], ResultT]) -> Callable[[ValueT], ResultT]:
        return _Kept(number, function, follow)

    return decorate


class _Kept(Generic[ValueT, ResultT]):
    """A function that remembers."""

    def __init__(
        self,
        number: int,
        function: Callable[[ValueT], ResultT],
        follow: Callable[[ValueT, ResultT, ValueT], ResultT | None] | None = None,
    ) -> None:
        self._function, self._follow = function, follow
        self._known: deque[tuple[ValueT, ResultT]] = deque(maxlen=number)
        update_wrapper(self, function)

    def __call__(self, value: ValueT) -> ResultT:
        pairs = tuple(self._known)
        for other, result in pairs:
            if other is value:
                return result
        found = self._followed(pairs, value)
        result = self._function(value) if found is None else found
        self._known.append((value, result))
        return result

    def _followed(self, pairs: tuple[tuple[ValueT, ResultT], ...], value: ValueT) -> ResultT | None:
        if self._follow is None:
            return None
        for before, result in reversed(pairs[-_TRIED:]):
            found = self._follow(before, result, value)
            if found is not None:
                return found
        return None
