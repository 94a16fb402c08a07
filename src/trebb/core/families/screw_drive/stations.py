"""Where along a screw's travel something is read, in its dial's divisions."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.survey.base import Place


def station_places(drive: ScrewDrive) -> tuple[Place, ...]:
    """The five stations along the travel."""
    names = {1: drive.end_names[0], 3: "middle", 5: drive.end_names[1]}
    return tuple(Place(f"station {k}", f"Station {k}", names.get(k, "")) for k in range(1, 6))


def drive_division_mm(drive: ScrewDrive) -> float:
    """Slide travel of one division of the handwheel's dial."""
    return drive.dial.division_mm


def beyond_travel(drive: ScrewDrive, place: str, raw_mm: float) -> str:
    """Why a play cannot be: more than the slide moves at all."""
    return (
        "that is more than the slide's whole travel; is the unit right?" if raw_mm > drive.travel_mm else ""
    )
