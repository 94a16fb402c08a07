"""From the machine's errors to the work: what a piece comes out as, which source is in its way, which repairs
buy most.

A family says by rows which of its sources move which figure of the work (`WorkRow`); everything else is done
here, alike for all.
"""

from trebb.core.work.choice import Choice, Option, begun_with, cheapest, edge_of, joined_options, surest
from trebb.core.work.made import Made, WorkRow, made_of
from trebb.core.work.piece import FIGURES, KINDS, Piece, piece_of

__all__ = [
    "FIGURES",
    "KINDS",
    "Choice",
    "Made",
    "Option",
    "Piece",
    "WorkRow",
    "begun_with",
    "cheapest",
    "edge_of",
    "joined_options",
    "made_of",
    "piece_of",
    "surest",
]
