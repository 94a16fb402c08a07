"""Parts of a bore: the bush that makes it good, and the mate made larger to it."""

from __future__ import annotations

from collections.abc import Mapping

from msgspec.structs import replace

from trebb.core.families.bore.subject import Bore
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Feature,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    material_field,
    number,
    readings_of,
    round_size,
)
from trebb.core.parts.bushing import bush_fields_of, bush_part
from trebb.core.parts.turned import bar_for, to_mate
from trebb.core.units import show_small


def bush_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """To the bore as stated and its mate as measured."""
    b, inch = inputs.about(Bore), inputs.about(Bore).is_inch
    mate = inputs.measured.get("mate", b.dia_mm)
    housing = round_size(b.dia_mm + 6, inch, up=True)
    return bush_fields_of(inputs, housing, max(b.outside_mm, housing + 3), b.length_mm, mate)


def bush(inputs: PartInputs) -> Part:
    """The bush. Raises InputError where a size set by hand will not do."""
    f = facts_of(bush_fields(inputs), inputs.facts)
    part = bush_part(inputs, f, "bush", inputs.about(Bore).housing)
    ok = "mate" in inputs.measured or "finished" in inputs.facts
    check = Check.of(
        ok, "Its mate is measured.", "Its mate is not measured: what runs in it is taken by its name."
    )
    return replace(part, checks=(check, *part.checks))


def _mate_fields(inputs: PartInputs, key: str, label: str, usual_mm: float) -> tuple[PartField, ...]:
    """The bore as measured, and its mate's length."""
    b = inputs.about(Bore)
    return (
        material_field("carbon"),
        PartField(key, label, f"{usual_mm:.3f}", low_mm=2, high_mm=400, is_readings=True),
        PartField("length", "Length", round_size(2 * b.length_mm, b.is_inch), low_mm=3, high_mm=2000),
    )


def pin_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The bore as bored true and measured, and the pin's length."""
    widest = inputs.measured.get("widest", inputs.about(Bore).dia_mm)
    return _mate_fields(inputs, "bored", "Bored to", widest + 0.1)


def plain_pin(inputs: PartInputs) -> Part:
    """The mate made larger: a plain shaft to the bore as bored."""
    f = facts_of(pin_fields(inputs), inputs.facts)
    bored, clean = min(readings_of(f["bored"])), inputs.measured.get("widest")
    checks = (
        Check.of(
            clean is None or bored >= clean - 0.002,
            "The bore cleans up.",
            f"The bore does not clean up at {inputs.size(bored)}: its widest is {inputs.size(clean or 0)}.",
        ),
        Check.of(
            "bored" in inputs.facts,
            "The bore is the one measured.",
            "The bore is not measured as bored: its least reading counts.",
        ),
    )
    return _pin(inputs, f, "plain_pin", "Shaft to the bore", bored, "as bored", checks)


# What a mate made to the bore as it is may find wider elsewhere, mm: more
# rocks at the wide places however it is fitted at the tight ones.
WORTH_FITTING_MM = 0.05


def fitted_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The bore's tightest place as measured, and the mate's length."""
    tightest = inputs.measured.get("smallest", inputs.about(Bore).dia_mm)
    return _mate_fields(inputs, "tightest", "Tightest", tightest)


def fitted_pin(inputs: PartInputs) -> Part:
    """The mate made to the bore as it is: a plain shaft that passes its tightest place."""
    f = facts_of(fitted_fields(inputs), inputs.facts)
    tightest, widest = min(readings_of(f["tightest"])), inputs.measured.get("widest")
    wider = 0.0 if widest is None else widest - tightest
    checks = (
        Check.of(
            "smallest" in inputs.measured or "tightest" in inputs.facts,
            "The bore is measured: its tightest place counts.",
            "The bore is not measured: gauge it along its depth, the tightest place counts.",
        ),
        Check.of(
            wider < WORTH_FITTING_MM,
            f"Its widest place is {show_small(wider, inputs.system)} wider: so much more it has there.",
            f"Its widest place is {show_small(wider, inputs.system)} wider: there it rocks, however it is "
            "fitted. Bore it true first.",
        ),
    )
    return _pin(inputs, f, "fitted_pin", "Shaft to the bore as it is", tightest, "as it is", checks)


def _pin(
    inputs: PartInputs,
    f: Mapping[str, str | float],
    key: str,
    title: str,
    bored: float,
    how: str,
    checks: tuple[Check, ...],
) -> Part:
    """A plain shaft that runs in a bore of so many mm."""
    length = number(f, "length")
    band = to_mate(bored, bored, inputs.about(Bore).rpm)
    bar, passes = bar_for(inputs, bored, length)
    return Part(
        key,
        title,
        material(str(f["material"])),
        bar,
        (Section("shaft", "plain", length, band.middle_mm, band),),
        None,
        (
            SizeRow("Diameter", "band", band, f"runs in {inputs.size(bored)} {how}", True, key="dia"),
            SizeRow("Length", "size", length),
        ),
        (*checks, passes),
        ("Fit it to the tightest place of the bore.",),
        features=(
            Feature("chamfer", 0.0, 0.5),
            Feature("chamfer", length, 0.5),
            Feature("centre", 0.0),
            Feature("centre", length),
        ),
        blanks=2,
    )


FAMILIES = (
    PartFamily(
        "bush",
        "Bush",
        bush_fields,
        bush,
        "bore",
        "Bored before pressing for the size after: it closes.",
        made_on_it=True,
    ),
    PartFamily(
        "plain_pin",
        "Shaft to the bore",
        pin_fields,
        plain_pin,
        "bore",
        "Bore it true first: the shaft is turned to that.",
    ),
    PartFamily(
        "fitted_pin",
        "Shaft to the bore as it is",
        fitted_fields,
        fitted_pin,
        "bore",
        "It passes the tightest place, or it does not go in.",
    ),
)
