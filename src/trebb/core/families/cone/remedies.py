"""Remedies for a friction cone: leave, take the linkage up, skim both, reline, a new cone."""

from __future__ import annotations

import math
from functools import partial

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.cone.findings import JUDGING
from trebb.core.families.cone.subject import FrictionCone
from trebb.core.findings.judging import outcome_by
from trebb.core.remedies.base import BY_ITSELF, Remedy, always, leave
from trebb.core.safety import ASBESTOS, CLOTH, LOCK_OUT

TURNED_MM, SKIM_MM = 0.03, 0.15


def take_up(cone: FrictionCone, now: Estimate) -> Change:
    """Linkage taken up: it follows again; the cone's own draw is what it was."""
    return Change({"linkage": Shift(6.0, 1.0)})


def _to_cup(cone: FrictionCone) -> dict[str, Shift]:
    """The cone turned to the cup's angle: what gapes is what turning and blue leave."""
    found = {}
    for end in ("big", "small"):
        found[f"cone.{end}"] = Shift(0.0, TURNED_MM / math.sqrt(2), {f"cup.{end}": 1.0})
    found["cone.apart"] = Shift(0.0, 0.02, {"cup.apart": 1.0})
    return found


def skim(cone: FrictionCone, now: Estimate) -> Change:
    """Both skimmed to one angle: it goes in further by what came off, and loses that of its lining."""
    travel = cone.cone.travel_of_wear(SKIM_MM)
    return Change(
        {
            **_to_cup(cone),
            "draw": Shift(-travel, 0.2, {"draw": 1.0}),
            "over": Shift(-SKIM_MM, 0.05, {"over": 1.0}),
            "over.x": Shift(0.0, 0.03),
            "over.y": Shift(0.0, 0.03),
        }
    )


def reline(cone: FrictionCone, now: Estimate) -> Change:
    """A new lining, riveted and turned to the cup: draw as wanted and half as much again."""
    return Change(
        {
            **_to_cup(cone),
            "draw": Shift(1.5 * cone.draw_mm, 0.2),
            "over": Shift(max(cone.over_mm, 0.6 * cone.lining_mm), 0.1),
            "over.x": Shift(0.0, 0.03),
            "over.y": Shift(0.0, 0.03),
        }
    )


def _asbestos(cone: FrictionCone) -> str:
    if cone.face not in ("woven", "moulded") or cone.asbestos == "no":
        return ""
    if cone.asbestos == "yes":
        return "Asbestos is taken off by a licensed firm before anything else."
    return "First find out what the lining is: have a piece tested, and state it."


_cone = partial(Remedy, family="cone", outcome=outcome_by(JUDGING))

CONE_REMEDIES: tuple[Remedy, ...] = (
    _cone(
        "leave",
        "Leave it",
        "Write down why.",
        leave,
        0,
        0,
        0,
        "Nothing.",
        always("It slips when it bottoms."),
    ),
    _cone(
        "take_up",
        "Take the linkage up",
        "Lever, screw or clevis.",
        take_up,
        0,
        0.7,
        0,
        "A linkage that has some left.",
        always("It only brings it nearer to where it bottoms."),
        caution=LOCK_OUT,
        in_place=BY_ITSELF,
    ),
    _cone(
        "skim",
        "Skim both to one angle",
        "Cone to the cup's, cup's grooves out.",
        skim,
        0,
        3,
        0,
        "The compound set once and left for both.",
        always("Draw and lining go with it: see what is left."),
        hinder=_asbestos,
        answered_by="asbestos",
        caution=ASBESTOS,
        on_it_hours=3.0,
    ),
    _cone(
        "reline",
        "Reline it",
        "Old lining off, a new one riveted or bonded, turned to the cup.",
        reline,
        30,
        5,
        7,
        "Lining stock, tubular rivets and their punch, the compound.",
        always("Rivets that stay reachable: lining first, then the flange."),
        ("cone_lining",),
        hinder=_asbestos,
        answered_by="asbestos",
        caution=ASBESTOS,
    ),
    _cone(
        "new",
        "A new cone",
        "Turned from iron, lined, turned to the cup.",
        reline,
        70,
        9,
        7,
        "A casting or bar, lining, rivets.",
        always("The cup stays: the new one is made to it."),
        ("cone_hub", "cone_lining"),
        hinder=lambda cone: _asbestos(cone) if cone.asbestos != "yes" else "",
        answered_by="asbestos",
        caution=CLOTH,
    ),
)
