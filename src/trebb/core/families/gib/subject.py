"""A slide on its dovetail with a taper gib."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.gibs import TaperGib

ENDS = ("thin", "thick")
SPOTS = ("left", "mid", "right")
SPOT_WORDS = {
    "left": "left or near end of travel",
    "mid": "middle of travel",
    "right": "right or far end of travel",
}
SPOT_SHORT = {"left": "left end", "mid": "middle", "right": "right end"}
LATHE_SADDLE = "saddle"


class Slide(Struct, frozen=True):
    """A slide as stated, mm.

    Parameters
    ----------
    ratio, length_mm, thin_mm : the gib: 1 : ratio, its length, its thickness at the thin end.
    width_mm : of the gib across its face; `dovetail_deg` the slot's angle.
    running_mm : clearance it is to run with; `scrape_mm` left on a new gib.
    screw_pitch_mm, travel_mm : of the adjusting screw, and how far it can still go in.
    stand_out_mm : of the gib beyond the slide, by design.
    stock_mm : lining at hand; `least_mm` the least thickness that may be left of the gib at its thin end.
    home : "yes" if the gib was pushed fully home when the gaps were felt, "no", or "" not asked.
    is_saddle : a lathe's saddle, which drops against rack and lead screw.
    bearing_mm : lead screw between its bearings; `apron_mm` the half nuts' distance from the headstock's
        bearing;
        `screw_mm` its root diameter; `thread_depth_mm` what the half nuts can engage.
    """

    ratio: float = 60.0
    length_mm: float = 300.0
    thin_mm: float = 8.0
    width_mm: float = 25.0
    dovetail_deg: float = 55.0
    running_mm: float = 0.015
    scrape_mm: float = 0.10
    screw_pitch_mm: float = 1.25
    travel_mm: float = 6.0
    stand_out_mm: float = 3.0
    stock_mm: float = 1.6
    least_mm: float = 4.0
    home: str = ""
    is_saddle: bool = False
    bearing_mm: float = 1300.0
    apron_mm: float = 500.0
    screw_mm: float = 24.0
    thread_depth_mm: float = 1.7

    @property
    def gib(self) -> TaperGib:
        """The gib as stated."""
        return TaperGib(self.ratio, self.length_mm, self.thin_mm)


def slide_model(slide: Slide) -> ErrorModel:
    """Sources of error of a slide: gaps at the gib's ends where the ways are least worn, what the ways add
    along the travel.
    """
    sources = [
        Source("gap.thin", "gap at the thin end", 0.05, 0.06, True),
        Source("gap.thick", "gap at the thick end", 0.05, 0.06, True),
        *[
            Source(f"worn.{spot}", f"wear of the slideways, {SPOT_WORDS[spot]}", 0.015, 0.025, True)
            for spot in SPOTS
        ],
        Source("stand", "stand-out of the gib", slide.stand_out_mm, 8.0),
        Source("off", "gib backed off as it ran", 0.0, 1.0, True),
    ]
    if slide.is_saddle:
        sources.append(Source("drop", "drop of the saddle", 0.20, 0.25, True))
    return ErrorModel(tuple(sources))


def play(end: str, spot: str) -> dict[str, float]:
    """Play at an end of the gib with the slide at a spot of its travel. Coefficients by source, without
    unit.
    """
    return {f"gap.{end}": 1.0, f"worn.{spot}": 1.0}
