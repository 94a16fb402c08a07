"""Straightedge and feelers along a mill's table: at its front edge, its middle and its back edge.

The edge rests on two equal slips at the table's ends; the thickest blade that
enters half way less the slips is how far the top is hollow there, less than
nothing where it is proud. Both halves of the table wear alike only by chance,
so that one place says less than three.
"""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.tram.subject import Tram
from trebb.core.figure import Arrow, Figure, Role, box
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.ground import frame, words_at
from trebb.core.units import UnitSystem, show_size

SLIP_MM = 1.0
MOST_HOLLOW_MM = 1.0
# A blade of 0.01 mm steps, and what one line along the table differs from the next.
EDGE_SD_MM = 0.018
LINES = {"front edge": "Front edge", "middle": "Middle", "back edge": "Back edge"}


def refusal(tram: Tram, place: str, raw: float, system: UnitSystem) -> str:
    """Why a blade cannot be: the slips lie under it too. `raw` in the set-up's own unit."""
    low, high = SLIP_MM - MOST_HOLLOW_MM / 2, SLIP_MM + MOST_HOLLOW_MM
    if low <= raw <= high:
        return ""
    return (
        f"with slips of {show_size(SLIP_MM, system)} the blade is from {show_size(low, system)} to "
        f"{show_size(high, system)}; add the slips, or write the unit"
    )


def figure(tram: Tram, place: str) -> Figure:
    """The table from the front: slips at its ends, the blade half way."""
    return frame(
        [
            box(70, 100, 480, 34),
            box(70, 70, 480, 16, role=Role.BLUE),
            box(86, 86, 26, 14),
            box(508, 86, 26, 14),
            box(296, 86, 28, 14, role=Role.BLUE, wash=True),
            Arrow((310, 164), (310, 136)),
            words_at(190, 22, f"straightedge along the {place}, on two equal slips"),
            words_at(324, 156, "the thickest blade that enters half way"),
        ]
    )


SET_UP: SetUp[Tram] = SetUp(
    key="table_edges",
    measure=lambda tram, place: ("sag", 1.0),
    letter="F",
    short="Edges",
    title="Straightedge along the table",
    instrument=InstrumentKind.FEELERS,
    unit="mm",
    resolution_mm=0.01,
    minutes=1.5,
    setting_minutes=5,
    wanted=1,
    places=lambda tram: tuple(Place(key, words, "half way along") for key, words in LINES.items()),
    row=lambda tram, place: Row({"sag": 1.0}, EDGE_SD_MM),
    reduce=lambda tram, place, raw: raw - SLIP_MM,
    restore=lambda tram, place, mm: mm + SLIP_MM,
    figure=figure,
    refusal=refusal,
    applies=lambda tram: tram.has_knee,
    is_size=True,
    size_band_mm=lambda tram: 0.05,
    is_optional=True,
    steps=(
        "Deburr and wipe the table; slips of 1 mm (0.0394 in) at its ends, the straightedge on them.",
        "Try blades half way until the next thicker one does not enter; write the whole blade.",
        "The same along the middle and the other edge.",
    ),
    cautions=("A straightedge is heavy and its edge is sharp: two hands, never over the table's end.",),
    tells="How far the table's top is hollow or proud along its length, at three lines.",
    cannot_tell="Whether the table or what it slides on is worn: the ends of its travel tell that.",
    settles="the table's top",
    family="tram",
)
