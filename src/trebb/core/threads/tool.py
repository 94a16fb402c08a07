"""The tool that cuts the thread: its flat, its clearances, its infeed."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.threads.forms import Form, Hand, ThreadSpec


def tool_flat_mm(spec: ThreadSpec, allowance_mm: float = 0.0, *, axial_play_mm: float = 0.0) -> float:
    """Tip flat that reaches the largest root just as the pitch diameter is right, mm.

    Parameters
    ----------
    allowance_mm : how far the screw's pitch diameter is to lie under basic, on
        diameter. A larger allowance needs a *wider* tool for the same root.
    axial_play_mm : square threads only, the side play wanted: the groove is
        P/2 + play, with the nut's ridge made to P/2.

    Notes
    -----
    F = P/2 − [(E − a) − K]·tan α from the exact tangent, K the largest root
    diameter (ASME B1.5 geometry; ISO 2904 for trapezoidal).
    """
    if spec.form is Form.SQUARE:
        return spec.pitch_mm / 2 + axial_play_mm
    rise = (spec.pitch_dia_mm - allowance_mm) - spec.screw_minor_max_mm
    return spec.pitch_mm / 2 - rise * math.tan(spec.form.half_angle)


def nut_root_flat_mm(spec: ThreadSpec) -> float:
    """Flat at the bottom of the nut's groove at basic pitch diameter, mm; the internal tool's tip."""
    if spec.form is Form.SQUARE:
        return spec.pitch_mm / 2
    rise = spec.nut_major_min_mm - spec.pitch_dia_mm
    return spec.pitch_mm / 2 - rise * math.tan(spec.form.half_angle)


def nut_cut_mm(spec: ThreadSpec, pitch_dia_mm: float) -> tuple[float, float]:
    """Tip flat of the nut's tool, at most, and the depth on radius from the minor bore at which its groove is
    of this pitch diameter, mm.

    A groove with its tip at radius R is P/2 wide at E = 2R − (P/2 − F)/tan α.
    To the least major diameter, which clears the screw's crests, a tool of the
    design's own flat leaves the basic pitch diameter: for a smaller one its flat is
    narrower, for a larger one it goes deeper. A square thread's pitch
    diameter says nothing.
    """
    flat, slope = nut_root_flat_mm(spec), math.tan(spec.form.half_angle)
    depth = (spec.nut_major_min_mm - spec.nut_minor_mm) / 2
    more = (pitch_dia_mm - spec.pitch_dia_mm) / 2
    if slope == 0:
        return flat, depth
    if more >= 0:
        return flat, depth + more
    narrower = max(flat + 2 * more * slope, LEAST_NUT_FLAT * flat)
    return narrower, depth + more + (flat - narrower) / (2 * slope)


# A nut's tool ground narrower than this share of its flat breaks: the groove stays shallower instead.
LEAST_NUT_FLAT = 0.3


def touches_after_rough_mm(rough_mm: float, narrower_mm: float, half_angle: float) -> float:
    """Depth at which the finisher first touches the flanks that a narrower roughing tool left at `rough_mm`,
    mm: F + 2x·tan α = (F − n) + 2D·tan α.
    """
    slope = math.tan(half_angle)
    return max(0.0, rough_mm - narrower_mm / (2 * slope)) if slope else rough_mm


def normal_plane_tool(spec: ThreadSpec) -> tuple[float, float]:
    """Half angle (rad) and flat (mm) of a tool tilted to the helix at the pitch diameter.

    An approximation: good to a few hundredths of a degree below a lead angle of
    10°; beyond, the flank comes out bowed.
    """
    cos_lead = math.cos(spec.lead_angle(spec.pitch_dia_mm))
    return math.atan(math.tan(spec.form.half_angle) * cos_lead), tool_flat_mm(spec) * cos_lead


class FlankClearance(Struct, frozen=True):
    """Ground side clearances of an external threading tool, rad.

    A negative trailing clearance must be undercut past vertical. `leading_side`
    names the machine side that the leading flank faces.
    """

    leading: float
    trailing: float
    leading_side: str
    trailing_side: str


def flank_clearance(spec: ThreadSpec, working: float) -> FlankClearance:
    """Side clearances for a tool upright at the front, spindle running forward. Raises InputError for a
    clearance out of reason.

    Parameters
    ----------
    working : clearance wanted beyond the helix, rad (3° to 5° is usual).

    Notes
    -----
    Leading flank: lead angle at the root + working clearance. Trailing flank:
    working clearance − lead angle at the major diameter. The leading flank
    faces the headstock for a right-hand thread and the tailstock for a
    left-hand one; a reversed spindle or an inverted tool swaps them.
    """
    if not 0 <= working < math.radians(20):
        raise InputError(
            f"a working clearance of {math.degrees(working):g}°", "3° to 5° is usual, 20° the most"
        )
    right = spec.hand is Hand.RIGHT
    return FlankClearance(
        leading=spec.lead_angle(spec.screw_minor_max_mm) + working,
        trailing=working - spec.lead_angle(spec.major_mm),
        leading_side="headstock" if right else "tailstock",
        trailing_side="tailstock" if right else "headstock",
    )


def compound_infeed_mm(depth_mm: float, compound_angle: float) -> float:
    """Travel of the compound for a radial depth, both mm. Raises InputError for an angle past 60°.

    `compound_angle` is measured from the cross-slide axis, rad; 0 is straight
    in. Many machines are graduated from the other axis: set 90° − angle there.
    """
    if not 0 <= compound_angle < math.radians(60):
        raise InputError(
            f"a compound at {math.degrees(compound_angle):g}°", "set it from 0° to 60° off the cross slide"
        )
    return depth_mm / math.cos(compound_angle)


def groove_area_mm2(depth_mm: float, flat_mm: float, half_angle: float) -> float:
    """Section of a groove: w h + h² tan α. The half angle in radians."""
    return flat_mm * depth_mm + depth_mm**2 * math.tan(half_angle)
