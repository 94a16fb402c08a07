"""Plan: the whole job on one calendar, for the machine and not for one assembly."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import QStackedWidget, QWidget

from trebb.app.look.widgets import Banner, button, column, exclusive, label, row, scrolled
from trebb.app.plan.after_page import AfterPage
from trebb.app.plan.benches import EveningRows
from trebb.app.plan.calendar_page import CalendarPage
from trebb.app.plan.money_page import MoneyPage
from trebb.app.plan.oil_page import OilPage
from trebb.app.plan.solving import PlanSolver
from trebb.app.plan.stock_page import StockPage
from trebb.app.plan.work_side import WorkSide
from trebb.app.stops.base import Stop
from trebb.app.window.behind import Behind
from trebb.core import clock
from trebb.core.dates import day_words
from trebb.core.dual_units import in_units
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan import job_plan
from trebb.logbook.plan.job_plan import Asked, Found, JobPlan, as_found, is_better, plan_asked, unplanned
from trebb.logbook.plan.plan_words import chain_words, when_words

if TYPE_CHECKING:
    from trebb.app.window.host import Host

PAGES = (
    ("work", "Work", "Tasks by day: tonight, what to order, what decides the end"),
    ("calendar", "Evenings", "Hours by weekday, days off, the date it must be ready"),
    ("stock", "Stock", "Bars, tools, what is used up: what is there, what to buy, how to cut it"),
    ("money", "Money", "Planned against spent, against what it is worth"),
    ("oil", "Oil", "Where, with what, how often; a card for the door"),
    ("after", "After", "The machine's card, the calendar file, what to look at again"),
)


NO_PLAN = "The plan could not be made just now; what it stood on before is shown."
MOST_NAMED = 3  # tasks that cannot be planned, said by name


class PlanStop(Stop):
    """Pages of the whole job; the plan stands at once, the solver looks for a better order behind it."""

    paper = "week"

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        self.current = ""
        self.page = "work"
        self.plan: JobPlan | None = None
        self._offer: tuple[Found, JobPlan] | None = None  # a better order, until it is taken
        self._asked: Asked | None = None
        self.is_planning = False
        box = column(spacing=7)
        self.setLayout(box)
        top = row(spacing=4)
        top.addWidget(label("The whole job", "title"))
        top.addStretch(1)
        self.chips = exclusive(self, top, PAGES, self.show_page, prefix="plan")
        box.addLayout(top)
        self.banner = Banner()
        box.addWidget(self.banner)
        self.pages = QStackedWidget()
        box.addWidget(self.pages, 1)
        self._made: dict[str, QWidget] = {}
        self.work_side = WorkSide(self.session)
        self.side = self.work_side
        self.work_side.opened.connect(self.open_task)
        self.work_side.looked.connect(self.look_at)
        self.solver = PlanSolver(self)
        self.solver.found.connect(self._take_found)
        self.solver.said.connect(self._solver_said)
        self.planner = Behind(self, lambda asked: job_plan.plan_of(asked), NO_PLAN)
        self.planner.made.connect(self._show_plan)
        self.planner.failed.connect(self._solver_said)

    # pages ------------------------------------------------------------------------------------

    def _make(self, key: str) -> QWidget:
        if key == "work":
            return self._work_page()
        made: dict[str, type[Any]] = {
            "calendar": CalendarPage,
            "money": MoneyPage,
            "stock": StockPage,
            "oil": OilPage,
            "after": AfterPage,
        }
        page: QWidget = made[key](self.session)
        return page

    def _work_page(self) -> QWidget:
        page = QWidget()
        box = column(spacing=6)
        page.setLayout(box)
        self.rows = EveningRows()
        self.rows.held.connect(self.hold)
        self.rows.chosen.connect(self.look_at)
        self.rows.ticked.connect(self.toggle)
        self.rows.opened.connect(self.open_task)
        self.room = scrolled(self.rows)
        box.addWidget(self.room, 1)
        self.foot = label("", "soft", wrap=True)
        box.addWidget(self.foot)
        line = row(spacing=8)
        self.solver_words = label("", "soft")
        self.stop_solver = button(
            "Stop looking",
            self._stop_solver,
            tip="The plan stays as it is",
            name="stop_solver",
            kind="link",
        )
        self.stop_solver.hide()
        self.take_order = button(
            "Take this order",
            self._take_order,
            tip="The plan goes by it from now on, in the window, in the shell and on paper",
            name="take_order",
            kind="quiet",
        )
        self.take_order.hide()
        line.addWidget(self.solver_words)
        line.addWidget(self.take_order)
        line.addWidget(self.stop_solver)
        line.addStretch(1)
        box.addLayout(line)
        return page

    def show_page(self, key: str) -> None:
        """Another page."""
        self.page = key
        self.refresh()

    def _page(self, key: str) -> QWidget:
        page = self._made.get(key)
        if page is None:
            page = self._made[key] = self._make(key)
            self.pages.addWidget(page)
        return page

    # gestures ---------------------------------------------------------------------------------

    def look_at(self, key: str) -> None:
        """Look at another task."""
        self.current = key
        self._show_work()

    def toggle(self, key: str) -> None:
        """Tick a task, or take its tick back."""
        self.current = key
        if self.plan is not None:
            self.work_side.take_up(self.plan, key)
        self.work_side.toggle()
        if self.work_side.refusal.text():  # nothing was ticked: why not stands beside the task
            self._show_work()

    def hold(self, key: str, day: int) -> None:
        """Hold a task until a day; today or earlier frees it."""
        if self.plan is not None:
            text = self.plan.day(day).isoformat() if day > 0 else ""
            self.session.record(MatterStated("task", key, "pinned", text))

    def open_task(self, key: str) -> None:
        """Go where a task is done."""
        line = next((x for x in self.plan.lines if x.task.key == key), None) if self.plan else None
        if line is None:
            return
        self.current = key
        if not line.work.stop:
            self._show_work()
            return
        if line.work.assembly:
            self.session.choose(line.work.assembly)
        stop = self.frame.go_to(line.work.stop)
        if line.work.part and hasattr(stop, "show_part"):
            stop.show_part(line.work.part)

    def step(self, by: int) -> bool:
        if self.page != "work" or self.plan is None or not self.plan.lines:
            return False
        keys = [x.task.key for x in self.rows.lines]
        i = keys.index(self.current) if self.current in keys else 0
        self.look_at(keys[max(0, min(len(keys) - 1, i + by))])
        area = self.rows.area_of(self.current)
        self.room.ensureVisible(0, int(area.center().y()), 0, int(2 * area.height()))
        return True

    # showing ----------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the plan as it now is; one that takes longer follows when it is made."""
        self._asked = asked = plan_asked(self.session.cases, clock.now())
        plan = self.planner.ask(asked)
        self.is_planning = plan is None
        self._show_plan(plan or self.plan or unplanned(asked))

    def _show_plan(self, plan: JobPlan) -> None:
        if self.sender() is self.planner:
            self.is_planning = False
        self.plan = plan
        page = self._page(self.page)
        self.pages.setCurrentWidget(page)
        for key, chip in self.chips.items():
            chip.setChecked(key == self.page)
        self._say(plan)
        if self.page not in ("work", "calendar"):  # those pages say what they have to say themselves
            self.banner.hide()
        if self.page == "work":
            self._show_work()
        else:
            page.show_plan(plan)  # type: ignore[attr-defined]
            self.work_side.show_plan(plan, self.current)
        if self.isVisible() and not self.is_planning:
            self.solver.improve(plan)

    def _show_work(self) -> None:
        plan = self.plan
        if plan is None or "work" not in self._made:
            return
        keys = [x.task.key for x in plan.lines]
        if self.current not in keys:
            self.current = next((x.task.key for x in plan.lines if not x.is_done), keys[0] if keys else "")
        self.rows.show_plan(plan, self.current, self.session.system)
        self.work_side.show_plan(plan, self.current)
        self.foot.setText(self._foot(plan))
        self.foot.setVisible(bool(self.foot.text()))
        self.solver_words.setVisible(bool(plan.starts))
        self._show_offer()

    def _foot(self, plan: JobPlan) -> str:
        if not plan.starts:
            return ""
        chain = in_units(chain_words(plan), self.session.system)
        lost = (
            f" Tonight lost is {plan.lost_tonight} day{'s' if plan.lost_tonight != 1 else ''} later."
            if plan.lost_tonight
            else ""
        )
        return f"What decides the end: {chain}.{lost}"

    def _say(self, plan: JobPlan) -> None:
        if plan.trouble:
            self.banner.say("beyond", "As it stands there is no plan.", plan.trouble)
        elif not plan.lines:
            self.banner.say(
                "soft", "Nothing to plan yet.", "Choose a remedy at Remedies: its tasks stand here, in order."
            )
        elif self.is_planning and not plan.starts:
            self.banner.say("soft", "Planning …", "")
        elif plan.ready is None and all(x.is_done for x in plan.lines):
            self.banner.say("within", "All of it is done.", "What is left stands at Prove.")
        elif plan.ready is None:
            self.banner.say("near", "Nothing of it can be planned yet.", self._not_planned(plan))
        else:
            self._say_when(plan)

    def _not_planned(self, plan: JobPlan) -> str:
        """What cannot be planned, with why: what merely waits for it is counted."""
        titles = {x.task.key: x.task.title for x in plan.lines}
        own = {k: why for k, why in plan.why_not.items() if k not in plan.waiting}
        named = [f"{titles.get(key, key)}: {why}" for key, why in list(own.items())[:MOST_NAMED]]
        waiting = len(plan.why_not) - len(named)
        more = f" {waiting} more wait for that, or cannot be planned either." if waiting else ""
        return in_units(f"{'; '.join(named)}.{more}", self.session.system) if named else ""

    def _say_when(self, plan: JobPlan) -> None:
        assert plan.ready is not None
        sure = ""
        if plan.outlook is not None:
            half, most = (day_words(plan.day(plan.outlook.within(s) - 1)) for s in (0.5, 0.9))
            sure = f"Even chances by {half}, nine in ten by {most}."
        apart = f" Apart on {plan.apart} day{'' if plan.apart == 1 else 's'}." if plan.apart else ""
        wanted = plan.ready_by
        text = f"{sure} {plan.hours_left:.0f} h at the bench.{apart}"
        if plan.why_not:
            text = f"Not in it: {self._not_planned(plan)} {text}"
        if plan.undecided:
            text = f"Not decided: {', '.join(plan.undecided)}. {text}"
        when = in_units(when_words(plan), self.session.system)
        if wanted is None:
            self.banner.say("near" if plan.why_not or plan.undecided else "soft", f"{when}.", text)
            return
        chance = plan.outlook.chance_by((wanted - plan.today).days + 1) if plan.outlook is not None else 0.0
        if plan.ready > wanted:
            ways = "; or ".join(in_units(w, self.session.system) for w in plan.ways_out)
            self.banner.say(
                "beyond",
                f"{when}: not by {day_words(wanted)}.",
                f"What would do: {ways}. {text}" if ways else text,
            )
        else:
            tone = "within" if chance >= 0.8 else "near"
            self.banner.say(tone, f"{when}; by {day_words(wanted)} with {chance:.0%}.", text)

    # the solver -------------------------------------------------------------------------------

    def _take_found(self, found: Found) -> None:
        """What the solver found, offered where it is better than what stands."""
        if self.plan is None or self._asked is None or found.of != self.plan.of:
            return
        offered = as_found(self._asked, found)
        if is_better(offered, self.plan):
            self._offer = (found, offered)
        self._show_offer()

    def _take_order(self) -> None:
        """Go by the order that is offered."""
        if self._offer is not None:
            order, self._offer = self._offer[0].order, None
            if self.session.record(MatterStated("plan", "", "order", " ".join(order))):
                self._show_offer("The plan goes by that order now.")

    def _show_offer(self, words: str = "") -> None:
        """The better order there is, or what the solver says."""
        if "work" not in self._made:
            return
        plan, offer = self.plan, self._offer
        if offer is not None and (plan is None or not is_better(offer[1], plan)):
            offer = self._offer = None
        if offer is not None and plan is not None and offer[1].ready is not None:
            fewer = plan.apart - offer[1].apart
            more = f", apart on {fewer} day{'s' if fewer != 1 else ''} fewer" if fewer > 0 else ""
            words = f"A better order: ready {day_words(offer[1].ready)}{more}."
        if words:
            self.solver_words.setText(words)
        self.take_order.setVisible(offer is not None)
        self.stop_solver.setVisible(self.solver.is_running)

    def _solver_said(self, words: str) -> None:
        self._show_offer(words)

    def _stop_solver(self) -> None:
        self.solver.stop()
        self._solver_said("Stopped looking.")

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self.plan is not None:
            self.solver.improve(self.plan)

    def hideEvent(self, event: QHideEvent) -> None:
        self.solver.stop()
        super().hideEvent(event)
