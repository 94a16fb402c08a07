"""One window a job: a second opening of a file raises the window that has it."""

from __future__ import annotations

import contextlib
import hashlib
import os
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtNetwork import QLocalServer, QLocalSocket

WAIT_MS = 2000


def name_of(path: Path) -> str:
    """The name under which the window of a job can be spoken to, of this user only."""
    whole = f"{os.getuid()}/{path.resolve()}"
    return f"trebb-{hashlib.sha256(whole.encode()).hexdigest()[:24]}"


class Bell(QObject):
    """Listens as long as its window has the job; `rung` is called when another start wants to see it.

    Nothing that is sent is read: that somebody calls is all there is to know.
    """

    def __init__(self, path: Path, rung: Callable[[], object], parent: QObject) -> None:
        super().__init__(parent)
        self._rung = rung
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._answer)
        name = name_of(path)
        # A name may be left behind by one that was killed; who has the job its own lock says.
        if not self._server.listen(name):
            QLocalServer.removeServer(name)
            self._server.listen(name)

    def _answer(self) -> None:
        while (socket := self._server.nextPendingConnection()) is not None:
            socket.disconnectFromServer()
            socket.deleteLater()
        self._rung()

    def close(self) -> None:
        """Listen no more."""
        with contextlib.suppress(RuntimeError):
            self._server.close()


def ring(path: Path) -> bool:
    """Ask the window that has a job to come forward; False where none answers."""
    socket = QLocalSocket()
    socket.connectToServer(name_of(path))
    heard = socket.waitForConnected(WAIT_MS)
    socket.disconnectFromServer()
    return heard
