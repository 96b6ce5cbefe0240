"""The words of the Compare desk."""

from __future__ import annotations

from collections.abc import Sequence

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.words import counted
from gavotte.library.played_takes import is_take
from gavotte.library.reader import SoloEntry
from gavotte.library.solo_sets import SetKind, SoloSet
from gavotte.profile.compared import Compared, Row, Side
from gavotte.profile.comparison import CONFIDENCE
from gavotte.profile.over_time import Change, OverTime
from gavotte.profile.parts import Part, PartKind
from gavotte.profile.shared import SharedCell
from gavotte.profile.telling import difference_words, shown

_CRITERIA = {
    SetKind.PLAYER: QT_TRANSLATE_NOOP("Gavotte", "Players"),
    SetKind.STYLE: QT_TRANSLATE_NOOP("Gavotte", "Styles"),
    SetKind.DECADE: QT_TRANSLATE_NOOP("Gavotte", "Decades"),
    SetKind.YEAR: QT_TRANSLATE_NOOP("Gavotte", "Years"),
    SetKind.ALBUM: QT_TRANSLATE_NOOP("Gavotte", "Albums"),
    SetKind.SOURCE: QT_TRANSLATE_NOOP("Gavotte", "Sources"),
    SetKind.TAG: QT_TRANSLATE_NOOP("Gavotte", "Tags"),
    SetKind.SOLO: QT_TRANSLATE_NOOP("Gavotte", "Single solos"),
}
_SET = {
    SetKind.STYLE: QT_TRANSLATE_NOOP("Gavotte", "Style: {value}"),
    SetKind.ALBUM: QT_TRANSLATE_NOOP("Gavotte", "Album: {value}"),
    SetKind.SOURCE: QT_TRANSLATE_NOOP("Gavotte", "Source: {value}"),
    SetKind.TAG: QT_TRANSLATE_NOOP("Gavotte", "Tag: {value}"),
    SetKind.DECADE: QT_TRANSLATE_NOOP("Gavotte", "The {value}s"),
    SetKind.TAKES: QT_TRANSLATE_NOOP("Gavotte", "My takes of {value}"),
}
_PARTS = {
    PartKind.WHOLE: QT_TRANSLATE_NOOP("Gavotte", "Whole solos"),
    PartKind.FIRST: QT_TRANSLATE_NOOP("Gavotte", "First chorus"),
    PartKind.LAST: QT_TRANSLATE_NOOP("Gavotte", "Last chorus"),
    PartKind.CHORUS: QT_TRANSLATE_NOOP("Gavotte", "Chorus {value}"),
    PartKind.SECTION: QT_TRANSLATE_NOOP("Gavotte", "Section {value}"),
}


def criterion_words(kind: SetKind) -> str:
    """What solos are chosen by, as a heading."""
    return said(_CRITERIA[kind])


def value_words(kind: SetKind, value: str) -> str:
    """A value of a criterion under its heading."""
    return said(_SET[kind]).format(value=value) if kind is SetKind.DECADE else value


def part_words(part: Part) -> str:
    """What a part of solos is called."""
    return said(_PARTS[part.kind]).format(value=part.value)


def set_words(chosen: SoloSet, entries: Sequence[SoloEntry]) -> str:
    """What a set is called in a choice."""
    if chosen.kind is SetKind.ALL:
        return translate("Gavotte", "All solos")
    if chosen.kind is SetKind.REST:
        return translate("Gavotte", "All others")
    if chosen.kind is SetKind.TAKES and not chosen.value:
        return translate("Gavotte", "All my takes")
    if chosen.kind is SetKind.SOLO:
        return next((entry.title for entry in entries if entry.id == chosen.value), chosen.value)
    if chosen.kind is SetKind.SEVERAL:
        return several_words(chosen, entries)
    return said(_SET[chosen.kind]).format(value=chosen.value) if chosen.kind in _SET else chosen.value


def several_words(chosen: SoloSet, entries: Sequence[SoloEntry]) -> str:
    """What a set of several is made of: "Ada or Bo; the 1950s; and 2 solos"."""
    either = translate("Gavotte", " or ")
    parts = []
    for kind, values in chosen.chosen.items():
        if kind is SetKind.SOLO:
            titles = [entry.title for entry in entries if entry.id in values]
            parts.append(titles[0] if len(titles) == 1 else counted(len(titles), "solo"))
        else:
            parts.append(either.join(value_words(kind, value) for value in values))
    return "; ".join(parts)


def set_said(chosen: SoloSet, entries: Sequence[SoloEntry]) -> str:
    """A set as it is called within a sentence."""
    words = set_words(chosen, entries)
    if chosen.kind in (SetKind.ALL, SetKind.REST, SetKind.DECADE, SetKind.TAKES):
        return words[:1].lower() + words[1:]
    return words


def side_words(side: Side) -> str:
    """How much there is in a set."""
    words = translate("Gavotte", "{solos}, {notes}")
    if side.ids and all(is_take(name) for name in side.ids):
        return words.format(solos=counted(len(side.ids), "take"), notes=counted(side.notes, "note"))
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
    words = translate("Gavotte", "{number} of {all} figures set them apart, at {sure} all together.")
    return words.format(number=number, all=len(found.rows), sure=f"{CONFIDENCE:.0%}")


def cell_words(cell: SharedCell, here: str, there: str) -> str:
    """What is said of a cell that both sets have."""
    words = translate("Gavotte", "{degrees} stands in {here} {mine} and in {there} {theirs}; {relation}.")
    return words.format(
        degrees=cell.degrees, here=here, there=there, mine=times_words(len(cell.here)),
        theirs=times_words(len(cell.there)), relation=cell.relation, )  # fmt: skip


def times_words(number: int) -> str:
    """ "once", "3 times"."""
    if number == 1:
        return translate("Gavotte", "once")
    return translate("Gavotte", "{number} times").format(number=number)


def change_words(change: Change, over: OverTime) -> str:
    """What is said of a change: from when to when, and how far it can be trusted."""
    there = [(time, value) for time, value in zip(over.times, change.values, strict=True) if value is not None]
    if not there:
        return ""
    (first, before), (last, after) = there[0], there[-1]
    words = translate("Gavotte", "{figure}: {before} in {first}, {after} in {last}.")
    figure = change.figure
    told = words.format(
        figure=figure.words[:1].upper() + figure.words[1:], first=first, last=last,
        before=shown(figure, before.value), after=shown(figure, after.value),
    )  # fmt: skip
    if change.stands_out:
        return f"{told} " + translate("Gavotte", "That is more than chance would have it.")
    return f"{told} " + translate("Gavotte", "Chance can bring as much.")
