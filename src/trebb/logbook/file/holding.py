"""Holding a job file against a second writer.

SQLite's own locks are the process's: they go as soon as any part of the
process opens and closes the file, as a file dialog does when it shows the
folder. This lock belongs to one open file description and stays until that is
closed, or the process ends.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import struct
import time
from pathlib import Path

AGAIN_S = 0.05  # between two tries
# A byte that SQLite never locks, far behind any job's end.
HELD_BYTE = 0x7FFF_FFFF_FFFF_0000
_WRITE_LOCK = struct.pack("hhqqi4x", fcntl.F_WRLCK, os.SEEK_SET, HELD_BYTE, 1, 0)


class Hold:
    """The writer's lock on a file, made where there is none; another's is waited for, `wait_s` at most.

    Raises BlockingIOError where another holds it, OSError where the file
    cannot be opened for writing.
    """

    def __init__(self, path: Path, *, wait_s: float = 0.0) -> None:
        self._fd = os.open(path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o644)
        end = time.monotonic() + wait_s
        while True:
            try:
                fcntl.fcntl(self._fd, fcntl.F_OFD_SETLK, _WRITE_LOCK)
            except BlockingIOError:
                if time.monotonic() < end:
                    time.sleep(AGAIN_S)
                    continue
                os.close(self._fd)
                raise
            except OSError:
                pass  # a file system without such locks: SQLite's own are all there is
            return

    def is_unlinked(self) -> bool:
        """Whether the file has no name any more; False once it is let go."""
        return self._fd >= 0 and os.fstat(self._fd).st_nlink == 0

    def is_at(self, path: Path) -> bool:
        """Whether the path still names this file; True once it is let go."""
        if self._fd < 0:
            return True
        try:
            there, held = path.stat(), os.fstat(self._fd)
        except OSError:
            return False
        return (there.st_dev, there.st_ino) == (held.st_dev, held.st_ino)

    def release(self) -> None:
        """Let it go; may be called twice."""
        if self._fd >= 0:
            with contextlib.suppress(OSError):
                os.close(self._fd)
            self._fd = -1
