"""One window for one library: a second start hands its files to the window that is open and ends.

The window listens on a socket in a folder only its user can enter, and leaves word of it in the library's lock, so that
a start finds it whatever its own temporary folder is. Both sides make certain that the other is the same user.
"""

from __future__ import annotations

import hashlib
import json
import logging
import os
import socket
import stat
import struct
import tempfile
import time
from enum import Enum, auto
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtNetwork import QLocalServer, QLocalSocket

from gavotte.desktop.translation import translate
from gavotte.library.lock import word_in
from gavotte.library.store import Library

LOG = logging.getLogger("gavotte")

_WAIT_MS = 2000
_ANSWER_MS = 6000
_MOST_BYTES = 32 << 20
_LONGEST_PATH = 100
"""Bytes of a socket's path; systems take a little over 100."""


class Answer(Enum):
    """What became of files that were handed over."""

    TAKEN = auto()
    UNANSWERED = auto()
    """They were given to the window, which does not answer; it takes them when it goes on."""
    NOBODY = auto()
    """No window of this user's listens."""


def hand_over(library_folder: Path, files: list[Path]) -> Answer:
    """Give files to the window that has this library open."""
    name = word_in(library_folder)
    if not name or not _is_own(Path(name).parent):
        return Answer.NOBODY
    connection = QLocalSocket()
    connection.connectToServer(name)
    if not connection.waitForConnected(_WAIT_MS) or not _is_same_user(connection):
        return Answer.NOBODY
    connection.write(json.dumps([str(file.absolute()) for file in files]).encode() + b"\n")
    begun = time.monotonic()
    while connection.bytesToWrite():
        if not connection.waitForBytesWritten(_WAIT_MS) or time.monotonic() - begun > _ANSWER_MS / 1000:
            # A part of a list is no list: nothing was given.
            connection.abort()
            return Answer.NOBODY
    answered = connection.waitForReadyRead(_ANSWER_MS)
    connection.disconnectFromServer()
    return Answer.TAKEN if answered else Answer.UNANSWERED


def _is_own(folder: Path) -> bool:
    """Whether a folder is this user's, and nobody else can enter it."""
    try:
        found = folder.lstat()
    except OSError:
        return False
    return stat.S_ISDIR(found.st_mode) and found.st_uid == os.getuid() and not stat.S_IMODE(found.st_mode) & 0o077


def _is_same_user(connection: QLocalSocket) -> bool:
    """Whether the process at the other end is this user's."""
    descriptor = int(connection.socketDescriptor())
    if descriptor < 0 or not hasattr(socket, "SO_PEERCRED"):
        return False
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM, fileno=os.dup(descriptor)) as other:
        said = other.getsockopt(socket.SOL_SOCKET, socket.SO_PEERCRED, struct.calcsize("3i"))
    _, user, _ = struct.unpack("3i", said)
    return bool(user == os.getuid())


def runtime_folder() -> Path:
    """A folder for sockets that only this user can enter: the session's, else one of our own. Raises OSError."""
    given = os.environ.get("XDG_RUNTIME_DIR", "")
    if given and len(given.encode()) < _LONGEST_PATH - 40 and _is_own(Path(given)):
        return Path(given)
    folder = Path(tempfile.gettempdir()) / f"gavotte-{os.getuid()}"
    if len(str(folder).encode()) > _LONGEST_PATH - 40:
        folder = Path("/tmp") / folder.name
    folder.mkdir(mode=0o700, exist_ok=True)
    if not _is_own(folder):
        # Somebody else has made it, or opened it: what lies in it can't be trusted.
        return Path(tempfile.mkdtemp(prefix="gavotte-", dir=folder.parent))
    return folder


class Doorman(QObject):
    """Listens for later starts. Signals: ``called(paths)``, the files they were given, where [] just wants the window;
    ``failed(message)``, nothing can be heard.
    """

    called = pyqtSignal(list)
    failed = pyqtSignal(str)

    def __init__(self, library: Library, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._library = library
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._answer)

    def listen(self) -> bool:
        """Listen from now on; False, and told, where that is not possible."""
        try:
            own = hashlib.sha256(str(self._library.folder.resolve()).encode("utf-8", "surrogateescape")).hexdigest()
            name = str(runtime_folder() / f"gavotte-{own[:20]}")
            # This window holds the library: what lies there was left behind by a process that was killed.
            QLocalServer.removeServer(name)
            if not self._server.listen(name):
                raise OSError(self._server.errorString())
            self._library.leave_word(name)
        except OSError as error:
            LOG.warning("Later starts can't be heard: %s", error)
            words = translate(
                "Gavotte",
                "Files that are opened elsewhere can't be handed to this window ({error}). Import them here, with "
                "File, Import.",
            )
            self.failed.emit(words.format(error=error))
            return False
        return True

    def close(self) -> None:
        """Listen no more."""
        self._server.close()

    def _answer(self) -> None:
        connection = self._server.nextPendingConnection()
        if connection is None:
            return
        if not _is_same_user(connection):
            connection.abort()
            return
        connection.readyRead.connect(lambda: self._read(connection))
        connection.disconnected.connect(connection.deleteLater)
        if connection.bytesAvailable():
            self._read(connection)

    def _read(self, connection: QLocalSocket) -> None:
        if not connection.canReadLine():
            if connection.bytesAvailable() > _MOST_BYTES:
                connection.abort()
            return
        try:
            names = json.loads(bytes(connection.readLine().data()))
        except (ValueError, RecursionError):
            connection.abort()
            return
        connection.write(b"ok\n")
        connection.flush()
        self.called.emit([Path(name) for name in names if isinstance(name, str)] if isinstance(names, list) else [])
