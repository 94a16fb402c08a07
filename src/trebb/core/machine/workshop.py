"""What the lathe that cuts the part can do, and what parts are cut from."""

from __future__ import annotations

import re
from fractions import Fraction

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.gears.trains import Banjo
from trebb.core.units import INCH_MM, parse_list

# Change gears as such a lathe often has them, with a 127 to cut the other system.
USUAL_WHEELS = (20, 24, 28, 30, 32, 36, 40, 42, 44, 45, 48, 50, 52, 54, 56, 60, 63, 64, 72, 127)

MOST_WHEELS = 40  # the search for a train grows with the fourth power of them


class Workshop(Struct, frozen=True):
    """The lathe at hand. Here it is the machine being repaired itself.

    `lead_screw_pitch` is exact, in inches or mm as `lead_screw_inch` says.
    `compound_from_bed` is True where the compound's scale counts from the bed's
    axis instead of the cross slide's. `wheels` are the change gears at hand,
    `stud_to_screw_mm` how far the spindle's stud and the lead screw stand apart,
    `press_n` what the press at hand pushes, `gear_ratio` lead screw turns for
    one of the spindle with equal wheels on: what tumbler and gearbox are set to.
    `is_bore_known`: somebody measured the spindle's bore; else it is a usual one.
    """

    lead_screw_pitch: Fraction = Fraction(1, 8)
    lead_screw_inch: bool = True
    dial_gear_teeth: int = 32
    dial_marks: int = 8
    spindle_bore_mm: float = 1.375 * INCH_MM
    compound_from_bed: bool = False
    compound_division_mm: float = 0.001 * INCH_MM
    cross_reads_diameter: bool = False
    spindle_speeds: tuple[int, ...] = (35, 48, 70, 105, 160, 240, 360, 540)
    wheels: tuple[int, ...] = USUAL_WHEELS
    wheel_module_mm: float = 1.5
    stud_to_screw_mm: float = 150.0
    press_n: float = 20_000.0
    gear_ratio: Fraction = Fraction(1)
    is_bore_known: bool = False

    @property
    def lead_screw_mm(self) -> Fraction:
        """Pitch of the lead screw in mm, exact."""
        return self.lead_screw_pitch * (Fraction(254, 10) if self.lead_screw_inch else 1)

    def speed_at_most(self, rpm: float) -> int:
        """The nearest speed of the gearbox that is not above `rpm` (the slowest if all are)."""
        fitting = [speed for speed in self.spindle_speeds if speed <= rpm]
        return max(fitting) if fitting else min(self.spindle_speeds)


def wheels_from(text: str) -> tuple[int, ...]:
    """Change gears from a list such as "20 24 28 127", in order; empty for no text.

    Raises InputError for what is no wheel, and for more than `MOST_WHEELS`.
    """
    example = "list the wheels by their teeth, 12 to 200, such as 20 24 28 127"
    found = parse_list(text, example)
    for teeth, unit in found:
        if unit or teeth != int(teeth) or not 12 <= teeth <= 200:
            raise InputError(f"“{teeth:g}{unit}”", example)
    if len(found) > MOST_WHEELS:
        raise InputError(f"{len(found)} wheels", f"{MOST_WHEELS} at most; list those that are used")
    return tuple(sorted(int(teeth) for teeth, _ in found))


_RATIO = re.compile(r"([0-9]{1,4}(?:[.,][0-9]{1,6})?)(?:[/:]([0-9]{1,4}(?:[.,][0-9]{1,6})?))?")


def ratio_from(text: str) -> Fraction:
    """A gearbox's ratio from "2", "1/2", "1:4" or "0.5". Raises InputError for what is none."""
    match = _RATIO.fullmatch(text.replace(" ", "")) if len(text) <= 40 else None
    ratio = Fraction(0)
    if match is not None:
        top, bottom = (Fraction((part or "1").replace(",", ".")) for part in match.groups())
        ratio = top / bottom if bottom else ratio
    if not Fraction(1, 200) <= ratio <= 200:
        raise InputError(
            f"“{text.strip()[:40]}”",
            "write the lead screw's turns for one of the spindle, equal wheels on: 1, 2, 1/2 or 1:4",
        )
    return ratio.limit_denominator(1000)


def banjo_of(shop: Workshop) -> Banjo:
    """Where the wheels of the lathe at hand can stand."""
    return Banjo(shop.wheel_module_mm, shop.stud_to_screw_mm, fixed_ratio=shop.gear_ratio)
