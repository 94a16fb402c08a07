"""What an operation of a route is, and what routes are worked out from."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.machine.workshop import Workshop
from trebb.core.making.infeed import turning_cut
from trebb.core.making.thread_dial import ThreadDial
from trebb.core.metals import Material
from trebb.core.parts import Part
from trebb.core.threads import Band

SETTING_MINUTES = 12.0
# What a size is taken with, by key; one that stands in no table is called as it was written.
MEASURED_BY: Mapping[str, str] = {
    "micrometer": "micrometer",
    "wires": "wires and micrometer",
    "bore_gauge": "bore gauge",
    "telescoping": "telescoping gauge and micrometer",
    "depth": "depth micrometer",
    "caliper": "caliper",
    "gauge": "plug or ring gauge",
    "mate": "its mate",
}


class SizeTarget(Struct, frozen=True):
    """A size that an operation is to reach, usually a diameter; `side` +1 for an outside, which comes down
    to it, −1 for a bore.
    """

    what: str
    band: Band
    side: int
    is_diameter: bool = True


class Operation(Struct, frozen=True):
    """One operation of a route.

    `kind` is "thread" where passes and sizes belong to it, "nut_thread" where
    the play is tried, "size" where a diameter is to reach `target`.
    """

    number: int
    key: str
    title: str
    detail: str
    hold: str
    tool: str
    minutes: float
    caution: str = ""
    kind: str = "plain"
    target: SizeTarget | None = None


def dial_of(shop: Workshop) -> ThreadDial:
    """The lathe's thread dial, in mm."""
    return ThreadDial(shop.lead_screw_mm, shop.dial_gear_teeth, shop.dial_marks)


def material_of(part: Part) -> Material:
    """The material a part is turned or milled from. Raises InputError for one of plate or of nothing cut."""
    if not isinstance(part.metal, Material):
        raise InputError(f"a part of {part.material}", "speeds are known for what is cut from bar or casting")
    return part.metal


def turning_minutes(part: Part, start_mm: float, finish_mm: float, length_mm: float) -> float:
    cut = turning_cut(start_mm, finish_mm, 1.0, material_of(part).speed_m_min, 0.12, length_mm, 3)
    return cut.passes * cut.pass_seconds / 60


# Key, title, detail, hold, tool, minutes, caution, kind, and perhaps a SizeTarget.
Row = tuple[Any, ...]


def minutes_left(operations: tuple[Operation, ...], done: set[str]) -> tuple[float, float]:
    """Minutes of the operations done and left."""
    gone = sum(o.minutes for o in operations if o.key in done)
    return gone, sum(o.minutes for o in operations) - gone
