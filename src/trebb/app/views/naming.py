"""Which thread is it: what was measured, the threads it could be, what would tell them apart, and whether a
bought thing would fit.
"""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.app.look.typed import LengthEdit
from trebb.app.look.widgets import Choice, button, column, label, row, rule, scrolled
from trebb.app.survey.stated import SEEN, StatedFields
from trebb.app.views.base import Shown
from trebb.app.views.rows import WithRows
from trebb.core.errors import TrebbError
from trebb.core.families.screw_drive.changes import FITTED_PLAY
from trebb.core.threads import ThreadSpec
from trebb.core.threads.marking import parse_marking
from trebb.core.threads.naming import Naming
from trebb.core.threads.offered import (
    Fitting,
    Offered,
    ThreadThere,
    bought_against_made,
    hybrid_advice,
    will_fit,
)
from trebb.core.threads.section import screw_outline
from trebb.core.units import INCH_MM, UnitSystem, parse_number, show_size
from trebb.core.words import small
from trebb.logbook.cases.drive_case import DriveCase

SHOWN = 4
ROW = 27.0


class NamingView(WithRows):
    """Rows at the left; candidates, what tells them apart, and the question of a fit at the right."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: Shown | None = None
        right = QWidget()
        box = column(spacing=5)
        right.setLayout(box)
        self.measured = label("", "soft", wrap=True)
        box.addWidget(self.measured)
        self.candidates = _Candidates()
        self.candidates.chosen.connect(self._show_names)
        box.addWidget(self.candidates, 1)
        self.telling = label("", wrap=True)
        box.addWidget(self.telling)
        self.name_button = button(
            "Name it so", self.name_it, kind="dark", tip="State this thread for the screw", name="name_thread"
        )
        box.addWidget(self.name_button)
        self.stated = label("", "soft", wrap=True)
        box.addWidget(self.stated)
        box.addWidget(rule())
        line = row(spacing=6)
        line.addWidget(label("Will it fit?", "strong"))
        self.kind = Choice()
        self.kind.setObjectName("offered_kind")
        self.kind.setToolTip("What is offered")
        self.kind.setAccessibleName("What is offered")
        for kind in Offered:
            self.kind.addItem(kind.value, kind.value)
        self.kind.activated.connect(self._try)
        self.kind.setMaximumWidth(78)
        line.addWidget(self.kind)
        self.marking = LengthEdit(
            "offered_marking", "As stamped: 3/4-8 Acme LH, Tr 28 × 5, 22 mm × 6 tpi Acme"
        )
        self.marking.setPlaceholderText("as stamped")
        self.marking.committed.connect(lambda text: self._try())
        line.addWidget(self.marking, 3)
        self.price = LengthEdit("offered_price", "What it costs, to set against what it gains")
        self.price.setPlaceholderText("price")
        self.price.setMaximumWidth(62)
        self.price.committed.connect(lambda text: self._try())
        line.addWidget(self.price)
        box.addLayout(line)
        self.fit_head = label("", "strong", wrap=True)
        self.fit_text = label("", "soft", wrap=True)
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        for words in (self.fit_head, self.fit_text, self.refusal):
            box.addWidget(words)
        left = QWidget()
        self._left = column(spacing=6)
        left.setLayout(self._left)
        self._left.addWidget(self.rows, 5)
        line = row(spacing=16)
        line.addWidget(left, 5)
        line.addWidget(right, 6)
        self.setLayout(line)
        self._seen: StatedFields | None = None

    def show_readings(self, shown: Shown) -> None:
        self._shown = shown
        if self._seen is None:
            self._left.addWidget(label("What was seen", "strong"))
            self._seen = StatedFields(shown.session, SEEN)
            self._left.addWidget(scrolled(self._seen.now()[1]), 4)
        self._seen.now()[1].refresh()
        self.rows.show_readings(shown)
        self._show_names()
        self._try()

    def show_fact(self, key: str) -> bool:
        """Put the keys into the field of what was seen; False where it is none of that."""
        return self._seen is not None and self._seen.now()[1].go_to(key)

    def _case(self) -> DriveCase:
        assert self._shown is not None
        case = self._shown.session.case
        assert isinstance(case, DriveCase)
        return case

    @property
    def _system(self) -> UnitSystem:
        assert self._shown is not None
        return self._shown.session.system

    # names ------------------------------------------------------------------------------------

    def _show_names(self) -> None:
        case = self._case()
        naming = case.naming
        self.candidates.show_naming(naming, self._system)
        seen = case.seen
        self.measured.setText(
            "; ".join(
                f"{words} {show_size(size, self._system)}, {INCH_MM / size:.2f} tpi"
                if self._system is UnitSystem.INCH
                else f"{words} {size:.3f} mm"
                for words, size in (("lead", seen.lead_mm), ("pitch", seen.pitch_mm))
                if size
            )
        )
        spec = self.candidates.spec()
        self.name_button.setEnabled(spec is not None)
        self.name_button.setText(f"Name it {spec.designation}" if spec else "Name it so")
        if naming is None:
            self.telling.setText(
                "A pitch (turns, or over crests) and a diameter are the least it takes. What was seen goes "
                "at the left."
            )
        elif naming.miscount():
            self.telling.setText(naming.miscount())
        elif naming.candidates[0].is_as_measured:
            self.telling.setText(
                "No usual thread explains what was measured: the first is it as it measures. Count turns and "
                "crests again, and take the diameter where the thread never ran in its nut."
            )
        elif naming.is_sure:
            first = naming.candidates[0]
            self.telling.setText(
                hybrid_advice(first.spec)
                if first.spec.is_mixed
                else "Sure enough: nothing else explains what was measured."
            )
        elif naming.telling is not None:
            one, other = (c.spec.designation for c in naming.candidates[:2])
            telling = naming.telling.words(self._system, one, other)
            likely = naming.candidates[0].spec
            also = f" {hybrid_advice(likely)}" if likely.is_mixed else ""
            self.telling.setText(f"To tell the first two apart: {small(telling)}{also}")
        else:
            self.telling.setText(
                "The first two differ in nothing that can be measured here: either tool cuts the same nut."
            )
        self.stated.setText(
            f"Stated: {case.drive.thread.designation}"
            if case.is_stated
            else f"Not named yet; counted as {case.drive.thread.designation}"
        )

    def name_it(self) -> None:
        """State the candidate looked at."""
        spec = self.candidates.spec()
        if spec is not None and self._shown is not None:
            self._shown.session.record(*self._case().name_bodies(spec))

    # fits -------------------------------------------------------------------------------------

    def _try(self) -> None:
        """What a bought thing would do, or why its marking cannot be read."""
        text = self.marking.text().strip()
        self.refusal.hide()
        self.marking.set_refused(False)
        self.price.set_refused(False)
        if not text:
            self.fit_head.setText("")
            self.fit_text.setText("Type what is stamped on a tap, a nut or a bar before buying it.")
            return
        case, system = self._case(), self._system
        field = self.marking
        try:
            offered = parse_marking(text, case.drive.thread)
            field = self.price
            price = parse_number(self.price.text())[0] if self.price.text().strip() else 0.0
        except TrebbError as error:
            self.fit_head.setText("")
            self.fit_text.setText("")
            self.refusal.setText(f"{error}.")
            self.refusal.show()
            field.set_refused(True)
            return
        there = case.thread_there
        if there is None:
            self.fit_head.setText("There is nothing to hold it against yet.")
            self.fit_text.setText("Measure a pitch and a diameter of the screw that is there, or name it.")
            return
        found = will_fit(there, offered, Offered(str(self.kind.currentData())), system)
        by = "" if case.is_stated else f"Taken for {there.spec.designation} by what was measured. "
        self.fit_head.setText(found.head)
        self.fit_text.setText(f"{by}{found.text}{self._worth(price, found, there)}")

    def _worth(self, price: float, found: Fitting, there: ThreadThere) -> str:
        """What a bought thing costs against what it gains, where it goes on and the lash is read."""
        case = self._case()
        lash = next((m for m in case.figures if m.key == "lash" and not m.unread), None)
        if price <= 0 or lash is None or found.verdict not in ("fits", "loose"):
            return ""
        told = case.split.told
        stays = sum(told[key].value for key in ("float", "key") if key in told)
        made = there.worn_play_mm + FITTED_PLAY.amount + stays
        return " " + bought_against_made(
            price,
            lash.value.value,
            max(found.worn_mm, 0.0) + stays,
            made,
            self._system,
            case.job.card("currency"),
        )


class _Candidates(painting.Painted, PaintedRows):
    """The likeliest threads as bars, and the first two in section, one over the other."""

    is_list = True

    chosen = Signal()

    def __init__(self) -> None:
        super().__init__(ROW)
        self._naming: Naming | None = None
        self._system = UnitSystem.METRIC
        self._at = 0
        self.setMinimumHeight(int(self._row_px * SHOWN) + 8)
        self.setAccessibleName("Threads it could be")
        self.setToolTip("Threads it could be, likeliest first; click or arrow to look at another")

    def show_naming(self, naming: Naming | None, system: UnitSystem) -> None:
        """Show other candidates."""
        if naming is not self._naming:
            self._at = 0
        self._naming, self._system = naming, system
        self.update()

    def spec(self) -> ThreadSpec | None:
        """The candidate looked at."""
        return self._naming.candidates[self._at].spec if self._naming is not None else None

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font())
        if self._naming is None:
            painter.setPen(theme.colour("soft"))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, "no thread yet")
            return
        for i, c in enumerate(self._naming.candidates[:SHOWN]):
            area = self._row_area(i)
            if i == self._at:
                self._paint_here(painter, area)
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if i == 0 else theme.REGULAR))
            middle = Qt.AlignmentFlag.AlignVCenter
            room = area.adjusted(8, 0, -148, 0)
            painting.write_in(painter, room, middle, c.spec.designation)
            bar = QRectF(area.right() - 140, area.top() + 8, 74, area.height() - 16)
            if not c.is_as_measured:  # it says what was read again: no share of anything
                painter.fillRect(bar, theme.colour("line"))
                bar.setWidth(bar.width() * c.likelihood)
                painter.fillRect(bar, theme.colour("blue"))
            painter.setFont(theme.font(theme.SMALL))
            painter.drawText(
                area.adjusted(0, 0, -6, 0),
                middle | Qt.AlignmentFlag.AlignRight,
                "as measured"
                if c.is_as_measured
                else f"{c.likelihood:.0%}"
                if c.likelihood > 0.0095
                else "under 1 %",
            )
        top = self._row_px * min(SHOWN, len(self._naming.candidates)) + 6
        if self.height() - top > 62:
            self._sections(painter, QRectF(6, top, self.width() - 12, self.height() - top - 2))

    def _sections(self, painter: QPainter, area: QRectF) -> None:
        """The one looked at in ink, the next likeliest dashed, to one scale."""
        assert self._naming is not None
        specs = [
            self._naming.candidates[self._at].spec,
            *[c.spec for i, c in enumerate(self._naming.candidates) if i != self._at][:1],
        ]
        pitches = 3
        scale = min(
            area.width() / (pitches * max(s.pitch_mm for s in specs)),
            (area.height() - 20) / max(s.depth_mm for s in specs),
        )
        left = area.center().x() - scale * pitches * specs[0].pitch_mm / 2
        for spec, pen in (
            (specs[-1], painting.dashed_pen("soft", 1.4)),
            (specs[0], painting.pen("ink", 1.6)),
        ):
            sunk = (specs[0].major_mm - spec.major_mm) / 2
            points = [
                QPointF(left + scale * x, area.top() + 2 + scale * (d + max(sunk, 0.0)))
                for x, d in screw_outline(spec, spec.pitch_dia_mm, 0.0, 0.0, pitches)
            ]
            painter.setPen(pen)
            painter.drawPolyline(QPolygonF(points))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        words = (
            f"{specs[0].form.value}, {specs[0].pitch_words}, "
            f"{show_size(specs[0].depth_mm, self._system)} deep"
        )
        painter.drawText(
            QRectF(area.left(), area.bottom() - 16, area.width(), 16),
            Qt.AlignmentFlag.AlignLeft,
            words + ("; dashed: the next likeliest" if len(specs) > 1 else ""),
        )

    def _look_at(self, i: int) -> None:
        if self._naming is not None and 0 <= i < min(SHOWN, len(self._naming.candidates)):
            self._at = i
            self.update()
            self.chosen.emit()

    def _here(self) -> int:
        return self._at
