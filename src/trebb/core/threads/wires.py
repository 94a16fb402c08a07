"""Measuring a symmetrical thread over wires, with the lead taken exactly.

M is the size over three wires, W the wire, E the pitch diameter. The usual
formula is the limit of no lead; the exact one finds where a straight wire
touches the helicoid.
"""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.threads.forms import Form, ThreadSpec

# Far below what any micrometer shows; Newton steps halve the error many times over.
SOLVE_TOL_MM = 1e-11
MAX_STEPS = 80


class WireError(InputError):
    """A wire that does not sit in this thread."""


def _slopes(spec: ThreadSpec) -> tuple[float, float]:
    if spec.form is Form.SQUARE:
        raise WireError(
            "wires in a square thread", "its flanks do not hold a wire; measure groove and ridge instead"
        )
    return math.sin(spec.form.half_angle), math.tan(spec.form.half_angle)


def best_wire_mm(spec: ThreadSpec) -> float:
    """The wire that touches at the pitch line when there is no lead: P / (2 cos α)."""
    _slopes(spec)
    return spec.pitch_mm / (2 * math.cos(spec.form.half_angle))


def wire_range_mm(
    spec: ThreadSpec, pitch_dia_mm: float | None = None, major_mm: float | None = None
) -> tuple[float, float]:
    """Smallest wire (flush with the crest) and largest (touching the crest's corner), mm.

    Uses the actual pitch and major diameters where they are given.
    """
    sin_a, tan_a = _slopes(spec)
    room = (major_mm or spec.major_mm) - (pitch_dia_mm or spec.pitch_dia_mm) + spec.pitch_mm / (2 * tan_a)
    return room / (1 + 1 / sin_a), room * tan_a / math.cos(spec.form.half_angle)


def size_over_wires_simple_mm(spec: ThreadSpec, pitch_dia_mm: float, wire_mm: float) -> float:
    """M without lead: E + W(1 + csc α) − (P/2) cot α."""
    sin_a, tan_a = _slopes(spec)
    return pitch_dia_mm + wire_mm * (1 + 1 / sin_a) - spec.pitch_mm / (2 * tan_a)


def pitch_dia_from_wires_simple_mm(spec: ThreadSpec, over_wires_mm: float, wire_mm: float) -> float:
    """E without lead, the inverse of `size_over_wires_simple_mm`."""
    return over_wires_mm - size_over_wires_simple_mm(spec, 0.0, wire_mm)


def lead_correction_first_order_mm(spec: ThreadSpec, pitch_dia_mm: float, wire_mm: float) -> float:
    """The handbook's addition for lead: W (tan²λ / 2) cos α cot α, λ at E. A few per cent large."""
    _, tan_a = _slopes(spec)
    tan_lead = math.tan(spec.lead_angle(pitch_dia_mm))
    return wire_mm * tan_lead**2 / 2 * math.cos(spec.form.half_angle) / tan_a


def _contact(
    spec: ThreadSpec, pitch_dia_mm: float, wire_mm: float, *, inside: bool = False
) -> tuple[float, float]:
    """Radius of the flank contact and of the wire's midpoint; `inside` of a ball in a nut's groove, which
    opens inward.

    The flank is z = kφ + P/4 + (r − E/2) tan α with k = lead/2π. Between
    parallel anvils the wire settles so that the contact normal passes through
    its midpoint, which lies on the radius φ = 0 at z = 0. The first condition
    (y = 0) gives φ from r outright, the second is a root in r.
    """
    _, tan_a = _slopes(spec)
    k = spec.lead_mm / (2 * math.pi)
    half = wire_mm / 2
    out = -1.0 if inside else 1.0

    def at(r: float) -> tuple[float, float]:
        norm = math.sqrt(1 + tan_a**2 + (k / r) ** 2)
        along = r + out * half * tan_a / norm
        phi = -math.atan2(half * k / r / norm, along)
        height = k * phi + spec.pitch_mm / 4 + out * (r - pitch_dia_mm / 2) * tan_a - half / norm
        centre = along * math.cos(phi) - half * k / r / norm * math.sin(phi)
        return height, centre

    r0, r1 = pitch_dia_mm / 2, pitch_dia_mm / 2 * 1.001
    f0, f1 = at(r0)[0], at(r1)[0]
    for _ in range(MAX_STEPS):
        if abs(r1 - r0) < SOLVE_TOL_MM or f1 == f0:
            break
        step = r1 - f1 * (r1 - r0) / (f1 - f0)
        if not step > 0:
            raise WireError(
                f"a wire of {wire_mm:.4g} mm",
                f"it does not touch the flanks; about {best_wire_mm(spec):.3f} mm would",
            )
        r0, f0, r1 = r1, f1, step
        f1 = at(r1)[0]
    return r1, at(r1)[1]


def size_over_wires_mm(spec: ThreadSpec, pitch_dia_mm: float, wire_mm: float) -> float:
    """Size over three wires with the lead taken exactly, mm. Raises WireError for no wire.

    A ball of the same diameter gives the same result. Straight axial flanks and
    parallel anvils are assumed; wires are not compressed. Valid for multi-start
    threads, where the first-order correction is not.
    """
    if not wire_mm > 0:
        raise WireError(f"a wire of {wire_mm:g} mm", "the wire's diameter must be more than nothing")
    return 2 * _contact(spec, pitch_dia_mm, wire_mm)[1] + wire_mm


def contact_dia_mm(spec: ThreadSpec, pitch_dia_mm: float, wire_mm: float) -> float:
    """Diameter at which the wire touches the flanks, mm."""
    return 2 * _contact(spec, pitch_dia_mm, wire_mm)[0]


def pitch_dia_from_wires_mm(spec: ThreadSpec, over_wires_mm: float, wire_mm: float) -> float:
    """Pitch diameter from a measured size over wires, lead taken exactly, mm. Raises WireError for a size
    this thread cannot have.

    A wire that is wrong by δ makes this wrong by δ(1 + csc α): five times for a
    29° thread, three times for a 60° one.
    """
    pitch_dia = pitch_dia_from_wires_simple_mm(spec, over_wires_mm, wire_mm)
    if not 0 < pitch_dia < 2 * spec.major_mm:
        raise WireError(
            f"{over_wires_mm:.4g} mm over wires of {wire_mm:.4g} mm",
            f"this thread reads about {size_over_wires_simple_mm(spec, spec.pitch_dia_mm, wire_mm):.3f} mm",
        )
    for _ in range(MAX_STEPS):
        miss = size_over_wires_mm(spec, pitch_dia, wire_mm) - over_wires_mm
        pitch_dia -= miss
        if abs(miss) < SOLVE_TOL_MM:
            break
    return pitch_dia


def best_wire_exact_mm(spec: ThreadSpec, pitch_dia_mm: float) -> float:
    """The wire whose exact contact lies at the pitch diameter, mm."""
    wire = best_wire_mm(spec)
    for _ in range(MAX_STEPS):
        slope = math.tan(spec.form.half_angle)
        miss = _contact(spec, pitch_dia_mm, wire)[0] - pitch_dia_mm / 2
        step = miss * 2 * slope  # a wire of dW moves the contact by about dW / (2 tan α cos²α)
        wire -= step
        if abs(step) < SOLVE_TOL_MM:
            break
    return wire


def size_between_balls_mm(spec: ThreadSpec, nut_pitch_dia_mm: float, ball_mm: float) -> float:
    """Size between two balls in a nut's grooves, face to face across the bore, lead taken exactly, mm.
    Raises WireError for no ball.

    Balls in opposite grooves lie half a pitch apart along the axis where the
    number of starts is odd; the gauge then reads the slanted way between them,
    less one ball. With an even number they stand straight across.
    """
    if not ball_mm > 0:
        raise WireError(f"a ball of {ball_mm:g} mm", "its diameter must be more than nothing")
    _slopes(spec)
    centres = 2 * _contact(spec, nut_pitch_dia_mm, ball_mm, inside=True)[1]
    slant = spec.pitch_mm / 2 if spec.starts % 2 else 0.0
    return math.hypot(centres, slant) - ball_mm


def pitch_dia_from_balls_mm(spec: ThreadSpec, between_mm: float, ball_mm: float) -> float:
    """A nut's pitch diameter from the size between balls, the inverse of `size_between_balls_mm`. Raises
    WireError for a size this nut cannot have.
    """
    pitch_dia = spec.pitch_dia_mm
    for _ in range(MAX_STEPS):
        miss = size_between_balls_mm(spec, pitch_dia, ball_mm) - between_mm
        pitch_dia -= miss
        if not 0 < pitch_dia < 2 * spec.major_mm:
            raise WireError(
                f"{between_mm:.4g} mm between balls of {ball_mm:.4g} mm",
                f"this nut reads about {size_between_balls_mm(spec, spec.pitch_dia_mm, ball_mm):.3f} mm",
            )
        if abs(miss) < SOLVE_TOL_MM:
            break
    return pitch_dia


def wires_for(spec: ThreadSpec) -> str:
    """How many wires sit: three where the micrometer's anvil spans two grooves, else one against the
    crests.
    """
    span, anvil = spec.pitch_mm + best_wire_mm(spec), 6.35
    if spec.starts % 2 == 0:
        return "two wires are enough: with an even number of starts grooves stand straight across"
    if span <= anvil:
        return "three wires"
    return (
        "one wire against the crests: a 1/4 in (6.35 mm) anvil does not span two grooves of this pitch; "
        "measure the "
        "crests first"
        if spec.pitch_mm < 25
        else "a ball and a depth gauge"
    )


def one_wire_mm(over_three_mm: float, measured_major_mm: float) -> float:
    """Size over one wire and the opposite crest: (M3 + D) / 2, with the *measured* crest diameter."""
    return (over_three_mm + measured_major_mm) / 2
