"""A pin that is weak on purpose: it holds the work and goes before what it guards."""

from __future__ import annotations

from trebb.core.dual_units import show_torque
from trebb.core.errors import InputError
from trebb.core.families.shaft.bend import SHAFT_SHEAR_MPA
from trebb.core.families.shaft.seats import seat_size
from trebb.core.families.shaft.subject import Shaft
from trebb.core.findings.base import Finding
from trebb.core.machine import State
from trebb.core.metals import SHEARS_AT_MPA, material
from trebb.core.parts.base import (
    Check,
    Feature,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    number,
    round_size,
)
from trebb.core.parts.turned import bar_words, is_inch_made
from trebb.core.shafts import driving
from trebb.core.threads import Band
from trebb.core.units import INCH_MM, UnitSystem, show_size

# What a pin holds above the work, and what it guards stands above the pin, without unit (practice).
MARGIN = 1.5
WALLS = {"two": "both walls of the hub", "one": "one wall: it ends in the shaft"}
PLANES = {"two": 2, "one": 1}
OFFERED_MM = (1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0)
OFFERED_INCH_MM = tuple(n * INCH_MM / 32 for n in range(2, 9))
NECK_MM, KNURL_MM = 1.5, 4.0
SPARES = 2


def guarded(shaft: Shaft, dia_mm: float) -> tuple[str, float]:
    """The weakest of what a pin guards, and what it stands, N·m: the shaft itself, and what was stated.
    `dia_mm` of the shaft, mm.
    """
    own = driving.shaft_torque(dia_mm, 0.0, SHAFT_SHEAR_MPA)
    if 0 < shaft.guards_nm < own:
        return "what it guards", shaft.guards_nm
    return "the shaft itself", own


def fuse(shaft: Shaft, dia_mm: float, metal: str, walls: str, *, inch: bool) -> driving.ShearPin:
    """Between which sizes a pin of a metal, a key of `SHEARS_AT_MPA`, holds the work and goes first, and the
    largest offered between them. `dia_mm` of the shaft, mm; `walls` a key of `WALLS`.
    """
    return driving.shear_pin(
        dia_mm,
        PLANES[walls],
        SHEARS_AT_MPA[metal],
        guarded(shaft, dia_mm)[1],
        shaft.torque_nm,
        OFFERED_INCH_MM if inch else OFFERED_MM,
        safety_weak=MARGIN,
        safety_work=MARGIN,
    )


def fuse_findings(shaft: Shaft, dia_mm: float | None, system: UnitSystem) -> list[Finding]:
    """Whether any pin can hold the work and go before what it guards, by what is stated alone. `dia_mm` of
    the shaft under its hub, mm; None where nobody stated or measured it.
    """
    if shaft.drive != "shear_pin":
        return []
    rests = "torques stated, shear strength as usual"
    if not shaft.torque_nm or not shaft.guards_nm or dia_mm is None:
        wanted = {
            key: words
            for key, value, words in (
                ("torque_nm", shaft.torque_nm, "what it carries at work"),
                ("dia_mm", dia_mm, "the diameter under its hub"),
                ("guards_nm", shaft.guards_nm, "what the weakest gear, nut or shaft behind it stands"),
            )
            if not value
        }
        return [
            Finding(
                "fuse", State.UNKNOWN, "Which pin goes before what it guards cannot be said yet.", rests,
                f"State {' and '.join(wanted.values())}; never a stronger pin meanwhile.", 0.0,
                asks=tuple(wanted),
            )
        ]  # fmt: skip
    found = fuse(shaft, dia_mm, "free_cutting", "two", inch=shaft.is_inch)
    if not found.is_possible:
        return [
            Finding(
                "fuse", State.BEYOND, f"No pin holds {show_torque(shaft.torque_nm, system)} at work and "
                f"goes first: {guarded(shaft, dia_mm)[0]} is too weak for it.", rests,
                "Lighter cuts or a slower feed, or guard it by a clutch that slips.", 1.0,
            )
        ]  # fmt: skip
    low, high = (show_size(d, system) for d in (found.smallest_mm, found.largest_mm))
    metal = material("free_cutting").label
    return [
        Finding(
            "fuse", State.WITHIN, f"A shear pin of {metal} between {low} and {high}, "
            "through both walls, holds the work and goes first.", rests, "Never a stronger one.", 0.0,
        )
    ]  # fmt: skip


def shear_pin_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Metal, the walls it goes through, diameter, neck and length."""
    s, inch = inputs.about(Shaft), is_inch_made(inputs)
    d = seat_size(inputs, "seat")
    found = fuse(s, d, "free_cutting", "two", inch=inch)
    usual = found.choice_mm or max(1.0, round_size(0.2 * d, inch))
    return (
        PartField("material", "Metal", "free_cutting", {key: material(key).label for key in SHEARS_AT_MPA}),
        PartField("walls", "Through", "two", WALLS),
        PartField("shaft", "Shaft under the hub", d, low_mm=3, high_mm=300),
        PartField("dia", "Diameter, as its hole", s.pin_mm or usual, low_mm=1.0, high_mm=30),
        PartField("neck", "Necked where it goes, 0 plain", 0.0, low_mm=0.0, high_mm=30, is_free=True),
        PartField("length", "Length, flush with the hub", s.hub_mm, low_mm=2, high_mm=300),
    )


def shear_pin_part(inputs: PartInputs) -> Part:
    """A shear pin, plain or necked where it is to go, knurled at the end driven last. Raises InputError for a
    neck that is none.
    """
    f = facts_of(shear_pin_fields(inputs), inputs.facts)
    s, d = inputs.about(Shaft), number(f, "shaft")
    metal, walls = str(f["material"]), str(f["walls"])
    dia, neck, length = (number(f, k) for k in ("dia", "neck", "length"))
    if neck >= dia:
        raise InputError(
            f"a neck of {inputs.size(neck)} on a pin of {inputs.size(dia)}",
            "smaller than the pin, or 0 for a plain one",
        )
    found = fuse(s, d, metal, walls, inch=is_inch_made(inputs))
    planes = PLANES[walls]
    goes = driving.pin_shear_torque(d, neck or dia, planes, SHEARS_AT_MPA[metal])
    at = [(s.hub_mm - d) / 2, (s.hub_mm + d) / 2][:planes]
    necks = tuple(
        Feature("groove", z - NECK_MM / 2, NECK_MM, NECK_MM, (dia - neck) / 2, words="neck") for z in at
    )
    outside = Band(dia - 0.03, dia - 0.005)
    return Part(
        "shear_pin",
        "Shear pin",
        material(metal),
        bar_words(inputs, dia, length + 5),
        (Section("pin", "plain", length, outside.middle_mm, outside),),
        None,
        (
            SizeRow("Outside", "band", outside, "by the fingers up to the knurl", True, key="dia"),
            *(
                (SizeRow("Neck", "band", Band(neck - 0.05, neck), "where hub meets shaft", True, key="neck"),)
                if neck
                else ()
            ),
            SizeRow("Length", "size", length, "flush: filed in place"),
            SizeRow("It goes at", "text", inputs.torque(goes), f"at {SHEARS_AT_MPA[metal]:.0f} MPa in shear"),
        ),
        (
            *_fuse_checks(inputs, d, goes, found),
            _in_hub(inputs, s, d, dia, length, necks),
        ),
        (
            "Never a stronger one, nor a hard drill's shank: what it guards goes next.",
            f"Punch marks on hub and shaft, so that the hole lines up again; {SPARES} spares, one taped "
            "inside the cover.",
        ),
        features=(
            *(necks if neck else ()),
            Feature("knurl", max(0.0, length - KNURL_MM), min(KNURL_MM, length), words="knurl"),
            Feature("chamfer", 0.0, 0.3),
        ),
        blanks=1 + SPARES,
    )  # fmt: skip


def _in_hub(
    inputs: PartInputs, s: Shaft, d: float, dia: float, length: float, necks: tuple[Feature, ...]
) -> Check:
    reach = necks[-1].at_mm + NECK_MM
    if dia > d / 3:
        return Check(
            False,
            f"A hole of {inputs.size(dia)} is more than a third of the shaft's {inputs.size(d)}: the shaft "
            "goes first.",
        )
    return Check.of(
        reach <= length <= s.hub_mm + 0.5,
        "It reaches through where it is to go, and ends flush with the hub.",
        f"It must be from {inputs.size(reach)} to the hub's {inputs.size(s.hub_mm)} long: past where it "
        "goes, and not out of the hub.",
    )


def _fuse_checks(inputs: PartInputs, d: float, goes_nm: float, found: driving.ShearPin) -> tuple[Check, ...]:
    s, least, most = inputs.about(Shaft), inputs.size(found.smallest_mm), inputs.size(found.largest_mm)
    name, stands = guarded(s, d)
    checks: tuple[Check, ...] = (
        Check.of(
            goes_nm >= MARGIN * s.torque_nm,
            f"It holds the {inputs.torque(s.torque_nm)} of the work with half as much again.",
            f"It goes at {inputs.torque(goes_nm)}, under {MARGIN:g} times the "
            f"{inputs.torque(s.torque_nm)} of the work: {least} at least.",
        )
        if s.torque_nm
        else Check(
            False, "What it carries at work is not stated: it may go in every heavy cut.", ("torque_nm",)
        ),
        Check.of(
            MARGIN * goes_nm <= stands,
            f"It goes before {name}, which stands {inputs.torque(stands)}.",
            f"It goes at {inputs.torque(goes_nm)}, too near the {inputs.torque(stands)} that {name} "
            f"stands: {most} at most, "
            "or a neck of that.",
        ),
    )
    if not s.guards_nm:
        checks += (
            Check(
                False,
                "What it guards is not stated: a gear, nut or key behind it may go before the shaft.",
                ("guards_nm",),
            ),
        )
    if s.torque_nm and not found.is_possible:
        checks += (Check(False, f"No size of this metal does both: {name} is too weak for such work."),)
    return checks
