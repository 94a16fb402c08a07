"""A plain stepped spacer: a flange that fills a gap, a step that centres it, a hole through both."""

from __future__ import annotations

from trebb.core.families.spindle.subject import Spindle
from trebb.core.fits import hole_limits, shaft_limits
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    length_check,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.turned import broken_ends
from trebb.core.threads import Band
from trebb.core.units import UnitSystem

LENGTH_BAND_MM = 0.05  # a gap is filled to what facing gives
LEAST_WALL_MM = 1.5
FACING_MM = 3.0


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Flange, step and hole; the gap that the flange fills."""
    bore, inch = min(inputs.about(Spindle).rear_bore_mm, 100.0), inputs.system is UnitSystem.INCH
    gap, step = round_size(6.0, inch), round_size(4.0, inch)
    return (
        material_field("carbon"),
        PartField("gap", "Gap to fill", gap, low_mm=0.5, high_mm=200),
        PartField("flange", "Flange outside", round_size(bore + 20, inch, up=True), low_mm=6, high_mm=300),
        PartField("step", "Step outside", round_size(bore + 10, inch, up=True), low_mm=4, high_mm=120),
        PartField("step_length", "Step length", step, low_mm=0.5, high_mm=200),
        PartField("bore", "Hole", bore, low_mm=2, high_mm=120),
    )


def build(inputs: PartInputs) -> Part:
    """The spacer with its limits. Raises InputError where a size set by hand will not do."""
    f = facts_of(fields(inputs), inputs.facts)
    gap, flange, step, step_length, bore = (
        number(f, k) for k in ("gap", "flange", "step", "step_length", "bore")
    )
    half = LENGTH_BAND_MM / 2
    step_band, bore_band = band_of(shaft_limits(step, "g6")), band_of(hole_limits(bore, "H8"))
    wall, shoulder = (step - bore) / 2, (flange - step) / 2
    size = inputs.size
    is_measured = "gap" in inputs.facts
    checks = (
        length_check(inputs, "gap", gap, flange),
        Check.of(
            is_measured,
            "The gap is the one measured.",
            "The gap is not measured: set it by hand, or the spacer fills another.",
        ),
        Check.of(
            wall >= LEAST_WALL_MM,
            f"{size(wall)} of wall stands round the hole.",
            f"Only {size(wall)} of wall is left between step and hole: at least {size(LEAST_WALL_MM)}.",
        ),
        Check.of(
            shoulder >= 1.0,
            f"The flange bears on {size(shoulder)} all round.",
            f"The flange stands only {size(shoulder)} over the step: it would pull in.",
        ),
        Check.of(
            gap > 2 * LENGTH_BAND_MM,
            "The gap is wide enough to be faced to.",
            "So thin a flange is a shim: cut it from sheet.",
        ),
    )
    return Part(
        "stepped_spacer",
        "Stepped spacer",
        material(str(f["material"])),
        f"bar {inputs.bar(flange + FACING_MM)} × {size(gap + step_length + 2 * FACING_MM)}",
        (
            Section("flange", "plain", gap, flange, long="flange"),
            Section("step", "plain", step_length, step, step_band),
        ),
        Section("hole", "plain", gap + step_length, bore, bore_band),
        _spacer_rows(half, gap, flange, step_length, step_band, bore_band),
        checks,
        (
            "Measure the gap at three places with blades, and face to the mean.",
            "Break the corner of the step.",
        ),
        features=broken_ends(gap + step_length),
    )


def _spacer_rows(
    half: float, gap: float, flange: float, step_length: float, step_band: Band, bore_band: Band
) -> tuple[SizeRow, ...]:
    return (
        SizeRow(
            "Flange thickness",
            "band",
            Band(gap - half, gap + half),
            "the gap as measured",
            True,
            key="flange",
        ),
        SizeRow("Step", "band", step_band, "g6: centres by hand", True, key="step"),
        SizeRow("Hole", "band", bore_band, "H8", key="hole"),
        SizeRow("Flange outside", "size", flange),
        SizeRow("Step length", "size", step_length, "shorter than what it enters"),
    )


FAMILY = PartFamily(
    "stepped_spacer",
    "Stepped spacer",
    fields,
    build,
    "spindle",
    "Measure the gap with everything else in its place and tight.",
)
