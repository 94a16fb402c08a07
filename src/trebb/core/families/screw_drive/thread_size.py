"""Major diameter and size over wires, or ridge thickness, along the bare screw."""

from __future__ import annotations

import math

from trebb.core.condition import Row
from trebb.core.families.screw_drive.slide_figure import thread_wires_figure
from trebb.core.families.screw_drive.stations import drive_division_mm
from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive, wear_key
from trebb.core.figure import Figure
from trebb.core.survey.base import InstrumentKind, Place, SetUp, station_of
from trebb.core.survey.sizes import wrong_size
from trebb.core.threads import pitch_dia_from_wires_mm, size_over_wires_mm
from trebb.core.units import UnitSystem

WIRE_SD_MM = 0.010  # wires rock on a worn flank: four tenths of a thou
CREST_SD_MM = 0.006
THICKNESS_SD_MM = 0.010


def places(drive: ScrewDrive) -> tuple[Place, ...]:
    """Unworn end first, because everything else is compared with it."""
    how = "wires" if drive.measures_wires else "thickness"
    word = (
        "Ridge"
        if not drive.measures_wires
        else "Over one wire"
        if drive.gauge == "one_wire"
        else "Over wires"
    )
    ends = (Place(f"{how}, unworn", f"{word}, unworn end", "thread that never runs in the nut"),)
    along = tuple(Place(f"{how}, station {k}", f"{word}, station {k}") for k in range(1, STATIONS + 1))
    along += tuple(
        Place(f"{how}, at {x:g} mm", f"{word}, at {x:g} mm", f"from the {drive.end_names[0]}")
        for x in drive.extra_mm
    )
    crests = (Place("major, unworn", "Major, unworn end"), Place("major, middle", "Major, middle"))
    return ends + along + crests


def row(drive: ScrewDrive, place: str) -> Row:
    """Pitch diameter = unworn − wear / tan α; ridge = unworn ridge − wear; major − crest wear, mm."""
    what, where = place.split(", ")
    if what == "major":
        return Row({"major": 1.0} if where == "unworn" else {"major": 1.0, "crest": -1.0}, CREST_SD_MM)
    worn = (
        {}
        if where == "unworn"
        else drive.wear_shares(float(where[3:-3]))
        if where.startswith("at ")
        else {wear_key(station_of(place)): 1.0}
    )
    if what == "wires":
        slope = 1 / math.tan(drive.thread.form.half_angle)
        # Over one wire and the crests only half of a change of the pitch diameter shows.
        return Row(
            {"unworn": 1.0, **{k: -slope * s for k, s in worn.items()}},
            WIRE_SD_MM * (2 if drive.gauge == "one_wire" else 1),
        )
    return Row({"ridge": 1.0, **{k: -s for k, s in worn.items()}}, THICKNESS_SD_MM)


def reduce(drive: ScrewDrive, place: str, raw: float) -> float:
    """Size over wires to pitch diameter, lead taken exactly; other readings as they are. In mm."""
    return (
        pitch_dia_from_wires_mm(drive.thread, drive.over_three_mm(raw), drive.wire)
        if place.startswith("wires")
        else raw
    )


def restore(drive: ScrewDrive, place: str, value: float) -> float:
    """Pitch diameter back to size over wires. In mm."""
    return (
        drive.as_read_mm(size_over_wires_mm(drive.thread, value, drive.wire))
        if place.startswith("wires")
        else value
    )


def figure(drive: ScrewDrive, place: str) -> Figure:
    """Where along the bare screw, and with what."""
    what, where = place.split(", ")
    fraction = (
        0.98
        if where == "unworn"
        else 0.45
        if where == "middle"
        else 0.9 * float(where[3:-3]) / drive.travel_mm
        if where.startswith("at ")
        else (station_of(place) - 0.5) * 0.9 / STATIONS
    )
    return thread_wires_figure(
        fraction, unworn=where == "unworn", crest=what == "major", thickness=what == "thickness"
    )


def refusal(drive: ScrewDrive, place: str, raw: float, system: UnitSystem) -> str:
    """Why a size cannot be one of this thread's. A ridge may be worn past sharp, to next to nothing, and the
    wires then lie that much deeper. `raw` in the set-up's own unit.
    """
    is_worn = not place.endswith("unworn") and not place.startswith("major")
    if place.startswith("thickness"):
        usual = drive.thread.pitch_mm / 2
        return "" if is_worn and 0 < raw < usual else wrong_size(usual, 0.6, raw, system)
    deeper = drive.thread.pitch_mm / 2 / max(math.tan(drive.thread.form.half_angle), 0.2)
    least = 0.75 * drive.thread.major_mm - (deeper if is_worn else 0.0)
    return "" if least < raw < drive.thread.major_mm else wrong_size(drive.thread.major_mm, 0.25, raw, system)


SET_UP = SetUp(
    key="thread_size",
    asks=(
        "gauge",
        "wire_mm",
        "crest_mm",
    ),
    letter="E",
    short="Thread size",
    title="Thread size along the screw",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=2.5,
    setting_minutes=20,
    wanted=1,
    places=places,
    row=row,
    reduce=reduce,
    restore=restore,
    figure=figure,
    steps=(
        "Screw out and washed, on vee blocks.",
        "Find thread that never runs in the nut, at an end: measure it first.",
        "Two wires in neighbouring grooves, one opposite; same wires everywhere.",
        "Close the micrometer on the ratchet, rock for the least reading.",
        "Major diameter over the crests at the same end and at the middle.",
    ),
    cautions=("The slide is free without its screw: block it before it runs off a sloping bed.",),
    tells="What the screw has lost at each place, about four times magnified, and the size of the thread "
    "when new.",
    cannot_tell="Nothing of the nut. If both flanks did not wear alike, the play can be less than this says.",
    settles="the screw from the nut",
    is_proof=False,
    is_size=True,
    size_band_mm=lambda drive: 0.06 * drive.thread.pitch_mm,
    refusal=refusal,
    division_mm=drive_division_mm,
)
