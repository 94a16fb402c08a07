"""One window a job: a second opening of a file raises the window that has it."""

from __future__ import annotations

import contextlib
import hashlib
import os
import stat
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtNetwork import QLocalServer, QLocalSocket

WAIT_MS = 2000
MOST_BYTES = 104  # of a socket's name (unix(7))


def _is_ours(folder: Path) -> bool:
    """Whether a folder is this user's alone: no link, nobody else's, closed to others."""
    try:
        found = os.lstat(folder)
    except OSError:
        return False
    return stat.S_ISDIR(found.st_mode) and found.st_uid == os.getuid() and not found.st_mode & 0o077


def _places() -> Iterator[Path]:
    """Where sockets of this user may stand, which nobody else can have taken beforehand."""
    given = os.environ.get("XDG_RUNTIME_DIR", "")
    if given and _is_ours(Path(given)):
        yield Path(given)
    own = Path(tempfile.gettempdir()) / f"trebb-{os.getuid()}"
    with contextlib.suppress(OSError):
        own.mkdir(mode=0o700)
    if _is_ours(own):
        yield own


def name_of(path: Path) -> str:
    """The socket at which the window of a job can be spoken to, of this user only; "" where there is no place
    for one.
    """
    own = f"trebb-{hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:24]}"
    found = (str(place / own) for place in _places())
    return next((name for name in found if len(os.fsencode(name)) < MOST_BYTES), "")


class Bell(QObject):
    """Listens as long as its window has the job; `rung` is called when another start wants to see it.

    Where no name can be had the job is open all the same, and nobody is heard. Nothing that is sent is
    read: that somebody calls is all there is to know.
    """

    def __init__(self, path: Path, rung: Callable[[], object], parent: QObject) -> None:
        super().__init__(parent)
        self._rung = rung
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._answer)
        name = name_of(path)
        # A name may be left behind by one that was killed; who has the job its own lock says.
        if name and not self._server.listen(name):
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
    name = name_of(path)
    if not name:
        return False
    socket = QLocalSocket()
    socket.connectToServer(name)
    heard = socket.waitForConnected(WAIT_MS)
    socket.disconnectFromServer()
    return heard
