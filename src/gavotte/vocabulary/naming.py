"""Functional names for licks, proposed from what they are played over and what their notes do.

A name says the harmony, how the line begins ("5 ♭3 1", or "3 5 ♭7 9 up"), what is special in it, and where it goes:
"Long ii-V-I: 1 ♭3 5 ♭7 up, enclosure of the 3rd, ♭13 to 3". It can be read aloud, and two licks hardly ever share it.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence

from gavotte.labelling.figures import figure_kind
from gavotte.solo.document import Function, Note, Solo
from gavotte.solo.label import Label
from gavotte.vocabulary.harmony import context, is_numerals

_ORDINAL = {"1": "the root", "3": "the 3rd", "b3": "the ♭3", "5": "the 5th", "7": "the 7th", "b7": "the ♭7"}
_OPENING = 4
"""As many notes a name says of how a line begins."""
_MOST_FEATURES = 2


def propose_name(solo: Solo, labels: tuple[Label, ...], form: str = "") -> str:
    """A name for a lick; the user may change it. ``form`` is the place of its solo's form, where that says more."""
    place = form or context(solo)
    opening = _opening(solo, labels)
    features = [feature for feature in _features(labels) if feature not in opening]
    parts = [opening, *features[:_MOST_FEATURES], _ending(labels)]
    told = ", ".join(dict.fromkeys(part for part in parts if part))
    name = f"{place}: {told}" if told else place
    return name if is_numerals(place) else name[0].upper() + name[1:]


def _opening(solo: Solo, labels: Sequence[Label]) -> str:
    """The degrees of the first notes, with their direction where they keep one: "3 5 ♭7 9 up"."""
    heads = [(note, label) for note, label in _noted(solo, labels) if not note.grace][:_OPENING]
    degrees = " ".join(label.shown_degree for _, label in heads)
    moves = [b.pitch.midi - a.pitch.midi for (a, _), (b, _) in itertools.pairwise(heads)]
    if len(moves) > 1 and all(move > 0 for move in moves):
        return f"{degrees} up"
    if len(moves) > 1 and all(move < 0 for move in moves):
        return f"{degrees} down"
    return degrees


def _noted(solo: Solo, labels: Sequence[Label]) -> list[tuple[Note, Label]]:
    return [(solo.note(label.note), label) for label in labels if label.note in solo.places]


def _features(labels: Sequence[Label]) -> list[str]:
    """What is special in a line: its figures with their goals, blue notes, altered tones, what it implies."""
    degree_of = {label.note: label.degree for label in labels}
    features: list[str] = []
    for label in labels:
        goal = _ORDINAL.get(degree_of.get(label.target or "", ""), "")
        kind = figure_kind(label.figure)
        feature = kind.feature(goal) if kind is not None and label.device in kind.devices else ""
        if feature:
            features.append(feature)
    if any(label.device == "blue" for label in labels):
        features.append("blue notes")
    altered = list(dict.fromkeys(label.shown_degree for label in labels if label.device == "altered"))
    if altered:
        features.append(" ".join(altered[:3]))
    return list(dict.fromkeys(features))


def _ending(labels: Sequence[Label]) -> str:
    """The degrees on both sides of the last chord change ("♭7 to 3"), and the last one where the line goes on to it."""
    if not labels:
        return ""
    last = labels[-1].shown_degree
    for k in range(len(labels) - 1, 0, -1):
        before, after = labels[k - 1], labels[k]
        if before.chord != after.chord and after.function is Function.CHORD:
            landing = f"{before.shown_degree} to {after.shown_degree}"
            return landing if k == len(labels) - 1 else f"{landing}, ending on {last}"
    return f"ending on {last}" if len(labels) > _OPENING else ""
