"""What goes wrong with a library, in words for its user."""

from __future__ import annotations

import sqlite3
from pathlib import Path


class LibraryError(RuntimeError):
    """The library can't be opened, read or written. The message says what to do."""


class DamagedLibraryError(LibraryError):
    """The library's file is damaged; a backup can be put in its place."""


class LibraryInUseError(LibraryError):
    """Another window has the library open."""


def why_not_written(error: sqlite3.Error, folder: Path) -> str:
    """A message for a write that failed."""
    text = str(error).lower()
    if "full" in text:
        what = f"The disk with {folder} is full. Free some space and go on"
    elif "readonly" in text or "read-only" in text or "unable to open" in text:
        what = f"The library folder {folder} can't be written to. Allow writing there and go on"
    elif "locked" in text or "busy" in text:
        what = "Another program is holding the library's file. Close it and go on"
    else:
        what = f"The library could not be written ({error})"
    return f"{what}."
