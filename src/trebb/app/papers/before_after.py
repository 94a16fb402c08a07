"""Before and after as pictures: each assembly's figures as found, foretold and proven, for the wall and for
the owner.
"""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter

from trebb.app.look import theme
from trebb.app.papers.paper import Block, Paper, Pictured
from trebb.app.plots.proof_plot import ProofPlot, grown_row
from trebb.core import clock
from trebb.core.dates import full_words
from trebb.core.errors import InputError
from trebb.core.units import UnitSystem
from trebb.logbook.cases.before_after import Grown, before_and_after
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases

HEAD, TITLE, ROW, FRAME, GAP = 74.0, 44.0, 24.0, 48.0, 16.0  # px
LEGEND = "ring: as found   ·   band: as foretold   ·   filled: as proven   ·   dashed: the limit"


def before_after_blocks(cases: Cases, system: UnitSystem) -> list[Block]:
    """A picture of each assembly of which something was read, in the machine's order."""
    blocks = []
    for assembly in cases.kind.assemblies:
        grown = before_and_after(cases.of(assembly.key)) if assembly.family else []
        if grown:
            done = _done(cases.of(assembly.key))
            high = TITLE + FRAME + ROW * max(2, len(grown)) + GAP
            blocks.append(Block(high, partial(_draw, assembly.label, done, grown, system, high)))
    return blocks


def _done(case: Case) -> str:
    """What is or was done about it, in a few words."""
    return case.chosen.title if case.chosen is not None else "nothing chosen yet"


def _draw(
    label: str, done: str, grown: list[Grown], system: UnitSystem, high: float, painter: QPainter, wide: float
) -> None:
    _write_head(painter, label, theme.LARGE, QRectF(0, 0, wide, 24))
    _write_under(painter, done, theme.BODY, QRectF(0, 22, wide, 20))
    plot = ProofPlot()
    plot.show_rows([grown_row(g, system) for g in grown], system)
    plot.resize(QSize(round(wide), round(high - TITLE - GAP)))
    painter.translate(0, TITLE)
    plot.draw(painter)


def _draw_head(machine: str, under: str, painter: QPainter, wide: float) -> None:
    _write_head(painter, machine, theme.TITLE, QRectF(0, 0, wide, 30))
    _write_under(painter, under, theme.SMALL, QRectF(0, 30, wide, 18))
    _write_under(painter, LEGEND, theme.SMALL, QRectF(0, 48, wide, 18))


def _write_head(painter: QPainter, words: str, size: int, room: QRectF) -> None:
    painter.setFont(theme.font(size, theme.SEMIBOLD))
    painter.setPen(theme.colour("ink"))
    painter.drawText(room, Qt.AlignmentFlag.AlignLeft, words)


def _write_under(painter: QPainter, words: str, size: int, room: QRectF) -> None:
    painter.setFont(theme.font(size))
    painter.setPen(theme.colour("soft"))
    painter.drawText(room, Qt.AlignmentFlag.AlignLeft, words)


def before_after_paper(cases: Cases, _case: Case, _key: str, system: UnitSystem) -> Paper:
    """The whole machine's. Raises InputError where nothing is read yet."""
    blocks = before_after_blocks(cases, system)
    if not blocks:
        raise InputError("before and after", "read something of the machine first: it grows from there")
    started = cases.job.started
    machine = started.machine if started else ""
    under = f"{started.shop if started else ''}, {full_words(clock.today())}"
    return Paper("Before and after", [Pictured([Block(HEAD, partial(_draw_head, machine, under)), *blocks])])
