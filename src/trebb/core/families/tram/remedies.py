"""Remedies for a head that is not square to its table."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from msgspec import Struct

from trebb.core.condition import Change, Estimate, Quantity, Shift
from trebb.core.condition.draws import draw
from trebb.core.families.tram.findings import measure_value, measures_of
from trebb.core.families.tram.subject import Tram
from trebb.core.remedies.base import BY_STEPS, Remedy, leave
from trebb.core.safety import KNEE
from trebb.core.units import UnitSystem

SET_MRAD, SHIMMED_MRAD, SCRAPED_MRAD, SCRAPED_MM = 0.020, 0.040, 0.020, 0.004


class TramPrediction(Struct, frozen=True):
    """What a remedy would leave, by measure, mm."""

    after: Estimate
    measures: Mapping[str, Quantity]

    @property
    def worst(self) -> Quantity:
        """Tram, left to right."""
        return self.measures["tram_x"]


def _outcome(tram: Tram, after: Estimate) -> TramPrediction:
    drawn = draw(after)
    return TramPrediction(after, {key: measure_value(tram, drawn, key) for key in measures_of(tram)})


def set_head(tram: Tram, now: Estimate) -> Change:
    """The head, or the table, set by the indicator and tightened."""
    return Change({"tilt_x": Shift(0.0, SET_MRAD), "tilt_y": Shift(0.0, SET_MRAD)})


def shim_table(tram: Tram, now: Estimate) -> Change:
    """Bracket and column shimmed: table to quill, and the quill's travel with it as far as the column makes
    it lean.
    """
    return Change(
        {
            key: Shift(0.0, SHIMMED_MRAD)
            for key in ("tilt_x", "tilt_y", "travel_x", "travel_y", "column_x", "column_y")
        }
    )


def scrape_knee(tram: Tram, now: Estimate) -> Change:
    """Knee and saddle ways scraped square, then the head set."""
    scraped = {key: Shift(0.0, SCRAPED_MRAD) for key in ("travel_x", "travel_y", "droop")}
    return Change({**scraped, "ends_x": Shift(0.0, SCRAPED_MM), "ends_y": Shift(0.0, SCRAPED_MM)}).then(
        set_head(tram, now)
    )


def _risk(words: str) -> Callable[[Any, Any, Any, UnitSystem], str]:
    return lambda tram, split, then, system: words


_tram = partial(Remedy, family="tram", outcome=_outcome)

TRAM_REMEDIES: tuple[Remedy, ...] = (
    _tram(
        "leave",
        "Leave it",
        "Write down why.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        _risk("Faces show one-sided tool marks; holes lean."),
    ),
    _tram(
        "set",
        "Set the head over",
        "By the indicator, tightened and swept again.",
        set_head,
        0,
        1,
        0,
        "An indicator on an arm.",
        _risk(
            "Tightening moves it: aim off by what it moved last time. It must be done again after every "
            "knock."
        ),
        applies=lambda tram: tram.has_knee,
        caution="Slacken the head's bolts a little only: it swings down by its weight. Support it.",
        in_place=BY_STEPS,
    ),
    _tram(
        "swing",
        "Set the table over",
        "Swung on its column and tilted on its bolt, by the indicator.",
        set_head,
        0,
        0.8,
        0,
        "An indicator on an arm.",
        _risk("A dowel or a notch may hold it at nought: take it out first."),
        applies=lambda tram: not tram.has_knee,
        in_place=BY_STEPS,
    ),
    _tram(
        "shim",
        "Shim bracket and column",
        "Tapered by the figures at Findings; square in both directions.",
        shim_table,
        5,
        3,
        0,
        "Shim stock, a square.",
        _risk("A shim at one bolt bends the bracket: cover the face."),
        ("table_shim",),
        applies=lambda tram: not tram.has_knee,
        caution="The table is heavy and its column upright: block it before bolts come out.",
        in_place=BY_STEPS,
    ),
    _tram(
        "knee",
        "Scrape the knee, then set the head",
        "Knee and saddle ways square to the column.",
        scrape_knee,
        60,
        45,
        5,
        "Square, straightedge, blue, scrapers.",
        _risk("Only worth it where gibs alone do not bring it back."),
        applies=lambda tram: tram.has_knee,
        caution=KNEE,
        works_on="knee",
        on_it_hours=30.0,
    ),
)
