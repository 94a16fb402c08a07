"""The dial: divided for inch, metric or both, and how far a division may be believed."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.families.screw_drive.sizes import is_inch
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    fitted_rows,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.turned import broken_ends
from trebb.core.threads import Band
from trebb.core.units import INCH_MM, UnitSystem, show_small

READS = {"inch": "inch", "metric": "metric", "both": "inch and metric"}
LEAST_SPACE_MM = 1.0  # between lines; closer ones run together from two metres
RING_MM = 9.0  # width of a ring of divisions, line and figure


class Ring(Struct, frozen=True):
    """A ring of divisions: how many lines, what each is said to be worth, and what it really is (mm of
    travel).
    """

    lines: int
    said_mm: float
    true_mm: float

    @property
    def error_share(self) -> float:
        """How far a line is off, as a share: 0.01 is a hundredth."""
        return self.true_mm / self.said_mm - 1


def ring_for(lead_mm: float, reads_diameter: bool, system: UnitSystem) -> Ring:
    """The coarsest usual division that comes out nearest whole in a turn: 1 thou (0.5 on diameter dials), or
    0.02, 0.05 or 0.01 mm.
    """
    share = 0.5 if reads_diameter else 1.0
    steps = (
        [0.001 * INCH_MM, 0.002 * INCH_MM, 0.0005 * INCH_MM]
        if system is UnitSystem.INCH
        else [0.02, 0.05, 0.01, 0.025]
    )
    best: Ring | None = None
    for step in steps:
        lines = max(1, round(lead_mm / (share * step)))
        if not 20 <= lines <= 400:
            continue
        made = Ring(lines, share * step, lead_mm / lines)
        if best is None or abs(made.error_share) < abs(best.error_share) - 1e-9:
            best = made
    return best or Ring(
        round(lead_mm / (share * steps[0])), share * steps[0], lead_mm / round(lead_mm / (share * steps[0]))
    )


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """What it reads, long or short, its diameter."""
    drive, inch = inputs.about(ScrewDrive), is_inch(inputs.about(ScrewDrive))
    seat = round_size(0.75 * drive.thread.major_mm, inch)
    most = max(r.lines for r in rings(drive, str(inputs.facts.get("reads", "inch" if inch else "metric"))))
    readable = max(2.6 * drive.thread.major_mm, 40.0, 1.2 * most / math.pi)
    return (
        material_field("free_cutting"),
        PartField("reads", "Divided in", "inch" if inch else "metric", READS),
        PartField("outside", "Outside", round_size(readable, inch, up=True), low_mm=15, high_mm=400),
        PartField("bore", "Bore", float(inputs.partner.get("seat_dia", seat)), low_mm=3, high_mm=150),
        PartField(
            "width",
            "Width",
            round_size(RING_MM * (2 if inputs.facts.get("reads") == "both" else 1) + 8, inch, up=True),
            low_mm=6,
            high_mm=120,
        ),
    )


def rings(drive: ScrewDrive, reads: str) -> tuple[Ring, ...]:
    """The rings a dial carries."""
    both = {
        "inch": (UnitSystem.INCH,),
        "metric": (UnitSystem.METRIC,),
        "both": (UnitSystem.INCH, UnitSystem.METRIC),
    }[reads]
    return tuple(ring_for(drive.dial.lead_mm, drive.reads_diameter, s) for s in both)


def build(inputs: PartInputs) -> Part:
    """Work out the dial."""
    drive = inputs.about(ScrewDrive)
    f = facts_of(fields(inputs), inputs.facts)
    outside, width = number(f, "outside"), number(f, "width")
    made = rings(drive, str(f["reads"]))
    rows: list[SizeRow] = [
        SizeRow("Outside", "size", outside),
        SizeRow("Bore, slides on the seat", "size", number(f, "bore")),
    ]
    checks: list[Check] = []
    _add_rings(inputs, made, rows, checks, outside)
    needed = RING_MM * len(made) + 4
    checks.append(
        Check.of(
            width >= needed,
            f"A dial {inputs.size(width)} wide has room for {'both rings' if len(made) > 1 else 'its ring'}.",
            f"{'Two rings' if len(made) > 1 else 'A ring'} of lines and figures want "
            f"{inputs.size(needed)}: the long form.",
        )
    )
    at = number(f, "bore")
    bore = Section("bore", "plain", width, at, Band(at + 0.01, at + 0.03))
    form = "long form" if len(made) > 1 else "short form"
    return Part(
        "dial",
        f"Dial, {form}",
        material(str(f["material"])),
        f"bar Ø {inputs.size(outside + 2)}",
        (Section("rim", "plain", width, outside),),
        bore,
        (*rows, *fitted_rows(bore, notes={"bore": "over its journal, turns freely"})),
        tuple(checks),
        (
            "Divide before parting off: headstock indexed, or a wheel of as many teeth on the spindle.",
            "Numbers rise as the tool goes in; try the direction on the machine before stamping.",
        ),
        features=broken_ends(width),
        blanks=2,
    )


def _add_rings(
    inputs: PartInputs, made: tuple[Ring, ...], rows: list[SizeRow], checks: list[Check], outside: float
) -> None:
    for ring in made:
        name = (
            "inch"
            if abs(ring.said_mm / (INCH_MM / 2000) - round(ring.said_mm / (INCH_MM / 2000))) < 1e-6
            else "metric"
        )
        unit = UnitSystem.INCH if name == "inch" else UnitSystem.METRIC
        space = math.pi * outside / ring.lines
        rows += [
            SizeRow(
                f"{name.capitalize()}: lines in a turn",
                "text",
                str(ring.lines),
                f"every {10 if ring.lines % 10 == 0 else 5} numbered",
                True,
            ),
            SizeRow(
                "Each is called",
                "text",
                show_small(ring.said_mm, unit),
                f"{360 / ring.lines:.4f}° apart, {inputs.size(space)} round the rim",
            ),
        ]
        exact = abs(ring.error_share) < 1e-6
        drift = abs(ring.true_mm - ring.said_mm) * ring.lines
        checks.append(
            Check(
                abs(ring.error_share) < 0.005,
                f"{name.capitalize()} divisions come out exact: a turn is {ring.lines} of them."
                if exact
                else f"{name.capitalize()} divisions do not go whole into this lead: each turn is "
                f"{show_small(drift, unit)} off ({abs(ring.error_share):.2%}); good within a turn, not over "
                "several.",
            )
        )
        checks.append(
            Check(
                space >= LEAST_SPACE_MM,
                f"Lines stand {space:.2f} mm apart: read from two metres."
                if space >= 1.5
                else f"Lines stand {space:.2f} mm apart"
                + (
                    ": readable close to."
                    if space >= LEAST_SPACE_MM
                    else f": too close; Ø {ring.lines * 1.2 / math.pi:.0f} mm or more, or half as many lines."
                ),
            )
        )


FAMILY = PartFamily("dial", "Dial", fields, build)
