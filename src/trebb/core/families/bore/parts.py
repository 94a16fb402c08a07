"""Parts of a bore: the bush that makes it good, and the mate made larger to it."""

from __future__ import annotations

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


def pin_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The bore as bored true and measured, and the pin's length."""
    b, inch = inputs.about(Bore), inputs.about(Bore).is_inch
    widest = inputs.measured.get("widest", b.dia_mm)
    return (
        material_field("carbon"),
        PartField("bored", "Bored to", f"{widest + 0.1:.3f}", low_mm=2, high_mm=400, is_readings=True),
        PartField("length", "Length", round_size(2 * b.length_mm, inch), low_mm=3, high_mm=2000),
    )


def plain_pin(inputs: PartInputs) -> Part:
    """The mate made larger: a plain shaft to the bore as bored."""
    f = facts_of(pin_fields(inputs), inputs.facts)
    sizes = readings_of(f["bored"])
    bored, length = min(sizes), number(f, "length")
    band = to_mate(bored, bored, inputs.about(Bore).rpm)
    clean = inputs.measured.get("widest")
    ok = clean is None or bored >= clean - 0.002
    bar, passes = bar_for(inputs, bored, length)
    return Part(
        "plain_pin",
        "Shaft to the bore",
        material(str(f["material"])),
        bar,
        (Section("shaft", "plain", length, band.middle_mm, band),),
        None,
        (
            SizeRow("Diameter", "band", band, f"runs in {inputs.size(bored)} as bored", True, key="dia"),
            SizeRow("Length", "size", length),
        ),
        (
            Check.of(
                ok,
                "The bore cleans up.",
                f"The bore does not clean up at {inputs.size(bored)}: its widest is "
                f"{inputs.size(clean or 0)}.",
            ),
            Check.of(
                "bored" in inputs.facts,
                "The bore is the one measured.",
                "The bore is not measured as bored: its least reading counts.",
            ),
            passes,
        ),
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
        "bush", "Bush", bush_fields, bush, "bore", "Bored before pressing for the size after: it closes."
    ),
    PartFamily(
        "plain_pin",
        "Shaft to the bore",
        pin_fields,
        plain_pin,
        "bore",
        "Bore it true first: the shaft is turned to that.",
    ),
)
