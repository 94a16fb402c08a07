"""A turned part on its page: side view, cut where it is hollow; its fitted sizes, what is milled and drilled
in it, sections through that, its face where that has holes.
"""

from __future__ import annotations

import math
from itertools import pairwise

from trebb.core.parts.base import Feature, Part, Section
from trebb.core.parts.page import Point, Round, text_width
from trebb.core.parts.turned_sections import (
    LETTERS,
    Place,
    radius_at,
    section_radius,
    sections,
    sections_wanted,
)
from trebb.core.threads import Band
from trebb.core.words import large

LENGTH_STEP, LEFT_ROOM, SECTION_GAP, HELD_ROOM = 6.4, 34.0, 16.0, 8.0
_SAID_IN_SECTION = ("cross_hole", "taper_hole", "square", "flats")


def turned(part: Part, place: Place) -> None:
    """A shaft or ring in side view, axis along x, its left end at the left."""
    page, s = place.page, place.scale
    length, half = part.length_mm * s, part.largest_mm * s / 2
    if not place.has_sizes:
        area = page.area
        page.overflows |= length + 2 * HELD_ROOM > area.right - area.left or 2 * half > area.high - area.low
        _outline(part, place, (area.left + area.right - length) / 2, (area.low + area.high) / 2)
        return
    seen = sections_wanted(part)
    faced = 2 * half + 26.0 if part.holes else 0.0
    column = (2 * section_radius(part, s) + 34.0) if seen else 0.0
    rows = len(_steps(part))
    opening = _right_opening(part, place)
    column += text_width(opening) + 10.0 if opening else 0.0
    wide = page.area.right - page.area.left
    x0 = page.area.left + LEFT_ROOM + max(0.0, (wide - LEFT_ROOM - length - column - faced - 14.0) / 2)
    low_room = 9.0 + rows * LENGTH_STEP
    high = page.area.high - page.area.low
    labels = len(part.sections) + sum(bool(_feature_words(f, place)) for f in part.features) + len(seen)
    spare = high - low_room - 2 * half
    # Half of the labels lean to either side; a third more room lets a leader pass.
    over = min(
        spare,
        max(14.0, (0.3 if part.thread is not None else 0.55) * spare, 8.0 + 6.2 * (-(-labels // 2) + 1)),
    )
    axis = page.area.high - over - half
    if axis - half - low_room < page.area.low or x0 + length + column + faced + 8 > page.area.right:
        page.overflows = True
    _outline(part, place, x0, axis)
    _lengths(part, place, x0, axis - half)
    at = x0 + length + SECTION_GAP
    if part.bore is not None:
        _bore_size(part, place, x0, axis)
    if opening:
        r = part.inner[-1].diameter_mm * s / 2
        page.upright((x0 + length, axis - r), (x0 + length, axis + r), x0 + length + 7, opening)
        at += text_width(opening) + 10.0
    if part.holes:
        _face(part, place, (at + half, axis))
        at += faced
    sections(part, place, at + section_radius(part, s) + 8, axis, seen)
    _labels(part, place, x0, axis, seen)


def _steps(part: Part) -> list[float]:
    """Faces from the left end, mm, each once."""
    found, z = [], 0.0
    for section in part.sections:
        z += section.length_mm
        found.append(z)
    return found


def _outline(part: Part, place: Place, x0: float, axis: float) -> None:
    page, s, x = place.page, place.scale, x0
    is_cut = part.bore is not None or bool(part.inner)  # no edge runs through what is hatched
    top: list[Point] = [(x0, axis)]
    for section in part.sections:
        r, end = section.diameter_mm * s / 2, x + section.length_mm * s
        top += [(x, axis + r), *_grooved(part, place, (x0, axis), (x, end), r), (end, axis + r)]
        page.line("OUTLINE", (end, axis - r), (end, axis if is_cut else axis + r))
        for what in (section.size, section.long):
            page.mark(what, (x, axis - r), (end, axis + r))
        if section.is_threaded:
            root = max(0.2 * r, r - max(0.6, 0.12 * r))
            for y in (axis + root, axis - root):
                page.line("THREAD", (x, y), (end, y), solid=False)
        x = end
    top.append((x, axis))
    page.line("OUTLINE", *top)
    page.line("OUTLINE", *[(a, 2 * axis - b) for a, b in top])
    page.line("CENTRE", (x0 - 4, axis), (x + 4, axis), solid=False)
    if part.inner:
        _inside(part, place, x0, axis, top)
    elif part.bore is not None:
        _bore(part, place, x0, x, axis, top)
    for f in part.features:
        _feature(f, part, place, x0, axis)
    _washes(part, place, x0, axis)


def _is_inside(part: Part) -> bool:
    """Whether its grooves are oil's, in its bore: those of a part written by features are outside."""
    return part.bore is not None and not part.inner


def _grooved(part: Part, place: Place, at: Point, span: tuple[float, float], r: float) -> list[Point]:
    """Grooves turned in the outside of a section, as its upper outline runs through them; their walls drawn.
    All on the page.
    """
    (x0, axis), s = at, place.scale
    found: list[Point] = []
    for f in sorted((f for f in part.features if f.kind == "groove"), key=lambda f: f.at_mm):
        begin, end, ground = x0 + f.at_mm * s, x0 + (f.at_mm + f.length_mm) * s, axis + r - f.depth_mm * s
        if not _is_inside(part) and span[0] <= begin and end <= span[1] + 1e-6:
            found += [(begin, axis + r), (begin, ground), (end, ground), (end, axis + r)]
            for wall in (begin, end):
                place.page.line("OUTLINE", (wall, axis - r), (wall, axis if part.inner else axis + r))
    return found


def _washes(part: Part, place: Place, x0: float, axis: float) -> None:
    """What the operation cuts: sections, ends, the bore, features."""
    page, s, x = place.page, place.scale, x0

    def block(left: float, right: float, low: float, high: float) -> None:
        page.wash(((left, low), (right, low), (right, high), (left, high)))

    for i, section in enumerate(part.sections):
        r, end = section.diameter_mm * s / 2, x + section.length_mm * s
        if f"section {i}" in place.cut or "outside" in place.cut:
            block(x, end, axis - r, axis + r)
        x = end
    if "ends" in place.cut:
        for at in (x0, x):
            r = part.sections[0 if at == x0 else -1].diameter_mm * s / 2
            block(at - 1.2, at + 1.2, axis - r, axis + r)
    if "bore" in place.cut and part.bore is not None:
        r = part.bore.diameter_mm * s / 2
        block(x0, min(x, x0 + (part.bore.length_mm or part.length_mm) * s), axis - r, axis + r)
    for f in part.features:
        if f.kind in place.cut:
            at, half = x0 + f.at_mm * s, max(f.width_mm * s / 2, 0.8)
            end = at + f.length_mm * s if f.length_mm else at + half
            start = at if f.length_mm else at - half
            high = half if f.kind not in ("undercut", "groove") else radius_at(part, f.at_mm) * s
            block(start, max(end, start + 0.8), axis - high, axis + high)
    if place.has_sizes:
        _held(part, place, x0, x, axis)


def _held(part: Part, place: Place, x0: float, end: float, axis: float) -> None:
    """How it is held: on centres, in jaws at an end, or on a vee block under it."""
    page, s = place.page, place.scale
    if "on centres" in place.cut:
        for at, way in ((x0, -1), (end, 1)):
            points = ((at, axis), (at + way * 6, axis + 3), (at + way * 6, axis - 3), (at, axis))
            page.line("HELD", *points, solid=False)
    if "in jaws" in place.cut:
        r = part.sections[0].diameter_mm * s / 2
        for side in (1, -1):
            low, high = axis + side * r, axis + side * (r + 5)
            jaw = ((x0 - 3, low), (x0 + 5, low), (x0 + 5, high), (x0 - 3, high), (x0 - 3, low))
            page.line("HELD", *jaw, solid=False)
    if "on a vee" in place.cut:
        r = part.largest_mm * s / 2
        for share in (0.25, 0.75):
            at = x0 + (end - x0) * share
            page.line("HELD", (at - 4, axis - r - 6), (at, axis - r), (at + 4, axis - r - 6), solid=False)


def _bore(part: Part, place: Place, x0: float, end: float, axis: float, top: list[Point]) -> None:
    """Upper half cut and hatched, lower half seen from outside."""
    assert part.bore is not None
    page, s = place.page, place.scale
    r = part.bore.diameter_mm * s / 2
    deep = min(end, x0 + part.bore.length_mm * s) if part.bore.length_mm else end
    page.line("OUTLINE", (x0, axis + r), (deep, axis + r))
    page.mark(part.bore.size, (x0, axis - r), (deep, axis + r))
    if deep < end:
        page.line("OUTLINE", (deep, axis), (deep, axis + r))
    cut = [
        *top[1:-1],
        *([(end, axis)] if deep < end else []),
        *([(deep, axis)] if deep < end else []),
        (deep, axis + r),
        (x0, axis + r),
    ]
    page.hatch(cut)
    page.line("THREAD", (x0, axis - r), (deep, axis - r), solid=False)


def _inside(part: Part, place: Place, x0: float, axis: float, top: list[Point]) -> None:
    """The same of an inside that steps, from either end: solid where it has no diameter."""
    page, s, x = place.page, place.scale, x0
    upper: list[Point] = []
    for section in part.inner:
        end, r = x + section.length_mm * s, section.diameter_mm * s / 2
        page.mark(section.size, (x, axis - r), (end, axis + r))
        if upper and upper[-1][1] != axis + r:
            page.line("OUTLINE", (x, upper[-1][1]), (x, axis + r))
        if r:
            page.line("OUTLINE", (x, axis + r), (end, axis + r))
            page.line("THREAD", (x, axis - r), (end, axis - r), solid=False)
        if section.is_threaded:
            page.line("THREAD", (x, axis + 1.12 * r), (end, axis + 1.12 * r), solid=False)
        upper += [(x, axis + r), (end, axis + r)]
        x = end
    page.hatch([*top[1:-1], *reversed(upper)])


def _feature(f: Feature, part: Part, place: Place, x0: float, axis: float) -> None:
    """What is milled, drilled or turned in, in the side view."""
    page, s = place.page, place.scale
    x, r = x0 + f.at_mm * s, radius_at(part, f.at_mm + f.length_mm / 2) * s
    end, half = x + f.length_mm * s, f.width_mm * s / 2
    page.mark(f.size, (x if f.length_mm else x - half, axis - half), (max(end, x + half), axis + half))
    if f.kind == "keyway":
        turns = [-math.pi / 2 + math.pi * i / 8 for i in range(9)]
        right = [(end - half + half * math.cos(t), axis + half * math.sin(t)) for t in turns]
        left = [(x + half - half * math.cos(t), axis - half * math.sin(t)) for t in turns]
        page.line("OUTLINE", *right, *left, right[0])
    elif f.kind in ("cross_hole", "taper_hole", "tap"):
        page.circle("OUTLINE", (x, axis), max(0.3, half))
        if f.kind == "tap":
            page.circle("THREAD", (x, axis), 0.8 * max(0.3, half))
    elif f.kind == "square" and part.bore is None:
        flat = f.width_mm * s / 2
        page.line("OUTLINE", (x, axis + flat), (end, axis + flat))
        page.line("OUTLINE", (x, axis - flat), (end, axis - flat))
        page.line("THREAD", (x, axis - flat), (end, axis + flat), solid=False)
        page.line("THREAD", (x, axis + flat), (end, axis - flat), solid=False)
    elif f.kind == "knurl":
        for share in (-0.75, -0.25, 0.25, 0.75):
            page.line("THREAD", (x, axis + share * r), (end, axis + share * r), solid=False)
    elif f.kind == "spline":
        for y in (-half, half, r - f.depth_mm * s, -(r - f.depth_mm * s)):
            page.line("OUTLINE", (x, axis + y), (end, axis + y))
    elif f.kind == "flats":
        page.line(
            "OUTLINE",
            (x, axis - half),
            (end, axis - half),
            (end, axis + half),
            (x, axis + half),
            (x, axis - half),
        )
    elif f.kind == "groove" and _is_inside(part):
        page.line("THREAD", (x, axis - 1.2), (end, axis + 1.2), solid=False)


def _lengths(part: Part, place: Place, x0: float, low: float) -> None:
    """From one datum, so that no error adds up: the left end; a limited length between its own faces."""
    z, s = 0.0, place.scale
    axis = low + part.largest_mm * s / 2
    for i, section in enumerate(part.sections):
        first, r = part.sections[0].diameter_mm / 2, section.diameter_mm / 2
        begin, words = 0.0, place.length(z + section.length_mm)
        if section.long:  # limited by itself, whatever stands before it
            begin, first, words = z, r, place.limits(part.band(section.long))
        z += section.length_mm
        y = low - 9.0 - i * LENGTH_STEP
        place.page.along((x0 + begin * s, axis - first * s), (x0 + z * s, axis - r * s), y, words)


def _words_of(section: Section, place: Place) -> str:
    if section.is_threaded:
        return section.label
    if section.size is not None:
        return f"Ø{place.limits(section.size)}"
    return f"Ø{place.length(section.diameter_mm)}"


def _labels(part: Part, place: Place, x0: float, axis: float, seen: list[Feature]) -> None:
    """Diameters, features and the letters of sections, over the part; bores under it where there is room."""
    page, s, x = place.page, place.scale, x0
    lettered: list[float] = []
    for letter, f in zip(LETTERS, seen, strict=False):
        at = x0 + (f.at_mm + f.length_mm / 2) * s
        r = radius_at(part, f.at_mm + f.length_mm / 2) * s
        page.line("CENTRE", (at, axis - r - 3), (at, axis + r + 3), solid=False)
        high = axis + r + 5.4
        while any(b.meets(page.box_at(letter, (at, high))) for b in page.boxes):
            high += 2.0
        page.write(letter, (at, high))
        lettered.append(at)
    wanted: list[tuple[float, str, Point, tuple[Point, Point] | None]] = []
    said: tuple[float, Band | None] | None = None
    for f in part.features:
        words = _feature_words(f, place)
        if words and not (f in seen and f.kind in _SAID_IN_SECTION):
            at = x0 + (f.at_mm + (f.length_mm / 2 if f.kind != "keyway" else 0.8 * f.length_mm)) * s
            r = (
                f.width_mm * s / 2
                if f.kind in ("cross_hole", "taper_hole", "tap")
                else radius_at(part, f.at_mm + f.length_mm / 2) * s
            )
            while any(abs(at - t) < 3.0 for t in (*lettered, *(w[0] for w in wanted))) and f.length_mm > 0:
                at -= 3.0 if at > x0 + f.at_mm * s + 3.0 else -30.0
            wanted.append((at, words, (at, axis + r), None))
    for section in part.sections:
        long = section.length_mm * s
        spots = [x + long * share for share in (0.5, 0.3, 0.7, 0.15, 0.85, 0.03, 0.97)]
        taken = [*lettered, *(w[0] for w in wanted)]
        away = {p: min([abs(p - t) for t in taken] + [99.0]) for p in spots}
        middle = next((p for p in spots if away[p] > 3.0), max(spots, key=lambda p, away=away: away[p]))  # type: ignore[misc]
        now = (section.diameter_mm, section.size)
        if now != said or section.is_threaded:  # one diameter on over several lengths is written once
            peak = (middle, axis + section.diameter_mm * s / 2)
            across = ((middle, 2 * axis - peak[1]), peak) if not section.is_threaded else None
            wanted.append((middle, _words_of(section, place), peak, across))
        said = now if not section.is_threaded else None
        x += long
    wanted.sort(key=lambda w: w[0])
    crowded = any(b[0] - a[0] < (text_width(a[1]) + text_width(b[1])) / 2 + 2 for a, b in pairwise(wanted))
    middle, top = x0 + part.length_mm * s / 2, axis + part.largest_mm * s / 2
    left = [w for w in wanted if w[0] <= middle or not crowded]
    for _, words, target, across in left:
        page.label(words, target, across=across, lean=-1 if crowded else 0, over=top)
    for _, words, target, across in reversed(wanted[len(left) :]):
        page.label(words, target, across=across, lean=1, over=top)


def _bore_size(part: Part, place: Place, x0: float, axis: float) -> None:
    """The bore's diameter beside the end that it opens at, and how deep it goes."""
    assert part.bore is not None
    s = place.scale
    r = part.bore.diameter_mm * s / 2
    words = _inner_words(part.bore, place)
    if part.bore.length_mm and part.bore.length_mm < part.length_mm - 1e-6:
        words += f", {place.length(part.bore.length_mm)} deep"
    place.page.upright((x0, axis - r), (x0, axis + r), x0 - 7, words)


def _right_opening(part: Part, place: Place) -> str:
    """What opens at the right end alone: its diameter and depth; "" where nothing does."""
    if len(part.inner) < 2 or not part.inner[-1].diameter_mm:
        return ""
    last = part.inner[-1]
    return f"{_inner_words(last, place)}, {place.length(last.length_mm)} deep"


def _inner_words(section: Section, place: Place) -> str:
    band = section.size
    words = f"Ø{place.limits(band) if band is not None else place.length(section.diameter_mm)}"
    return f"{section.label}, bored {words}" if section.is_threaded else words


def _feature_words(f: Feature, place: Place) -> str:
    size = place.limits(f.size) if f.size is not None else place.length(f.width_mm)
    if f.kind == "keyway":
        return f"keyway {size}"
    if f.kind in ("cross_hole", "taper_hole", "tap"):
        return f"{f.words} {'Ø' if f.kind != 'tap' else ''}{place.length(f.width_mm)}".strip()
    if f.kind in ("spline", "groove", "square", "flats", "knurl"):
        return f.words
    return ""


def feature_places(part: Part, place: Place) -> list[str]:
    """Where each feature stands from the left end, and how long it is: no dimension line says it."""
    found = []
    for f in part.features:
        words = _feature_words(f, place)
        if not words or part.block_mm is not None:
            continue
        long = f"{place.length(f.length_mm)} long, from " if f.length_mm else "its middle "
        found.append(f"{large(words)}: {long}{place.length(f.at_mm)} from the left end")
    return list(dict.fromkeys(found))


def hole_words(part: Part, place: Place, dia: float, count: int, key: str = "") -> str:
    """How many holes, how large, how deep. In mm."""
    found = key or part.hole_key
    size = place.limits(part.band(found)) if found else place.length(dia)
    deep = f", {place.length(part.hole_deep_mm)} deep" if part.hole_deep_mm else ""
    return f"{count} × Ø{size}{deep}" if count > 1 else f"Ø{size}{deep}"


def _face(part: Part, place: Place, c: Point) -> None:
    """The face with its holes: seen from the right end in third angle, from the left in first."""
    page, s = place.page, place.scale
    mirror = 1.0 if place.angle == "third" else -1.0
    page.circle("OUTLINE", c, part.largest_mm * s / 2)
    if part.bore is not None:
        page.circle("OUTLINE", c, part.bore.diameter_mm * s / 2)
    for hx, hy, dia in part.holes:
        page.circle("OUTLINE", (c[0] + mirror * hx * s, c[1] + hy * s), max(0.3, dia * s / 2))
    circle = math.hypot(*part.holes[0][:2])
    page.rounds.append(Round("CENTRE", c, circle * s))
    over = part.largest_mm * s / 2 + 4
    page.line("CENTRE", (c[0] - over, c[1]), (c[0] + over, c[1]), solid=False)
    page.line("CENTRE", (c[0], c[1] - over), (c[0], c[1] + over), solid=False)
    hx, hy, dia = part.holes[0]
    same = sum(abs(d - dia) < 1e-6 for _, _, d in part.holes)
    words = hole_words(part, place, dia, same)
    page.label(
        f"{words} on Ø{place.length(2 * circle)}" if circle > 1e-6 else words,
        (c[0] + mirror * hx * s, c[1] + hy * s),
    )
