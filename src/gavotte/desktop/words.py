"""The words the desks share for functions and devices, as a musician says them."""

from __future__ import annotations

from gavotte.solo.document import Function

FUNCTION_WORDS = {
    Function.CHORD: "Chord tone",
    Function.EXTENSION: "Extension",
    Function.PASSING: "Passing",
    Function.APPROACH: "Approach",
    Function.OUTSIDE: "Outside",
}

FUNCTION_KEYS = {
    Function.CHORD: "1",
    Function.EXTENSION: "2",
    Function.PASSING: "3",
    Function.APPROACH: "4",
    Function.OUTSIDE: "5",
}

DEVICE_WORDS = {
    "plain": "plain",
    "anticipation": "anticipation",
    "carried": "carried over",
    "natural": "natural colour",
    "altered": "altered colour",
    "blue": "blue note",
    "clash": "clash",
    "passing": "passing",
    "neighbour": "neighbour",
    "step": "resolves by step",
    "chromatic-below": "chromatic from below",
    "chromatic-above": "chromatic from above",
    "chromatic-passing": "chromatic passing",
    "chromatic-neighbour": "chromatic neighbour",
    "double-below": "double from below",
    "double-above": "double from above",
    "enclosure": "enclosure",
    "implied": "implied chord",
    "unexplained": "unexplained",
}


def counted(number: int, one: str, many: str) -> str:
    """ "1 solo", "4 solos"."""
    return f"{number} {one if number == 1 else many}"


def sureness(confidence: float, decided: bool) -> str:
    """How sure a label is, in words with the share."""
    if decided:
        return "Your decision"
    share = f"{round(100 * confidence)} %"
    if confidence >= 0.85:
        return f"Sure ({share})"
    return f"Fairly sure ({share})" if confidence >= 0.6 else f"In doubt ({share})"
