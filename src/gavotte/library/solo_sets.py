"""Sets of a library's solos that can be compared: a player's, a style's, a decade's, a single solo, all, the rest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from gavotte.library.reader import SoloEntry


class SetKind(StrEnum):
    """What holds a set together."""

    ALL = "all"
    REST = "rest"
    PLAYER = "player"
    STYLE = "style"
    DECADE = "decade"
    SOLO = "solo"


@dataclass(frozen=True, slots=True)
class SoloSet:
    """A set by what holds it together: the player's name, the style, the decade ("1950"), the solo's id."""

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
        return SoloSet(SetKind(kind), value) if kind in set(SetKind) else None


def sets_of(entries: Sequence[SoloEntry]) -> list[SoloSet]:
    """The sets there are: all solos, what the other set leaves, players, styles, decades, single solos."""
    players = sorted({entry.player for entry in entries if entry.player})
    styles = sorted({entry.style for entry in entries if entry.style})
    decades = sorted({_decade(entry) for entry in entries if entry.year is not None})
    return [
        SoloSet(SetKind.ALL),
        SoloSet(SetKind.REST),
        *(SoloSet(SetKind.PLAYER, player) for player in players),
        *(SoloSet(SetKind.STYLE, style) for style in styles),
        *(SoloSet(SetKind.DECADE, decade) for decade in decades),
        *(SoloSet(SetKind.SOLO, entry.id) for entry in sorted(entries, key=lambda entry: entry.title)),
    ]


def members(chosen: SoloSet, other: SoloSet, entries: Sequence[SoloEntry]) -> list[str]:
    """The ids of the solos in a set, heads left out; ``other`` is the set it is compared with."""
    solos = [entry for entry in entries if entry.notes and not entry.is_head]
    if chosen.kind is SetKind.REST:
        taken = set() if other.kind is SetKind.REST else set(members(other, chosen, entries))
        return [entry.id for entry in solos if entry.id not in taken]
    return [entry.id for entry in solos if _is_in(chosen, entry)]


def _is_in(chosen: SoloSet, entry: SoloEntry) -> bool:
    return {
        SetKind.ALL: True,
        SetKind.PLAYER: entry.player == chosen.value,
        SetKind.STYLE: entry.style == chosen.value,
        SetKind.DECADE: entry.year is not None and _decade(entry) == chosen.value,
        SetKind.SOLO: entry.id == chosen.value,
    }.get(chosen.kind, False)


def _decade(entry: SoloEntry) -> str:
    return str(10 * ((entry.year or 0) // 10))
