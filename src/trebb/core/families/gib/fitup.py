"""A slide put on its gib again, step by step."""

from __future__ import annotations

from trebb.core.families.gib.subject import Slide
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import WIPED, put_after, ready
from trebb.core.safety import ADHESIVE, SCRAPERS

_MARKS = FitStep(
    "marks",
    "Gib's marks found: which way up, which end",
    (),
    "A gib goes in two ways round and fits in one.",
    minutes=5,
)


_HOME = FitStep(
    "home",
    "Thin-end screw off two turns, gib home by thumb, that screw brought up last",
    (),
    "A gib stopped early is a gap nobody sees.",
    minutes=10,
)


_TRAVEL = FitStep(
    "travel",
    "Slide run through its whole travel: a light drag everywhere",
    ("home",),
    "Set in the worn middle it binds at the ends.",
    "Both locks slack.",
    minutes=15,
)


_FIT = {
    "shim": FitStep(
        "fit",
        "Shim glued at one end behind the gib, reaching both its ends",
        ("clean", "marks"),
        "A short shim lets it rock.",
        minutes=40,
    ),
    "line": FitStep(
        "fit",
        "Lining bonded, cured flat under clamps, ground or scraped to the slot",
        ("clean", "marks"),
        "Lifted early it peels.",
        "",
        ADHESIVE,
        240,
    ),
}


_SCRAPED_IN = FitStep(
    "fit",
    "Gib blued in its slot and scraped until it bears all along",
    ("clean", "marks"),
    "Only the slot knows its taper.",
    "Slide moved a hand's breadth, gib drawn straight out.",
    SCRAPERS,
    240,
)


_WAYS = FitStep(
    "ways",
    "Slideways scraped straight and square before the gib is fitted",
    ("clean",),
    "A gib scraped to worn ways fits nowhere else.",
    "",
    SCRAPERS,
    1500,
)


_LINER = FitStep(
    "liner",
    "Saddle lined to its height, dovetail brought back in line",
    ("ways",),
    "Height first, gib last.",
    "Thickness at Parts.",
    ADHESIVE,
    360,
)


_LENGTH = FitStep(
    "length",
    "Length and notch cut with the gib home in its slot, marked there",
    ("fit",),
    "Cut before it was scraped it ends short.",
    minutes=30,
)


_OILED = FitStep("oil", "Oiled, covers and wipers on", ("travel",), "Dry, it scores in a day.", minutes=10)


def gib_steps(remedy: str, slide: Slide | None) -> tuple[FitStep, ...]:
    """A gib fitted to its slot."""
    if remedy == "leave":
        return (WIPED, ready("clean"))
    if remedy == "tighten":
        return (WIPED, _MARKS, put_after(_HOME, "clean", "marks"), _TRAVEL, ready("travel"))
    fit = _FIT.get(remedy, _SCRAPED_IN)
    if remedy == "lift":
        steps = [WIPED, _MARKS, put_after(fit, "marks", "liner"), _WAYS, _LINER]
    elif remedy == "scrape":
        steps = [WIPED, _MARKS, put_after(fit, "clean", "marks", "ways"), _WAYS]
    else:
        steps = [WIPED, _MARKS, fit]
    cut = remedy in ("new", "scrape", "lift")
    return (
        *steps,
        *((_LENGTH,) if cut else ()),
        put_after(_HOME, "length" if cut else "fit"),
        _TRAVEL,
        _OILED,
        ready("oil"),
    )
