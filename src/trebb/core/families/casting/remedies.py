"""Remedies for a cracked casting: leave and watch, glue, braze, stitch, plate, weld outside, a new piece."""

from __future__ import annotations

from functools import partial
from typing import Any

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.casting.findings import JUDGING, cooling_hours, preheat_c
from trebb.core.families.casting.subject import CORNERS, Casting
from trebb.core.findings.judging import outcome_by
from trebb.core.remedies.base import Remedy, always, leave
from trebb.core.safety import ADHESIVE, BRAZING, DRILLING, FOUNDRY
from trebb.core.units import UnitSystem

# What heat leaves of a bore that a mandrel holds, and a mill of a seat (practice), mm.
HELD_OVAL_MM, MILLED_MM = 0.015, 0.015


def cold(casting: Casting, now: Estimate) -> Change:
    """Closed without heat: the crack draws nothing, bore and seat are what they were."""
    return Change({"crack": Shift(0.0, 0.3), "open": Shift(0.0, 0.01)})


def hot(casting: Casting, now: Estimate) -> Change:
    """Brazed or welded: the crack is closed, the bore is what its mandrel left, the seat is milled flat
    after it has moved.
    """
    found = {"crack": Shift(0.0, 0.3), "open": Shift(0.0, 0.01)}
    if casting.bore_mm:
        found |= {f"oval.{axis}": Shift(0.0, HELD_OVAL_MM / 2, {f"oval.{axis}": 0.5}) for axis in ("x", "y")}
    return Change(found | {corner: Shift(0.0, MILLED_MM / 2) for corner in CORNERS})


def anew(casting: Casting, now: Estimate) -> Change:
    """A new piece, machined."""
    found = {"crack": Shift(0.0, 0.0), "open": Shift(0.0, 0.0)}
    if casting.bore_mm:
        found |= {f"oval.{axis}": Shift(0.0, 0.003) for axis in ("x", "y")}
    found |= {corner: Shift(0.0, 0.005) for corner in CORNERS}
    return Change(found)


def _hot_risk(casting: Casting, split: Any, then: Any, system: UnitSystem) -> str:
    low, high = preheat_c(casting)
    held = " Hold the bore by a mandrel or copper wire." if casting.bore_mm else ""
    return (
        f"Warmed to {low} to {high} °C all through, cooled {cooling_hours(casting):.0f} h in dry sand, "
        f"or it cracks "
        f"beside the joint.{held} The seat moves: it is milled after."
    )


def _hinder_hot(casting: Casting) -> str:
    if casting.is_closed:
        return "A closed hollow bursts in the fire: vent it first, and say so."
    if casting.metal == "zinc":
        return "Zinc melts before it brazes."
    if casting.holds == "lifts":
        return "What can fall is a licensed welder's, or a new piece."
    if not casting.ends_found and not casting.is_through:
        return "Find both ends of the crack first: it runs on from where it was missed."
    return ""


def _hinder_cold(casting: Casting) -> str:
    if casting.holds == "lifts":
        return "What can fall is a new piece, or a licensed welder's."
    return ""


def _for_looks(casting: Casting) -> str:
    return "" if casting.holds == "shape" else "Glue holds no load of the cut: for looks and shape only."


_casting = partial(Remedy, family="casting", outcome=outcome_by(JUDGING))

CASTING_REMEDIES: tuple[Remedy, ...] = (
    _casting(
        "leave",
        "Leave and watch it",
        "A punch mark at either end: it shows if it runs.",
        leave,
        0,
        0.3,
        0,
        "A punch.",
        always("It runs when it is knocked."),
        hinder=_hinder_cold,
    ),
    _casting(
        "glue",
        "Glue it for its shape",
        "Filled epoxy, for covers and looks.",
        cold,
        8,
        1.5,
        1,
        "Filled epoxy.",
        always("It holds no load and lets go at heat."),
        hinder=_for_looks,
        caution=ADHESIVE,
        on_it_hours=1.5,
    ),
    _casting(
        "braze",
        "Braze it",
        "Grooved, warmed all through, brazed, cooled slowly; its bore held.",
        hot,
        25,
        5,
        1,
        "Torch, bronze rod and flux, fire bricks, dry sand, a mandrel for the bore.",
        _hot_risk,
        ("bore_mandrel",),
        hinder=_hinder_hot,
        caution=BRAZING,
        on_it_hours=3.5,
    ),
    _casting(
        "stitch",
        "Stitch it with screws",
        "Overlapping screws along it, cold.",
        cold,
        12,
        6,
        0,
        "Screws of the metal, drill and tap, a hammer to peen.",
        always("Tight, and strong along it; across it the section stays weaker."),
        ("stitch_screw",),
        hinder=_hinder_cold,
        caution=DRILLING,
        on_it_hours=4.0,
    ),
    _casting(
        "plate",
        "Bolt a plate across",
        "Steel across the crack, fitted and bolted.",
        cold,
        10,
        4,
        0,
        "Flat steel, screws, a seat that is milled or filed flat.",
        always("It must bear all over: a plate that bridges a hollow bends the casting."),
        ("strap",),
        hinder=_hinder_cold,
        caution=DRILLING,
        on_it_hours=2.0,
    ),
    _casting(
        "weld",
        "Welded outside",
        "Nickel rod and preheat, by a firm that does castings.",
        hot,
        120,
        5.5,
        10,
        "A quote; its bore and seat machined after.",
        _hot_risk,
        ("bore_mandrel",),
        hinder=lambda c: (
            "A closed hollow bursts in the fire: vent it first, and say so." if c.is_closed else ""
        ),
        applies=lambda c: c.metal in ("iron", "steel", "aluminium"),
        caution=BRAZING,
        on_it_hours=4.0,
    ),
    _casting(
        "new",
        "A new piece",
        "Cast, or cut from the solid, and machined.",
        anew,
        90,
        14,
        21,
        "A pattern and a foundry, or a block.",
        always("The old one is the pattern: keep it whole."),
        caution=FOUNDRY,
        on_it_hours=14.0,
    ),
)
