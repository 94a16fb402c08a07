"""Runout as vectors: harmonics of a turn, reversal, tilt, slack from flex."""

from trebb.core.runout.harmonics import (
    Turn,
    degrees_of,
    extrapolated,
    fit_turn,
    high_spot_deg,
    residual_tir,
    reversal,
    tilt,
    whole_degrees,
)
from trebb.core.runout.pushing import PushFit, fit_push
from trebb.core.runout.warming import WarmRun, settle

__all__ = [
    "PushFit",
    "Turn",
    "WarmRun",
    "degrees_of",
    "extrapolated",
    "fit_push",
    "fit_turn",
    "high_spot_deg",
    "residual_tir",
    "reversal",
    "settle",
    "tilt",
    "whole_degrees",
]
