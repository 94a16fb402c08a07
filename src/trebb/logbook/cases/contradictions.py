"""Readings that cannot both be: a part larger than its whole, a worn thread thicker than the unworn one."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from msgspec import Struct

from trebb.core.condition import Observation
from trebb.core.findings import Finding
from trebb.core.machine import State
from trebb.core.survey import AnySetUp, bounds_of, set_up
from trebb.core.survey.bounding import At, Bound, all_denied
from trebb.core.units import UnitSystem, show_size, show_small

# A contradiction stands before every verdict that rests on it.
FIRST_MM = 1e3


class Surveyed(Protocol):
    """What is asked of a case here."""

    family: str

    @property
    def set_ups(self) -> tuple[AnySetUp, ...]:
        """Its set-ups."""
        ...

    def means_at(self, key: str, phase: str) -> list[tuple[str, Observation]]:
        """One observation a place."""
        ...

    def distrusted(self, phase: str) -> Mapping[str, str]:
        """Set-ups set aside as a whole."""
        ...

    def seen_by(self, key: str, phase: str) -> Any:
        """The subject as a set-up's readings are understood by."""
        ...


class Contradiction(Struct, frozen=True):
    """A bound that readings deny, with what was read of part and whole, mm."""

    bound: Bound
    part_mm: float
    whole_mm: float

    def sentence(self, system: UnitSystem) -> str:
        """Both figures, and what cannot be."""
        bound, most = self.bound, "least" if self.bound.is_least else "most"
        show = show_size if set_up(bound.part[0]).is_size else show_small
        part = f"{set_up(bound.part[0]).short}, {bound.part[1]}: {show(self.part_mm, system)}"
        if bound.whole is None:
            return f"{part}, where {show(self.whole_mm, system)} is the {most} there can be: {bound.words}."
        room = _at(bound.whole) if bound.less is None else f"{_at(bound.whole)}, less {_at(bound.less)}"
        return f"{part}, and {room}: {show(self.whole_mm, system)}. That cannot be: {bound.words}."


def _at(at: At) -> str:
    return f"{set_up(at[0]).short.lower()}, {at[1]}"


def contradictions(case: Surveyed, phase: str) -> tuple[Contradiction, ...]:
    """What readings of a phase deny, one for each reading that is too large; the worst of several."""
    bounds = bounds_of(case.family, case.seen_by("", phase)) if case.family else ()
    keys = {at[0] for bound in bounds for at in bound.places}
    aside = case.distrusted(phase)
    means: dict[At, Observation] = {}
    for s in case.set_ups:
        if s.key in keys and s.observe is None and s.key not in aside:
            means.update({(s.key, place): found for place, found in case.means_at(s.key, phase)})
    worst: dict[At, Contradiction] = {}
    for bound, part_mm, whole_mm in all_denied(bounds, means):
        found = Contradiction(bound, part_mm, whole_mm)
        known = worst.get(bound.part)
        off = abs(found.part_mm - found.whole_mm)
        if known is None or off > abs(known.part_mm - known.whole_mm):
            worst[bound.part] = found
    return tuple(worst.values())


def contradiction_finding(found: Contradiction, system: UnitSystem) -> Finding:
    """A contradiction as a verdict of its own, before the others."""
    ways = tuple((f"Read {place} again", key) for key, place in dict.fromkeys(found.bound.places))
    return Finding(
        f"contradiction.{found.bound.part[0]}.{found.bound.part[1]}",
        State.UNKNOWN,
        found.sentence(system),
        "two readings that deny each other",
        found.bound.slip,
        FIRST_MM,
        ways,
    )
