"""Remedies for a way by map: leave, scrape, grind outside."""

from __future__ import annotations

from functools import partial

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.way.findings import JUDGING
from trebb.core.families.way.subject import WayMap
from trebb.core.findings.judging import outcome_by
from trebb.core.remedies.base import Remedy, always, leave
from trebb.core.safety import LEAD_PAINT, SCRAPERS

SCRAPED_MM, GROUND_MM = 0.0025, 0.004


def _level(way: WayMap, sd: float) -> Change:
    return Change({f"high.{r}.{s}": Shift(0.0, sd) for r, s in way.keys})


def scrape(way: WayMap, now: Estimate) -> Change:
    """Scraped to a master: what blue leaves."""
    return _level(way, SCRAPED_MM)


def grind(way: WayMap, now: Estimate) -> Change:
    """Ground in one setting on a planer or slideway grinder."""
    return _level(way, GROUND_MM)


_way = partial(Remedy, family="way", outcome=outcome_by(JUDGING))

WAY_REMEDIES: tuple[Remedy, ...] = (
    _way(
        "leave",
        "Leave it",
        "Write down why.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        always("Its gib is set to its tightest place."),
    ),
    _way(
        "scrape",
        "Scrape it by the map",
        "High places first, then blue to a master.",
        scrape,
        0,
        12,
        0,
        "A master as long as the way, scraper, blue.",
        always("What it comes down, its gib and screw must follow."),
        caution=f"{SCRAPERS} {LEAD_PAINT}",
        on_it_hours=12.0,
    ),
    _way(
        "grind",
        "Have it ground",
        "All ways in one setting, by a slideway grinder.",
        grind,
        600,
        6,
        30,
        "A quote; the castings stripped and marked.",
        always("They grind to what is set: say which faces must stay."),
        on_it_hours=6.0,
    ),
)
