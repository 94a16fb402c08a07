"""From worn flanks to axial play, and the lash chain at the handwheel."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import DialScale


def axial_play_mm(
    nut_pitch_dia_mm: float, screw_pitch_dia_mm: float, half_angle: float, sag_mm: float = 0.0
) -> float:
    """Total axial play of a nut on a screw, both flanks together, mm.

    (E_nut − E_screw − 2e)·tan α, with e the radial sag of the nut: a nut that
    hangs hides part of its play. Never below nothing.
    """
    return max(0.0, (nut_pitch_dia_mm - screw_pitch_dia_mm - 2 * sag_mm) * math.tan(half_angle))


def pitch_dia_loss_mm(axial_mm: float, half_angle: float) -> float:
    """Change of pitch diameter that goes with a total axial play, mm: play / tan α. Raises InputError for a
    square thread.
    """
    if half_angle <= 0:
        raise InputError("a square thread", "its play does not show in the pitch diameter")
    return axial_mm / math.tan(half_angle)


def axial_from_flank_wear_mm(normal_mm: float, half_angle: float, lead_angle: float) -> float:
    """Axial play from wear measured square to one flank, mm: n·√(1 + tan²α + tan²λ)."""
    return normal_mm * math.sqrt(1 + math.tan(half_angle) ** 2 + math.tan(lead_angle) ** 2)


class LashChain(Struct, frozen=True):
    """The lash at a handwheel split by hand, mm; all play is total, both flanks.

    Residuals say what does not add up: `dial_minus_predicted` positive is
    looseness that only turning shows (key, handwheel, wind-up); `nut` is the
    implied less the directly measured nut clearance.
    """

    lost_motion_mm: float
    implied_nut_mm: float
    predicted_mm: float
    dial_minus_predicted_mm: float
    dial_minus_push_pull_mm: float
    nut_mm: float

    def is_consistent(self, tolerance_mm: float) -> bool:
        """Both residuals inside the tolerance (a float's last digit is forgiven)."""
        slack = tolerance_mm * (1 + 1e-9)
        return abs(self.dial_minus_predicted_mm) <= slack and abs(self.nut_mm) <= slack


def lost_motion_mm(divisions: float, dial: DialScale) -> float:
    """Slide travel lost at the handwheel, mm: divisions × lead / divisions in a turn."""
    return divisions * dial.division_mm


def lost_motion_shown_mm(divisions: float, dial: DialScale) -> float:
    """What the dial's own figures say it lost, mm: twice the travel when it reads diameter."""
    return lost_motion_mm(divisions, dial) * (2 if dial.reads_diameter else 1)


def lash_chain(
    divisions: float, dial: DialScale, push_pull_mm: float, screw_float_mm: float, nut_mm: float
) -> LashChain:
    """Check three measurements of the same lash against each other.

    push-pull (screw held) = screw float + nut clearance; lost motion at the
    handwheel adds whatever only turning shows.
    """
    lost = lost_motion_mm(divisions, dial)
    implied = push_pull_mm - screw_float_mm
    predicted = screw_float_mm + nut_mm
    return LashChain(lost, implied, predicted, lost - predicted, lost - push_pull_mm, implied - nut_mm)
