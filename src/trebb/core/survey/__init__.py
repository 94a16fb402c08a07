"""Set-ups: one module each, or one for those that read the same thing, holding its places, rows, reduction,
figure, steps, cautions and limits.

A new set-up is one file and one line in `SET_UPS`.
"""

from trebb.core.survey import (
    bed_axes,
    bed_cuts,
    bed_levels,
    bed_straight,
    chuck_pin,
    contact,
    coupler,
    end_float,
    gib_gaps,
    half_nuts,
    journals,
    lash,
    lead_error,
    nose,
    push_pull,
    push_test,
    reach,
    screw_bend,
    spindle_float,
    taper_bore,
    test_bar,
    thread_size,
    tram,
    turns_travel,
    warm_run,
    which_thread,
)
from trebb.core.survey.admitting import admit_reading, doubt_of, read_typed
from trebb.core.survey.base import AnySetUp, InstrumentKind, Lot, Place, PlaceReadings, Result, SetUp
from trebb.core.survey.reduction import (
    Outlier,
    information,
    observations,
    outlier,
    pooled_sd,
    reduced_mean,
    results,
    spread,
)

SET_UPS: tuple[AnySetUp, ...] = (
    lash.SET_UP,
    push_pull.SET_UP,
    end_float.SET_UP,
    turns_travel.SET_UP,
    thread_size.SET_UP,
    lead_error.SET_UP,
    screw_bend.SET_UP,
    half_nuts.SET_UP,
    which_thread.SET_UP,
    nose.SET_UP,
    taper_bore.SET_UP,
    test_bar.SET_UP,
    chuck_pin.SET_UP,
    push_test.SET_UP,
    spindle_float.SET_UP,
    coupler.SET_UP,
    warm_run.SET_UP,
    contact.SET_UP,
    journals.SET_UP,
    reach.SET_UP,
    bed_levels.ALONG,
    bed_levels.ACROSS,
    bed_levels.COLLIMATOR,
    bed_straight.STRAIGHTEDGE,
    bed_straight.REFERENCE_BAR,
    bed_straight.RIDGE,
    bed_cuts.TWO_COLLAR,
    bed_cuts.TRIALS,
    bed_cuts.FACING,
    bed_axes.BAR_SWEEP,
    bed_axes.CENTRES,
    bed_axes.QUILL,
    bed_axes.KEY,
    bed_cuts.LONG_PIECE,
    bed_axes.SOFT_FEET,
    bed_axes.STAND_FLEX,
    gib_gaps.FEELERS,
    gib_gaps.STAND_OUT,
    gib_gaps.ROCK,
    gib_gaps.DROP,
    gib_gaps.SPOTS_PER_INCH,
    contact.GIB,
    tram.SWEEP,
    tram.SQUARE,
    tram.SAG,
    tram.TRAVEL,
    tram.COLUMN,
)


_BY_KEY = {s.key: s for s in SET_UPS}


def set_up(key: str) -> AnySetUp:
    """The set-up of that key; raises KeyError for another."""
    return _BY_KEY[key]


def set_ups_of(family: str) -> tuple[AnySetUp, ...]:
    """The set-ups of a family of assemblies, in order."""
    return tuple(s for s in SET_UPS if s.family == family)


__all__ = [
    "SET_UPS",
    "AnySetUp",
    "InstrumentKind",
    "Lot",
    "Outlier",
    "Place",
    "PlaceReadings",
    "Result",
    "SetUp",
    "admit_reading",
    "doubt_of",
    "information",
    "observations",
    "outlier",
    "pooled_sd",
    "read_typed",
    "reduced_mean",
    "results",
    "set_up",
    "set_ups_of",
    "spread",
]
