"""Remedies for a vise's jaws and top, and for an index plate."""

from __future__ import annotations

from functools import partial

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.jaws.findings import JUDGING as JAWS
from trebb.core.families.jaws.subject import CORNERS, PLATES, Jaws
from trebb.core.findings.judging import outcome_by
from trebb.core.remedies.base import Remedy, always, leave
from trebb.core.safety import MILLING, WHEEL

MILLED_MM, GROUND_MM = 0.006, 0.004


def plug(jaws: Jaws, now: Estimate) -> Change:
    """Marks plugged and skimmed flush: no height is lost."""
    return Change({"mark": Shift(0.0, 0.01)})


def mill(jaws: Jaws, now: Estimate) -> Change:
    """The top milled parallel to its own base, as deep as it leans."""
    return Change({f"top.{c}": Shift(0.0, MILLED_MM) for c in CORNERS})


def skim(jaws: Jaws, now: Estimate) -> Change:
    """Milled until the marks are out."""
    return Change({**{f"top.{c}": Shift(0.0, MILLED_MM) for c in CORNERS}, "mark": Shift(0.0, 0.01)})


def plates(jaws: Jaws, now: Estimate) -> Change:
    """New plates, ground as a pair."""
    return Change({f"plate.{p}": Shift(jaws.thick_mm, GROUND_MM) for p in PLATES})


def _spare(jaws: Jaws) -> str:
    return "" if jaws.spare_mm > 0 else "Nothing may come off its top, as stated."


_jaws = partial(Remedy, family="jaws", outcome=outcome_by(JAWS))

JAW_REMEDIES: tuple[Remedy, ...] = (
    _jaws(
        "leave",
        "Leave it, and say why",
        "A mark that carries is no fault.",
        leave,
        0,
        0,
        0,
        "A line in the book.",
        always("Nothing, if the work lies on two sound edges."),
    ),
    _jaws(
        "plug",
        "Plug the marks",
        "Holes bored round, plugs pressed, skimmed flush.",
        plug,
        3,
        2,
        0,
        "Bar of its own metal, a reamer.",
        always("A plug of another iron shows for ever."),
        ("hole_plug",),
        applies=lambda j: True,
        caution=MILLING,
        on_it_hours=0.5,
    ),
    _jaws(
        "mill",
        "Mill the top parallel",
        "On its own base, packed level by its readings.",
        mill,
        0,
        2,
        0,
        "Mill, indicator, thin packing.",
        always("Jaws and screw stay where they were: only the top comes down."),
        hinder=_spare,
        caution=MILLING,
        on_it_hours=2.0,
    ),
    _jaws(
        "skim",
        "Mill until the marks are out",
        "Height for looks.",
        skim,
        0,
        3,
        0,
        "Mill, height to spare.",
        always("The height is gone for good, and its jaws stand higher over it."),
        hinder=_spare,
        caution=MILLING,
        on_it_hours=3.0,
    ),
    _jaws(
        "plates",
        "New jaw plates",
        "With a vee where it is wanted, hardened, ground as a pair.",
        plates,
        25,
        6,
        1,
        "Tool steel, cap screws, a furnace and a grinder.",
        always("They grow in the fire: ground after, both together."),
        ("jaw_plate",),
        caution=WHEEL,
        on_it_hours=1.0,
    ),
)
