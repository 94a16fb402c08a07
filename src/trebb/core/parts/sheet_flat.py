"""What is not turned on its page: views with their own dimensions, a block with a threaded hole, a plate."""

from __future__ import annotations

import math
from collections.abc import Callable

from trebb.core.parts.base import Measured, Part, View
from trebb.core.parts.page import TEXT, Page, Point, Round
from trebb.core.parts.sheet_turned import hole_words
from trebb.core.parts.turned_sections import Place

VIEW_GAP, DIM_STEP = 6.0, 7.0


def views(part: Part, place: Place) -> None:
    """Views one below the other, each with room for its dimensions and its words."""
    page, s = place.page, place.scale
    taken = sum((v.box[3] - v.box[1]) * s + 30.0 for v in part.views)
    top = page.area.high - max(0.0, (page.area.high - page.area.low - taken) / 2)
    for view in part.views:
        low_x, low_y, high_x, high_y = view.box
        above = 9.5 * sum(not m.upright and m.off > 0 for m in view.measured)
        below = 8.5 * sum(not m.upright and m.off < 0 for m in view.measured)
        wide, high = (high_x - low_x) * s, (high_y - low_y) * s
        base = top - above - 4.0 - high
        left = page.area.left + (page.area.right - page.area.left - wide) / 2
        if base - below - 9.0 < page.area.low or wide > page.area.right - page.area.left - 70:
            page.overflows = True

        def at(
            p: Point, left: float = left, base: float = base, x0: float = low_x, y0: float = low_y
        ) -> Point:
            return left + (p[0] - x0) * s, base + (p[1] - y0) * s

        for outline in view.outlines:
            page.line("OUTLINE", *(at(p) for p in (*outline, outline[0])))
        for points in view.lines:
            page.line("THREAD", *(at(p) for p in points), solid=False)
        for x, y, diameter in view.holes:
            page.circle("OUTLINE", at((x, y)), diameter * s / 2)
        rows = {True: 0, False: 0}
        cols = {True: 0, False: 0}
        for m in sorted(view.measured, key=lambda m: abs(m.end[0] - m.start[0])):
            page.mark(m.key, at(m.start), at(m.end))
            outer = m.off > 0
            if m.upright:
                cols[outer] += 1
                _upright(place, part, m, view, at, cols[outer])
            else:
                rows[outer] += 1
                edge = at((0.0, high_y))[1] if outer else at((0.0, low_y))[1]
                y = edge + (1 if outer else -1) * 7.2 * rows[outer]
                page.along(at(m.start), at(m.end), y, _measured(part, place, m))
        for diameter in dict.fromkeys(d for _, _, d in view.holes):
            same = [(x, y) for x, y, d in view.holes if d == diameter]
            x, y = same[-1]
            for hx, hy in same:
                half = diameter / 2
                page.mark(
                    dict(view.hole_keys).get(diameter), at((hx - half, hy - half)), at((hx + half, hy + half))
                )
            words = hole_words(part, place, diameter, len(same), dict(view.hole_keys).get(diameter, ""))
            ring = next((c for c in view.circles if abs(c / 2 - math.hypot(x, y)) < 1e-6), 0.0)
            if ring:
                page.rounds.append(Round("CENTRE", at((0.0, 0.0)), ring * s / 2))
                words += f" on Ø{place.length(ring)}"
            page.label(words, at((x, y + diameter / 2)))
        words_y = base - below - 5.5
        page.write(view.words, ((page.area.left + page.area.right) / 2, words_y), TEXT)
        top = words_y - VIEW_GAP


def _measured(part: Part, place: Place, m: Measured) -> str:
    """What a dimension says: the limits of the row it stands for, or what it measures."""
    if m.key:
        return place.limits(part.band(m.key))
    if m.upright:
        return place.size(abs(m.end[1] - m.start[1]))
    return place.length(abs(m.end[0] - m.start[0]))


def _upright(
    place: Place, part: Part, m: Measured, view: View, at: Callable[[Point], Point], column: int
) -> None:
    low_x, _, high_x, _ = view.box
    edge = at((high_x if m.off > 0 else low_x, 0.0))[0]
    base = edge + (1 if m.off > 0 else -1) * (6.0 + 18.0 * (column - 1))
    place.page.upright(at(m.start), at(m.end), base, _measured(part, place, m))


def plate(part: Part, place: Place) -> None:
    """A flat bar with pins or holes, seen on its flat; a handle that narrows behind the head."""
    page, s = place.page, place.scale
    assert part.block_mm is not None
    length, half = part.length_mm * s, part.block_mm[0] * s / 2
    x0 = page.area.left + max(52.0, (page.area.right - page.area.left - length) / 2)
    y0 = (page.area.low + page.area.high) / 2
    if x0 + length > page.area.right - 4 or y0 - half - 22 < page.area.low or y0 + half + 30 > page.area.high:
        page.overflows = True
    neck, grip = 2 * half, max(0.16 * half, 0.45 * TEXT + part.block_mm[1] * s)
    grip = min(grip, half)
    points = (
        (0, -half), (neck, -half), (neck + half, -grip), (length, -grip), (length, grip), (neck + half, grip),
        (neck, half), (0, half), (0, -half),
    )  # fmt: skip
    page.line("OUTLINE", *((x0 + x, y0 + y) for x, y in points))
    page.line("CENTRE", (x0 - 5, y0), (x0 + length + 5, y0), solid=False)
    for hx, hy, dia in part.holes:
        page.circle("OUTLINE", (x0 + hx * s, y0 + hy * s), dia * s / 2)
        page.line(
            "CENTRE", (x0 + (hx - dia) * s, y0 + hy * s), (x0 + (hx + dia) * s, y0 + hy * s), solid=False
        )
    low, high = part.holes[0], part.holes[-1]
    page.along((x0, y0 + half), (x0 + high[0] * s, y0 + half), y0 + half + 8, place.length(high[0]))
    page.along((x0, y0 - half), (x0 + length, y0 - grip), y0 - half - 9, place.length(part.length_mm))
    page.upright((x0, y0 - half), (x0, y0 + half), x0 - 30, place.length(part.block_mm[0]), left=True)
    if abs(high[1] - low[1]) > 1e-6:
        page.upright(
            (x0 + low[0] * s, y0 + low[1] * s),
            (x0 + high[0] * s, y0 + high[1] * s),
            x0 - 8,
            place.length(abs(high[1] - low[1])),
            left=True,
        )
    count = len(part.holes)
    page.label(
        hole_words(part, place, high[2], count),
        (x0 + high[0] * s, y0 + high[1] * s + high[2] * s / 2),
    )


def _outline(page: Page, left: float, base: float, wide: float, high: float) -> None:
    """A rectangle's edges."""
    right, top = left + wide, base + high
    page.line("OUTLINE", (left, base), (right, base), (right, top), (left, top), (left, base))


def block(part: Part, place: Place) -> None:
    """A block with a threaded hole: side view in section, end view beside it."""
    page, s = place.page, place.scale
    assert part.block_mm is not None
    assert part.bore is not None
    width, height = part.block_mm[0] * s, part.block_mm[1] * s
    length, axis_h = part.length_mm * s, part.axis_height_mm * s
    minor, major = part.bore.diameter_mm * s / 2, part.band("major").low_mm * s / 2
    total = length + width + 46.0
    left = page.area.left + 30.0 + max(0.0, (page.area.right - page.area.left - 36.0 - total) / 2)
    base = page.area.low + 20.0 + max(0.0, (page.area.high - page.area.low - height - 56.0) / 2)
    spigot = next((f.length_mm * s for f in part.features if f.kind == "spigot"), 0.0)
    base += spigot + 9.0 if spigot else 0.0
    if left + total > page.area.right or base + height + 32 > page.area.high:
        page.overflows = True
    axis = base + axis_h
    _outline(page, left, base, length, height)
    for r, layer in ((minor, "OUTLINE"), (major, "THREAD")):
        for y in (axis - r, axis + r):
            page.line(layer, (left, y), (left + length, y), solid=layer == "OUTLINE")
    page.hatch(
        (
            (left, axis + major),
            (left + length, axis + major),
            (left + length, base + height),
            (left, base + height),
        )
    )
    if axis - major > base + 0.2:
        page.hatch(((left, base), (left + length, base), (left + length, axis - major), (left, axis - major)))
    page.line("CENTRE", (left - 5, axis), (left + length + 5, axis), solid=False)
    x0 = left + length + 40.0
    _outline(page, x0, base, width, height)
    centre = (x0 + width / 2, axis)
    page.circle("OUTLINE", centre, minor)
    page.circle("THREAD", centre, major)
    page.line("CENTRE", (x0 - 4, axis), (x0 + width + 4, axis), solid=False)
    page.line("CENTRE", (centre[0], base - 4), (centre[0], base + height + 4), solid=False)
    _construction(part, place, left, x0, base, axis, minor, major)
    _holds(part, place, left, x0, base, axis)
    page.along((left, base), (left + length, base), base - spigot - 8.5, place.length(part.length_mm))
    page.along((x0, base), (x0 + width, base), base - spigot - 8.5, place.length(part.block_mm[0]))
    page.upright((left, base), (left, axis), left - 7, place.length(part.axis_height_mm))
    page.upright((left, base), (left, base + height), left - 22, place.length(part.block_mm[1]))
    band = part.bore.size
    page.label(
        f"Ø{place.limits(band) if band is not None else place.length(part.bore.diameter_mm)}",
        (centre[0], axis + minor),
    )
    words = part.title.split(", ", 1)
    page.label(words[1] if len(words) > 1 else words[0], (left + length * 0.5, axis + major))


def _holds(part: Part, place: Place, left: float, x0: float, base: float, axis: float) -> None:
    """Spigot under the base, bolts into it, adjusting screw across the slot."""
    page, s = place.page, place.scale
    assert part.block_mm is not None
    width, over = part.block_mm[0] * s, base + part.block_mm[1] * s
    said = set()
    for f in part.features:
        half = f.width_mm * s / 2
        if f.kind == "spigot":
            foot = base - f.length_mm * s
            for middle in (left + f.at_mm * s, x0 + width / 2):
                page.line(
                    "OUTLINE",
                    (middle - half, base),
                    (middle - half, foot),
                    (middle + half, foot),
                    (middle + half, base),
                )
            assert f.size is not None
            page.along(
                (x0 + width / 2 - half, foot),
                (x0 + width / 2 + half, foot),
                foot - 17.5,  # under the block's own width, whose lines it would cross
                f"Ø{place.limits(f.size)}, {place.length(f.length_mm)} long",
            )
        elif f.kind == "bolt":
            x, top = left + f.at_mm * s, base + f.depth_mm * s
            page.line(
                "THREAD", (x - half, base), (x - half, top), (x + half, top), (x + half, base), solid=False
            )
            page.line("CENTRE", (x, base - 3), (x, top + 3), solid=False)
            if f.words not in said:
                apart = part.length_mm - 2 * f.at_mm  # they stand about the middle
                words = f"{f.words}, {place.length(f.depth_mm)} deep, {place.length(apart)} apart"
                page.label(words, (x, top), lean=-1, over=over)
            said.add(f.words)
        elif f.kind == "adjuster":
            y = axis + f.depth_mm * s
            for side in (-half, half):
                page.line("THREAD", (x0, y + side), (x0 + width, y + side), solid=False)
            page.line("CENTRE", (x0 - 3, y), (x0 + width + 3, y), solid=False)
            page.label(f.words, (x0 + width * 0.85, y + half), lean=1, over=over)


def _construction(
    part: Part, place: Place, left: float, x0: float, base: float, axis: float, minor: float, major: float
) -> None:
    """Slots, the split of half nuts, the joint of two pieces."""
    page, s = place.page, place.scale
    assert part.block_mm is not None
    width, height, length = part.block_mm[0] * s, part.block_mm[1] * s, part.length_mm * s
    middle = x0 + width / 2
    if part.construction == "split":
        slot = 0.1 * major
        for side in (-slot, slot):
            page.line("OUTLINE", (middle + side, axis + minor), (middle + side, base + height))
    if part.construction == "half":  # sawn through the axis, packed while it is bored
        page.line("CENTRE", (x0 - 3, axis), (x0 + width + 3, axis), solid=False)
        for y in (axis - s, axis + s):
            page.line("OUTLINE", (x0, y), (middle - minor, y))
            page.line("OUTLINE", (middle + minor, y), (x0 + width, y))
    if part.construction == "two_piece":
        piece = part.size_mm("piece") * s
        for x in (left + piece, left + length - piece):
            page.line("OUTLINE", (x, base), (x, base + height))
