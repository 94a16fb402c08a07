"""What would spoil a turned part that is built of features: rings that do not come on, threads without a
shoulder, walls that spring, features on one another.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from trebb.core.families.copied.cut_in import Placed, thread_called
from trebb.core.parts.base import Check, Feature, PartInputs, Section
from trebb.core.parts.turned import LEAST_WALL_MM


def solid_mm3(sections: Sequence[Section], inner: Sequence[Section]) -> float:
    """Metal in it before anything is milled: cylinders less what is bored, mm³."""
    return (
        math.pi
        / 4
        * (
            sum(s.diameter_mm**2 * s.length_mm for s in sections)
            - sum(s.diameter_mm**2 * s.length_mm for s in inner)
        )
    )


def slides_on(outside: Sequence[Placed], inputs: PartInputs) -> list[Check]:
    """Whether what sits on a journal or a seat comes on from one end."""
    found = []
    for i, p in enumerate(outside):
        if p.item.kind not in ("journal", "seat"):
            continue
        least = p.section.size.low_mm if p.section.size is not None else p.section.diameter_mm
        sides = (outside[:i], outside[i + 1 :])
        in_way = [max((q.section.diameter_mm for q in side), default=0.0) for side in sides]
        way = "left" if in_way[0] <= least + 0.02 else "right"
        found.append(
            Check.of(
                min(in_way) <= least + 0.02,
                f"A ring for the {p.section.label} comes on from the {way}.",
                f"No ring comes onto the {p.section.label}: {inputs.size(min(in_way))} stands in the way on "
                "either side.",
            )
        )
    return found


def threads_end(outside: Sequence[Placed], inputs: PartInputs) -> list[Check]:
    """Whether a nut comes onto a thread, and has a shoulder to end at."""
    found = []
    for i, p in enumerate(outside):
        if p.item.kind != "thread":
            continue
        root = thread_called(p.item.name).nut_minor_mm
        sides = [
            max((q.section.diameter_mm for q in s), default=0.0) for s in (outside[:i], outside[i + 1 :])
        ]
        found.append(
            Check.of(
                min(sides) <= root,
                f"A nut comes onto {p.section.label}.",
                f"No nut comes onto {p.section.label}: {inputs.size(min(sides))} stands in the way, "
                f"{inputs.size(root)} would pass.",
            )
        )
        beside = [q.section.diameter_mm for q in (*outside[max(0, i - 1) : i], *outside[i + 1 : i + 2])]
        if beside and max(beside) < p.section.diameter_mm:
            found.append(
                Check(
                    False,
                    f"{p.section.label} is larger than the {inputs.size(max(beside))} beside it: it has no "
                    "shoulder to end at.",
                )
            )
    return found


def wall_check(done: Sequence[Section], inner: Sequence[Section], inputs: PartInputs) -> list[Check]:
    """The thinnest wall."""
    if not inner:
        return []
    edges = sorted({0.0, *_ends(done), *_ends(inner)})
    walls = [
        (_dia(done, (a + b) / 2) - _dia(inner, (a + b) / 2)) / 2
        for a, b in pairwise(edges)
        if _dia(inner, (a + b) / 2) > 0
    ]
    thin = min(walls)
    return [
        Check.of(
            thin >= LEAST_WALL_MM,
            f"The thinnest wall is {inputs.size(thin)}.",
            f"A wall of {inputs.size(thin)} springs in the jaws: {inputs.size(LEAST_WALL_MM)} at least.",
        )
    ]


def _ends(sections: Sequence[Section]) -> list[float]:
    found, z = [], 0.0
    for s in sections:
        z += s.length_mm
        found.append(round(z, 6))
    return found


def _dia(sections: Sequence[Section], at_mm: float) -> float:
    z = 0.0
    for s in sections:
        z += s.length_mm
        if at_mm <= z:
            return s.diameter_mm
    return sections[-1].diameter_mm


def overlaps(features: Sequence[Feature], inputs: PartInputs) -> list[Check]:
    """Features that lie on one another."""

    def span(f: Feature) -> tuple[float, float]:
        half = 0.0 if f.length_mm else f.width_mm / 2
        return f.at_mm - half, f.at_mm + (f.length_mm or half)

    found = []
    for i, one in enumerate(features):
        for other in features[i + 1 :]:
            if "knurl" in (one.kind, other.kind):
                continue
            (a, b), (c, d) = span(one), span(other)
            if a < d - 1e-6 and c < b - 1e-6:
                found.append(
                    Check(
                        False,
                        f"{_name(one)} and {_name(other).lower()} lie on one another, from "
                        f"{inputs.size(max(a, c))} to {inputs.size(min(b, d))}: move one, or cut it on the "
                        "other side.",
                    )
                )
    return found


def _name(f: Feature) -> str:
    words = {"keyway": "the keyway", "square": "the square", "flats": "the flat", "spline": "the splines"}
    return words.get(f.kind, f"the {f.words}").capitalize()
