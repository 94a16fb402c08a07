"""Joining a new thread to an old end, a sleeve to a journal, a nut to its hole: pressed, bonded or pinned.

Words: the *spigot* goes in, the *socket* holds it.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.fits.bond import GAP_MM, MOST_GAP_MM, bond_thrust_n
from trebb.core.fits.press import (
    STEEL,
    Elastic,
    PressFit,
    cool_shaft_to_slip_c,
    heat_hub_to_slip_c,
    press_fit,
)
from trebb.core.fits.warming import Warming, warming
from trebb.core.metals import PIN_SHEAR_MPA, material

# A reamer in steel usually cuts this much over its own size, a drill this much, mm.
REAMER_OVER_MM = 0.008
DRILL_OVER_SHARE = 0.01
LEAD_IN_MM = 0.5
ROUGHNESS_MM = 0.004  # flattened off when pressed: turned on reamed, DIN 7190's 0.8 (Rz + Rz)


class Joint(Struct, frozen=True):
    """A joint worked out. Sizes mm on diameter, force N, torque N·m, stress MPa, temperatures °C.

    `spigot_mm` to turn to; `torque_nm`, `thrust_n` what it holds;
    `verdict` "holds", "press too small", "splits", "too loose" or "weak", with the sentence in `words`.
    """

    kind: str
    spigot_mm: float
    interference_mm: float
    force_n: float
    thrust_n: float
    torque_nm: float
    hoop_mpa: float
    allowed_mpa: float
    warm_to_c: float
    chill_by_c: float
    verdict: str
    words: str


def usual_interference_mm(dia_mm: float) -> float:
    """What a pressed steel end takes: about 0.0012 of its diameter, and at least a thou."""
    return max(0.025, 0.0012 * dia_mm)


def pressed(
    bore_mm: float,
    length_mm: float,
    outside_mm: float,
    metal: str,
    *,
    wanted_mm: float | None = None,
    spigot_mm: float | None = None,
    press_n: float = 0.0,
    room_c: float = 20.0,
    socket: Elastic = STEEL,
    spigot: Elastic = STEEL,
    heated: str = "",
) -> Joint:
    """A pressed joint from the *measured* bore.

    Parameters
    ----------
    bore_mm, outside_mm, length_mm : of the socket. `metal` its material's key.
    wanted_mm : interference to turn for, after the roughness is flattened; the usual if None, less where the
        wall would not bear it.
    spigot_mm : where it is turned already, its measured size decides.
    press_n : force of the press at hand; 0 is not stated.
    heated : what the socket is when it is warmed, a key of `warming.CEILINGS`; by its metal if not given.

    Raises InputError where the socket has no wall.
    """
    if not 0 < bore_mm < outside_mm - 1:
        raise InputError(
            f"a bore of {bore_mm:.3g} mm in {outside_mm:.3g} mm", "leave a wall of half a millimetre at least"
        )
    wanted = (
        min(usual_interference_mm(bore_mm), _most_mm(bore_mm, length_mm, outside_mm, metal, socket, spigot))
        if wanted_mm is None
        else wanted_mm
    )
    size = bore_mm + wanted + ROUGHNESS_MM if spigot_mm is None else spigot_mm
    real = size - bore_mm - ROUGHNESS_MM
    allowed = material(metal).allowed_mpa
    if real <= 0:
        return _too_loose(size, bore_mm, real, allowed, room_c)
    fit = press_fit(
        dia_mm=bore_mm,
        shaft_bore_mm=0.0,
        hub_outside_mm=outside_mm,
        length_mm=length_mm,
        interference_mm=real,
        shaft=spigot,
        hub=socket,
    )
    warm = room_c + heat_hub_to_slip_c(bore_mm, real, 0.03, socket.expansion_per_c)
    chill = cool_shaft_to_slip_c(bore_mm, real, 0.01, spigot.expansion_per_c)
    verdict, words = _press_words(fit, real, allowed, metal, press_n, warming(warm, heated or metal), chill)
    return Joint(
        "pressed", size, real, fit.force_n, fit.force_n, fit.torque_nm, fit.hub_hoop_mpa, allowed,
        warm, chill, verdict, words,
    )  # fmt: skip


def _press_words(
    fit: PressFit, real: float, allowed: float, metal: str, press_n: float, warm: Warming, chill: float
) -> tuple[str, str]:
    """Verdict on a pressed joint, and it in words. `chill` : of the spigot instead, °C."""
    if fit.hub_hoop_mpa > allowed:
        return (
            "splits",
            f"It would split the wall: {fit.hub_hoop_mpa:.0f} MPa where {metal_words(metal)} may see "
            f"{allowed:.0f}. At most {real * allowed / fit.hub_hoop_mpa:.3f} mm, or a thicker wall.",
        )
    if press_n and fit.force_n > press_n:
        return (
            "press too small",
            f"The press is too small: {fit.force_n / 1000:.0f} kN wanted, {press_n / 1000:.0f} kN "
            f"there. {warm.words(chill)}",
        )
    return "holds", f"Holds {fit.torque_nm:.0f} N·m and {fit.force_n / 1000:.0f} kN along the axis."


def _too_loose(size_mm: float, bore_mm: float, real_mm: float, allowed_mpa: float, room_c: float) -> Joint:
    over = size_mm - bore_mm
    words = f"{-over:.3f} mm loose" if over < 0 else f"only {over:.3f} mm over, which pressing flattens"
    return Joint(
        "pressed", size_mm, real_mm, 0.0, 0.0, 0.0, 0.0, allowed_mpa, room_c, 0.0, "too loose",
        f"The spigot is {words}: knurl it, sleeve it, or use retaining compound and a pin.",
    )  # fmt: skip


def _most_mm(
    bore_mm: float, length_mm: float, outside_mm: float, metal: str, socket: Elastic, spigot: Elastic
) -> float:
    """Interference that the wall bears with a sixth to spare, mm: hoop stress is proportional to it."""
    one = press_fit(
        dia_mm=bore_mm,
        shaft_bore_mm=0.0,
        hub_outside_mm=outside_mm,
        length_mm=length_mm,
        interference_mm=1.0,
        shaft=spigot,
        hub=socket,
    )
    return material(metal).allowed_mpa / one.hub_hoop_mpa / 1.2


def bonded(bore_mm: float, length_mm: float, gap_mm: float | None = None) -> Joint:
    """A joint held by retaining compound: a sliding fit with the gap it bridges best, cured by its data
    sheet.
    """
    gap = sum(GAP_MM) / 2 if gap_mm is None else gap_mm
    thrust = bond_thrust_n(bore_mm, length_mm, gap)
    good = GAP_MM[0] <= gap <= MOST_GAP_MM
    words = (
        f"Holds {thrust * bore_mm / 2000:.0f} N·m when cured: a day at 20 °C, clean and dry; heat above "
        "250 °C lets it go again."
    )
    if not good:
        words = (
            f"A gap of {gap:.3f} mm: from {GAP_MM[0]:.2f} to {GAP_MM[1]:.2f} mm cures to its strength, up to "
            f"{MOST_GAP_MM:.2f} mm it still holds."
        )
    return Joint(
        "bonded",
        bore_mm - gap,
        -gap,
        0.0,
        thrust,
        thrust * bore_mm / 2000,
        0.0,
        0.0,
        20.0,
        0.0,
        "holds" if good else "weak",
        words,
    )


def pinned(bore_mm: float, outside_mm: float, pin_mm: float, gap_mm: float = 0.01) -> Joint:
    """A sliding spigot with a taper pin across: double shear at the spigot's surface, and what the hole
    leaves of it.

    Raises InputError where the pin takes more than a third of the spigot.
    """
    if not 0 < pin_mm <= 0.34 * bore_mm:
        raise InputError(
            f"a pin of {pin_mm:.3g} mm across {bore_mm:.3g} mm",
            f"at most {0.34 * bore_mm:.2g} mm: a third of what it goes through",
        )
    shear = 2 * PIN_SHEAR_MPA * math.pi / 4 * pin_mm**2
    words = (
        f"Holds {shear * bore_mm / 2000:.0f} N·m: the pin shears first, as it should. Bond it before it "
        "is drilled, ream until it stands right."
    )
    return Joint(
        "pinned",
        bore_mm - gap_mm,
        -gap_mm,
        0.0,
        shear,
        shear * bore_mm / 2000,
        0.0,
        0.0,
        20.0,
        0.0,
        "holds",
        words,
    )


def metal_words(metal: str) -> str:
    """The socket's material in words."""
    return {
        "iron": "cast iron",
        "alloy_ht": "heat-treated steel",
        "bronze": "bronze",
        "al_bronze": "aluminium bronze",
        "brass": "brass",
    }.get(metal, "this steel")


def reamed_bore_mm(reamer_mm: float) -> float:
    """What a reamer usually leaves, mm: a little over its own size. Measure it."""
    return reamer_mm + REAMER_OVER_MM


def knurl_raise_mm(pitch_mm: float, depth_share: float = 0.5) -> float:
    """How much a straight 90° knurl raises a diameter, mm.

    Rolling moves metal, it takes none away. A groove t deep displaces t² of
    section; piled up beside it at 45° it stands t/√2 high while land is left
    between the teeth, and t where they meet (t = P/4: tooth and groove alike).
    Between those by share of the full depth; both sides count.
    """
    depth = depth_share * pitch_mm / 4
    return 2 * depth * (1 / math.sqrt(2) + (1 - 1 / math.sqrt(2)) * depth_share)


def knurl_for(loose_mm: float, interference_mm: float) -> tuple[float, float]:
    """Knurl pitch that recovers a loose fit, and the diameter it raises: the finest usual one that gives gap
    + interference, mm.

    Crests are narrow: they hold with about a third of the grip of a plain press.
    """
    need = loose_mm + interference_mm
    for pitch in (0.5, 0.6, 0.8, 1.0, 1.2, 1.6, 2.0):
        if knurl_raise_mm(pitch) >= need:
            return pitch, knurl_raise_mm(pitch)
    raise InputError(
        f"{loose_mm:.3f} mm loose", f"a knurl raises {knurl_raise_mm(2.0):.2f} mm at most: sleeve it"
    )
