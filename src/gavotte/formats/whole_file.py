"""Files written whole or not at all."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path


def write_whole(path: Path, data: bytes) -> None:
    """Write a file so that it is either the old one or the whole new one. Raises OSError."""
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(name, 0o644)
        os.replace(name, path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise
