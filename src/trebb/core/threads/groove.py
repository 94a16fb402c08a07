"""The groove a screw is cut to: one tip flat and one depth, for list, drawing, tool and every pass."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.threads.forms import Form, ThreadSpec
from trebb.core.threads.limits import thread_limits
from trebb.core.threads.tool import tool_flat_mm

SQUARE_OVER_MM = 0.13  # a square groove may be so much deeper than its form: only the root's corner knows


class Groove(Struct, frozen=True):
    """Tip flat of the finishing tool, and the depth on radius, from the full major diameter, at which the
    pitch diameter is in the middle of its class. In mm.
    """

    flat_mm: float
    depth_mm: float


def depth_at_pitch_dia_mm(spec: ThreadSpec, pitch_dia_mm: float, flat_mm: float) -> float:
    """Radial depth of a form tool of this flat when the groove has this pitch diameter, mm.

    Groove width at the pitch diameter is P/2: depth = (D − E)/2 + (P/2 − F)/(2 tan α).
    """
    return (spec.major_mm - pitch_dia_mm) / 2 + (spec.pitch_mm / 2 - flat_mm) / (
        2 * math.tan(spec.form.half_angle)
    )


def pitch_dia_at_depth_mm(spec: ThreadSpec, depth_mm: float, flat_mm: float) -> float:
    """Inverse of `depth_at_pitch_dia_mm`, mm."""
    return spec.major_mm - 2 * depth_mm + (spec.pitch_mm / 2 - flat_mm) / math.tan(spec.form.half_angle)


def groove_of(spec: ThreadSpec) -> Groove:
    """The groove of a screw made to its class: a flat that reaches the largest root at the largest pitch
    diameter, cut on to the middle of the band. A square groove is cut to the middle of what it may be deep.
    """
    limits = thread_limits(spec)
    flat = tool_flat_mm(spec, limits.allowance_mm, axial_play_mm=limits.axial_play_mm.low_mm)
    if spec.form is Form.SQUARE:
        return Groove(flat, spec.depth_mm + SQUARE_OVER_MM / 2)
    return Groove(flat, depth_at_pitch_dia_mm(spec, limits.screw_pitch.middle_mm, flat))
