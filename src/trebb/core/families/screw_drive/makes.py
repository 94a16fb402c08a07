"""What a lead screw makes of a thread."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.work.made import WorkRow
from trebb.core.work.piece import Piece

CAUSES = {"lead": "lead of the screw"}
READS = {"lead of the screw": "turns_travel"}


def rows(drive: ScrewDrive, piece: Piece) -> tuple[WorkRow, ...]:
    """How much longer a thread comes out over its length than it should; + is long. Of a lead screw alone:
    other screws cut none.
    """
    if piece.kind != "thread" or not drive.half_nuts:
        return ()
    share = piece.length_mm / drive.thread.lead_mm
    return (WorkRow("lead", ({"lead": share},), CAUSES, READS, base_mm=-piece.length_mm),)
