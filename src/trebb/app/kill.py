"""Ends the real window with kill -9 while it works, again and again; nothing that was shown may be gone.

`python -m trebb.app.kill --count 1000`. A child opens the window on a job and
takes readings, adds photographs, exports and brings readings in, without a
pause. What the window shows as taken it reports; somewhere in between it is
killed. Then the file is opened: it must be sound, hold every reading and every
photograph that was reported, and fold; an export must be whole or not there.
"""

from __future__ import annotations

import argparse
import importlib
import io
import json
import os
import random
import select
import signal
import sys
import tempfile
import time
import zipfile
from pathlib import Path

from msgspec import Struct, field

from trebb.logbook.file.store import JobFile, sha256_of
from trebb.logbook.log.entries import PhotoAdded, ReadingTaken

SET_UP = "end_float"
LONGEST_S = 1.0  # of work after the first report, before it is killed
START_S = 120.0  # within which a window must report at all


class Tally(Struct):
    """What was shown in all, and what was wrong."""

    kills: int = 0
    readings: int = 0
    photographs: int = 0
    exports: int = 0
    lost: list[str] = field(default_factory=list)

    def words(self) -> str:
        """In a line."""
        return (
            f"{self.kills} kills: {self.readings} readings and {self.photographs} photographs shown, "
            f"{self.exports} exports begun; {len(self.lost)} lost or broken"
        )


class _User:
    """Gestures of the child on a real window; each reports what the window then shows as taken."""

    def __init__(self, path: Path, seed: int, report: int) -> None:
        from PySide6.QtCore import QSettings

        from trebb.app.window.gui import application
        from trebb.app.window.main import Window
        from trebb.logbook.cases.casework import SCREW

        self.path, self.report, self.rng = path, report, random.Random(seed)
        self.app = application()
        window = Window(QSettings(str(path.with_suffix(".ini")), QSettings.Format.IniFormat))
        window.open_file(JobFile.open(path))
        assert window.frame is not None
        self.window, self.frame = window, window.frame
        window.show()
        self.frame.session.choose(SCREW)

    def tell(self, what: str, value: object) -> None:
        """Shown from here on."""
        os.write(self.report, f"{what} {value}\n".encode())

    def take(self) -> None:
        """A reading, typed."""
        from trebb.app.stops.survey import SurveyStop

        survey = self.frame.go_to("survey")
        assert isinstance(survey, SurveyStop)
        survey.bench.choose_set_up(SET_UP)
        survey.bench.choose_place("collar")  # read as often as wanted, it is read again
        before = len(self.frame.session.job.all_readings())
        survey.pod.take_typed(f"{self.rng.uniform(1, 9):.1f} thou")
        self.app.processEvents()
        shown = self.frame.session.job.all_readings()
        if len(shown) > before:
            self.tell("reading", shown[-1].id)

    def photograph(self) -> None:
        """A picture of its own."""
        from PIL import Image

        from trebb.app.stops.intake import IntakeStop

        intake = self.frame.go_to("intake")
        assert isinstance(intake, IntakeStop)
        data = io.BytesIO()
        shade = self.rng.randint(0, 255)
        Image.new("RGB", (self.rng.randint(40, 400), 60), (shade, 90, 90)).save(data, "PNG")
        picture = self.path.with_suffix(".png")
        picture.write_bytes(data.getvalue())
        intake.add_photo(picture)
        self.app.processEvents()
        self.tell("photograph", sha256_of(data.getvalue()))

    def export(self) -> None:
        """The whole job, over the export before it."""
        from trebb.logbook.exchange.job_json import export_job

        self.tell("export", self.path.with_suffix(".json"))
        export_job(self.frame.session.file, self.path.with_suffix(".json"))

    def spreadsheet(self) -> None:
        """The same as a spreadsheet."""
        from trebb.logbook.exchange.spreadsheet import write_xlsx

        self.tell("export", self.path.with_suffix(".xlsx"))
        session = self.frame.session
        write_xlsx(session.cases, session.system, self.path.with_suffix(".xlsx"))

    def bring(self) -> None:
        """Five readings in one gesture."""
        from trebb.app.window.bring_in import BringIn

        self.frame.bring_in()
        page = self.frame.findChildren(BringIn)[-1]
        key = self.frame.session.assembly
        rows = "".join(f"\n{key}\t{SET_UP}\tcollar\t{self.rng.uniform(1, 9):.2f}" for _ in range(5))
        page.text.setPlainText(f"assembly\tset_up\tplace\tvalue_thou{rows}")
        page.take()
        self.app.processEvents()
        for reading in self.frame.session.job.all_readings()[-5:]:
            self.tell("reading", reading.id)


def _work(path: Path, seed: int, report: int) -> None:
    """The child: the window, and gestures without end."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from trebb.app.look import sounds

    sounds.is_on = False
    user = _User(path, seed, report)
    user.take()
    gestures = (user.take, user.photograph, user.export, user.spreadsheet, user.bring)
    while True:
        user.rng.choices(gestures, (20, 3, 2, 1, 2))[0]()


def one(path: Path, seed: int, tally: Tally) -> None:
    """One window, killed somewhere; the tally says what it showed and what of that is not there."""
    rng = random.Random(seed)
    read, write = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(read)
        try:
            _work(path, seed, write)
        except BaseException as error:
            os.write(write, f"failed {error!r}\n".encode())
        finally:
            os._exit(1)
    os.close(write)
    told = _listen(read, child, rng.uniform(0.0, LONGEST_S))
    tally.kills += 1
    _look(path, told, tally)


def _listen(read: int, child: int, work_s: float) -> list[str]:
    """Lines of the child until it was killed; work_s counts from its first."""
    held, end = b"", time.monotonic() + START_S
    is_begun = False
    while time.monotonic() < end:
        ready = select.select([read], [], [], max(0.0, min(0.05, end - time.monotonic())))[0]
        if not ready:
            continue
        data = os.read(read, 65_536)
        if not data:
            break
        held += data
        if not is_begun:
            is_begun, end = True, time.monotonic() + work_s
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    while data := os.read(read, 65_536):
        held += data
    os.close(read)
    whole = held.decode().rsplit("\n", 1)[0]  # a line cut by the kill was not shown
    return whole.splitlines()


def _look(path: Path, told: list[str], tally: Tally) -> None:
    exports = set()
    readings, photographs = set(), set()
    for line in told:
        what, _, value = line.partition(" ")
        if what == "reading":
            readings.add(int(value))
        elif what == "photograph":
            photographs.add(value)
        elif what == "export":
            exports.add(Path(value))
        else:
            tally.lost.append(line)
    tally.readings += len(readings)
    tally.photographs += len(photographs)
    tally.exports += sum(line.startswith("export") for line in told)
    if not told:
        tally.lost.append("the window reported nothing")
    elif not readings:
        tally.lost.append("no reading was taken")
    with JobFile.open(path) as job_file:
        entries = job_file.entries()
        there = {e.id for e in entries if isinstance(e.body, ReadingTaken)}
        shas = {e.body.sha256 for e in entries if isinstance(e.body, PhotoAdded)}
        tally.lost += [f"reading {i}" for i in sorted(readings - there)]
        tally.lost += [f"photograph {sha[:8]}" for sha in sorted(photographs - shas)]
        for sha in shas:
            if sha256_of(job_file.photograph(sha)[1]) != sha:
                tally.lost.append(f"photograph {sha[:8]} is not what it was")
    for export in exports:
        if export.is_file() and not _is_whole(export):
            tally.lost.append(f"{export.name} is cut short")


def _is_whole(path: Path) -> bool:
    if path.suffix == ".xlsx":
        with zipfile.ZipFile(path) as held:
            return held.testzip() is None
    try:
        json.loads(path.read_text(encoding="utf-8"))
    except ValueError:
        return False
    return True


def _load() -> None:
    """Load what every window needs once, before any child is made: no Qt application exists here."""
    for name in (
        "window.gui",
        "window.main",
        "window.bring_in",
        "stops.intake",
        "stops.survey",
        "views.rows",
    ):
        importlib.import_module(f"trebb.app.{name}")


def run(count: int, seed: int, folder: Path, *, jobs: int = 1) -> Tally:
    """So many kills, on a job anew for each `jobs` of them."""
    from trebb.logbook.demo.jobs import make_demo

    _load()
    tally = Tally()
    path = folder / "killed.trebb"
    for k in range(count):
        if k % jobs == 0:
            path = folder / f"killed-{k}.trebb"
            make_demo(path).close()
        one(path, seed + k, tally)
    return tally


def main() -> int:
    """Run it from the shell; exit code 1 where anything was lost."""
    words = argparse.ArgumentParser(description="Kill -9 of the real window, again and again.")
    words.add_argument("--count", type=int, default=1000)
    words.add_argument("--seed", type=int, default=1)
    given = words.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_DATA_HOME"] = folder  # copies and memory of whoever runs this stay untouched
        tally = run(given.count, given.seed, Path(folder), jobs=20)
    print(tally.words())
    for line in tally.lost[:20]:
        print(f"  {line}")
    return 1 if tally.lost else 0


if __name__ == "__main__":
    sys.exit(main())
