"""Labels: what a note does against its chord. Computed from a solo, kept apart from it."""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass, replace

from gavotte.solo.document import Function
from gavotte.theory.degrees import shown_degree

DEVICES: dict[Function, tuple[str, ...]] = {
    Function.CHORD: ("plain", "anticipation", "carried"),
    Function.EXTENSION: ("natural", "altered", "blue", "clash"),
    Function.PASSING: ("passing", "neighbour", "step"),
    Function.APPROACH: (
        "chromatic-below",
        "chromatic-above",
        "chromatic-passing",
        "chromatic-neighbour",
        "double-below",
        "double-above",
        "enclosure",
    ),
    Function.OUTSIDE: ("implied", "unexplained"),
}
"""The devices each function can have."""

DOUBT_BELOW = 0.6
"""A label less sure than this is listed as in doubt."""


@dataclass(frozen=True, slots=True)
class Alternative:
    """Another reading of a note that is worth considering."""

    function: Function
    device: str
    target: str | None
    reason: str


@dataclass(frozen=True, slots=True)
class Sustained:
    """What a note becomes over a chord that starts while it sounds: the chord in normal form, and the degree."""

    chord: str
    degree: str


@dataclass(frozen=True, slots=True)
class Label:
    """One note's label.

    ``note`` and ``target`` are note ids; ``chord`` is the chord in force in normal form ("" where there is none);
    ``scale`` names the local scale; ``group`` is what the notes of one figure share, the id of the first note it
    explains, and ``figure`` the name of its kind. ``confidence`` is a share from 0 to 1. ``decided`` says that the user
    set the function. ``shown`` is the degree as its school writes it. Where the note is read otherwise than by the
    changes, ``heard`` says by what ("B♭ blues", "over E♭m7"), and ``other`` is its degree in the other reading: above
    the key centre's tonic, or against the written chord.
    """

    note: str
    function: Function
    device: str
    degree: str
    chord: str
    scale: str
    target: str | None = None
    implied: str | None = None
    group: str | None = None
    confidence: float = 1.0
    reason: str = ""
    alternatives: tuple[Alternative, ...] = ()
    sustained: tuple[Sustained, ...] = ()
    decided: bool = False
    tension: float = 0.0
    shown: str = ""
    heard: str = ""
    other: str = ""
    figure: str = ""

    @property
    def shown_degree(self) -> str:
        """The degree in music type, as the school writes it."""
        return self.shown or shown_degree(self.degree)

    @property
    def in_doubt(self) -> bool:
        """Whether the user should look at it: not decided, and unexplained or not sure."""
        if self.decided:
            return False
        return self.device == "unexplained" or self.confidence < DOUBT_BELOW


def led_within(label: Label, notes: Container[str]) -> Label:
    """A label among some notes (ids): it leads to none that is not there."""
    return label if label.target is None or label.target in notes else replace(label, target=None)
