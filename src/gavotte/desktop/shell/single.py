"""One window for one library: a second start hands its files to the window that is open and ends."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtNetwork import QLocalServer, QLocalSocket

_WAIT_MS = 2000
_ANSWER_MS = 6000
_MOST_BYTES = 1 << 20


def _name(library_folder: Path) -> str:
    return f"gavotte-{hashlib.sha256(str(library_folder.resolve()).encode()).hexdigest()[:20]}"


def hand_over(library_folder: Path, files: list[Path]) -> bool:
    """Give files to a window that has this library open; False where there is none."""
    socket = QLocalSocket()
    socket.connectToServer(_name(library_folder))
    if not socket.waitForConnected(_WAIT_MS):
        return False
    socket.write(json.dumps([str(file.resolve()) for file in files]).encode() + b"\n")
    socket.waitForBytesWritten(_WAIT_MS)
    answered = socket.waitForReadyRead(_ANSWER_MS)
    socket.disconnectFromServer()
    return answered


class Doorman(QObject):
    """Listens for later starts. Signal: ``called(paths)``, the files they were given; [] just wants the window."""

    called = pyqtSignal(list)

    def __init__(self, library_folder: Path, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._answer)
        name = _name(library_folder)
        if not self._server.listen(name):
            # What a killed process left behind; a living one would have taken the files.
            QLocalServer.removeServer(name)
            self._server.listen(name)

    def close(self) -> None:
        """Listen no more."""
        self._server.close()

    def _answer(self) -> None:
        socket = self._server.nextPendingConnection()
        if socket is None:
            return
        socket.readyRead.connect(lambda: self._read(socket))
        socket.disconnected.connect(socket.deleteLater)
        if socket.canReadLine():
            self._read(socket)

    def _read(self, socket: QLocalSocket) -> None:
        if socket.bytesAvailable() > _MOST_BYTES:
            socket.abort()
            return
        if not socket.canReadLine():
            return
        line = bytes(socket.readLine().data())
        try:
            names = json.loads(line)
        except ValueError:
            socket.abort()
            return
        socket.write(b"ok\n")
        socket.flush()
        self.called.emit([Path(name) for name in names if isinstance(name, str)] if isinstance(names, list) else [])
