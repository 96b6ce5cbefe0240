"""What a kind of figure says of itself: how it is found, what comes before it, and every word about it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from gavotte.labelling.explanation import Explanation, Figure
from gavotte.labelling.frame import Frame
from gavotte.labelling.framed_note import FramedNote
from gavotte.solo.school import School

Finder = Callable[[Frame, School, int, int], Iterator[Figure]]
"""Finds the figures that lie between two note indexes, the second not included."""


@dataclass(frozen=True)
class Told:
    """A figure for the analysis as text: the names of its notes, how many they are, where they lead ("" for nowhere),
    the chord they spell and the one they stand over, their degrees, and the device of the first that is no chord tone.
    """

    names: str
    size: int
    goal: str
    spelled: str
    over: str
    degrees: str
    device: str


@dataclass(frozen=True)
class FigureKind:
    """A kind of figure.

    ``name`` is what labels carry, ``title`` what a reader sees. ``rule`` is its place in the order of decision: of two
    figures that explain equally many notes the lower one wins. ``devices`` are those it gives to its notes.

    ``reason`` is the sentence for one of its notes, ``short`` the same in a few words without its name, ``phrase`` what
    its notes do together, without a full stop; ``feature`` what it adds to the name of a lick ("" for nothing), given
    the degree it leads to in words ("the 3rd", "" for none).

    ``surprise`` is how surprising each of its devices is where they are its own (see ``slips``). ``overrides_early``: a
    note inside it is no anticipation. ``not_inside`` names kinds whose chord tones are no members of this one.
    """

    name: str
    title: str
    rule: float
    find: Finder
    devices: tuple[str, ...]
    reason: Callable[[Frame, FramedNote, Explanation], str]
    short: Callable[[Frame, FramedNote, Explanation], str]
    phrase: Callable[[Told], str]
    feature: Callable[[str], str]
    surprise: Mapping[str, float] = field(default_factory=dict)
    overrides_early: bool = False
    not_inside: tuple[str, ...] = ()
