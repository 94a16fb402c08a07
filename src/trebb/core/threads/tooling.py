"""Tools and rests for a thread: the bar that enters the nut, the rest that reaches the tool, what springs."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.metals import STEEL_MODULUS_MPA, material
from trebb.core.threads.forms import Form, ThreadSpec
from trebb.core.threads.tool import groove_area_mm2, nut_root_flat_mm, tool_flat_mm
from trebb.core.units import UnitSystem, show_size, show_small

# Force along the tool's axis as a share of the cutting force, for a form tool with no rake.
RADIAL_SHARE = 0.5
BACK_CLEARANCE_MM = 0.4  # to draw the tip out of the groove
MOST_SPRING_MM = 0.05  # a bar that springs further chatters


class ThreadingBar(Struct, frozen=True):
    """A bar for an internal thread, mm. `swing_mm` is bar and tip together, `spring_mm` what it gives at the
    pass stated.
    """

    shank_mm: float
    overhang_mm: float
    swing_mm: float
    bore_mm: float
    spring_mm: float
    pass_mm: float

    @property
    def is_stiff(self) -> bool:
        """Whether it may be used for the whole length."""
        return self.spring_mm <= MOST_SPRING_MM


def largest_shank_mm(spec: ThreadSpec) -> float:
    """Thickest bar that enters the minor bore and can back out of the thread, mm; may come out negative
    where none enters.
    """
    depth = (spec.nut_major_min_mm - spec.nut_minor_mm) / 2
    return spec.nut_minor_mm - depth - 2 * BACK_CLEARANCE_MM


def threading_bar(
    spec: ThreadSpec,
    nut_length_mm: float,
    metal: str,
    *,
    pass_mm: float = 0.08,
    shank_mm: float | None = None,
) -> ThreadingBar:
    """The bar for a nut: as thick as enters, its overhang, and its spring under a pass. Raises InputError
    where no bar enters.

    Parameters
    ----------
    metal : key of the nut's material. `pass_mm` radial depth of a pass at full depth.
    shank_mm : of the bar at hand; the thickest that enters if None.

    Notes
    -----
    Chip section between two depths of the groove × specific cutting force; half
    of it pushes the tip off. The bar is a cantilever: F L³ / (3 E I), I = π d⁴/64.
    """
    most = largest_shank_mm(spec)
    if most < 3:
        raise InputError(
            f"a bore of {spec.nut_minor_mm:.3g} mm", "no threading bar enters it and backs out; tap it"
        )
    shank = most if shank_mm is None else shank_mm
    if shank > most:
        raise InputError(
            f"a bar of {shank:.3g} mm",
            f"at most {most:.3g} mm enters the bore of {spec.nut_minor_mm:.4g} mm and backs out of the "
            "thread",
        )
    depth = (spec.nut_major_min_mm - spec.nut_minor_mm) / 2
    flat, alpha = nut_root_flat_mm(spec), spec.form.half_angle
    area = groove_area_mm2(depth, flat, alpha) - groove_area_mm2(depth - min(pass_mm, depth), flat, alpha)
    force = RADIAL_SHARE * material(metal).cutting_mpa * area
    overhang = nut_length_mm + 1.5 * spec.pitch_mm + 4.0
    spring = force * overhang**3 / (3 * STEEL_MODULUS_MPA * math.pi * shank**4 / 64)
    return ThreadingBar(
        shank, overhang, shank + depth + BACK_CLEARANCE_MM, spec.nut_minor_mm, spring, pass_mm
    )


def tap_or_cut(bar: ThreadingBar | None, spec: ThreadSpec, nut_length_mm: float, system: UnitSystem) -> str:
    """Which school serves this nut, in a sentence."""
    if bar is None:
        return (
            "Tap it: no bar enters. From one side it comes out as large as the tap; started from both "
            "sides and not run through, the middle stays snug."
        )
    if bar.is_stiff:
        return (
            f"Cut it: a bar of {show_size(bar.shank_mm, system)} springs "
            f"{show_small(bar.spring_mm, system)} at {show_small(bar.pass_mm, system)} a pass, and the nut "
            "suits its own screw."
        )
    deep = (
        "rough it with the bar, finish with a tap made from a spare length of the screw"
        if spec.form is not Form.SQUARE
        else "cut it from both ends on a through mandrel"
    )
    return (
        f"The bar springs {show_small(bar.spring_mm, system)} over {show_size(bar.overhang_mm, system)}: "
        f"{deep}, or tap from both sides so that the middle stays snug."
    )


def roughing_flat_mm(spec: ThreadSpec, narrower_mm: float = 0.0) -> float:
    """Flat of a roughing tool: narrower than the finisher by the amount stated, or a fifth, mm."""
    finish = tool_flat_mm(spec)
    return finish - narrower_mm if 0 < narrower_mm < finish else 0.8 * finish


def work_spring_mm(root_mm: float, between_mm: float, spec: ThreadSpec, metal: str, pass_mm: float) -> float:
    """How far a slender screw gives under a pass at the middle, between centres and without a rest, mm.

    F L³ / (48 E I) on the root diameter.
    """
    flat, alpha = tool_flat_mm(spec), spec.form.half_angle
    area = groove_area_mm2(spec.depth_mm, flat, alpha) - groove_area_mm2(
        spec.depth_mm - min(pass_mm, spec.depth_mm), flat, alpha
    )
    force = RADIAL_SHARE * material(metal).cutting_mpa * area
    return force * between_mm**3 / (48 * STEEL_MODULUS_MPA * math.pi * root_mm**4 / 64)


NO_REST_MM = 0.02  # that spring passes take


def wants_rest(spring_mm: float) -> bool:
    """Whether a screw that gives so much at its middle wants a rest, mm."""
    return spring_mm >= NO_REST_MM


def rest_words(spring_mm: float, between_mm: float, system: UnitSystem) -> str:
    """Whether a rest is wanted, in a sentence."""
    give = f"Without a rest the screw gives {show_small(spring_mm, system)} at its middle"
    if not wants_rest(spring_mm):
        return f"{give}: no rest needed, spring passes take that."
    if spring_mm < 0.3:
        return f"{give}: follower rest."
    return (
        f"{give} over {show_size(between_mm, system)}: follower rest, and a steady where the follower "
        "has passed."
    )


def follower_relief_mm(jaws_ahead_mm: float, jaw_width_mm: float, pitch_mm: float) -> float:
    """Plain length at the end of the thread so that the tool finishes it before a follower running ahead
    meets the collar, mm.
    """
    return jaws_ahead_mm + jaw_width_mm / 2 + 0.5 * pitch_mm


def flank_shift_mm(feeler_mm: float, half_angle: float) -> float:
    """How far a second tool stands off along the axis when a feeler of this thickness lies between its flank
    and the thread's, mm: t / cos α.
    """
    return feeler_mm / math.cos(half_angle)


def pick_up_words(spec: ThreadSpec, feeler_mm: float, system: UnitSystem) -> str:
    """Picking up a cut thread with another tool, in sentences."""
    shift = flank_shift_mm(feeler_mm, spec.form.half_angle)
    away = "tailstock" if spec.hand.value == "right" else "headstock"
    return (
        "Turn the spindle forward by hand until the half nuts pull: the gear train's slack is out. Bring "
        f"the tool to the {away} flank on a feeler of {show_small(feeler_mm, system)}, "
        "note the compound, do the same at the other flank, and set it halfway: each stands "
        f"{show_small(shift, system)} off."
    )
