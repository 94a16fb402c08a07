"""Which gear it is: module or diametral pitch, pressure angle, full or stub, ranked by likelihood.

Wear cancels in the base pitch (one more tooth in the span), and does not in the outside diameter or the
depth: hence the weights. Every size is optional; what was not measured says nothing.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.gears.teeth import FORMS, Form, Spur
from trebb.core.units import INCH_MM

# ISO 54 modules, first and second choice, and the diametral pitches that cutters are sold for.
MODULES = (
    0.5, 0.6, 0.7, 0.75, 0.8, 0.9, 1.0, 1.125, 1.25, 1.375, 1.5, 1.75, 2.0, 2.25, 2.5, 2.75, 3.0, 3.25, 3.5,
    3.75, 4.0, 4.5, 5.0, 5.5, 6.0, 6.5, 7.0, 8.0,
)  # fmt: skip
PITCHES = (
    3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0, 10.0, 11.0, 12.0, 14.0, 16.0, 18.0, 20.0, 22.0, 24.0, 26.0, 28.0, 30.0,
    32.0, 36.0, 40.0, 48.0,
)  # fmt: skip
# Shares of a size that one standard deviation of reading and wear comes to.
BASE_SHARE, OUTSIDE_SHARE, DEPTH_SHARE, CENTRES_SHARE = 0.003, 0.005, 0.04, 0.004
# A span is not read closer than this, whatever the pitch.
SPAN_SD_MM = 0.012
SURE = 0.95
FITS = 12.0  # squares of standard deviations: beyond it nothing fits


class GearSizes(Struct, frozen=True):
    """What was counted and read, mm; None where it was not.

    `cone_deg` is the pitch angle of a bevel, read at its large end; `trace_deg` of a helical gear's tips.
    `span_mm` over `span_teeth` teeth and `span_more_mm` over one more; `centres_mm` to a mate of
    `mate_teeth`.
    """

    teeth: int
    outside_mm: float | None = None
    depth_mm: float | None = None
    span_teeth: int = 0
    span_mm: float | None = None
    span_more_mm: float | None = None
    mate_teeth: int = 0
    centres_mm: float | None = None
    cone_deg: float = 0.0
    trace_deg: float = 0.0

    @property
    def base_pitch_mm(self) -> float | None:
        """What one more tooth adds; None without both spans."""
        if self.span_mm is None or self.span_more_mm is None:
            return None
        return self.span_more_mm - self.span_mm

    @property
    def module_by_centres(self) -> float | None:
        """2C/(z₁ + z₂): too large where the centres are spread. In mm."""
        if self.centres_mm is None or not self.mate_teeth:
            return None
        return 2 * self.centres_mm / (self.teeth + self.mate_teeth)

    def helix_cos(self, module_mm: float) -> float:
        """cos β by the trace, for a normal module; 1 of a straight gear. Without unit."""
        if not self.trace_deg or self.outside_mm is None or self.outside_mm <= 2 * module_mm:
            return 1.0
        return math.cos(math.radians(helix_of_trace(self.trace_deg, module_mm, self.outside_mm)))

    def outside_of(self, one: GearName) -> float:
        """What the outside diameter would be for a name: m (z/cos β + 2a cos δ). In mm."""
        around = self.teeth / self.helix_cos(one.module_mm)
        return one.module_mm * (around + 2 * one.form.addendum * math.cos(math.radians(self.cone_deg)))


class GearName(Struct, frozen=True):
    """A size and a tooth system, with its share of the likelihood and how far it is off, in squares."""

    size: str
    module_mm: float
    form: Form
    likelihood: float = 0.0
    misfit: float = 0.0

    @property
    def words(self) -> str:
        """As one says it: "DP 16, 14½° full depth"."""
        return f"{self.size.replace('DP', 'DP ').replace('m', 'module ')}, {self.form.label}"

    @property
    def key(self) -> str:
        """As a job keeps it: "DP16 14.5 full"."""
        return f"{self.size} {self.form.key}"

    def spur(self, teeth: int, thinning_mm: float = 0.0) -> Spur:
        """A gear of that name."""
        return Spur(
            teeth, self.module_mm, self.form.angle_deg, self.form.addendum, self.form.depth, thinning_mm
        )


class Naming(Struct, frozen=True):
    """Names, likeliest first; `is_sure` where the first stands alone; what else to read where it does not."""

    ranked: tuple[GearName, ...]
    is_sure: bool
    tell_apart: str = ""
    trouble: str = ""
    sizes: GearSizes = field(default_factory=lambda: GearSizes(20))

    @property
    def best(self) -> GearName:
        """The likeliest."""
        return self.ranked[0]


def candidates() -> Iterator[GearName]:
    """Every size in every system."""
    for f in FORMS.values():
        for p in PITCHES:
            yield GearName(f"DP{p:g}", INCH_MM / p, f)
        for m in MODULES:
            yield GearName(f"m{m:g}", m, f)


def named(key: str) -> GearName:
    """The name a job keeps. Raises InputError for another."""
    for one in candidates():
        if one.key == key:
            return one
    raise InputError(f"gear “{key}”", "such as “DP16 14.5 full” or “m2 20 full”")


def _misfit(one: GearName, sizes: GearSizes, *, with_reading: bool) -> float:
    """Squares of standard deviations that a name is off; `with_reading` counts how well a span is read
    too.
    """
    ideal = one.spur(sizes.teeth)
    total = 0.0
    if (base := sizes.base_pitch_mm) is not None:
        share = BASE_SHARE * ideal.base_pitch_mm
        sd = math.hypot(share, SPAN_SD_MM) if with_reading else share
        total += ((base - ideal.base_pitch_mm) / sd) ** 2
    if sizes.outside_mm is not None:
        total += ((sizes.outside_mm / sizes.outside_of(one) - 1) / OUTSIDE_SHARE) ** 2
    if sizes.depth_mm is not None:
        total += ((sizes.depth_mm / (one.form.depth * one.module_mm) - 1) / DEPTH_SHARE) ** 2
    if (module := sizes.module_by_centres) is not None and with_reading:
        total += ((module * sizes.helix_cos(one.module_mm) / one.module_mm - 1) / CENTRES_SHARE) ** 2
    return total


def least_squares_name(sizes: GearSizes) -> GearName:
    """The name of least (Δp_b/0.3 %)² + (ΔOD/0.5 %)² + (Δh/4 %)²: the handbook's rule."""
    return min(candidates(), key=lambda one: _misfit(one, sizes, with_reading=False))


def name_gear(sizes: GearSizes) -> Naming:
    """Which gear it is by all that was read. Raises InputError where nothing but the teeth was given."""
    if sizes.outside_mm is None and sizes.base_pitch_mm is None and sizes.module_by_centres is None:
        raise InputError("a gear by its teeth alone", "give its outside diameter, two spans, or its centres")
    found = [
        GearName(c.size, c.module_mm, c.form, 0.0, _misfit(c, sizes, with_reading=True)) for c in candidates()
    ]
    least = min(c.misfit for c in found)
    shares = [math.exp(-(c.misfit - least) / 2) for c in found]
    total = sum(shares)
    ranked = sorted(
        (
            GearName(c.size, c.module_mm, c.form, s / total, c.misfit)
            for c, s in zip(found, shares, strict=True)
        ),
        key=lambda c: -c.likelihood,
    )
    best = ranked[0]
    if best.misfit > FITS:
        return Naming(tuple(ranked[:5]), False, "", _trouble(best, sizes), sizes)
    read = sum(v is not None for v in (sizes.base_pitch_mm, sizes.outside_mm, sizes.depth_mm))
    sure = best.likelihood >= SURE and read >= 2
    return Naming(tuple(ranked[:5]), sure, "" if sure else _tell_apart(ranked, sizes), "", sizes)


def _trouble(best: GearName, sizes: GearSizes) -> str:
    """Why nothing fits: the teeth miscounted, if one more or less would fit."""
    for off in (-1, 1):
        other = replace(sizes, teeth=sizes.teeth + off)
        again = min(candidates(), key=lambda one: _misfit(one, other, with_reading=True))
        if _misfit(again, other, with_reading=True) < FITS / 2:
            return (
                f"With {sizes.teeth} teeth these sizes fit no standard gear; with {other.teeth} they fit "
                f"{again.words}: count again, with a mark on the first tooth."
            )
    return (
        f"These sizes fit no standard gear; nearest is {best.words}. Count the teeth again, read both spans "
        "in the middle of the flank, and see whether the wheel is helical or its tips were turned down."
    )


def _tell_apart(ranked: list[GearName], sizes: GearSizes) -> str:
    """What would tell the first two apart, and the figure of each."""
    one, other = ranked[:2]
    a, b = one.spur(sizes.teeth), other.spur(sizes.teeth)
    if sizes.base_pitch_mm is None:
        over = sizes.span_teeth or a.span_teeth
        return (
            f"Read the span over {over} teeth and over {over + 1}: the difference is "
            f"{a.base_pitch_mm:.3f} mm for {one.words}, {b.base_pitch_mm:.3f} mm for {other.words}."
        )
    if sizes.depth_mm is None and abs(one.form.depth * one.module_mm - other.form.depth * other.module_mm) > (
        DEPTH_SHARE * one.module_mm
    ):
        return (
            f"Read the whole depth: {one.form.depth * one.module_mm:.2f} mm for {one.words}, "
            f"{other.form.depth * other.module_mm:.2f} mm for {other.words}."
        )
    if sizes.outside_mm is None:
        return (
            f"Read the outside diameter: {sizes.outside_of(one):.2f} mm for {one.words}, "
            f"{sizes.outside_of(other):.2f} mm for {other.words}."
        )
    return (
        f"{one.words} or {other.words}: roll it in mesh with a wheel that is known, or read the spans again "
        "at three places."
    )


def helix_of_outside(teeth: int, normal_module_mm: float, outside_mm: float) -> float:
    """Helix angle, degrees, by the outside diameter: cos β = z m_n/(OD − 2 m_n); weak under 15°. Raises
    InputError where the diameter is less than a spur gear's.
    """
    cos = teeth * normal_module_mm / (outside_mm - 2 * normal_module_mm)
    if not 0 < cos <= 1:
        raise InputError(
            f"{outside_mm:g} mm outside with {teeth} teeth of {normal_module_mm:g}",
            "a helical wheel is larger than the spur one of its teeth",
        )
    return math.degrees(math.acos(cos))


def helix_of_trace(trace_deg: float, normal_module_mm: float, outside_mm: float) -> float:
    """Helix angle, degrees, by the inked tip's trace on paper, which shows the angle at the outside."""
    return math.degrees(
        math.atan(math.tan(math.radians(trace_deg)) * (outside_mm - 2 * normal_module_mm) / outside_mm)
    )


def helical_centres_mm(normal_module_mm: float, teeth: int, mate_teeth: int, helix_deg: float) -> float:
    """m_n (z₁ + z₂)/(2 cos β)."""
    return normal_module_mm * (teeth + mate_teeth) / (2 * math.cos(math.radians(helix_deg)))
