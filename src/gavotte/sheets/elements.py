"""What a sheet comes to for one version: headings, words, music and drawings in a row, for paper and web page."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from gavotte.notation.written import Notation
from gavotte.phrasing.division import Division
from gavotte.sheets.pieces import Shown
from gavotte.sheets.sheet import Version
from gavotte.solo.bars import Bar, BarGrid
from gavotte.solo.document import Solo
from gavotte.solo.label import Label


class Style(StrEnum):
    """How words stand: as a text, as a question that stays with its music, under music or a picture, or as a numbered
    reason.
    """

    BODY = "body"
    QUESTION = "question"
    CAPTION = "caption"
    REASON = "reason"


@dataclass(frozen=True, slots=True)
class Heading:
    """A heading; those of ``level`` 1 are listed in the contents."""

    words: str
    level: int = 1


@dataclass(frozen=True, slots=True)
class Paragraph:
    """One paragraph, with **bold** words."""

    words: str
    style: Style = Style.BODY


def bold_runs(words: str) -> list[tuple[str, bool]]:
    """The runs of a paragraph without their signs, each with whether it is **bold**; where a sign lacks its other one
    the paragraph is one run, as it stands.
    """
    runs = words.split("**")
    if len(runs) % 2 == 0:
        return [(words, False)]
    return [(run, number % 2 == 1) for number, run in enumerate(runs) if run]


@dataclass(frozen=True, eq=False)
class Music:
    """The bars ``first`` up to ``last`` of a solo, by their indexes, with its labels.

    ``notation`` is how the solo is written. ``blank`` leaves the lane to be filled in. ``numbers`` are those of the
    notes whose reasons are told under it. ``skeleton`` is what is left of the line, set under each of its lines;
    ``division`` has its phrases.
    """

    notation: Notation
    labels: dict[str, Label]
    first: int
    last: int
    shown: Shown
    blank: bool = False
    numbered: bool = True
    numbers: Mapping[str, int] = field(default_factory=dict)
    division: Division | None = None
    skeleton: tuple[Notation, dict[str, Label]] | None = None

    @property
    def solo(self) -> Solo:
        """The solo."""
        return self.notation.solo

    @property
    def solo_bars(self) -> tuple[Bar, ...]:
        """The bars that are shown."""
        return BarGrid(self.solo).bars[self.first : self.last]


@dataclass(frozen=True, slots=True)
class Drawing:
    """A drawing as SVG, and what it shows in words."""

    svg: str
    words: str = ""


@dataclass(frozen=True, slots=True)
class PageEnd:
    """What follows begins a page."""


Element = Heading | Paragraph | Music | Drawing | PageEnd


@dataclass(frozen=True, slots=True)
class Part:
    """A piece's elements, by its id; "answers" for the last page."""

    piece: str
    elements: tuple[Element, ...]


ANSWERS = "answers"
READERS = {
    Version.CONCERT: "Concert pitch",
    Version.B_FLAT: "For B♭ instruments",
    Version.E_FLAT: "For E♭ instruments",
    Version.F: "For F instruments",
    Version.BASS_CLEF: "Bass clef",
}
"""For whom a version is written, as the sheet says it."""


@dataclass(frozen=True, slots=True)
class Composed:
    """A sheet for one version, or for None as it sounds."""

    title: str
    subtitle: str
    rights: str
    header: str
    version: Version | None
    contents: bool
    parts: tuple[Part, ...]

    @property
    def readers(self) -> str:
        """For whom it is written, in words."""
        return "" if self.version is None else READERS[self.version]

    @property
    def about(self) -> str:
        """What stands under the title."""
        return " · ".join(part for part in (self.subtitle, self.readers) if part)

    @property
    def elements(self) -> tuple[Element, ...]:
        """All of them in a row."""
        return tuple(element for part in self.parts for element in part.elements)
