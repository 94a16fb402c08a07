"""What tells which thread it is: pitch over crests, diameters, depth and crest, before anything is stated.
What is seen (angle, starts, hand, crest) is stated beside it.
"""

from __future__ import annotations

from collections.abc import Sequence

from trebb.core.condition import Observation, Row
from trebb.core.families.screw_drive.slide_figure import thread_wires_figure
from trebb.core.families.screw_drive.stations import drive_division_mm
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.figure import Figure
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, SetUp
from trebb.core.threads.naming import CALIPER_SD_MM, CREST_WEAR_MM, DEPTH_SD_MM, FLAT_SD_MM
from trebb.core.units import UnitSystem

CRESTS = 10


def places(drive: ScrewDrive) -> tuple[Place, ...]:
    """In the order that tells most."""
    return (
        Place("turns", f"Travel of {CRESTS} turns", "nut or slide, always turning the same way"),
        Place("crests", f"Over {CRESTS} crests", "first to last, same flank of each, on unworn thread"),
        Place("major", "Major, unworn", "where it never ran in the nut"),
        Place("worn", "Major, worn", "where it ran most"),
        Place("depth", "Depth of the groove", "caliper's rod, unworn thread"),
        Place("flat", "Width of a crest", "unworn thread"),
    )


def row(drive: ScrewDrive, place: str) -> Row:
    """By the stated thread's own sizes, for the simulated instruments; it tells the screw's errors
    nothing.
    """
    spec = drive.thread
    match place:
        case "turns":
            return Row({"lead": float(CRESTS)}, 0.03)
        case "crests":
            return Row({"lead": CRESTS / spec.starts}, 0.03)
        case "major":
            return Row({"major": 1.0}, CALIPER_SD_MM)
        case "worn":
            return Row({"major": 1.0, "crest": -1.0}, CALIPER_SD_MM, -CREST_WEAR_MM)
        case "depth":
            return Row({}, DEPTH_SD_MM, spec.depth_mm + 0.03)
        case _:
            return Row({}, FLAT_SD_MM, spec.crest_flat_mm)


def observe(drive: ScrewDrive, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Nothing of the errors: these readings say which thread it is."""
    return []


def figure(drive: ScrewDrive, place: str) -> Figure:
    """The bare screw, and where on it."""
    return thread_wires_figure(
        0.45 if place == "worn" else 0.94,
        unworn=place != "worn",
        crest=place in ("major", "worn"),
        thickness=place not in ("major", "worn"),
    )


def refusal(drive: ScrewDrive, place: str, raw: float, system: UnitSystem) -> str:
    """Why a figure cannot be any thread's. `raw` in the set-up's own unit."""
    low, high = {
        "turns": (3, 400),
        "crests": (3, 130),
        "major": (3, 150),
        "worn": (3, 150),
        "depth": (0.2, 15),
        "flat": (0, 15),
    }[place]
    return (
        "" if low <= raw <= high else f"from {low:g} to {high:g} mm is what screws have; is the unit right?"
    )


SET_UP = SetUp(
    key="which_thread",
    letter="I",
    short="Which thread",
    title="Which thread is it",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=5,
    wanted=1,
    places=places,
    row=row,
    figure=figure,
    steps=(
        "Measure what can be reached; each figure narrows it.",
        "Hold pitch gauges to the light.",
        "Say what was tried: a tap, a nut, a bar.",
    ),
    cautions=(),
    tells="Which thread it is, with how likely, and what would settle it.",
    cannot_tell="A worn crest looks like a smaller thread: measure where the nut never ran.",
    settles="which thread it is",
    is_proof=False,
    is_size=True,
    is_optional=True,
    view="naming",
    observe=observe,
    refusal=refusal,
    size_band_mm=lambda drive: 1e9,  # lengths of different things: none is odd beside another
    division_mm=drive_division_mm,
)
