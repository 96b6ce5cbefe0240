"""Reading files that were named from outside: only regular ones, and no more of them than is wanted."""

from __future__ import annotations

import os
import stat
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import BinaryIO

from gavotte.giving_way import give_way

_BLOCK = 1 << 20


class NotRegularError(OSError):
    """What was named is no file, or larger than is wanted; the message says which."""


def is_regular(path: Path) -> bool:
    """Whether there is a regular file of this name; False too where no file can have it."""
    try:
        return path.is_file()
    except (OSError, ValueError):
        return False


@contextmanager
def regular_file(path: Path) -> Iterator[BinaryIO]:
    """An open file, once it is certain that it is one. Raises NotRegularError for a pipe or a device, or OSError.

    A pipe nobody writes to, or a device, would be read for ever.
    """
    try:
        descriptor = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except ValueError as error:
        raise NotRegularError("no file has such a name") from error
    try:
        kind = os.fstat(descriptor).st_mode
        if stat.S_ISDIR(kind):
            raise NotRegularError("it is a folder; open the files in it")
        if not stat.S_ISREG(kind):
            raise NotRegularError("it is a pipe or a device; save what comes from it to a file and open that")
        with os.fdopen(descriptor, "rb", closefd=False) as file:
            yield file
    finally:
        os.close(descriptor)


def read_regular(path: Path, most: int) -> bytes:
    """All of a regular file. Raises NotRegularError for anything else, or more than ``most`` bytes, or OSError."""
    with regular_file(path) as file:
        blocks, size = [], 0
        while block := file.read(_BLOCK):
            give_way()
            blocks.append(block)
            size += len(block)
            if size > most:
                raise NotRegularError("it is larger than any solo")
    return b"".join(blocks)
