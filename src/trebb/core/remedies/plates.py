"""Remedies for a vise's jaws and top, and for an index plate."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial
from typing import Any

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.findings.index_plate import JUDGING as INDEX
from trebb.core.findings.jaws import JUDGING as JAWS
from trebb.core.findings.judging import outcome_by
from trebb.core.machine.plates import CORNERS, PLATES, IndexPlate, Jaws
from trebb.core.remedies.base import Remedy
from trebb.core.safety import MILLING, WHEEL
from trebb.core.units import UnitSystem

MILLED_MM, GROUND_MM, DRILLED_MM = 0.006, 0.004, 0.012


def leave(subject: Any, now: Estimate) -> Change:
    """Leave everything."""
    return Change()


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


def centre(plate: IndexPlate, now: Estimate) -> Change:
    """Plate centred: what goes once a turn is taken out of every hole."""
    n = plate.holes
    found = {}
    for j in range(1, n + 1):
        carry = {}
        for k in range(1, n + 1):
            a = 2 * math.pi * (j - k) / n
            carry[f"hole.{k}"] = (1.0 if j == k else 0.0) - 2 / n * math.cos(a)
        found[f"hole.{j}"] = Shift(0.0, 0.003, carry)
    return Change(found)


def new_plate(plate: IndexPlate, now: Estimate) -> Change:
    """A new plate, drilled on a head, with a pin to its holes."""
    return Change(
        {
            **{f"hole.{k}": Shift(0.0, DRILLED_MM) for k in range(1, plate.holes + 1)},
            "pin": Shift(0.01, 0.005),
        }
    )


def new_pin(plate: IndexPlate, now: Estimate) -> Change:
    """A new detent to the holes as they are."""
    return Change({"pin": Shift(0.01, 0.005)})


def _words(words: str) -> Callable[[Any, Any, Any, UnitSystem], str]:
    return lambda subject, split, then, system: words


def _spare(jaws: Jaws) -> str:
    return "" if jaws.spare_mm > 0 else "Nothing may come off its top, as stated."


_jaws = partial(Remedy, family="jaws", outcome=outcome_by(JAWS))
_index = partial(Remedy, family="index_plate", outcome=outcome_by(INDEX))

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
        _words("Nothing, if the work lies on two sound edges."),
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
        _words("A plug of another iron shows for ever."),
        ("hole_plug",),
        applies=lambda j: True,
        caution=MILLING,
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
        _words("Jaws and screw stay where they were: only the top comes down."),
        hinder=_spare,
        caution=MILLING,
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
        _words("The height is gone for good, and its jaws stand higher over it."),
        hinder=_spare,
        caution=MILLING,
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
        _words("They grow in the fire: ground after, both together."),
        ("jaw_plate",),
        caution=WHEEL,
    ),
)

INDEX_REMEDIES: tuple[Remedy, ...] = (
    _index(
        "leave", "Leave it", "Write down why.", leave, 0, 0, 0, "Nothing.", _words("It repeats what it has.")
    ),
    _index(
        "centre",
        "Centre the plate",
        "Indicated by its holes, not by its bore.",
        centre,
        0,
        1,
        0,
        "A close pin, shims.",
        _words("A hole that is wrong of itself stays wrong."),
    ),
    _index(
        "pin",
        "A new detent",
        "To the holes as they are, chamfered.",
        new_pin,
        3,
        1.5,
        0,
        "Silver steel.",
        _words("The tightest hole decides its size."),
    ),
    _index(
        "new",
        "A new plate",
        "Drilled and reamed on a head, chamfered, numbered.",
        new_plate,
        15,
        5,
        0,
        "Plate, a dividing head or rotary table, a reamer.",
        _words("It copies the head it is made on: in a worm head by its ratio less, direct as it is."),
        ("index_plate",),
        caution=MILLING,
    ),
)
