"""A bush, whatever it is for: bored before pressing for the size after it closes."""

from __future__ import annotations

from trebb.core.bores import bushes
from trebb.core.fits.press import CAST_IRON, STEEL, Elastic, PressFit, press_fit
from trebb.core.metals import Material, material
from trebb.core.parts.base import (
    Check,
    Feature,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    length_check,
    material_field,
    mean_reading,
    number,
    round_size,
)
from trebb.core.parts.turned import (
    LEAST_WALL_MM,
    bar_words,
    clearance_mm,
    is_inch_made,
)
from trebb.core.threads import Band
from trebb.core.units import show_small

BRONZE = Elastic(110_000, 0.34, 18.0e-6)


def bush_part(inputs: PartInputs, f: dict[str, str | float], key: str, housing_metal: str) -> Part:
    """A bush from the housing as measured: bored before pressing for the size after it closes. Fields as
    stored: lengths in mm.
    """
    housing, outside, length = mean_reading(f, "housing"), number(f, "outside"), number(f, "length")
    finished, grip = number(f, "finished"), number(f, "interference")
    kind, flange = str(f["form"]), number(f, "flange") if str(f["form"]) == "flanged" else 0.0
    od = bushes.bush_outside_mm(housing, grip)
    least, most = clearance_mm(finished, inputs_rpm(inputs))
    bore = Band(finished + least, finished + (least + most) / 2)
    allowance = bushes.ream_allowance_mm(bore.middle_mm)
    elastic = CAST_IRON if housing_metal == "iron" else STEEL
    before = bushes.bore_before_pressing_mm(
        bore.middle_mm, allowance, housing, outside, grip, BRONZE, elastic
    )
    closes = bushes.closure_mm(housing, outside, before, grip, BRONZE, elastic)
    fit = press_fit(
        dia_mm=housing,
        shaft_bore_mm=before,
        hub_outside_mm=outside,
        length_mm=length,
        interference_mm=grip,
        shaft=BRONZE,
        hub=elastic,
    )
    wall, thick = (housing - bore.middle_mm) / 2, max(3.0, 0.12 * housing)
    od_band = Band(od - 0.006, od + 0.006)
    sections: tuple[Section, ...] = (Section("bush", "plain", length, od, od_band),)
    if flange > 0:
        sections = (Section("flange", "plain", thick, flange), *sections)
    total = sum(s.length_mm for s in sections)
    features = [Feature("chamfer", total, 1.0)]
    rows = _bush_rows(inputs, bore, allowance, before, closes, od_band, finished, grip, wall)
    if kind == "grooved" or str(f["groove"]) != "none":
        _add_groove(str(f["groove"]), length, bore.middle_mm, rows, features)
    metal = material(housing_metal)
    hub_ok = fit.hub_hoop_mpa <= metal.allowed_mpa
    measured = "housing" in inputs.facts or "housing" in inputs.measured
    return Part(
        key,
        "Bush" if flange <= 0 else "Flanged bush",
        material(str(f["material"])),
        bar_words(inputs, max(od, flange) + 1.5, total + 6),
        sections,
        Section("bore", "plain", total, before, Band(before - 0.02, before + 0.02)),
        tuple(rows),
        _bush_checks(inputs, od, fit, total, metal, hub_ok, measured, finished, flange, wall),
        (
            "Ream or bore in place, in line with its fellow.",
            "An oil hole drilled after pressing must not pin the groove's end.",
        ),
        construction=kind,
        features=tuple(features),
        blanks=2,
    )


def _add_groove(kind: str, length: float, bore: float, rows: list[SizeRow], features: list[Feature]) -> None:
    land = max(3.0, 0.12 * length)
    run = bushes.groove_mm(length, land, bore, 1.0 if kind == "helical" else 0.0)
    rows.append(SizeRow("Oil groove", "size", run, "along it, off both ends", key="groove"))
    features.append(Feature("groove", land, length - 2 * land, 2.0, 0.6, words=f"oil groove, {kind}"))


def _bush_rows(
    inputs: PartInputs,
    bore: Band,
    allowance: float,
    before: float,
    closes: float,
    od_band: Band,
    finished: float,
    grip: float,
    wall: float,
) -> list[SizeRow]:
    return [
        SizeRow(
            "Outside",
            "band",
            od_band,
            f"{show_small(grip, inputs.system)} over the bore as measured",
            True,
            key="outside",
        ),
        SizeRow(
            "Bore, before pressing",
            "band",
            Band(before - 0.02, before + 0.02),
            f"closes {show_small(closes, inputs.system)}",
            True,
            key="before",
        ),
        SizeRow("Reamed in place", "band", bore, f"for {inputs.size(finished)}", True, key="reamed"),
        SizeRow("Left for the reamer", "small", allowance, "on diameter"),
        SizeRow("Wall", "size", wall),
    ]


def _bush_checks(
    inputs: PartInputs,
    od: float,
    fit: PressFit,
    total: float,
    metal: Material,
    hub_ok: bool,
    measured: bool,
    finished: float,
    flange: float,
    wall: float,
) -> tuple[Check, ...]:
    return (
        Check.of(
            measured,
            "The housing is the one measured.",
            "The housing is not measured: bore it first, read it several times, and set it here.",
        ),
        Check.of(
            wall >= LEAST_WALL_MM,
            f"{inputs.size(wall)} of wall.",
            f"Only {inputs.size(wall)} of wall: bore the housing larger, at least "
            f"{inputs.size(finished + 2 * LEAST_WALL_MM)}.",
        ),
        Check.of(
            hub_ok,
            f"The housing sees {fit.hub_hoop_mpa:.0f} MPa of {metal.allowed_mpa:.0f}.",
            f"It would split the housing: {fit.hub_hoop_mpa:.0f} MPa of "
            f"{metal.allowed_mpa:.0f}; less interference.",
        ),
        Check.of(
            fit.force_n <= inputs.workshop.press_n,
            f"Press {fit.force_n / 1000:.1f} kN, or chill the bush.",
            f"{fit.force_n / 1000:.0f} kN is more than the press has: chill the bush and warm the housing.",
        ),
        Check(
            flange <= 0 or flange > od + 2,
            "The flange stops on the housing's face."
            if flange > 0
            else "Plain: pressed flush, and it may be pinned by a set screw on the joint.",
        ),
        length_check(inputs, "bush", total, od),
    )


def inputs_rpm(inputs: PartInputs) -> float:
    """Speed of what runs in the bush; by hand where it is not stated."""
    return float(getattr(inputs.subject, "rpm", 0.0))


BUSH_FORMS = {"plain": "plain", "flanged": "with a flange", "grooved": "with an oil groove"}
GROOVES = {"none": "none", "straight": "straight", "helical": "helical, one turn"}


def bush_fields_of(
    inputs: PartInputs, housing: float, outside: float, length: float, finished: float
) -> tuple[PartField, ...]:
    """Fields of a bush, whatever it is for. Sizes in mm."""
    return (
        material_field("bronze"),
        PartField("form", "Form", "plain", BUSH_FORMS),
        PartField("housing", "Housing bored to", f"{housing:.3f}", low_mm=3, high_mm=400, is_readings=True),
        PartField("outside", "Metal round it", outside, low_mm=4, high_mm=1500),
        PartField("length", "Length", length, low_mm=2, high_mm=600),
        PartField("finished", "What runs in it", finished, low_mm=2, high_mm=380),
        PartField(
            "interference",
            "Interference",
            max(0.015, 0.001 * housing),
            low_mm=0.002,
            high_mm=0.3,
            is_small=True,
            is_free=True,
        ),
        PartField(
            "flange",
            "Flange outside",
            round_size(housing + 12, is_inch_made(inputs), up=True),
            low_mm=4,
            high_mm=500,
        ),
        PartField("groove", "Oil groove", "none", GROOVES),
    )
