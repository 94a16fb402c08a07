"""All open jobs of the shop in one list of evenings, over the start page."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtWidgets import QWidget

from trebb.app.look.cover_page import CoverPage
from trebb.app.look.widgets import Banner, label, scrolled
from trebb.app.plan.benches import EveningRows
from trebb.core import clock
from trebb.core.dates import day_words
from trebb.core.errors import TrebbError
from trebb.core.units import UnitSystem
from trebb.core.words import large, small
from trebb.logbook.cases.casework import Cases
from trebb.logbook.memory.taught_for import cases_at
from trebb.logbook.plan.plan_words import when_words
from trebb.logbook.plan.shop_week import MOST_JOBS, Machine, ShopWeek, shop_week
from trebb.logbook.plan.ticking import tick_in


class WeekPage(CoverPage):
    """The jobs opened lately that have work left; Space ticks a task in its own job, Enter, or two clicks,
    opens that.
    """

    def __init__(
        self, parent: QWidget, paths: Sequence[Path], system: UnitSystem, opens: Callable[[Path], object]
    ) -> None:
        super().__init__(parent, "All machines", name="week", tip="Back to the start page", beside=(None,))
        self._opens, self._system = opens, system
        self._at = ""
        self.week: ShopWeek | None = None
        self.banner = Banner()
        self.outer.addWidget(self.banner)
        self.each = label("", "soft", wrap=True)
        self.outer.addWidget(self.each)
        self.rows = EveningRows()
        self.rows.setAccessibleName("Evenings of all machines")
        self.rows.setToolTip("Space ticks a task; Enter, or two clicks, opens its job")
        self.rows.chosen.connect(self._look_at)
        self.rows.opened.connect(self._open)
        self.rows.ticked.connect(self.tick)
        self.outer.addWidget(scrolled(self.rows), 1)
        self._paths = paths
        self._show(paths)

    def tick(self, key: str) -> None:
        """Tick a task in the job that it is of, or take its tick back; says here why it cannot be."""
        if self.week is None:
            return
        machine = self.week.machine_of(key)
        try:
            tick_in(machine.path, key.removeprefix(f"{machine.key}."))
        except TrebbError as error:
            self.banner.say("near", f"{machine.name}: not ticked.", f"{large(str(error))}.")
            return
        self._show(self._paths, key)

    def _show(self, paths: Sequence[Path], at: str = "") -> None:
        jobs: list[tuple[Path, Cases]] = []
        unread = []
        for path in paths:
            try:
                cases = cases_at(path)
            except TrebbError:
                unread.append(path.name)
                continue
            if not cases.job.practice_marks("piece") and len(jobs) < MOST_JOBS:
                jobs.append((path, cases))
        try:
            self.week = week = shop_week(jobs, clock.now())
        except TrebbError:
            self.banner.say(
                "soft", "No job is open.", "What is chosen in your jobs stands here, by evenings."
            )
            self.each.hide()
            return
        self._say(week, unread)
        keys = [x.task.key for x in week.plan.lines]
        self._look_at(at if at in keys else next((x.task.key for x in week.plan.lines if not x.is_done), ""))

    def _say(self, week: ShopWeek, unread: Sequence[str]) -> None:
        late = [m for m in week.machines if m.is_late]
        orders = [x.task.title for x in week.plan.to_order]
        ready = week.plan.ready is not None
        head = (
            f"All of them: {small(when_words(week.plan))}." if ready else "Nothing to plan in these jobs yet."
        )
        if late:
            head = f"{', '.join(m.name for m in late)}: not by the day wanted. {head}"
        text = f"Evenings as in {week.hours_of}; what is due first goes first."
        if orders:
            text = f"Order or send today: {'; '.join(orders)}. {text}"
        if unread:
            text = f"{text} Not read: {', '.join(unread)}."
        self.banner.say("beyond" if late else "soft", head, text)
        self.each.setText("   ".join(map(_words, week.machines)))

    def _look_at(self, key: str) -> None:
        self._at = key
        if self.week is not None:
            self.rows.show_plan(self.week.plan, key, self._system)

    def _open(self, key: str) -> None:
        if self.week is not None:
            path = self.week.machine_of(key).path
            self.close()
            self._opens(path)


def _words(m: Machine) -> str:
    """How a machine stands, in a line."""
    ready = f"ready {day_words(m.ready)}" if m.ready else "nothing chosen"
    due = f", due {day_words(m.due)}" if m.due else ""
    open_ = f", {len(m.undecided)} not decided" if m.undecided else ""
    return f"{m.name}: {ready}{due}{open_}."
