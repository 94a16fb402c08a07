"""Findings: what is wrong, and how sure."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from trebb.app.look import theme
from trebb.app.look.flow import Flow
from trebb.app.look.widgets import TONES, Banner, Mark, button, clear, column, label, row, rule, scrolled
from trebb.app.pictures import picture_stack
from trebb.app.stops.base import DriveStop
from trebb.app.survey.worth_next import WorthNext
from trebb.app.window.far_cover import Far
from trebb.core.dual_units import in_units
from trebb.core.findings import Finding
from trebb.core.units import show_small
from trebb.core.words import large

if TYPE_CHECKING:
    from trebb.app.window.host import Host


MANY = 6  # set-ups, beyond which their short names stand


class FindingsStop(DriveStop):
    """The verdict, its picture, and each part of it."""

    paper = "readings"

    def __init__(self, frame: Host) -> None:
        super().__init__(frame, spacing=10)
        body = self.body_box
        self.banner = Banner()
        body.addWidget(self.banner)
        self.pictures = picture_stack(self.session)
        body.addWidget(self.pictures, 5)
        self.rows = column(spacing=7)
        inner = QWidget()
        inner.setLayout(self.rows)
        body.addWidget(scrolled(inner), 3)
        self.side = QWidget()
        side = column(spacing=8)
        self.side.setLayout(side)
        head = row(spacing=4)
        head.addWidget(label("How sure", "head"))
        head.addStretch()
        self.where_from = button(
            "Where from",
            frame.show_where_from,
            kind="link",
            tip="What each figure rests on: its readings, and what would stand without them",
            key="Shift+F1",
            name="where_from",
        )
        head.addWidget(self.where_from)
        side.addLayout(head)
        self.sure = label("", wrap=True)
        side.addWidget(self.sure)
        side.addWidget(rule())
        side.addWidget(label("Rests on", "head"))
        self.rests = label("", wrap=True)
        side.addWidget(self.rests)
        side.addWidget(rule())
        side.addWidget(label("Set aside", "head"))
        self.aside = label("", "soft", wrap=True)
        side.addWidget(self.aside)
        side.addStretch(1)
        side.addWidget(rule())
        self.worth = WorthNext(self.session)
        self.worth.chosen.connect(self.open_set_up)
        side.addWidget(self.worth)

    def refresh(self) -> None:
        super().refresh()
        self.worth.refresh()

    def _links(self, finding: Finding) -> list[QPushButton]:
        """To the set-ups that lead on, and to the fields of what is asked for."""
        ways = [
            button(
                words, partial(self.open_set_up, key), kind="link", tip="Go to that set-up", name=f"way_{key}"
            )
            for words, key in finding.set_ups
        ]
        return [*ways, *self.fact_links(finding.asks)]

    def far(self) -> Far:
        """The verdict and what comes next, under the figure it is about."""
        far, case = super().far(), self.session.case
        if not case.is_measured or not self.session.is_told("expert"):
            return far
        first = case.findings(self.session.system)[0]
        judged = case.judged
        figure = show_small(judged.value.value, self.session.system) if not judged.is_expected else ""
        return replace(
            far,
            numeral=figure,
            role=theme.state_role(judged.state),
            lines=(first.sentence, first.next_move),
        )

    def show_nothing(self) -> None:
        for words in (self.sure, self.aside, self.rests):
            words.setText("")

    def show_job(self) -> None:
        case, system = self.session.case, self.session.system
        clear(self.rows)
        self._show_aside()
        self._show_rests()
        told = self.session.is_told("expert")
        self.pictures.setVisible(told and case.is_measured)  # empty axes say nothing
        if not told:
            self.banner.say(
                "soft",
                "What is wrong is yours to say.",
                "A hidden machine is on the bench: say it at Practice (Ctrl+B), with how sure you are. An "
                "expert's word can be asked for at Survey.",
            )
            self.sure.setText("")
            return
        if not case.is_measured:
            best = case.suggestions()
            first_move = case.lot_of(best[0].key)[1].title if best else case.set_ups[0].title
            self.banner.say("soft", "Nothing is read yet.", f"{first_move} first: it settles most a minute.")
            self.rows.addStretch(1)
            self.sure.setText("")
            return
        found = case.findings(system)
        first = found[0]
        self.banner.say(
            TONES.get(first.state, "soft"),
            first.sentence,
            first.next_move,
        )
        clear(self.banner.buttons)
        for link in self._links(first):
            self.banner.buttons.addWidget(link)
        self.banner.buttons.addStretch(1)
        self.pictures.picture().show_found(known=case.is_told_apart)
        for finding in found[1:]:
            self.rows.addLayout(_finding_row(finding, self._links(finding)))
        self.rows.addStretch(1)
        done, total = case.progress("before")
        self.sure.setText(
            f"{large(first.rests_on)}; {done} of {total} in all. ± is the 95 % "
            "interval, by the readings and their instruments." + self._own_noise()
        )

    def _own_noise(self) -> str:
        """How this shop's instruments count, where not as usual."""
        case = self.session.case
        read = [
            s.instrument.value for s in case.set_ups if self.session.job.standing(case.assembly_key, s.key)
        ]
        words = case.taught.noise_words(read)
        return f" Of them: {in_units(words, self.session.system)}." if words else ""

    def _show_rests(self) -> None:
        lines = []
        for s in self.session.case.set_ups:
            readings = self.session.job.readings(self.session.assembly, s.key)
            standing = [r for r in readings if r.struck is None]
            places = len({r.taken.place for r in standing})
            painted = s.view == "contact" and self.session.job.contact(self.session.assembly, "before")
            count = (
                f"{len(standing)} at {places} place{'s' if places > 1 else ''}"
                if standing
                else "painted"
                if painted
                else "not taken"
            )
            lines.append(
                f"{s.letter}  {s.title if len(self.session.case.set_ups) < MANY else s.short}: {count}"
            )
        self.rests.setText("\n".join(lines))

    def _show_aside(self) -> None:
        struck = [
            r
            for r in self.session.job.all_readings()
            if r.struck is not None and r.taken.assembly == self.session.assembly
        ]
        lines = [f"{r.taken.set_up.replace('_', ' ')}, {r.taken.place}: {r.struck}" for r in struck[-6:]]
        lines += self.session.case.set_aside()[:4]
        self.aside.setText("\n".join(lines) if lines else "No reading is struck out.")


def _finding_row(finding: Finding, links: Sequence[QPushButton]) -> QHBoxLayout:
    line = row(spacing=10)
    line.addWidget(Mark(finding.state), alignment=Qt.AlignmentFlag.AlignTop)
    text = column(spacing=0)
    text.addWidget(label(finding.sentence, "strong", wrap=True))
    text.addWidget(label(finding.next_move, "soft", wrap=True))
    if links:
        ways = Flow()
        for link in links:
            ways.addWidget(link)
        text.addLayout(ways)
    line.addLayout(text, 1)
    return line
