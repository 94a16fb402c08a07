"""A vise: how its top leans and what packing levels it, its marks and what they would cost, its plates."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from trebb.core.belief.sound import Kind, levels
from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity
from trebb.core.families.jaws.reading import vise
from trebb.core.families.jaws.subject import CORNERS, PLATES, Jaws, jaws_model
from trebb.core.figure import Figure, Item, Label, Role
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known
from trebb.core.units import show_small


def top(jaws: Jaws, drawn: Drawn) -> Quantity:
    """Highest less lowest corner."""
    each = np.stack([drawn[f"top.{c}"] for c in CORNERS])
    return quantity(each.max(axis=0) - each.min(axis=0))


def pair(jaws: Jaws, drawn: Drawn) -> Quantity:
    """Thickest less thinnest of the plates' ends."""
    each = np.stack([drawn[f"plate.{p}"] for p in PLATES])
    return quantity(each.max(axis=0) - each.min(axis=0))


def mark(jaws: Jaws, drawn: Drawn) -> Quantity:
    """Depth of the deepest."""
    return quantity(drawn["mark"])


def faults(jaws: Jaws) -> tuple[Kind, ...]:
    """Tops, and plates against each other."""
    return levels([f"top.{c}" for c in CORNERS]), levels([f"plate.{p}" for p in PLATES], 0.1)


def packing_mm(heights: Mapping[str, float]) -> dict[str, float]:
    """What goes under each corner of the base so that the top lies level: the highest gets nothing. In mm."""
    most = max(heights.values())
    return {corner: most - v for corner, v in heights.items()}


def _top_words(known: Known[Jaws], m: Measure, size: str) -> tuple[str, str, str]:
    read = known.read("jaw_top")
    packs = {c: v for c, v in packing_mm(read).items() if v > 0.002}
    listed = ", ".join(f"{show_small(v, known.system)} {c}" for c, v in packs.items())
    return (
        f"Over its own base the top differs by {size} from corner to corner.",
        "indicator over its corners",
        f"Packed {listed} it lies level: then it is milled, and read both ways before the cut."
        if listed
        else "It is level.",
    )


def _pair_words(known: Known[Jaws], m: Measure, size: str) -> tuple[str, str, str]:
    return (
        f"The jaw plates differ by {size} from end to end.",
        "both ends of either",
        "Work stands askew by it. Both are ground as a pair, in one setting.",
    )


def blemish(known: Known[Jaws], depth: float) -> str:
    """Whether a mark is taken out, plugged or left, and what height that costs. In mm."""
    jaws = known.subject
    cost = show_small(depth, known.system)
    if depth <= 0.05:
        return "Stone its burr and leave it: it carries as well as before."
    if depth > jaws.spare_mm:
        return (
            f"Out of it would cost {cost} of height, {show_small(jaws.spare_mm, known.system)} may come "
            f"off: plug it, "
            "or leave it and write down why. Looks are not worth the height."
        )
    return f"Out of it costs {cost} of height; plugs cost none. A mark between clamps matters to nobody."


def _mark_words(known: Known[Jaws], m: Measure, size: str) -> tuple[str, str, str]:
    many = known.subject.marks
    count = f" of {many}" if many > 1 else ""
    return f"The deepest mark{count} is {size} deep.", "depth gauge", blemish(known, m.value.value)


MEASURES: dict[str, Judged[Jaws]] = {
    "top": Judged(
        "Top over its base", "jaw_top", top, lambda j: tuple({f"top.{c}": 1.0} for c in CORNERS), _top_words
    ),
    "pair": Judged(
        "Jaw plates as a pair",
        "jaw_pair",
        pair,
        lambda j: tuple({f"plate.{p}": 1.0} for p in PLATES),
        _pair_words,
    ),
    "mark": Judged("Deepest mark", "jaw_mark", mark, lambda j: ({"mark": 1.0},), _mark_words, weight=0.1),
}


def also(known: Known[Jaws], measures: Mapping[str, Measure]) -> list[Finding]:
    """Nothing beyond the measures."""
    return []


def picture(known: Known[Jaws]) -> Figure:
    """The vise with its corners as read."""
    read, system = known.read("jaw_top"), known.system
    items: list[Item] = vise()
    for i, corner in enumerate(CORNERS):
        words = show_small(read[corner], system) if corner in read else "not read"
        items.append(Label((370, 40 + 24 * i), f"{corner}: {words}", Role.INK, "left"))
    return Figure(640, 164, tuple(items))


def sizes(known: Known[Jaws]) -> dict[str, float]:
    """Nothing a part is fitted to but the plates' thickness. Lengths in mm."""
    found = {}
    for p in PLATES:
        value = known.source(f"plate.{p}", 0.02)
        if value is not None:
            found[f"plate.{p}"] = value
    return found


JUDGING = Judging(
    decides="jaw_top",
    model=jaws_model,
    measures=MEASURES,
    questions=lambda j: {
        "top": ("the top", {f"top.{CORNERS[3]}": 1.0, f"top.{CORNERS[0]}": -1.0}),
        "pair": ("the plates", {f"plate.{PLATES[0]}": 1.0, f"plate.{PLATES[3]}": -1.0}),
        "mark": ("the deepest mark", {"mark": 1.0}),
    },
    describe=lambda j: f"vise, plates {j.long_mm:g} × {j.high_mm:g} × {j.thick_mm:g} mm",
    also=also,
    faults=faults,
    sizes=sizes,
    picture=picture,
    default_parts=("jaw_plate",),
    optional_parts=("hole_plug",),
)
