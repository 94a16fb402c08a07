"""A folder into which a camera, a telephone or a person copies pictures: each is taken once it is whole."""

from __future__ import annotations

import os
import stat
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, QTimer, Signal

from trebb.logbook.file.photographs import PhotographError, read_photograph

PICTURES = (".jpg", ".jpeg", ".png", ".webp", ".tif", ".tiff")
TICK_MS = 500
RESTS = 2  # so many ticks a file must be as it was before: a copy that is under way is not waited for less

Picture = tuple[str, str, bytes]
State = tuple[int, int]  # size and time of change


class _Coming:
    """A file that came and is not taken yet."""

    def __init__(self) -> None:
        self.state: State = (-1, -1)
        self.rested = 0
        self.reads: Future[Picture] | None = None


class CameraFolder(QObject):
    """Watches a folder. `came` gives a picture that is whole: name, sha256, media type, bytes; `said` a
    sentence: what is waited for, or that the folder is gone.
    """

    came = Signal(str, str, str, bytes)
    said = Signal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.folder: Path | None = None
        self._seen: set[str] = set()
        self._coming: dict[str, _Coming] = {}
        self._reader: ThreadPoolExecutor | None = None
        self._watcher = QFileSystemWatcher(self)
        self._watcher.directoryChanged.connect(lambda _: self.look())
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self.look)

    def watch(self, folder: Path) -> None:
        """From now on; what is there already is left. Raises OSError where it cannot be looked into."""
        self._seen = {p.name for p in folder.iterdir()}
        self._coming = {}
        if self._watcher.directories():
            self._watcher.removePaths(self._watcher.directories())
        self.folder = folder
        self._watcher.addPath(str(folder))

    def newest(self) -> Path | None:
        """The picture that came last into the folder; None where none is watched or it holds none."""
        try:
            pictures = (
                [p for p in self.folder.iterdir() if p.suffix.lower() in PICTURES] if self.folder else []
            )
            return max(pictures, key=lambda p: p.stat().st_mtime_ns, default=None)
        except OSError:
            return None

    def look(self) -> None:
        """See what came, how far it is, and take what is whole."""
        folder = self.folder
        if folder is None:
            return
        try:
            names = sorted(
                p.name for p in folder.iterdir() if p.suffix.lower() in PICTURES and p.name not in self._seen
            )
        except OSError:
            self.folder, self._coming = None, {}
            self._timer.stop()
            self.said.emit(
                f"{folder} is gone: pictures are no longer watched for. Choose it again when it is back."
            )
            return
        self._coming = {name: self._coming.get(name) or _Coming() for name in names}
        for name, coming in list(self._coming.items()):
            self._look_at(folder / name, coming)
        if not self._coming:
            self._timer.stop()
        elif not self._timer.isActive():
            self._timer.start()

    def _look_at(self, path: Path, coming: _Coming) -> None:
        if coming.reads is not None:
            if coming.reads.done():
                self._read(path, coming)
            return
        try:
            found = path.stat()
        except OSError:  # gone again, or a link to nothing
            return
        if not stat.S_ISREG(found.st_mode):
            self._seen.add(path.name)
            del self._coming[path.name]
            return
        state = (found.st_size, found.st_mtime_ns)
        if state != coming.state:
            coming.state, coming.rested = state, 0
        elif found.st_size > 0:
            coming.rested += 1
            if coming.rested == RESTS:
                if self._reader is None:
                    self._reader = ThreadPoolExecutor(1, thread_name_prefix="photograph")
                coming.reads = self._reader.submit(read_photograph, path)

    def _read(self, path: Path, coming: _Coming) -> None:
        """It was read, whole or not; one that is not is looked at again when it changes."""
        assert coming.reads is not None
        try:
            sha, media, data = coming.reads.result()
        except PhotographError as error:
            coming.reads = None
            self.said.emit(f"{error}. It is waited for.")
            return
        coming.reads = None
        if state_of(path) != coming.state:
            return  # more of it came while it was read
        self._seen.add(path.name)
        del self._coming[path.name]
        self.came.emit(path.name, sha, media, data)


def state_of(path: Path) -> State | None:
    """Size and time of change of a file; None where it is gone."""
    try:
        found = os.stat(path)
    except OSError:
        return None
    return found.st_size, found.st_mtime_ns
