"""A turn read as one figure: a total indicator reading whose angle nobody noted. It has a verdict, a before
and an after; it says how much, not whither, so that nothing is told apart by it.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from msgspec import Struct

from trebb.core.condition import Quantity
from trebb.core.findings import Finding
from trebb.core.findings.base import judge
from trebb.core.machine import RatedLimit, State
from trebb.core.survey import AnySetUp, PlaceReadings
from trebb.core.survey.turns import figure_readings
from trebb.core.units import UnitSystem, show_small, show_uncertain


class Surveyed(Protocol):
    """What is asked of a case here."""

    @property
    def set_ups(self) -> tuple[AnySetUp, ...]:
        """Its set-ups."""
        ...

    def distrusted(self, phase: str) -> Mapping[str, str]:
        """Set-ups set aside as a whole."""
        ...

    def known_at(self, key: str, phase: str) -> list[PlaceReadings]:
        """Readings that stand and count."""
        ...

    def turn_limit(self, s: AnySetUp) -> RatedLimit:
        """The limit that a turn is drawn against."""
        ...


class OneFigure(Struct, frozen=True):
    """One turn: the set-up, its name, its total reading and the limit."""

    set_up: AnySetUp
    turn: str
    value: Quantity
    limit: RatedLimit

    @property
    def state(self) -> State:
        """How it stands to its limit."""
        return judge(self.value, self.limit.limit_mm)


def one_figures(case: Surveyed, phase: str) -> tuple[OneFigure, ...]:
    """Every turn that was read as one figure and not by its angles."""
    aside = case.distrusted(phase)
    return tuple(
        OneFigure(s, turn, value, case.turn_limit(s))
        for s in case.set_ups
        if s.view == "turn" and s.key not in aside
        for turn, value in figure_readings(case.known_at(s.key, phase)).items()
    )


def figure_finding(one: OneFigure, system: UnitSystem) -> Finding:
    """It as a verdict of its own."""
    size = show_uncertain(one.value.value, one.value.half_width, system)
    turn = f"{one.set_up.title}, {one.turn}"
    return Finding(
        f"one_figure.{one.set_up.key}.{one.turn}",
        one.state,
        f"{turn}: {size} TIR, limit {show_small(one.limit.limit_mm, system)}.",
        "one figure for the whole turn",
        "It says how much, not whither: read it angle by angle to tell what it comes from."
        if one.state is not State.WITHIN
        else "Inside its limit.",
        one.value.value,
        ((f"Read the {one.turn} by angles", one.set_up.key),),
    )
