"""The library: a folder with ``gavotte.db``. Every write is one transaction; a crash loses none that returned.

Opening checks that the file is whole and makes the day's backup. One window holds a library at a time.

Deleting only sets a date, so that it can be undone; what was deleted over a month ago is cleared on opening.
"""

from __future__ import annotations

import sqlite3
import uuid
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.library import backups
from gavotte.library.errors import DamagedLibraryError, LibraryError, why_not_written
from gavotte.library.lock import FolderLock
from gavotte.library.recordings import RECORDING_DOCUMENT
from gavotte.library.schema import MIGRATIONS, VERSION
from gavotte.recording.recording import Recording
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.vocabulary.harmony import context
from gavotte.vocabulary.lick import LICK_DOCUMENT, Lick

DATABASE = "gavotte.db"
KEEP_DELETED = timedelta(days=30)


@dataclass(frozen=True, slots=True)
class SoloEntry:
    """A solo as the shelf lists it."""

    id: str
    title: str
    player: str
    style: str
    key: str
    bars: int
    notes: int
    in_doubt: int
    modified: datetime


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
    created: datetime


class Library:
    """An open library. Use as a context manager, or call ``close``."""

    def __init__(self, folder: Path) -> None:
        """Open the library in ``folder``, making or migrating it as needed.

        Raises LibraryError; DamagedLibraryError where a backup could help, LibraryInUseError where another window
        has it. Whatever is raised, the library is as it was.
        """
        self.folder = folder
        self.path = folder / DATABASE
        try:
            folder.mkdir(parents=True, exist_ok=True)
            self._lock = FolderLock(folder)
        except OSError as error:
            raise LibraryError(
                f"The library folder {folder} can't be used: {error.strerror or error}. "
                "Allow writing there, or start with another one: gavotte --library FOLDER."
            ) from error
        try:
            self._open()
        except BaseException:
            self._lock.release()
            raise

    def _open(self) -> None:
        try:
            self._db = connect(self.path)
        except sqlite3.Error as error:
            raise LibraryError(f"The library {self.path} can't be opened: {error}. Nothing was changed.") from error
        try:
            self._prepare()
        except sqlite3.OperationalError as error:
            self._db.close()
            raise LibraryError(
                f"The library {self.path} can't be opened: {error}. Nothing was changed. "
                "Make sure that the folder can be written to and the disk is not full."
            ) from error
        except sqlite3.DatabaseError as error:
            self._db.close()
            raise DamagedLibraryError(
                f"The library {self.path} is damaged and can't be opened: {error}. Nothing was changed."
            ) from error
        except BaseException:
            self._db.close()
            raise

    def _prepare(self) -> None:
        self._db.execute("PRAGMA foreign_keys = ON")
        version = self._db.execute("PRAGMA user_version").fetchone()[0]
        if version > VERSION:
            raise LibraryError(
                f"The library {self.path} was written by a newer Gavotte (version {version}; this one reads "
                f"up to {VERSION}). Nothing was changed; update Gavotte to open it."
            )
        found = [row[0] for row in self._db.execute("PRAGMA quick_check(3)")]
        if found != ["ok"]:
            raise sqlite3.DatabaseError("; ".join(found))
        self._db.execute("PRAGMA journal_mode = WAL")
        self._db.execute("PRAGMA synchronous = NORMAL")
        for step in range(version, VERSION):
            if version > 0:
                self._back_up(step)
            self._migrate(step)
        if version:
            self._make_todays_backup()
        old = (_now() - KEEP_DELETED).isoformat()
        with self._writing() as db:
            db.execute("DELETE FROM licks WHERE deleted < ?", (old,))
            db.execute("DELETE FROM solos WHERE deleted < ?", (old,))

    def _migrate(self, step: int) -> None:
        """One migration as one transaction."""
        try:
            self._db.executescript(f"BEGIN; {MIGRATIONS[step]} PRAGMA user_version = {step + 1}; COMMIT;")
        except sqlite3.Error:
            if self._db.in_transaction:
                self._db.execute("ROLLBACK")
            raise

    def _back_up(self, version: int) -> None:
        """Copy the database before it is migrated."""
        copy = sqlite3.connect(self.folder / f"gavotte.version{version}.backup.db")
        try:
            self._db.backup(copy)
        finally:
            copy.close()

    def _make_todays_backup(self) -> None:
        now = _now()
        if not backups.is_due(self.folder, now):
            return
        try:
            backups.make_backup(self._db, self.folder, now)
            backups.prune(self.folder, now)
        except (OSError, sqlite3.Error):
            # A missing backup must not keep anybody from working; the next opening tries again.
            return

    def back_up_now(self) -> None:
        """Make a backup of this moment. Raises LibraryError."""
        try:
            backups.make_backup(self._db, self.folder, _now())
        except (OSError, sqlite3.Error) as error:
            raise LibraryError(f"The backup could not be made: {error}. Nothing was changed.") from error

    def go_back_to(self, backup: Path) -> None:
        """Make a backup's contents the library's, after backing up what is there now. Raises LibraryError."""
        self.back_up_now()
        try:
            with closing(sqlite3.connect(f"file:{backup}?mode=ro", uri=True)) as source:
                version = source.execute("PRAGMA user_version").fetchone()[0]
                whole = source.execute("PRAGMA quick_check(1)").fetchone()[0] == "ok"
                if not whole or not 0 < version <= VERSION:
                    raise LibraryError(f"The backup {backup.name} is damaged. Nothing was changed.")
                source.backup(self._db)
            for step in range(version, VERSION):
                self._migrate(step)
        except sqlite3.Error as error:
            raise LibraryError(f"The backup {backup.name} can't be read: {error}. Nothing was changed.") from error

    def close(self) -> None:
        """Close the database."""
        self._db.close()
        self._lock.release()

    def __enter__(self) -> Library:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    @contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection]:
        """One transaction: all of it or nothing. Inside another one it is a part of that."""
        if self._db.in_transaction:
            yield self._db
            return
        try:
            self._db.execute("BEGIN IMMEDIATE")
            yield self._db
            self._db.execute("COMMIT")
        except sqlite3.Error as error:
            self._roll_back()
            raise LibraryError(why_not_written(error, self.folder)) from error
        except BaseException:
            self._roll_back()
            raise

    @contextmanager
    def as_one_step(self) -> Iterator[None]:
        """Several writes as one: all of them or none. Raises LibraryError."""
        with self._writing():
            yield

    def _roll_back(self) -> None:
        if self._db.in_transaction:
            # Where even this fails, SQLite undoes the transaction when the file is opened again.
            with suppress(sqlite3.Error):
                self._db.execute("ROLLBACK")

    def _rows(self, query: str, values: tuple[object, ...] = ()) -> list[tuple[Any, ...]]:
        """All rows of a query. Raises LibraryError."""
        try:
            return self._db.execute(query, values).fetchall()
        except sqlite3.Error as error:
            raise LibraryError(
                f"The library {self.path} can't be read: {error}. Close Gavotte and start it again."
            ) from error

    # -- solos --------------------------------------------------------------------------------------

    def add_solo(self, solo: Solo, in_doubt: int = 0) -> str:
        """Put a solo on the shelf; gives its id."""
        solo_id = uuid.uuid4().hex
        now = _now().isoformat()
        with self._writing() as db:
            db.execute(
                "INSERT INTO solos VALUES (?,?,?,?,?,?,?,?,?,?,?,NULL)",
                (solo_id, *_solo_columns(solo, in_doubt), now, now),
            )
        return solo_id

    def save_solo(self, solo_id: str, solo: Solo, in_doubt: int = 0) -> None:
        """Write a solo anew. Raises LibraryError where it is not there."""
        with self._writing() as db:
            done = db.execute(
                "UPDATE solos SET title=?, player=?, style=?, key=?, bars=?, notes=?, in_doubt=?, document=?, "
                "modified=? WHERE id=?",
                (*_solo_columns(solo, in_doubt), _now().isoformat(), solo_id),
            )
            if done.rowcount == 0:
                raise LibraryError("This solo is no longer in the library.")

    def solo(self, solo_id: str) -> Solo:
        """A solo by id. Raises LibraryError, or FormatError for a damaged document."""
        rows = self._rows("SELECT document FROM solos WHERE id=?", (solo_id,))
        if not rows:
            raise LibraryError("This solo is no longer in the library.")
        return SOLO_DOCUMENT.read(rows[0][0])

    def solos(self) -> list[SoloEntry]:
        """All solos on the shelf, the latest touched first."""
        rows = self._rows(
            "SELECT id, title, player, style, key, bars, notes, in_doubt, modified FROM solos "
            "WHERE deleted IS NULL ORDER BY modified DESC, rowid DESC"
        )
        return [
            SoloEntry(solo_id, title, player, style, key, bars, notes, in_doubt, datetime.fromisoformat(modified))
            for solo_id, title, player, style, key, bars, notes, in_doubt, modified in rows
        ]

    def delete_solo(self, solo_id: str) -> None:
        """Take a solo off the shelf; its licks stay."""
        self._set_deleted("solos", solo_id, _now().isoformat())

    def restore_solo(self, solo_id: str) -> None:
        """Put a deleted solo back."""
        self._set_deleted("solos", solo_id, None)

    # -- recordings ---------------------------------------------------------------------------------

    def recording(self, solo_id: str) -> Recording | None:
        """The recording of a solo, if it has one. Raises LibraryError, or FormatError for a damaged document."""
        rows = self._rows("SELECT document FROM recordings WHERE solo_id=?", (solo_id,))
        return RECORDING_DOCUMENT.read(rows[0][0]) if rows else None

    def recordings(self) -> list[Recording]:
        """The recordings of all solos. Raises LibraryError, or FormatError for a damaged document."""
        return [RECORDING_DOCUMENT.read(row[0]) for row in self._rows("SELECT document FROM recordings")]

    def save_recording(self, solo_id: str, recording: Recording) -> None:
        """Give a solo a recording, or write anew what is known of it."""
        with self._writing() as db:
            db.execute(
                "INSERT INTO recordings VALUES (?,?,?) ON CONFLICT (solo_id) DO UPDATE SET document=excluded.document, "
                "modified=excluded.modified",
                (solo_id, RECORDING_DOCUMENT.write(recording), _now().isoformat()),
            )

    def remove_recording(self, solo_id: str) -> None:
        """Take a solo's recording from it; the file stays."""
        with self._writing() as db:
            db.execute("DELETE FROM recordings WHERE solo_id=?", (solo_id,))

    # -- licks --------------------------------------------------------------------------------------

    def add_lick(self, lick: Lick) -> str:
        """Keep a lick; gives its id."""
        lick_id = uuid.uuid4().hex
        now = _now().isoformat()
        with self._writing() as db:
            known = db.execute("SELECT 1 FROM solos WHERE id=?", (lick.source.solo_id,)).fetchone()
            db.execute(
                "INSERT INTO licks VALUES (?,?,?,?,?,?,?,?,?,?,?,?,NULL)",
                (lick_id, lick.source.solo_id if known else None, *_lick_columns(lick), now, now),
            )
        return lick_id

    def save_lick(self, lick_id: str, lick: Lick) -> None:
        """Write a lick anew. Raises LibraryError where it is not there."""
        with self._writing() as db:
            done = db.execute(
                "UPDATE licks SET name=?, player=?, source=?, context=?, degrees=?, key=?, notes=?, document=?, "
                "modified=? WHERE id=?",
                (*_lick_columns(lick), _now().isoformat(), lick_id),
            )
            if done.rowcount == 0:
                raise LibraryError("This lick is no longer in the library.")

    def lick(self, lick_id: str) -> Lick:
        """A lick by id. Raises LibraryError, or FormatError for a damaged document."""
        rows = self._rows("SELECT document FROM licks WHERE id=?", (lick_id,))
        if not rows:
            raise LibraryError("This lick is no longer in the library.")
        return LICK_DOCUMENT.read(rows[0][0])

    def licks(self) -> list[LickEntry]:
        """All kept licks, the latest first."""
        rows = self._rows(
            "SELECT id, solo_id, name, player, source, context, degrees, key, notes, created FROM licks "
            "WHERE deleted IS NULL ORDER BY created DESC, rowid DESC"
        )
        return [
            LickEntry(
                lick_id, solo_id, name, player, source, over, degrees, key, notes, datetime.fromisoformat(created)
            )
            for lick_id, solo_id, name, player, source, over, degrees, key, notes, created in rows
        ]

    def delete_lick(self, lick_id: str) -> None:
        """Take a lick out of the vocabulary."""
        self._set_deleted("licks", lick_id, _now().isoformat())

    def restore_lick(self, lick_id: str) -> None:
        """Put a deleted lick back."""
        self._set_deleted("licks", lick_id, None)

    def _set_deleted(self, table: str, row_id: str, when: str | None) -> None:
        with self._writing() as db:
            db.execute(f"UPDATE {table} SET deleted=? WHERE id=?", (when, row_id))


def connect(path: Path) -> sqlite3.Connection:
    """A connection as the library uses it: transactions are begun and ended by hand."""
    return sqlite3.connect(path, isolation_level=None, timeout=5.0)


def _now() -> datetime:
    return datetime.now(UTC)


def _solo_columns(solo: Solo, in_doubt: int) -> tuple[object, ...]:
    bars = sum(bar.number > 0 for bar in BarGrid(solo).bars)
    return (
        solo.title,
        solo.player,
        solo.style,
        str(solo.keys[0].key),
        bars,
        len(solo.notes),
        in_doubt,
        SOLO_DOCUMENT.write(solo),
    )


def _lick_columns(lick: Lick) -> tuple[object, ...]:
    degrees = " ".join(label.degree for label in lick.labels)
    source = f"{lick.source.title}, {lick.source.place}"
    return (
        lick.name,
        lick.source.player,
        source,
        context(lick.solo),
        degrees,
        str(lick.solo.keys[0].key),
        len(lick.solo.notes),
        LICK_DOCUMENT.write(lick),
    )
