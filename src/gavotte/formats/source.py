"""What every readable file offers: lines that could be the solo, and one of them as a document."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from gavotte.formats.errors import FormatError
from gavotte.solo.bounds import BoundsError, within_bounds
from gavotte.solo.document import Solo


def possible(solo: Solo) -> Solo:
    """The solo that was read, once it is certain that it is one. Raises FormatError that says what can't be."""
    try:
        return within_bounds(solo)
    except BoundsError as error:
        raise FormatError(f"This can't be a solo: {error}. The file may be damaged; export it again.") from error


@dataclass(frozen=True, slots=True)
class VoiceSummary:
    """One line of a file that could be the solo. ``doubled`` counts notes struck together with another."""

    part: str
    part_name: str
    voice: str
    notes: int
    doubled: int
    chords: int


@dataclass(frozen=True)
class Imported:
    """The solo, and what a reader should know about how it was read."""

    solo: Solo
    remarks: tuple[str, ...]


class Source(Protocol):
    """A file that has been read. ``voices`` has the likeliest solo first."""

    voices: tuple[VoiceSummary, ...]
    has_repeats: bool

    def solo(
        self, chosen: VoiceSummary | None = None, fallback_title: str = "Untitled", as_heard: bool = True
    ) -> Imported:
        """The solo in one line, by default the likeliest. Raises FormatError.

        With ``as_heard`` repeats are played out; else every bar comes once, as it is written.
        """
