"""A thread's form as a detail beside its part, at a scale of its own: two pitches, tip flat, depth, angle."""

from __future__ import annotations

import math
from collections.abc import Callable

from trebb.core.parts.page import SMALL, Page, Point
from trebb.core.threads import ThreadSpec
from trebb.core.threads.groove import groove_of

WIDE, HIGH, PITCHES = 74.0, 31.0, 2


def thread_detail(page: Page, spec: ThreadSpec, size_of: Callable[[float], str], words: str) -> bool:
    """Draw it where the page has room for it; False where it has none. `size_of` takes mm."""
    spot = page.room(WIDE, HIGH, (3, 6))
    if spot is None:
        return False
    scale = 30.0 / (PITCHES * spec.pitch_mm)
    half = math.tan(spec.form.half_angle)
    groove = groove_of(spec)
    depth, root = groove.depth_mm, groove.flat_mm
    crest = max(0.0, spec.pitch_mm - root - 2 * depth * half)
    tall = depth * scale
    if tall > 16.0:
        scale *= 16.0 / tall
    left, top = spot.left + 12.0, spot.high - 9.0
    points: list[Point] = [(left - 3.0, top)]
    for k in range(PITCHES):
        x = left + k * spec.pitch_mm * scale
        run = depth * half * scale
        points += [
            (x + crest * scale, top),
            (x + crest * scale + run, top - depth * scale),
            (x + crest * scale + run + root * scale, top - depth * scale),
            (x + spec.pitch_mm * scale, top),
        ]
    points += [(points[-1][0] + crest * scale, top)]
    foot = top - depth * scale - 4.0
    page.line("OUTLINE", *points)
    page.hatch((*points, (points[-1][0], foot), (points[0][0], foot)))
    right = points[-1][0] + 3.0
    lines = [
        f"{words}, × {scale:.2g}",
        f"pitch {size_of(spec.pitch_mm)}",
        f"depth {size_of(depth)}",
        f"tip flat {size_of(root)}",
        f"included {2 * math.degrees(spec.form.half_angle):.4g}°",
    ]
    page.write_left(lines[0], (spot.left + 1.0, spot.high - 5.0), SMALL)
    for i, line in enumerate(lines[1:]):
        page.write_left(line, (right, top - 3.0 - 4.6 * i), SMALL)
    page.boxes.append(spot)
    return True
