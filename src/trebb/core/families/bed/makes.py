"""What a lathe's bed, headstock and tailstock make of turned work."""

from __future__ import annotations

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.families.bed.subject import Bed
from trebb.core.work.give import given_along
from trebb.core.work.made import WorkRow
from trebb.core.work.piece import FROM_JAWS_MM, Piece

PLACES = 9
CAUSES = {
    "twist": "twist of the bed",
    "front": "wear of the ways",
    "rear": "wear of the ways",
    "side": "ways bent sideways",
    "yaw": "headstock across",
    "tail_side": "tailstock across",
    "cross": "cross slide out of square",
}
READS = {
    "twist of the bed": "level_across",
    "wear of the ways": "ridge",
    "ways bent sideways": "reference_bar",
    "headstock across": "bar_sweep",
    "tailstock across": "centres",
    "cross slide out of square": "facing",
}


def rows(bed: Bed, piece: Piece) -> tuple[WorkRow, ...]:
    """Diameter along a piece, its taper, its face; nothing for work that is not turned.

    Raises InputError for a piece longer than the bed.
    """
    if piece.kind not in ("chuck", "centres"):
        return ()
    between = piece.kind == "centres"
    begin = 0.0 if between else FROM_JAWS_MM
    most = bed.length_mm - bed.nose_mm - begin
    if piece.length_mm > most:
        raise InputError(
            f"a piece {piece.length_mm:g} mm long", f"this bed was stated {most:g} mm from the jaws"
        )
    held = replace(bed, centres_mm=piece.length_mm) if between else bed
    at = [begin + piece.length_mm * i / (PLACES - 1) for i in range(PLACES)]
    along = tuple(held.work(begin, z, between_centres=between) for z in at)
    given = given_along(piece, [z - begin for z in at])
    far = (given[-1] - given[0],) if given else ()
    radius = piece.dia_mm / 2
    axis = {"tail_side": 2.0} if between else {"taper_chuck": piece.length_mm / 300}
    near = min(1.0, piece.length_mm / bed.base_mm)  # over less than a station no way drops all of its wear
    path = {"way_wear": 2 * near * bed.centre_mm / bed.gauge_mm, "straight_side": 2.0 * near}
    face = {"cross": radius / 1000, "yaw": -radius / 1000}
    found = (
        WorkRow("dia", along, CAUSES, READS, given_mm=given, limits={**axis, **path}),
        WorkRow("taper", along[-1:], CAUSES, READS, given_mm=far, limits=axis),
        WorkRow("face", (face,), CAUSES, READS, limits={"facing": radius / 150}),
    )
    return found[:2] if between else found
