"""The memory of corrections at the Label desk: kept in the library, written when something was said that is new."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress

from gavotte.labelling.learning import Evidence
from gavotte.library.corrections import CORRECTIONS_DOCUMENT, Corrections, corrections_of
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library


class Memory:
    """What can't be written costs nothing but the memory of it."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self.corrections = corrections_of(library)

    def keep(self, school: str, solo: str, evidence: Mapping[str, Evidence]) -> None:
        """Remember what a solo's corrections say."""
        self._put(self.corrections.with_evidence(school, solo, evidence))

    def decline(self, school: str, choice: str, corrections: int) -> None:
        """Don't offer a choice again until clearly more corrections speak for it."""
        self._put(self.corrections.with_declined(school, choice, corrections))

    def _put(self, corrections: Corrections) -> None:
        before = self.corrections
        # An empty entry for a school says nothing.
        if {k: v for k, v in corrections.evidence.items() if v} == {k: v for k, v in before.evidence.items() if v} and (
            corrections.declined == before.declined
        ):
            return
        self.corrections = corrections
        with suppress(LibraryError):
            self._library.keep(CORRECTIONS_DOCUMENT, corrections)
