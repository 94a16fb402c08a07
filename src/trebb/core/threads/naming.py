"""Which thread is this? Every thread that could be, by how well it explains what was measured."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cache
from typing import TYPE_CHECKING, TypeAlias

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.belief.naming import counts, fit_p_value, is_sure
from trebb.core.errors import InputError
from trebb.core.threads.forms import Form, Hand, ThreadSpec, ThreadSpecError
from trebb.core.threads.telling import Telling, crest_tolerance, tell_apart
from trebb.core.units import INCH_MM

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from trebb.core.threads.series import Series

Array: TypeAlias = "NDArray[np.float64]"

STARTS_SHARE = {1: 0.85, 2: 0.11, 3: 0.025, 4: 0.015}  # of the screws met
CALIPER_SD_MM = 0.02
CREST_WEAR_MM = 0.12  # mean loss of a crest that runs in the nut
TURNED_DOWN = 0.02  # share of screws whose crests somebody skimmed
GAUGE_SD_DEG = 1.0  # a pitch gauge held to the light tells 29° from 30° only by luck
ANGLE_SD_DEG = 0.4  # a protractor or a projected shadow, read twice
DEPTH_SD_MM = 0.06  # the rod of a caliper in the groove
DEEPER_MM, DEPTH_OWN_SD_MM = 0.03, math.hypot(DEPTH_SD_MM, 0.05)  # grooves are cut a little over, and vary
FLAT_SD_MM = 0.05
COUNT_ERROR = 0.01  # starts miscounted
UNLISTED_SHARE = 0.004  # screws that neither a series nor a usual mixture holds
# Counting, a turn or a crest is lost or counted twice so often; and twice as many were taken as were said.
COUNTED, MISCOUNT, DOUBLED = 10, 0.06, 0.01
SKIMMED_SD_MM = 0.15  # how far under its tolerance a crest lies that still fits its thread
NEAR_SDS = 6.0  # of a measured pitch: where rare threads are looked for
# A diameter this far under a thread's own is not that thread, whatever else fits: no crest wears so far.
OUT_MM = 1.2
GAUGES = (0.0, 29.0, 30.0, 55.0, 60.0)
# How a crest looks: worn trapezoids go sharp, V threads are sharp or nearly, Whitworth's are round.
_CREST = {
    "flat": {True: 0.86, False: 0.30},
    "sharp": {True: 0.10, False: 0.55},
    "round": {True: 0.04, False: 0.15},
}
CRESTS = tuple(_CREST)
# What happens when a tap, nut or bar of a known thread is offered.
TRIALS = ("goes on", "starts, then binds", "does not start")


class Seen(Struct, frozen=True):
    """What was measured or seen of a thread; None is not measured. Lengths mm, angles in degrees, included.

    `turns` and `crests` were counted for the lead and the pitch.

    `pitch_mm` is crest to crest, the mean over several; `lead_mm` the travel in
    a turn; `major_mm` over crests that never ran in the nut, `worn_major_mm`
    over ones that did; `gauge_deg` the pitch gauge that sat best;
    `tried` what was offered, with one of `TRIALS`.
    """

    turns: int = COUNTED
    crests: int = COUNTED
    lead_mm: float | None = None
    lead_sd_mm: float = 0.005
    pitch_mm: float | None = None
    pitch_sd_mm: float = 0.004
    major_mm: float | None = None
    worn_major_mm: float | None = None
    major_sd_mm: float = CALIPER_SD_MM
    angle_deg: float | None = None
    gauge_deg: float | None = None
    depth_mm: float | None = None
    crest_flat_mm: float | None = None
    crest: str = ""
    starts: int | None = None
    hand: Hand | None = None
    tried: tuple[tuple[ThreadSpec, str], ...] = ()

    @property
    def is_enough(self) -> bool:
        """Whether there is something to go by: a pitch or a lead, and a diameter."""
        return (self.lead_mm is not None or self.pitch_mm is not None) and (
            self.major_mm is not None or self.worn_major_mm is not None
        )


class Candidate(Struct, frozen=True):
    """A thread it could be, its likelihood (0 to 1), and its series (None where no standard has it).

    `is_as_measured` says that no usual thread explains the readings: its sizes are those read, crests worn
    or not.
    """

    spec: ThreadSpec
    likelihood: float
    series: Series | None
    is_as_measured: bool = False


class Naming(Struct, frozen=True):
    """Candidates, likeliest first; `telling` is None where one stands alone or nothing tells them apart."""

    candidates: tuple[Candidate, ...]
    telling: Telling | None = field(default=None)
    seen: Seen | None = None

    def miscount(self) -> str:
        """Whether the likeliest thread needs another count than the one taken: what to count again, or ""."""
        if self.seen is None:
            return ""
        spec = self.candidates[0].spec
        for what, value, own, sd, said in (
            ("turns", self.seen.lead_mm, spec.lead_mm, self.seen.lead_sd_mm, self.seen.turns),
            ("crests", self.seen.pitch_mm, spec.pitch_mm, self.seen.pitch_sd_mm, self.seen.crests),
        ):
            if value is None:
                continue
            counted = _count(value, own, sd, said)
            if counted != said and abs(value - own * counted / said) < 4 * sd:
                return (
                    f"Were it {spec.designation}, it was {counted} {what}, and {said} were counted: count "
                    "them again."
                )
        return ""

    @property
    def is_sure(self) -> bool:
        """Whether nothing else comes near the first within the measuring, and it fits what was measured as it
        was counted.
        """
        first = self.candidates[0]
        fits = fit_p_value(*_squares(first.spec, self.seen)) if self.seen is not None else 1.0
        return is_sure(first.likelihood, fits) and not first.is_as_measured and not self.miscount()


def _counts(said: int) -> dict[int, float]:
    """How many there may have been where so many were counted, each with its chance."""
    return {**{n: (1 - DOUBLED) * p for n, p in counts(said, MISCOUNT).items()}, 2 * said: DOUBLED}


def _count(value: float, own: float, sd: float, said: int) -> int:
    """The likeliest count for a mean over it to be this."""
    return max(
        _counts(said).items(), key=lambda c: math.log(c[1]) - ((value - own * c[0] / said) / sd) ** 2 / 2
    )[0]


def _squares(spec: ThreadSpec, seen: Seen) -> tuple[float, int]:
    """How far what was measured lies off a thread: the sum of squares in their sd, and of how many."""
    terms: list[float] = []
    for value, own, sd, said in (
        (seen.lead_mm, spec.lead_mm, seen.lead_sd_mm, seen.turns),
        (seen.pitch_mm, spec.pitch_mm, seen.pitch_sd_mm, seen.crests),
    ):
        if value is not None:
            terms.append((value - own * _count(value, own, sd, said) / said) / sd)
    for size in (seen.major_mm, seen.worn_major_mm):
        if size is not None:
            over, under = size - spec.major_mm, spec.major_mm - crest_tolerance(spec) - size
            terms.append(max(over / seen.major_sd_mm, under / SKIMMED_SD_MM, 0.0))
    if seen.angle_deg is not None:
        terms.append((seen.angle_deg - 2 * math.degrees(spec.form.half_angle)) / ANGLE_SD_DEG)
    if seen.depth_mm is not None:
        terms.append((seen.depth_mm - spec.depth_mm - DEEPER_MM) / DEPTH_OWN_SD_MM)
    return sum(t * t for t in terms), len(terms)


class _Table(Struct, frozen=True):
    """Every candidate as columns, for one pass of arithmetic."""

    specs: tuple[tuple[ThreadSpec, Series | None], ...]
    share: Array
    pitch: Array
    lead: Array
    starts: Array
    major: Array
    crest_tol: Array
    angle: Array
    depth: Array
    flat: Array
    translating: NDArray[np.bool_]
    round_: NDArray[np.bool_]


@cache
def _table() -> _Table:
    from trebb.core.threads.series import weighted_threads

    return _table_of(weighted_threads())


def _rare(seen: Seen) -> _Table | None:
    """The rare threads that come near what was measured; None where there are none."""
    from trebb.core.threads.series import rare_near

    def could_be(pitch: float) -> bool:
        over_crests = seen.pitch_mm is None or any(
            abs(seen.pitch_mm - pitch * n / seen.crests) < NEAR_SDS * seen.pitch_sd_mm
            for n in _counts(seen.crests)
        )
        return over_crests and (
            seen.lead_mm is None
            or any(
                abs(seen.lead_mm - starts * pitch * n / seen.turns) < NEAR_SDS * seen.lead_sd_mm
                for starts in STARTS_SHARE
                for n in _counts(seen.turns)
            )
        )

    least = max(s for s in (seen.major_mm, seen.worn_major_mm) if s is not None)
    rows = rare_near(could_be, least - 4 * seen.major_sd_mm, least + OUT_MM)
    return _table_of(rows) if rows else None


def _table_of(threads: Sequence[tuple[ThreadSpec, Series | None, float]]) -> _Table:
    """Threads of one start, with their series and shares, each with all its starts as columns."""
    rows = [
        (spec if n == 1 else _with_starts(spec, n), series, share * part)
        for spec, series, share in threads
        for n, part in STARTS_SHARE.items()
    ]
    rows = [(s, series, w) for s, series, w in rows if s is not None]
    specs = [s for s, _, _ in rows if s is not None]

    def column(values: Sequence[float]) -> Array:
        return np.array(values, dtype=np.float64)

    return _Table(
        tuple((s, series) for s, series, _ in rows if s is not None),
        column([w for _, _, w in rows]),
        column([s.pitch_mm for s in specs]),
        column([s.lead_mm for s in specs]),
        column([s.starts for s in specs]),
        column([s.major_mm for s in specs]),
        column([crest_tolerance(s) for s in specs]),
        column([2 * math.degrees(s.form.half_angle) for s in specs]),
        column([s.depth_mm for s in specs]),
        column([s.crest_flat_mm for s in specs]),
        np.array([s.form.is_translating for s in specs]),
        np.array([s.form is Form.WHITWORTH for s in specs]),
    )


def _with_starts(spec: ThreadSpec, starts: int) -> ThreadSpec | None:
    # Fastening threads are met with one start only, and so are screws too slender for their lead.
    if not spec.form.is_translating or starts * spec.pitch_mm > 1.2 * spec.major_mm:
        return None
    return replace(spec, starts=starts)


def _log_normal(value: float, expected: Array, sd: float | Array) -> Array:
    found: Array = -0.5 * ((value - expected) / sd) ** 2 - np.log(sd)
    return found


def _log_major(value: float, major: Array, tol: Array, sd: float, worn: bool) -> Array:
    """A crest lies anywhere in its tolerance below nominal, then loses what wore off; now and then someone
    skimmed it.
    """
    from scipy.special import ndtr  # nearly half a second: only when a thread is named

    if worn:
        t = CREST_WEAR_MM
        fresh = major - 0.5 * tol
        density = (
            np.exp(np.minimum(sd**2 / (2 * t**2) - (fresh - value) / t, 700.0))
            * ndtr((fresh - value) / sd - sd / t)
            / t
        )
        density = np.where(np.isfinite(density), density, 0.0)
    else:
        density = (ndtr((value - major + tol) / sd) - ndtr((value - major) / sd)) / tol
    below = np.maximum(major - value, 0.0)
    skimmed = np.where(value < major + 3 * sd, np.exp(-below / 0.5) / 0.5, 0.0)
    density = np.where(below < OUT_MM, (1 - TURNED_DOWN) * density + TURNED_DOWN * skimmed, 0.0)
    found: Array = np.log(density + 1e-30)
    return found


def _log_counted(value: float, expected: Array, sd: float, said: int) -> Array:
    """A mean over so many turns or crests: now and then one was lost, counted twice, or all were doubled."""
    found = np.full(expected.shape, 0.0)
    for counted, share in _counts(said).items():
        found = found + share * np.exp(_log_normal(value, expected * counted / said, sd))
    result: Array = np.log(found + 1e-300)
    return result


def _mismatch(seen: Seen) -> float:
    """What a thread as measured pays where its lead is no whole number of its pitches: it was then
    miscounted, and is not as measured.
    """
    if seen.lead_mm is None or seen.pitch_mm is None:
        return 0.0
    starts = max(1, round(seen.lead_mm / seen.pitch_mm))
    off = abs(seen.lead_mm - starts * seen.pitch_mm)
    sd = math.hypot(seen.lead_sd_mm, starts * seen.pitch_sd_mm)
    return math.log(MISCOUNT / 10) if off > 4 * sd else 0.0


def _log_gauge(answer: float, angle: Array) -> Array:
    weight = np.array([np.exp(-0.5 * ((g - angle) / GAUGE_SD_DEG) ** 2) for g in GAUGES]) + 1e-9
    found: Array = np.log(weight[GAUGES.index(answer)] / weight.sum(axis=0))
    return found


def _log_trial(offered: ThreadSpec, outcome: str, t: _Table, hand: Hand | None) -> Array:
    """A nut goes on its own thread nearly always; of another pitch it starts and binds, of another size or
    hand it does not start.
    """
    same_pitch = np.abs(t.pitch - offered.pitch_mm) < 0.004
    same_lead = np.abs(t.lead - offered.lead_mm) < 0.01
    gap = offered.major_mm - t.major
    fits = (gap > -0.1) & (gap < 0.12 * t.pitch + 0.5)
    near_pitch = np.abs(t.pitch / offered.pitch_mm - 1) < 0.06
    same_hand = hand is None or hand is offered.hand
    goes = np.where(same_pitch & same_lead & fits & same_hand, 0.9, 0.0005)
    binds = np.where(near_pitch & fits & same_hand & ~(same_pitch & same_lead), 0.75, 0.09)
    chance = {TRIALS[0]: goes, TRIALS[1]: binds, TRIALS[2]: np.maximum(0.01, 1 - goes - binds)}[outcome]
    found: Array = np.log(chance)
    return found


def name_thread(seen: Seen, most: int = 8) -> Naming:
    """Rank every thread that it could be.

    Parameters
    ----------
    most : how many candidates to return, likeliest first.

    Raises
    ------
    InputError : nothing measured that a thread can be told by.

    Notes
    -----
    Bayes' rule over the standard series, single and multi-start, and every
    usual mixture of inch and metric, each by its share of what is met on
    machine tools (`series.weighted_threads`), and any bar by any pitch of a lathe
    near what was measured. Crests lie inside their tolerance
    or are worn below it; instruments have the scatter stated at the top.
    One more candidate, "as measured", stands for what no list holds.
    """
    if not seen.is_enough:
        raise InputError(
            "no pitch and diameter yet",
            "measure the travel of some turns, or over several crests, and the major diameter",
        )
    tables = [t for t in (_table(), _rare(seen)) if t is not None]
    specs = [row for t in tables for row in t.specs]
    weighed = [_weighed(seen, t) for t in tables]
    score, free = np.concatenate([score for score, _ in weighed]), weighed[0][1]
    spare = _as_measured(seen)
    top = max(float(score.max()), free if spare else -math.inf)
    weight = np.exp(score - top)
    spare_weight = math.exp(free - top) if spare else 0.0
    total = float(weight.sum()) + spare_weight
    order = np.argsort(-weight)[:most]
    found = [Candidate(_handed(specs[i][0], seen.hand), float(weight[i]) / total, specs[i][1]) for i in order]
    if spare:
        found.append(Candidate(spare, spare_weight / total, None, is_as_measured=True))
    found.sort(key=lambda c: -c.likelihood)
    kept = tuple(found[:most])
    telling = tell_apart(kept[0].spec, kept[1].spec, _taken(seen)) if len(kept) > 1 else None
    return Naming(kept, telling, seen)


def _taken(seen: Seen) -> dict[str, float | None]:
    """What was measured already, by what else may be."""
    return {
        "lead": seen.lead_mm,
        "pitch": seen.pitch_mm,
        "major": seen.major_mm,
        "depth": seen.depth_mm,
        "flat": seen.crest_flat_mm,
        "angle": seen.angle_deg,
        "starts": seen.starts,
    }


def _weighed(seen: Seen, t: _Table) -> tuple[Array, float]:
    """Log weights of every thread of the table, and of one that no list holds."""
    score = np.log(t.share)
    free = math.log(UNLISTED_SHARE) + _mismatch(seen)
    if seen.lead_mm is not None:
        score += _log_counted(seen.lead_mm, t.lead, seen.lead_sd_mm, seen.turns)
        free -= math.log(8.0)
    if seen.pitch_mm is not None:
        score += _log_counted(seen.pitch_mm, t.pitch, seen.pitch_sd_mm, seen.crests)
        free -= math.log(8.0)
    for value, worn in ((seen.major_mm, False), (seen.worn_major_mm, True)):
        if value is not None:
            score += _log_major(value, t.major, t.crest_tol, seen.major_sd_mm, worn)
            free -= math.log(30.0)
    if seen.angle_deg is not None:
        score += _log_normal(seen.angle_deg, t.angle, ANGLE_SD_DEG)
        free -= math.log(10.0)
    if seen.gauge_deg is not None:
        score += _log_gauge(seen.gauge_deg, t.angle)
        free += math.log(0.25)
    if seen.depth_mm is not None:
        score += _log_normal(seen.depth_mm, t.depth + DEEPER_MM, math.hypot(DEPTH_SD_MM, 0.05))
        free -= math.log(4.0)
    if seen.crest_flat_mm is not None:
        score += _log_normal(seen.crest_flat_mm, t.flat, math.hypot(FLAT_SD_MM, 0.03))
        free -= math.log(3.0)
    if seen.crest:
        chance = np.where(t.translating, _CREST[seen.crest][True], _CREST[seen.crest][False])
        chance = np.where(t.round_, {"round": 0.7, "flat": 0.1, "sharp": 0.2}[seen.crest], chance)
        score += np.log(chance)
        free += math.log(_CREST[seen.crest][True])
    if seen.starts is not None:
        score += np.where(t.starts == seen.starts, math.log(1 - COUNT_ERROR), math.log(COUNT_ERROR / 3))
    for offered, outcome in seen.tried:
        score += _log_trial(offered, outcome, t, seen.hand)
    return score, free


def _handed(spec: ThreadSpec, hand: Hand | None) -> ThreadSpec:
    return replace(spec, hand=hand) if hand is not None else spec


def _as_measured(seen: Seen) -> ThreadSpec | None:
    """The thread as it measures, to a tenth of a millimetre and a quarter thread an inch or 0.05 mm of
    pitch; None where that is none.
    """
    starts = seen.starts or 1
    pitch = seen.pitch_mm if seen.pitch_mm is not None else (seen.lead_mm or 0.0) / starts
    major = seen.major_mm if seen.major_mm is not None else (seen.worn_major_mm or 0.0) + CREST_WEAR_MM
    if not pitch > 0:
        return None
    inch, metric = INCH_MM / (round(INCH_MM / pitch * 4) / 4 or 1), round(pitch / 0.05) * 0.05
    step = inch if abs(inch - pitch) <= abs(metric - pitch) else metric
    angle = (
        seen.angle_deg
        if seen.angle_deg is not None
        else seen.gauge_deg
        if seen.gauge_deg is not None
        else 29.0
    )
    form = min(
        (Form.SQUARE, Form.ACME, Form.TRAPEZOIDAL, Form.WHITWORTH, Form.METRIC),
        key=lambda f: abs(2 * math.degrees(f.half_angle) - angle),
    )
    try:
        return ThreadSpec(form, round(major, 1), step, starts, seen.hand or Hand.RIGHT)
    except ThreadSpecError:
        return None
