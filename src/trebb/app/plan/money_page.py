"""Hours and money, planned against spent, by assembly and in all, against what the machine is worth."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import Banner, column, label, scrolled
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.window.session import Session
from trebb.core.units import show_money
from trebb.logbook.plan.job_plan import JobPlan, Sum

ROW = 26.0
HEADS = ("", "Hours", "spent", "Money", "paid")


class MoneyPage(QWidget):
    """The sums, and whether the machine is worth them."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=8)
        self.setLayout(box)
        self.banner = Banner()
        box.addWidget(self.banner)
        self.table = MoneyTable()
        box.addWidget(scrolled(self.table), 1)
        self.worth = matter_fields(session, "plan", lambda: "", ("hour_worth",))
        self.worth.setMaximumWidth(320)
        box.addWidget(self.worth)
        box.addWidget(
            label(
                "Prices are of the chosen remedies: type a firm's own at Remedies, what was paid at its "
                "task.",
                "soft",
                wrap=True,
            )
        )

    def show_plan(self, plan: JobPlan) -> None:
        """Show the sums of another plan."""
        job = self._session.job
        sign = job.card("currency", "")
        worth = job.card_number("worth", 0.0)
        cost, paid = plan.costs
        if not plan.sums:
            self.banner.say(
                "soft", "Nothing is chosen yet.", "Choose a remedy at Remedies: its money stands here."
            )
        elif worth and cost > worth:
            self.banner.say(
                "beyond",
                f"{show_money(cost, sign)} is more than the {show_money(worth, sign)} it is worth mended.",
                "Leave what works, or say at Remedies why it is mended all the same.",
            )
        else:
            share = (
                f", {cost / worth:.0%} of the {show_money(worth, sign)} it is worth mended" if worth else ""
            )
            tail = "" if worth else " What it is worth is not said: see Intake."
            self.banner.say(
                "soft", f"{show_money(cost, sign)} planned{share}; {show_money(paid, sign)} paid.{tail}"
            )
        self.table.show_sums(plan.sums, sign)
        self.worth.refresh()


class MoneyTable(painting.Painted, QWidget):
    """A row an assembly, and their sum."""

    is_list = True

    def __init__(self) -> None:
        super().__init__()
        self._sums: tuple[Sum, ...] = ()
        self._sign = ""
        self.setAccessibleName("Hours and money by assembly")
        self.setToolTip("Planned against spent, by assembly")

    def show_sums(self, sums: tuple[Sum, ...], sign: str) -> None:
        """Show other sums."""
        self._sums, self._sign = sums, sign
        self.setMinimumHeight(int(ROW * (len(sums) + 2)) + 6)
        total = sum(s.cost for s in sums)
        self.setAccessibleDescription(f"{len(sums)} assemblies, {sign}{total:.0f} in all")
        self.update()

    def rows(self) -> list[tuple[str, ...]]:
        """What is shown, a row each, the sum last."""
        all_of = Sum(
            "In all",
            sum(s.hours for s in self._sums),
            sum(s.hours_spent for s in self._sums),
            sum(s.cost for s in self._sums),
            sum(s.paid for s in self._sums),
        )
        return [
            (
                s.label,
                f"{s.hours:.1f}",
                f"{s.hours_spent:.1f}" if s.hours_spent else "–",
                show_money(s.cost, self._sign),
                show_money(s.paid, self._sign) if s.paid else "–",
            )
            for s in (*self._sums, all_of)
        ]

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        wide = (self.width() - 8) / 6
        places = [0.0, 2.4 * wide, 3.3 * wide, 4.2 * wide, 5.1 * wide]
        rows = [HEADS, *self.rows()]
        for i, cells in enumerate(rows):
            top = i * ROW
            last = i == len(rows) - 1
            painter.setFont(
                theme.font(theme.SMALL if i == 0 else theme.BODY, theme.SEMIBOLD if last else theme.REGULAR)
            )
            painter.setPen(theme.colour("soft" if i == 0 else "ink"))
            for k, text in enumerate(cells):
                area = QRectF(places[k], top, (2.3 if k == 0 else 0.85) * wide, ROW)
                side = Qt.AlignmentFlag.AlignLeft if k == 0 else Qt.AlignmentFlag.AlignRight
                painting.write_in(painter, area, side | Qt.AlignmentFlag.AlignVCenter, text)
            if i == 0 or i == len(rows) - 2:
                painter.setPen(painting.pen("line", 1.2))
                painter.drawLine(0, int(top + ROW), self.width(), int(top + ROW))
