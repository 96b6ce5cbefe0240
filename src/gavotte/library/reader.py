"""Reading a library: what is on its shelf and in its vocabulary."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass, fields
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, TypeVar

from gavotte.formats.document import SOLO_DOCUMENT, DocumentKind
from gavotte.library.errors import LibraryError
from gavotte.library.recordings import RECORDING_DOCUMENT
from gavotte.library.tables import LICKS, SHEETS, SOLOS, Table
from gavotte.recording.recording import Recording
from gavotte.sheets.sheet import TeachingSheet
from gavotte.solo.document import Solo
from gavotte.vocabulary.lick import LICK_DOCUMENT, Lick

DATABASE = "gavotte.db"


@dataclass(frozen=True, slots=True)
class SoloEntry:
    """A solo as the shelf lists it. ``to_look_at`` is None where that was not worked out yet."""

    id: str
    title: str
    player: str
    style: str
    year: int | None
    album: str
    tempo: float | None
    meter: str
    key: str
    bars: int
    notes: int
    is_head: int
    source: str
    tags: str
    to_look_at: int | None
    modified: datetime

    @property
    def is_solo(self) -> bool:
        """Whether it is a solo with notes, not the head of a tune."""
        return bool(self.notes) and not self.is_head


@dataclass(frozen=True, slots=True)
class LickEntry:
    """A lick as the shelf and the Vocabulary desk list it."""

    id: str
    solo_id: str | None
    name: str
    player: str
    source: str
    context: str
    degrees: str
    key: str
    notes: int
    contexts: str
    tags: str
    words: str
    status: str
    rating: int
    created: datetime


@dataclass(frozen=True, slots=True)
class TakeEntry:
    """A take: its id (with a word before it that no solo's has), and when it was played (ISO 8601)."""

    id: str
    at: str


@dataclass(frozen=True, slots=True)
class SheetEntry:
    """A teaching sheet as it is listed."""

    id: str
    title: str
    pieces: int
    modified: datetime


EntryT = TypeVar("EntryT", SoloEntry, LickEntry, SheetEntry)
ValueT = TypeVar("ValueT")


class LibraryReader:
    """What can be read of a library in ``folder`` by a connection to its database; it belongs to one thread."""

    def __init__(self, folder: Path, db: sqlite3.Connection) -> None:
        self.folder, self._db = folder, db

    @property
    def path(self) -> Path:
        """The database."""
        return self.folder / DATABASE

    def _rows(self, query: str, values: tuple[object, ...] = ()) -> list[tuple[Any, ...]]:
        """All rows of a query. Raises LibraryError."""
        try:
            return self._db.execute(query, values).fetchall()
        except sqlite3.Error as error:
            raise LibraryError(
                f"The library {self.path} can't be read: {error}. Close Gavotte and start it again."
            ) from error

    def counts(self) -> tuple[int, int]:
        """How many solos and licks there are. Raises LibraryError."""
        solos, licks = (
            self._rows(f"SELECT count(*) FROM {table.name} WHERE deleted IS NULL")[0][0] for table in (SOLOS, LICKS)
        )
        return solos, licks

    # -- solos --------------------------------------------------------------------------------------

    def solo(self, solo_id: str) -> Solo:
        """A solo by id. Raises LibraryError, or FormatError for a damaged document."""
        return SOLO_DOCUMENT.read(self.solo_document(solo_id))

    def solo_document(self, solo_id: str) -> bytes:
        """A solo by id, as its document. Raises LibraryError."""
        rows = self._rows("SELECT document FROM solos WHERE id=?", (solo_id,))
        if not rows:
            raise LibraryError("This solo is no longer in the library.")
        data: bytes = rows[0][0]
        return data

    def solos(self) -> list[SoloEntry]:
        """All solos on the shelf, the latest touched first."""
        return self._listed(SOLOS, SoloEntry, "modified")

    def _listed(self, table: Table[Any], entry: type[EntryT], order: str) -> list[EntryT]:
        """The rows that are not deleted, as entries: their fields are named as the columns, ``order`` last."""
        names = [field.name for field in fields(entry)]
        rows = self._rows(
            f"SELECT {', '.join(names)} FROM {table.name} WHERE deleted IS NULL ORDER BY {order} DESC, rowid DESC"
        )
        make: Callable[..., EntryT] = entry
        return [make(*row[:-1], _read_time(row[-1])) for row in rows]

    def recording(self, solo_id: str) -> Recording | None:
        """The recording of a solo, if it has one. Raises LibraryError, or FormatError for a damaged document."""
        rows = self._rows("SELECT document FROM recordings WHERE solo_id=?", (solo_id,))
        return RECORDING_DOCUMENT.read(rows[0][0]) if rows else None

    def recordings(self) -> list[Recording]:
        """The recordings of all solos. Raises LibraryError, or FormatError for a damaged document."""
        return [RECORDING_DOCUMENT.read(row[0]) for row in self._rows("SELECT document FROM recordings")]

    def draft_document(self, solo_id: str) -> bytes | None:
        """The drafted phrases of a solo that are not decided yet, as their document. Raises LibraryError."""
        rows = self._rows("SELECT document FROM drafts WHERE solo_id=?", (solo_id,))
        return rows[0][0] if rows else None

    # -- licks, and what else is kept -----------------------------------------------------------------

    def lick(self, lick_id: str) -> Lick:
        """A lick by id. Raises LibraryError, or FormatError for a damaged document."""
        rows = self._rows("SELECT document FROM licks WHERE id=?", (lick_id,))
        if not rows:
            raise LibraryError("This lick is no longer in the library.")
        return LICK_DOCUMENT.read(rows[0][0])

    def licks(self) -> list[LickEntry]:
        """All kept licks, the latest first."""
        return self._listed(LICKS, LickEntry, "created")

    # -- sheets -------------------------------------------------------------------------------------

    def sheets(self) -> list[SheetEntry]:
        """All teaching sheets, the latest touched first. Raises LibraryError."""
        return self._listed(SHEETS, SheetEntry, "modified")

    def sheet_count(self) -> int:
        """How many teaching sheets there are. Raises LibraryError."""
        number: int = self._rows("SELECT count(*) FROM sheets WHERE deleted IS NULL")[0][0]
        return number

    def sheet(self, sheet_id: str) -> TeachingSheet:
        """A teaching sheet by id. Raises LibraryError, or FormatError for a damaged document."""
        return SHEETS.kind.read(self.sheet_document(sheet_id))

    def sheet_size(self, sheet_id: str) -> int:
        """How many bytes a teaching sheet's document has, 0 where there is none. Raises LibraryError."""
        rows = self._rows("SELECT length(document) FROM sheets WHERE id=?", (sheet_id,))
        return int(rows[0][0]) if rows else 0

    def sheet_document(self, sheet_id: str) -> bytes:
        """A teaching sheet by id, as its document. Raises LibraryError."""
        rows = self._rows("SELECT document FROM sheets WHERE id=?", (sheet_id,))
        if not rows:
            raise LibraryError("This sheet is no longer in the library.")
        data: bytes = rows[0][0]
        return data

    def licks_with_words(self, words: str) -> frozenset[str]:
        """The ids of the licks that have all of some words, or beginnings of words, in name, source or notes."""
        asked = " ".join(f'"{word}"*' for word in words.replace('"', " ").split())
        if not asked:
            return frozenset()
        rows = self._rows(
            "SELECT licks.id FROM lick_words JOIN licks ON licks.rowid = lick_words.rowid "
            "WHERE lick_words MATCH ? AND licks.deleted IS NULL",
            (asked,),
        )
        return frozenset(row[0] for row in rows)

    def lines(self, table: str) -> list[tuple[str, str, bytes | None]]:
        """Every solo or lick that is there, by the name of its table: its id, when it was changed, and its line as
        bytes, None where there is none of that moment yet; in the order in which they are listed.
        """
        order = {SOLOS.name: "modified", LICKS.name: "created"}[table]
        return self._rows(
            f"SELECT t.id, t.modified, lines.line FROM {table} AS t "
            "LEFT JOIN lines ON lines.owner = t.id AND lines.modified = t.modified "
            f"WHERE t.deleted IS NULL ORDER BY t.{order} DESC, t.rowid DESC"
        )

    def documents(self, table: str, owner: str | None = None) -> list[tuple[str, bytes]]:
        """The documents of a table of practice that are not deleted, with their ids, in the order in which they were
        added; only those of an ``owner`` where one is given. Raises LibraryError.
        """
        mine, values = ("", ()) if owner is None else (" AND owner=?", (owner,))
        return self._rows(
            f"SELECT id, document FROM {table} WHERE deleted IS NULL{mine} ORDER BY created, rowid", values
        )

    TAKE = "take:"
    """What the ids of takes begin with where they stand among those of solos."""

    def take_entries(self) -> list[TakeEntry]:
        """All takes, the first ones first. Raises LibraryError."""
        rows = self._rows("SELECT id, created FROM takes WHERE deleted IS NULL ORDER BY created, rowid")
        return [TakeEntry(f"{self.TAKE}{row}", created) for row, created in rows]

    def take_document(self, take_id: str) -> bytes:
        """A take by the id its entry has, as its document. Raises LibraryError."""
        rows = self._rows("SELECT document FROM takes WHERE id=?", (take_id.removeprefix(self.TAKE),))
        if not rows:
            raise LibraryError("This take is no longer in the library.")
        data: bytes = rows[0][0]
        return data

    def owned_documents(self, table: str) -> list[tuple[str, str, bytes]]:
        """The same with the id of what each belongs to: (id, owner, document). Raises LibraryError."""
        return self._rows(f"SELECT id, owner, document FROM {table} WHERE deleted IS NULL ORDER BY created, rowid")

    def document_ids(self, table: str) -> frozenset[str]:
        """The ids of everything in a table of practice, what is deleted too. Raises LibraryError."""
        return frozenset(row[0] for row in self._rows(f"SELECT id FROM {table}"))

    def kept(self, kind: DocumentKind[ValueT]) -> ValueT | None:
        """The library's one document of a kind (its schools, its corrections), None where it has none yet.

        Raises LibraryError, or FormatError for a damaged document.
        """
        rows = self._rows("SELECT document FROM keepsakes WHERE name=?", (kind.member,))
        return kind.read(rows[0][0]) if rows else None


def _read_time(text: str) -> datetime:
    """When a row says it was made or changed; one that says nothing of the kind is listed last."""
    try:
        time = datetime.fromisoformat(text)
        return time if time.tzinfo is not None else time.replace(tzinfo=UTC)
    except ValueError:
        return datetime.fromtimestamp(0, UTC)
