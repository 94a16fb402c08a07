"""Where a part is drawn, and sections through what is milled and drilled in a turned one."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.parts.base import Feature, Part
from trebb.core.parts.page import Page, Point, text_width
from trebb.core.threads import Band
from trebb.core.units import INCH_MM, UnitSystem

LEAST_SECTION, MOST_SECTION = 9.0, 26.0  # radius of a section on paper, mm
LETTERS = "ABCDEF"
APART = 18.0  # between one section and the next below it: a note and a heading


class Place(Struct, frozen=True):
    """The page a part is drawn on, its scale, the units it is written in, its projection, and what of it an
    operation cuts; `has_sizes` : with its sizes, or its shape alone.
    """

    page: Page
    scale: float
    system: UnitSystem
    angle: str = "third"
    cut: frozenset[str] = frozenset()
    has_sizes: bool = True

    def size(self, mm: float) -> str:
        """A size as a drawing has it: four places in inches, three in millimetres, without needless noughts.
        `mm` in mm.
        """
        if self.system is UnitSystem.INCH:
            text = f"{mm / INCH_MM:.4f}"
            return text.removeprefix("0") if mm < INCH_MM else text
        return f"{mm:.3f}".rstrip("0").rstrip(".")

    def length(self, mm: float) -> str:
        """A length not fitted: thousandths, or hundredths of a millimetre. `mm` in mm."""
        if self.system is UnitSystem.INCH:
            text = f"{mm / INCH_MM:.3f}"
            return text.removeprefix("0") if mm < INCH_MM else text
        return f"{mm:.2f}".rstrip("0").rstrip(".")

    def limits(self, band: Band) -> str:
        """Both limits beside each other."""
        if self.system is UnitSystem.INCH:
            return f"{self.size(band.low_mm)} – {self.size(band.high_mm)}"
        return f"{band.low_mm:.3f} – {band.high_mm:.3f}"


def radius_at(part: Part, z: float) -> float:
    """Radius of the part at a place along it, mm."""
    end = 0.0
    for section in part.sections:
        end += section.length_mm
        if z <= end + 1e-9:
            return section.diameter_mm / 2
    return part.sections[-1].diameter_mm / 2


def sections_wanted(part: Part) -> list[Feature]:
    """Features that are cut through in a section of their own; none beside a thread's detail, which
    takes the room: there the sizes say it.
    """
    if part.thread is not None or part.is_crowded:
        return []
    return [
        f
        for f in part.features
        if f.kind in ("keyway", "taper_hole", "square", "spline", "flats", "cross_hole") and part.bore is None
    ][:2]


def section_radius(part: Part, scale: float) -> float:
    seen = sections_wanted(part)
    if not seen:
        return 0.0
    r = max(radius_at(part, f.at_mm + f.length_mm / 2) for f in seen) * scale
    return min(MOST_SECTION, max(LEAST_SECTION, r))


def sections(part: Part, place: Place, x: float, axis: float, seen: list[Feature]) -> None:
    """Sections beside the part, one over the other, each with its letter and, where larger, its own scale."""
    page, low = place.page, axis
    for i, f in enumerate(seen):
        radius_mm = radius_at(part, f.at_mm + f.length_mm / 2)
        drawn = min(MOST_SECTION, max(LEAST_SECTION, radius_mm * place.scale))
        s = drawn / radius_mm
        y = low - drawn - APART if i else axis + (0.0 if drawn > 20 else 8.0)
        low = y - drawn
        _one_section(f, page, (x, y), drawn, s, radius_mm)
        larger = s / place.scale
        words = f"{LETTERS[i]}–{LETTERS[i]}" + (f"  (× {larger:.2g})" if abs(larger - 1) > 0.01 else "")
        page.write(words, (x, y + drawn + 5.5))
        note = _section_note(f, place, radius_mm)
        if note:
            page.write(note, (x, y - drawn - 5.0))
        half = max(text_width(words), text_width(note)) / 2
        if x + half > page.area.right or y - drawn - 8 < page.area.low:
            page.overflows = True


def _section_note(f: Feature, place: Place, radius_mm: float) -> str:
    if f.kind == "keyway":
        return f"{place.size(2 * radius_mm - f.depth_mm)} over"
    if f.kind == "square":
        return f"square {place.length(f.width_mm)}"
    if f.kind == "spline":
        return f"{f.count} × {place.length(f.width_mm)}"
    if f.kind == "flats":
        return f"{place.length(2 * radius_mm - f.depth_mm)} over"
    return f"{f.words} Ø{place.length(f.width_mm)}".strip()


def _one_section(f: Feature, page: Page, c: Point, r: float, s: float, radius_mm: float) -> None:
    x, y = c
    half, depth = f.width_mm * s / 2, f.depth_mm * s

    def arc(start: float, end: float, count: int = 36) -> list[Point]:
        return [
            (x + r * math.cos(t), y + r * math.sin(t))
            for t in (start + (end - start) * i / count for i in range(count + 1))
        ]

    if f.kind in ("keyway", "flats") and half < r:
        floor = y + r - depth
        edge = math.acos(min(1.0, half / r)) if f.kind == "keyway" else math.asin(min(1.0, (r - depth) / r))
        ring = arc(math.pi - edge, 2 * math.pi + edge)
        shape = (
            [*ring, (x + half, floor), (x - half, floor), ring[0]] if f.kind == "keyway" else [*ring, ring[0]]
        )
        page.line("OUTLINE", *shape)
        page.hatch(shape)
    elif f.kind == "square":
        corners = [(x + sx * half, y + sy * half) for sx, sy in ((1, 1), (-1, 1), (-1, -1), (1, -1), (1, 1))]
        page.line("OUTLINE", *corners)
        page.hatch(corners)
        page.circle("THREAD", c, r)
    elif f.kind == "spline":
        shape = _spline_ring(f, c, r, s)
        page.line("OUTLINE", *shape)
        page.hatch(shape)
    else:
        page.circle("OUTLINE", c, r)
        for way in (-1, 1):
            page.line(
                "OUTLINE",
                (x + way * half, y - math.sqrt(max(0.0, r * r - half * half))),
                (x + way * half, y + math.sqrt(max(0.0, r * r - half * half))),
            )
        left = [p for p in arc(math.pi / 2, 3 * math.pi / 2) if p[0] <= x - half]
        right = [p for p in arc(-math.pi / 2, math.pi / 2) if p[0] >= x + half]
        for side in (left, right):
            if len(side) > 2:
                page.hatch([*side, side[0]])
    page.line("CENTRE", (x - r - 3, y), (x + r + 3, y), solid=False)
    page.line("CENTRE", (x, y - r - 3), (x, y + r + 3), solid=False)


def _spline_ring(f: Feature, c: Point, r: float, s: float) -> list[Point]:
    """Outline of a splined shaft from its end."""
    half, root = f.width_mm * s / 2, r - f.depth_mm * s
    found = []
    for i in range(f.count):
        turn = 2 * math.pi * i / f.count + math.pi / 2
        for radius, side in ((root, -1), (r, -1), (r, 1), (root, 1)):
            angle = turn - side * math.asin(min(1.0, half / radius))
            found.append((c[0] + radius * math.cos(angle), c[1] + radius * math.sin(angle)))
    order = sorted(found, key=lambda p: math.atan2(p[1] - c[1], p[0] - c[0]))
    return [*order, order[0]]
