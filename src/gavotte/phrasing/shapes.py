"""Few notes: the triads, pairs of triads and groups of four that hold a whole stretch.

Whoever plays the same three or four notes, or two triads in turn, does not choose from a scale (a pair of triads that
share no note: J. Weiskopf, *Intervallic Improvisation*, 1995).
"""

from __future__ import annotations

from dataclasses import dataclass

from gavotte.labelling.labeller import Labelled
from gavotte.theory.pitch import PitchName

_TRIADS = {"triad": (0, 4, 7), "minor triad": (0, 3, 7), "diminished triad": (0, 3, 6), "augmented triad": (0, 4, 8)}
_FOURS = {"1-2-3-5": (0, 2, 4, 7), "1-2-♭3-5": (0, 2, 3, 7), "1-3-5-6": (0, 4, 7, 9), "1-♭3-5-6": (0, 3, 7, 9),
          "1-3-5-7": (0, 4, 7, 11), "1-♭3-5-♭7": (0, 3, 7, 10), "1-3-5-♭7": (0, 4, 7, 10),
          "1-♭3-♭5-♭7": (0, 3, 6, 10), "1-4-5": (0, 5, 7), "1-4-5-♭7": (0, 5, 7, 10)}  # fmt: skip
_UPPER = {"3-5-7-9": (4, 7, 11, 2), "♭3-5-♭7-9": (3, 7, 10, 2), "3-5-♭7-9": (4, 7, 10, 2), "3-♭7-9-13": (4, 10, 2, 9)}
"""Groups over a chord's root that leave the root itself out."""
_LEAST_NOTES = 4
_PAIRED = ("triad", "minor triad")


@dataclass(frozen=True, slots=True)
class Shape:
    """Few notes that hold a stretch: what they are called ("F and G triads"), and how many there are."""

    name: str
    tones: int


def shape_of(found: Labelled, first: int, last: int) -> Shape | None:
    """The smallest shape whose notes are exactly those of a stretch (by index), or None.

    A stretch of fewer than four notes is too short to tell.
    """
    notes = [note for note in found.solo.notes[first : last + 1] if not note.grace]
    if len(notes) < _LEAST_NOTES:
        return None
    names: dict[int, PitchName] = {}
    for note in notes:
        names.setdefault(note.pitch.pitch_class, note.pitch.name)
    played = frozenset(names)
    if len(played) == 1:
        return Shape(f"{next(iter(names.values())).shown} alone", 1)
    for kinds in (_TRIADS, _FOURS):
        # Of two names for the same notes the one from the note that is played first.
        for root, spelled in names.items():
            for name, steps in kinds.items():
                if played == frozenset((root + step) % 12 for step in steps):
                    joined = f"{spelled.shown} {name}" if kinds is _TRIADS else f"{name} of {spelled.shown}"
                    return Shape(joined, len(played))
    upper = _over_the_root(found, first, last, played)
    return upper if upper is not None else _pair(names, played)


def _over_the_root(found: Labelled, first: int, last: int, played: frozenset[int]) -> Shape | None:
    spans = {found.frame.span_of(note).chord.root for note in found.frame.notes[first : last + 1]}
    if len(spans) != 1:
        return None
    root = next(iter(spans))
    for name, steps in _UPPER.items():
        if played == frozenset((root.pitch_class + step) % 12 for step in steps):
            return Shape(f"{name} of {root.shown}", len(played))
    return None


def _pair(names: dict[int, PitchName], played: frozenset[int]) -> Shape | None:
    """Two triads that share no note and are all that is played."""
    if len(played) != 2 * len(_TRIADS["triad"]):
        return None
    triads = [
        (root, kind, tones)
        for root in sorted(names)
        for kind in _PAIRED
        if (tones := frozenset((root + step) % 12 for step in _TRIADS[kind])) <= played
    ]
    for root, kind, tones in triads:
        for other, other_kind, other_tones in triads:
            if root < other and not tones & other_tones:
                one, two = (f"{names[r].shown}{'m' if k == 'minor triad' else ''}"
                            for r, k in ((root, kind), (other, other_kind)))  # fmt: skip
                return Shape(f"{one} and {two} triads", len(played))
    return None
