"""What the standard library raises for a zip file that is damaged, whichever way its members are packed."""

from __future__ import annotations

import errno
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager

from gavotte.formats.errors import FormatError

_DAMAGE = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, EOFError, NotImplementedError, RuntimeError,
)  # fmt: skip


@contextmanager
def damage_told(words: str) -> Iterator[None]:
    """What is damaged in a zip file that is read meanwhile is raised as FormatError, with ``words`` around {error}."""
    try:
        yield
    except _DAMAGE as error:
        raise FormatError(words.format(error=error)) from error
    except OSError as error:
        if error.errno not in (None, errno.EINVAL):
            raise
        # So say a decoder whose data are damaged, and a file that is asked for a place before its beginning.
        raise FormatError(words.format(error=error)) from error
