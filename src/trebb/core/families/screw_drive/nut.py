"""A nut to be made for its screw: styles, sizes, drawing."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from trebb.core.families.screw_drive.nut_checks import nut_checks
from trebb.core.families.screw_drive.nut_holds import (
    hold_checks,
    hold_features,
    hold_fields,
    hold_rows,
    spigot_mm,
)
from trebb.core.families.screw_drive.nut_hub import (
    HUB,
    HUB_NOTES,
    hub_band,
    hub_checks,
    hub_fields,
    hub_rows,
    hub_sections,
)
from trebb.core.families.screw_drive.sizes import is_inch
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.fits.joint import knurl_for
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
    material_field,
    number,
    round_size,
)
from trebb.core.parts.casting import MELTS, CastBlank, cast_blank, foundry_request
from trebb.core.safety import FOUNDRY
from trebb.core.threads import Form, thread_limits
from trebb.core.threads.forms import ThreadSpec
from trebb.core.threads.tool import nut_cut_mm
from trebb.core.threads.tooling import largest_shank_mm
from trebb.core.threads.wires import best_wire_mm, size_between_balls_mm
from trebb.core.units import INCH_MM, THOU_MM, show_small

WANTED_PLAY_MM = 1.5 * THOU_MM  # total, both flanks: turns free with oil, felt as nothing
SLIT_MM = 2.0  # saw that splits half nuts; packed out again while they are bored
STYLES = {
    "plain": "plain",
    "split": "split, with an adjusting screw",
    "two_piece": "two pieces, spring between",
    "half": "half nuts, bored as a pair",
    "flanged": "flanged, round",
    HUB: "in a gear's hub, as a bush",
}
ROUND = ("flanged", HUB)
HOLDS = {"as_is": "bolted", "press": "pressed in its hole", "knurl": "hole is loose: knurled"}


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Style, length, block, play wanted, material; flange, knurl and casting where they are chosen."""
    drive, inch = inputs.about(ScrewDrive), is_inch(inputs.about(ScrewDrive))
    major = drive.thread.major_mm
    style = str(inputs.facts.get("style", "plain"))
    made = [
        material_field("bronze"),
        PartField("style", "Style", "plain", STYLES),
        PartField("blank", "Blank", "bar", {"bar": "bar or block", "cast": "cast in a mould"}),
        PartField(
            "length",
            "Length",
            round_size(drive.nut_length_mm, inch),
            low_mm=drive.thread.pitch_mm * 2,
            high_mm=500,
        ),
        PartField("room", "Room for a longer nut", 0.5 * INCH_MM, low_mm=0, high_mm=500, is_free=True),
    ]
    _add_outside(inputs, major, style, made, inch)
    if style not in ROUND:
        made += hold_fields(inputs, style)
    if style == "two_piece":
        made.append(
            PartField("gap", "Gap for the spring", round_size(0.25 * major, inch), low_mm=1, high_mm=50)
        )
    made += [
        PartField(
            "play", "Play wanted", WANTED_PLAY_MM, low_mm=0.005, high_mm=0.5, is_small=True, is_free=True
        ),
        PartField(
            "shank",
            "Threading bar at hand",
            max(3.0, round(largest_shank_mm(drive.thread) - 0.25, 1)),
            low_mm=3,
            high_mm=80,
            is_free=True,
        ),
        PartField(
            "oil_hole",
            "Oil hole from the end",
            round_size(0.5 * drive.nut_length_mm, inch),
            low_mm=0,
            high_mm=500,
            is_free=True,
        ),
    ]
    return tuple(made)


def _add_outside(inputs: PartInputs, major: float, style: str, made: list[PartField], inch: bool) -> None:
    if style == "flanged":
        made += [
            PartField("body_dia", "Body", round_size(1.6 * major, inch), low_mm=1.2 * major, high_mm=500),
            PartField("flange_dia", "Flange", round_size(2.6 * major, inch), low_mm=1.4 * major, high_mm=600),
            PartField("flange_width", "Flange width", round_size(0.4 * major, inch), low_mm=2, high_mm=100),
            PartField("bolt_dia", "Bolt holes", round_size(0.25 * major, inch), low_mm=2, high_mm=40),
            PartField("holds", "In its hole", "as_is", HOLDS),
            PartField("hole", "Hole as measured", round_size(1.6 * major, inch), low_mm=5, high_mm=500),
        ]
    elif style == HUB:
        made += hub_fields(inputs)
    else:
        made += [
            PartField("width", "Width", round_size(1.9 * major, inch), low_mm=1.2 * major, high_mm=500),
            PartField("height", "Height", round_size(1.9 * major, inch), low_mm=1.2 * major, high_mm=500),
            PartField(
                "axis_height",
                "Axis above the base",
                round_size(0.95 * major, inch),
                low_mm=0.6 * major,
                high_mm=500,
            ),
        ]


def nut_pitch_dia_mm(inputs: PartInputs) -> float:
    """Pitch diameter to cut the nut to: the screw's, plus the play wanted / tan α.

    Where the screw has not been measured, the middle of its class limits stands in.
    """
    spec = inputs.about(ScrewDrive).thread
    screw = inputs.screw_pitch_dia_mm or thread_limits(spec).screw_pitch.middle_mm
    slope = math.tan(spec.form.half_angle)
    play = number(facts_of(fields(inputs), inputs.facts), "play")
    return screw + play / slope if slope else spec.pitch_dia_mm


def build(inputs: PartInputs) -> Part:
    """Work out the nut. Raises InputError where a size set by hand cannot be."""
    drive = inputs.about(ScrewDrive)
    spec = drive.thread
    limits = thread_limits(spec)
    f = facts_of(fields(inputs), inputs.facts)
    style, length = str(f["style"]), number(f, "length")
    flanged = style == "flanged"
    is_round = style in ROUND
    outside = number(f, "body_dia") if flanged else hub_band(f).high_mm if is_round else number(f, "height")
    bore = Section("nut thread", "thread", length, limits.nut_minor.low_mm, limits.nut_minor)
    pitch_dia = nut_pitch_dia_mm(inputs)
    rows, checks = _rows(inputs, f, pitch_dia), nut_checks(inputs, f, pitch_dia)
    notes = [
        "Tapped or bored square to the base; try it on its own screw.",
        "Oil hole clear of the thread's ends.",
    ]
    _add_style(inputs, spec, f, flanged, is_round, notes, style, length, rows, checks)
    size = inputs.size
    stock = _stock(f, flanged, is_round, outside, size, length)
    if f["blank"] == "cast":
        round_mm = (
            number(f, "flange_dia")
            if flanged
            else outside
            if is_round
            else math.hypot(number(f, "width"), outside)
        )
        blank = _cast(f, round_mm, length, limits.nut_minor.low_mm)
        rows += _cast_rows(inputs, blank)
        stock = f"cast blank Ø {size(blank.outside_mm)} × {size(blank.length_mm)}"
        notes += [foundry_request(blank, f"a nut {spec.designation}"), FOUNDRY]
    title = _title(spec, style)
    if flanged:
        return _flanged(inputs, f, outside, bore, notes, stock, title, style, length, rows, checks)
    if is_round:
        return _round(inputs, f, bore, notes, stock, title, style, rows, checks)
    return Part(
        "nut",
        title,
        material(str(f["material"])),
        stock,
        (Section("block", "plain", length, outside),),
        bore,
        tuple(rows),
        tuple(checks),
        tuple(notes),
        (number(f, "width"), outside),
        number(f, "axis_height"),
        features=hold_features(inputs, f),
        construction=style,
        is_cast=f["blank"] == "cast",
        thread=inputs.about(ScrewDrive).thread,
        blanks=2,
    )


def _round(
    inputs: PartInputs,
    f: dict[str, str | float],
    bore: Section,
    notes: list[str],
    stock: str,
    title: str,
    style: str,
    rows: list[SizeRow],
    checks: list[Check],
) -> Part:
    return Part(
        "nut",
        title,
        material(str(f["material"])),
        stock,
        hub_sections(f),
        bore,
        tuple(rows),
        tuple(checks),
        tuple(notes),
        construction=style,
        is_cast=f["blank"] == "cast",
        thread=inputs.about(ScrewDrive).thread,
        blanks=2,
    )


def _title(spec: ThreadSpec, style: str) -> str:
    return f"Nut, {spec.designation}" + {
        "split": ", split",
        "two_piece": ", two-piece",
        "half": ", half nuts",
        "flanged": ", flanged",
        HUB: ", in a gear's hub",
    }.get(style, "")


def _stock(
    f: dict[str, str | float],
    flanged: bool,
    is_round: bool,
    outside: float,
    size: Callable[[float], str],
    length: float,
) -> str:
    return (
        f"block {size(length + 3)} × {size(number(f, 'width') + 3)} × {size(outside + spigot_mm(f) + 3)}"
        if not is_round
        else f"bar Ø {size((number(f, 'flange_dia') if flanged else outside) + 3)} × {size(length + 6)}"
    )


def _flanged(
    inputs: PartInputs,
    f: dict[str, str | float],
    outside: float,
    bore: Section,
    notes: list[str],
    stock: str,
    title: str,
    style: str,
    length: float,
    rows: list[SizeRow],
    checks: list[Check],
) -> Part:
    sections = (
        Section("flange", "plain", number(f, "flange_width"), number(f, "flange_dia")),
        Section("body", "plain", length - number(f, "flange_width"), outside),
    )
    ring = (number(f, "flange_dia") + outside) / 4
    holes = tuple(
        (
            ring * math.cos(math.radians(45 + 90 * i)),
            ring * math.sin(math.radians(45 + 90 * i)),
            number(f, "bolt_dia"),
        )
        for i in range(4)
    )
    return Part(
        "nut",
        title,
        material(str(f["material"])),
        stock,
        sections,
        bore,
        tuple(rows),
        tuple(checks),
        tuple(notes),
        holes=holes,
        construction=style,
        is_cast=f["blank"] == "cast",
        thread=inputs.about(ScrewDrive).thread,
        blanks=2,
    )


def _add_style(
    inputs: PartInputs,
    spec: ThreadSpec,
    f: dict[str, str | float],
    flanged: bool,
    is_round: bool,
    notes: list[str],
    style: str,
    length: float,
    rows: list[SizeRow],
    checks: list[Check],
) -> None:
    if flanged:
        rows += _hold_rows(inputs, f)
    elif is_round:
        rows += hub_rows(inputs, f)
        checks += hub_checks(inputs, f)
        notes[:] = ["Oil hole clear of the thread's ends.", *HUB_NOTES]
    else:
        rows += hold_rows(inputs, f)
        checks += hold_checks(inputs, f)
    if style == "half":
        rows.append(SizeRow("Saw takes", "size", SLIT_MM, "packed out by as much while it is bored", True))
        notes += [
            "Bore and thread as one piece, the slit packed; saw last.",
            "Mark both halves on one side before sawing.",
        ]
    if style == "two_piece":
        rows.append(
            SizeRow(
                "Each piece",
                "size",
                (length - number(f, "gap")) / 2,
                f"{(length - number(f, 'gap')) / 2 / spec.pitch_mm:.1f} threads; cut as one, parted last",
                key="piece",
            )
        )
        notes += [
            "Thread it whole, then part it: both pieces must be in step.",
            "A key holds the second piece from turning; it must slide.",
        ]
    if style == "split":
        notes.append("Saw the slot last; deburr inside before the first try.")


def _rows(inputs: PartInputs, f: Mapping[str, str | float], pitch_dia: float) -> list[SizeRow]:
    drive = inputs.about(ScrewDrive)
    spec, limits = drive.thread, thread_limits(drive.thread)
    length = number(f, "length")
    flat, depth = nut_cut_mm(spec, pitch_dia)
    rows = [
        SizeRow("Minor bore", "band", limits.nut_minor, "bore to this first", True),
        SizeRow(
            "Pitch diameter to suit",
            "size",
            pitch_dia,
            inputs.screw_source or "screw not measured: middle of its class",
            True,
        ),
        SizeRow("Pitch diameter, class", "band", limits.nut_pitch, limits.source),
        SizeRow("Major diameter", "band", limits.nut_major, key="major"),
        SizeRow("Depth cut, on radius", "size", depth, "at that pitch diameter", key="depth"),
        SizeRow("Tool tip flat", "size", flat, "never wider", True, key="tip"),
        SizeRow(
            "Tool's clearance, steepest",
            "angle",
            spec.lead_angle(spec.nut_minor_mm) + math.radians(4),
            "leading flank; trailing "
            f"{math.degrees(math.radians(4) - spec.lead_angle(spec.nut_major_min_mm)):.1f}°".replace(
                "-", "−"
            ),
        ),
        SizeRow("Largest tool shank", "size", largest_shank_mm(spec), "to back out of the thread"),
    ]
    if spec.form is not Form.SQUARE:
        ball = best_wire_mm(spec)
        rows.append(
            SizeRow(
                "Between balls",
                "size",
                size_between_balls_mm(spec, pitch_dia, ball),
                f"balls of {inputs.size(ball)}, lead and slant included",
            )
        )
    return [
        *rows,
        SizeRow("Length", "size", length, f"{length / spec.pitch_mm:.1f} threads"),
        SizeRow(
            "Could be longer by",
            "size",
            number(f, "room"),
            f"wears {1 + number(f, 'room') / length:.2f} × as long",
        ),
        SizeRow("Play on its screw", "small", number(f, "play"), "total, both flanks"),
    ]


def _hold_rows(inputs: PartInputs, f: Mapping[str, str | float]) -> list[SizeRow]:
    """How a round nut is held in its hole."""
    hole, body = number(f, "hole"), number(f, "body_dia")
    if f["holds"] == "press":
        return [
            SizeRow(
                "Body, to turn",
                "size",
                hole + max(0.02, 0.0008 * hole),
                "light press in the hole as measured; its bore closes by nearly as much",
                True,
            )
        ]
    if f["holds"] == "knurl":
        pitch, raised = knurl_for(max(0.0, hole - body), 0.03)
        return [
            SizeRow(
                "Knurl, straight",
                "size",
                pitch,
                f"raises the body by {show_small(raised, inputs.system)} on diameter; a third of a plain "
                "press's grip",
                True,
            )
        ]
    return []


def _cast(f: Mapping[str, str | float], outside: float, length: float, minor: float) -> CastBlank:
    key = str(f["material"])
    return cast_blank(key if key in MELTS else "bronze", outside, length, minor)


def _cast_rows(inputs: PartInputs, blank: CastBlank) -> list[SizeRow]:
    size = inputs.size
    return [
        SizeRow(
            "Mould: base",
            "size",
            blank.base_mm,
            f"mouth {size(blank.mouth_mm)}: two degrees of draft, knocked out at the base",
        ),
        SizeRow(
            "Mould: depth",
            "size",
            blank.mould_length_mm,
            f"the casting shrinks {blank.melt.contraction * 100:.2f} %",
        ),
        SizeRow(
            "Core",
            "text",
            f"{size(blank.mould_core_mm)}" if blank.mould_core_mm else "none: bore it from the solid",
        ),
        SizeRow(
            "Metal in the casting",
            "text",
            f"{blank.casting_g / 1000:.2f} kg",
            f"{blank.volume_cm3:.0f} cm³ of mould",
        ),
        SizeRow(
            "Charge to melt",
            "text",
            f"{blank.charge_g / 1000:.2f} kg",
            f"riser and gate 35 %, loss 3 %; a crucible of {blank.crucible_cm3:.0f} cm³ or more",
            True,
        ),
        SizeRow(
            "Pour at", "text", f"{blank.melt.pour_c[0]} to {blank.melt.pour_c[1]} °C", "dry mould, warmed"
        ),
    ]


FAMILY = PartFamily(
    "nut", "Nut", fields, build, reminder="Measure the slide's own height for the axis before boring."
)
