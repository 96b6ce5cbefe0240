"""Files written whole or not at all."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path


@contextmanager
def whole_file(path: Path) -> Iterator[Path]:
    """A draft beside ``path`` to write to; it takes the file's place when the block ends well, and is gone else.

    Raises OSError.
    """
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name[:80]}.")
    os.close(handle)
    draft = Path(name)
    try:
        yield draft
        with draft.open("rb") as file:
            os.fsync(file.fileno())
        draft.chmod(0o644)
        draft.replace(path)
    except BaseException:
        draft.unlink(missing_ok=True)
        raise


def write_whole(path: Path, data: bytes) -> None:
    """Write a file so that it is either the old one or the whole new one. Raises OSError."""
    with whole_file(path) as draft:
        draft.write_bytes(data)
