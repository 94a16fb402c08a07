"""How far a part may be warmed for a shrink fit, by what it is: over that it is pressed, or its mate cooled.

Ceilings: DIN 7190-1 (joining temperatures of steel and iron); rolling bearings, their seals and grease by
their makers' usual sheets; copper alloys and hard-soldered joints by practice. A data sheet of the part at
hand goes before; temperatures in °C.
"""

from __future__ import annotations

from msgspec import Struct

# Key of what is warmed → °C at most, and what more would do to it.
CEILINGS: dict[str, tuple[float, str]] = {
    "plain_steel": (350.0, "steel that was never hardened: over 350 °C it scales and its size may stay"),
    "alloy_ht": (300.0, "heat-treated steel: over 300 °C its temper is drawn and it softens"),
    "hardened": (180.0, "hardened steel: over 180 °C its temper is drawn, and it is soft afterwards"),
    "untested": (180.0, "nobody tried a file on it: if it is hard, over 180 °C its temper is drawn"),
    "iron": (200.0, "cast iron: over 200 °C, or warmed in one spot, it cracks"),
    "copper": (200.0, "bronze and brass: over 200 °C they lose what working them gave"),
    "soldered": (200.0, "a hard-soldered part: over 200 °C its joint is stressed before it is held"),
    "bearing": (110.0, "a rolling bearing: over 110 °C its rings change their size"),
    "sealed": (80.0, "a seal, or grease already in it: over 80 °C both are spoilt"),
}
_OF_METAL = {
    "free_cutting": "plain_steel", "carbon": "plain_steel", "alloy_ht": "alloy_ht", "iron": "iron",
    "bronze": "copper", "al_bronze": "copper", "brass": "copper",
}  # fmt: skip
DRY_ICE_C = 95.0  # below the room that dry ice in spirit takes a part
NITROGEN_C = 210.0  # and liquid nitrogen, where it can be had


class Warming(Struct, frozen=True):
    """Whether a part drops on warm: `to_c` it would want, `most_c` it may have, and all of it in a sentence;
    `over` : what more would do to it.
    """

    to_c: float
    most_c: float
    over: str

    @property
    def is_allowed(self) -> bool:
        """Whether it may be warmed so far."""
        return self.to_c <= self.most_c

    def words(self, chill_by_c: float) -> str:
        """What to do: warm it, or what instead. `chill_by_c` : how far its mate would be cooled, °C."""
        if self.is_allowed:
            return f"Warmed to {self.to_c:.0f} °C it drops in ({self.over})."
        return f"Not warmed to {self.to_c:.0f} °C ({self.over}): {instead(chill_by_c)}."


def instead(chill_by_c: float) -> str:
    """What is done where warming is not: the mate cooled by so many degrees, or pressed cold."""
    by = abs(chill_by_c)
    if by <= DRY_ICE_C:
        return f"press it, or cool its mate by {by:.0f} °C, which dry ice gives"
    if by <= NITROGEN_C:
        return f"press it, or cool its mate by {by:.0f} °C, which only liquid nitrogen gives"
    return "press it cold; no cooling is enough"


def warming(to_c: float, what: str) -> Warming:
    """What warming a part so far comes to. `what` : a key of CEILINGS, or of a metal."""
    most, over = CEILINGS[_OF_METAL.get(what, what)]
    return Warming(to_c, most, over)


def of_hardness(metal: str, hardness: str) -> str:
    """What a part is, as it is warmed: by the file that was tried on it where that says more than its metal.
    `hardness` : "hard", "soft" or "" not tested.
    """
    return {"hard": "hardened", "": "untested"}.get(hardness, metal)
