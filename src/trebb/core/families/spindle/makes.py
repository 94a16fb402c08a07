"""What a lathe's spindle and chuck make of work that is turned in the chuck."""

from __future__ import annotations

from trebb.core.families.spindle.sizes import at_vector
from trebb.core.families.spindle.subject import Spindle
from trebb.core.families.spindle.turning import lobe_row
from trebb.core.work.made import WorkRow
from trebb.core.work.piece import FROM_JAWS_MM, Piece

STEP_DEG = 5
CAUSES = {
    "lobe2": "two lobes of the spindle's turning",
    "lobe3": "three lobes of the spindle's turning",
    "chuck": "chuck and backplate",
    "chuck_lean": "chuck and backplate",
}
READS = {
    "two lobes of the spindle's turning": "nose",
    "three lobes of the spindle's turning": "nose",
    "chuck and backplate": "chuck_pin",
}


def rows(spindle: Spindle, piece: Piece) -> tuple[WorkRow, ...]:
    """How round it is: what goes twice and three times a turn, summed as a curve, from its highest to its
    lowest (ISO 230-7: what goes once a turn cuts no lobes). And how far what was turned before runs out once
    it is held anew: twice the chuck's own shift at its far end; in one seating it is nothing.
    """
    if piece.kind != "chuck" or spindle.kind != "lathe":
        return ()
    curve = tuple(lobe_row(angle) for angle in range(0, 360, STEP_DEG))
    far_mm = FROM_JAWS_MM + piece.length_mm
    anew = tuple(at_vector(spindle, ("chuck",), far_mm, axis) for axis in "xy")
    seat = WorkRow("seat", anew, CAUSES, READS, is_vector=True, limits={"chuck": 1.0})
    return (WorkRow("round", curve, CAUSES, READS), seat)
