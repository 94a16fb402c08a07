"""A friction cone put together again, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.families.cone.subject import FrictionCone
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS, PROVE
from trebb.core.safety import LOCK_OUT, SPRING, UNDER_POWER


def cone_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """Cone into its cup, its spring, its linkage, run in."""
    cone = subject if isinstance(subject, FrictionCone) else FrictionCone()
    return (
        MARKS,
        CLEAN,
        FitStep(
            "dry",
            "Face and cup wiped dry" if not cone.oiled else "Oil way of the face clear",
            ("clean",),
            "A finger's oil halves what a dry face holds.",
            "Wipe away from the lining.",
            minutes=5,
        ),
        FitStep(
            "pin",
            "Cross pin driven from its marked side",
            ("marks",),
            "From the other side it loosens and scores the cup.",
            "",
            minutes=5,
        ),
        FitStep(
            "in",
            "Cone on its shaft, into the cup by hand",
            ("dry", "pin"),
            "It must go home by hand before the spring helps.",
            minutes=10,
        ),
        FitStep(
            "spring",
            "Spring or lever on",
            ("in",),
            "Under load it cannot be looked at again.",
            "",
            SPRING,
            10,
        ),
        FitStep(
            "linkage",
            "Linkage set: grips before the middle of its travel",
            ("spring",),
            "At its end it follows no wear.",
            "Draw left read once more.",
            LOCK_OUT,
            10,
        ),
        FitStep(
            "last",
            "Run in: twenty light engagements, then cool",
            ("linkage",),
            "A new lining that is held long glazes.",
            "",
            UNDER_POWER,
            20,
            "runs",
        ),
        PROVE,
    )
