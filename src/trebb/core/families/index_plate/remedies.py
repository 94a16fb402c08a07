"""Remedies for an index plate."""

from __future__ import annotations

import math
from functools import partial

from trebb.core.condition import Change, Estimate, Shift
from trebb.core.families.index_plate.findings import JUDGING as INDEX
from trebb.core.families.index_plate.subject import IndexPlate
from trebb.core.findings.judging import outcome_by
from trebb.core.remedies.base import BY_ITSELF, Remedy, always, leave
from trebb.core.safety import MILLING

DRILLED_MM = 0.012


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


_index = partial(Remedy, family="index_plate", outcome=outcome_by(INDEX))


INDEX_REMEDIES: tuple[Remedy, ...] = (
    _index(
        "leave", "Leave it", "Write down why.", leave, 0, 0, 0, "Nothing.", always("It repeats what it has.")
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
        always("A hole that is wrong of itself stays wrong."),
        in_place=BY_ITSELF,
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
        always("The tightest hole decides its size."),
        in_place=BY_ITSELF,
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
        always("It copies the head it is made on: in a worm head by its ratio less, direct as it is."),
        ("index_plate",),
        caution=MILLING,
    ),
)
