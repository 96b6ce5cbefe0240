"""An explanation: one way to hear one note. Labels are made from the explanation that wins."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.solo.document import Function


@dataclass(frozen=True, slots=True)
class Explanation:
    """``target`` is a note index; ``confidence`` how sure this reading is where it applies (0 to 1).

    ``implied`` is the symbol of another chord the note belongs to, ``degree`` the degree against that chord
    where it is not the chord in force (an anticipation).
    """

    function: Function
    device: str
    confidence: float
    target: int | None = None
    implied: str | None = None
    degree: str | None = None


@dataclass(frozen=True)
class Figure:
    """Notes heard as one thing. ``rule`` is the place in the order of decision: the lower one wins a tie.

    ``members`` are all its notes; ``explains`` holds an explanation for those that are no chord tones.
    """

    rule: int
    name: str
    members: tuple[int, ...]
    explains: dict[int, Explanation]
    target: int | None = None
    implied: str | None = None
