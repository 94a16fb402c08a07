"""A lathe's bed with its headstock, tailstock and feet: one machine in space.

x runs along the bed from its headstock end; front is the operator's side. Roll
is + where the top leans to the front (rear way high), yaw + where the spindle's
axis points to the rear at its far end, pitch + where it rises. What moves the
tool to the front makes the work larger, on diameter by twice as much. Angles
are in mrad, which is mm a metre; wear is metal gone, mm.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import cached_property, lru_cache

from msgspec import Struct, field

from trebb.core.alignment import Feet
from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.metals import STEEL_MODULUS_MPA
from trebb.core.units import INCH_MM

Coefficients = dict[str, float]

WAYS = ("front", "rear")
FEET = {
    "tail_front": "tailstock end, front",
    "tail_rear": "tailstock end, rear",
    "head_front": "headstock end, front",
    "head_rear": "headstock end, rear",
}
# What 1 mm under a foot does to the twist (tailstock's end against headstock's): − lowers the rear way there.
FOOT_SIGN = {"tail_front": -1.0, "tail_rear": 1.0, "head_front": 1.0, "head_rear": -1.0}
ACROSS_FROM = {
    "tail_front": "tail_rear",
    "tail_rear": "tail_front",
    "head_front": "head_rear",
    "head_rear": "head_front",
}
# Beds answer a shim at their foot less than in full: they are stiff, and stand on more than four corners.
ANSWER_MEAN, ANSWER_SD = 0.80, 0.17
REACH_MM = 300.0  # tapers are given for this length, as acceptance tests do
FIELD = 6.0  # what runs along a bed differs from place to place only so much, however worn it is
# What the tool pushes with in a light finishing cut; a stub gives way by the beam formula.
TOOL_N = 10.0
WEAR_REACH = 2.0  # stations over which wear and bend are alike


class Bed(Struct, frozen=True, dict=True):
    """A lathe's bed as stated, mm.

    Parameters
    ----------
    base_mm, steps : the level's feet are `base_mm` apart and are stepped so many times.
    gauge_mm : between the middles of front and rear way.
    across_mm, along_mm : between the machine's feet, front to back and along.
    tool_height_mm : of the tool above the feet; `centre_mm` of the centres above the ways.
    nose_mm : from the first station to the spindle's nose.
    near_mm, far_mm : lands of the two-collar cut, from the nose; `stub_mm` the stub's diameter.
    centres_mm : between centres, for the tailstock's set-ups.
    face_radius_mm : radius of the facing test.
    lever_mm : from the headstock's pivot to its jacking screw.
    quill_mm : how far the quill is run out.
    stock_mm : shim thicknesses at hand; `travel_mm` what a foot's bolt takes.
    pass_mm : what one pass of the scraper takes.
    lies : what lay under the feet before anything was tried: foot and thickness.
    shims : put in before each trial cut, in order: foot and thickness (less than nothing: taken out).
    wander_mm, wander_sd_mm : sd of the tailstock from one tightening to the next, as found, and how well
        that is known.
    """

    base_mm: float = 150.0
    steps: int = 8
    gauge_mm: float = 180.0
    across_mm: float = 320.0
    along_mm: float = 1100.0
    tool_height_mm: float = 620.0
    centre_mm: float = 190.0
    nose_mm: float = 60.0
    near_mm: float = 25.0
    far_mm: float = 25.0 + 250.0
    stub_mm: float = 50.0
    centres_mm: float = 700.0
    face_radius_mm: float = 100.0
    lever_mm: float = 420.0
    quill_mm: float = 80.0
    stock_mm: tuple[float, ...] = (0.02, 0.03, 0.05, 0.10, 0.20, 0.50)
    travel_mm: float = 3.0
    pass_mm: float = 0.006
    lies: tuple[tuple[str, float], ...] = field(default=())
    shims: tuple[tuple[str, float], ...] = field(default=())
    wander_mm: float = 0.004
    wander_sd_mm: float = 0.008

    def __post_init__(self) -> None:
        if not self.far_mm > self.near_mm:
            raise InputError(
                f"a far land at {self.far_mm:g} mm, a near one at {self.near_mm:g} mm",
                "the far land lies further from the chuck",
            )
        pack: dict[str, float] = dict(self.lies)
        for foot, mm in self.shims:
            pack[foot] = pack.get(foot, 0.0) + mm
            if mm > 0 and pack[foot] > self.travel_mm + 1e-9:  # what lies there already may be more
                raise InputError(
                    f"{pack[foot]:.2f} mm under the foot at the {FEET[foot]}",
                    f"its bolt takes {self.travel_mm:g} mm in all; lower the other feet instead, or state "
                    "what the bolt takes",
                )
            if pack[foot] < -1e-9:
                raise InputError(
                    f"{-mm:.2f} mm taken out at the {FEET[foot]}", f"only {pack[foot] - mm:.2f} mm lie there"
                )

    @property
    def feet(self) -> Feet:
        """Where it stands."""
        return Feet(self.across_mm, self.along_mm, self.tool_height_mm)

    @property
    def apart_mm(self) -> float:
        """Between the lands."""
        return self.far_mm - self.near_mm

    @cached_property
    def stations(self) -> tuple[float, ...]:
        """Where the points lie that a level steps over, mm from the first."""
        return tuple(k * self.base_mm for k in range(self.steps + 1))

    @property
    def length_mm(self) -> float:
        """From the first station to the last."""
        return self.steps * self.base_mm

    def pack_mm(self, foot: str) -> float:
        """What lies under a foot: what lay there, and by the trials."""
        return sum(mm for f, mm in (*self.lies, *self.shims) if f == foot)

    def spring_mm(self, at_mm: float) -> float:
        """How much larger a land comes out for the stub giving way under the tool, on diameter, mm, for
        `TOOL_N`.

        A round cantilever from the nose, F·L³/(3·E·I), I = π·d⁴/64 (any handbook's beam table), twice on
        diameter.
        """
        inertia = math.pi * self.stub_mm**4 / 64
        return 2 * TOOL_N * at_mm**3 / (3 * STEEL_MODULUS_MPA * inertia)

    def shimmed(self, trials: int) -> float:
        """Twist, mrad, that the first so many trial shims would make were the bed to answer in full."""
        return sum(FOOT_SIGN[foot] * mm for foot, mm in self.shims[:trials]) * 1000 / self.across_mm

    # what a place depends on --------------------------------------------------------------------

    def height(self, way: str, x_mm: float) -> Coefficients:
        """Height of a way at x above the straight line that its unworn ends once made, mm."""
        result = {f"bend.{k}": share for k, share in self._shares(x_mm) if 0 < k < self.steps}
        result.update({f"{way}.{k}": -share for k, share in self._shares(x_mm)})
        return result

    def roll(self, x_mm: float) -> Coefficients:
        """Roll of the carriage at x against the bed's headstock end, mrad."""
        result = {"twist": x_mm / self.along_mm}
        for k, share in self._shares(x_mm):
            result[f"front.{k}"] = 1000 * share / self.gauge_mm
            result[f"rear.{k}"] = -1000 * share / self.gauge_mm
        return result

    def tool_out(self, x_mm: float) -> Coefficients:
        """How far the tool stands toward the front at x, mm: twist about the feet, wear about the ways, the
        ways' own side bend.

        A way worn in front lets the saddle roll to the front.
        """
        result = {"twist": self.tool_height_mm * x_mm / self.along_mm / 1000}
        for k, share in self._shares(x_mm):
            result[f"front.{k}"] = self.centre_mm * share / self.gauge_mm
            result[f"rear.{k}"] = -self.centre_mm * share / self.gauge_mm
            if 0 < k < self.steps:
                result[f"side.{k}"] = share
        return result

    def work(self, from_mm: float, to_mm: float, *, between_centres: bool = False) -> Coefficients:
        """Diameter at `to_mm` less diameter at `from_mm`, both from the nose, as the tool's path and the
        work's axis make it.

        Held in the chuck the axis is the spindle's; between centres it runs to the tailstock's point.
        """
        result = minus(self.tool_out(self.nose_mm + to_mm), self.tool_out(self.nose_mm + from_mm), 2.0)
        if between_centres:
            result["tail_side"] = 2 * (to_mm - from_mm) / self.centres_mm
        else:
            result["yaw"] = 2 * (to_mm - from_mm) / 1000
        return result

    def level_twist(self, first: int, last: int) -> Coefficients:
        """Twist as a level across shows it between two stations, mm in 1000 mm, + to the front: the bed's own
        and what the ways' wear tips the level by.
        """
        rolled = minus(self.roll(self.stations[last]), self.roll(self.stations[first]))
        return scaled(rolled, 1000 / (self.stations[last] - self.stations[first]))

    def taper(self) -> Coefficients:
        """Taper of work in the chuck on diameter in `REACH_MM`, as two lands show it, by source."""
        return scaled(self.work(self.near_mm, self.far_mm), REACH_MM / self.apart_mm)

    def set_over(self) -> Coefficients:
        """How far the tailstock stands off for a piece between centres, + to the rear, by source: half of
        what the piece comes out larger at its end.
        """
        return scaled(self.work(0.0, self.centres_mm, between_centres=True), 0.5)

    def carriage_height(self, x_mm: float) -> Coefficients:
        """Height of the tool's path: of the ways' mean."""
        return plus(scaled(self.height("front", x_mm), 0.5), scaled(self.height("rear", x_mm), 0.5))

    def _shares(self, x_mm: float) -> list[tuple[int, float]]:
        """Stations on both sides of x, each with its share."""
        at = min(max(x_mm / self.base_mm, 0.0), float(self.steps))
        low = min(int(at), self.steps - 1)
        return [(low, 1 - (at - low)), (low + 1, at - low)]


def plus(a: Mapping[str, float], b: Mapping[str, float], factor: float = 1.0) -> Coefficients:
    """a + factor·b."""
    result = dict(a)
    for key, value in b.items():
        result[key] = result.get(key, 0.0) + factor * value
    return result


def minus(a: Mapping[str, float], b: Mapping[str, float], factor: float = 1.0) -> Coefficients:
    """factor·(a − b)."""
    return scaled(plus(a, b, -1.0), factor)


def scaled(a: Mapping[str, float], factor: float) -> Coefficients:
    """factor·a."""
    return {key: factor * value for key, value in a.items()}


USUAL_BED = Bed(base_mm=6 * INCH_MM)


@lru_cache(maxsize=32)
def bed_model(bed: Bed) -> ErrorModel:
    """Sources of error of a lathe in space with their prior: what decades, a floor and a move do to it.

    The tailstock's wander is found outside, from tightenings that are read again, and comes in with the bed.
    """
    inner = range(1, bed.steps)
    every = range(bed.steps + 1)
    sources = [
        Source("twist", "twist of the bed", 0.0, 0.30),
        *[Source(f"bend.{k}", f"bend of the bed at station {k}", 0.0, 0.020, loose=FIELD) for k in inner],
        *[
            Source(f"{way}.{k}", f"wear of the {way} way at station {k}", 0.015, 0.030, True, loose=FIELD)
            for way in WAYS
            for k in every
        ],
        *[Source(f"side.{k}", f"side bend of the ways at station {k}", 0.0, 0.008, loose=1) for k in inner],
        Source("yaw", "headstock across", 0.0, 0.060),
        Source("pitch", "headstock in height", 0.0, 0.080),
        Source("cross", "cross slide out of square", 0.0, 0.060),
        Source("bar_side", "test bar, sideways", 0.0, 0.006, loose=1, group="bar"),
        Source("bar_high", "test bar, in height", 0.0, 0.006, loose=1, group="bar"),
        Source("spring", "force of the tool on the stub", 1.0, 0.5, True, loose=1),
        Source("answer", "bed's answer to a shim", ANSWER_MEAN, ANSWER_SD, True, loose=1),
        Source("tail_side", "tailstock across", 0.0, 0.060),
        Source("tail_high", "tailstock in height", 0.0, 0.050),
        Source("tail_shift", "tailstock's shift on tightening", 0.0, 0.030),
        Source("tail_used", "tailstock's shift in use", 0.0, 0.012, loose=1),
        Source("wander", "tailstock's wander", bed.wander_mm, bed.wander_sd_mm, True, loose=1),
        Source("tail_key", "tailstock's key in its slot", 0.04, 0.06, True),
        Source("quill_side", "quill across", 0.0, 0.120),
        Source("quill_high", "quill in height", 0.0, 0.120),
        *[Source(f"foot.{foot}", f"foot at the {words}", 0.01, 0.06, True) for foot, words in FEET.items()],
        Source("stand_flex", "give of the stand", 0.02, 0.03, True),
    ]
    ties = {}
    for names, near in (
        ([f"bend.{k}" for k in inner], WEAR_REACH),
        ([f"side.{k}" for k in inner], WEAR_REACH),
        *(([f"{way}.{k}" for k in every], WEAR_REACH) for way in WAYS),
    ):
        ties.update(
            {
                (a, b): math.exp(-(j - i) / near)
                for i, a in enumerate(names)
                for j, b in enumerate(names)
                if j > i
            }
        )
    return ErrorModel(tuple(sources), ties)
