"""The user's own schools, kept in one small file beside the settings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from gavotte.formats.document import DocumentKind
from gavotte.formats.errors import FormatError
from gavotte.formats.whole_file import write_whole
from gavotte.solo.school import SCHOOLS, School

FILE_NAME = "schools.json"


@dataclass(frozen=True, slots=True)
class OwnSchools:
    """The schools a user has made, in the order they were made."""

    schools: tuple[School, ...] = ()


SCHOOLS_DOCUMENT = DocumentKind("gavotte-schools", 1, "schools", OwnSchools)


def own_schools(folder: Path) -> tuple[School, ...]:
    """The schools kept in a folder; none where no file is there yet. Raises FormatError for a damaged file."""
    file = folder / FILE_NAME
    try:
        data = file.read_bytes()
    except FileNotFoundError:
        return ()
    except OSError as error:
        raise FormatError(f"Your schools in {file} can't be read: {error.strerror}.") from error
    return SCHOOLS_DOCUMENT.read(data).schools


def keep_schools(folder: Path, schools: Sequence[School]) -> None:
    """Write the user's schools. Raises OSError."""
    folder.mkdir(parents=True, exist_ok=True)
    write_whole(folder / FILE_NAME, SCHOOLS_DOCUMENT.write(OwnSchools(tuple(schools))))


def school_named(name: str, own: Sequence[School]) -> School | None:
    """The school of a name, however it is capitalised; the user's own before those that ship."""
    wanted = name.strip().casefold()
    return next((school for school in (*own, *SCHOOLS) if school.name.casefold() == wanted), None)
