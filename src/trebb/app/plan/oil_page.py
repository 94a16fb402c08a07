"""The oil plan: where, with what, how, how often; tried at strip-down; a card of it for the machine's
door.
"""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QWidget

from trebb.app.look.typed import DraftEdit
from trebb.app.look.widgets import Banner, button, clear, column, label, row, rule, scrolled
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.lubrication import SPINDLE_SCHOOLS
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.job_plan import JobPlan
from trebb.logbook.plan.oil_plan import (
    STATES,
    TRAY,
    oil_key,
    oil_points,
    piped_words,
    pump_lines,
    tray_words,
    usual_entries,
)

FIELDS = (
    *("where", "kind", "how", "often", "state", "drops"),
    *("line_bore", "line_long", "line_up", "bore", "outer", "wide", "note"),
)


NEW_PLACE = "another place on the chosen assembly: cup over the feed shaft"


class OilPage(QWidget):
    """A row a place; the one looked at has its fields."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.current = ""
        box = column(spacing=6)
        self.setLayout(box)
        self.banner = Banner()
        box.addWidget(self.banner)
        line = row(spacing=6)
        self.new = DraftEdit("new_oil", "Another place", lambda: self._session.drafts)
        self.new.setPlaceholderText(NEW_PLACE)
        self.new.setToolTip(f"{NEW_PLACE} (Enter adds it)")
        self.new.returnPressed.connect(self.add)
        line.addWidget(self.new, 1)
        line.addWidget(button("Add", self.add, tip="Add this place", key="Enter", name="add_oil"))
        self.usual = button(
            "The usual places",
            self.add_usual,
            tip="Add the usual places of this machine's assemblies",
            name="usual_oil",
        )
        line.addWidget(self.usual)
        line.addWidget(button("Card for the door", self._choose, tip="The oil plan as PDF", name="oil_card"))
        box.addLayout(line)
        self.said = label("", "small", wrap=True)
        self.said.hide()
        box.addWidget(self.said)
        inner = QWidget()
        self.list = column(spacing=1)
        inner.setLayout(self.list)
        box.addWidget(scrolled(inner), 1)
        box.addWidget(rule())
        self.here = label("", "strong")
        box.addWidget(self.here)
        self.fields = matter_fields(session, "oil", lambda: self.current, FIELDS, columns=2)
        box.addWidget(self.fields)
        line = row(spacing=6)
        self.grease = label("", "soft", wrap=True)
        line.addWidget(self.grease, 1)
        self.gone = button(
            "No such place", self.take_off, kind="link", tip="Take it off the list", name="oil_gone"
        )
        line.addWidget(self.gone)
        box.addLayout(line)
        sizes = ("tray_long", "tray_wide", "tray_high")
        self.tray_fields = matter_fields(session, "oil", lambda: TRAY, sizes, columns=3, prefix="tray")
        box.addWidget(self.tray_fields)
        self.tray = label("", "soft", wrap=True)
        box.addWidget(self.tray)

    # gestures ---------------------------------------------------------------------------------

    def add(self) -> None:
        """Add the place that was typed, on the chosen assembly."""
        where = self.new.text().strip()
        if not where:
            return
        key = oil_key(self._session.cases)
        try:
            if not self._session.record(
                MatterStated("oil", key, "where", where),
                MatterStated("oil", key, "assembly", self._session.assembly),
            ):
                return
        except TrebbError as error:
            self._say(f"{error}.")
            return
        self.current = key
        self.new.entered()
        self._say("")
        self._show()

    def add_usual(self) -> None:
        """Add the usual places."""
        bodies = usual_entries(self._session.cases)
        if bodies:
            self._session.record(*bodies)
        else:
            self._say("They stand here already.")

    def take_off(self) -> None:
        """There is no such place."""
        if self.current:
            self._session.record(MatterStated("oil", self.current, "gone", "yes"))

    def look_at(self, key: str) -> None:
        """Look at another place."""
        self.current = key
        self._show()

    def _choose(self) -> None:
        start = self._session.path.with_name(f"{self._session.path.stem}-oil.pdf")
        name, _ = QFileDialog.getSaveFileName(self, "The oil plan for the door", str(start), "PDF (*.pdf)")
        if name:
            self.write_to(Path(name))

    def write_to(self, path: Path) -> None:
        """Write the card; says here where it is, or why not."""
        from trebb.app.plan.papers import write_oil_card

        try:
            write_oil_card(self._session.cases, path)
        except TrebbError as error:
            self._say(f"{error}.")
            return
        self._say(f"Written: {path}")

    def _say(self, sentence: str) -> None:
        self.said.setText(sentence)
        self.said.setVisible(bool(sentence))

    # showing ----------------------------------------------------------------------------------

    def show_plan(self, plan: JobPlan) -> None:
        """Show the oil plan."""
        self._show()

    def _show(self) -> None:
        points = oil_points(self._session.cases)
        keys = [o.key for o in points]
        if self.current not in keys:
            self.current = keys[0] if keys else ""
        self._say_head()
        clear(self.list)
        group = ""
        for o in points:
            if o.label != group:
                group = o.label
                self.list.addWidget(label(group or "Of no assembly", "small"))
            state = STATES.get(o.state, "")
            words = f"{o.where}: {o.words or 'nothing stated'}{f' ({state})' if o.state else ''}"
            line = button(words, partial(self.look_at, o.key), kind="link", tip=f"{words}. {o.note}".strip())
            line.setCheckable(True)
            line.setChecked(o.key == self.current)
            metrics = line.fontMetrics()
            line.setText(metrics.elidedText(words, Qt.TextElideMode.ElideRight, max(200, self.width() - 40)))
            self.list.addWidget(line)
        self.list.addStretch(1)
        here = next((o for o in points if o.key == self.current), None)
        for widget in (self.fields, self.gone):
            widget.setEnabled(here is not None)
        self.here.setText(here.where if here else "No place yet")
        self.grease.setText(f"Grease: {here.grease}." if here and here.grease else "")
        self.fields.refresh()
        self.tray_fields.refresh()
        self.tray.setText(tray_words(self._session.cases, self._session.system))
        self.tray.setVisible(bool(self.tray.text()))

    def _say_head(self) -> None:
        points = oil_points(self._session.cases)
        blocked = [o for o in points if o.state == "blocked"]
        lines = pump_lines(points)
        if not points:
            self.banner.say("soft", "The oil plan of this machine.", SPINDLE_SCHOOLS)
        elif blocked:
            names = ", ".join(f"{o.label}: {o.where}" for o in blocked)
            self.banner.say(
                "beyond", f"Blocked: {names}.", "Blow it through from both ends before anything covers it."
            )
        elif lines is not None and lines.open_ones:
            self.banner.say(
                "near",
                f"No meter on {', '.join(lines.open_ones)}.",
                "Oil takes the easiest way: without its meter this line takes all of it, and the others "
                f"starve. {piped_words(points)}",
            )
        elif lines is not None and lines.starved:
            self.banner.say(
                "near", f"Hardly any oil to {', '.join(lines.starved)}.", "Its meter gives under a twentieth."
            )
        else:
            untried = sum(not o.state for o in points)
            text = (
                f"{untried} of {len(points)} not tried yet: oil must be seen to come through."
                if untried
                else ""
            )
            self.banner.say(
                "soft" if untried else "within",
                f"{len(points)} place{'s' if len(points) != 1 else ''}.",
                text,
            )
