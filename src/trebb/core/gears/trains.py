"""Change gears: every train of the wheels at hand that cuts a lead, its error, and whether it meshes and
clears.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.dual_units import both_lengths
from trebb.core.errors import InputError
from trebb.core.units import INCH_MM

if TYPE_CHECKING:
    from numpy.typing import NDArray

# A wheel's rim must miss the other stud's shaft: boss and washer take about this many teeth's height.
CLEAR_TEETH = 15
FEWEST_TEETH = 12
# Beyond this the train is no longer the thread: 200 ppm is 0.05 mm in 250.
MOST_PPM = 2000.0


class Banjo(Struct, frozen=True):
    """Where wheels can stand: module, stud to lead screw centre distance, and what else turns the lead screw.

    `fixed_ratio` is lead screw turns per spindle turn with equal wheels on (tumbler, gearbox).
    """

    module_mm: float = 1.5
    span_mm: float = 150.0
    reach_mm: float = 230.0  # longest the banjo's slot lets the compound stud stand from the lead screw
    fixed_ratio: Fraction = Fraction(1)


class Train(Struct, frozen=True):
    """Drivers and driven in order: the spindle's stud turns `drivers[0]`, the lead screw carries
    `driven[-1]`.

    `pitch_mm` is the lead cut; `error_ppm` + too long. `trouble` why it will not
    mesh or clear, or "".
    """

    drivers: tuple[int, ...]
    driven: tuple[int, ...]
    ratio: Fraction
    pitch_mm: float
    error_ppm: float
    trouble: str = ""

    @property
    def is_simple(self) -> bool:
        """One driver, one driven, idlers between."""
        return len(self.drivers) == 1

    def error_mm(self, length_mm: float) -> float:
        """Error over a length of thread, mm, + too long."""
        return self.error_ppm * 1e-6 * length_mm

    @property
    def words(self) -> str:
        """As written on a door: 40/65, or 60/127 × 60/60."""
        return " × ".join(f"{a}/{b}" for a, b in zip(self.drivers, self.driven, strict=True))


def train_ratio(drivers: Iterable[int], driven: Iterable[int]) -> Fraction:
    """Lead screw turns per spindle turn; idlers do not count."""
    return Fraction(math.prod(drivers), math.prod(driven))


def pitch_cut_mm(lead_screw_mm: Fraction, drivers: Sequence[int], driven: Sequence[int]) -> float:
    """Lead cut by a train, mm."""
    return float(lead_screw_mm * train_ratio(drivers, driven))


def error_ppm(cut_mm: float, wanted_mm: float) -> float:
    """(cut − wanted) / wanted, parts per million."""
    return (cut_mm - wanted_mm) / wanted_mm * 1e6


def meshes(drivers: Sequence[int], driven: Sequence[int], banjo: Banjo) -> str:
    """Why a train will not mesh or clear, or "".

    A simple train is joined by an idler, which fills any gap. In a compound
    train the stud pair (driven[0] with drivers[1]) must reach both ends: the two
    centre distances and the span make a triangle. Each wheel's rim must miss the
    shaft that its neighbour's mate turns on.
    """
    m = banjo.module_mm
    if len(drivers) == 1:
        if m * (drivers[0] + driven[0]) / 2 > banjo.span_mm:
            return (
                f"{drivers[0]} and {driven[0]} foul each other: the shafts are only {banjo.span_mm:.0f} "
                "mm apart"
            )
        return ""
    a, b = drivers
    c, d = driven
    first, second = m * (a + c) / 2, m * (b + d) / 2
    if a + c < b + CLEAR_TEETH:
        return (
            f"the {b} rubs the stud that carries the {a}: change the two drivers over, or take a smaller "
            f"wheel than {b}"
        )
    if b + d < c + CLEAR_TEETH:
        return (
            f"the {c} rubs the lead screw's end: change the two driven over, or take a smaller wheel than {c}"
        )
    if first + second < banjo.span_mm:
        return (
            f"the wheels do not reach: {both_lengths(first + second)} for a span of "
            f"{both_lengths(banjo.span_mm)}"
        )
    if second > banjo.reach_mm or abs(first - second) > banjo.span_mm:
        return "the stud would stand beyond the end of the banjo's slot"
    return ""


def _check(wheels: Sequence[int]) -> None:
    if len(wheels) < 2:
        raise InputError(f"{len(wheels)} wheels", "list the change gears at hand, such as 20 24 28 30 127")
    small = [w for w in wheels if not FEWEST_TEETH <= w <= 200]
    if small:
        raise InputError(f"a wheel of {small[0]} teeth", f"change gears have from {FEWEST_TEETH} to 200")


def _pairs(wheels: NDArray[np.int64]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    i, j = np.triu_indices(len(wheels), 1)
    return i, j


def _exact_first(train: Train) -> tuple[bool, float, int, int]:
    """What trains are put in order by: those that mesh, the most exact, of fewest and smallest wheels."""
    return (
        bool(train.trouble),
        round(abs(train.error_ppm), 3),
        len(train.drivers),
        max(train.drivers + train.driven),
    )


def find_trains(
    lead_screw_mm: Fraction,
    wanted_mm: Fraction | float,
    wheels: Sequence[int],
    banjo: Banjo | None = None,
    *,
    most_ppm: float = 50.0,
    most: int = 200,
) -> list[Train]:
    """Every two- and four-wheel train within `most_ppm` of a lead, the most exact first, those that mesh
    before those that do not. Raises InputError for no lead.

    Parameters
    ----------
    wheels : at hand; one that is owned twice is listed twice.
    wanted_mm : the *lead*, never the pitch of a multi-start thread; exact as a Fraction where it is known so.
    """
    _check(wheels)
    if not wanted_mm > 0:
        raise InputError("a lead of nothing", "give the thread's lead")
    banjo = banjo or Banjo()
    need = float(wanted_mm) / float(lead_screw_mm * banjo.fixed_ratio)
    found: dict[tuple[tuple[int, ...], tuple[int, ...]], Train] = {}
    teeth = np.array(sorted(wheels), dtype=np.int64)
    limit = most_ppm * 1e-6

    def add(drivers: tuple[int, ...], driven: tuple[int, ...]) -> None:
        if (drivers, driven) in found:
            return
        ratio = train_ratio(drivers, driven) * banjo.fixed_ratio
        cut = lead_screw_mm * ratio
        exact = isinstance(wanted_mm, Fraction)
        ppm = float((cut - wanted_mm) / wanted_mm) * 1e6 if exact else error_ppm(float(cut), float(wanted_mm))
        found[drivers, driven] = Train(
            drivers, driven, ratio, float(cut), ppm, meshes(drivers, driven, banjo)
        )

    i, j = np.nonzero(np.abs(teeth[:, None] / teeth[None, :] / need - 1) <= limit)
    for a, b in zip(i, j, strict=True):
        if a != b:
            add((int(teeth[a]),), (int(teeth[b]),))
    p, q = _pairs(teeth)
    product = teeth[p] * teeth[q]
    over, under = np.nonzero(np.abs(product[:, None] / product[None, :] / need - 1) <= limit)
    for x, y in zip(over, under, strict=True):
        a, b, c, d = p[x], q[x], p[y], q[y]
        if len({int(a), int(b), int(c), int(d)}) < 4:
            continue
        options = [
            ((int(teeth[u]), int(teeth[v])), (int(teeth[r]), int(teeth[s])))
            for u, v in ((a, b), (b, a))
            for r, s in ((c, d), (d, c))
        ]
        add(*min(options, key=lambda o: (bool(meshes(o[0], o[1], banjo)), o)))
    return sorted(found.values(), key=_exact_first)[:most]


def trains_for(
    lead_screw_mm: Fraction, wanted_mm: Fraction | float, wheels: Sequence[int], banjo: Banjo | None = None
) -> tuple[list[Train], float]:
    """The closest trains, widening what is allowed from exact until one is found; and the limit in ppm it
    took (0: exact ones). Leads in mm.
    """
    for limit in (0.001, 50.0, 200.0, MOST_PPM):
        trains = find_trains(lead_screw_mm, wanted_mm, wheels, banjo, most_ppm=limit)
        if any(not t.trouble for t in trains):
            return trains, 0.0 if limit < 1 else limit
    return find_trains(lead_screw_mm, wanted_mm, wheels, banjo, most_ppm=MOST_PPM), MOST_PPM


def feed_mm(
    train: Fraction, shaft_ratio: Fraction, apron_ratio: Fraction, rack_module_mm: float, pinion_teeth: int
) -> float:
    """Carriage travel per spindle turn, mm: gear ratios × the rack pinion's rolling, π m z."""
    return float(train * shaft_ratio * apron_ratio) * math.pi * rack_module_mm * pinion_teeth


def finer_feeds(
    now_mm: float, now: Fraction, wheels: Sequence[int], banjo: Banjo | None = None, *, most: int = 8
) -> list[tuple[float, Train]]:
    """Feeds finer than today's that the wheels can give by adding a compound pair, coarsest first.

    `now_mm` is today's feed per turn with the train of ratio `now`.
    """
    _check(wheels)
    banjo = banjo or Banjo()
    teeth = sorted(set(wheels))
    small, large = teeth[: max(2, len(teeth) // 3)], teeth[-max(2, len(teeth) // 3) :]
    found: dict[float, Train] = {}
    counts = {t: list(wheels).count(t) for t in teeth}
    for a in small:
        for b in small:
            for c in large:
                for d in large:
                    if any([a, b, c, d].count(t) > counts[t] for t in (a, b, c, d)) or meshes(
                        (a, b), (c, d), banjo
                    ):
                        continue
                    ratio = train_ratio((a, b), (c, d))
                    feed = now_mm * float(ratio / now)
                    if feed < 0.8 * now_mm:
                        found.setdefault(round(feed, 4), Train((a, b), (c, d), ratio, feed, 0.0))
    kept: list[tuple[float, Train]] = []
    for feed in sorted(found, reverse=True):
        if not kept or feed < 0.85 * kept[-1][0]:
            kept.append((feed, found[feed]))
    return kept[:most]


def feeds_near(
    now_mm: float, now: Fraction, wanted_mm: float, wheels: Sequence[int], banjo: Banjo | None = None
) -> list[Train]:
    """Trains whose feed comes near to one wanted, nearest first, that mesh and clear before those that
    do not.

    `now_mm` is the feed per turn as measured with the train of ratio `now`: whatever else turns in the lathe
    is in it. The feed of each is its `pitch_mm`. Raises InputError for a feed of nothing.
    """
    if now_mm <= 0 or wanted_mm <= 0:
        raise InputError(
            "a feed of nothing", "measure the feed of one turn as it is, and give the one wanted"
        )
    per_ratio = Fraction(now_mm).limit_denominator(10**7) / now
    free = replace(banjo or Banjo(), fixed_ratio=Fraction(1))
    found: list[Train] = []
    for most_ppm in (1_000.0, 10_000.0, 50_000.0, 120_000.0):
        found = find_trains(per_ratio, wanted_mm, wheels, free, most_ppm=most_ppm)
        if any(not t.trouble for t in found):
            break
    return found


def transposing(wheels: Sequence[int], *, inch_screw: bool, found_exact: bool) -> str:
    """What cutting the other system rests on: the 127 that makes it exact, or the nearest stand-in."""
    other = "metric threads" if inch_screw else "inch threads"
    if 127 in wheels and not found_exact:
        return (
            "The 127 makes it exact only with other wheels beside it; the gearbox at another ratio may "
            "bring it within reach."
        )
    if 127 in wheels:
        return f"With the 127, {other} come out exact: an inch is 127/5 mm."
    if 63 in wheels:
        return (
            f"No 127: {other} through the 63 are 125 ppm long, 0.03 mm in 250; enough for a nut, not for "
            "a measuring screw."
        )
    return (
        f"No 127 among the wheels: {other} come out near, not exact. One 127-tooth wheel (or 63) mends that."
    )


def exact_lead(lead_mm: float) -> Fraction:
    """A lead as the exact fraction of a millimetre it is meant to be.

    Turns an inch in halves and their multiples are fractions of 25.4; else
    thousandths of a millimetre.
    """
    inch = Fraction(lead_mm / INCH_MM).limit_denominator(2_000)
    as_inch = inch * Fraction(254, 10)
    if abs(float(as_inch) - lead_mm) < 1e-9:
        return as_inch
    return Fraction(lead_mm).limit_denominator(100_000)
