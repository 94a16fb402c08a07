"""Readings on paper: each set-up with its figure, its places in columns beside it, as they were taken."""

from __future__ import annotations

import math
from functools import partial

from msgspec import Struct
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter

from trebb.app.look import numerals, painting, theme
from trebb.app.papers.paper import Block, Paper, Pictured
from trebb.core import clock
from trebb.core.dates import full_words
from trebb.core.errors import InputError
from trebb.core.figure import Figure, said_in
from trebb.core.survey import AnySetUp
from trebb.core.survey.shown import reading_text
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases

PHASES = {"before": "before", "after": "after", "later": "looked at again"}
HEAD, TITLE, ROW, GAP, FIGURE_HIGH, FIGURE_SHARE = 74.0, 44.0, 17.0, 14.0, 116.0, 0.48
MOST_COLUMNS = 2
SMALLER = 0.72  # times as large as on the screen, words and all: so that they do not meet
LEFT, TOP_LEFT = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft


class Line(Struct, frozen=True):
    """A place with what stands of it; `struck` the readings struck out with their reasons."""

    place: str
    values: str
    struck: str


class Group(Struct, frozen=True):
    """The readings of a set-up in one phase."""

    title: str
    under: str
    lines: tuple[Line, ...]
    figure: Figure

    @property
    def high(self) -> float:
        """So many px high on the page."""
        rows = math.ceil(len(self.lines) / self.columns) + sum(bool(one.struck) for one in self.lines)
        return TITLE + max(FIGURE_HIGH, ROW * rows) + GAP

    @property
    def columns(self) -> int:
        """How many places stand beside each other: as many as their words leave room for."""
        longest = max(len(one.place) + len(one.values) for one in self.lines)
        return 1 if longest > 24 else MOST_COLUMNS


def readings_paper(_cases: Cases, case: Case, _key: str, system: UnitSystem) -> Paper:
    """Every reading of an assembly as it was taken, struck ones with their reason. Raises InputError where
    none was.
    """
    groups = [
        group
        for phase in PHASES
        for s in case.set_ups
        if (group := readings_group(case, s, phase, system)) is not None
    ]
    if not groups:
        raise InputError(f"readings of {case.assembly.label}", "take one first")
    started = case.job.started
    under = ", ".join(filter(None, (started.machine, started.shop) if started else ()))
    head = partial(_draw_head, f"{case.assembly.label}: readings", f"{under}, {full_words(clock.today())}")
    return Paper(
        "Readings", [Pictured([Block(HEAD, head), *(Block(g.high, partial(_draw, g)) for g in groups)])]
    )


def readings_group(case: Case, s: AnySetUp, phase: str, system: UnitSystem) -> Group | None:
    """The readings of a set-up in a phase; None where there are none."""
    taken = case.job.readings(case.assembly_key, s.key, phase)
    if not taken:
        return None
    labels = {place.key: place.label for place in s.places(case.subject)}
    found: dict[str, tuple[list[str], list[str]]] = {}
    for r in taken:
        standing, struck = found.setdefault(r.taken.place, ([], []))
        text = reading_text(r.taken.value, s, system)
        if r.struck:
            struck.append(f"{text} struck out: {r.struck}")
        else:
            standing.append(text)
    unit = reading_text(0.0, s, system, unit=True).removeprefix(reading_text(0.0, s, system)).strip()
    first, last = taken[0].at[:10], taken[-1].at[:10]
    when = first if first == last else f"{first} to {last}"
    lines = tuple(
        Line(labels.get(key, key), ", ".join(standing), "; ".join(struck))
        for key, (standing, struck) in found.items()
    )
    figure = said_in(s.figure(case.subject, next(iter(found))), system)
    return Group(f"{s.title}, {PHASES[phase]}", f"{s.instrument.value}; {unit}; {when}", lines, figure)


def _draw_head(title: str, under: str, painter: QPainter, wide: float) -> None:
    painter.setFont(theme.font(theme.TITLE, theme.SEMIBOLD))
    painter.setPen(theme.colour("ink"))
    painter.drawText(QRectF(0, 0, wide, 30), LEFT, title)
    painter.setFont(theme.font(theme.SMALL))
    painter.setPen(theme.colour("soft"))
    painter.drawText(QRectF(0, 32, wide, 18), LEFT, under)


def _draw(group: Group, painter: QPainter, wide: float) -> None:
    painter.setFont(theme.font(theme.LARGE, theme.SEMIBOLD))
    painter.setPen(theme.colour("ink"))
    painter.drawText(QRectF(0, 0, wide, 22), LEFT, group.title)
    painter.setFont(theme.font(theme.SMALL))
    painter.setPen(theme.colour("soft"))
    painter.drawText(QRectF(0, 21, wide, 18), LEFT, group.under)
    painter.save()
    painter.scale(SMALLER, SMALLER)
    picture = QRectF(0, TITLE / SMALLER, (FIGURE_SHARE * wide - 20) / SMALLER, FIGURE_HIGH / SMALLER)
    painting.paint_figure(painter, group.figure, picture)
    painter.restore()
    left, room = FIGURE_SHARE * wide, (1 - FIGURE_SHARE) * wide / group.columns
    rows = math.ceil(len(group.lines) / group.columns)
    for i, line in enumerate(group.lines):
        spot = QRectF(left + (i // rows) * room, TITLE + (i % rows) * ROW, room - 12, ROW)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(spot, TOP_LEFT, line.place)
        begins = QFontMetricsF(painter.font()).horizontalAdvance(line.place) + 10
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        painter.drawText(
            spot.adjusted(max(begins, 0.34 * room), 0, 12, 0), TOP_LEFT, numerals.shown(line.values)
        )
    painter.setFont(theme.font(theme.SMALL))
    painter.setPen(theme.colour("soft"))
    down = TITLE + rows * ROW
    for line in group.lines:
        if line.struck:
            painter.drawText(
                QRectF(left, down, wide - left, ROW), TOP_LEFT, numerals.shown(f"{line.place}: {line.struck}")
            )
            down += ROW
