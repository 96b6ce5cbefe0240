"""The library: a folder with ``gavotte.db``. Every write is one transaction; a crash loses none that returned.

Opening checks that the file is whole and makes the day's backup. One window holds a library at a time.

Deleting only sets a date, so that it can be undone; what was deleted more than a month ago, with as many days on which
the library was opened since, is cleared on opening.
"""

from __future__ import annotations

import sqlite3
import uuid
from collections.abc import Iterable, Iterator, Mapping
from contextlib import closing, contextmanager, suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from gavotte.formats.document import DocumentKind
from gavotte.library import backups
from gavotte.library.database import connect, connect_to_read
from gavotte.library.drafts import DRAFT_DOCUMENT
from gavotte.library.errors import DamagedLibraryError, LibraryError, why_not_written
from gavotte.library.lock import FolderLock
from gavotte.library.reader import LibraryReader, ValueT
from gavotte.library.recordings import RECORDING_DOCUMENT
from gavotte.library.schema import MIGRATIONS, VERSION
from gavotte.library.tables import LICKS, SHEETS, SOLOS, Table, insert, update
from gavotte.recording.recording import Recording
from gavotte.sheets.sheet import TeachingSheet
from gavotte.solo.document import Solo
from gavotte.solo.tags import written_tags
from gavotte.vocabulary.lick import Lick
from gavotte.writing.drafting import Proposal

KEEP_DELETED = timedelta(days=30)


class Library(LibraryReader):
    """An open library. Use as a context manager, or call ``close``."""

    def __init__(self, folder: Path) -> None:
        """Open the library in ``folder``, making or migrating it as needed.

        Raises LibraryError; DamagedLibraryError where a backup could help, LibraryInUseError where another window
        has it. Whatever is raised, the library is as it was.
        """
        self.folder = folder
        self.without_backup = ""
        """Why there is no backup of today, in words for the user; empty where there is one."""
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
        self._clear_deleted()

    def _clear_deleted(self) -> None:
        """Clear what was deleted over a month ago, on as many days of work: a wrong clock brings no month by itself."""
        today = _now()
        with self._writing() as db:
            db.execute("INSERT OR IGNORE INTO days VALUES (?)", (today.date().isoformat(),))
            worked_since = db.execute(
                "SELECT day FROM days WHERE day <= ? ORDER BY day DESC LIMIT 1 OFFSET ?",
                (today.date().isoformat(), KEEP_DELETED.days),
            ).fetchone()
            if worked_since is None:
                return
            old = min((today - KEEP_DELETED).isoformat(), worked_since[0])
            db.execute("DELETE FROM licks WHERE deleted < ?", (old,))
            db.execute("DELETE FROM solos WHERE deleted < ?", (old,))
            for table in ("practice", "practice_log", "takes", "sheets"):
                db.execute(f"DELETE FROM {table} WHERE deleted < ?", (old,))
            db.execute("DELETE FROM lines WHERE owner NOT IN (SELECT id FROM solos UNION ALL SELECT id FROM licks)")

    def _migrate(self, step: int) -> None:
        """One migration as one transaction."""
        migration = MIGRATIONS[step]
        try:
            if isinstance(migration, str):
                self._db.executescript(f"BEGIN; {migration} PRAGMA user_version = {step + 1}; COMMIT;")
                return
            self._db.execute("BEGIN IMMEDIATE")
            migration(self._db)
            self._db.execute(f"PRAGMA user_version = {step + 1}")
            self._db.execute("COMMIT")
        except BaseException:
            self._roll_back()
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
            backups.prune(self.folder)
        except (OSError, sqlite3.Error) as error:
            # A missing backup must not keep anybody from working; the next opening tries again.
            self.without_backup = (
                f"Today's backup could not be made: {error}. Your work is saved as always; make room in {self.folder}, "
                "and make a backup in File, Library and backups."
            )

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
            with closing(connect_to_read(backup)) as source:
                version = source.execute("PRAGMA user_version").fetchone()[0]
                whole = source.execute("PRAGMA quick_check(1)").fetchone()[0] == "ok"
                if not whole or not 0 < version <= VERSION:
                    raise LibraryError(f"The backup {backup.name} is damaged. Nothing was changed.")
                source.backup(self._db)
            for step in range(version, VERSION):
                self._migrate(step)
        except sqlite3.Error as error:
            raise LibraryError(f"The backup {backup.name} can't be read: {error}. Nothing was changed.") from error

    @contextmanager
    def read_apart(self) -> Iterator[LibraryReader]:
        """A reader of this library on a connection of its own, for the thread that opens it. Raises LibraryError."""
        try:
            with closing(connect_to_read(self.path)) as db:
                yield LibraryReader(self.folder, db)
        except sqlite3.Error as error:
            raise LibraryError(f"The library {self.path} can't be read: {error}.") from error

    def leave_word(self, word: str) -> None:
        """Leave a line for other starts that find the library held (see ``lock.word_in``). Raises OSError."""
        self._lock.leave_word(word)

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

    # -- solos --------------------------------------------------------------------------------------

    def add_solo(self, solo: Solo, to_look_at: int | None = None) -> str:
        """Put a solo on the shelf; gives its id."""
        return self.add_solo_row(SOLOS.values(solo), to_look_at)

    def add_solo_row(self, row: Mapping[str, object], to_look_at: int | None = None) -> str:
        """The same, with what stands in its columns put together already."""
        solo_id = uuid.uuid4().hex
        now = _now().isoformat()
        whole = {"id": solo_id, **row, "to_look_at": to_look_at, "created": now, "modified": now}
        with self._writing() as db:
            db.execute(*insert(SOLOS, whole))
        return solo_id

    def save_solo(self, solo_id: str, solo: Solo) -> None:
        """Write a solo anew. Raises LibraryError where it is not there."""
        self.save_solo_row(solo_id, SOLOS.values(solo))

    def save_solo_row(self, solo_id: str, row: Mapping[str, object]) -> None:
        """The same, with what stands in its columns put together already."""
        self._save(SOLOS, solo_id, {**row, "modified": _now().isoformat()}, "This solo")

    def change_details(self, changes: Mapping[str, Mapping[str, object]]) -> None:
        """Give solos other details, by their ids: ``player``, ``style``, ``year``, ``album``, ``source``, ``tags``. All
        of them or none are changed; no label follows from them, so nothing else is. Raises LibraryError, FormatError.
        """
        with self._writing() as db:
            for solo_id, values in changes.items():
                document = SOLOS.kind.with_members(self.solo_document(solo_id), values)
                row = {**values, "tags": written_tags(values["tags"])} if "tags" in values else values  # type: ignore[arg-type]
                db.execute(*update(SOLOS, solo_id, {**row, "document": document}))

    def save_count(self, solo_id: str, to_look_at: int) -> None:
        """Keep how much of a solo wants a look. Raises LibraryError where it is not there."""
        self._save(SOLOS, solo_id, {"to_look_at": to_look_at}, "This solo")

    def _save(self, table: Table[Any], key: str, columns: dict[str, object], what: str) -> None:
        with self._writing() as db:
            if db.execute(*update(table, key, columns)).rowcount == 0:
                raise LibraryError(f"{what} is no longer in the library.")

    def delete_solo(self, solo_id: str) -> None:
        """Take a solo off the shelf; its licks stay."""
        self._set_deleted("solos", solo_id, _now().isoformat())

    def restore_solo(self, solo_id: str) -> None:
        """Put a deleted solo back."""
        self._set_deleted("solos", solo_id, None)

    # -- recordings ---------------------------------------------------------------------------------

    def save_recording(self, solo_id: str, recording: Recording) -> None:
        """Give a solo a recording, or write anew what is known of it."""
        self._put("recordings", "solo_id", solo_id, RECORDING_DOCUMENT.write(recording))

    def remove_recording(self, solo_id: str) -> None:
        """Take a solo's recording from it; the file stays."""
        with self._writing() as db:
            db.execute("DELETE FROM recordings WHERE solo_id=?", (solo_id,))

    def save_draft(self, solo_id: str, draft: Proposal) -> None:
        """Keep the drafted phrases of a solo that are not decided yet; none where there are none."""
        if draft:
            self._put("drafts", "solo_id", solo_id, DRAFT_DOCUMENT.write(draft))
            return
        with self._writing() as db:
            db.execute("DELETE FROM drafts WHERE solo_id=?", (solo_id,))

    # -- licks --------------------------------------------------------------------------------------

    def add_lick(self, lick: Lick) -> str:
        """Keep a lick; gives its id."""
        lick_id = uuid.uuid4().hex
        now = _now().isoformat()
        with self._writing() as db:
            known = db.execute("SELECT 1 FROM solos WHERE id=?", (lick.source.solo_id,)).fetchone()
            solo_id = lick.source.solo_id if known else None
            row = {"id": lick_id, "solo_id": solo_id, **LICKS.values(lick), "created": now, "modified": now}
            db.execute(*insert(LICKS, row))
        return lick_id

    def save_lick(self, lick_id: str, lick: Lick) -> None:
        """Write a lick anew. Raises LibraryError where it is not there."""
        self._save(LICKS, lick_id, {**LICKS.values(lick), "modified": _now().isoformat()}, "This lick")

    def delete_lick(self, lick_id: str) -> None:
        """Take a lick out of the vocabulary."""
        self._set_deleted("licks", lick_id, _now().isoformat())

    def restore_lick(self, lick_id: str) -> None:
        """Put a deleted lick back."""
        self._set_deleted("licks", lick_id, None)

    # -- sheets -------------------------------------------------------------------------------------

    def add_sheet(self, sheet: TeachingSheet) -> str:
        """Keep a teaching sheet; gives its id."""
        return self.add_sheet_row(SHEETS.values(sheet))

    def add_sheet_row(self, row: Mapping[str, object]) -> str:
        """The same, with what stands in its columns put together already."""
        sheet_id = uuid.uuid4().hex
        now = _now().isoformat()
        with self._writing() as db:
            db.execute(*insert(SHEETS, {"id": sheet_id, **row, "created": now, "modified": now}))
        return sheet_id

    def save_sheet_row(self, sheet_id: str, row: Mapping[str, object]) -> None:
        """Write a sheet anew, by what stands in its columns. Raises LibraryError where it is not there."""
        self._save(SHEETS, sheet_id, {**row, "modified": _now().isoformat()}, "This sheet")

    def delete_sheet(self, sheet_id: str) -> None:
        """Take a teaching sheet away."""
        self._set_deleted("sheets", sheet_id, _now().isoformat())

    def restore_sheet(self, sheet_id: str) -> None:
        """Put a deleted teaching sheet back."""
        self._set_deleted("sheets", sheet_id, None)

    def save_lines(self, lines: Iterable[tuple[str, str, bytes]]) -> None:
        """Keep the lines of solos and licks: owner, when that was changed, and the line as bytes."""
        with self._writing() as db:
            db.executemany(
                "INSERT INTO lines VALUES (?,?,?) ON CONFLICT (owner) DO UPDATE SET modified=excluded.modified, "
                "line=excluded.line",
                lines,
            )

    # -- practice -----------------------------------------------------------------------------------

    def add_document(self, table: str, key: str, owner: str, document: bytes) -> None:
        """Put a document into a table of practice. Raises LibraryError."""
        now = _now().isoformat()
        with self._writing() as db:
            db.execute(f"INSERT INTO {table} VALUES (?,?,?,?,?,NULL)", (key, owner, document, now, now))

    def save_document(self, table: str, key: str, document: bytes) -> None:
        """Write one anew. Raises LibraryError where it is not there."""
        with self._writing() as db:
            done = db.execute(
                f"UPDATE {table} SET document=?, modified=? WHERE id=?", (document, _now().isoformat(), key)
            )
            if done.rowcount == 0:
                raise LibraryError("This is no longer in the library.")

    def set_document_deleted(self, table: str, key: str, deleted: bool) -> None:
        """Take one away, or put it back."""
        self._set_deleted(table, key, _now().isoformat() if deleted else None)

    # -- what else is kept --------------------------------------------------------------------------

    def keep(self, kind: DocumentKind[ValueT], value: ValueT) -> None:
        """Write the library's one document of a kind. Raises LibraryError."""
        self._put("keepsakes", "name", kind.member, kind.write(value))

    def _put(self, table: str, column: str, key: str, document: bytes) -> None:
        """Write the one document a table has for a key."""
        with self._writing() as db:
            db.execute(
                f"INSERT INTO {table} VALUES (?,?,?) ON CONFLICT ({column}) DO UPDATE SET document=excluded.document, "
                "modified=excluded.modified",
                (key, document, _now().isoformat()),
            )

    def _set_deleted(self, table: str, row_id: str, when: str | None) -> None:
        with self._writing() as db:
            db.execute(f"UPDATE {table} SET deleted=? WHERE id=?", (when, row_id))


def _now() -> datetime:
    return datetime.now(UTC)
