"""Reading exact numbers from outside: nothing is worked out that a few signs could make endless."""

from __future__ import annotations

import re
from fractions import Fraction

_PLAIN, _LONGEST = 20, 40
_NUMBER = re.compile(r"\s*[-+]?(?:\d+(?:/\d+)?|\d*\.\d+|\d+\.)(?:[eE][-+]?\d{1,2})?\s*")
_FURTHEST = 12


def exact(text: str) -> Fraction:
    """The number a text writes ("3", "-1/2", "0.25", "1e3"). Raises ValueError where it is none or out of bounds."""
    if len(text) <= _PLAIN:
        # Nearly all are "12" or "25/2".
        above, _, below = text.partition("/")
        if above.isascii() and above.isdigit():
            if not below:
                return Fraction(int(above)) if "/" not in text else _odd(text)
            if below.isascii() and below.isdigit() and int(below):
                return Fraction(int(above), int(below))
    return _odd(text)


def _odd(text: str) -> Fraction:
    shown = text if len(text) <= _LONGEST else f"{text[:_LONGEST]}…"
    if len(text) > _LONGEST or not text.isascii() or _NUMBER.fullmatch(text) is None:
        raise ValueError(f"{shown!r} is no number a solo can hold")
    _, _, exponent = text.lower().partition("e")
    if exponent and abs(int(exponent)) > _FURTHEST:
        raise ValueError(f"{shown!r} is no number a solo can hold")
    try:
        return Fraction(text)
    except ZeroDivisionError:
        raise ValueError(f"{shown!r} divides by nothing") from None
