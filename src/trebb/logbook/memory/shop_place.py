"""Where the shop's memory is kept, and which is in use: asked at every start, so quick to import."""

from __future__ import annotations

from pathlib import Path

import platformdirs

from trebb.core.errors import InputError

ENDING = ".trebb-memory"
FIRST = "shop"  # what the memory is called that is in use until another is chosen
LONGEST = 40
_IN_USE = "memory-in-use"


def _folder() -> Path:
    return platformdirs.user_data_path("trebb", appauthor=False)


def in_use() -> str:
    """The name of the memory in use; the first where none was chosen or the choice cannot be read."""
    try:
        return _admitted((_folder() / _IN_USE).read_text(encoding="utf-8"))
    except (OSError, UnicodeDecodeError, InputError):
        return FIRST


def memories() -> list[str]:
    """Names of all there are, the first one first; the one in use is among them before it holds anything."""
    there = {path.name.removesuffix(ENDING) for path in _folder().glob(f"*{ENDING}")} | {in_use()}
    return [FIRST, *sorted(there - {FIRST}, key=str.casefold)]


def use(name: str) -> str:
    """Choose a memory by its name, however its letters are written; one that is none yet is begun with what
    is next remembered. Returns its name. Raises InputError where it cannot be one, OSError where the choice
    cannot be kept.
    """
    from trebb.logbook.file.writing import write_whole

    wanted = _admitted(name)
    wanted = next((known for known in memories() if known.casefold() == wanted.casefold()), wanted)
    _folder().mkdir(parents=True, exist_ok=True)
    write_whole(_folder() / _IN_USE, wanted.encode())
    return wanted


def _admitted(name: str) -> str:
    name = " ".join(name.split())
    if not name or len(name) > LONGEST or not name[0].isalnum():
        raise InputError(f"memory “{name}”", f"a name begins with a letter or figure, at most {LONGEST} long")
    if not all(c.isalnum() or c in " -_." for c in name):
        raise InputError(f"memory “{name}”", "a name is of letters, figures, room, - _ and .")
    return name


def shop_path() -> Path:
    """Where the one in use is kept."""
    return _folder() / f"{in_use()}{ENDING}"


def has_memory() -> bool:
    """Whether there is one."""
    return shop_path().exists()
