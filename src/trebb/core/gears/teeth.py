"""A spur gear's teeth by the involute: span, size over pins, lash, centres. Lengths mm, angles degrees.

Reference profile ISO 53 (20°), and the older 14.5° full depth and 20° stub systems of the inch cutters.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.solving import root_between


class Form(Struct, frozen=True):
    """A tooth system: pressure angle, addendum and whole depth in modules."""

    key: str
    label: str
    angle_deg: float
    addendum: float
    depth: float


FORMS = {
    f.key: f
    for f in (
        Form("14.5 full", "14½° full depth", 14.5, 1.0, 2.157),
        Form("20 full", "20° full depth", 20.0, 1.0, 2.25),
        Form("20 stub", "20° stub", 20.0, 0.8, 1.8),
    )
}
FEWEST_TEETH, MOST_TEETH = 5, 400


def form(key: str) -> Form:
    """The tooth system of that key; raises InputError for another."""
    try:
        return FORMS[key]
    except KeyError:
        raise InputError(f"tooth system “{key}”", f"known are {', '.join(FORMS)}") from None


def involute(angle_deg: float) -> float:
    """inv φ = tan φ - φ. Radians."""
    a = math.radians(angle_deg)
    return math.tan(a) - a


def angle_of_involute(value: float) -> float:
    """The angle, degrees, whose involute that is. Raises InputError for less than nothing."""
    if value < 0:
        raise InputError(f"an involute of {value:g}", "it is nothing or more: check size and teeth")
    return root_between(lambda a: involute(a) - value, 0.0, 80.0, xtol=1e-12)


class Spur(Struct, frozen=True):
    """A spur gear by name. `thinning_mm` is what its tooth has lost of the arc at the pitch circle."""

    teeth: int
    module_mm: float
    angle_deg: float = 20.0
    addendum: float = 1.0
    depth: float = 2.25
    thinning_mm: float = 0.0

    def __post_init__(self) -> None:
        if not FEWEST_TEETH <= self.teeth <= MOST_TEETH:
            raise InputError(f"{self.teeth} teeth", f"a gear has from {FEWEST_TEETH} to {MOST_TEETH}")
        if self.module_mm <= 0:
            raise InputError(f"module {self.module_mm:g}", "more than nothing")

    @property
    def pitch_dia_mm(self) -> float:
        """m z."""
        return self.module_mm * self.teeth

    @property
    def base_dia_mm(self) -> float:
        """m z cos φ."""
        return self.pitch_dia_mm * math.cos(math.radians(self.angle_deg))

    @property
    def outside_dia_mm(self) -> float:
        """m (z + 2a)."""
        return self.module_mm * (self.teeth + 2 * self.addendum)

    @property
    def base_pitch_mm(self) -> float:
        """π m cos φ: what one more tooth adds to a span."""
        return math.pi * self.module_mm * math.cos(math.radians(self.angle_deg))

    @property
    def arc_mm(self) -> float:
        """Tooth's thickness along the pitch circle."""
        return math.pi * self.module_mm / 2 - self.thinning_mm

    @property
    def span_teeth(self) -> int:
        """Over how many teeth a span touches near the middle of the flank, at least two."""
        return max(2, int(self.teeth * self.angle_deg / 180 + 0.5))

    def span_mm(self, over: int) -> float:
        """Span over so many teeth: m cos φ [π(k − ½) + z inv φ], less what the tooth lost."""
        cos = math.cos(math.radians(self.angle_deg))
        nominal = self.module_mm * cos * (math.pi * (over - 0.5) + self.teeth * involute(self.angle_deg))
        return nominal - self.thinning_mm * cos

    def thinning_of_span(self, over: int, span_mm: float) -> float:
        """What the tooth has lost at the pitch circle by a span read on it."""
        return (self._new.span_mm(over) - span_mm) / math.cos(math.radians(self.angle_deg))

    @property
    def _new(self) -> Spur:
        return Spur(self.teeth, self.module_mm, self.angle_deg, self.addendum, self.depth)

    @property
    def chordal_thickness_mm(self) -> float:
        """d sin(90°/z), of the tooth as new."""
        return self.pitch_dia_mm * math.sin(math.radians(90 / self.teeth))

    @property
    def chordal_addendum_mm(self) -> float:
        """Depth below the tip at which that chord lies: a m + (d/2)(1 − cos(90°/z))."""
        arch = 1 - math.cos(math.radians(90 / self.teeth))
        return self.addendum * self.module_mm + self.pitch_dia_mm / 2 * arch

    @property
    def tip_thickness_mm(self) -> float:
        """Arc of the tooth at its tip, as new."""
        tip = math.degrees(math.acos(self.base_dia_mm / self.outside_dia_mm))
        return self.outside_dia_mm * (math.pi / (2 * self.teeth) + involute(self.angle_deg) - involute(tip))

    def over_pins_mm(self, pin_mm: float) -> float:
        """Size over two pins; of an odd number of teeth over the nearest two."""
        value = (
            self.arc_mm / self.pitch_dia_mm
            + involute(self.angle_deg)
            + pin_mm / self.base_dia_mm
            - math.pi / self.teeth
        )
        radius = self.base_dia_mm / 2 / math.cos(math.radians(angle_of_involute(value)))
        return 2 * radius * self._pins_apart + pin_mm

    @property
    def _pins_apart(self) -> float:
        return 1.0 if self.teeth % 2 == 0 else math.cos(math.radians(90 / self.teeth))

    def thinning_of_pins(self, pin_mm: float, over_mm: float) -> float:
        """What the tooth has lost at the pitch circle by a size over pins. Raises InputError for a size no
        pin between the teeth gives.
        """
        radius = (over_mm - pin_mm) / 2 / self._pins_apart
        if radius <= self.base_dia_mm / 2:
            raise InputError(
                f"{over_mm:g} mm over pins of {pin_mm:g} mm",
                f"more than {self.base_dia_mm + pin_mm:.4g} mm, or the pin is too small for its space",
            )
        at = math.degrees(math.acos(self.base_dia_mm / 2 / radius))
        arc = self.pitch_dia_mm * (
            involute(at) - involute(self.angle_deg) - pin_mm / self.base_dia_mm + math.pi / self.teeth
        )
        return math.pi * self.module_mm / 2 - arc


def usual_pin_mm(module_mm: float) -> float:
    """A pin that touches near the pitch circle of most wheels: 1.728 m (the inch tables' 1.728/P)."""
    return 1.728 * module_mm


class Pair(Struct, frozen=True):
    """Two spur gears in mesh. Raises InputError where they are not of one module and angle."""

    one: Spur
    other: Spur

    def __post_init__(self) -> None:
        if (self.one.module_mm, self.one.angle_deg) != (self.other.module_mm, self.other.angle_deg):
            raise InputError(
                f"module {self.one.module_mm:g}, {self.one.angle_deg:g}° with "
                f"{self.other.module_mm:g}, {self.other.angle_deg:g}°",
                "wheels that mesh are of one module and one pressure angle",
            )

    @property
    def centres_mm(self) -> float:
        """m (z₁ + z₂)/2."""
        return self.one.module_mm * (self.one.teeth + self.other.teeth) / 2

    def working_angle_deg(self, centres_mm: float) -> float:
        """Pressure angle at other centres: acos(C₀ cos φ / C). Raises InputError for centres that foul."""
        cos = self.centres_mm * math.cos(math.radians(self.one.angle_deg)) / centres_mm
        if cos >= 1:
            raise InputError(
                f"centres of {centres_mm:g} mm", f"the wheels foul: they want about {self.centres_mm:.4g} mm"
            )
        return math.degrees(math.acos(cos))

    def lash_mm(self, centres_mm: float) -> float:
        """Play along the working pitch circle; less than nothing where they bind."""
        working = self.working_angle_deg(centres_mm)
        left = 2 * math.pi * self._rolling_radius(self.one, centres_mm) / self.one.teeth
        for wheel in (self.one, self.other):
            thick = wheel.arc_mm / wheel.pitch_dia_mm + involute(wheel.angle_deg) - involute(working)
            left -= 2 * self._rolling_radius(wheel, centres_mm) * thick
        return left

    def _rolling_radius(self, wheel: Spur, centres_mm: float) -> float:
        return centres_mm * wheel.teeth / (self.one.teeth + self.other.teeth)

    def lash_first_order_mm(self, centres_mm: float) -> float:
        """2 (C − C₀) tan φ + what both have lost."""
        spread = 2 * (centres_mm - self.centres_mm) * math.tan(math.radians(self.one.angle_deg))
        return spread + self.one.thinning_mm + self.other.thinning_mm

    def feeler_mm(self, centres_mm: float) -> float:
        """The same play square to the flank, as a feeler finds it."""
        return self.lash_mm(centres_mm) * math.cos(math.radians(self.working_angle_deg(centres_mm)))

    def rock_deg(self, centres_mm: float) -> float:
        """How far the other rocks while the one is held."""
        return math.degrees(self.lash_mm(centres_mm) / self._rolling_radius(self.other, centres_mm))

    def centres_for(self, lash_mm: float) -> float:
        """Centres at which that lash is left. Raises InputError for a lash no centres give. In mm."""
        low, high = (
            self.centres_mm * math.cos(math.radians(self.one.angle_deg)) * 1.0005,
            self.centres_mm + 2 * self.one.module_mm,
        )
        if not self.lash_mm(low) < lash_mm < self.lash_mm(high):
            raise InputError(f"a lash of {lash_mm:g} mm", "no centres of this pair give it")
        return root_between(lambda c: self.lash_mm(c) - lash_mm, low, high, xtol=1e-12)

    def centre_shift_first_order_mm(self, lash_mm: float) -> float:
        """(wanted − what both have lost)/(2 tan φ), + apart."""
        lost = self.one.thinning_mm + self.other.thinning_mm
        return (lash_mm - lost) / (2 * math.tan(math.radians(self.one.angle_deg)))

    def tip_clearance_mm(self, centres_mm: float) -> float:
        """Room between tip and root: must stay more than nothing."""
        least = min(self.one.depth - 2 * self.one.addendum, self.other.depth - 2 * self.other.addendum)
        return least * self.one.module_mm + centres_mm - self.centres_mm


def play_of_rock(rock_deg: float, pitch_dia_mm: float) -> float:
    """Play at the pitch circle of the wheel that rocks. In mm."""
    return math.radians(rock_deg) * pitch_dia_mm / 2


def play_of_indicator(reading_mm: float, indicator_radius_mm: float, pitch_dia_mm: float) -> float:
    """Play at the pitch circle by an indicator at a radius of the wheel that rocks. In mm. Raises InputError
    for no radius.
    """
    if indicator_radius_mm <= 0:
        raise InputError(f"an indicator at {indicator_radius_mm:g} mm", "give its distance from the axis")
    return reading_mm * pitch_dia_mm / 2 / indicator_radius_mm
