"""A thread in section along its axis: outlines of screw and nut, new or worn, true to size."""

from __future__ import annotations

import math

from trebb.core.threads.forms import ThreadSpec

# Points (x along the axis, depth below the screw's new crest), mm, x growing to the right; grooves lie at
# whole pitches.
Outline = list[tuple[float, float]]


def _half_groove_mm(spec: ThreadSpec, pitch_dia_mm: float, depth_mm: float, play_mm: float = 0.0) -> float:
    """Half of a groove's width at a depth: P/4 at the pitch line, opening outward; a square thread's is as
    wide all the way, with half of its play each side.
    """
    above = (spec.major_mm - pitch_dia_mm) / 2 - depth_mm
    return spec.pitch_mm / 4 + above * math.tan(spec.form.half_angle) + play_mm / 2


def screw_outline(
    spec: ThreadSpec, pitch_dia_mm: float, wear_mm: float, crest_loss_mm: float, pitches: int
) -> Outline:
    """The screw's surface over so many pitches, a groove in the middle of each.

    Parameters
    ----------
    pitch_dia_mm : unworn. `wear_mm` total axial play gone, half from each flank.
    crest_loss_mm : off the crests, on diameter.

    Where flanks wear through the crest they meet lower: it is then sharp.
    """
    slope = math.tan(spec.form.half_angle)
    crest, root = crest_loss_mm / 2, spec.depth_mm
    top = _half_groove_mm(spec, pitch_dia_mm, crest, wear_mm)
    if top > spec.pitch_mm / 2 and slope > 0:  # neighbouring grooves meet: a sharp crest
        crest += (top - spec.pitch_mm / 2) / slope
        top = spec.pitch_mm / 2
    top = min(top, spec.pitch_mm / 2)
    bottom = max(_half_groove_mm(spec, pitch_dia_mm, root), 0.0)
    # The nut never reaches the last of the depth: there the flank is as it was cut.
    engaged = min(root, spec.basic_height_mm)
    step = _half_groove_mm(spec, pitch_dia_mm, engaged, wear_mm)
    fresh = _half_groove_mm(spec, pitch_dia_mm, engaged)
    points: Outline = [(0.0, crest)]
    for k in range(pitches):
        c = (k + 0.5) * spec.pitch_mm
        points += [
            (c - top, crest),
            (c - step, engaged),
            (c - fresh, engaged),
            (c - bottom, root),
            (c + bottom, root),
            (c + fresh, engaged),
            (c + step, engaged),
            (c + top, crest),
        ]
    points.append((pitches * spec.pitch_mm, crest))
    return points


def nut_outline(spec: ThreadSpec, screw_pitch_dia_mm: float, play_mm: float, pitches: int) -> Outline:
    """The nut's surface over the same pitches, its ridges in the screw's grooves, `play_mm` in all on unworn
    thread.
    """
    slope = math.tan(spec.form.half_angle)
    pitch_dia = screw_pitch_dia_mm + (play_mm / slope if slope else 0.0)
    off = 0.0 if slope else -play_mm / 2
    tip = (spec.major_mm - spec.nut_minor_mm) / 2
    base = -spec.clearance_dia_mm / 2
    narrow = max(_half_groove_mm(spec, pitch_dia, tip) + off, 0.0)
    wide = min(_half_groove_mm(spec, pitch_dia, base) + off, spec.pitch_mm / 2)
    points: Outline = [(-spec.pitch_mm, base)]
    for k in range(-1, pitches + 1):
        c = (k + 0.5) * spec.pitch_mm
        points += [(c - wide, base), (c - narrow, tip), (c + narrow, tip), (c + wide, base)]
    points.append(((pitches + 1) * spec.pitch_mm, base))
    return points
