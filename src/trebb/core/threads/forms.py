"""Thread forms and what follows from form, diameter and pitch alone."""

from __future__ import annotations

import math
from enum import Enum

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import INCH_MM

SQUARE_CLEARANCE_MM = 0.010 * INCH_MM  # on diameter (practice)
# Finer than this many threads an inch takes the smaller Acme clearance; exactly ten takes the larger.
ACME_FINE_TPI = 10
# Ten threads an inch is 2.54 mm, which the float 25.4/10 only nearly equals.
PITCH_TOL_MM = 1e-6


class ThreadSpecError(InputError):
    """A thread that cannot exist or is not covered."""


class Form(Enum):
    """The forms Trebb knows, by their standard's name."""

    ACME = "Acme"
    ACME_STUB = "stub Acme"
    TRAPEZOIDAL = "trapezoidal"
    SQUARE = "square"
    METRIC = "ISO metric"
    UNIFIED = "Unified"
    WHITWORTH = "Whitworth"

    @property
    def half_angle(self) -> float:
        """Half the included flank angle, rad."""
        return _HALF_ANGLES[self.value]

    @property
    def is_translating(self) -> bool:
        """True for the forms that move slides, False for fastening threads."""
        return self not in (Form.METRIC, Form.UNIFIED, Form.WHITWORTH)

    @property
    def is_inch_by_standard(self) -> bool:
        """True where the standard counts turns an inch."""
        return self in (Form.ACME, Form.ACME_STUB, Form.UNIFIED, Form.WHITWORTH)


_HALF_ANGLES = {
    form.value: math.radians(
        {
            Form.ACME: 14.5,
            Form.ACME_STUB: 14.5,
            Form.TRAPEZOIDAL: 15.0,
            Form.SQUARE: 0.0,
            Form.WHITWORTH: 27.5,
        }.get(form, 30.0)
    )
    for form in Form
}


class Hand(Enum):
    """Right hand advances away when turned clockwise."""

    RIGHT = "right"
    LEFT = "left"


class Band(Struct, frozen=True):
    """A size with limits, mm."""

    low_mm: float
    high_mm: float

    @property
    def middle_mm(self) -> float:
        return (self.low_mm + self.high_mm) / 2

    @property
    def width_mm(self) -> float:
        return self.high_mm - self.low_mm

    def holds(self, size_mm: float) -> bool:
        """True when the size lies inside, limits included."""
        return self.low_mm <= size_mm <= self.high_mm


def pitch_words(pitch_mm: float) -> str:
    """A pitch as it is called: "8 tpi" where a whole or half number of threads goes into an inch, else mm."""
    per_inch = INCH_MM / pitch_mm
    return f"{per_inch:.4g} tpi" if _is_step(per_inch, 0.5) else f"{pitch_mm:g} mm"


class ThreadSpec(Struct, frozen=True):
    """A thread as specified: form, nominal major diameter, pitch, starts, hand, class, and of a square one
    its clearance, on diameter.

    Raises ThreadSpecError when the thread cannot exist.

    References: ASME B1.5 (Acme), ASME B1.8 (stub Acme), ISO 2901 to 2904
    (trapezoidal), ISO 68-1 (metric), ASME B1.1 (Unified), BS 84 (Whitworth).
    The square thread has no standard: its clearance is stated, 0.010 in where nobody did.
    """

    form: Form
    major_mm: float
    pitch_mm: float
    starts: int = 1
    hand: Hand = Hand.RIGHT
    tolerance_class: str = "2G"
    square_clearance_mm: float = SQUARE_CLEARANCE_MM

    def __post_init__(self) -> None:
        if not self.pitch_mm > 0:
            raise ThreadSpecError(f"a pitch of {self.pitch_mm:g} mm", "the pitch must be more than nothing")
        if not 1 <= self.starts <= 12:
            raise ThreadSpecError(f"{self.starts} starts", "a thread has from 1 to 12 starts")
        if not self.screw_minor_max_mm > 0.2 * self.major_mm:
            raise ThreadSpecError(
                f"a pitch of {self.pitch_mm:.4g} mm on a diameter of {self.major_mm:.4g} mm",
                "the thread would cut the screw nearly through; the diameter must be at least about 1.5 "
                "pitches",
            )
        if self.form in (Form.ACME, Form.ACME_STUB) and self.tolerance_class not in ("2G", "3G", "4G"):
            raise ThreadSpecError(f"class {self.tolerance_class}", "an Acme thread has class 2G, 3G or 4G")

    @property
    def lead_mm(self) -> float:
        """Travel in one turn: starts × pitch."""
        return self.starts * self.pitch_mm

    @property
    def clearance_dia_mm(self) -> float:
        """Clearance at major and minor diameter, on diameter."""
        pitch = self.pitch_mm
        match self.form:
            case Form.ACME | Form.ACME_STUB:
                coarse = pitch >= INCH_MM / ACME_FINE_TPI - PITCH_TOL_MM
                return (0.020 if coarse else 0.010) * INCH_MM
            case Form.TRAPEZOIDAL:  # ISO 2904, a_c is radial
                for limit, a_c in ((1.5, 0.15), (5.0, 0.25), (12.0, 0.5)):
                    if pitch <= limit + PITCH_TOL_MM:
                        return 2 * a_c
                return 2.0
            case Form.SQUARE:
                return self.square_clearance_mm
            case _:
                return 0.0

    @property
    def sharp_height_mm(self) -> float:
        """H of a V form, the height of the sharp triangle: P / (2 tan α), 0.866025 P for 60° and 0.960491 P
        for 55°.
        """
        return self.pitch_mm / (2 * math.tan(self.form.half_angle))

    @property
    def basic_height_mm(self) -> float:
        """Basic (engaged) height of the thread, radial."""
        if self.form is Form.ACME_STUB:
            return 0.3 * self.pitch_mm
        if self.form.is_translating:
            return self.pitch_mm / 2
        if self.form is Form.WHITWORTH:
            return 2 / 3 * self.sharp_height_mm  # BS 84: a sixth of H rounded off crest and root
        return 5 / 8 * self.sharp_height_mm

    @property
    def pitch_dia_mm(self) -> float:
        """Basic pitch diameter."""
        if self.form.is_translating or self.form is Form.WHITWORTH:
            return self.major_mm - self.basic_height_mm
        return self.major_mm - 0.75 * self.sharp_height_mm

    @property
    def nut_minor_mm(self) -> float:
        """Basic minor diameter of the nut, its smallest bore."""
        return self.major_mm - 2 * self.basic_height_mm

    @property
    def screw_minor_max_mm(self) -> float:
        """Largest root diameter of the screw."""
        if self.form is Form.METRIC:
            return self.major_mm - 17 / 12 * self.sharp_height_mm  # ISO 68-1: root radius H/6
        return self.nut_minor_mm - self.clearance_dia_mm

    @property
    def nut_major_min_mm(self) -> float:
        """Smallest major diameter of the nut."""
        return self.major_mm + self.clearance_dia_mm

    @property
    def depth_mm(self) -> float:
        """Full depth cut in the screw, radial, clearance included.

        Metric: 17/24 H to the rounded root; Unified: the basic 5/8 H, because
        the root form depends on the edition.
        """
        if self.form is Form.METRIC:
            return 17 / 24 * self.sharp_height_mm
        return self.basic_height_mm + self.clearance_dia_mm / 2

    @property
    def crest_flat_mm(self) -> float:
        """Basic flat on the crest."""
        if self.form is Form.WHITWORTH:
            return self.pitch_mm / 6  # the crest is round; its sharp triangle was cut off a sixth of H down
        if not self.form.is_translating:
            return self.pitch_mm / 8
        return self.pitch_mm / 2 - self.basic_height_mm * math.tan(self.form.half_angle)

    def lead_angle(self, diameter_mm: float) -> float:
        """Lead angle at a diameter, rad: atan(lead / π d). Steepest at the root."""
        return math.atan(self.lead_mm / (math.pi * diameter_mm))

    @property
    def pitch_words(self) -> str:
        """The pitch as it is called: "8 tpi" where a whole or half number of threads goes into an inch, else
        millimetres.
        """
        return pitch_words(self.pitch_mm)

    @property
    def is_mixed(self) -> bool:
        """True for an inch pitch on a metric diameter, or the other way about: no standard has it."""
        inch_pitch = self.pitch_words.endswith("tpi")
        inch_dia = _is_step(self.major_mm / INCH_MM * 32, 1.0) or _number(self.major_mm / INCH_MM) is not None
        metric_dia = _is_step(self.major_mm, 0.5)
        return (inch_pitch and metric_dia and not inch_dia) or (
            not inch_pitch and inch_dia and not metric_dia
        )

    @property
    def designation(self) -> str:
        """The thread in the trade's words: by its standard's designation, or both its units where it mixes
        them.
        """
        per_inch = INCH_MM / self.pitch_mm
        inch = self.form.is_inch_by_standard or (self.form is Form.SQUARE and _is_step(per_inch, 0.5))
        starts = self.starts > 1
        if self.is_mixed:
            dia = (
                f"{self.major_mm:g} mm"
                if _is_step(self.major_mm, 0.5)
                else f"{_fraction(self.major_mm / INCH_MM)} in"
            )
            text = f"{dia} × {self.pitch_words} {self.form.value}"
        elif inch:
            text = f"{_fraction(self.major_mm / INCH_MM)}-{per_inch:.4g} {self.form.value}"
        elif self.form is Form.TRAPEZOIDAL:
            text = f"Tr {self.major_mm:g} × {self.lead_mm:g}" + (f" (P{self.pitch_mm:g})" if starts else "")
            starts = False
        elif self.form is Form.METRIC:
            text = f"M{self.major_mm:g} × {self.pitch_mm:g}"
        else:
            text = f"{self.major_mm:g} × {self.pitch_mm:g} square"
        if starts:
            text += f", {self.starts} starts"
        return text + (" left hand" if self.hand is Hand.LEFT else "")


def _is_step(value: float, step: float) -> bool:
    """Whether a number is whole in steps, but for a float's last digits."""
    return abs(value / step - round(value / step)) < 1e-6


def numbered_in(number: int) -> float:
    """Major diameter of a numbered size, in: 0.060 and 0.013 for each (ASME B1.1)."""
    return (60 + 13 * number) / 1000


def _number(inches: float) -> int | None:
    """The number of a numbered size, from 0 to 14; None where it is none."""
    number = round((inches * 1000 - 60) / 13)
    return number if 0 <= number <= 14 and abs(inches - numbered_in(number)) < 2e-5 else None


def _fraction(inches: float) -> str:
    """3/4 or 1-1/8 where it is a sixty-fourth, 10 where it is a numbered size, decimals otherwise."""
    if (number := _number(inches)) is not None:
        return str(number)
    sixty_fourths = round(inches * 64)
    if abs(inches * 64 - sixty_fourths) > 1e-3:
        return f"{inches:.4f}".rstrip("0")
    whole, rest = divmod(sixty_fourths, 64)
    if not rest:
        return str(whole)
    common = math.gcd(rest, 64)
    part = f"{rest // common}/{64 // common}"
    return f"{whole}-{part}" if whole else part
