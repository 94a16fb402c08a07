"""What would spoil a nut."""

from __future__ import annotations

import math
from collections.abc import Mapping

from trebb.core.families.screw_drive.nut_hub import HUB
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    PartInputs,
    number,
)
from trebb.core.threads import Form, thread_limits
from trebb.core.threads.tooling import largest_shank_mm, tap_or_cut, threading_bar
from trebb.core.units import show_small


def nut_checks(inputs: PartInputs, f: Mapping[str, str | float], pitch_dia: float) -> list[Check]:
    """What would spoil the nut: its body, the tool that enters it, its thread. Fields as stored: lengths in
    mm.
    """
    return [*_body_checks(inputs, f), *_tool_checks(inputs, f), *_thread_checks(inputs, f, pitch_dia)]


def _body_checks(inputs: PartInputs, f: Mapping[str, str | float]) -> list[Check]:
    spec, limits = inputs.about(ScrewDrive).thread, thread_limits(inputs.about(ScrewDrive).thread)
    size, length = inputs.size, number(f, "length")
    metal = material(str(f["material"]))
    checks = []
    screw = material(str(inputs.partner.get("material", "alloy_ht")))
    softer = metal.hardness_hb < screw.hardness_hb
    checks.append(
        Check.of(
            softer,
            f"The nut ({metal.label}) is softer than the screw ({screw.label}).",
            f"The nut ({metal.label}) is not softer than the screw ({screw.label}): the dearer part "
            "will wear.",
        )
    )
    if f["style"] == "flanged":
        wall = (number(f, "body_dia") - limits.nut_major.high_mm) / 2
        ring, bolt = (number(f, "flange_dia") + number(f, "body_dia")) / 4, number(f, "bolt_dia")
        clear = (
            ring - bolt / 2 >= number(f, "body_dia") / 2 + 0.5
            and ring + bolt / 2 <= number(f, "flange_dia") / 2 - 1
        )
        checks.append(
            Check.of(
                clear,
                "The bolt holes clear body and rim.",
                "The bolt holes cut into body or rim: a larger flange, or smaller bolts.",
            )
        )
    elif f["style"] == HUB:
        wall = (number(f, "hub_bore") - limits.nut_major.high_mm) / 2
    else:
        wall = (
            min(
                number(f, "axis_height"),
                number(f, "height") - number(f, "axis_height"),
                number(f, "width") / 2,
            )
            - limits.nut_major.high_mm / 2
        )
    wall_ok = wall >= 0.15 * spec.major_mm
    thin = "bore the hub larger" if f["style"] == HUB else "move the axis or use a larger block"
    checks.append(
        Check(
            wall_ok,
            f"The thinnest wall over the thread is {size(wall)}{'' if wall_ok else f': too thin; {thin}'}.",
        )
    )
    threads = length / spec.pitch_mm
    few = "" if threads >= 8 else "; fewer than eight wear fast: make it longer if there is room"
    checks.append(
        Check(threads >= 8, f"{threads:.1f} threads carry the {inputs.about(ScrewDrive).what}{few}.")
    )
    return checks


def _tool_checks(inputs: PartInputs, f: Mapping[str, str | float]) -> list[Check]:
    spec, limits = inputs.about(ScrewDrive).thread, thread_limits(inputs.about(ScrewDrive).thread)
    size, length = inputs.size, number(f, "length")
    checks = []
    most = largest_shank_mm(spec)
    if most < 3:
        checks.append(
            Check(
                False,
                f"No threading bar enters a bore of {size(spec.nut_minor_mm)} and backs out: "
                f"{tap_or_cut(None, spec, length, inputs.system)}",
            )
        )
    else:
        shank = min(number(f, "shank"), most)
        bar = threading_bar(spec, length, str(f["material"]), shank_mm=shank)
        fits = number(f, "shank") <= most
        checks.append(
            Check(
                fits and bar.is_stiff,
                f"A bar of {size(number(f, 'shank'))} does not enter and back out: {size(most)} at most."
                if not fits
                else tap_or_cut(bar, spec, length, inputs.system),
            )
        )
    oil = number(f, "oil_hole")
    if oil:
        clear = spec.pitch_mm <= oil <= length - spec.pitch_mm
        checks.append(
            Check.of(
                clear,
                f"The oil hole comes in {size(oil)} from the end, inside the thread: deburr it, and the "
                f"oiler must stop short of {size(limits.nut_major.high_mm / 2)} from the axis.",
                f"The oil hole at {size(oil)} runs out at the nut's end: between {size(spec.pitch_mm)} "
                f"and {size(length - spec.pitch_mm)} would oil the thread.",
            )
        )
    return checks


def _thread_checks(inputs: PartInputs, f: Mapping[str, str | float], pitch_dia: float) -> list[Check]:
    spec, limits = inputs.about(ScrewDrive).thread, thread_limits(inputs.about(ScrewDrive).thread)
    checks = []
    if spec.form is not Form.SQUARE:
        slope = math.tan(spec.form.half_angle)
        screw_pd = pitch_dia - number(f, "play") / slope
        low, high = ((e - screw_pd) * slope for e in (limits.nut_pitch.low_mm, limits.nut_pitch.high_mm))
        fits = high > 0
        checks.append(
            Check.of(
                fits,
                "A bought nut or tap to class would give "
                f"{show_small(max(low, 0.0), inputs.system, unit=False)} to "
                f"{show_small(high, inputs.system)} of play on the unworn thread of this screw, and its wear "
                "more where it is worn; cut to suit it has "
                f"{show_small(number(f, 'play'), inputs.system, unit=False)}.",
                "No nut or tap to class would go on this screw: it is over size.",
            )
        )
    if spec.is_mixed:
        checks.append(
            Check(True, f"No nut or tap is sold as {spec.designation}: this one is cut to its screw.")
        )
    return checks
