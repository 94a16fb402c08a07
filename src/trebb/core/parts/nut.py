"""The nut, cut to its screw."""

from __future__ import annotations

import math

from trebb.core.machine import material
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
from trebb.core.threads import Form, thread_limits
from trebb.core.threads.tool import nut_root_flat_mm
from trebb.core.units import INCH_MM, THOU_MM, show_small

WANTED_PLAY_MM = 1.5 * THOU_MM  # total, both flanks: turns free with oil, felt as nothing
SHANK_SHARE = 0.7  # of the bore: a threading bar thicker than this rubs when backing out


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Length, block, play wanted, material, plain or split."""
    drive, inch = inputs.drive, is_inch(inputs.drive)
    major = drive.thread.major_mm
    return (
        material_field("bronze"),
        PartField("style", "Style", "plain", {"plain": "plain", "split": "split, with an adjusting screw"}),
        PartField("length", "Length", round_size(drive.nut_length_mm, inch), low_mm=drive.thread.pitch_mm * 2, high_mm=500),
        PartField("room", "Room for a longer nut", 0.5 * INCH_MM, low_mm=0, high_mm=500),
        PartField("width", "Width", round_size(1.9 * major, inch), low_mm=1.2 * major, high_mm=500),
        PartField("height", "Height", round_size(1.9 * major, inch), low_mm=1.2 * major, high_mm=500),
        PartField("axis_height", "Axis above the base", round_size(0.95 * major, inch), low_mm=0.6 * major, high_mm=500),
        PartField("play", "Play wanted", WANTED_PLAY_MM, low_mm=0.005, high_mm=0.5),
    )


def nut_pitch_dia_mm(inputs: PartInputs) -> float:
    """Pitch diameter to cut the nut to: the screw's, plus the play wanted / tan α.

    Where the screw has not been measured, the middle of its class limits stands in.
    """
    spec = inputs.drive.thread
    screw = inputs.screw_pitch_dia_mm or thread_limits(spec).screw_pitch.middle_mm
    slope = math.tan(spec.form.half_angle)
    play = number(facts_of(fields(inputs), inputs.facts), "play")
    return screw + play / slope if slope else spec.pitch_dia_mm


def build(inputs: PartInputs) -> Part:
    """Work out the nut. Raises InputError where a size set by hand cannot be."""
    drive = inputs.drive
    spec = drive.thread
    limits = thread_limits(spec)
    f = facts_of(fields(inputs), inputs.facts)
    length, height = number(f, "length"), number(f, "height")
    metal = material(str(f["material"]))
    bore = Section("nut thread", "thread", length, limits.nut_minor.low_mm, limits.nut_minor)
    size = inputs.size
    pitch_dia = nut_pitch_dia_mm(inputs)
    rows = [
        SizeRow("Minor bore", "band", limits.nut_minor, "bore to this first", True),
        SizeRow("Pitch diameter to suit", "size", pitch_dia, inputs.screw_source or "screw not measured: middle of its class", True),
        SizeRow("Pitch diameter, class", "band", limits.nut_pitch, limits.source),
        SizeRow("Major diameter", "band", limits.nut_major),
        SizeRow("Depth cut, on radius", "size", (limits.nut_major.low_mm - limits.nut_minor.low_mm) / 2),
        SizeRow("Tool tip flat", "size", nut_root_flat_mm(spec), "never wider", True),
        SizeRow("Largest tool shank", "size", SHANK_SHARE * limits.nut_minor.low_mm - spec.depth_mm, "to back out of the thread"),
        SizeRow("Length", "size", length, f"{length / spec.pitch_mm:.1f} threads"),
        SizeRow("Could be longer by", "size", number(f, "room"), f"wears {1 + number(f, 'room') / length:.2f} × as long"),
        SizeRow("Play on its screw", "small", number(f, "play"), "total, both flanks"),
    ]
    checks = []
    screw = material(str(inputs.partner.get("material", "alloy_ht")))
    softer = metal.hardness_hb < screw.hardness_hb
    checks.append(Check(softer, f"The nut ({metal.label}) is softer than the screw ({screw.label})." if softer
                        else f"The nut ({metal.label}) is not softer than the screw ({screw.label}): the dearer part will wear."))  # fmt: skip
    wall = min(number(f, "axis_height"), height - number(f, "axis_height"), number(f, "width") / 2) - limits.nut_major.high_mm / 2
    wall_ok = wall >= 0.15 * spec.major_mm
    checks.append(Check(wall_ok, f"The thinnest wall over the thread is {size(wall)}{'' if wall_ok else ': too thin; move the axis or use a larger block'}."))
    threads = length / spec.pitch_mm
    checks.append(Check(threads >= 8, f"{threads:.1f} threads carry the slide{'' if threads >= 8 else '; fewer than eight wear fast: make it longer if there is room'}."))
    shank = SHANK_SHARE * limits.nut_minor.low_mm - spec.depth_mm
    reach_ok = shank > 0 and length <= 6 * shank
    checks.append(Check(reach_ok, f"A threading bar of {size(max(shank, 0))} must reach {size(length)}: "
                        + ("stiff enough." if reach_ok else f"{length / max(shank, 0.1):.0f} times its thickness; tap it, or cut from both ends.")))  # fmt: skip
    if spec.form is not Form.SQUARE:
        slope = math.tan(spec.form.half_angle)
        screw_pd = pitch_dia - number(f, "play") / slope
        low, high = ((e - screw_pd) * slope for e in (limits.nut_pitch.low_mm, limits.nut_pitch.high_mm))
        fits = high > 0
        checks.append(Check(fits, f"A bought nut or tap to class would give {show_small(max(low, 0.0), inputs.system, unit=False)} to {show_small(high, inputs.system)} of play on this screw; cut to suit it has {show_small(number(f, 'play'), inputs.system, unit=False)}." if fits
                            else "No nut or tap to class would go on this screw: it is over size."))  # fmt: skip
    split = f["style"] == "split"
    notes = ["Tapped or bored square to the base; try it on its own screw.", "Oil hole clear of the thread's ends."]
    if split:
        notes.append("Saw the slot last; deburr inside before the first try.")
    return Part(
        "nut", f"Nut, {spec.designation}" + (", split" if split else ""), metal.label,
        f"block {size(length + 3)} × {size(number(f, 'width') + 3)} × {size(height + 3)}, and one spare",
        (Section("block", "plain", length, height),), bore, tuple(rows), tuple(checks), tuple(notes),
        (number(f, "width"), height), number(f, "axis_height"),
    )  # fmt: skip


FAMILY = PartFamily("nut", "Nut", fields, build)
