"""Heat treatment of a small steel part as steps of its route."""

from __future__ import annotations

from trebb.core.heat_treatment import growth_mm, hardening_steel, soak_minutes, temper_for
from trebb.core.making.operations import Row
from trebb.core.safety import HARDENING


def heat_rows(key: str, wanted_hrc: float, thickness_mm: float, length_mm: float) -> list[Row]:
    """Stress relief before the finish, harden, temper, and what is tried: rows for a route."""
    steel = hardening_steel(key)
    low, high = steel.harden_c
    colour, temper_c, hrc = temper_for(steel, wanted_hrc)
    return [
        (
            "relieve",
            "Relieve it before the finish",
            "600 °C for an hour, cooled in the furnace: what roughing left would move in the fire.",
            "furnace",
            "none",
            90,
            HARDENING,
            "plain",
        ),
        (
            "harden",
            f"Harden: {low} to {high} °C, {steel.quench}",
            f"{steel.label.capitalize()}. {soak_minutes(thickness_mm):.0f} minutes once it has the heat all "
            f"through; edge first into the quench, moved up and down. It may grow "
            f"{growth_mm(steel, length_mm):.2f} mm. The steel's own data sheet goes before this.",
            "furnace and tongs",
            "none",
            40,
            HARDENING,
            "plain",
        ),
        (
            "temper",
            f"Temper at once: {colour}, {temper_c} °C",
            f"An hour, twice. It leaves about {hrc} HRC of {steel.full_hrc}: bright metal shows the colour.",
            "oven",
            "file to try",
            130,
            HARDENING,
            "plain",
        ),
        (
            "try_file",
            "Try it with a file",
            "It skates where it is hard; a soft spot is where it floated.",
            "vice",
            "old file",
            5,
            "",
            "plain",
        ),
    ]
