"""The start page: go on with a recent job, or start a new one."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Protocol

from PySide6.QtCore import QByteArray, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtWidgets import (
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from trebb.app.look import painting, theme
from trebb.app.look.flow import Flow
from trebb.app.look.widgets import Banner, Choice, button, clear, column, label, row, sheet
from trebb.core.machine import CLASS_LIMITS, KINDS
from trebb.core.units import UnitSystem
from trebb.logbook.file.backups import can_be_salvaged
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.glance import Glance, glance, small_picture
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import CardChanged, JobStarted

ROW_HEIGHT = 46
PICTURE = QSize(56, 42)  # of a job's last photograph
SHOWN = 7  # jobs in the list; more are found by their words


class _Picture(painting.Painted, QWidget):
    """The kind of machine about to be started."""

    def __init__(self) -> None:
        super().__init__()
        self.kind = "lathe"
        self.setMinimumHeight(200)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painting.paint_figure(
            painter, KINDS[self.kind].elevation, QRectF(self.rect()).adjusted(20, 10, -20, -10), "cross_slide"
        )


class Opener(Protocol):
    """What opens jobs: the window."""

    @property
    def remembered(self) -> list[Path]:
        """Jobs opened lately, newest first, those too whose file is not there any more."""
        ...

    def forget(self, path: Path) -> None:
        """Take a job off the list."""
        ...

    def open_path(self, path: Path) -> bool:
        """Open a job file; the start page says why if it cannot be."""
        ...

    def kept_units(self) -> UnitSystem | None:
        """The units that were shown last; None where nobody chose yet."""
        ...

    def open_file(self, job_file: JobFile) -> bool:
        """Show an open job file."""
        ...

    def show_practice(self) -> None:
        """The practice bench's page."""
        ...

    def show_shop(self) -> None:
        """The shop's memory."""
        ...

    def show_backups(self) -> None:
        """Copies of jobs, to be restored."""
        ...

    def show_join(self) -> None:
        """Two copies of a job that went apart."""
        ...

    def offer_first_steps(self) -> None:
        """The five gestures to begin with."""
        ...

    def show_preferences(self) -> None:
        """Display and sound."""
        ...

    def save_what_is_sound(self, path: Path) -> None:
        """What can be read of a damaged job, written beside it and opened."""
        ...


class StartPage(QWidget):
    """Recent jobs at the left, a new job at the right."""

    def __init__(self, window: Opener) -> None:
        super().__init__()
        self.setObjectName("window")
        self._window = window
        outer = column(spacing=14)
        outer.setContentsMargins(70, 44, 70, 44)
        self.setLayout(outer)
        name = label("Trebb", "title")
        name.setStyleSheet(f"color: {theme.roles().blue}; font-size: 34px;")
        outer.addWidget(name)
        outer.addWidget(
            label(
                "One worn machine at a time: keep every reading, see what is wrong, make the part, prove the "
                "result.",
                "soft",
            )
        )
        self._damaged: Path | None = None
        outer.addWidget(self._warning())
        middle = row(spacing=18)
        outer.addLayout(middle, 1)
        middle.addWidget(sheet(self._go_on(), 24), 1)
        middle.addWidget(sheet(self._new_job(), 24), 1)
        outer.addWidget(
            label(
                "Nothing needs saving: each entry is in the file when it is on the screen.   F1 shows the "
                "keys.",
                "soft",
            )
        )
        self.refresh()

    def _warning(self) -> Banner:
        """Where a job that cannot be opened is said, with what can still be done."""
        self.banner = Banner()
        self.save_sound = button(
            "Save what can be read of it",
            self._save_sound,
            kind="dark",
            tip="Written beside it as a new job; the damaged file is only read",
            name="save_sound",
        )
        self.save_sound.hide()
        self.banner.buttons.addWidget(self.save_sound)
        self.banner.buttons.addStretch()
        self.banner.hide()
        return self.banner

    def _go_on(self) -> QVBoxLayout:
        """Recent jobs, found by their words, and what else can be opened."""
        self._recent = column(spacing=6)
        left = column(spacing=10)
        left.addWidget(label("Go on with", "head"))
        self.search = QLineEdit()
        self.search.setObjectName("find_job")
        self.search.setAccessibleName("Find a job")
        self.search.setPlaceholderText("a machine, a shop, a folder")
        self.search.setToolTip("All the words must be in what is found")
        self.search.textChanged.connect(self._list)
        self._glances: list[Glance] = []
        self._pictures: dict[str, QIcon] = {}  # by photograph; made one at a time, once the page stands
        self._waiting: list[tuple[Glance, QPushButton]] = []
        self._later = QTimer(self)
        self._later.setInterval(0)
        self._later.timeout.connect(self._show_one)
        left.addWidget(self.search)
        left.addLayout(self._recent)
        left.addStretch()
        left.addLayout(self._actions())
        left.addLayout(self._demos())
        return left

    def _actions(self) -> Flow:
        actions = Flow(spacing=8)
        for words, does, tip, key, name in (
            ("Open a job file", self.ask_which, "Choose a job file", "Ctrl+O", "open_job"),
            (
                "All machines",
                self.show_week,
                "Your open jobs in one list of evenings: what is due first, what to order for all",
                "Ctrl+J",
                "all_machines",
            ),
            (
                "Practice bench",
                self._window.show_practice,
                "A machine with a hidden fault, and a score at the end",
                "Ctrl+B",
                "practice_bench",
            ),
            (
                "The shop's memory",
                self._window.show_shop,
                "What your jobs taught, instruments, what was foretold, search over all jobs",
                "Ctrl+M",
                "shop_memory",
            ),
            (
                "Back-ups",
                self._window.show_backups,
                "Copies made when jobs were closed, to be restored",
                "",
                "backups",
            ),
            (
                "Join two copies",
                self._window.show_join,
                "Two copies of one job that went apart, a laptop's and an office's, as one",
                "",
                "join_copies",
            ),
        ):
            actions.addWidget(button(words, does, tip=tip, key=key, shortcut=bool(key), name=name))
        actions.addWidget(
            button(
                "Display and sound",
                self._window.show_preferences,
                tip="Colours, size, shop mode for gloves, tones and speech",
                key="Ctrl+,",  # the whole window's own
                name="preferences",
            )
        )
        return actions

    def show_week(self) -> None:
        """All open jobs and the one fitter."""
        from trebb.app.plan.week_page import WeekPage

        paths = [g.path for g in self._glances if g.path.is_file() and not g.is_practice]
        system = self._window.kept_units() or UnitSystem.INCH
        page = WeekPage(self, paths, system, self._window.open_path)
        page.setGeometry(self.rect())
        page.show()
        page.raise_()
        page.rows.setFocus()

    def _demos(self) -> QHBoxLayout:
        demos = row()
        demos.addWidget(label("Demo jobs of an invented canal depot:", "soft"))
        for machine, words, tip in (
            ("lathe", "Lathe", "A seat that does not repeat and a worn cross-slide screw"),
            ("mill", "Mill", "Worn journals under good bearings"),
            ("drill", "Pillar drill", "Slack in the coupler, and one bearing"),
        ):
            demos.addWidget(
                button(
                    words,
                    partial(self._demo, machine),
                    tip=f"{tip}; part of the way through its survey",
                    name="open_demo" if machine == "lathe" else f"open_demo_{machine}",
                )
            )
        demos.addStretch()
        return demos

    def _new_job(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(9)
        grid.addWidget(label("Start a new job", "head"), 0, 0, 1, 2)
        self.picture = _Picture()
        grid.addWidget(self.picture, 1, 0, 1, 2)
        self.machine = QLineEdit()
        self.machine.setPlaceholderText("Lathe 2, its maker, the year")
        self.shop = QLineEdit()
        self.shop.setPlaceholderText("your shop or depot")
        self.kind = Choice()
        for kind in KINDS.values():
            self.kind.addItem(kind.label, kind.key)
        self.rated = Choice()
        for key in ("ordinary", "toolroom", "rough"):
            assert key in CLASS_LIMITS
            self.rated.addItem(
                {"ordinary": "ordinary", "toolroom": "toolroom", "rough": "rough work"}[key], key
            )
        rows = (
            ("Machine", self.machine, "machine"),
            ("Shop", self.shop, "shop"),
            ("Kind", self.kind, "kind"),
            ("Rated as", self.rated, "rated"),
        )
        for i, (words, field, name) in enumerate(rows, start=2):
            field.setObjectName(f"new_{name}")
            field.setAccessibleName(words)
            field.setToolTip(f"{words} of the new job")
            grid.addWidget(label(words), i, 0)
            grid.addWidget(field, i, 1)
        self.kind.currentIndexChanged.connect(self._kind_changed)
        self.refusal = label("", "refused", wrap=True)
        grid.addWidget(self.refusal, 6, 0, 1, 2)
        start = button(
            "Choose where to keep it, and start",
            self._new,
            kind="primary",
            tip="Start the job",
            key="Ctrl+N",
            shortcut=True,
            name="start_job",
        )
        grid.addWidget(start, 7, 0, 1, 2)
        grid.setRowStretch(1, 1)
        grid.setColumnStretch(1, 1)
        return grid

    def _kind_changed(self) -> None:
        self.picture.kind = str(self.kind.currentData())
        self.picture.update()

    def refresh(self) -> None:
        """List the recent jobs as they are now."""
        self._glances = [glance(path) for path in self._window.remembered]
        self.search.setVisible(len(self._glances) > SHOWN)
        self._list()

    def _list(self) -> None:
        clear(self._recent)
        self._waiting = []
        found = [g for g in self._glances if g.has(self.search.text())]
        for one in found[:SHOWN]:
            self._recent.addLayout(self._recent_row(one))
        if not self._glances:
            self._recent.addWidget(
                label(
                    "No job yet on this computer. The demo shows a lathe with a worn cross-slide screw.",
                    "soft",
                    wrap=True,
                )
            )
        elif not found:
            self._recent.addWidget(label("None of your jobs has all of these words.", "soft"))

    def _recent_row(self, one: Glance) -> QHBoxLayout:
        line = row(spacing=6)
        shop = f", {one.shop}" if one.shop else ""
        made = button(
            f"{one.machine}{shop}\n{one.words()}",
            lambda: self._window.open_path(one.path),
            tip=f"Open {one.path}",
        )
        made.setStyleSheet("text-align: left; padding: 4px 9px;")
        made.setMinimumHeight(ROW_HEIGHT)
        made.setEnabled(one.path.is_file())
        made.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        if one.photo:
            made.setIconSize(PICTURE)
            self._waiting.append((one, made))
            self._later.start()
        line.addWidget(made, 1)
        if not one.path.is_file():
            line.addWidget(
                button(
                    "Forget it",
                    partial(self._forget, one.path),
                    kind="link",
                    tip=f"Take it off this list; it was {one.path}",
                )
            )
        return line

    def _show_one(self) -> None:
        """The last photograph of one job more."""
        if not self._waiting:
            self._later.stop()
            return
        one, made = self._waiting.pop(0)
        if one.photo not in self._pictures:
            picture = QPixmap()
            picture.loadFromData(QByteArray(small_picture(one)))
            self._pictures[one.photo] = QIcon(picture)
        made.setIcon(self._pictures[one.photo])

    def _forget(self, path: Path) -> None:
        self._window.forget(path)
        self.refresh()

    def refuse(self, sentence: str, path: Path | None = None) -> None:
        """Say why a job could not be opened; of one that is damaged (its path), what may be done."""
        self.banner.say("beyond", sentence)
        self._damaged = path
        self.save_sound.setVisible(path is not None and can_be_salvaged(path))

    def _save_sound(self) -> None:
        if self._damaged is not None:
            self._window.save_what_is_sound(self._damaged)

    def ask_which(self) -> None:
        """Ask for a job file, where the last one was found, and open it."""
        lately = self._window.remembered
        folder = next((p.parent for p in lately if p.parent.is_dir()), Path.home())
        name, _ = QFileDialog.getOpenFileName(self, "Open a job", str(folder), "Trebb jobs (*.trebb)")
        if name:
            self.banner.hide()
            self._window.open_path(Path(name))

    def _demo(self, machine: str) -> None:
        from trebb.app.window.demo_job import demo_path, make_demo_job

        path = demo_path(machine)
        try:
            is_open = (
                self._window.open_path(path)
                if path.is_file()
                else self._window.open_file(make_demo_job(machine))
            )
        except JobFileError as error:
            self.refuse(str(error))
            return
        if is_open:
            self._window.offer_first_steps()

    def _new(self) -> None:
        machine = self.machine.text().strip()
        if not machine:
            self.refusal.setText("The machine has no name yet: write what you call it, such as “Lathe 2”.")
            self.machine.setFocus(Qt.FocusReason.OtherFocusReason)
            return
        name, _ = QFileDialog.getSaveFileName(
            self, "Where to keep the job", str(Path.home() / f"{machine}.trebb"), "Trebb jobs (*.trebb)"
        )
        if name:
            self.start_new(Path(name if name.endswith(".trebb") else f"{name}.trebb"))

    def start_new(self, path: Path) -> None:
        """Create the job file and open it; says here why it could not be."""
        try:
            started = JobStarted(
                shop=self.shop.text().strip() or "My shop",
                machine=self.machine.text().strip(),
                machine_kind=self.kind.currentData(),
                machine_class=self.rated.currentData(),
            )
            kept = self._window.kept_units()
            called = "mm" if kept is UnitSystem.METRIC else "inch"
            card = [CardChanged(field="units", value=called)] if kept is not None else []
            job_file = JobFile.begin(path, [started, *card])
        except JobFileError as error:
            self.refusal.setText(str(error))
            return
        self.refusal.setText("")
        if self._window.open_file(job_file):
            self._window.offer_first_steps()
