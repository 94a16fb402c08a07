"""Shims by trial cuts: what to put under which foot, what the next cut will read, and what a cut says of
itself.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.alignment import Pack, shim_pack
from trebb.core.condition import Estimate, Quantity
from trebb.core.families.bed.cuts import MICROMETER_SD, taper_row
from trebb.core.families.bed.subject import ACROSS_FROM, ANSWER_MEAN, ANSWER_SD, FOOT_SIGN, REACH_MM, Bed

WRONG_FOOT_ODDS = 20.0


class Cut(Struct, frozen=True):
    """A two-collar cut as read: its number (0 before any shim), far less near diameter with its sd, mm."""

    number: int
    difference_mm: float
    sd_mm: float


class ShimAdvice(Struct, frozen=True):
    """What to do under the feet next.

    `foot` is "" where nothing is left to do; `mm` + to put in, − to take out.
    `now` is far less near diameter as the bed stands, `next` what the next cut
    will read. `limit_mm` holds for these lands.
    """

    foot: str
    mm: float
    pack: Pack
    now: Quantity
    next: Quantity
    answer: Quantity
    limit_mm: float

    @property
    def is_done(self) -> bool:
        """Nothing left that a shim could better."""
        return not self.foot


def shim_advice(bed: Bed, now: Estimate, limit_300_mm: float, repeats: int = 3) -> ShimAdvice:
    """The next shim by what this bed did so far.

    Parameters
    ----------
    limit_300_mm : taper allowed on diameter in 300 mm.
    repeats : readings that will be taken of each land.

    Notes
    -----
    The cut answers by k·r·s: k from feet and lands, s the shim, r how much of
    it this bed takes up, a source like any other with a prior that each trial
    narrows. The shim is the one that takes the mean of what is left out, as
    near as the stock allows.
    """
    n = len(bed.shims)
    answer = now.source("answer")
    left = now.combination(taper_row(bed, n).coefficients)
    limit = limit_300_mm * bed.apart_mm / REACH_MM
    noise = math.sqrt(2 / repeats) * MICROMETER_SD
    give = taper_row(bed, n).coefficients.get("spring", 0.0)
    spring = give * now.source("spring").value
    per_mm = bed.feet.taper_per_shim(bed.apart_mm) * max(answer.value, 0.2)
    wanted = -(left.value - spring) / per_mm  # + under the front foot at the tailstock's end
    foot, mm = _where(bed, wanted)
    if mm > 0 and bed.pack_mm(foot) + mm > bed.travel_mm:
        mm = bed.travel_mm - bed.pack_mm(foot)
    pack = shim_pack(min(abs(mm), 6 * max(bed.stock_mm)), bed.stock_mm)
    room = bed.travel_mm - bed.pack_mm(foot)
    aim = room
    while mm > 0 and pack.thickness_mm > room + 1e-9:  # rounded to the stock, it is more than the bolt takes
        aim -= min(bed.stock_mm)
        pack = shim_pack(max(0.0, aim), bed.stock_mm)
    if abs(left.value - spring) <= 0.8 * limit or pack.thickness_mm < 1e-9:
        return ShimAdvice(
            "",
            0.0,
            Pack((), 0.0),
            left,
            now.combination(taper_row(bed, n).coefficients, extra_sd=noise),
            answer,
            limit,
        )
    mm = math.copysign(min(pack.thickness_mm, bed.pack_mm(foot)) if mm < 0 else pack.thickness_mm, mm)
    after = replace(bed, shims=(*bed.shims, (foot, mm)))
    return ShimAdvice(
        foot,
        mm,
        pack,
        left,
        now.combination(taper_row(after, n + 1).coefficients, extra_sd=noise),
        answer,
        limit,
    )


def _where(bed: Bed, wanted: float) -> tuple[str, float]:
    """A wanted thickness (+ front at the tailstock's end) as a foot and a change: out from under the other
    foot first.
    """
    foot = "tail_front" if wanted > 0 else "tail_rear"
    other = ACROSS_FROM[foot]
    lying = bed.pack_mm(other)
    return (other, -min(lying, abs(wanted))) if lying > min(bed.stock_mm) / 2 else (foot, abs(wanted))


def wrong_foot(bed: Bed, cuts: Sequence[Cut]) -> int | None:
    """Number of a trial whose cut answers as if the shim lay under the foot across, or None.

    The change from one cut to the next is c·r, r the bed's answer as beds
    answer; under the other foot −c·r. The odds of the two decide, from
    `WRONG_FOOT_ODDS` on.
    """
    by_number = {cut.number: cut for cut in cuts}
    for i, (foot, mm) in enumerate(bed.shims, start=1):
        before, after = by_number.get(i - 1), by_number.get(i)
        if before is None or after is None:
            continue
        c = bed.feet.taper_per_shim(bed.apart_mm) * -FOOT_SIGN[foot] * mm
        seen = after.difference_mm - before.difference_mm
        sd = math.sqrt(before.sd_mm**2 + after.sd_mm**2 + (c * ANSWER_SD) ** 2)
        odds = ((seen - c * ANSWER_MEAN) ** 2 - (seen + c * ANSWER_MEAN) ** 2) / (2 * sd**2)
        if odds > math.log(WRONG_FOOT_ODDS):
            return i
    return None


# A cut that answers with less than this share of what its shim foretold, so many times running.
NO_ANSWER_SHARE, NO_ANSWER_TIMES = 1 / 6, 2


def is_in_air(bed: Bed, cuts: Sequence[Cut]) -> bool:
    """Whether the last shims changed next to nothing in the cut: the foot they lie under carries nothing.

    Counted are shims that a bed as beds are would have answered by more than three standard deviations of
    the two cuts; `NO_ANSWER_TIMES` of them running.
    """
    by_number = {cut.number: cut for cut in cuts}
    running = 0
    for i, (foot, mm) in enumerate(bed.shims, start=1):
        before, after = by_number.get(i - 1), by_number.get(i)
        if before is None or after is None:
            running = 0
            continue
        told = bed.feet.taper_per_shim(bed.apart_mm) * -FOOT_SIGN[foot] * mm * ANSWER_MEAN
        seen = after.difference_mm - before.difference_mm
        if abs(told) < 3 * math.hypot(before.sd_mm, after.sd_mm):
            continue
        running = running + 1 if seen * math.copysign(1, told) < NO_ANSWER_SHARE * abs(told) else 0
    return running >= NO_ANSWER_TIMES


def exchanged_lands(read: Cut, foretold: Quantity) -> bool:
    """Whether a cut disagrees with what everything else foretells, and would agree with near and far
    exchanged.
    """
    sd = math.hypot(foretold.sd, read.sd_mm)
    return (
        abs(read.difference_mm - foretold.value) > 4 * sd
        and abs(-read.difference_mm - foretold.value) < 2 * sd
    )
