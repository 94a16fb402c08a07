"""Putting it together: a partial order of steps, with what each reminds of.

A new family of assemblies is one module and one line in `STEPS`.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from trebb.core.fitup.alignment import (
    gib_steps,
    headstock_steps,
    stand_steps,
    tailstock_steps,
    tram_steps,
    ways_steps,
)
from trebb.core.fitup.order import FitStep, FitUpError, assembly_order, blocked_by, screw_steps
from trebb.core.fitup.pieces import bore_steps, shaft_steps
from trebb.core.fitup.rest import casting_steps, cone_steps, cutter_steps, index_steps, jaw_steps, way_steps
from trebb.core.fitup.spindle import spindle_steps
from trebb.core.fitup.wheels import gear_steps, train_steps
from trebb.core.safety import SOLVENT

STEPS: dict[str, Callable[[str, Any], tuple[FitStep, ...]]] = {
    "screw_drive": screw_steps,
    "spindle": spindle_steps,
    "ways": ways_steps,
    "headstock": headstock_steps,
    "tailstock": tailstock_steps,
    "stand": stand_steps,
    "gib": gib_steps,
    "tram": tram_steps,
    "shaft": shaft_steps,
    "bore": bore_steps,
    "gear": gear_steps,
    "train": train_steps,
    "cone": cone_steps,
    "casting": casting_steps,
    "jaws": jaw_steps,
    "index_plate": index_steps,
    "cutter": cutter_steps,
    "way": way_steps,
}


# For what has no steps of its own: what came off goes between the two.
GENERAL = (
    FitStep(
        "marks",
        "Find the marks and photographs made at strip-down",
        (),
        "What goes two ways round goes wrong.",
        minutes=5,
    ),
    FitStep("clean", "Clean it all; twice", (), "Swarf goes where the oil goes.", "", SOLVENT, 20),
    FitStep("prove", "Turned by hand through its whole travel", ("marks", "clean"), "", minutes=5),
)


def fit_steps(remedy: str, family: str = "screw_drive", subject: Any = None) -> tuple[FitStep, ...]:
    """Steps for a chosen remedy, in the order they are listed, not yet sorted."""
    return STEPS[family](remedy, subject) if family in STEPS else GENERAL


__all__ = ["STEPS", "FitStep", "FitUpError", "assembly_order", "blocked_by", "fit_steps"]
