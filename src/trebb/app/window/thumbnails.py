"""Small pictures of a job's photographs, each made once."""

from __future__ import annotations

from collections import OrderedDict

from PySide6.QtCore import QByteArray
from PySide6.QtGui import QPixmap

from trebb.core.errors import TrebbError
from trebb.logbook.file.store import JobFile

MOST_KEPT = 60


class Thumbnails:
    """Made when first shown, and kept while they are looked at."""

    def __init__(self) -> None:
        self._made: OrderedDict[str, tuple[QPixmap, str]] = OrderedDict()

    def of(self, job_file: JobFile, sha256: str) -> tuple[QPixmap, str]:
        """The small picture, and why there is none ("" where there is)."""
        found = self._made.get(sha256)
        if found is None:
            found = self._made[sha256] = self._make(job_file, sha256)
            while len(self._made) > MOST_KEPT:
                self._made.popitem(last=False)
        self._made.move_to_end(sha256)
        return found

    @staticmethod
    def _make(job_file: JobFile, sha256: str) -> tuple[QPixmap, str]:
        from trebb.logbook.file.photographs import thumbnail

        picture = QPixmap()
        try:
            picture.loadFromData(QByteArray(thumbnail(job_file.photograph(sha256)[1])))
        except TrebbError as error:
            return QPixmap(), str(error)
        return picture, "" if not picture.isNull() else "this photograph cannot be shown"
