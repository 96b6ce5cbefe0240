"""The pieces a teaching sheet is put together of. Each is a value that knows its music itself.

Bars of a solo name the source they are taken from (``sheet.SheetSource``); licks and pictures are held whole. So a
sheet stays what it is, whatever becomes of the library's solos.
"""

from __future__ import annotations

from enum import StrEnum

import msgspec

from gavotte.vocabulary.lick import Lick
from gavotte.workshop.keys import KeyOrder
from gavotte.workshop.laid import AlignBy

FEWEST_BARS, MOST_BARS = 1, 8


class Skeleton(StrEnum):
    """Whether what is left of the line on its strong beats is set, under each line of it or in its place."""

    NONE = "none"
    UNDER = "under"
    ALONE = "alone"


class Shown(msgspec.Struct, frozen=True, kw_only=True):
    """What stands over and under the notes of some bars, and how many ``bars`` go on a line."""

    lane: bool = True
    degrees: bool = True
    chords: bool = True
    numerals: bool = False
    tablature: bool = False
    fingering: bool = True
    phrases: bool = False
    skeleton: Skeleton = Skeleton.NONE
    reasons: bool = False
    bars: int = 4


class SheetPiece(msgspec.Struct, frozen=True, kw_only=True):
    """What every piece has: an ``id`` of its own in the sheet, and the ``heading`` over it ("" for none)."""

    id: str
    heading: str = ""


class Words(SheetPiece, frozen=True, kw_only=True, tag="words"):
    """Text: paragraphs parted by empty lines, with **bold** words, and notes and chords in {braces} (see ``names``)."""

    words: str = ""


class Bars(SheetPiece, frozen=True, kw_only=True, tag="bars"):
    """Bars of a source by their numbers, 0 being the pickup; ``words`` stand under them."""

    source: str
    first: int
    last: int
    shown: Shown = Shown()
    words: str = ""


class Question(SheetPiece, frozen=True, kw_only=True, tag="question"):
    """A question, with bars whose lane is left blank where it has a ``source``; its ``answer`` stands on the last page,
    under the same bars with their lane.
    """

    words: str = ""
    answer: str = ""
    source: str = ""
    first: int = 1
    last: int = 1
    shown: Shown = Shown()


class Returns(SheetPiece, frozen=True, kw_only=True, tag="returns"):
    """What comes back in a source, laid under one another: each place by the ids of its first and last note, and how it
    comes back there, in words.
    """

    source: str
    places: tuple[tuple[str, str, str], ...]
    shown: Shown = Shown()
    words: str = ""


class Licks(SheetPiece, frozen=True, kw_only=True, tag="licks"):
    """Licks laid under one another; ``in_one_key`` brings them to the key of the first, and ``align`` says whether bar
    stands under bar or goal under goal.
    """

    licks: tuple[Lick, ...]
    in_one_key: bool = False
    align: AlignBy = AlignBy.BEAT
    shown: Shown = Shown()
    words: str = ""


class Keys(SheetPiece, frozen=True, kw_only=True, tag="keys"):
    """A lick in several keys, one after another in an order (``seed`` decides one at random); ``key_a_page`` begins a
    page for each.
    """

    lick: Lick
    order: KeyOrder = KeyOrder.CIRCLE
    seed: int = 1
    count: int = 12
    key_a_page: bool = False
    shown: Shown = Shown()
    words: str = ""


class Scales(SheetPiece, frozen=True, kw_only=True, tag="scales"):
    """The chords of some bars of a source, each with its scale, chord tones marked."""

    source: str
    first: int
    last: int
    words: str = ""


class Picture(SheetPiece, frozen=True, kw_only=True, tag="picture"):
    """A drawing (SVG), with words under it."""

    svg: str
    words: str = ""


class NewPage(SheetPiece, frozen=True, kw_only=True, tag="new page"):
    """What comes behind it begins a page."""


Piece = Words | Bars | Question | Returns | Licks | Keys | Scales | Picture | NewPage


class PieceKind(StrEnum):
    """The kinds of pieces, by their tags."""

    WORDS = "words"
    BARS = "bars"
    QUESTION = "question"
    RETURNS = "returns"
    LICKS = "licks"
    KEYS = "keys"
    SCALES = "scales"
    PICTURE = "picture"
    NEW_PAGE = "new page"


def kind_of(piece: Piece) -> PieceKind:
    """Of which kind a piece is."""
    return PieceKind(str(type(piece).__struct_config__.tag))
