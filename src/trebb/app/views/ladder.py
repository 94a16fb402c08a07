"""Shim trials as a ladder: what was tried, what it was to read, what it read, what is left."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.typed import LengthEdit
from trebb.app.look.widgets import Banner, Choice, button, column, label, row
from trebb.app.views.base import ReadingView, Shown
from trebb.core.condition import Quantity
from trebb.core.errors import TrebbError
from trebb.core.families.bed.cuts import LANDS
from trebb.core.families.bed.facts import WAYS
from trebb.core.families.bed.headstock import exchanged_finding
from trebb.core.families.bed.shims import Cut, ShimAdvice
from trebb.core.families.bed.subject import ACROSS_FROM, FEET, Bed
from trebb.core.survey.shown import reading_text
from trebb.core.units import THOU_MM, UnitSystem, parse_length, show_shim, show_small, show_uncertain
from trebb.core.words import small
from trebb.logbook.cases.headstock_case import HeadstockCase
from trebb.logbook.log.entries import FactStated

RUNG = 44
HEAD = 22


class Rung(Struct, frozen=True):
    """One cut: number, what was done before it, its lands as read, what it was to read, and what it reads."""

    number: int
    done: str
    lands: tuple[str, str]
    foretold: Quantity | None
    cut: Cut | None


class LadderView(ReadingView):
    """Rungs, the next shim, and what to log."""

    def __init__(self) -> None:
        super().__init__()
        box = column(spacing=6)
        self.setLayout(box)
        self._shown: Shown | None = None
        self.ladder = Ladder()
        self.ladder.chosen.connect(self.chosen)
        box.addWidget(self.ladder, 1)
        self.next = Banner()
        box.addWidget(self.next)
        self.other = button(
            "Log it under the other foot",
            self._other_foot,
            kind="dark",
            tip="The shim lies under the foot across: log it so",
            name="other_foot",
        )
        self.next.buttons.addWidget(self.other)
        self.log = button(
            "It is in: log this shim",
            self._log_advised,
            kind="dark",
            tip="Log the shim as put in; the cut after it comes next",
            name="log_shim",
        )
        self.next.buttons.addWidget(self.log)
        self.next.buttons.addStretch()
        line = row(spacing=6)
        self.foot = Choice()
        self.foot.setObjectName("shim_foot")
        self.foot.setToolTip("Foot that another shim went under")
        self.foot.setAccessibleName("Foot")
        for key, words in FEET.items():
            self.foot.addItem(words, key)
        line.addWidget(label("or", "soft"))
        self.thickness = LengthEdit(
            "shim_thickness", "Thickness put in; less than nothing taken out. Enter logs it"
        )
        self.thickness.returnPressed.connect(self._log_typed)
        self.thickness.setMaximumWidth(90)
        line.addWidget(self.thickness)
        line.addWidget(self.foot, 1)
        self.log_other = button("Log", self._log_typed, tip="Log this shim instead", name="log_other_shim")
        line.addWidget(self.log_other)
        box.addLayout(line)
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        box.addWidget(self.refusal)

    def _case(self) -> HeadstockCase:
        assert self._shown is not None
        case = self._shown.session.case
        assert isinstance(case, HeadstockCase)
        return case

    # showing ----------------------------------------------------------------------------------

    def show_readings(self, shown: Shown) -> None:
        self._shown = shown
        case, system = self._case(), shown.session.system
        place = shown.place.key if shown.place else ""
        self.thickness.setPlaceholderText(show_shim(0.1, system))
        limit = case.advice().limit_mm
        self.ladder.show_rungs(rungs(shown, case), limit, system, place)
        self._show_next(case, system)

    def _show_next(self, case: HeadstockCase, system: UnitSystem) -> None:
        cuts, bed = case.cuts(), case.subject
        wrong = case.wrong_foot()
        self.other.setVisible(wrong is not None)
        self.log.setVisible(False)
        if wrong is not None:
            foot, mm = bed.shims[wrong - 1]
            self.next.say(
                "near",
                f"Cut {wrong} answers as if the shim lay under the other foot.",
                f"{show_shim(abs(mm), system)} are logged under the {FEET[foot]}; the work changed as if "
                f"they lay under the {FEET[ACROSS_FROM[foot]]}. Look there.",
            )
            return
        if (swapped := case.exchanged()) is not None:
            told = exchanged_finding(swapped, case.foretold_cut(swapped.number), system)
            self.next.say("near", f"Cut {swapped.number}: {small(told.sentence)}", told.next_move)
            return
        if not cuts:
            self.next.say("soft", "Cut two lands first.", "What a shim does is told from the cut before it.")
            return
        if cuts[-1].number < len(bed.shims):
            self.next.say(
                "soft",
                f"Cut the two lands again: shim {len(bed.shims)} is in.",
                f"It should read {_told(case.foretold_cut(len(bed.shims)), system)} far less near.",
            )
            return
        advice = case.advice()
        if advice.is_done:
            inside = abs(cuts[-1].difference_mm) <= advice.limit_mm
            words = (
                f"{show_small(cuts[-1].difference_mm, system, signed=True)} far less near, limit "
                f"{show_small(advice.limit_mm, system)} over these lands."
            )
            self.next.say(
                "within" if inside else "near",
                "Parallel: leave the feet." if inside else "No shim at hand betters it.",
                words + (" Read it again in a week and in a month: a bed creeps." if inside else ""),
            )
            return
        self.log.setVisible(True)
        self.next.say(
            "soft",
            shim_words(advice, system),
            f"The next cut will read {_told(advice.next, system)} far less near. {answer_words(bed, advice)}",
        )

    # logging ----------------------------------------------------------------------------------

    def _log_advised(self) -> None:
        advice = self._case().advice()
        self._log(advice.foot, advice.mm)

    def _log_typed(self) -> None:
        text = self.thickness.text()
        if not text.strip() or self._shown is None:
            return
        try:
            mm = parse_length(
                text.replace("−", "-"),
                self._shown.session.system,
                bare_mm=THOU_MM if self._shown.session.system is UnitSystem.INCH else 1.0,
            )
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        if self._log(str(self.foot.currentData()), mm):
            self.thickness.clear()

    def _log(self, foot: str, mm: float, key: str = "") -> bool:
        """Record a shim; refused where the foot does not take it."""
        assert self._shown is not None
        case = self._case()
        key, value = key or case.next_shim_key(), f"{foot} {mm:.4f}"
        try:
            self._shown.session.record(FactStated(assembly=WAYS, field=key, value=value))
        except TrebbError as error:
            self._refuse(f"{error}.")
            return False
        self._refuse("")
        return True

    def _other_foot(self) -> None:
        number = self._case().wrong_foot()
        if number is not None:
            foot, mm = self._case().subject.shims[number - 1]
            self._log(ACROSS_FROM[foot], mm, f"shim.{number}")

    def _refuse(self, sentence: str) -> None:
        self.refusal.setText(sentence)
        self.refusal.setVisible(bool(sentence))
        self.thickness.set_refused(bool(sentence))


def _told(q: Quantity, system: UnitSystem) -> str:
    return show_uncertain(q.value, q.half_width, system)


def shim_words(advice: ShimAdvice, system: UnitSystem) -> str:
    """What to do under which foot, and with which leaves."""
    leaves = " + ".join(show_shim(leaf, system).split()[0] for leaf in advice.pack.leaves_mm)
    size = show_shim(abs(advice.mm), system)
    how = f"Put {size} ({leaves}) under" if advice.mm > 0 else f"Take {size} out from under"
    return f"{how} the {FEET[advice.foot]}."


def answer_words(bed: Bed, advice: ShimAdvice) -> str:
    """How this bed answers, as learned so far."""
    a = advice.answer
    return (
        f"This bed takes up {a.value:.0%} ± {a.half_width:.0%} of a "
        f"shim{', learned from its cuts' if bed.shims else ', as beds do'}."
    )


def rungs(shown: Shown, case: HeadstockCase) -> list[Rung]:
    """Every cut, taken or still to be taken."""
    bed, system = case.subject, shown.session.system
    cuts = {cut.number: cut for cut in case.cuts()}
    found = []
    for number in range(len(bed.shims) + 1):
        name, key = ("cut", "two_collar") if number == 0 else (f"trial {number}", "trials")
        standing = {
            p.place: p.values for p in shown.session.job.standing(shown.session.assembly, key, shown.phase)
        }
        s = next(s for s in case.set_ups if s.key == key)
        near, far = (
            _mean_text(standing.get(f"{name}, {land}", ()), partial(reading_text, s=s, system=system))
            for land in LANDS
        )
        if number == 0:
            done = "as it stood"
        else:
            foot, mm = bed.shims[number - 1]
            done = f"{'+' if mm > 0 else ''}{show_shim(mm, system)} {foot.replace('_', ' ')}"
        told = case.foretold_cut(number) if number and (number - 1) in cuts else None
        found.append(Rung(number, done, (near, far), told, cuts.get(number)))
    return found


def _mean_text(values: Sequence[float], show: Callable[[float], str]) -> str:
    return show(sum(values) / len(values)) if values else ""


class Ladder(painting.Painted, QWidget):
    """Rungs from top to bottom; the scale across is far less near, the limit dashed on both sides of
    nothing.
    """

    is_list = True

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._rungs: list[Rung] = []
        self._limit_mm, self._system, self._place = 0.01, UnitSystem.INCH, ""
        self.setMinimumHeight(HEAD + 2 * RUNG)
        self.setAccessibleName("Shim trials")
        self.setToolTip("Band: foretold. Diamond: read. Click a land to measure it (up and down)")

    def show_rungs(self, rungs_: list[Rung], limit_mm: float, system: UnitSystem, place: str) -> None:
        """Show trials; `place` is the land to be measured next."""
        self._rungs, self._limit_mm, self._system, self._place = rungs_, limit_mm, system, place
        self.setMinimumHeight(HEAD + min(5, max(2, len(rungs_))) * 38)
        self.update()

    def rungs(self) -> list[Rung]:
        """What is shown."""
        return list(self._rungs)

    def _high(self) -> float:
        return min(float(RUNG), (self.height() - HEAD) / max(1, len(self._rungs)))

    def _span(self) -> tuple[float, float]:
        """Middle of the scale and pixels a mm."""
        left, right = 166.0, self.width() - 62.0
        most = max(
            [2 * self._limit_mm]
            + [abs(r.cut.difference_mm) for r in self._rungs if r.cut]
            + [max(abs(r.foretold.low), abs(r.foretold.high)) for r in self._rungs if r.foretold]
        )
        return (left + right) / 2, (right - left) / 2.1 / most

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle, scale = self._span()
        high = self._high()
        foot = HEAD + high * len(self._rungs)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QPointF(0, 15), "tried")
        painter.drawText(
            QRectF(self.width() - 90, 0, 88, 20),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            "far less near",
        )
        painter.setPen(painting.pen("line", 1.2))
        painter.drawLine(QPointF(middle, HEAD), QPointF(middle, foot))
        painter.setPen(painting.dashed_pen("within", 1.6))
        for sign in (-1, 1):
            painter.drawLine(
                QPointF(middle + sign * scale * self._limit_mm, HEAD - 4),
                QPointF(middle + sign * scale * self._limit_mm, foot),
            )
        painter.setPen(theme.colour("within"))
        painter.drawText(
            QRectF(middle - 60, 0, 120, HEAD - 4),
            Qt.AlignmentFlag.AlignCenter,
            f"± {show_small(self._limit_mm, self._system)}",
        )
        last: QPointF | None = None
        for i, rung in enumerate(self._rungs):
            last = self._paint_rung(painter, i, rung, middle, scale, high, last)

    def _paint_rung(
        self,
        painter: QPainter,
        i: int,
        rung: Rung,
        middle: float,
        scale: float,
        high: float,
        last: QPointF | None,
    ) -> QPointF | None:
        area = QRectF(0, HEAD + i * high, self.width(), high - 4)
        side = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        is_next = [self._place == _place_of(rung.number, land) for land in LANDS]
        painter.setPen(painting.pen("blue", 1.6) if any(is_next) else Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("blue_wash" if any(is_next) else "ground"))
        painter.drawRoundedRect(QRectF(0.5, area.top(), 156, area.height()), 3, 3)
        painter.setPen(theme.colour("ink"))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        half = area.height() / 2
        painter.drawText(QRectF(7, area.top() + 1, 148, half), side, f"{rung.number}  {rung.done}")
        for k, (land, words) in enumerate(zip(LANDS, rung.lands, strict=True)):
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD if is_next[k] else theme.REGULAR))
            painter.setPen(theme.colour("blue" if is_next[k] else "soft"))
            painter.drawText(
                QRectF(7 + 75 * k, area.top() + half - 1, 74, half),
                side,
                f"{land.split()[0]} {words or ('?' if is_next[k] else '–')}",
            )
        y = area.center().y()
        if rung.foretold is not None:
            shade = theme.colour("blue")
            shade.setAlphaF(0.22)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(shade)
            painter.drawRect(
                QRectF(
                    middle + scale * rung.foretold.low,
                    y - 7,
                    scale * (rung.foretold.high - rung.foretold.low),
                    14,
                )
            )
        if rung.cut is None:
            return last
        at = QPointF(middle + scale * rung.cut.difference_mm, y)
        if last is not None:
            painter.setPen(painting.pen("soft", 1.2))
            painter.drawLine(last + QPointF(0, 6), at - QPointF(0, 6))
        self._paint_cut(painter, rung.cut.difference_mm, area, at)
        return at

    def _paint_cut(
        self,
        painter: QPainter,
        difference_mm: float,
        area: QRectF,
        at: QPointF,
    ) -> None:
        inside = abs(difference_mm) <= self._limit_mm
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("within" if inside else "beyond"))
        if inside:
            painter.drawEllipse(at, 6, 6)
        else:
            painter.drawRect(QRectF(at.x() - 5.5, at.y() - 5.5, 11, 11))
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        painter.drawText(
            QRectF(self.width() - 60, area.top(), 58, area.height()),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            show_small(difference_mm, self._system, signed=True, unit=False),
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int((event.position().y() - HEAD) // self._high())
        if 0 < i < len(self._rungs):  # the first cut is measured at its own set-up
            self.chosen.emit(_place_of(i, LANDS[0] if event.position().x() < 80 else LANDS[1]))


def _place_of(number: int, land: str) -> str:
    return f"{'cut' if number == 0 else f'trial {number}'}, {land}"


__all__ = ["Ladder", "LadderView", "Rung", "answer_words", "shim_words"]
