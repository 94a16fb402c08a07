"""Grease or oil for a rolling spindle bearing: how much, by its size and speed.

Two schools, both sound. Grease packed once keeps dirt out and wants no
attention; too much of it heats. Oil that drains through carries dirt and heat
away and wants filling. The maker's own sheet goes first.
"""

from __future__ import annotations

import math

from msgspec import Struct

# Mean diameter × speed, mm/min, beyond which ordinary grease runs short-lived (bearing handbooks: about
# 350,000 to 500,000).
GREASE_SPEED = 350_000.0
SLOW_SPEED = 100_000.0
RINGS_AND_BALLS = 0.55  # share of a bearing's envelope that is metal, light series


class Lubrication(Struct, frozen=True):
    """For one bearing. `speed_factor` n·dm in mm/min; grease in grams, filled once; `oil_drops` a minute."""

    speed_factor: float
    grease_g: float
    relube_g: float
    oil_drops: float
    viscosity_cst: float
    prefers: str

    def words(self) -> str:
        """Both schools, with quantities."""
        return (
            f"Grease: {self.grease_g:.1f} g a bearing, worked in by hand and run in slowly. "
            f"Oil: about {self.oil_drops:.0f} drops a minute of {self.viscosity_cst:.0f} mm²/s at 40 °C, "
            "with a drain that is open. "
            f"At this speed {self.prefers}."
        )


def lubrication(bore_mm: float, outside_mm: float, width_mm: float, speed_rpm: float) -> Lubrication:
    """Quantities for one bearing.

    Notes
    -----
    Free space V = (1 − metal)·π/4·(D² − d²)·B. Filled to 30 % where it turns
    slowly, 15 % near the limit of grease, in between by the logarithm of n·dm
    (bearing handbooks give 10 to 30 %). Relubrication G = 0.005·D·B grams, D
    and B in mm (the usual handbook rule). Oil drops and viscosity are shop
    practice: a drop a minute for each 12 mm of bore, 32 mm²/s, 68 where slow.
    """
    mean = (bore_mm + outside_mm) / 2
    factor = mean * speed_rpm
    free_cm3 = (1 - RINGS_AND_BALLS) * math.pi / 4 * (outside_mm**2 - bore_mm**2) * width_mm / 1000
    place = min(1.0, max(0.0, math.log(max(factor, 1.0) / SLOW_SPEED) / math.log(GREASE_SPEED / SLOW_SPEED)))
    prefers = (
        "oil that drains through, or a spindle grease made for it"
        if factor > GREASE_SPEED
        else "a little good grease is enough; oil is the other school"
    )
    grease = 0.9 * free_cm3 * (0.30 - 0.15 * place)
    return Lubrication(
        factor,
        grease,
        0.005 * outside_mm * width_mm,
        max(1.0, bore_mm / 12),
        68.0 if factor < SLOW_SPEED else 32.0,
        prefers,
    )
