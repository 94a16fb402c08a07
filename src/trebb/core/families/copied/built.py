"""A turned part built of features in order, as it lies on the bench: shafts, ends of screws, collars, dial
bushings, flanged bushes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.families.copied.built_checks import overlaps, slides_on, solid_mm3, threads_end, wall_check
from trebb.core.families.copied.cut_in import CUT, Cut, Placed, thread_called
from trebb.core.fits import shaft_limits
from trebb.core.fits.iso286 import hole_limits
from trebb.core.metals import material
from trebb.core.parts.base import (
    Feature,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    material_field,
    number,
)
from trebb.core.parts.feature_lines import SECTIONS, Item, parse_list, write_list
from trebb.core.parts.turned import (
    bar_for,
    shoulder_checks,
    undercuts,
)
from trebb.core.threads import Band
from trebb.core.units import UnitSystem
from trebb.core.words import large

EXAMPLE = "journal 20 g6 x 25; shoulder 26 x 5; seat 20 h6 x 30; keyway; thread M16 x 20"
POUND_KG = 0.45359237
EDGE_MM = 1.0  # of metal round a hole


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The list, and what it is made of."""
    usual = write_list(parse_list(EXAMPLE, UnitSystem.METRIC), UnitSystem.METRIC)
    return (
        PartField("lines", "As it lies, from its left end", usual, is_list=True),
        material_field("carbon"),
        PartField("blanks", "How many are sawn", 1.0, low_mm=1, high_mm=20, is_figure=True, is_free=True),
    )


def build(inputs: PartInputs) -> Part:
    """The part, its limits and checks. Raises InputError naming the line that will not do, and what would."""
    f = facts_of(fields(inputs), inputs.facts)
    items = parse_list(str(f["lines"]), UnitSystem.METRIC)
    outside = _sections(items)
    length = outside[-1].end_mm
    inner, openings = _inside(items, outside, inputs)
    features: list[Feature] = []
    rows: list[SizeRow] = [_outside_row(i, p) for i, p in enumerate(outside, 1)]
    rows += [_inside_row(i, s, depth, inputs) for i, (s, depth) in enumerate(openings, 1)]
    for line, (item, host) in enumerate(_hosted(items, outside), 1):
        if host is not None and not item.is_section:
            made, said = _cut(Cut(item, line, host, inputs, len(rows)))
            features.append(made)
            rows += said
    done = tuple(p.section for p in outside)
    bar, passes = bar_for(inputs, max(s.diameter_mm for s in done), length)
    metal = material(str(f["material"]))
    weight = solid_mm3(done, inner) * 1e-6 * metal.kg_dm3 * number(f, "blanks")
    holes, deep = _face_holes(items, outside, inner, inputs)
    return Part(
        "built",
        "Turned part",
        metal,
        bar,
        done,
        _first_bore(inner, length),
        (
            *rows,
            SizeRow("Length over all", "size", length, key="length"),
            SizeRow("Weight, about", "text", _weight_words(weight, inputs.system)),
        ),
        (
            passes,
            *shoulder_checks(inputs, done),
            *slides_on(outside, inputs),
            *threads_end(outside, inputs),
            *wall_check(done, inner, inputs),
            *overlaps(features, inputs),
        ),
        ("Made to the list: hold it against the old one before anything is cut.",),
        holes=holes,
        hole_deep_mm=deep,
        features=(*features, *undercuts(done), *_centres(items, inner, length)),
        inner=inner,
        blanks=round(number(f, "blanks")),
    )


def _cut(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    """A feature, and its rows. Raises InputError naming the line."""
    try:
        return CUT[cut.item.kind](cut)
    except InputError as error:
        if error.given.startswith("line "):
            raise
        raise InputError(f"line {cut.line}, {error.given}", error.would_do) from None


def _weight_words(kg: float, system: UnitSystem) -> str:
    if system is UnitSystem.INCH:
        return f"{kg / POUND_KG:.2f} lb"
    return f"{kg:.2f} kg" if kg >= 0.1 else f"{1000 * kg:.0f} g"


# outside ----------------------------------------------------------------------------------------


def _sections(items: Sequence[Item]) -> list[Placed]:
    """The outside, section by section. Raises InputError for a fit or a thread that there is not."""
    found: list[Placed] = []
    z, counts = 0.0, dict.fromkeys(SECTIONS, 0)
    for line, item in enumerate(items, 1):
        if not item.is_section:
            continue
        counts[item.kind] += 1
        many = sum(one.kind == item.kind for one in items) > 1
        label = f"{item.kind} {counts[item.kind]}" if many else item.kind
        try:
            section = _section(item, label)
        except InputError as error:
            raise InputError(f"line {line}, {error.given}", error.would_do) from None
        found.append(Placed(item, section, z))
        z += section.length_mm
    return found


def _section(item: Item, label: str) -> Section:
    if item.kind == "thread":
        spec = thread_called(item.name)
        return Section(spec.designation, "thread", item.long_mm, spec.major_mm)
    fit = item.fit or SECTIONS[item.kind]
    if not fit:
        return Section(label, "plain", item.long_mm, item.size_mm)
    band = band_of(shaft_limits(item.size_mm, fit))
    return Section(label, "plain", item.long_mm, band.middle_mm, band)


def _outside_row(number_: int, placed: Placed) -> SizeRow:
    s, item = placed.section, placed.item
    label = large(s.label)
    if s.is_threaded:
        return SizeRow(label, "size", s.diameter_mm, "over its crests", key=f"out_{number_}")
    if s.size is None:
        return SizeRow(label, "size", s.diameter_mm, "turned", key=f"out_{number_}")
    return SizeRow(label, "band", s.size, item.fit or SECTIONS[item.kind], True, key=f"out_{number_}")


def _hosted(items: Sequence[Item], outside: Sequence[Placed]) -> list[tuple[Item, Placed | None]]:
    """Each line with the section that it is, or is cut in; None for what is bored or in the face."""
    found: list[tuple[Item, Placed | None]] = []
    placed, host = iter(outside), None
    for item in items:
        if item.is_section:
            host = next(placed)
        found.append((item, host if item.is_section or item.kind in CUT else None))
    return found


# inside -----------------------------------------------------------------------------------------


def _inside(
    items: Sequence[Item], outside: Sequence[Placed], inputs: PartInputs
) -> tuple[tuple[Section, ...], list[tuple[Section, float]]]:
    """The inside from the left end, stretch by stretch, a diameter of nothing where it is solid; and each
    bore and pocket as written, with how deep it goes. Raises InputError where no wall is left.
    """
    length = outside[-1].end_mm
    spans: list[tuple[float, float, Section]] = []
    openings: list[tuple[Section, float]] = []
    for line, item in enumerate(items, 1):
        if item.kind not in ("bore", "inside", "pocket"):
            continue
        try:
            section = _bored(item)
        except InputError as error:
            raise InputError(f"line {line}, {error.given}", error.would_do) from None
        deep = item.long_mm or length
        if deep > length + 1e-6:
            raise InputError(
                f"line {line}, {item.kind} {inputs.size(deep)} deep",
                f"the part is {inputs.size(length)} long",
            )
        low, high = (length - deep, length) if item.kind == "pocket" else (0.0, deep)
        for p in outside:
            wall = (p.section.diameter_mm - section.diameter_mm) / 2
            if p.start_mm < high - 1e-6 and low + 1e-6 < p.end_mm and wall <= 0:
                raise InputError(
                    f"line {line}, {item.kind} {inputs.size(section.diameter_mm)}",
                    f"the {p.section.label} there is {inputs.size(p.section.diameter_mm)}: no wall is left",
                )
        spans.append((low, high, section))
        openings.append((section, 0.0 if deep >= length else deep))
    if not spans:
        return (), []
    cuts = sorted({0.0, length, *(z for low, high, _ in spans for z in (low, high))})
    found = []
    for a, b in pairwise(cuts):
        over = [s for low, high, s in spans if low <= a + 1e-9 and b <= high + 1e-9]
        widest = max(over, key=lambda s: s.diameter_mm, default=Section("solid", "plain", 0.0, 0.0))
        found.append(replace(widest, length_mm=b - a))
    return tuple(found), openings


def _bored(item: Item) -> Section:
    if item.kind == "inside":
        spec = thread_called(item.name)
        return Section(spec.designation, "thread", item.long_mm, spec.nut_minor_mm)
    if not item.fit:
        return Section(item.kind, "plain", item.long_mm, item.size_mm)
    band = band_of(hole_limits(item.size_mm, item.fit))
    return Section(item.kind, "plain", item.long_mm, band.middle_mm, band)


def _inside_row(number_: int, s: Section, deep_mm: float, inputs: PartInputs) -> SizeRow:
    label = {"bore": "Bore", "pocket": "Pocket from the right"}.get(s.label, f"{s.label}, bored for it")
    note = f"{inputs.size(deep_mm)} deep" if deep_mm else "through"
    value: float | Band = s.size if s.size is not None else s.diameter_mm
    kind = "band" if s.size is not None else "size"
    return SizeRow(label, kind, value, note, s.size is not None, key=f"in_{number_}")


def _first_bore(inner: Sequence[Section], length_mm: float) -> Section | None:
    """What opens at the left end."""
    if not inner or not inner[0].diameter_mm:
        return None
    return replace(inner[0], length_mm=0.0 if len(inner) == 1 else inner[0].length_mm)


def _face_holes(
    items: Sequence[Item], outside: Sequence[Placed], inner: Sequence[Section], inputs: PartInputs
) -> tuple[tuple[tuple[float, float, float], ...], float]:
    """Holes on a circle in the face. Raises InputError where they run out of it, or into the bore."""
    largest = max(p.section.diameter_mm for p in outside)
    bored = max((s.diameter_mm for s in inner), default=0.0)
    found: list[tuple[float, float, float]] = []
    deep = 0.0
    for line, item in enumerate(items, 1):
        if item.kind != "holes":
            continue
        r = item.on_mm / 2
        if r + item.size_mm / 2 + EDGE_MM > largest / 2 or r - item.size_mm / 2 - EDGE_MM < bored / 2:
            most, least = largest - item.size_mm - 2 * EDGE_MM, bored + item.size_mm + 2 * EDGE_MM
            raise InputError(
                f"line {line}, holes on {inputs.size(item.on_mm)}",
                f"a circle from {inputs.size(least)} to {inputs.size(most)} leaves them an edge",
            )
        turns = [2 * math.pi * i / item.count + math.pi / 2 for i in range(item.count)]
        found += [(r * math.cos(t), r * math.sin(t), item.size_mm) for t in turns]
        deep = item.long_mm
    return tuple(found), deep


def _centres(items: Sequence[Item], inner: Sequence[Section], length_mm: float) -> list[Feature]:
    said = next((i.name for i in items if i.kind == "centre"), "none" if inner else "both")
    ends = {"both": (0.0, length_mm), "left": (0.0,), "right": (length_mm,), "none": ()}[said]
    return [Feature("centre", at) for at in ends]


FAMILY = PartFamily(
    "built", "Turned to a list", fields, build, "copied", "A line a feature, from its left end."
)
