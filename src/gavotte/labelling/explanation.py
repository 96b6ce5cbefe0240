"""An explanation: one way to hear one note. Labels are made from the explanation that wins."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from gavotte.solo.document import Function


@dataclass(frozen=True, slots=True)
class Explanation:
    """One way to hear one note, and what it costs where it stands alone.

    ``fit`` says how often two listeners agree once the definition is met (0 to 1). ``target`` is a note index.
    ``implied`` is the symbol of another chord the note belongs to, ``degree`` the degree against that chord
    where it is not the chord in force (an anticipation). ``early`` explanations come before any figure. ``figure``
    names the kind of figure it belongs to, "" where the note stands by itself; ``shape`` what its notes are in words,
    where they are not the tones of a chord ("B♭ minor pentatonic").
    """

    function: Function
    device: str
    fit: float
    target: int | None = None
    implied: str | None = None
    degree: str | None = None
    cost: float = 0.0
    early: bool = False
    figure: str = ""
    shape: str = ""

    @property
    def kind(self) -> tuple[Function, str]:
        """What it calls the note."""
        return self.function, self.device


@dataclass(frozen=True, eq=False)
class Figure:
    """Notes heard as one thing; ``kind`` names what kind of figure it is.

    ``members`` are all its notes; ``explains`` holds an explanation for those that are no chord tones,
    ``spells`` the other chord each member belongs to, if any; ``extra`` is what a school adds to its cost.
    """

    kind: str
    members: tuple[int, ...]
    explains: Mapping[int, Explanation]
    target: int | None = None
    spells: Mapping[int, str] = field(default_factory=dict)
    extra: float = 0.0
