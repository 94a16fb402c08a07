"""The seats of a shaft, by what was measured of them."""

from __future__ import annotations

from trebb.core.families.shaft.subject import Shaft
from trebb.core.parts.base import (
    Part,
    PartField,
    PartInputs,
    facts_of,
    round_size,
)
from trebb.core.parts.bushing import bush_fields_of, bush_part
from trebb.core.parts.turned import (
    is_inch_made,
)


def seat_size(inputs: PartInputs, seat: str) -> float:
    """Name of a shaft seat's size: as called nearest to its bore as measured, or the shaft; else as stated.
    In mm.
    """
    found = inputs.measured.get(f"mate.{seat}", inputs.measured.get(f"size.{seat}"))
    if found is None:
        return inputs.about(Shaft).dia_mm
    called = round_size(found, is_inch_made(inputs))
    return called if abs(found - called) < 0.3 else found


def shaft_bush_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """For the left or right bore of a shaft."""
    inch, d = is_inch_made(inputs), inputs.measured.get("size.left", inputs.about(Shaft).dia_mm)
    housing = round_size(d + 6, inch, up=True)
    return bush_fields_of(inputs, housing, round_size(housing + 20, inch), round_size(max(15.0, d), inch), d)


def shaft_bush(inputs: PartInputs) -> Part:
    """A bush for one of the shaft's bores."""
    return bush_part(inputs, facts_of(shaft_bush_fields(inputs), inputs.facts), "shaft_bush", "iron")
