"""Taper pins and their holes: ASME B18.8.2, named by the large end, 1:48; ISO 2339, by the small end, 1:50.

Lengths in the series' own unit, in or mm.
"""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.fits.drills import drill_under_in

INCH_RATIO, METRIC_RATIO = 48.0, 50.0
# Size → large end, in.
INCH_PINS: dict[str, float] = {
    "7/0": 0.0625, "6/0": 0.078, "5/0": 0.094, "4/0": 0.109, "3/0": 0.125, "2/0": 0.141, "0": 0.156,
    "1": 0.172, "2": 0.193, "3": 0.219, "4": 0.250, "5": 0.289, "6": 0.341, "7": 0.409, "8": 0.492,
    "9": 0.591, "10": 0.706,
}  # fmt: skip
# Size is the small end, mm.
METRIC_PINS: tuple[float, ...] = (1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 16, 20)
INCH_LENGTHS = tuple(0.5 + 0.25 * i for i in range(23))
METRIC_LENGTHS: tuple[float, ...] = (
    6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30, 32, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 85, 90,
    95, 100, 120,
)  # fmt: skip


class Series(Struct, frozen=True):
    """Inch or metric taper pins. `ratio`: 1 in so many on diameter; `unit` of every length."""

    key: str
    ratio: float
    unit: str
    lengths: tuple[float, ...]

    @property
    def sizes(self) -> tuple[str, ...]:
        """The sizes, smallest first."""
        return tuple(INCH_PINS) if self.key == "inch" else tuple(f"{d:g}" for d in METRIC_PINS)

    def large_end(self, size: str, length: float) -> float:
        """Large end of a pin: a metric one's hangs on its length. Raises InputError for no such size. All in
        one unit of length.
        """
        if size not in self.sizes:
            raise InputError(f"taper pin “{size}”", f"sizes are {', '.join(self.sizes)}")
        return INCH_PINS[size] if self.key == "inch" else float(size) + length / self.ratio

    def at_mouth(self, named: float, through: float) -> float:
        """The large end at a hub's mouth of a pin named by a diameter, through a hub of that outside: an inch
        pin is named by it, a metric one by the small end on the far side. All in one unit of length.
        """
        return named if self.key == "inch" else named + through / self.ratio

    def small_end(self, size: str, length: float) -> float:
        """Small end of a pin: an inch one's hangs on its length. All in one unit of length."""
        return self.large_end(size, length) - length / self.ratio


INCH = Series("inch", INCH_RATIO, "in", INCH_LENGTHS)
METRIC = Series("metric", METRIC_RATIO, "mm", METRIC_LENGTHS)


def hole_at_depth(large: float, depth: float, ratio: float = INCH_RATIO) -> float:
    """Hole at a depth from where it has the large diameter. All in one unit of length."""
    return large - depth / ratio


def drill_for_in(large_in: float, depth_in: float) -> tuple[str, float]:
    """Largest inch drill not over the hole's small side: its name and size, in. Raises InputError where
    there is none.
    """
    found = drill_under_in(hole_at_depth(large_in, depth_in))
    if found is None:
        raise InputError(f"a hole of {hole_at_depth(large_in, depth_in):.4f} in", "no drill is so small")
    return found


def drop(oversize: float, ratio: float = INCH_RATIO) -> float:
    """How much deeper a pin goes in a hole reamed over by so much on diameter. All in one unit of length."""
    return oversize * ratio


def stand_out(large: float, at_surface: float, ratio: float = INCH_RATIO) -> float:
    """How far a pin's large end stands out of a hole of that diameter at its mouth; + is proud. All in one
    unit of length.
    """
    return (large - at_surface) * ratio


class NextPin(Struct, frozen=True):
    """The pin for a worn hole; lengths in the series' unit.

    rests_at : diameter at the large side's mouth where a reamer put in first touches.
    to_clean : diameter there that cleans both mouths up.
    mouth : diameter to ream the large side's mouth to; `far` the other mouth then.
    deeper : how far to feed the reamer on from where it touched.
    stock_each_side : of the larger mouth.
    """

    hole_taper: float
    rests_at: float
    to_clean: float
    length: float
    size: str
    mouth: float
    far: float
    deeper: float
    stock_each_side: float


def next_pin(
    series: Series,
    hub: float,
    large_side: float,
    small_side: float,
    clean_up: float,
    stand_out_wanted: float,
    project: float,
    lengths: Sequence[float] | None = None,
) -> NextPin:
    """The smallest pin that, standing out by so much at its large end, is bigger than the worn hole and its
    clean-up at both mouths. All in one unit of length.

    Raises InputError where the mouths are the wrong way round, or no pin of the
    table is large or long enough.
    """
    if large_side < small_side:
        raise InputError(
            f"large side {large_side:g}, small side {small_side:g}",
            "the pin goes in from the larger mouth: measure both again, or swap them",
        )
    n = series.ratio
    rests = min(large_side, small_side + hub / n)
    wanted = max(large_side, small_side + hub / n) + clean_up
    needed = stand_out_wanted + hub + project
    length = next((x for x in lengths or series.lengths if x >= needed - 1e-9), None)
    if length is None:
        raise InputError(f"a pin {needed:g} {series.unit} long", "none listed is so long")
    for size in series.sizes:
        mouth = series.large_end(size, length) - stand_out_wanted / n
        if mouth >= wanted - 1e-9:
            return NextPin(
                (large_side - small_side) / hub, rests, wanted, length, size, mouth, mouth - hub / n,
                (mouth - rests) * n, (mouth - rests) / 2,
            )  # fmt: skip
    raise InputError(f"a hole of {wanted:.4g} {series.unit}", f"the largest pin is {series.sizes[-1]}")


def is_pin_taper(large_side: float, small_side: float, hub: float, series: Series) -> bool:
    """Whether two mouths are a taper pin's hole at all: its taper within a quarter of the series'. All in
    one unit of length.
    """
    found = (large_side - small_side) / hub
    return abs(found * series.ratio - 1) <= 0.25
