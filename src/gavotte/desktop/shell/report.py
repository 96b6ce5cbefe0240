"""A report of a fault for whoever mends Gavotte, without anything that says who uses it or what they play."""

from __future__ import annotations

import platform
import re
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path

from PyQt6.QtCore import QT_VERSION_STR

from gavotte import __version__
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library

_PATH = re.compile(r"(?:~|\.{0,2})?/(?:[^\s/'\"<>|:]+/)*([^\s/'\"<>|:]+)?")
_QUOTED = re.compile(r"'[^'\n]{2,}'|\"[^\"\n]{2,}\"|“[^”\n]+”")
_SOURCE = re.compile(r'File "([^"\n]+)", line')
_LAST_LINES = 60


def report_on(library: Library, log: str) -> str:
    """A report from what stands in the log. No tune, player or folder of the library is named in it."""
    private = [str(Path.home()), Path.home().name, str(library.folder)]
    with suppress(LibraryError):
        private += [words for solo in library.solos() for words in (solo.title, solo.player, solo.album)]
        private += [words for lick in library.licks() for words in (lick.name, lick.player)]
    versions = f"Gavotte {__version__}, Python {platform.python_version()}, Qt {QT_VERSION_STR}, {platform.system()}"
    return report(versions, log, private)


def report(versions: str, log: str, private: Iterable[str]) -> str:
    """The versions and the log's last lines. ``private`` words (titles, names, folders) are left out wherever they are,
    and so are paths and whatever stands in quotes; of source files the last two names stay.
    """
    lines = [_without_private(line, private) for line in log.splitlines()[-_LAST_LINES:]]
    return "\n".join([versions, "", *lines])


def _without_private(line: str, private: Iterable[str]) -> str:
    source = _SOURCE.search(line)
    if source is not None:
        parts = source.group(1).replace("\\", "/").split("/")
        return (
            line.replace(source.group(0), f"File {'/'.join(parts[-2:])}, line")
            if "gavotte" in parts
            else (line.replace(source.group(0), f"File {parts[-1]}, line"))
        )
    for word in sorted({word for word in private if len(word) > 1}, key=len, reverse=True):
        line = line.replace(word, "…")
    return _PATH.sub("…", _QUOTED.sub("…", line))
