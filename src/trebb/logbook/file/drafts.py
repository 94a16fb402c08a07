"""Words half typed that no entry holds yet, kept beside the job: the title of a task, why a repair is
chosen, a part that its gate refused. They are no part of the job, and nothing is worked out of them.
"""

from __future__ import annotations

import contextlib
import json
from pathlib import Path

import platformdirs

from trebb.core.errors import TrebbError
from trebb.logbook.file.writing import write_whole

MOST_BYTES = 1_000_000


class Drafts:
    """The drafts of one job, by the field they stand in; a place that cannot be written keeps none.

    Parameters
    ----------
    job : the name of the job, the same wherever its file is.
    """

    def __init__(self, job: str) -> None:
        self.path = platformdirs.user_state_path("trebb", appauthor=False) / "drafts" / f"{job}.json"
        self._held: dict[str, str] | None = None

    def _all(self) -> dict[str, str]:
        if self._held is None:
            self._held = _read(self.path)
        return self._held

    def of(self, field: str) -> str:
        """What was being typed in a field; "" for nothing."""
        return self._all().get(field, "")

    def keep(self, field: str, text: str) -> None:
        """Have what is being typed on the disk; nothing for none any more."""
        held = self._all()
        if held.get(field, "") == text:
            return
        if text:
            held[field] = text
        else:
            held.pop(field, None)
        with contextlib.suppress(OSError, TrebbError):  # a draft is a help, never a hindrance
            if held:
                self.path.parent.mkdir(parents=True, exist_ok=True)
                write_whole(self.path, json.dumps(held, ensure_ascii=False, indent=1).encode())
            else:
                self.path.unlink(missing_ok=True)


def _read(path: Path) -> dict[str, str]:
    with contextlib.suppress(OSError, ValueError, RecursionError):
        if path.stat().st_size <= MOST_BYTES:
            told = json.loads(path.read_text(encoding="utf-8"))
            if isinstance(told, dict):
                return {str(k): v for k, v in told.items() if isinstance(v, str)}
    return {}
