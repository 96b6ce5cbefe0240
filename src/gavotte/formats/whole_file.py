"""Files written whole or not at all."""

from __future__ import annotations

import os
import stat
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

# There is no asking without setting it, which would be felt in other threads later on.
_UMASK = os.umask(0o077)
os.umask(_UMASK)


@contextmanager
def whole_file(path: Path) -> Iterator[Path]:
    """A draft beside ``path`` to write to; it takes the file's place when the block ends well, and is gone else.

    Where ``path`` is a link it stays one and the file it leads to is replaced; a file keeps the mode it had, a new one
    gets what the umask allows. Raises OSError.
    """
    goal = Path(os.path.realpath(path)) if path.is_symlink() else path
    handle, name = tempfile.mkstemp(dir=goal.parent, prefix=".gavotte-")
    os.close(handle)
    draft = Path(name)
    try:
        yield draft
        with draft.open("rb") as file:
            os.fsync(file.fileno())
        draft.chmod(_mode_for(goal))
        draft.replace(goal)
    except BaseException:
        draft.unlink(missing_ok=True)
        raise


def plain_name(text: str) -> str:
    """A text as a file name, without what file systems refuse; may be empty."""
    return "".join("-" if sign in '/\\:*?"<>|' or ord(sign) < 32 else sign for sign in text).strip(" .")


def _mode_for(path: Path) -> int:
    """The mode of the file that is there, else what the umask allows."""
    try:
        return stat.S_IMODE(path.stat().st_mode)
    except FileNotFoundError:
        return 0o666 & ~_UMASK


def write_whole(path: Path, data: bytes) -> None:
    """Write a file so that it is either the old one or the whole new one. Raises OSError."""
    with whole_file(path) as draft:
        draft.write_bytes(data)
