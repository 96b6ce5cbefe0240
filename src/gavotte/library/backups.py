"""Dated copies of the library's database, how many are kept, and going back to one.

A backup is made on opening, once a day at most. Kept are the last seven, the last of each of the nine latest weeks that
have one, and of each of the 24 latest months. They are counted, not aged: a clock that is wrong for a while costs none.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterable
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from gavotte.library.database import connect_to_read

FOLDER = "backups"
_STAMP = "%Y-%m-%dT%H%M%S-%f"
_DAILY, _WEEKS, _MONTHS = 7, 9, 24


@dataclass(frozen=True, slots=True)
class Backup:
    """A backup: its file, when it was made (UTC), and how much it holds."""

    path: Path
    made: datetime
    solos: int
    licks: int


def stamp(path: Path) -> datetime | None:
    """When a backup was made, by its file name; None for other files."""
    try:
        return datetime.strptime(path.stem.removeprefix("gavotte-"), _STAMP).replace(tzinfo=UTC)
    except ValueError:
        return None


def backup_files(folder: Path) -> list[Path]:
    """The backups of the library in ``folder``, the latest first."""
    found = [path for path in (folder / FOLDER).glob("gavotte-*.db") if stamp(path) is not None]
    return sorted(found, reverse=True)


def list_backups(folder: Path) -> list[Backup]:
    """The backups that can be read, the latest first."""
    found = []
    for path in backup_files(folder):
        try:
            with closing(connect_to_read(path)) as database:
                solos, licks = (
                    database.execute(f"SELECT count(*) FROM {table} WHERE deleted IS NULL").fetchone()[0]
                    for table in ("solos", "licks")
                )
        except sqlite3.Error:
            continue
        made = stamp(path)
        assert made is not None
        found.append(Backup(path, made, solos, licks))
    return found


def make_backup(database: sqlite3.Connection, folder: Path, now: datetime) -> Path:
    """Copy a database into the backups of ``folder``, whole or not at all. Raises sqlite3.Error or OSError."""
    (folder / FOLDER).mkdir(exist_ok=True)
    path = folder / FOLDER / f"gavotte-{now.strftime(_STAMP)}.db"
    draft = path.with_suffix(".part")
    try:
        with closing(sqlite3.connect(draft)) as copy:
            database.backup(copy)
            # A backup is one file; the library's own journal would want two more beside it.
            copy.execute("PRAGMA journal_mode = DELETE")
        os.replace(draft, path)
    except BaseException:
        draft.unlink(missing_ok=True)
        raise
    return path


def is_due(folder: Path, now: datetime) -> bool:
    """Whether there is no backup of today (UTC) yet. One that lies in the future was made by a clock that was wrong."""
    return all(made.date() != now.date() for path in backup_files(folder) if (made := stamp(path)) is not None)


def prune(folder: Path) -> None:
    """Delete the backups that need not be kept."""
    files = {path: made for path in backup_files(folder) if (made := stamp(path)) is not None}
    keep = to_keep(files.values())
    for path, made in files.items():
        if made not in keep:
            path.unlink(missing_ok=True)


def to_keep(made: Iterable[datetime]) -> set[datetime]:
    """Which of the backups made at these times are kept."""
    latest_first = sorted(made, reverse=True)
    keep = set(latest_first[:_DAILY])
    weeks: set[tuple[int, int]] = set()
    months: set[tuple[int, int]] = set()
    for time in latest_first:
        week = time.isocalendar()[:2]
        if len(weeks) < _WEEKS and week not in weeks:
            weeks.add(week)
            keep.add(time)
        month = (time.year, time.month)
        if len(months) < _MONTHS and month not in months:
            months.add(month)
            keep.add(time)
    return keep


def put_in_place(folder: Path, database: Path, backup: Path, now: datetime) -> Path | None:
    """Make a backup the library's database while it is closed.

    The file that was there is kept beside it; gives its new path, None where there was none. Raises OSError.
    """
    kept: Path | None = None
    if database.exists():
        kept = folder / f"gavotte-replaced-{now.strftime(_STAMP)}.db"
        os.replace(database, kept)
    for tail in ("-wal", "-shm"):
        database.with_name(database.name + tail).unlink(missing_ok=True)
    draft = database.with_suffix(".part")
    draft.write_bytes(backup.read_bytes())
    os.replace(draft, database)
    return kept
