"""A random user: clicks, keys, typings, drags and resizes, seeded. `python -m trebb.app.monkey --help`.

It never waits and never reads what it is told. Whatever ends in an exception,
stands still for more than a second, grows by more than a tenth, or leaves a
file that does not fold to what was on the screen, is said with the gestures
that led there.
"""

from __future__ import annotations

import argparse
import os
import random
import resource
import sys
import tempfile
import time
import traceback
from collections import Counter, deque
from collections.abc import Callable
from pathlib import Path
from types import TracebackType

from msgspec import Struct, field

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QEvent, QPoint, QSettings, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QFileDialog, QLineEdit, QWidget

from trebb.app.look import painting
from trebb.app.look.widgets import Cover, Settles
from trebb.app.stops.register import ALL_STOPS
from trebb.app.window.gui import application
from trebb.app.window.main import SMALLEST_SIZE, Window
from trebb.core.units import UnitSystem
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.log.fold import Job

TYPED = (
    *(
        "8 in",
        "0.25",
        "2 thou",
        "6 tenths",
        "1-1/8",
        "12.7 mm",
        "58,5 64",
        "12,70 12,71",
        "58,5; 64",
        "8 tpi",
    ),
    *("0", "-5", "−3 thou", "nan", "inf", "1e999", "5 parsec", "1 m**9**9**9", "²0", "1,250", "1/0", "3 kg"),
    *("999999999", "", " ", "x", "½", "0.0001", "1_0", "8", "125", "Tr 28 x 5 LH", "3/4-8 Acme LH: goes on"),
    *("20 24 28 127", "1/2", "£1,800", "a\tb", "é" * 50, "9" * 60, "31.5", "89 F"),
)
_KEY = Qt.Key
PLAIN_KEYS = (
    *(_KEY.Key_Space, _KEY.Key_Backspace, _KEY.Key_Up, _KEY.Key_Down, _KEY.Key_Left, _KEY.Key_Right),
    *(_KEY.Key_Return, _KEY.Key_Escape, _KEY.Key_Tab, _KEY.Key_F1, _KEY.Key_F11),
    *(_KEY.Key_0, _KEY.Key_5, _KEY.Key_Period, _KEY.Key_Minus),
)
CTRL_KEYS = (_KEY.Key_U, _KEY.Key_Z, _KEY.Key_D, _KEY.Key_I, *(Qt.Key(_KEY.Key_1 + i) for i in range(8)))
# Buttons that open a file dialog or end the job.
LEFT_ALONE = ("close", "leave_job", "add_photo", "write_sheet")
FILES = ("dxf", "svg", "pdf", "sheet", "photograph", "table", "…")
KEPT_GESTURES = 12
SLOW_SECONDS, MOST_GROWTH = 1.0, 1.1


class Report(Struct):
    """What a run came to: each trouble as a text with its last gestures."""

    gestures: int = 0
    troubles: list[str] = field(default_factory=list)
    slowest_s: float = 0.0
    slowest: str = ""
    growth: float = 1.0
    folds_equal: bool = True

    @property
    def is_well(self) -> bool:
        """Whether nothing at all went wrong."""
        return not self.troubles and self.folds_equal

    def words(self) -> str:
        """The report as lines."""
        lines = [
            f"{self.gestures} gestures, {len(self.troubles)} exceptions; "
            f"slowest {self.slowest_s * 1000:.0f} ms "
            f"({self.slowest}); memory × {self.growth:.2f} over the second half; "
            f"file folds {'equal' if self.folds_equal else 'to another job than was shown'}"
        ]
        return "\n\n".join([*lines, *self.troubles])


class Monkey:
    """Drives a window on a practice job with a seed."""

    def __init__(self, window: Window, seed: int) -> None:
        self.window = window
        self.rng = random.Random(seed)
        self.last: deque[str] = deque(maxlen=KEPT_GESTURES)
        self.report = Report()
        self._count: Counter[str] = Counter()
        self._does: tuple[tuple[int, Callable[[], str]], ...] = (
            (30, self._click),
            (26, self._key),
            (14, self._type),
            (8, self._choose),
            (8, self._drag),
            (10, self._go),
            (2, self._resize),
            (2, self._assembly),
            (6, self._wheel),
            (1, self._print),
            (1, self._preferences),
            (1, self._start_page),
        )

    def _visible(self, kind: type[QWidget]) -> list[QWidget]:
        found = [w for w in self.window.findChildren(kind) if w.isVisible()]
        wide = [w for w in found if min(w.width(), w.height()) > 2]
        return [w for w in wide if not any(name in w.objectName() for name in LEFT_ALONE)]

    def _spot(self, widget: QWidget) -> QPoint:
        return QPoint(self.rng.randrange(widget.width()), self.rng.randrange(widget.height()))

    def _click(self) -> str:
        if self.rng.random() < 0.5:
            found = self._visible(QAbstractButton)
            widget = self.rng.choice(found) if found else None
        else:
            widget = self.window.childAt(self._spot(self.window))
        if widget is None:
            return "nothing to click"
        if isinstance(widget, QAbstractButton) and (
            any(word in widget.text().lower() for word in FILES)
            or any(name in widget.objectName() for name in LEFT_ALONE)
        ):
            return "left a file's button alone"
        if isinstance(widget, QComboBox):
            return self._choose()
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=self._spot(widget))
        return f"click {type(widget).__name__} {widget.objectName()}"

    def _key(self) -> str:
        target = QApplication.focusWidget() if self.rng.random() < 0.5 else self.window.frame
        if target is None or not target.isVisible():
            target = self.window
        if self.rng.random() < 0.3:
            key, modifier = self.rng.choice(CTRL_KEYS), Qt.KeyboardModifier.ControlModifier
            if key == Qt.Key.Key_Z and self.rng.random() < 0.4:
                modifier |= Qt.KeyboardModifier.ShiftModifier
        elif self.rng.random() < 0.15:
            key, modifier = Qt.Key(Qt.Key.Key_A + self.rng.randrange(12)), Qt.KeyboardModifier.AltModifier
        else:
            key, modifier = self.rng.choice(PLAIN_KEYS), Qt.KeyboardModifier.NoModifier
        QTest.keyClick(target, key, modifier)
        return f"key {key.name} {modifier.name} on {type(target).__name__}"

    def _type(self) -> str:
        found = self._visible(QLineEdit)
        if not found:
            return "nowhere to type"
        edit = self.rng.choice(found)
        assert isinstance(edit, QLineEdit)
        text = self.rng.choice(TYPED)
        edit.setFocus()
        edit.selectAll()
        edit.insert(text)
        edit.setModified(True)
        edit.textEdited.emit(text)
        if self.rng.random() < 0.7:
            QTest.keyClick(edit, Qt.Key.Key_Return)
        return f"type {text[:20]!r} into {edit.objectName()}"

    def _choose(self) -> str:
        found = [w for w in self._visible(QComboBox) if isinstance(w, QComboBox) and w.count()]
        if not found:
            return "nothing to choose from"
        box = self.rng.choice(found)
        index = self.rng.randrange(box.count())
        box.setCurrentIndex(index)
        box.activated.emit(index)
        return f"choose {index} of {box.objectName()}"

    def _drag(self) -> str:
        found = [w for w in self._visible(QWidget) if isinstance(w, painting.Painted)]
        if not found:
            return "nothing to drag"
        widget = self.rng.choice(found)
        start, end = self._spot(widget), self._spot(widget)
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=start)
        QTest.mouseMove(widget, end)
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=end)
        return f"drag over {type(widget).__name__}"

    def _go(self) -> str:
        frame = self.window.frame
        assert frame is not None
        index = self.rng.randrange(len(ALL_STOPS))
        frame.go(index)
        return f"go to {ALL_STOPS[index].key}"

    def _wheel(self) -> str:
        """The wheel over anything: it writes nothing."""
        found = self._visible(QWidget)
        frame = self.window.frame
        assert frame is not None
        widget = self.rng.choice(found)
        for typed in found:  # words typed before are taken at rest, perhaps just now
            if isinstance(typed, Settles) and isinstance(typed, QWidget) and typed.at_buttons:
                typed.settle()
        newest = frame.session.file.newest
        at = widget.mapTo(self.window, self._spot(widget))
        QTest.wheelEvent(self.window.windowHandle(), at, QPoint(0, self.rng.choice((-360, -120, 120))))
        if frame.session.file.newest != newest:
            self._add(f"the wheel over {type(widget).__name__} {widget.objectName()} wrote something; ")
        return f"wheel over {type(widget).__name__} {widget.objectName()}"

    def _print(self) -> str:
        """The papers looked at, and away again."""
        frame = self.window.frame
        assert frame is not None
        frame.show_print()
        QApplication.processEvents()
        for cover in frame.findChildren(Cover):
            cover.close()
        return "print"

    def _preferences(self) -> str:
        self.window.show_preferences()
        QApplication.processEvents()
        self.window._from_preferences()
        return "preferences"

    def _start_page(self) -> str:
        """The job closed, and opened again from the start page."""
        frame = self.window.frame
        assert frame is not None
        path = frame.session.path
        self.window.leave_job()
        QApplication.processEvents()
        if not self.window.open_path(path):
            raise RuntimeError(self.window.start.banner.head.text())
        return "start page and back"

    def _resize(self) -> str:
        size = (SMALLEST_SIZE[0] + self.rng.randrange(700), SMALLEST_SIZE[1] + self.rng.randrange(500))
        self.window.resize(*size)
        return f"resize to {size}"

    def _assembly(self) -> str:
        frame = self.window.frame
        assert frame is not None
        assembly = self.rng.choice(frame.session.cases.kind.assemblies).key
        frame.machine.list.chosen.emit(assembly)
        return f"choose {assembly}"

    def _caught(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        told = "".join(traceback.format_exception(kind, error, trace)[-4:])
        self._add(told)

    def _add(self, told: str) -> None:
        """A trouble with its last gestures; the same again is only counted."""
        self._count[told] += 1
        if self._count[told] == 1:
            self.report.troubles.append(f"{told}after: {'; '.join(self.last)}")

    def run(self, count: int) -> Report:
        """So many gestures; returns the report."""
        before_hook, sys.excepthook = sys.excepthook, self._caught
        painting.TROUBLES.clear()
        weights = [w for w, _ in self._does]
        half = 0
        try:
            for i in range(count):
                does = self.rng.choices([d for _, d in self._does], weights)[0]
                start = time.thread_time()
                try:
                    words = does()
                    self.last.append(words)
                    QApplication.processEvents()
                    # What is to go goes once the loop turns; without one, here.
                    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
                except Exception as error:
                    words = does.__name__
                    self._caught(type(error), error, error.__traceback__)
                spent = time.thread_time() - start
                if spent > self.report.slowest_s:
                    self.report.slowest_s, self.report.slowest = spent, words
                self._painted()
                if i == count // 2:
                    half = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        finally:
            sys.excepthook = before_hook
        self.report.gestures = count
        self.report.growth = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / max(half, 1)
        self.report.folds_equal = self._folds_equal()
        return self.report

    def _painted(self) -> None:
        for trouble in painting.TROUBLES:
            self._add(trouble)
        painting.TROUBLES.clear()

    def _folds_equal(self) -> bool:
        frame = self.window.frame
        assert frame is not None
        shown, anew = frame.session.job, Job(frame.session.file.entries())
        return all(told(shown, a.key) == told(anew, a.key) for a in frame.session.cases.kind.assemblies)


def told(job: Job, assembly: str) -> tuple[object, ...]:
    """What a job says of an assembly, for comparing two folds."""
    return (
        job.facts_of(assembly),
        job.grade(assembly),
        job.chosen(assembly),
        job.number_one,
        [(r.id, r.struck, r.is_kept) for r in job.all_readings()],
        job.undoable,
        job.redoable,
        job.is_power_locked,
    )


def answer_no_dialog() -> None:
    """Every file dialog is left without a choice: nobody would answer it here."""
    for name in ("getOpenFileName", "getSaveFileName"):
        setattr(QFileDialog, name, staticmethod(lambda *_, **__: ("", "")))
    QFileDialog.getExistingDirectory = staticmethod(lambda *_, **__: "")  # type: ignore[method-assign]


def on_demo(machine: str, seed: int, count: int, folder: Path) -> Report:
    """A run on one of the depot's machines, in a new job file in `folder`."""
    application()
    answer_no_dialog()
    settings = QSettings(str(folder / "window.ini"), QSettings.Format.IniFormat)
    window = Window(settings)
    window.open_file(DEMOS[machine](folder / f"{machine}-{seed}.trebb"))
    assert window.frame is not None
    if seed % 2:
        window.frame.session.show_in(UnitSystem.METRIC)
    window.show()
    report = Monkey(window, seed).run(count)
    window.leave_job()
    window.hide()
    window.deleteLater()
    QApplication.processEvents()
    return report


def main() -> int:
    """Run it from the shell; exit code 1 where anything went wrong."""
    words = argparse.ArgumentParser(description="A random user on the demo machines.")
    words.add_argument("--machine", choices=[*DEMOS, "all"], default="all")
    words.add_argument("--seed", type=int, default=1)
    words.add_argument("--count", type=int, default=5000)
    given = words.parse_args()
    is_well = True
    for machine in DEMOS if given.machine == "all" else (given.machine,):
        with tempfile.TemporaryDirectory() as folder:
            os.environ["XDG_DATA_HOME"] = folder  # the rack of whoever runs this stays untouched
            report = on_demo(machine, given.seed, given.count, Path(folder))
        print(f"{machine}, seed {given.seed}: {report.words()}")
        is_well &= report.is_well and report.slowest_s < SLOW_SECONDS and report.growth < MOST_GROWTH
    return 0 if is_well else 1


if __name__ == "__main__":
    sys.exit(main())
