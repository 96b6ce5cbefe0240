"""Connections to a library's database and to its copies."""

from __future__ import annotations

import sqlite3
from pathlib import Path


def connect(path: Path) -> sqlite3.Connection:
    """A connection as the library uses it: transactions are begun and ended by hand."""
    return sqlite3.connect(path, isolation_level=None, timeout=5.0)


def connect_to_read(path: Path) -> sqlite3.Connection:
    """A connection that changes nothing and makes no file, whatever signs are in the path. Raises sqlite3.Error."""
    return sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)
