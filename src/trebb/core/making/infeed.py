"""Infeed of a thread by passes."""

from __future__ import annotations

import math
from enum import Enum

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.threads.tool import compound_infeed_mm, groove_area_mm2

# ceil() of a quotient that is whole but for float noise must not add a pass.
CEIL_GUARD = 1e-9


class InfeedScheme(Enum):
    """Three schools. Straight in: shallow threads, small tools. Compound at the half angle:
    chip clears, one flank cuts, deep threads. Alternate flanks: wears both corners evenly,
    large threads on light machines."""

    STRAIGHT = "straight in"
    COMPOUND = "compound at the half angle"
    ALTERNATE = "alternate flanks"


class Pass(Struct, frozen=True):
    """One pass.

    `cross_mm` is the radial depth to reach in all, `compound_mm` the compound's
    total for it, `sideways_mm` the axial shift off the groove's middle,
    + toward the tailstock. `step_mm` is the increment to wind in now on the
    dial that moves in this scheme. `is_spring` passes take no new infeed.
    """

    number: int
    cross_mm: float
    compound_mm: float
    sideways_mm: float
    step_mm: float
    is_spring: bool = False


def pass_count(depth_mm: float, first_mm: float, flat_mm: float, half_angle: float) -> int:
    """Passes of equal chip section: area of the groove over that of the first pass, rounded up. Raises
    InputError for a first pass of nothing or past the depth.

    The square-root rule (H/x₁)² is for sharp V tools only; on an Acme tool it
    gives about four times too many.
    """
    if not 0 < first_mm <= depth_mm:
        raise InputError(
            f"a first pass of {first_mm:.3f} mm",
            f"it must be more than nothing and at most {depth_mm:.3f} mm",
        )
    ratio = groove_area_mm2(depth_mm, flat_mm, half_angle) / groove_area_mm2(first_mm, flat_mm, half_angle)
    return max(1, math.ceil(ratio - CEIL_GUARD))


def depth_of_area_mm(area_mm2: float, flat_mm: float, half_angle: float) -> float:
    """Depth at which a groove has this section: w x + x² tan α = area. The half angle in radians."""
    slope = math.tan(half_angle)
    if slope == 0:
        return area_mm2 / flat_mm
    return (-flat_mm + math.sqrt(flat_mm**2 + 4 * slope * area_mm2)) / (2 * slope)


def cumulative_depths_mm(
    depth_mm: float, passes: int, flat_mm: float, half_angle: float, start_mm: float = 0.0
) -> list[float]:
    """Depth after each pass, equal section each, from `start_mm` already cut. The half angle in radians."""
    done = groove_area_mm2(start_mm, flat_mm, half_angle)
    left = groove_area_mm2(depth_mm, flat_mm, half_angle) - done
    depths = [depth_of_area_mm(done + left * i / passes, flat_mm, half_angle) for i in range(1, passes + 1)]
    depths[-1] = depth_mm
    return depths


def infeed_plan(
    depth_mm: float,
    flat_mm: float,
    half_angle: float,
    scheme: InfeedScheme,
    *,
    first_mm: float,
    last_mm: float,
    start_mm: float = 0.0,
    spring_passes: int = 2,
    lean: float | None = None,
) -> list[Pass]:
    """Passes from `start_mm` to `depth_mm`, the last ones light, then spring passes.

    Parameters
    ----------
    first_mm : radial depth of the first pass into bare stock.
    last_mm : no pass of the last two takes more than this, radially.
    lean : compound's angle off the cross slide, rad; the half angle if None.

    Notes
    -----
    Straight in: the tool form must fill the groove. Compound: the slide moves
    along one flank, x/cos c. Alternate flanks: the tool, narrower than the
    groove by the play given up, is set over either way in turn by the width
    that the compound school would have shifted it.
    """
    if not 0 <= start_mm < depth_mm:
        return []
    count = pass_count(depth_mm, min(first_mm, depth_mm), flat_mm, half_angle)
    area = groove_area_mm2(depth_mm, flat_mm, half_angle)
    left = max(1, math.ceil(count * (1 - groove_area_mm2(start_mm, flat_mm, half_angle) / area) - CEIL_GUARD))
    depths = _with_light_end(
        cumulative_depths_mm(depth_mm, left, flat_mm, half_angle, start_mm), start_mm, last_mm
    )
    angle = half_angle if lean is None else lean
    passes, before = [], start_mm
    for i, depth in enumerate(depths):
        sideways = 0.0
        if scheme is InfeedScheme.COMPOUND:
            step = compound_infeed_mm(depth - before, angle)
        else:
            step = depth - before
            if scheme is InfeedScheme.ALTERNATE and depth < depth_mm:
                sideways = (1 if i % 2 else -1) * (depth_mm - depth) * math.tan(half_angle)
        compound = compound_infeed_mm(depth, angle) if scheme is InfeedScheme.COMPOUND else 0.0
        passes.append(Pass(i + 1, depth, compound, sideways, step))
        before = depth
    end = passes[-1]
    passes += [
        Pass(len(depths) + 1 + j, end.cross_mm, end.compound_mm, 0.0, 0.0, is_spring=True)
        for j in range(spring_passes)
    ]
    return passes


def spring_only(depth_mm: float, count: int = 2) -> list[Pass]:
    """Passes without infeed, once the size is reached: they take what the tool and the work sprang away."""
    return [Pass(i + 1, depth_mm, 0.0, 0.0, 0.0, is_spring=True) for i in range(count)]


def _with_light_end(depths: list[float], start_mm: float, last_mm: float) -> list[float]:
    """Split the end so that neither of the last two passes takes more than `last_mm`."""
    end = depths[-1]
    room = end - start_mm
    if room <= last_mm:
        return [end]
    if room <= 2 * last_mm:
        return [start_mm + room / 2, end]
    # A step that is light already is left alone rather than cut in two for nothing.
    body = [d for d in depths if d < end - 2 * last_mm + 1e-9]
    lead_in = end - 2 * last_mm
    if not body or lead_in - body[-1] > 0.25 * last_mm:
        body.append(lead_in)
    else:
        body[-1] = lead_in
    return [*body, end - last_mm, end]


def threading_seconds(
    starts: int,
    passes: int,
    length_mm: float,
    approach_mm: float,
    lead_mm: float,
    rpm: float,
    return_s: float,
) -> float:
    """Time for all passes: the carriage runs at lead × rpm."""
    return starts * passes * ((length_mm + approach_mm) / (lead_mm * rpm) * 60 + return_s)


def run_out_mm(lead_mm: float, rpm: float, reaction_s: float = 0.5) -> float:
    """Carriage travel while a hand reacts, mm: the groove at the end must be wider."""
    return lead_mm * rpm * reaction_s / 60


def spindle_rpm(diameter_mm: float, speed_m_min: float) -> float:
    """Spindle speed for a cutting speed: 1000 v / (π d)."""
    return 1000 * speed_m_min / (math.pi * diameter_mm)


class TurningCut(Struct, frozen=True):
    """Turning from one diameter to another: passes, depth of each (mm, radial), rpm, seconds a pass."""

    passes: int
    depth_mm: float
    rpm: float
    pass_seconds: float


def turning_cut(
    start_mm: float,
    finish_mm: float,
    most_depth_mm: float,
    speed_m_min: float,
    feed_mm: float,
    length_mm: float,
    approach_mm: float,
) -> TurningCut:
    """Plan a turning cut; the radial stock is half the difference of diameters, rpm held at the start
    diameter.
    """
    stock = (start_mm - finish_mm) / 2
    passes = max(1, math.ceil(stock / most_depth_mm - CEIL_GUARD))
    rpm = spindle_rpm(start_mm, speed_m_min)
    return TurningCut(passes, stock / passes, rpm, (length_mm + approach_mm) / (feed_mm * rpm) * 60)
