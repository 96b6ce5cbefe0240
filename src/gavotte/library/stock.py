"""The licks of a library as they can be laid over a progression."""

from __future__ import annotations

from contextlib import suppress

from gavotte.formats.errors import FormatError
from gavotte.giving_way import give_way
from gavotte.library.reader import LibraryReader
from gavotte.workshop.etude import Stock, stocked


def stock_of(reader: LibraryReader) -> tuple[Stock, ...]:
    """Every lick that has chords and notes; a damaged one stays out. Raises LibraryError."""
    found = []
    for entry in reader.licks():
        give_way()
        with suppress(FormatError):
            one = stocked(entry.id, entry.name, entry.source, reader.lick(entry.id).solo)
            if one is not None:
                found.append(one)
    return tuple(found)
