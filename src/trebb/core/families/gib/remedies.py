"""Remedies for a slide's gib: tighten, shim, line, a new gib, the ways scraped with it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from msgspec import Struct

from trebb.core.condition import Change, Estimate, Quantity, Shift
from trebb.core.condition.draws import draw
from trebb.core.families.gib.findings import gaps_of, keys_of, measure_value
from trebb.core.families.gib.subject import ENDS, SPOTS, Slide
from trebb.core.remedies.base import BY_STEPS, Remedy, leave
from trebb.core.safety import ADHESIVE, SCRAPERS, THIN_WORK, WHEEL
from trebb.core.units import UnitSystem, show_size, show_small

SET_SD, SHIM_SD, LINED_SD, NEW_SD = 0.004, 0.006, 0.005, 0.004
SCRAPED = Shift(0.002, 0.002)


class GibPrediction(Struct, frozen=True):
    """What a remedy would leave, by measure, mm, and the play at each end and spot."""

    after: Estimate
    measures: Mapping[str, Quantity]

    @property
    def worst(self) -> Quantity:
        """Play at the worst."""
        return self.measures["play"]


def _outcome(slide: Slide, after: Estimate) -> GibPrediction:
    # Gap and wear of one place are known as a sum: cut apart at nothing it would seem unknown.
    drawn = draw(after, cut=False)
    return GibPrediction(after, {key: measure_value(slide, drawn, key) for key in keys_of(slide)})


def _tightest(now: Estimate) -> tuple[str, str]:
    """End and spot at which the slide runs closest."""
    return min(ENDS, key=lambda e: now.source(f"gap.{e}").value), min(
        SPOTS, key=lambda s: now.source(f"worn.{s}").value
    )


def tighten_change(slide: Slide, now: Estimate) -> Change:
    """The gib goes in until the tightest place runs: both ends close by as much, the mismatch stays. No
    further than its screw goes.
    """
    end, spot = _tightest(now)
    gaps = gaps_of(slide, now)
    if gaps.advance_mm(slide.gib) > slide.travel_mm:
        closed = slide.travel_mm / slide.ratio
        return Change({f"gap.{e}": Shift(-closed, SET_SD, {f"gap.{e}": 1.0}) for e in ENDS})
    return _run_at_tightest(slide, end, spot, SET_SD)


def _run_at_tightest(slide: Slide, end: str, spot: str, sd: float) -> Change:
    def shift(e: str) -> Shift:
        if e == end:
            return Shift(slide.running_mm, sd, {f"worn.{spot}": -1.0})
        return Shift(slide.running_mm, sd, {f"gap.{e}": 1.0, f"gap.{end}": -1.0, f"worn.{spot}": -1.0})

    return Change({f"gap.{e}": shift(e) for e in ENDS})


def shim_change(slide: Slide, now: Estimate) -> Change:
    """A shim behind the gib brings its adjustment back; the mismatch stays."""
    return _run_at_tightest(slide, *_tightest(now), SHIM_SD)


def _matched(slide: Slide, now: Estimate, sd: float) -> Change:
    """Both ends run alike where the ways are least worn."""
    spot = _tightest(now)[1]
    return Change({f"gap.{e}": Shift(slide.running_mm, sd, {f"worn.{spot}": -1.0}) for e in ENDS})


def line_change(slide: Slide, now: Estimate) -> Change:
    """Lined, then ground to the slot's own taper."""
    return _matched(slide, now, LINED_SD)


def new_change(slide: Slide, now: Estimate) -> Change:
    """A new gib scraped to its slot."""
    return _matched(slide, now, NEW_SD)


def scrape_change(slide: Slide, now: Estimate) -> Change:
    """Slideways scraped straight, and a new gib to them."""
    worn: dict[str, Shift] = {f"worn.{spot}": SCRAPED for spot in SPOTS}
    return Change({**{f"gap.{e}": Shift(slide.running_mm, NEW_SD) for e in ENDS}, **worn})


def lift_change(slide: Slide, now: Estimate) -> Change:
    """The same, and the saddle lined up to its height again."""
    return scrape_change(slide, now).then(Change({"drop": Shift(0.0, 0.03)}))


Risk = Callable[[Any, Any, Any, UnitSystem], str]


def _risk(words: str) -> Risk:
    return lambda slide, split, then, system: words


def _risk_tighten(slide: Slide, split: Any, then: GibPrediction, system: UnitSystem) -> str:
    return (
        f"Half an hour, no cost; {show_small(then.worst.value, system)} stay at the worst. Tightened to "
        "run in the worn middle it binds at the ends."
    )


def _risk_line(slide: Slide, split: Any, then: GibPrediction, system: UnitSystem) -> str:
    left = slide.thin_mm - slide.stock_mm
    thin = (
        f" {show_size(left, system)} of iron stay at its thin end: under {show_size(slide.least_mm, system)} "
        "it bends in its slot."
        if left < slide.least_mm
        else ""
    )
    return f"Lining wants iron ground off first and creeps if bonded dirty.{thin}"


_gib = partial(Remedy, family="gib", outcome=_outcome)

GIB_REMEDIES: tuple[Remedy, ...] = (
    _gib(
        "leave",
        "Leave it",
        "Write down why; lock the slide where it is not moved.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        _risk("It rocks under each cut; the ways wear faster."),
    ),
    _gib(
        "tighten",
        "Turn the gib in",
        "Until the tightest place of the travel runs.",
        tighten_change,
        0,
        0.5,
        0,
        "A screwdriver, an indicator.",
        _risk_tighten,
        in_place=BY_STEPS,
    ),
    _gib(
        "shim",
        "Shim behind it",
        "Brings its adjustment back; the mismatch of its taper stays.",
        shim_change,
        4,
        1.5,
        0,
        "Shim strip, glue at one end.",
        _risk(
            "A shim that does not reach both ends rocks; steel shim behind iron creeps: fix it at one end."
        ),
        ("gib_shim",),
    ),
    _gib(
        "line",
        "Line it",
        "Iron ground off, bearing plastic or bronze bonded on, ground to the slot's taper.",
        line_change,
        45,
        6,
        2,
        "Surface grinder or mill, lining, adhesive, a press or clamps.",
        _risk_line,
        ("gib_liner",),
        caution=f"{ADHESIVE} {WHEEL}",
    ),
    _gib(
        "new",
        "New gib",
        "Iron, to this slot: thicker at both ends, scraped in, cut to length last.",
        new_change,
        55,
        12,
        3,
        "Grey iron bar and a spare, mill, the old gib as tapered packing or a sine bar, blue and scraper.",
        _risk(
            "Bars warp as they are cut: rough both sides, let it lie, finish. Cut two. Iron on iron, not "
            "steel."
        ),
        ("gib",),
        caution=f"{SCRAPERS} {THIN_WORK}",
    ),
    _gib(
        "scrape",
        "Scrape the slideways, new gib",
        "Ways straight again, then a gib to them.",
        scrape_change,
        70,
        40,
        5,
        "Straightedge, blue, scrapers; as for a new gib.",
        _risk(
            "The longest work; the only one that cures play that differs along the travel. A saddle scraped "
            "comes down: line it."
        ),
        ("gib",),
        caution=SCRAPERS,
    ),
    _gib(
        "lift",
        "Scrape, new gib, line the saddle up",
        "As above, and the saddle back to its height for rack and lead screw.",
        lift_change,
        120,
        55,
        7,
        "As above, and lining as large as the saddle's ways.",
        _risk("Height first, gib last: lining moves the dovetail too."),
        ("gib", "saddle_liner"),
        applies=lambda slide: slide.is_saddle,
        caution=ADHESIVE,
    ),
)
