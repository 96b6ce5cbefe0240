"""Sets of a library's solos that can be compared: by player, style, time, source or tag, single ones, all, the rest,
and one's own takes.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

import msgspec

from gavotte.library.reader import SoloEntry, TakeEntry
from gavotte.solo.tags import read_tags


class SetKind(StrEnum):
    """What holds a set together."""

    ALL = "all"
    REST = "rest"
    PLAYER = "player"
    STYLE = "style"
    DECADE = "decade"
    YEAR = "year"
    ALBUM = "album"
    SOURCE = "source"
    TAG = "tag"
    SOLO = "solo"
    SEVERAL = "several"
    TAKES = "takes"


CRITERIA = (
    SetKind.PLAYER, SetKind.STYLE, SetKind.DECADE, SetKind.YEAR, SetKind.ALBUM, SetKind.SOURCE, SetKind.TAG,
)  # fmt: skip
"""What solos are chosen by, in the order it is offered."""

Chosen = Mapping[SetKind, tuple[str, ...]]
"""Several values of several criteria, and single solos."""


@dataclass(frozen=True, slots=True)
class SoloSet:
    """A set by what holds it together: the player's name, the style, the decade ("1950"), the solo's id.

    Of SEVERAL the value holds what was ``chosen``; of TAKES it is what their time begins with ("2026", "2026-11").
    """

    kind: SetKind
    value: str = ""

    @property
    def code(self) -> str:
        """How settings keep it."""
        return f"{self.kind}={self.value}"

    @staticmethod
    def of(code: str) -> SoloSet | None:
        """The set a code stands for, None for any other text."""
        kind, _, value = code.partition("=")
        if kind not in set(SetKind):
            return None
        found = SoloSet(SetKind(kind), value)
        return None if found.kind is SetKind.SEVERAL and not found.chosen else found

    @staticmethod
    def several(chosen: Chosen) -> SoloSet:
        """The solos that fit: of each criterion one of its values, of different criteria all; and single ones."""
        kept = {str(kind): list(values) for kind, values in chosen.items() if values}
        return SoloSet(SetKind.SEVERAL, msgspec.json.encode(kept).decode())

    @property
    def chosen(self) -> Chosen:
        """What SEVERAL was made of; empty for other sets, and where the value says nothing."""
        if self.kind is not SetKind.SEVERAL:
            return {}
        try:
            found = msgspec.json.decode(self.value, type=dict[str, tuple[str, ...]])
        except msgspec.MsgspecError:
            return {}
        return {SetKind(kind): values for kind, values in found.items() if kind in (*CRITERIA, SetKind.SOLO)}


def values_of(kind: SetKind, entries: Sequence[SoloEntry]) -> list[str]:
    """The values a criterion has among some solos, in order."""
    return sorted({value for entry in entries for value in _VALUES[kind](entry) if value})


def sets_of(entries: Sequence[SoloEntry], takes: Sequence[TakeEntry] = ()) -> list[SoloSet]:
    """The sets there are: all solos, what the other set leaves, by each criterion, one's takes, single solos."""
    months = sorted({take.at[:7] for take in takes}, reverse=True)
    years = sorted({month[:4] for month in months}, reverse=True)
    return [
        SoloSet(SetKind.ALL),
        SoloSet(SetKind.REST),
        *(SoloSet(kind, value) for kind in CRITERIA for value in values_of(kind, entries)),
        *(SoloSet(SetKind.TAKES, value) for value in (["", *years, *months] if takes else [])),
        *(SoloSet(SetKind.SOLO, entry.id) for entry in sorted(entries, key=lambda entry: entry.title)),
    ]


def members(
    chosen: SoloSet, other: SoloSet, entries: Sequence[SoloEntry], takes: Sequence[TakeEntry] = ()
) -> list[str]:
    """The ids of the solos or takes in a set, heads left out; ``other`` is the set it is compared with."""
    solos = [entry for entry in entries if entry.is_solo]
    if chosen.kind is SetKind.TAKES:
        return [take.id for take in takes if take.at.startswith(chosen.value)]
    if chosen.kind is SetKind.REST:
        taken = set() if other.kind is SetKind.REST else set(members(other, chosen, entries, takes))
        return [entry.id for entry in solos if entry.id not in taken]
    return [entry.id for entry in solos if _is_in(chosen, entry)]


def _is_in(chosen: SoloSet, entry: SoloEntry) -> bool:
    if chosen.kind is SetKind.SEVERAL:
        wanted = chosen.chosen
        criteria = {kind: values for kind, values in wanted.items() if kind is not SetKind.SOLO}
        fits = bool(criteria) and all(_has(entry, kind, values) for kind, values in criteria.items())
        return fits or entry.id in wanted.get(SetKind.SOLO, ())
    if chosen.kind is SetKind.SOLO:
        return entry.id == chosen.value
    return chosen.kind is SetKind.ALL or (chosen.kind in _VALUES and _has(entry, chosen.kind, (chosen.value,)))


def _has(entry: SoloEntry, kind: SetKind, values: Collection[str]) -> bool:
    return any(value in values for value in _VALUES[kind](entry))


_VALUES: Mapping[SetKind, Callable[[SoloEntry], tuple[str, ...]]] = {
    SetKind.PLAYER: lambda entry: (entry.player,),
    SetKind.STYLE: lambda entry: (entry.style,),
    SetKind.DECADE: lambda entry: () if entry.year is None else (str(10 * (entry.year // 10)),),
    SetKind.YEAR: lambda entry: () if entry.year is None else (str(entry.year),),
    SetKind.ALBUM: lambda entry: (entry.album,),
    SetKind.SOURCE: lambda entry: (entry.source,),
    SetKind.TAG: lambda entry: read_tags(entry.tags),
}
