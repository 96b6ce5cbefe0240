"""How a labelled solo is divided: its phrases and the gestures in them. What comes back is not looked for."""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.phrases import Phrase, gestures_of, phrases_of


@dataclass(frozen=True, eq=False)
class Division:
    """The phrases of a solo, and the smaller gestures each is made of."""

    found: Labelled
    phrases: tuple[Phrase, ...]
    gestures: tuple[tuple[Phrase, ...], ...]


def division_of(found: Labelled) -> Division:
    """How a labelled solo is divided."""
    phrases = phrases_of(found.solo, found.labels)
    return Division(found, phrases, gestures_of(found.solo, phrases))
