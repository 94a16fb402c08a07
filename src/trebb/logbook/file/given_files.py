"""Files that somebody gives: refused by kind and size before a byte of them is read."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from trebb.core.errors import InputError

MB = 2**20
MOST_TEXT_BYTES = 64 * MB  # of a table, a list of causes, a piece: none that a person wrote is larger


def read_given(path: Path, most_bytes: int, error: type[InputError] = InputError) -> bytes:
    """The bytes of a file of that size at most.

    Raises `error` for what is no file (a folder, a pipe, a device, which never ends), what is larger, and
    what cannot be read.
    """
    name = path.name or str(path)
    try:
        # A pipe that nobody writes to would be waited for at its opening.
        with open(path, "rb", opener=lambda p, flags: os.open(p, flags | os.O_NONBLOCK)) as stream:
            found = os.fstat(stream.fileno())
            if not stat.S_ISREG(found.st_mode):
                raise error(name, "this is no file but a folder, a pipe or a device; give a file")
            if found.st_size > most_bytes:
                raise error(name, f"{_size(found.st_size)} is too large; {_size(most_bytes)} is the most")
            data = stream.read(most_bytes + 1)
    except OSError as refused:
        if isinstance(refused, IsADirectoryError):
            raise error(name, "this is no file but a folder, a pipe or a device; give a file") from None
        raise error(name, f"it cannot be read ({refused.strerror})") from None
    if len(data) > most_bytes:
        raise error(name, f"it is still growing; more than {_size(most_bytes)} is too large")
    return data


def _size(count: int) -> str:
    return f"{count // MB} MB" if count >= MB else f"{max(1, count // 1024)} kB"


def read_text(path: Path, error: type[InputError] = InputError, *, most_bytes: int = MOST_TEXT_BYTES) -> str:
    """The text of a file in UTF-8. Raises `error` for what is none, and what `read_given` refuses."""
    try:
        return read_given(path, most_bytes, error).decode("utf-8-sig")
    except UnicodeDecodeError:
        raise error(path.name, "it is no text in UTF-8; save it as such, then again") from None
