"""A teaching sheet as a value, and its edits."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from gavotte.sheets.pieces import Bars, Piece, Question, Returns, Scales
from gavotte.solo.document import Solo


class Version(StrEnum):
    """For whom a sheet is written."""

    CONCERT = "concert"
    B_FLAT = "b-flat"
    E_FLAT = "e-flat"
    F = "f"
    BASS_CLEF = "bass-clef"


PAPERS = ("A4", "Letter")
SMALLEST_STAFF, LARGEST_STAFF = 4.0, 10.0


@dataclass(frozen=True, slots=True)
class SheetSource:
    """A solo pieces are taken from, as it was when it was taken. ``solo_id`` is the library's ("" for none there)."""

    id: str
    solo_id: str
    solo: Solo


@dataclass(frozen=True, slots=True)
class TeachingSheet:
    """``pieces`` in order under a ``title`` and ``subtitle``. ``rights`` is the user's line about source and use, which
    stands at the foot of every page; ``header`` at its top. ``staff`` is the height of a staff in millimetres.
    """

    title: str
    subtitle: str = ""
    rights: str = ""
    header: str = ""
    pieces: tuple[Piece, ...] = ()
    sources: tuple[SheetSource, ...] = ()
    paper: str = "A4"
    staff: float = 6.25
    contents: bool = False
    versions: tuple[Version, ...] = (Version.CONCERT,)

    def source(self, source_id: str) -> SheetSource:
        """The source of this id. Raises KeyError."""
        for source in self.sources:
            if source.id == source_id:
                return source
        raise KeyError(source_id)

    def piece(self, piece_id: str) -> Piece | None:
        """The piece of this id, None where there is none."""
        return next((piece for piece in self.pieces if piece.id == piece_id), None)


def new_id() -> str:
    """An id no other piece or source has."""
    return uuid.uuid4().hex[:12]


def source_of(piece: Piece) -> str:
    """The id of the source a piece is taken from, "" where it has none."""
    return piece.source if isinstance(piece, Bars | Question | Returns | Scales) else ""


def with_pieces(
    sheet: TeachingSheet, pieces: Sequence[Piece], sources: Sequence[SheetSource] = (), behind: str = ""
) -> TeachingSheet:
    """The sheet with more pieces, behind the one of an id or at the end, and the sources they are taken from."""
    known = {source.id for source in sheet.sources}
    fresh = tuple(source for source in sources if source.id not in known)
    place = next((k + 1 for k, piece in enumerate(sheet.pieces) if piece.id == behind), len(sheet.pieces))
    return replace(
        sheet, pieces=(*sheet.pieces[:place], *pieces, *sheet.pieces[place:]), sources=(*sheet.sources, *fresh)
    )


def exchanged(sheet: TeachingSheet, piece: Piece) -> TeachingSheet:
    """The sheet with a piece in place of the one of its id."""
    return replace(sheet, pieces=tuple(piece if old.id == piece.id else old for old in sheet.pieces))


def without(sheet: TeachingSheet, piece_id: str) -> TeachingSheet:
    """The sheet without a piece, and without sources nothing is taken from any more."""
    return _tidied(replace(sheet, pieces=tuple(piece for piece in sheet.pieces if piece.id != piece_id)))


def moved(sheet: TeachingSheet, piece_id: str, by: int) -> TeachingSheet:
    """The sheet with a piece some places later (earlier for a negative number), as far as there are places."""
    place = next((k for k, piece in enumerate(sheet.pieces) if piece.id == piece_id), None)
    if place is None:
        return sheet
    goal = max(0, min(len(sheet.pieces) - 1, place + by))
    pieces = list(sheet.pieces)
    pieces.insert(goal, pieces.pop(place))
    return replace(sheet, pieces=tuple(pieces))


def with_source(sheet: TeachingSheet, source: SheetSource) -> TeachingSheet:
    """The sheet with a source in place of the one of its id: its pieces are taken from the solo as it is now."""
    return replace(sheet, sources=tuple(source if old.id == source.id else old for old in sheet.sources))


def source_for(sheet: TeachingSheet, solo: Solo, solo_id: str) -> SheetSource:
    """The sheet's source that is just this solo, or a new one."""
    for source in sheet.sources:
        if source.solo_id == solo_id and source.solo == solo:
            return source
    return SheetSource(new_id(), solo_id, solo)


def _tidied(sheet: TeachingSheet) -> TeachingSheet:
    used = {source_of(piece) for piece in sheet.pieces}
    return replace(sheet, sources=tuple(source for source in sheet.sources if source.id in used))
