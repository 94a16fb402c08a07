"""Spacers between a spindle’s bearings, and the sleeve of its coupler."""

from __future__ import annotations

from trebb.core.errors import UnreadError
from trebb.core.families.spindle.subject import Spindle
from trebb.core.fits import hole_limits
from trebb.core.fits.bond import GAP_MM
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    material_field,
    number,
)
from trebb.core.parts.turned import broken_ends
from trebb.core.threads import Band
from trebb.core.units import UnitSystem, show_small

# Assumed: bearing rings want parallel spacers; the two faces of one within this, the pair within the same.
# Shop practice.
PARALLEL_MM = 0.002
PRELOAD_APPROACH_MM = 0.004  # light preload of a small matched pair, as axial approach


def spacer_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Length, diameters, the gap measured and the preload wanted."""
    s = inputs.about(Spindle)
    return (
        material_field("alloy_ht"),
        PartField("arrangement", "Bearings stand", "back", {"back": "back to back", "face": "face to face"}),
        PartField("length", "Spacer length", 20.0, low_mm=2, high_mm=300, is_free=True),
        PartField(
            "gap",
            "End float measured",
            inputs.measured.get("float", 0.0),
            low_mm=0,
            high_mm=1,
            is_small=True,
        ),
        PartField(
            "preload",
            "Preload, as approach",
            PRELOAD_APPROACH_MM,
            low_mm=0,
            high_mm=0.05,
            is_small=True,
            is_free=True,
        ),
        PartField("bore", "Inner spacer bore", s.front_bore_mm, low_mm=5, high_mm=120),
        PartField("wall", "Wall", 5.0, low_mm=1.5, high_mm=40, is_free=True),
    )


def spacer(inputs: PartInputs) -> Part:
    """Two spacers, one shorter than the other by the float measured and the preload wanted. Raises
    UnreadError until the float is read or typed.
    """
    f = facts_of(spacer_fields(inputs), inputs.facts)
    length, gap, preload, bore, wall = (number(f, k) for k in ("length", "gap", "preload", "bore", "wall"))
    if "gap" not in inputs.facts and "float" not in inputs.measured:
        raise UnreadError(
            "No size yet",
            "it is worked out from the end float. Push and pull the spindle at Survey, or type the float as "
            "measured elsewhere",
        )
    short = length - gap - preload
    back = f["arrangement"] == "back"
    inner, outer = (short, length) if back else (length, short)
    half = PARALLEL_MM / 2
    bore_limits = band_of(hole_limits(bore, "G7"))
    small = inputs.system
    rows = _spacer_rows(back, half, bore_limits, small, gap, preload, bore, wall, inner, outer)
    outside = bore + 2 * wall
    room = inputs.about(Spindle).front_outside_mm - 6 - outside
    checks = (
        Check.of(
            gap + preload < 0.2,
            "The difference is one that grinding gives.",
            "A difference this large is not preload: look for a spacer left out.",
        ),
        Check.of(
            room > 0,
            "The inner spacer clears the outer rings.",
            f"The inner spacer touches the outer rings by {inputs.size(-room)}: a thinner wall would do.",
        ),
        Check.of(
            preload <= 0.012,
            "The preload is light: run it warm and look.",
            "More approach than small bearings take without heating.",
        ),
        Check(True, "The float is the one measured."),
    )
    return Part(
        "spacer",
        "Bearing spacers, a matched pair",
        material(str(f["material"])),
        f"tube or bar {inputs.size(outside + 2)}, both from one piece",
        (Section("inner spacer", "plain", inner, outside, long="inner"),),
        Section("bore", "plain", inner, bore, bore_limits),
        rows,
        checks,
        (
            f"Outer spacer the same, {inputs.size(outer)} long, to the housing.",
            "Both ground in one setting on one parallel, then the shorter one more.",
        ),
        features=broken_ends(inner),
        blanks=2,
    )


def _spacer_rows(
    back: bool,
    half: float,
    bore_limits: Band,
    small: UnitSystem,
    gap: float,
    preload: float,
    bore: float,
    wall: float,
    inner: float,
    outer: float,
) -> tuple[SizeRow, ...]:
    return (
        SizeRow(
            "Inner spacer",
            "band",
            Band(inner - half, inner + half),
            "between the inner rings",
            True,
            key="inner",
        ),
        SizeRow(
            "Outer spacer",
            "band",
            Band(outer - half, outer + half),
            "between the outer rings",
            True,
            key="outer",
        ),
        SizeRow(
            "Difference",
            "small",
            gap + preload,
            f"{'inner' if back else 'outer'} shorter: float {show_small(gap, small)} + preload "
            f"{show_small(preload, small)}",
            True,
        ),
        SizeRow("Inner bore", "band", bore_limits, "G7: slides by hand"),
        SizeRow("Faces parallel within", "small", PARALLEL_MM, "each, and one to the other"),
        SizeRow("Outside", "size", bore + 2 * wall, key="outside"),
    )


def coupler_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Splines as they are, the sleeve over them, the pin across."""
    over = float(round(0.7 * inputs.about(Spindle).rear_bore_mm, 1))
    return (
        material_field("carbon"),
        PartField("splines", "Over the splines", over, low_mm=5, high_mm=100),
        PartField("wall", "Wall", max(3.0, 0.2 * over), low_mm=1.5, high_mm=30, is_free=True),
        PartField("length", "Length", 3.0 * over, low_mm=8, high_mm=300),
        PartField(
            "drive", "Bore of the drive", over + 2 * max(3.0, 0.2 * over) + 0.08, low_mm=6, high_mm=160
        ),
        PartField("pin", "Cross pin", max(3.0, float(round(over / 5))), low_mm=1.5, high_mm=20, is_free=True),
        PartField("held", "Held by", "bond", {"bond": "retaining compound, then pinned", "pin": "pin alone"}),
    )


def coupler_sleeve(inputs: PartInputs) -> Part:
    """A sleeve over worn splines, turned to slide in the drive, bonded before it is drilled."""
    f = facts_of(coupler_fields(inputs), inputs.facts)
    over, wall, length, drive, pin = (number(f, k) for k in ("splines", "wall", "length", "drive", "pin"))
    outside = over + 2 * wall
    bonded = f["held"] == "bond"
    bore = Band(over + GAP_MM[0], over + GAP_MM[1]) if bonded else band_of(hole_limits(over, "H7"))
    play = drive - outside
    rows = _coupler_rows(outside, bonded, bore, play, length, pin)
    fits, thin, strong = 0.03 <= play <= 0.2, wall >= 0.1 * over, pin <= over / 3
    checks = (
        Check.of(
            fits,
            f"It slides in the drive with {show_small(play, inputs.system)} of play.",
            f"{show_small(play, inputs.system)} of play in the drive: from 30 to 200 µm (1 to 8 thou) "
            "slides and does not knock.",
        ),
        Check.of(
            thin,
            "The wall carries the pin.",
            f"A wall of {inputs.size(wall)} tears at the pin: {inputs.size(0.1 * over)} at least.",
        ),
        Check.of(
            strong,
            "The pin leaves the shaft its strength.",
            f"A pin over a third of the shaft weakens it: {inputs.size(over / 3)} at most.",
        ),
        Check.of(
            length >= 1.5 * over,
            "Long enough to guide.",
            f"Short of {inputs.size(1.5 * over)} it cocks on the splines.",
        ),
    )
    return Part(
        "coupler_sleeve",
        "Coupler sleeve",
        material(str(f["material"])),
        f"bar {inputs.bar(outside + 3)}, {inputs.size(length)} long",
        (Section("sleeve", "plain", length, outside, Band(outside - 0.02, outside)),),
        Section("bore", "plain", length, bore.low_mm, bore),
        rows,
        checks,
        (
            "Bond first, let it cure by its data sheet, then drill: or it turns and binds the drill.",
            "Index before pinning.",
        ),
        features=broken_ends(length),
        blanks=2,
    )


def _coupler_rows(
    outside: float, bonded: bool, bore: Band, play: float, length: float, pin: float
) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Bore", "band", bore, "a gap the compound fills" if bonded else "H7", True, key="bore"),
        SizeRow(
            "Outside",
            "band",
            Band(outside - 0.02, outside),
            "slides in the drive through the whole stroke",
            True,
            key="outside",
        ),
        SizeRow("Play in the drive", "small", play, "on diameter", True),
        SizeRow("Length", "size", length),
        SizeRow(
            "Cross pin",
            "size",
            pin,
            "drilled through both after the bond has cured" if bonded else "drilled through both",
        ),
    )
