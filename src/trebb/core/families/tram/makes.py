"""What a head over its table makes of milled, bored and drilled work."""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.families.tram.findings import measures_of
from trebb.core.families.tram.subject import REACH_MM, Tram
from trebb.core.work.made import WorkRow
from trebb.core.work.piece import Piece

CAUSES = {
    "tilt_x": "head leaning sideways",
    "tilt_y": "head leaning front to back",
    "travel_x": "travel out of square, sideways",
    "travel_y": "travel out of square, front to back",
}
READS = {
    "head leaning sideways": "tram_sweep",
    "head leaning front to back": "tram_sweep",
    "travel out of square, sideways": "square",
    "travel out of square, front to back": "square",
}


def rows(tram: Tram, piece: Piece) -> tuple[WorkRow, ...]:
    """Fed along the table: the lean across the feed (front to back) lifts one side of the cut and tips its
    side wall, the lean along it hollows each pass by the sagitta of the cutter's circle. A bored hole goes
    along the travel, a drilled one along the spindle; its lean is the size of both directions together.

    Raises InputError for a cut wider than its cutter.
    """
    if piece.kind == "milled":
        radius, width = piece.dia_mm / 2, piece.length_mm
        if width > piece.dia_mm:
            raise InputError(
                f"a cut {width:g} mm wide", f"the cutter is {piece.dia_mm:g} mm: one pass is no wider"
            )
        sagitta = radius - math.sqrt(radius**2 - width**2 / 4)
        asked = (
            ("parallel", "tilt_y", -width),
            ("hollow", "tilt_x", sagitta),
            ("side", "tilt_y", piece.high_mm),
        )
        return tuple(
            WorkRow(figure, ({lean: mm / 1000},), CAUSES, READS, limits=_limits(tram, lean, mm))
            for figure, lean, mm in asked
        )
    if piece.kind in ("bored", "drilled"):
        way = "travel" if piece.kind == "bored" else "tilt"
        deep = piece.length_mm / 1000
        leans = ({f"{way}_x": deep}, {f"{way}_y": deep})
        both = _limits(tram, f"{way}_x", math.sqrt(2) * piece.length_mm)
        return (WorkRow("hole", leans, CAUSES, READS, is_vector=True, limits=both),)
    return ()


def _limits(tram: Tram, lean: str, mm: float) -> dict[str, float]:
    """The limit that bounds a lean, by how many mm a mm of it makes over a length; of two directions at their
    limit together the length is √2 of one's.
    """
    limit = next((limit for _, c, limit in measures_of(tram).values() if lean in c), "")
    return {limit: abs(mm) / REACH_MM} if limit and mm else {}
