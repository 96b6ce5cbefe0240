"""One window at a time: a lock on the library's folder that goes away with its process."""

from __future__ import annotations

import errno
import fcntl
import os
from pathlib import Path

from gavotte.library.errors import LibraryInUseError

_NAME = "gavotte.lock"
_LONGEST = 4096


class FolderLock:
    """Holds the folder for this window until ``release``. Raises LibraryInUseError; OSError where nothing can be held.

    File systems that know no locks are used without one.
    """

    def __init__(self, folder: Path) -> None:
        self._file: int | None = None
        file = os.open(folder / _NAME, os.O_RDWR | os.O_CREAT, 0o644)
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            holder = os.read(file, 32).decode("ascii", "replace").partition("\n")[0].strip()
            os.close(file)
            if error.errno not in (errno.EWOULDBLOCK, errno.EACCES):
                return
            by = f" (process {holder})" if holder.isdigit() else ""
            raise LibraryInUseError(
                f"The library {folder} is open in another window{by}. Nothing was touched. "
                "Go to that window, or start with another library: gavotte --library FOLDER."
            ) from error
        os.ftruncate(file, 0)
        os.pwrite(file, str(os.getpid()).encode(), 0)
        self._file = file

    def leave_word(self, word: str) -> None:
        """Leave a line for other starts in the lock's file. Raises OSError."""
        if self._file is not None:
            line = f"{os.getpid()}\n{word}\n".encode("utf-8", "surrogateescape")
            os.ftruncate(self._file, len(line))
            os.pwrite(self._file, line, 0)

    def release(self) -> None:
        """Let others open the folder."""
        if self._file is not None:
            os.close(self._file)
            self._file = None


def word_in(folder: Path) -> str:
    """The line the window that holds a folder has left for others; empty where there is none."""
    try:
        with (folder / _NAME).open("rb") as file:
            lines = file.read(_LONGEST).decode("utf-8", "surrogateescape").splitlines()
    except OSError:
        return ""
    return lines[1] if len(lines) > 1 else ""
