"""Limits of the assemblies from the work: each its share of what a piece may be off by.

The shares add as squares: what repairs leave here and there does not know of one another. Nothing is asked
below what its remedies leave; a limit that comes out as good as nothing is not given.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from msgspec import Struct

from trebb.core.condition import Quantity
from trebb.core.dual_units import in_units
from trebb.core.machine.limits import RatedLimit
from trebb.core.stating.work import FIGURES
from trebb.core.units import UnitSystem, show_small
from trebb.core.work.shares import shared_tolerance
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import LimitSet
from trebb.logbook.plan.made_work import held_of

LEAST_MM = 1e-4
MENDS = 0.9  # of a figure: a remedy that leaves less of it mends it
NO_REMEDY = 1.0  # K of what no remedy mends, beside the others': dear


class WorkLimit(Struct, frozen=True):
    """A limit as the work asks it, beside the one that stands; `of` : the piece and figure that ask most."""

    key: str
    limit_mm: float
    had: RatedLimit
    of: str

    @property
    def source(self) -> str:
        """Where it comes from, as it is kept with the limit."""
        return f"its share of the work: {self.of}"

    @property
    def stands(self) -> bool:
        """Whether it is the limit already."""
        return self.had.source == self.source and abs(self.had.limit_mm - self.limit_mm) < 1e-9


def limits_from_work(cases: Cases) -> list[WorkLimit]:
    """What the work asks of each assembly's figures, the least over all pieces; none where none is stated."""
    pieces, conditions = held_of(cases)
    titles = {p.piece.key: p.piece.title for p in pieces}
    keys = {key for held in conditions.values() for _, row, _ in held.rows for key in row.limits}
    costs: dict[str, float] = dict.fromkeys(keys, NO_REMEDY)
    present: dict[str, float] = {}
    least: dict[str, float] = {}
    for case in cases.measurable():
        for m in (m for m in case.figures if m.limit.key in keys):
            now = _most(m.value)
            present[m.limit.key] = max(now, present.get(m.limit.key, 0.0))
            mended = list(_remedies(case, m.key, now))
            if mended:  # of two figures with one limit, a head's two leans, the worse mended counts
                cost = min(worth * left for worth, left in mended)
                costs[m.limit.key] = max(cost, costs[m.limit.key] if m.limit.key in least else 0.0)
                least[m.limit.key] = max(min(left for _, left in mended), least.get(m.limit.key, 0.0))
    found: dict[str, WorkLimit] = {}
    for held in conditions.values():
        for piece, row, tolerance_mm in held.rows:
            asked = f"{titles[piece]}, {FIGURES[row.figure].label.lower()}"
            shares = shared_tolerance(tolerance_mm, row.limits, costs, present, least=least, squares=True)
            filled = math.hypot(*(row.limits[key] * t for key, t in shares.items()))
            room = max(1.0, tolerance_mm / filled) if filled else 1.0  # all may stay: they share what is over
            for key, t in shares.items():
                limit_mm = room * t
                if limit_mm > LEAST_MM and (key not in found or limit_mm < found[key].limit_mm):
                    found[key] = WorkLimit(key, limit_mm, cases.job.limit(key), asked)
    return sorted(found.values(), key=lambda one: list(found).index(one.key))


def take_limits(limits: list[WorkLimit]) -> list[LimitSet]:
    """Entries that make them the limits, as one gesture."""
    return [LimitSet(one.key, one.limit_mm, one.source) for one in limits if not one.stands]


def limits_words(limits: list[WorkLimit], system: UnitSystem) -> str:
    """What was asked of each, beside the limit that stood."""
    if not limits:
        return "No limit hangs on this work: state a piece, with what it may be off by."
    listed = [
        f"{in_units(one.had.label, system)} {show_small(one.limit_mm, system)} ("
        f"{show_small(one.had.limit_mm, system)} before)"
        for one in limits
    ]
    return f"Limits by their share of the work: {'; '.join(listed)}."


def _remedies(case: Case, measure: str, now_mm: float) -> Iterator[tuple[float, float]]:
    """Remedies that bring a figure down: money and hours as one, and the most that each leaves, mm."""
    for r in case.possible():
        if r.key == "leave" or r.hinder(case.subject_for("before")):
            continue
        left = _most(case.left_by(case.foretold_of(r, case.mended_from), measure))
        if left < MENDS * now_mm:
            done = case.priced(r)
            yield done.cost + done.hours * case.hour_worth(), left


def _most(size: Quantity) -> float:
    """The most that a figure may be, 19 times in 20, mm."""
    return max(abs(size.low), abs(size.high), LEAST_MM)
