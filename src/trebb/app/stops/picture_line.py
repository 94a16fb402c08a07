"""Pictures of a thing: from a file, as copied, or from a folder that a camera fills; and the one it has."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, Qt
from PySide6.QtGui import QGuiApplication, QPixmap
from PySide6.QtWidgets import QFileDialog, QWidget

from trebb.app.look.widgets import button, column, label, plain_tip, row
from trebb.app.window.camera_folder import CameraFolder
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.logbook.file.photographs import read_photograph
from trebb.logbook.file.store import sha256_of

PHOTO_HEIGHT = 110
NO_PICTURE = "Nothing that was copied is a picture."


def chosen_picture(owner: QWidget, title: str) -> Path | None:
    """A picture file that is chosen; None where none was."""
    kinds = "Pictures (*.jpg *.jpeg *.png *.webp *.tif *.tiff);;All files (*)"
    name, _ = QFileDialog.getOpenFileName(owner, title, str(Path.home()), kinds)
    return Path(name) if name else None


def copied_picture() -> tuple[str, str, bytes, str] | None:
    """The picture that was copied: its SHA-256, media type, bytes and a name; None where none was."""
    image = QGuiApplication.clipboard().image()
    if image.isNull():
        return None
    held = QByteArray()
    buffer = QBuffer(held)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]
    data = bytes(held.data())
    return sha256_of(data), "image/png", data, "pasted.png"


class PictureLine(QWidget):
    """Three ways for a picture to come, and what became of it; `keep` is told its SHA-256, media type, bytes
    and name, and says whether it was kept. `shown` is where the picture of the thing looked at stands.
    """

    def __init__(self, session: Session, keep: Callable[[str, str, bytes, str], bool]) -> None:
        super().__init__()
        self._session, self._keep = session, keep
        self._camera = CameraFolder(self)
        self._camera.came.connect(lambda name, sha, media, data: self._take(sha, media, data, name))
        self._camera.said.connect(self.say)
        self.shown = label("")
        box = column(spacing=6)
        self.setLayout(box)
        self.said = label("", "small", wrap=True)
        self.said.hide()
        box.addWidget(self.said)
        line = row(spacing=6)
        for words, does, tip, key, name in (
            ("Picture", self._choose, "Add a picture file of it", "", "strip_photo"),
            ("Paste", self.paste_photo, "Add the picture that was copied", "Ctrl+V", "strip_paste"),
            (
                "Watch folder",
                self._choose_folder,
                "Each picture that comes into a folder is of this part",
                "",
                "strip_watch",
            ),
        ):
            line.addWidget(button(words, does, tip=tip, key=key, name=name, shortcut=bool(key)))
        box.addLayout(line)

    def _choose(self) -> None:
        if path := chosen_picture(self, "A picture of it"):
            self.add_photo(path)

    def add_photo(self, path: Path) -> None:
        """A picture file of the part looked at; says here why it is none."""
        try:
            sha, media, data = read_photograph(path)
        except TrebbError as error:
            self.say(f"{error}.")
            return
        self._take(sha, media, data, path.name)

    def paste_photo(self) -> None:
        """The picture that was copied."""
        copied = copied_picture()
        if copied is None:
            self.say(NO_PICTURE)
        else:
            self._take(*copied)

    def take_newest(self) -> None:
        """One key: the newest picture of the folder that is watched, else the one that was copied."""
        newest = self._camera.newest()
        if newest is not None:
            self.add_photo(newest)
        else:
            self.paste_photo()

    def _take(self, sha: str, media: str, data: bytes, name: str) -> None:
        if self._keep(sha, media, data, name):
            self.say(f"Kept: {name}.")

    def _choose_folder(self) -> None:
        name = QFileDialog.getExistingDirectory(self, "Where the camera puts its pictures", str(Path.home()))
        if name:
            self.watch(Path(name))

    def watch(self, folder: Path) -> None:
        """Each picture that comes into a folder from now on is of the part looked at."""
        try:
            self._camera.watch(folder)
        except OSError as error:
            self.say(f"{folder}: it cannot be watched ({error.strerror}). Another folder would do.")
            return
        self.say(f"Watching {folder}: each new picture is of the part looked at, once it is whole.")

    def say(self, sentence: str) -> None:
        """What became of it."""
        self.said.setText(sentence)
        self.said.setVisible(bool(sentence))

    def show_photo(self, what: str, sha: str) -> None:
        """Show the picture of a thing; "" : it has none."""
        pixmap = QPixmap()
        if sha:
            pixmap, why = self._session.thumbnails.of(self._session.file, sha)
            if why:  # stated by an import that brought no picture, or one that cannot be shown
                self.say(f"Its picture: {why}.")
        self.shown.setVisible(not pixmap.isNull())
        if not pixmap.isNull():
            self.shown.setPixmap(
                pixmap.scaledToHeight(PHOTO_HEIGHT, Qt.TransformationMode.SmoothTransformation)
            )
            self.shown.setToolTip(plain_tip(what))
