"""The words the desks share for functions and devices, as a musician says them."""

from __future__ import annotations

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.harmony.keys import HeardKey
from gavotte.labelling.figures import figure_kind
from gavotte.labelling.overview import Group
from gavotte.solo.document import Function, KeyRegion
from gavotte.solo.label import Label
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord

FUNCTION_WORDS = {
    Function.CHORD: QT_TRANSLATE_NOOP("Gavotte", "Chord tone"),
    Function.EXTENSION: QT_TRANSLATE_NOOP("Gavotte", "Extension"),
    Function.PASSING: QT_TRANSLATE_NOOP("Gavotte", "Passing"),
    Function.APPROACH: QT_TRANSLATE_NOOP("Gavotte", "Approach"),
    Function.OUTSIDE: QT_TRANSLATE_NOOP("Gavotte", "Outside"),
}

KEY_FUNCTION_WORDS = FUNCTION_WORDS | {
    Function.CHORD: QT_TRANSLATE_NOOP("Gavotte", "Stable degree"),
    Function.EXTENSION: QT_TRANSLATE_NOOP("Gavotte", "Active degree"),
    Function.OUTSIDE: QT_TRANSLATE_NOOP("Gavotte", "Outside the key"),
}
"""The same where no chord is written: notes are heard against the key alone."""

FUNCTION_KEYS = {
    Function.CHORD: "1",
    Function.EXTENSION: "2",
    Function.PASSING: "3",
    Function.APPROACH: "4",
    Function.OUTSIDE: "5",
}


def function_words(function: Function, label: Label) -> str:
    """What a function is called for a note: against its chord, or against the key where none is written."""
    return said((FUNCTION_WORDS if label.chord else KEY_FUNCTION_WORDS)[function])


DEVICE_WORDS = {
    "plain": QT_TRANSLATE_NOOP("Gavotte", "plain"),
    "anticipation": QT_TRANSLATE_NOOP("Gavotte", "anticipation"),
    "carried": QT_TRANSLATE_NOOP("Gavotte", "carried over"),
    "natural": QT_TRANSLATE_NOOP("Gavotte", "natural colour"),
    "altered": QT_TRANSLATE_NOOP("Gavotte", "altered colour"),
    "blue": QT_TRANSLATE_NOOP("Gavotte", "blue note"),
    "clash": QT_TRANSLATE_NOOP("Gavotte", "clash"),
    "passing": QT_TRANSLATE_NOOP("Gavotte", "passing"),
    "neighbour": QT_TRANSLATE_NOOP("Gavotte", "neighbour"),
    "step": QT_TRANSLATE_NOOP("Gavotte", "resolves by step"),
    "chromatic-below": QT_TRANSLATE_NOOP("Gavotte", "chromatic from below"),
    "chromatic-above": QT_TRANSLATE_NOOP("Gavotte", "chromatic from above"),
    "chromatic-passing": QT_TRANSLATE_NOOP("Gavotte", "chromatic passing"),
    "chromatic-neighbour": QT_TRANSLATE_NOOP("Gavotte", "chromatic neighbour"),
    "double-below": QT_TRANSLATE_NOOP("Gavotte", "double from below"),
    "double-above": QT_TRANSLATE_NOOP("Gavotte", "double from above"),
    "enclosure": QT_TRANSLATE_NOOP("Gavotte", "enclosure"),
    "implied": QT_TRANSLATE_NOOP("Gavotte", "implied chord"),
    "unexplained": QT_TRANSLATE_NOOP("Gavotte", "unexplained"),
}


def device_words(device: str) -> str:
    """What a device is called."""
    return said(DEVICE_WORDS[device]) if device in DEVICE_WORDS else device


FIGURE_WORDS = {
    "enclosure": QT_TRANSLATE_NOOP("Gavotte", "Enclosure"),
    "double approach": QT_TRANSLATE_NOOP("Gavotte", "Double approach"),
    "chromatic run": QT_TRANSLATE_NOOP("Gavotte", "Chromatic run"),
    "implied run": QT_TRANSLATE_NOOP("Gavotte", "Implied run"),
    "upper structure": QT_TRANSLATE_NOOP("Gavotte", "Upper structure"),
}


def figure_words(group: Group) -> str:
    """What a figure is called: "Enclosure", "Upper structure F♯°7"."""
    spelled = f" {shown_chord(parse_chord_symbol(group.spells))}" if group.spells else ""
    kind = figure_kind(group.kind)
    word = said(FIGURE_WORDS[group.kind]) if group.kind in FIGURE_WORDS else kind.title if kind is not None else ""
    return word + spelled


_COUNTED = {
    "note": (QT_TRANSLATE_NOOP("Gavotte", "note"), QT_TRANSLATE_NOOP("Gavotte", "notes")),
    "note in doubt": (QT_TRANSLATE_NOOP("Gavotte", "note in doubt"), QT_TRANSLATE_NOOP("Gavotte", "notes in doubt")),
    "thing to look at": (
        QT_TRANSLATE_NOOP("Gavotte", "thing to look at"),
        QT_TRANSLATE_NOOP("Gavotte", "things to look at"),
    ),
    "label": (QT_TRANSLATE_NOOP("Gavotte", "label"), QT_TRANSLATE_NOOP("Gavotte", "labels")),
    "solo": (QT_TRANSLATE_NOOP("Gavotte", "solo"), QT_TRANSLATE_NOOP("Gavotte", "solos")),
    "take": (QT_TRANSLATE_NOOP("Gavotte", "take"), QT_TRANSLATE_NOOP("Gavotte", "takes")),
    "place": (QT_TRANSLATE_NOOP("Gavotte", "place"), QT_TRANSLATE_NOOP("Gavotte", "places")),
    "lick": (QT_TRANSLATE_NOOP("Gavotte", "lick"), QT_TRANSLATE_NOOP("Gavotte", "licks")),
    "beat": (QT_TRANSLATE_NOOP("Gavotte", "beat"), QT_TRANSLATE_NOOP("Gavotte", "beats")),
    "phrase": (QT_TRANSLATE_NOOP("Gavotte", "phrase"), QT_TRANSLATE_NOOP("Gavotte", "phrases")),
    "bar": (QT_TRANSLATE_NOOP("Gavotte", "bar"), QT_TRANSLATE_NOOP("Gavotte", "bars")),
    "key": (QT_TRANSLATE_NOOP("Gavotte", "key"), QT_TRANSLATE_NOOP("Gavotte", "keys")),
    "pass": (QT_TRANSLATE_NOOP("Gavotte", "pass"), QT_TRANSLATE_NOOP("Gavotte", "passes")),
    "day": (QT_TRANSLATE_NOOP("Gavotte", "day"), QT_TRANSLATE_NOOP("Gavotte", "days")),
    "minute": (QT_TRANSLATE_NOOP("Gavotte", "minute"), QT_TRANSLATE_NOOP("Gavotte", "minutes")),
    "piece": (QT_TRANSLATE_NOOP("Gavotte", "piece"), QT_TRANSLATE_NOOP("Gavotte", "pieces")),
    "sheet": (QT_TRANSLATE_NOOP("Gavotte", "sheet"), QT_TRANSLATE_NOOP("Gavotte", "sheets")),
    "half step": (QT_TRANSLATE_NOOP("Gavotte", "half step"), QT_TRANSLATE_NOOP("Gavotte", "half steps")),
    "step": (QT_TRANSLATE_NOOP("Gavotte", "step"), QT_TRANSLATE_NOOP("Gavotte", "steps")),
    "chord symbol": (QT_TRANSLATE_NOOP("Gavotte", "chord symbol"), QT_TRANSLATE_NOOP("Gavotte", "chord symbols")),
}


def counted(number: int, noun: str) -> str:
    """ "1 solo", "4 solos"; ``noun`` is the English singular. Raises KeyError for a noun without a plural."""
    return f"{number} {said(_COUNTED[noun][number != 1])}"


def key_words(region: KeyRegion | HeardKey) -> str:
    """A key as it is said: "B♭ major", "D dorian", "F blues", "C minor blues"."""
    if not region.blues:
        return region.key.shown
    tonic = region.key.tonic.shown
    words = (
        translate("Gavotte", "{tonic} minor blues") if region.key.is_minor else translate("Gavotte", "{tonic} blues")
    )
    return words.format(tonic=tonic)


def sureness(confidence: float, decided: bool) -> str:
    """How sure a label is, in words with the share."""
    if decided:
        return translate("Gavotte", "Your decision")
    share = f"{round(100 * confidence)} %"
    if confidence >= 0.85:
        return translate("Gavotte", "Sure ({share})").format(share=share)
    return (
        translate("Gavotte", "Fairly sure ({share})").format(share=share)
        if confidence >= 0.6
        else translate("Gavotte", "In doubt ({share})").format(share=share)
    )
