"""A friction cone: draw and lining that are left, the two angles, what it holds, whether it lets go."""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import partial

import numpy as np

from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity, signed_size
from trebb.core.dual_units import show_force, show_torque
from trebb.core.errors import TrebbError
from trebb.core.families.cone.reading import cone_items
from trebb.core.families.cone.subject import FACES, FrictionCone, cone_model
from trebb.core.figure import Figure, Item, Label, Role
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known
from trebb.core.friction.cones import Cone, half_angle_deg, least_half_deg
from trebb.core.machine import State
from trebb.core.survey.contact import cone_contact
from trebb.core.units import show_size

DOUBT_MM = 0.2


def draw_lacking(cone: FrictionCone, drawn: Drawn) -> Quantity:
    """What is lacking of the draw wanted."""
    return quantity(cone.draw_mm - drawn["draw"])


def lining_lacking(cone: FrictionCone, drawn: Drawn) -> Quantity:
    """What is lacking over the rivets, where it is thinnest."""
    return quantity(cone.over_mm - drawn["over"] + np.hypot(drawn["over.x"], drawn["over.y"]))


def angle_off(cone: FrictionCone, drawn: Drawn) -> Quantity:
    """How far the two cones gape at one end when they meet at the other, mm on diameter over the face."""
    slopes = [
        (drawn[f"{p}.big"] - drawn[f"{p}.small"]) / np.maximum(drawn[f"{p}.apart"], 1.0)
        for p in ("cone", "cup")
    ]
    return signed_size((slopes[0] - slopes[1]) * cone.cone.axial_mm)


def _sizes_needed(cone: FrictionCone) -> tuple[Mapping[str, float], ...]:
    return tuple({f"{p}.{w}": 1.0} for p in ("cone", "cup") for w in ("big", "small", "apart"))


def cone_read(known: Known[FrictionCone]) -> Cone | None:
    """The cone by its sizes as read; None while they are not, or give no angle."""
    read = known.read("cone_sizes")
    if not {"cone.big", "cone.small", "cone.apart"} <= set(read):
        return None
    try:
        half = half_angle_deg(read["cone.big"], read["cone.small"], read["cone.apart"])
        return Cone(read["cone.big"], read["cone.small"], half)
    except TrebbError:
        return None


def _draw_words(known: Known[FrictionCone], m: Measure, size: str) -> tuple[str, str, str]:
    cone = known.subject
    left = known.alone.source("draw").value
    wear = (cone_read(known) or cone.cone).wear_of_travel(max(0.0, left))
    linkage = known.read("cone_draw").get("linkage")
    also = ""
    if linkage is not None and linkage < left:
        also = f" The linkage ends first: {show_size(linkage, known.system)}."
    return (
        f"{show_size(max(0.0, left), known.system)} of draw is left of "
        f"{show_size(cone.draw_mm, known.system)} wanted.",
        "draw by hand",
        f"That is {show_size(wear, known.system)} of wear square to the face, then it bottoms and "
        f"slips.{also} "
        "Reline it, or take the stop back.",
    )


def _lining_words(known: Known[FrictionCone], m: Measure, size: str) -> tuple[str, str, str]:
    alone = known.alone
    least = alone.source("over").value - math.hypot(
        alone.source("over.x").value, alone.source("over.y").value
    )
    if least < 0:
        return (
            f"The rivets stand {show_size(-least, known.system)} proud of the lining.",
            "depth gauge on their heads",
            "Stop: they score the cup. Reline it, and look at the cup.",
        )
    return (
        f"At its thinnest {show_size(least, known.system)} of lining is left over the rivets.",
        "depth gauge on their heads",
        f"Wanted are {show_size(known.subject.over_mm, known.system)}: reline it.",
    )


def _angle_words(known: Known[FrictionCone], m: Measure, size: str) -> tuple[str, str, str]:
    read = known.read("cone_sizes")
    try:
        one, cup = (
            half_angle_deg(read[f"{p}.big"], read[f"{p}.small"], read[f"{p}.apart"]) for p in ("cone", "cup")
        )
        angles = f"Half angles {one:.2f}° and {cup:.2f}°: "
    except TrebbError:
        return (
            "Two of these diameters give no angle.",
            "sizes of cone and cup",
            "The large end is larger than the small one: read them again, or state which is which.",
        )
    return (
        f"{angles}they gape by {size} on diameter.",
        "sizes of cone and cup",
        "It bears at one end, grabs and heats. Turn the cone to the cup's angle, blue it, skim the cup "
        "if it is grooved.",
    )


MEASURES: dict[str, Judged[FrictionCone]] = {
    "draw": Judged(
        "Draw lacking", "cone_draw", draw_lacking, lambda c: ({"draw": 1.0},), _draw_words, weight=0.5
    ),
    "lining": Judged(
        "Lining lacking",
        "cone_lining",
        lining_lacking,
        lambda c: ({"over": 1.0}, {"over.x": 1.0}, {"over.y": 1.0}),
        _lining_words,
        weight=0.6,
        applies=lambda c: c.rivets > 0,
    ),
    "angle": Judged("Cone against its cup", "cone_angle", angle_off, _sizes_needed, _angle_words),
}


def also(known: Known[FrictionCone], measures: Mapping[str, Measure]) -> list[Finding]:
    """Asbestos before everything; torque, whether it sticks; grooves; blue."""
    cone, found = known.subject, []
    if not cone.asbestos and cone.face in ("woven", "moulded"):
        found.append(
            Finding(
                "asbestos",
                State.UNKNOWN,
                "Nobody has said what the lining is: it may be asbestos.",
                "its age",
                "Stop there: no scraping, blowing, brushing or grinding. Have a piece tested, and state "
                "it; local "
                "codes say who may take it off.",
                9.0,
                asks=("asbestos",),
            )
        )
    elif cone.asbestos == "yes":
        found.append(
            Finding(
                "asbestos",
                State.BEYOND,
                "The lining is asbestos, or is taken to be.",
                "as stated",
                "It is not worked here: licensed removal, wet and bagged. What comes after is free of it.",
                9.0,
            )
        )
    found += _holds(known)
    if cone.grooved:
        found.append(
            Finding(
                "grooved",
                State.NEAR,
                "It is worn in grooves.",
                "looked at",
                "Its angle is that of the ridges: skim both before they are measured.",
                0.2,
            )
        )
    head, words = cone_contact(known.painted)
    if head:
        good = words.startswith("All round")
        found.append(
            Finding(
                "contact",
                State.WITHIN if good else State.NEAR,
                f"Blue: {words.split(':')[0].rstrip('.')}.",
                head,
                words,
                0.03,
            )
        )
    return found


def _holds(known: Known[FrictionCone]) -> list[Finding]:
    cone = known.subject
    real = cone_read(known)
    found = []
    shape = real or cone.cone
    by = "sizes as read" if real else "sizes as stated"
    if cone.force_n:
        worn, new = shape.torque_worn_nm(cone.mu, cone.force_n), shape.torque_new_nm(cone.mu, cone.force_n)
        pushed = shape.torque_pushed_nm(cone.mu, cone.force_n)
        wanted, say = cone.torque_nm, partial(show_torque, system=known.system)
        state = State.UNKNOWN
        move = "State what it must hold, and it is judged."
        if wanted:
            state = State.WITHIN if pushed >= wanted else State.NEAR if worn >= wanted else State.BEYOND
            need = show_force(shape.force_for_nm(wanted, cone.mu), known.system)
            move = (
                "It holds, even pushed in without turning."
                if state is State.WITHIN
                else f"It wants {need} on the axis run in, or a dry face: oil is the usual thief."
            )
        found.append(
            Finding(
                "torque",
                state,
                f"At {show_force(cone.force_n, known.system)} it holds {say(worn)} run in, {say(new)} "
                f"with a new "
                f"face, {say(pushed)} pushed in without turning"
                + (f"; {say(wanted)} are wanted." if wanted else "."),
                f"uniform wear, uniform pressure; friction {cone.mu:g} of {FACES[cone.face]}"
                f"{', oiled' if cone.oiled else ''}; {by}",
                move,
                0.3,
                asks=() if wanted else ("torque_nm",),
            )
        )
    if real is None and not cone.force_n:
        return found
    sticks = not shape.lets_go(cone.mu)
    pull = (
        f" It takes {show_force(shape.pull_out_n(cone.mu, cone.force_n), known.system)} to free it."
        if sticks and cone.force_n
        else ""
    )
    found.append(
        Finding(
            "lets_go",
            State.NEAR if sticks else State.WITHIN,
            f"A half angle of {shape.half_deg:.1f}° {'sticks' if sticks else 'lets go by itself'}: "
            f"it would have to be {'over' if sticks else 'under'} {least_half_deg(cone.mu):.1f}° "
            f"{'to let go' if sticks else 'to stick'}.",
            f"friction {cone.mu:g}; {by}",
            ("It must be pulled out, or it grabs as it wears polished." + pull)
            if sticks
            else "It needs its push to hold.",
            0.01,
        )
    )
    return found


def picture(known: Known[FrictionCone]) -> Figure:
    """Cone and cup with what was read of them."""
    read, system = known.read("cone_sizes"), known.system
    draw = known.read("cone_draw").get("draw")
    items: list[Item] = cone_items(gap=40.0)
    for key, at in (("cone.big", (60, 40)), ("cone.small", (262, 100))):
        if key in read:
            items.append(Label(at, f"Ø {show_size(read[key], system, unit=False)}", Role.INK))
    real = cone_read(known)
    lines = [
        f"half angle {real.half_deg:.2f}°" if real else "angle not read",
        f"draw left {show_size(draw, system)}" if draw is not None else "draw not read",
    ]
    over = [v for k, v in known.read("cone_lining").items() if k.startswith("over")]
    if known.subject.rivets:
        lines.append(f"lining over rivets {show_size(min(over), system)}" if over else "lining not read")
    items += [Label((430, 50 + 24 * i), words, Role.INK, "left") for i, words in enumerate(lines)]
    return Figure(640, 164, tuple(items))


def sizes(known: Known[FrictionCone]) -> dict[str, float]:
    """Sizes that readings fix: of the cup, which a new face is turned to, and of the cone. In mm."""
    found = {}
    for key in ("cone.big", "cone.small", "cup.big", "cup.small", "cup.apart", "cone.apart", "draw"):
        value = known.source(key, DOUBT_MM)
        if value is not None:
            found[key] = value
    return found


JUDGING = Judging(
    decides="cone_draw",
    model=cone_model,
    measures=MEASURES,
    questions=lambda c: {
        "draw": ("the draw left", {"draw": 1.0}),
        "over": ("the lining left", {"over": 1.0}),
        "angle": ("the cone's angle", {"cone.big": 1.0, "cone.small": -1.0}),
        "cup": ("the cup's angle", {"cup.big": 1.0, "cup.small": -1.0}),
    },
    describe=lambda c: f"{c.kind}, {c.big_mm:g} to {c.small_mm:g} mm, {FACES[c.face]}",
    also=also,
    sizes=sizes,
    cures={"torque": ("reline", "new", "skim")},
    picture=picture,
    default_parts=("cone_lining",),
    optional_parts=("cone_hub",),
)
