"""Facts of a lathe's bed: asked by ways, headstock, tailstock and stand, kept under the ways."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.facts import Fact, Length, Lengths, Number, Schema, Small, Words
from trebb.core.families.bed.subject import FEET, USUAL_BED, Bed
from trebb.core.units import THOU_MM, UnitSystem, parse_number

WAYS, HEADSTOCK, TAILSTOCK, STAND = "ways", "headstock", "tailstock", "stand"
MOST_LEAF_MM = 5.0


def _leaf_unit(system: UnitSystem) -> tuple[str, float]:
    """Name and mm of the unit that shim leaves are called in."""
    return ("thou", THOU_MM) if system is UnitSystem.INCH else ("mm", 1.0)


class Leaves(Lengths, frozen=True):
    """Shim thicknesses at hand."""

    def shown(self, value: Any, system: UnitSystem) -> str:
        name, mm = _leaf_unit(system)
        return " ".join(f"{t / mm:.3g}" for t in value or ()) + f" {name}"

    def shown_back(self, value: Any, system: UnitSystem) -> str:
        return self.shown(value, system)

    def admitted(self, value: Any) -> tuple[float, ...]:
        found = super().admitted(value)
        if not found:
            raise InputError("no leaf at all", "write the thicknesses at hand, such as 0.05 0.1 0.2 mm")
        return found

    def typed(self, text: str, system: UnitSystem) -> str | float:
        value = super().typed(text, system)
        self.admitted(value)
        return value


def shim_from(text: str) -> tuple[str, float]:
    """A logged shim: "tail_front 0.10" → foot and thickness, mm (less than nothing: taken out).

    Raises InputError otherwise.
    """
    foot, _, thickness = text.strip().partition(" ")
    if foot not in FEET:
        raise InputError(f"foot “{foot[:40]}”", f"the feet are {', '.join(FEET)}")
    mm, unit = parse_number(thickness)
    if unit not in ("", "mm") or abs(mm) > 10 * MOST_LEAF_MM:
        raise InputError(f"“{thickness.strip()}”", "write the shim's thickness in mm, such as 0.10")
    return foot, mm


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Bed:
    lies = tuple((foot, mm) for foot in FEET if (mm := values.get(f"lies_{foot}")))
    plain = {key: value for key, value in values.items() if not key.startswith("lies_")}
    return replace(USUAL_BED, **plain, lies=lies)


FACTS: tuple[Fact, ...] = (
    Number(
        "steps", "Steps of the level", asked=(WAYS,), low=3, high=24, what="steps along the bed", whole=True
    ),
    Length("base_mm", "Level’s feet apart", asked=(WAYS,), low=40.0, high=600.0),
    Length("gauge_mm", "Ways apart, middles", asked=(WAYS,), low=40.0, high=800.0),
    Length("near_mm", "Near land from nose", asked=(HEADSTOCK,), low=5.0, high=300.0),
    Length("far_mm", "Far land from nose", asked=(HEADSTOCK,), low=40.0, high=900.0),
    Length("stub_mm", "Stub’s diameter", asked=(HEADSTOCK,), low=8.0, high=160.0),
    *(
        Small(
            f"lies_{foot}",
            f"Lies already, {words}",
            asked=(HEADSTOCK, STAND) if foot.startswith("tail") else (STAND,),
            low=0.0,
            high=MOST_LEAF_MM,
        )
        for foot, words in FEET.items()
    ),
    Length("face_radius_mm", "Facing at radius", asked=(HEADSTOCK,), low=20.0, high=400.0),
    Length("lever_mm", "Pivot to jacking screw", asked=(HEADSTOCK,), low=80.0, high=1500.0),
    Length("centres_mm", "Bar between centres", asked=(TAILSTOCK,), low=100.0, high=5000.0),
    Length("quill_mm", "Quill run out", asked=(TAILSTOCK,), low=15.0, high=300.0),
    Length("across_mm", "Feet, front to back", asked=(WAYS, HEADSTOCK, STAND), low=80.0, high=1500.0),
    Length("along_mm", "Feet, along", asked=(WAYS, HEADSTOCK, STAND), low=200.0, high=6000.0),
    Length("centre_mm", "Centres above ways", asked=(WAYS,), low=40.0, high=600.0),
    Length("tool_height_mm", "Tool above feet", asked=(WAYS, HEADSTOCK, STAND), low=150.0, high=1800.0),
    Length("nose_mm", "Station 0 to nose", asked=(WAYS,), low=-300.0, high=600.0),
    Length("travel_mm", "A foot’s bolt takes", asked=(HEADSTOCK, STAND), low=0.2, high=30.0),
    Small("pass_mm", "A scraping pass takes", asked=(WAYS,), low=0.001, high=0.05),
    Leaves(
        "stock_mm",
        "Shims at hand",
        "Thicknesses at hand, such as 0.02 0.05 0.1 mm or 1 2 5 thou",
        (WAYS, HEADSTOCK, TAILSTOCK, STAND),
        low=0.001,
        high=MOST_LEAF_MM,
        most=30,
        ordered=True,
        bare=lambda system: _leaf_unit(system)[1],
    ),
)
SHIM = Words(
    "shim",
    "Shim put in",
    asked=(),
    attribute="shims",
    reader=shim_from,
    form="a foot and mm, such as “tail_front 0.10”",
)
SCHEMA = Schema(FACTS, _build, numbered=SHIM, holder=WAYS)
