"""Where a machine is oiled, with what, how much: usual points by family, grease of a bearing, a pump's lines.

Kinds by ISO VG (ISO 3448) or NLGI. What a machine's own plate says stands above all of it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from msgspec import Struct

from trebb.core.errors import InputError

FREE_SHARE = 0.28  # of the ring between bore and outside, in an open single-row ball bearing (practice)
PACKED_SHARE = 0.3  # of the free space, first packing of a spindle's bearing; the rest is room to run
GREASE_G_PER_MM2 = (
    0.005  # grease in grams = 0.005 × outside × width, mm: bearing handbooks' rule for renewing
)
PUMP_BAR = 1.0  # a plunger pump on open lines (practice); what a line is lifted by is taken from it
OIL_DENSITY = 880.0  # kg/m³, mineral way oil
LEAST_LINE = 0.05  # share of a pump's oil below which a line starves

SPINDLE_SCHOOLS = (
    "A spindle's bearings are packed with a little good grease, or fed with light oil that drains through. "
    "Grease where it ran on grease, is sealed below, and does not run fast for hours: then a third of "
    "the free "
    "space, no more, or it runs hot. Oil where it came with a feed and a drain, or runs fast and warm: "
    "then the "
    "drain must be open. Not both: oil washes grease out."
)


class Point(Struct, frozen=True):
    """A place that is oiled as it usually is: words, kind, how, how often, why; keys as stated."""

    key: str
    where: str
    kind: str
    how: str
    often: str
    note: str = ""


USUAL: Mapping[str, tuple[Point, ...]] = {
    "spindle": (
        Point("front", "Front bearing", "nlgi2", "packed", "at rebuild", "Or VG 22 by drip where it drains."),
        Point("rear", "Rear bearing", "nlgi2", "packed", "at rebuild"),
    ),
    "headstock": (Point("gears", "Headstock gears, to the sight glass", "vg68", "splash", "yearly"),),
    "ways": (
        Point("bed", "Bed ways, wiped clean first", "vg68", "ball", "daily"),
        Point("wipers", "Felt wipers of the saddle", "vg68", "wick", "weekly"),
    ),
    "gib": (Point("slide", "Slide, both ends of its stroke", "vg68", "ball", "daily"),),
    "screw_drive": (
        Point("screw", "Screw and nut", "vg68", "ball", "weekly"),
        Point("bearing", "Screw's end bearing", "vg68", "ball", "weekly"),
    ),
    "tailstock": (Point("quill", "Quill and its screw", "vg32", "ball", "weekly"),),
    "train": (Point("wheels", "Wheels and their studs", "vg150", "ball", "weekly"),),
    "gear": (Point("teeth", "Teeth", "vg150", "ball", "weekly"),),
    "shaft": (Point("bores", "Both bores", "vg68", "ball", "weekly"),),
    "cone": (Point("pivot", "Lever's pivot only: the lining stays dry", "vg32", "ball", "monthly"),),
    "tram": (Point("ring", "Head's ring and worm", "vg68", "ball", "monthly"),),
}


def grease_packed_cm3(bore_mm: float, outer_mm: float, width_mm: float) -> float:
    """Grease of a bearing's first packing, cm³: three tenths of the free space between its rings. Raises
    InputError for sizes that are no bearing's.

    Free space taken as 0.28 of the ring π/4·B·(D² − d²) of an open single-row ball bearing.
    """
    if not 0 < bore_mm < outer_mm or width_mm <= 0:
        raise InputError(
            f"a bearing {bore_mm:g} × {outer_mm:g} × {width_mm:g} mm",
            "bore, then a larger outside, then width",
        )
    ring = math.pi / 4 * width_mm * (outer_mm**2 - bore_mm**2) / 1000
    return PACKED_SHARE * FREE_SHARE * ring


def grease_renewed_g(outer_mm: float, width_mm: float) -> float:
    """Grease to renew a bearing's, grams: 0.005 × outside × width. Raises InputError for no size."""
    if outer_mm <= 0 or width_mm <= 0:
        raise InputError(f"{outer_mm:g} × {width_mm:g} mm", "outside and width, more than nothing")
    return GREASE_G_PER_MM2 * outer_mm * width_mm


class Lines(Struct, frozen=True):
    """A pump's lines: share of each, those that starve, those without a meter."""

    shares: Mapping[str, float]
    starved: tuple[str, ...]
    open_ones: tuple[str, ...]


def metered(drops: Mapping[str, float | None]) -> Lines:
    """Shares of a pump's lines by what their meters give, drops an hour; None has no meter: oil takes the
    easiest way, and all others starve.
    """
    open_ones = tuple(k for k, v in drops.items() if v is None or v <= 0)
    total = sum(v for v in drops.values() if v)
    shares = {k: (v or 0.0) / total for k, v in drops.items()} if total else dict.fromkeys(drops, 0.0)
    starved = tuple(k for k, s in shares.items() if k not in open_ones and (s < LEAST_LINE or open_ones))
    return Lines(shares, starved, open_ones)


class Pipe(Struct, frozen=True):
    """An oil line from a manifold: its bore and length, and how far its end lies above it, mm; below is less
    than nothing.
    """

    bore_mm: float
    long_mm: float
    up_mm: float = 0.0


def by_pipe(pipes: Mapping[str, Pipe], pressure_bar: float = PUMP_BAR) -> Mapping[str, float]:
    """Shares of the oil that open lines of one manifold take by their pipes alone. Raises InputError for a
    pipe of no size.

    Laminar flow (Hagen and Poiseuille): Q = π d⁴ (p − ρ g h) / (128 μ L); of lines of one oil the viscosity
    falls out. A line that the pressure does not lift oil through takes none.
    """
    flows = {}
    for name, pipe in pipes.items():
        if pipe.bore_mm <= 0 or pipe.long_mm <= 0:
            raise InputError(f"{name}: {pipe.bore_mm:g} × {pipe.long_mm:g} mm", "bore and length of its line")
        head_bar = OIL_DENSITY * 9.81 * pipe.up_mm / 1000 / 1e5
        flows[name] = max(0.0, pressure_bar - head_bar) * pipe.bore_mm**4 / pipe.long_mm
    total = sum(flows.values())
    return {name: flow / total if total else 0.0 for name, flow in flows.items()}


def meters_for(shares: Mapping[str, float], wanted: Mapping[str, float]) -> Mapping[str, float]:
    """What share of its open flow a meter must let through on each line, so that all get what is wanted of
    each (drops, or any other measure in proportion): 1 on the line that gets least for it, which needs none.
    A line that gets nothing open is left out: no meter helps it.
    """
    rates = {name: shares[name] / wanted[name] for name in shares if shares[name] > 0 and wanted[name] > 0}
    least = min(rates.values(), default=0.0)
    return {name: least / rate for name, rate in rates.items()}


DROP_CM3 = 0.05  # twenty drops of oil to the cubic centimetre (practice)
TRAY_FULL = 2 / 3  # of its height: above that it slops when the carriage is run


class Tray(Struct, frozen=True):
    """A tray for what drips: what it holds when it is to be emptied, cm³; its blank, mm, each corner notched
    by its height; hours of running until then, None where no drops are stated.
    """

    holds_cm3: float
    blank_mm: tuple[float, float]
    hours: float | None


def tray(long_mm: float, wide_mm: float, high_mm: float, drops_an_hour: float = 0.0) -> Tray:
    """A tray of folded sheet, by its inside. Raises InputError for one without a floor or without sides."""
    if min(long_mm, wide_mm, high_mm) <= 0:
        raise InputError(
            "a tray without a floor or without sides", "length, width and height, each above nothing"
        )
    holds = long_mm * wide_mm * high_mm * TRAY_FULL / 1000
    blank = (long_mm + 2 * high_mm, wide_mm + 2 * high_mm)
    return Tray(holds, blank, holds / (drops_an_hour * DROP_CM3) if drops_an_hour else None)


def usual_points(families: Sequence[tuple[str, str]]) -> list[tuple[str, Point]]:
    """Usual points of a machine's assemblies (key, family), in their order."""
    return [(key, point) for key, family in families for point in USUAL.get(family, ())]
