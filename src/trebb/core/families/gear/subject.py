"""A gear with its mate: spur, helical, bevel, or a worm's wheel."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.gears import bevel
from trebb.core.gears.naming import GearName, named
from trebb.core.gears.strength import GEAR_METALS, GearMetal
from trebb.core.units import is_inch_size

KINDS = {"spur": "spur", "helical": "helical", "bevel": "bevel", "worm": "worm's wheel"}
READ_AS = {
    "lash": "lash along the pitch circle",
    "flank": "lash by feeler, square to the flank",
    "gauge": "a tapered gauge in each space, against a stack",
}
MOVES = {"gear": "the gear", "mate": "its mate"}
BEHIND = {"behind": "behind it: thicker moves it in", "before": "before it: thicker moves it out"}
# What it is called before anybody named it: the commonest of change and feed gears.
USUAL = "DP16 14.5 full"


class Gear(Struct, frozen=True):
    """A gear as stated, mm.

    Parameters
    ----------
    kind : a key of `KINDS`; teeth and mate_teeth counted (of a worm its starts).
    name : as taken, "DP16 14.5 full"; "" while it is not named.
    bore_mm, face_mm, hub_mm, hub_length_mm : of the gear; key_mm its key's width, 0 without one.
    shafts_deg : between the shafts of bevels.
    trace_deg : angle of the inked tips' trace, of a helical one; hand "right" or "left".
    radius_mm : where the indicator stands when it is rocked; 0: at the pitch circle.
    every : teeth read one by one, else at four quarters.
    read_as : how a tooth space is read, a key of `READ_AS`.
    moves, spacer_mm, spacer : which of a pair is shimmed, what stands there now and on which side.
    lash_mm : wanted; 0: by its module.
    metal, mate_metal : keys of `GEAR_METALS`; made "cut" or "cast".
    motor_w, rpm : what drives it, 0 where not said; rpm of this gear.
    missing, chipped, sharp, stepped : numbers of the teeth seen to be so.
    far_mm : between the two places of a traverse along the pitch cone.
    in_train : it stands in a train that a pin may lock.
    """

    kind: str = "spur"
    teeth: int = 40
    mate_teeth: int = 20
    name: str = ""
    bore_mm: float = 16.0
    face_mm: float = 12.0
    hub_mm: float = 28.0
    hub_length_mm: float = 0.0
    key_mm: float = 0.0
    shafts_deg: float = 90.0
    trace_deg: float = 0.0
    hand: str = "right"
    radius_mm: float = 0.0
    every: bool = False
    read_as: str = "lash"
    moves: str = "gear"
    spacer_mm: float = 0.0
    spacer: str = "behind"
    lash_mm: float = 0.0
    metal: str = "iron"
    mate_metal: str = "iron"
    made: str = "cut"
    motor_w: float = 0.0
    rpm: float = 0.0
    missing: tuple[int, ...] = ()
    chipped: tuple[int, ...] = ()
    sharp: tuple[int, ...] = ()
    stepped: tuple[int, ...] = ()
    far_mm: float = 15.0

    def __post_init__(self) -> None:
        odd = [n for marks in self.marks.values() for n in marks if not 1 <= n <= self.teeth]
        if odd:
            raise InputError(f"tooth {odd[0]} of {self.teeth}", f"number them from 1 to {self.teeth}")
        if self.bore_mm >= self.hub_mm:
            raise InputError(
                f"a bore of {self.bore_mm:g} mm in a hub of {self.hub_mm:g} mm", "the hub is larger"
            )

    @property
    def marks(self) -> dict[str, tuple[int, ...]]:
        """Teeth by what was seen of them, the worst first."""
        return {
            "missing": self.missing,
            "chipped": self.chipped,
            "stepped": self.stepped,
            "sharp": self.sharp,
        }

    @property
    def is_bevel(self) -> bool:
        """Whether it is one of a bevel pair."""
        return self.kind == "bevel"

    @property
    def called(self) -> GearName:
        """Its name as taken, else the usual one."""
        return named(self.name or USUAL)

    @property
    def angle_deg(self) -> float:
        """Pressure angle of its name."""
        return self.called.form.angle_deg

    @property
    def module_mm(self) -> float:
        """Module of its name."""
        return self.called.module_mm

    @property
    def is_inch(self) -> bool:
        """Whether it is called in inches: by its name, else by its bore."""
        return self.called.size.startswith("DP") if self.name else is_inch_size(self.bore_mm)

    @property
    def pitch_dia_mm(self) -> float:
        """Of the gear, at the large end."""
        return self.module_mm * self.teeth / math.cos(math.radians(self.helix_deg))

    @property
    def helix_deg(self) -> float:
        """By the trace of its tips, near enough for what hangs on it; 0 of a straight one."""
        if self.kind != "helical" or not self.trace_deg:
            return 0.0
        outside = self.module_mm * (self.teeth + 2)
        return math.degrees(
            math.atan(math.tan(math.radians(self.trace_deg)) * (outside - 2 * self.module_mm) / outside)
        )

    @property
    def pitch_angles_deg(self) -> tuple[float, float]:
        """Of the gear and its mate; 0 of what is no bevel."""
        if not self.is_bevel:
            return 0.0, 0.0
        return bevel.pitch_angles_deg(self.teeth, self.mate_teeth, self.shafts_deg)

    @property
    def moved_angle_deg(self) -> float:
        """Pitch angle of the one that is shimmed."""
        own, mates = self.pitch_angles_deg
        return own if self.moves == "gear" else mates

    @property
    def lash_per_mm(self) -> float:
        """Lash gained for each mm that a bevel moves out along its axis, or that spur centres spread."""
        if self.is_bevel:
            return bevel.lash_per_mm(self.angle_deg, self.moved_angle_deg)
        return 2 * math.tan(math.radians(self.angle_deg))

    @property
    def least_lash_mm(self) -> float:
        """The least that its tightest tooth wants, along the pitch circle: half of what is stated as
        wanted, else ⅔ (0.06 + 0.0005 C + 0.03 m) as
        ISO/TR 10064-2 advises for industrial drives, halved for hand feeds and light trains (practice).
        """
        if self.lash_mm:
            return self.lash_mm / 2
        centres = self.module_mm * (self.teeth + self.mate_teeth) / 2
        return (0.06 + 0.0005 * centres + 0.03 * self.module_mm) / 3

    @property
    def wanted_lash_mm(self) -> float:
        """As stated, else twice the least."""
        return self.lash_mm or 2 * self.least_lash_mm

    @property
    def rocked_at_mm(self) -> float:
        """Radius at which it is rocked."""
        return self.radius_mm or self.pitch_dia_mm / 2

    @property
    def stuff(self) -> GearMetal:
        """What it is made of."""
        return GEAR_METALS[self.metal]

    @property
    def torque_nm(self) -> float:
        """What its motor gives at its speed; 0 where that is not said."""
        return self.motor_w / (2 * math.pi * self.rpm / 60) if self.motor_w and self.rpm else 0.0

    @property
    def has_pinion_turn(self) -> bool:
        """Whether the mate's own turn can be told from the gear's, every tooth read."""
        if not self.every or self.read_as == "gauge" or self.kind == "worm":
            return False
        cycles = self.teeth / self.mate_teeth
        return self.teeth >= 8 and cycles != int(cycles) and self.mate_teeth % self.teeth != 0


def gear_model(gear: Gear) -> ErrorModel:
    """Sources, mm at the pitch circle: lash; what goes once a turn of the gear's own and of its seat; the
    pinion's turn; tooth against tooth; thinner teeth by the gauge; play on its shaft; sizes that name it.
    """
    m = gear.module_mm
    sources = [Source("lash", "lash of the pair", 0.12, 0.12)]
    for key, words in (("once", "gear once a turn"), ("seat", "its seat or bearing once a turn")):
        sources += [Source(f"{key}.{axis}", words, 0.0, 0.025) for axis in ("x", "y")]
    if gear.has_pinion_turn:
        sources += [Source(f"pinion.{axis}", "pinion once a turn", 0.0, 0.020) for axis in ("x", "y")]
    sources += [
        Source("own", "teeth against each other", 0.020, 0.030, True),
        Source("thin", "teeth thinner than as made", 0.050, 0.100),
        Source("play", "play on its shaft", 0.020, 0.030, True),
        Source("cone", "cone against its pitch line", 0.0, 0.050),
        Source("outside", "outside diameter", m * (gear.teeth + 2), 0.5 * m * gear.teeth),
        Source("depth", "whole depth", 2.2 * m, 1.5 * m),
        Source("span", "span", 8 * m, 8 * m),
        Source("more", "span over one more", 11 * m, 11 * m),
        Source("centres", "centre distance", m * (gear.teeth + gear.mate_teeth) / 2, 0.5 * m * gear.teeth),
        Source("bore", "bore", gear.bore_mm, 2.0),
        Source("pins", "size over pins", m * (gear.teeth + 2.4), 0.5 * m * gear.teeth),
    ]
    return ErrorModel(tuple(sources))
