"""The user's own schools, kept in the library: they are backed up and exported with it."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from gavotte.formats.document import DocumentKind
from gavotte.library.database import connect_to_read
from gavotte.library.reader import DATABASE
from gavotte.library.store import Library
from gavotte.solo.school import SCHOOLS, School

FILE_NAME = "schools.json"


@dataclass(frozen=True, slots=True)
class OwnSchools:
    """The schools a user has made, in the order they were made."""

    schools: tuple[School, ...] = ()


SCHOOLS_DOCUMENT = DocumentKind("gavotte-schools", 1, "schools", OwnSchools)


def own_schools(library: Library) -> tuple[School, ...]:
    """The schools kept in a library. Raises LibraryError, or FormatError for a damaged document."""
    kept = library.kept(SCHOOLS_DOCUMENT)
    return kept.schools if kept is not None else ()


def keep_schools(library: Library, schools: Sequence[School]) -> None:
    """Write the user's schools. Raises LibraryError."""
    library.keep(SCHOOLS_DOCUMENT, OwnSchools(tuple(schools)))


def schools_in(folder: Path, settings: Path) -> tuple[School, ...]:
    """The schools of the library in a folder, read without opening it: a window may hold it.

    A library that was not opened since schools lie in it has them in a file beside the ``settings``. Raises FormatError
    for a damaged document.
    """
    try:
        with closing(connect_to_read(folder / DATABASE)) as database:
            rows = database.execute("SELECT document FROM keepsakes WHERE name=?", (SCHOOLS_DOCUMENT.member,))
            found = rows.fetchone()
    except sqlite3.Error:
        found = None
    if found is not None:
        return SCHOOLS_DOCUMENT.read(found[0]).schools
    file = settings / FILE_NAME
    return SCHOOLS_DOCUMENT.read(file.read_bytes()).schools if file.is_file() else ()


def take_in_schools(library: Library, folder: Path) -> None:
    """Move schools from the small file where they lay before into a library that has none. The file is left there.

    Raises LibraryError, or FormatError where the file is damaged.
    """
    file = folder / FILE_NAME
    if library.kept(SCHOOLS_DOCUMENT) is None and file.is_file():
        keep_schools(library, SCHOOLS_DOCUMENT.read(file.read_bytes()).schools)


def school_named(name: str, own: Sequence[School]) -> School | None:
    """The school of a name, however it is capitalised; the user's own before those that ship."""
    wanted = name.strip().casefold()
    return next((school for school in (*own, *SCHOOLS) if school.name.casefold() == wanted), None)
