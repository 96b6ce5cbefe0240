"""What two values of a solo do not share.

An edit keeps the values it does not touch, so they are told apart by identity, which is quick however long a solo is.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Sequence
from fractions import Fraction
from itertools import islice
from operator import is_
from typing import TYPE_CHECKING, TypeVar

if TYPE_CHECKING:
    from gavotte.solo.document import Solo

ItemT = TypeVar("ItemT")


def differing(old: Sequence[ItemT], new: Sequence[ItemT]) -> tuple[int, int, int]:
    """Where two sequences differ: from which place on, up to which place of the old one, up to which of the new one."""
    if old is new:
        return len(old), len(old), len(old)
    lasting = isinstance(old, tuple) and isinstance(new, tuple) and len(old) > _LONG
    if not lasting:
        return _differing(old, new)
    for known_old, known_new, found in tuple(_KNOWN):
        if known_old is old and known_new is new:
            return found
    found = _differing(old, new)
    _KNOWN.append((old, new, found))
    return found


_LONG = 1_000
"""Of longer lines that can't change, what was found last is kept: after an edit many ask the same."""
_KNOWN: deque[tuple[Sequence[object], Sequence[object], tuple[int, int, int]]] = deque(maxlen=8)


def _differing(old: Sequence[ItemT], new: Sequence[ItemT]) -> tuple[int, int, int]:
    shorter = min(len(old), len(new))
    start = _first_other(bytes(map(is_, old, new)), shorter)
    left = shorter - start
    alike = _first_other(bytes(map(is_, islice(reversed(old), left), reversed(new))), left)
    return start, len(old) - alike, len(new) - alike


def _first_other(same: bytes, otherwise: int) -> int:
    found = same.find(0)
    return otherwise if found < 0 else found


def number_alike(old: Sequence[ItemT], new: Sequence[ItemT]) -> int:
    """How many items two sequences begin with that are equal, also where they were made anew."""
    pairs = enumerate(zip(old, new, strict=False))
    return next((index for index, (a, b) in pairs if a is not b and a != b), min(len(old), len(new)))


def not_shared(old: Sequence[ItemT], new: Sequence[ItemT]) -> list[ItemT]:
    """What only one of two sequences holds: first what is gone, then what is new."""
    start, old_stop, new_stop = differing(old, new)
    gone, come = old[start:old_stop], new[start:new_stop]
    in_old, in_new = set(map(id, gone)), set(map(id, come))
    return [item for item in gone if id(item) not in in_new] + [item for item in come if id(item) not in in_old]


def changed_times(old: Solo, new: Solo) -> list[tuple[Fraction, Fraction]]:
    """When (onset, end) the notes, chords and texts sound that two values of a solo do not share."""
    points = [chord.onset for chord in not_shared(old.chords, new.chords)]
    points += [text.onset for text in not_shared(old.texts, new.texts)]
    times = [(note.onset, note.end) for note in not_shared(old.notes, new.notes)]
    return times + [(point, point) for point in points]
