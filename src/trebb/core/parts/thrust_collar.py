"""The adjusting ring that takes out the end float."""

from __future__ import annotations

from trebb.core.machine import material
from trebb.core.parts import screw
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    is_inch,
    material_field,
    number,
    round_size,
)
from trebb.core.threads import Band


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Ring sizes, by default from the journal it runs on."""
    journal = _journal_mm(inputs)
    inch = is_inch(inputs.drive)
    return (
        material_field("carbon"),
        PartField("bore", "Bore", journal, low_mm=3, high_mm=200),
        PartField("outside", "Outside", round_size(1.75 * journal, inch), low_mm=4, high_mm=300),
        PartField("width", "Width", round_size(0.5 * journal, inch), low_mm=2, high_mm=100),
        PartField("washer", "Thrust washers, both", round_size(0.25 * journal, inch), low_mm=0, high_mm=50),
    )


def _journal_mm(inputs: PartInputs) -> float:
    if "journal_dia" in inputs.partner:
        return float(inputs.partner["journal_dia"])
    return float(next(f.default for f in screw.fields(inputs) if f.key == "journal_dia"))


def build(inputs: PartInputs) -> Part:
    """Work out the ring."""
    f = facts_of(fields(inputs), inputs.facts)
    bore, outside, width = (number(f, key) for key in ("bore", "outside", "width"))
    limits = Band(bore + 0.005, bore + 0.018)  # slides by hand on a ground journal, shop practice
    wall = (outside - bore) / 2
    checks = (
        Check(wall >= 0.2 * bore, f"The ring's wall is {inputs.size(wall)}" + ("." if wall >= 0.2 * bore else ": too thin for a set screw; a larger outside would do.")),
        Check(number(f, "washer") < number(f, "width") * 2, "The washers and the ring fit before the dial seat; check against the bracket's depth."),
    )
    rows = (
        SizeRow("Bore", "band", limits, "slides on the journal", True),
        SizeRow("Outside", "size", outside),
        SizeRow("Width", "size", width),
        SizeRow("Thrust washers, both together", "size", number(f, "washer"), "reface the bracket by this less the old play"),
    )
    return Part(
        "thrust_collar", "Thrust ring, adjustable", material(str(f["material"])).label,
        "bar end, and one spare", (Section("ring", "plain", width, outside),),
        Section("bore", "plain", width, bore, limits), rows, checks,
        ("Faces square to the bore in one setting.", "Lock with a brass pad under the set screw."),
    )  # fmt: skip


FAMILY = PartFamily("thrust_collar", "Thrust ring", fields, build)
