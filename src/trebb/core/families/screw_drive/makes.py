"""What a lead screw makes of a thread, a table's screw of a spacing, and the lash of a dial turned back."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive, felt_at_dial
from trebb.core.work.made import WorkRow
from trebb.core.work.piece import Piece

CAUSES = {"lead": "lead of the screw"}
READS = {"lead of the screw": "turns_travel"}


LASH = {
    "nut": "nut",
    "wear": "wear of the screw's thread",
    "uneven": "wear of the screw's thread",
    "float": "end float of the screw",
    "key": "dial and its key",
    "tip": "nut that tips",
}
LASH_READS = dict.fromkeys(LASH.values(), "lash") | {"end float of the screw": "end_float"}
FIGURE_OF = {"thread": "lead", "spaced": "place"}
ALONG, ACROSS = "table_lash", "cross_lash"  # limits of a mill's screw along its table, a lathe's across
# By kind of work the screw that sizes it, and how many times its lash a place comes off.
BACK = {"chuck": (ACROSS, -2.0), "centres": (ACROSS, -2.0), "spaced": (ALONG, 1.0)}


def rows(drive: ScrewDrive, piece: Piece) -> tuple[WorkRow, ...]:
    """How much longer a thread comes out over its length than it should, by the lead screw; how much further
    apart two places, by the dial of a table's screw, come at one way. + is more; other screws make neither.
    And how far off a dial comes that is turned back to its number, by the lash at the middle of the travel:
    on diameter twice, the tool still in.
    """
    return (*_over_a_way(drive, piece), *_turned_back(drive, piece))


def _turned_back(drive: ScrewDrive, piece: Piece) -> tuple[WorkRow, ...]:
    limit, times = BACK.get(piece.kind, ("", 0.0))
    if not times or drive.limit_key != limit:
        return ()
    lost = {key: times * c for key, c in felt_at_dial(drive, (1 + STATIONS) // 2).items()}
    return (WorkRow("back", (lost,), LASH, LASH_READS, limits={limit: abs(times)}),)


def _over_a_way(drive: ScrewDrive, piece: Piece) -> tuple[WorkRow, ...]:
    figure = FIGURE_OF.get(piece.kind)
    if figure is None or not (drive.half_nuts if figure == "lead" else drive.limit_key == ALONG):
        return ()
    share = piece.length_mm / drive.thread.lead_mm
    limits = {"lead_error": piece.length_mm / 300}
    row = WorkRow(figure, ({"lead": share},), CAUSES, READS, base_mm=-piece.length_mm, limits=limits)
    return (row,)
