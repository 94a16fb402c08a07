"""Limits of size for screw and nut."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.threads.forms import ACME_FINE_TPI, PITCH_TOL_MM, Band, Form, ThreadSpec
from trebb.core.units import INCH_MM

# ASME B1.5: (allowance factor on √D, tolerance factor on √P, tolerance factor on √D), inches.
_ACME_CLASS = {"2G": (0.008, 0.030, 0.006), "3G": (0.006, 0.014, 0.0028), "4G": (0.004, 0.010, 0.002)}
# Trapezoidal screws and nuts by shop practice, coarser than the tables of ISO 2903.
_PRACTICE_ALLOWANCE = 0.02  # of the pitch, on the screw's pitch diameter
_PRACTICE_TOLERANCE = 0.04  # of the pitch


class ThreadLimits(Struct, frozen=True):
    """Every diameter of a screw and its nut with limits, mm.

    `allowance_mm` is the least clearance on the pitch diameter when both parts
    are at maximum metal. `source` says what the limits rest on.
    """

    spec: ThreadSpec
    allowance_mm: float
    pd_tolerance_mm: float
    screw_major: Band
    screw_pitch: Band
    screw_minor: Band
    nut_major: Band
    nut_pitch: Band
    nut_minor: Band
    source: str

    @property
    def axial_play_mm(self) -> Band:
        """Least and most axial play of a new pair made inside these limits."""
        slope = math.tan(self.spec.form.half_angle)
        if slope == 0:  # square: the flanks' clearance is set by the tool, not by the diameters
            return Band(0.001 * INCH_MM, 0.006 * INCH_MM)
        return Band(self.allowance_mm * slope, (self.allowance_mm + 2 * self.pd_tolerance_mm) * slope)


def acme_allowance_mm(spec: ThreadSpec) -> float:
    """Pitch-diameter allowance of an Acme screw, mm: 0.008, 0.006 or 0.004 × √D in inches (ASME B1.5)."""
    return _ACME_CLASS[spec.tolerance_class][0] * math.sqrt(spec.major_mm / INCH_MM) * INCH_MM


def acme_pd_tolerance_mm(spec: ThreadSpec) -> float:
    """Pitch-diameter tolerance of an Acme screw or nut, mm (ASME B1.5).

    Published limits add components that were each rounded to four decimals, so
    they may differ from this by 0.0001 in. Multi-start threads take wider
    tolerances than these, which are the single-start ones.
    """
    _, on_pitch, on_dia = _ACME_CLASS[spec.tolerance_class]
    return (
        on_pitch * math.sqrt(spec.pitch_mm / INCH_MM) + on_dia * math.sqrt(spec.major_mm / INCH_MM)
    ) * INCH_MM


def thread_limits(spec: ThreadSpec) -> ThreadLimits:
    """Limits of both parts of a thread.

    Acme: ASME B1.5, class 2G to 4G, general purpose. Stub Acme: ASME B1.8 form
    with the same class formulas. Trapezoidal, square and 60° threads: shop
    practice, said so in `source`; check the edition on file before printing
    limits on a drawing.
    """
    pitch = spec.pitch_mm
    crest_tol = max(0.05 * pitch, 0.005 * INCH_MM)
    if spec.form in (Form.ACME, Form.ACME_STUB):
        allowance, tolerance = acme_allowance_mm(spec), acme_pd_tolerance_mm(spec)
        coarse = pitch >= INCH_MM / ACME_FINE_TPI - PITCH_TOL_MM
        nut_major_tol = (0.020 if coarse else 0.010) * INCH_MM
        standard = "ASME B1.5" if spec.form is Form.ACME else "ASME B1.8 form, B1.5 class formulas"
        source = f"{standard}, class {spec.tolerance_class}"
    else:
        allowance, tolerance = _PRACTICE_ALLOWANCE * pitch, _PRACTICE_TOLERANCE * pitch
        nut_major_tol = 0.08 * pitch
        source = "shop practice, not a published class"
    basic = spec.pitch_dia_mm
    screw_high = basic - allowance
    minor_high = spec.screw_minor_max_mm
    return ThreadLimits(
        spec=spec,
        allowance_mm=allowance,
        pd_tolerance_mm=tolerance,
        screw_major=Band(spec.major_mm - crest_tol, spec.major_mm),
        screw_pitch=Band(screw_high - tolerance, screw_high),
        screw_minor=Band(minor_high - 1.5 * tolerance, minor_high),
        nut_major=Band(spec.nut_major_min_mm, spec.nut_major_min_mm + nut_major_tol),
        nut_pitch=Band(basic, basic + tolerance),
        nut_minor=Band(spec.nut_minor_mm, spec.nut_minor_mm + crest_tol),
        source=source,
    )
