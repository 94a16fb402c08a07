"""What every part about a gib is worked out and drawn by."""

from __future__ import annotations

import math

from trebb.core.errors import UnreadError
from trebb.core.families.gib.subject import Slide
from trebb.core.gibs import Gaps
from trebb.core.parts.base import (
    Check,
    Measured,
    PartInputs,
    View,
)

# Assumed: a mill or shaper with care holds a gib's thickness to this; scraping does the rest. Shop practice.
CUT_MM = 0.015
ROUGH_MM = 0.6  # each side before the bar has lain and moved
SPARE_MM = 20.0  # of length, cut last
LEAST_LINING_MM = 0.4


def gaps_at_tightest(inputs: PartInputs) -> Gaps:
    """Gaps where the slide runs closest along its travel: the gib must run there too. The gib as it stands.

    Raises UnreadError until both ends were felt with the gib home.
    """
    if not inputs.measured.get("is_felt"):
        raise UnreadError(
            "No size yet",
            "it is worked out from both ends felt with the gib fully home. Feel them at Survey, and say "
            "that it "
            "was home",
        )
    return Gaps(
        inputs.measured.get("gap.thin", 0.0),
        inputs.measured.get("gap.thick", 0.0),
        inputs.about(Slide).running_mm,
    )


def gone_in_mm(inputs: PartInputs, stand_mm: float | None = None) -> float:
    """How far the gib has gone in from where it is to stand, by design if not given; nothing where its
    stand-out was not measured, and less than nothing where it stands further out.
    """
    wanted = inputs.about(Slide).stand_out_mm if stand_mm is None else stand_mm
    return wanted - inputs.measured["stand"] if "stand" in inputs.measured else 0.0


def gaps_by_design(inputs: PartInputs, stand_mm: float | None = None) -> Gaps:
    """What the old gib lacks where a new one is to stand: its gaps, and what it has gone in by."""
    return gaps_at_tightest(inputs).at_stand_out(inputs.about(Slide).gib, gone_in_mm(inputs, stand_mm))


def stand_check(inputs: PartInputs) -> Check:
    """Whether the stand-out counts in the thickness."""
    if "stand" in inputs.measured:
        return Check(True, "Gap and stand-out are both in its thickness.")
    return Check(
        False,
        "Its stand-out is not measured: by what the old gib has gone in, the new one comes out too thin.",
    )


def felt_check(inputs: PartInputs) -> Check:
    """Whether both ends were felt with the gib home."""
    if inputs.measured.get("is_felt"):
        return Check(True, "Both ends were felt with the gib home.")
    return Check(
        False,
        "Both ends are not felt with the gib home yet: what is worked out here is a guess until they are.",
    )


def side_view(length: float, width: float) -> View:
    """A gib on its face, mm."""
    return View(
        "on its face", (((0.0, 0.0), (length, 0.0), (length, width), (0.0, width)),),
        measured=(Measured((0, 0), (length, 0), -2.2), Measured((length, 0), (length, width), 2.4, True)),
    )  # fmt: skip


def edge_view(length: float, thin: float, thick: float, words: str) -> View:
    """The wedge on its edge: thin end at the left, one face straight. Lengths in mm."""
    return View(
        words, (((0.0, 0.0), (length, 0.0), (length, thick), (0.0, thin)),),
        measured=(Measured((0, 0), (0, thin), -3.4, True), Measured((length, 0), (length, thick), 2.4, True)),
    )  # fmt: skip


def end_view(width: float, thick: float, dovetail_deg: float) -> View:
    """The end: a slanted section, edges cut at the dovetail's angle. Lengths in mm."""
    lean = width / math.tan(math.radians(dovetail_deg))
    slant = thick / math.sin(math.radians(dovetail_deg))
    return View(
        f"thick end; edges at {dovetail_deg:g}°",
        (((0.0, 0.0), (slant, 0.0), (slant + lean, width), (lean, width)),),
        measured=(Measured((slant + lean, 0), (slant + lean, width), 2.4, True),),
    )
