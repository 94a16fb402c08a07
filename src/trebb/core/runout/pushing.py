"""Slack told from flex by a few pulls each way."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError


class PushFit(Struct, frozen=True):
    """y = zero ± slack/2 by the side pushed, + flex × force.

    `slack_mm` total, `flex_mm_n` mm a newton, each with its standard deviation
    from what is left over (None without degrees of freedom).
    """

    zero_mm: float
    slack_mm: float
    flex_mm_n: float
    slack_sd_mm: float | None
    flex_sd_mm_n: float | None


def fit_push(forces_n: Sequence[float], readings_mm: Sequence[float]) -> PushFit:
    """Two-sided fit by least squares; force + toward the indicator.

    Needs at least two different pulls on one side and one on the other: then
    the step (slack) and the slope (flex) come apart. Raises InputError otherwise.
    """
    force, y = np.asarray(forces_n, dtype=float), np.asarray(readings_mm, dtype=float)
    up, down = {f for f in forces_n if f > 0}, {f for f in forces_n if f < 0}
    if not up or not down or len(up) + len(down) < 3:
        raise InputError(
            f"{len(up)} pulls one way, {len(down)} the other",
            "slack is told from flex by two different pulls one way and one the other at least",
        )
    design = np.column_stack([np.ones_like(force), np.sign(force) / 2, force])
    scale = np.array([1.0, 1.0, np.abs(force).max()])
    scaled = design / scale
    normal = np.linalg.inv(scaled.T @ scaled)
    zero, slack, flex = normal @ scaled.T @ y / scale
    left = y - design @ np.array([zero, slack, flex])
    freedom = len(y) - 3
    if freedom <= 0:
        return PushFit(float(zero), float(slack), float(flex), None, None)
    sd = math.sqrt(float(left @ left) / freedom)
    return PushFit(
        float(zero),
        float(slack),
        float(flex),
        sd * math.sqrt(normal[1, 1]),
        sd * math.sqrt(normal[2, 2]) / scale[2],
    )
