"""Functional names for licks, proposed from what they are played over and what their notes do."""

from __future__ import annotations

import itertools

from gavotte.labelling.figures import figure_kind
from gavotte.solo.document import Function, Solo
from gavotte.solo.label import Label
from gavotte.vocabulary.harmony import context, is_numerals

_ORDINAL = {"1": "the root", "3": "the 3rd", "b3": "the ♭3", "5": "the 5th", "7": "the 7th", "b7": "the ♭7"}


def propose_name(solo: Solo, labels: tuple[Label, ...]) -> str:
    """A name such as "Long ii-V-I: enclosure of the 3rd, ♭9, ♭7 to 3"; the user may change it."""
    place = context(solo)
    features = _features(solo, labels)
    name = f"{place}: {', '.join(features)}" if features else place
    return name if is_numerals(place) else name[0].upper() + name[1:]


def _features(solo: Solo, labels: tuple[Label, ...]) -> list[str]:
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
    landing = _landing(labels)
    if landing:
        features.append(landing)
    if not features and labels:
        features.append(_outline(labels))
    return list(dict.fromkeys(features))[:3]


def _landing(labels: tuple[Label, ...]) -> str:
    """The degrees on both sides of the last chord change: "♭7 to 3"."""
    for before, after in reversed(list(itertools.pairwise(labels))):
        if before.chord != after.chord and after.function is Function.CHORD:
            return f"{before.shown_degree} to {after.shown_degree}"
    return ""


def _outline(labels: tuple[Label, ...]) -> str:
    """The first degrees of a lick over one chord: "1-2-3-5"."""
    return "-".join(label.shown_degree for label in labels[:4])
