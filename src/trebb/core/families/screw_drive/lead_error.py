"""What the slide does against what the screw's turns say: by a travel readout, or gauge blocks and an
indicator.
"""

from __future__ import annotations

import math
from functools import lru_cache

from trebb.core.condition import Row
from trebb.core.dual_units import both_lengths
from trebb.core.families.screw_drive.slide_figure import frame, slide_section
from trebb.core.families.screw_drive.stations import drive_division_mm
from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive, once_a_turn
from trebb.core.figure import Arrow, Figure, Label, Role, box
from trebb.core.survey.base import InstrumentKind, Place, SetUp, station_of

READOUT_SD_MM = 0.004  # a readout of 0.005 mm steps, or a block wrung and an indicator of 0.002 mm
EIGHTHS = 8


def way_mm(drive: ScrewDrive, station: int) -> float:
    """The whole turns nearest a station, as a way from the start, mm: then what comes once a turn is the
    same at each.
    """
    lead = drive.thread.lead_mm
    return max(1, round(drive.station_mm(station) / lead)) * lead


@lru_cache(maxsize=32)
def places(drive: ScrewDrive) -> tuple[Place, ...]:
    """Five stations along the travel, then one turn in eighths at its middle."""
    along = tuple(
        Place(
            f"travel, station {k}",
            f"To station {k}",
            f"{drive.ratio * way_mm(drive, k) / drive.thread.lead_mm:.4g} turns, "
            f"{both_lengths(way_mm(drive, k), 3)}",
            "along",
        )
        for k in range(1, STATIONS + 1)
    )
    turn = tuple(
        Place(
            f"turn, {360 * i // EIGHTHS}",
            f"Turn, at {360 * i // EIGHTHS}°",
            "at the middle of the travel"
            if drive.ratio == 1
            else "of the screw, at the middle of the travel",
            "one turn",
        )
        for i in range(1, EIGHTHS + 1)
    )
    return along + turn


def row(drive: ScrewDrive, place: str) -> Row:
    """Slide less dial, mm: lead's error over the way + half the wear's difference (the slide lags where the
    flank is gone) + once a turn.
    """
    lead = drive.thread.lead_mm
    if place.startswith("travel"):
        x = way_mm(drive, station_of(place))
        return Row({"lead": x / lead, **drive.flank_lag(x)}, READOUT_SD_MM, -x)
    angle = math.radians(float(place.rsplit(" ", 1)[1]))
    part = angle / (2 * math.pi)
    return Row({"lead": part, **once_a_turn(angle)}, READOUT_SD_MM, -part * lead)


def figure(drive: ScrewDrive, place: str) -> Figure:
    """A readout, or blocks, beside the slide."""
    station = station_of(place) if place.startswith("travel") else None
    items = [
        *slide_section(drive, station, wheel_turns=drive.has_dial),
        box(476, 46, 128, 18, role=Role.BLUE),
        Label((540, 60), "readout or blocks", Role.BLUE),
    ]
    items.append(Arrow((270, 54), (470, 54), both_ways=True))
    return frame(items)


SET_UP = SetUp(
    key="lead_error",
    measure=lambda drive, place: ("lead_error", 1.0),
    letter="F",
    short="Dial against slide",
    title="Dial against a readout or gauge blocks",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.001,
    minutes=1.5,
    setting_minutes=15,
    wanted=1,
    places=places,
    row=row,
    figure=figure,
    steps=(
        "Readout's scale, or blocks against a stop, along the travel and close to the screw.",
        "Come to the start always turning the same way; zero both.",
        "Turn whole turns to each station: read the slide less the dial, + where the slide went further.",
        "At the middle, one turn in eighths.",
    ),
    cautions=("If you overshoot, go back more than the lash and come up again.",),
    tells="How far the dial may be believed: the lead's own error, where the worn flank lags, and what comes "
    "back each turn.",
    cannot_tell="A scale out of line with the travel reads long: set it by an indicator first.",
    settles="the screw's error along the travel",
    is_signed=True,
    is_optional=True,
    view="lead",
    refusal=lambda drive, place, raw, system: (
        "more than a turn of the screw; read the slide less the dial"
        if abs(raw) > drive.thread.lead_mm
        else ""
    ),
    division_mm=drive_division_mm,
)
