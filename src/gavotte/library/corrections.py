"""What is remembered of corrections: for each school and solo what they spoke for, and which offers were declined."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

import msgspec

from gavotte.formats.document import DocumentKind
from gavotte.labelling.learning import ENOUGH_FOR, Evidence
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library

FILE_NAME = "corrections.json"
_OfSolo = dict[str, tuple[int, int]]


@dataclass(frozen=True, slots=True)
class Corrections:
    """``evidence``: school, solo and choice to (other way, as it is). ``declined``: school and choice to how many
    corrections spoke for it when the offer was declined.
    """

    evidence: dict[str, dict[str, _OfSolo]] = field(default_factory=dict)
    declined: dict[str, dict[str, int]] = field(default_factory=dict)

    def elsewhere(self, school: str, but_not: str) -> dict[str, Evidence]:
        """What the corrections of all solos but one have said about each choice of a school."""
        total: dict[str, Evidence] = {}
        for solo, choices in self.evidence.get(school, {}).items():
            if solo != but_not:
                for choice, (other_way, as_it_is) in choices.items():
                    total[choice] = total.get(choice, Evidence()) + Evidence(other_way, as_it_is)
        return total

    def with_evidence(self, school: str, solo: str, evidence: Mapping[str, Evidence]) -> Corrections:
        """The same with what a solo's corrections say now."""
        fresh = {choice: (said.other_way, said.as_it_is) for choice, said in evidence.items()}
        solos = {known: said for known, said in self.evidence.get(school, {}).items() if known != solo}
        return replace(self, evidence={**self.evidence, school: {**solos, solo: fresh} if fresh else solos})

    def with_declined(self, school: str, choice: str, corrections: int) -> Corrections:
        """The same with an offer declined, for which so many corrections spoke."""
        return replace(self, declined={**self.declined, school: {**self.declined.get(school, {}), choice: corrections}})

    def is_declined(self, school: str, choice: str, corrections: int) -> bool:
        """Whether an offer was declined, and not enough has come since."""
        before = self.declined.get(school, {}).get(choice)
        return before is not None and corrections < before + ENOUGH_FOR

    def joined(self, others: Corrections, ids: Mapping[str, str]) -> Corrections:
        """These with others, whose solos have other ids here: ``ids`` gives the new one of each old one."""
        joined = self
        for school, solos in others.evidence.items():
            for solo, choices in solos.items():
                if solo in ids:
                    said = {choice: Evidence(*numbers) for choice, numbers in choices.items()}
                    joined = joined.with_evidence(school, ids[solo], said)
        return joined


CORRECTIONS_DOCUMENT = DocumentKind("gavotte-corrections", 1, "corrections", Corrections)


def take_in_corrections(library: Library, folder: Path) -> None:
    """Move corrections from the small file where they lay before into a library that has none. The file is left there.

    A file that can't be read costs nothing but the memory. Raises LibraryError.
    """
    if library.kept(CORRECTIONS_DOCUMENT) is not None:
        return
    try:
        read = msgspec.convert(json.loads((folder / FILE_NAME).read_text(encoding="utf-8")), Corrections)
    except (OSError, ValueError):
        return
    library.keep(CORRECTIONS_DOCUMENT, read)


def corrections_of(library: Library) -> Corrections:
    """What a library remembers; nothing where its document can't be read."""
    try:
        return library.kept(CORRECTIONS_DOCUMENT) or Corrections()
    except (LibraryError, ValueError):
        return Corrections()
