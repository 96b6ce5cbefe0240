"""The words of the Compare desk."""

from __future__ import annotations

from collections.abc import Sequence

from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.library.reader import SoloEntry
from gavotte.library.solo_sets import SetKind, SoloSet
from gavotte.profile.compared import Compared, Row, Side
from gavotte.profile.comparison import CONFIDENCE
from gavotte.profile.telling import difference_words, shown


def set_words(chosen: SoloSet, entries: Sequence[SoloEntry]) -> str:
    """What a set is called in a choice."""
    if chosen.kind is SetKind.ALL:
        return translate("Gavotte", "All solos")
    if chosen.kind is SetKind.REST:
        return translate("Gavotte", "All others")
    if chosen.kind is SetKind.DECADE:
        return translate("Gavotte", "The {decade}s").format(decade=chosen.value)
    if chosen.kind is SetKind.STYLE:
        return translate("Gavotte", "Style: {style}").format(style=chosen.value)
    if chosen.kind is SetKind.SOLO:
        return next((entry.title for entry in entries if entry.id == chosen.value), chosen.value)
    return chosen.value


def set_said(chosen: SoloSet, entries: Sequence[SoloEntry]) -> str:
    """A set as it is called within a sentence."""
    if chosen.kind is SetKind.ALL:
        return translate("Gavotte", "all solos")
    if chosen.kind is SetKind.REST:
        return translate("Gavotte", "all others")
    if chosen.kind is SetKind.DECADE:
        return translate("Gavotte", "the {decade}s").format(decade=chosen.value)
    return set_words(chosen, entries)


def side_words(side: Side) -> str:
    """How much there is in a set."""
    words = translate("Gavotte", "{solos}, {notes}")
    return words.format(solos=counted(len(side.ids), "solo"), notes=counted(side.notes, "note"))


def row_words(row: Row, here: str, there: str) -> str:
    """What is said of a figure: its sentence, and how far it can be trusted."""
    if row.difference is None:
        value, name = (row.here, here) if row.here is not None else (row.there, there)
        if value is None:
            return ""
        only = translate("Gavotte", "{figure}: {value} in {name}. There is too little in one of the sets to compare.")
        words = row.figure.words[:1].upper() + row.figure.words[1:]
        return only.format(figure=words, value=shown(row.figure, value.value), name=name)
    told = difference_words(row.difference, here, there)
    if row.stands_out:
        sure = translate("Gavotte", "That is more than chance would have it.")
    else:
        sure = translate("Gavotte", "Chance can bring as much.")
    small = any(value is not None and value.is_small for value in (row.here, row.there))
    return " ".join(filter(None, (told, sure, translate("Gavotte", "A small sample.") if small else "")))


def verdict_words(found: Compared) -> str:
    """How many figures set the sets apart, in a sentence."""
    if not found.here.ids or not found.there.ids:
        return translate("Gavotte", "One of the sets has no solos. Choose another.")
    number = len(found.apart)
    if not number:
        return translate(
            "Gavotte", "Nothing differs more than chance would have it. More solos tell smaller differences."
        )
    words = translate("Gavotte", "{number} of {all} figures set them apart, {sure} sure of all of them together.")
    return words.format(number=number, all=len(found.rows), sure=f"{CONFIDENCE:.0%}")
