"""Putting it together: a partial order of steps, with what each reminds of.

The steps of a family of assemblies stand in its folder.
"""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep, FitUpError, assembly_order, blocked_by
from trebb.core.register import FAMILIES
from trebb.core.safety import SOLVENT

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
    record = FAMILIES.get(family)
    if record is None or not record.fit_up:
        return GENERAL
    steps: tuple[FitStep, ...] = record.named(record.fit_up)(remedy, subject)
    return steps


__all__ = ["FitStep", "FitUpError", "assembly_order", "blocked_by", "fit_steps"]
