"""How it sounds, before and after: recordings kept in the job, written out again to be heard."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from trebb.app.look.widgets import button, clear, column, label, row
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.logbook.file.recordings import read_recording
from trebb.logbook.file.writing import write_whole
from trebb.logbook.log.entries import PhotoAdded, phase_of

MOST_SHOWN = 6
SAID = {"before": "before the repair", "after": "after the repair"}
SOUNDS = "Recordings (*.wav *.flac *.ogg *.opus *.mp3 *.m4a *.aac);;All files (*)"


class Recordings(QWidget):
    """A line a recording, of before and after; one more is of the `phase` that the page is about."""

    def __init__(self, session: Session, phase: str) -> None:
        super().__init__()
        self._session, self._phase = session, phase
        self._shown: list[PhotoAdded] | None = None
        box = column(spacing=3)
        self.setLayout(box)
        line = row(spacing=6)
        line.addWidget(label("How it sounds", "strong"))
        line.addStretch(1)
        line.addWidget(
            button(
                "Keep a recording",
                self._choose,
                kind="link",
                tip=f"A sound file of it, {SAID[phase]}: copied into the job",
                name=f"add_recording_{phase}",
            )
        )
        box.addLayout(line)
        self.list = column(spacing=2)
        box.addLayout(self.list)
        self.said = label("", "small", wrap=True)
        self.said.hide()
        box.addWidget(self.said)

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A recording of it", str(Path.home()), SOUNDS)
        if name:
            self.add(Path(name))

    def add(self, path: Path) -> None:
        """Keep a sound file; says here why it is none."""
        try:
            sha, media, data = read_recording(path)
        except TrebbError as error:
            self._say(f"{error}.")
            return
        body = PhotoAdded(self._session.assembly, sha, media, path.name, self._phase)
        if self._session.record(body, photographs={sha: (media, data)}):
            self._say(f"Kept: {path.name}.")

    def _write(self, one: PhotoAdded) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Write it out", str(Path.home() / one.file_name), SOUNDS)
        if name:
            self.write(one, Path(name))

    def write(self, one: PhotoAdded, path: Path) -> None:
        """Write a recording out, to be heard by whatever plays such files here."""
        try:
            write_whole(path, self._session.file.photograph(one.sha256)[1])
        except TrebbError as error:
            self._say(f"{error}.")
            return
        self._say(f"Written: {path}.")

    def _say(self, sentence: str) -> None:
        self.said.setText(sentence)
        self.said.setVisible(bool(sentence))

    def refresh(self) -> None:
        """Show what is kept."""
        found = self._session.job.recordings()[-MOST_SHOWN:]
        if found == self._shown:
            return
        self._shown = found
        clear(self.list)
        for one in found:
            line = row(spacing=6)
            machine = self._session.job.machine
            where = machine.assembly(one.assembly).label if machine.has(one.assembly) else "the machine"
            words = f"{one.file_name}: {where}, {SAID.get(phase_of(one.caption), '')}"
            line.addWidget(label(words, "soft", wrap=True), 1)
            tip = f"Write {one.file_name} out, to be heard"
            line.addWidget(button("Write out", partial(self._write, one), kind="link", tip=tip))
            self.list.addLayout(line)
