"""What a lead screw makes of a thread."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.work.made import WorkRow
from trebb.core.work.piece import Piece

CAUSES = {"lead": "lead of the screw"}
READS = {"lead of the screw": "turns_travel"}


FIGURE_OF = {"thread": "lead", "spaced": "place"}
ALONG = "table_lash"  # the limit of the screw that runs along a mill's table


def rows(drive: ScrewDrive, piece: Piece) -> tuple[WorkRow, ...]:
    """How much longer a thread comes out over its length than it should, by the lead screw; how much further
    apart two places, by the dial of a table's screw, come at one way. + is more; other screws make neither.
    """
    figure = FIGURE_OF.get(piece.kind)
    if figure is None or not (drive.half_nuts if figure == "lead" else drive.limit_key == ALONG):
        return ()
    share = piece.length_mm / drive.thread.lead_mm
    limits = {"lead_error": piece.length_mm / 300}
    row = WorkRow(figure, ({"lead": share},), CAUSES, READS, base_mm=-piece.length_mm, limits=limits)
    return (row,)
