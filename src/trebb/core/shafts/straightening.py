"""Pressing a bent bar straight: how far past straight, what comes back, and when it cannot be done.

Solid round bar on two supports, load in the middle, elastic and perfectly
plastic, plane sections, the bend short and under the ram: moment and curvature
of the round section, integrated over half the span.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.metals import STEEL_MODULUS_MPA
from trebb.core.solving import area_under, root_between

HARDEST_HRC = 38.0  # harder ones crack (practice)
STRAIN_LIMIT = 0.05  # half the elongation of common bar (practice)
SAFETY = 2.0
PLASTIC_SHARE = 16 / (3 * math.pi)  # full plastic moment of a round section over its first yield
# Least core that is integrated to: the middle is as good as wholly plastic there.
LEAST_CORE = 1e-4


def _moment(u: float) -> float:
    """Moment over first yield with an elastic core of u × radius."""
    if u >= 1:
        return 1.0 / u
    root = math.sqrt(1 - u * u)
    return PLASTIC_SHARE * root**3 + (2 / (math.pi * u)) * (math.asin(u) - u * root * (1 - 2 * u * u))


def _core(moment: float) -> float:
    """Core of a moment over first yield, from 1 to the full plastic one."""
    if moment <= 1:
        return 1.0
    if moment >= _moment(LEAST_CORE):
        return LEAST_CORE
    return root_between(lambda u: _moment(u) - moment, LEAST_CORE, 1.0, xtol=1e-13)


class Straightening(Struct, frozen=True):
    """Loads in kN, lengths in mm, stresses in MPa.

    `press_kn` and `outer_strain` are of the load whose lasting set is the bow; None
    where the bar folds at one point before (`hinge_needed`): springback, travel
    and what is left behind are then those of the full hinge.
    `why_not` says what forbids it, "" where it may be done, by key.
    """

    first_yield_kn: float
    fully_plastic_kn: float
    first_yield_mm: float
    largest_springback_mm: float
    set_at_hinge_mm: float
    hinge_needed: bool
    press_kn: float | None
    outer_strain: float | None
    springback_mm: float
    travel_mm: float
    residual_mpa: float
    margin_mpa: float
    why_not: str

    @property
    def may(self) -> bool:
        """Whether it may be pressed at one place."""
        return not self.why_not


def lasting_set_mm(
    load_share: float, dia_mm: float, span_mm: float, yield_mpa: float, modulus_mpa: float
) -> float:
    """Set that stays after a load in the middle of that share of first yield, mm.

    With m the moment over first yield, the set is (half span / share)² × the
    curvature at first yield × ∫ (1/u - m) m dm from 1 to the share, taken by
    parts over the core u, where all is smooth.
    """
    if load_share <= 1:
        return 0.0
    core = _core(load_share)
    yielded = area_under(lambda u: _moment(u) ** 2 / (2 * u * u), core, 1.0, rtol=1e-11)
    inner = load_share**2 / (2 * core) - 0.5 - yielded - (load_share**3 - 1) / 3
    top = 2 * yield_mpa / (modulus_mpa * dia_mm)
    return float((span_mm / 2 / load_share) ** 2 * top * inner)


def straighten(
    dia_mm: float,
    span_mm: float,
    bow_mm: float,
    yield_mpa: float,
    *,
    modulus_mpa: float = STEEL_MODULUS_MPA,
    press_kn: float = math.inf,
    strain_limit: float = STRAIN_LIMIT,
    hardness_hrc: float | None = None,
    hardest_hrc: float = HARDEST_HRC,
    service_mpa: float = 0.0,
    safety: float = SAFETY,
) -> Straightening:
    """What it takes to press a bow out of a solid round bar. Strain and margin without unit, hardness in
    HRC.

    bow_mm is half the total reading of the bar's middle. What forbids it, the
    first that applies: hardness, the press, a bow over the set at full hinge,
    strain, or a residual stress that service would undo. Raises InputError for a
    size that is not more than nothing.
    """
    for name, value in (("diameter", dia_mm), ("span", span_mm), ("bow", bow_mm), ("yield", yield_mpa)):
        if not value > 0:
            raise InputError(f"{name} {value:g}", "more than nothing")
    first = math.pi * dia_mm**3 * yield_mpa / (8 * span_mm)
    plastic = 2 * dia_mm**3 * yield_mpa / (3 * span_mm)
    first_mm = yield_mpa * span_mm**2 / (6 * modulus_mpa * dia_mm)
    # The integral's end at the full hinge: read off just under it.
    most_share = _moment(LEAST_CORE)
    most_set = lasting_set_mm(most_share, dia_mm, span_mm, yield_mpa, modulus_mpa)
    hinge = bow_mm > most_set
    share, load, strain = PLASTIC_SHARE, None, None
    if not hinge:
        share = root_between(
            lambda s: lasting_set_mm(s, dia_mm, span_mm, yield_mpa, modulus_mpa) - bow_mm,
            1.0,
            most_share,
            xtol=1e-10,
        )
        load = share * first / 1000
        strain = yield_mpa / modulus_mpa / _core(share)
    back = share * first_mm
    travel = bow_mm + back
    residual = yield_mpa * (1 - share)
    margin = yield_mpa - abs(residual)
    return Straightening(
        first / 1000, plastic / 1000, first_mm, PLASTIC_SHARE * first_mm, most_set, hinge, load, strain,
        back, travel, residual, margin,
        _why_not(
            hardness_hrc, hardest_hrc, plastic / 1000 if load is None else load, press_kn, hinge, strain,
            strain_limit, margin, service_mpa * safety,
        ),
    )  # fmt: skip


def _why_not(
    hardness: float | None,
    hardest: float,
    load: float,
    press: float,
    hinge: bool,
    strain: float | None,
    strain_limit: float,
    margin: float,
    service: float,
) -> str:
    if hardness is not None and hardness > hardest:
        return "hard"
    if load > press:
        return "press"
    if hinge:
        return "hinge"
    if strain is not None and strain > strain_limit:
        return "strain"
    if margin < service:
        return "service"
    return ""


__all__ = ["HARDEST_HRC", "PLASTIC_SHARE", "Straightening", "lasting_set_mm", "straighten"]
