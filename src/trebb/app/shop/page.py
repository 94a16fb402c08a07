"""The shop's memory on one page: figures with where they come from, jobs that taught them, what was foretold
against what came, instruments, and search.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QGridLayout, QLineEdit, QStackedWidget, QWidget

from trebb.app.look.beside_page import BesidePage
from trebb.app.look.widgets import button, clear, column, exclusive, label, row, scrolled, sheet
from trebb.app.shop.cover import CoverPicture
from trebb.app.shop.figure_bar import FigureBar
from trebb.app.shop.instruments import InstrumentsPage
from trebb.app.shop.which import WhichMemory
from trebb.core.dates import day_of
from trebb.core.errors import TrebbError
from trebb.core.words import small
from trebb.logbook.memory.asked import TOPICS, Known, Memory, memory_of
from trebb.logbook.memory.joining import bring_in
from trebb.logbook.memory.shop import JobLeftOut, export_shop, read_shop, remember
from trebb.logbook.memory.shop_place import FIRST, in_use

if TYPE_CHECKING:
    from trebb.app.window.start_page import Opener

PAGES = (
    ("figures", "Figures", "What is usual, what is yours, from how many jobs"),
    ("jobs", "Jobs", "Which jobs taught it; leave one out, or count it again"),
    ("foretold", "Foretold", "What was foretold in all jobs against what came"),
    ("instruments", "Instruments", "Check an indicator on a block"),
    ("search", "Search", "A thread, a part, a machine, a symptom in all jobs"),
)


class ShopPage(BesidePage):
    """Pages of the memory."""

    def __init__(self, window: Opener, back: Callable[[], object]) -> None:
        export = button("As JSON", self._export, tip="Write all of it as JSON", name="shop_export")
        bring = button(
            "Bring another in", self._bring, tip="Take another shop's memory into this one", name="shop_bring"
        )
        super().__init__("The shop's memory", "", back, name="shop", tools=(bring, export))
        self._window = window
        self.page = "figures"
        self.memory = Memory()
        chips = row(spacing=10)
        self.chips = exclusive(self, chips, PAGES, self.show_page, prefix="shop")
        self.head.insertLayout(1, chips)
        self.head.insertStretch(1)
        self.pages = QStackedWidget()
        body = column()
        body.addWidget(self.pages)
        self.outer.addWidget(sheet(body, 20), 1)
        self._boxes: dict[str, QGridLayout] = {}
        self._pages: dict[str, QWidget] = {}
        self.which = WhichMemory(self.refresh)
        self._pages["figures"] = self._grid_page("figures")
        self._pages["jobs"] = self._grid_page("jobs", self.which)
        self.cover = CoverPicture()
        self._pages["foretold"] = self._foretold_page()
        self.instruments = InstrumentsPage(self._remember)
        self._pages["instruments"] = self.instruments
        self._pages["search"] = self._search_page()
        for page in self._pages.values():
            self.pages.addWidget(page)
        self.refresh()

    def _grid_page(self, key: str, *above: QWidget) -> QWidget:
        inner = QWidget()
        box = column()
        inner.setLayout(box)
        for widget in above:
            box.addWidget(widget)
        grid = QGridLayout()
        grid.setHorizontalSpacing(18)
        grid.setVerticalSpacing(5)
        box.addLayout(grid)
        box.addStretch()
        self._boxes[key] = grid
        return scrolled(inner)

    def _foretold_page(self) -> QWidget:
        page = QWidget()
        box = column(spacing=8)
        page.setLayout(box)
        box.addWidget(
            label(
                "Each mark is a figure that was foretold and read again after the repair: where it came out "
                "in its own 95 % interval, which is the band. Too many outside, and what is foretold is "
                "made wider.",
                "soft",
                wrap=True,
            )
        )
        box.addWidget(scrolled(self.cover), 1)
        return page

    def _search_page(self) -> QWidget:
        page = QWidget()
        box = column(spacing=8)
        page.setLayout(box)
        self.asked = QLineEdit()
        self.asked.setObjectName("shop_search")
        self.asked.setAccessibleName("Search all jobs")
        self.asked.setPlaceholderText("nut, 10 TPI, taper, a machine's name")
        self.asked.setToolTip("All the words must be in what is found")
        self.asked.textChanged.connect(self._show_found)
        box.addWidget(self.asked)
        inner = QWidget()
        self.found = column(spacing=4)
        inner.setLayout(self.found)
        box.addWidget(scrolled(inner), 1)
        return page

    # showing ----------------------------------------------------------------------------------

    def show_page(self, key: str) -> None:
        """Another page."""
        self.page = key
        self.refresh()

    def refresh(self) -> None:
        """Show the memory as it now is."""
        entries, trouble = read_shop()
        named = in_use()
        self.title.setText("The shop's memory" if named == FIRST else f"Memory: {named}")
        self.memory = memory_of(entries)
        for key, chip in self.chips.items():
            chip.setChecked(key == self.page)
        self.pages.setCurrentWidget(self._pages[self.page])
        if trouble:
            self.banner.say("beyond", "The memory cannot be read: everything is as usual.", f"{trouble}.")
        elif not self.memory.jobs and self.page not in ("instruments",):
            self.banner.say(
                "soft",
                "No job has taught anything yet.",
                "When a job is done, go to Plan, After: it shows line by line what it would teach, and "
                "nothing leaves this computer.",
            )
        else:
            self.banner.hide()
        self._show_figures()
        self._show_jobs()
        self.cover.show_foretold(self.memory.foretold())
        self.instruments.show_checks(self.memory.checks)
        self._show_found(self.asked.text())

    def _show_figures(self) -> None:
        grid = self._boxes["figures"]
        clear(grid)
        line = 0
        figures = self.memory.figures()
        for topic, title in TOPICS.items():
            of = [k for k in figures if k.topic == topic]
            if not of:
                continue
            for column_, words in enumerate((title, "usual", "now", "where from")):
                grid.addWidget(label(words, "head" if column_ == 0 else "small"), line, column_)
            line += 1
            for known in of:
                for column_, words in enumerate(
                    (known.words, known.usual_words, known.now_words, known.source)
                ):
                    kind = "strong" if column_ == 2 and known.now.is_own else ""
                    grid.addWidget(label(words, kind), line, column_)
                grid.addWidget(FigureBar(known), line, 4)
                line += 1
        grid.setColumnMinimumWidth(0, 300)
        grid.setColumnStretch(4, 1)

    def _show_jobs(self) -> None:
        grid = self._boxes["jobs"]
        clear(grid)
        for i, (name, job) in enumerate(self.memory.jobs.items()):
            given = job.given
            grid.addWidget(label(given.machine, "strong"), i, 0)
            grid.addWidget(label(f"{given.machine_kind}, {given.shop}", "soft"), i, 1)
            grid.addWidget(label(day_of(job.at)), i, 2)
            grid.addWidget(label(f"{job.lines} lines"), i, 3)
            grid.addWidget(label("left out" if job.is_out else "counts", "soft" if job.is_out else ""), i, 4)
            grid.addWidget(label(self._moved_by(name), "soft", wrap=True), i, 5)
            grid.addWidget(
                button(
                    "Count it again" if job.is_out else "Leave it out",
                    partial(self._leave_out, name, not job.is_out),
                    kind="chip",
                    tip="What it taught counts no longer; nothing is deleted"
                    if not job.is_out
                    else "What it taught counts again",
                    name=f"leave_out_{i}",
                ),
                i,
                6,
            )
        grid.setColumnStretch(5, 1)

    def _moved_by(self, name: str) -> str:
        """The figure that a job moves most, with and without it."""
        if self.memory.jobs[name].is_out:
            return ""
        here = {(k.topic, k.of): k for k in self.memory.figures()}
        without = {(k.topic, k.of): k for k in self.memory.figures((name,))}
        most: tuple[float, str] = (0.0, "")
        for key, known in here.items():
            other = without.get(key)
            before = other.now.mean if other else known.now.usual.mean
            by = abs(known.now.mean - before) / max(known.now.usual.shops, 1e-9)
            if by > most[0]:
                was = _said(other) if other else known.usual_words
                most = (by, f"{known.words}: {was} without it, {_said(known)} with it")
        return most[1] if most[0] > 0.02 else "moves nothing much"

    def _show_found(self, text: str) -> None:
        clear(self.found)
        found = self.memory.search(text)
        if text.strip() and not found:
            self.found.addWidget(label("Nothing in your jobs has all of these words.", "soft"))
        for thing, job in found[:40]:
            line = row(spacing=12)
            line.addWidget(label(thing.what, "small"))
            line.addWidget(label(thing.words, wrap=True), 1)
            if job is not None:
                path = Path(job.given.path)
                if path.is_file():
                    line.addWidget(
                        button(
                            job.given.machine,
                            partial(self._window.open_path, path),
                            kind="link",
                            tip=f"Open {path}",
                        )
                    )
                else:
                    line.addWidget(label(f"{job.given.machine} (its file is not there)", "soft"))
            self.found.addLayout(line)
        self.found.addStretch()

    # gestures ---------------------------------------------------------------------------------

    def _remember(self, *bodies: object) -> bool:
        try:
            remember(list(bodies))  # type: ignore[arg-type]
        except (TrebbError, OSError) as error:
            self.banner.say("beyond", "Not kept.", str(error))
            return False
        self.refresh()
        return True

    def _leave_out(self, name: str, out: bool) -> None:
        self._remember(JobLeftOut(job=name, out=out))

    def _bring(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Another memory", str(Path.home()), "Memories (*.trebb-memory *.json)"
        )
        if name:
            self.bring(Path(name))

    def bring(self, path: Path) -> None:
        """Take another memory into this one; says here what it brought, or why it could not be."""
        try:
            found = bring_in(path)
        except (TrebbError, OSError) as error:
            self.banner.say("beyond", "Nothing was taken.", f"{error}.")
            return
        self.refresh()
        self.banner.say("within", f"{path.name}: {small(found.words)}")

    def _export(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "The memory as JSON", str(Path.home() / "shop-memory.json"), "JSON (*.json)"
        )
        if name:
            self.export_to(Path(name))

    def export_to(self, path: Path) -> None:
        """Write all of it as JSON; says here why it could not be."""
        try:
            count = export_shop(path)
        except (TrebbError, OSError) as error:
            self.banner.say("beyond", "Not written.", str(error))
            return
        self.banner.say("within", f"Written: {path.name}, {count} entries.")


def _said(known: Known) -> str:
    return known.now_words.split(" ±")[0]
