"""The evenings there are: hours by weekday, days off, the date wanted, where the parts are cut."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import column, label, row
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.window.session import Session
from trebb.core.stating.matters import DAYS
from trebb.logbook.plan.job_plan import JobPlan, week_of


class CalendarPage(QWidget):
    """What the plan counts with."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=8)
        self.setLayout(box)
        box.addWidget(label("Hours at the bench", "head"))
        line = row(spacing=18)
        self.week = matter_fields(session, "plan", lambda: "", DAYS, usual=self._usual)
        self.week.setMaximumWidth(280)
        self.rest = matter_fields(
            session,
            "plan",
            lambda: "",
            ("ready_by", "off", "helper_days", "cuts_own", "hour_worth"),
            usual=self._usual,
        )
        for widget in (self.week, self.rest):
            inner = column()
            inner.addWidget(widget)
            inner.addStretch(1)
            line.addLayout(inner, 1)
        box.addLayout(line)
        self.said = label("", "soft", wrap=True)
        box.addWidget(self.said)
        box.addStretch(1)

    def _usual(self, key: str) -> str:
        if key in DAYS:
            return f"{week_of(self._session.cases)[DAYS.index(key)]:g} h"
        return ""

    def show_plan(self, plan: JobPlan) -> None:
        """Show the calendar as stated."""
        self.week.refresh()
        self.rest.refresh()
        week = week_of(self._session.cases)
        self.said.setText(
            f"{sum(week):g} hours a week. A day of 0 hours is a day off; waits run on through it. "
            "A machine that cuts its own parts stays whole until they are made."
        )
