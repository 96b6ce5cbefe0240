"""A library's takes as music: the lines as they were played, to be labelled and compared like solos."""

from __future__ import annotations

from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.practising import TAKE_DOCUMENT
from gavotte.library.reader import LibraryReader
from gavotte.practice.as_played import as_played
from gavotte.practice.due import due_line
from gavotte.solo.document import Solo


def is_take(owner: str) -> bool:
    """Whether an id is that of a take, not of a solo."""
    return owner.startswith(LibraryReader.TAKE)


def music_of(reader: LibraryReader, owner: str) -> Solo | None:
    """A solo, or a take as it was played, by id; None where it can't be read or nothing was played."""
    try:
        if not is_take(owner):
            return reader.solo(owner)
        kept = TAKE_DOCUMENT.read(reader.take_document(owner))
        played = as_played(due_line(kept.music), kept.take)
    except (LibraryError, FormatError, KeyError):
        return None
    return played if played.notes else None
