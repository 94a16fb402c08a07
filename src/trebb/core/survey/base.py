"""What every set-up says of itself."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum

from trebb.core.condition import Row
from trebb.core.figure import Figure
from trebb.core.machine import ScrewDrive


class InstrumentKind(Enum):
    """What is read. `HANDWHEEL` is the machine's own dial, read by eye in divisions."""

    HANDWHEEL = "handwheel dial"
    INDICATOR = "dial indicator"
    MICROMETER = "micrometer"
    CALIPER = "depth caliper or travel readout"


@dataclass(frozen=True)
class Place:
    """One place of a set-up; `note` says where that is."""

    key: str
    label: str
    note: str = ""


@dataclass(frozen=True)
class SetUp:
    """A way to take readings.

    Parameters
    ----------
    unit : "mm" or "div", what a raw reading is stored in.
    resolution_mm : finest step of the usual instrument, mm; divisions are
        estimated to half a division.
    minutes : bench time of one place once set up; `setting_minutes` to set up.
    wanted : readings wanted at each place.
    row(drive, place) : how the reduced reading depends on the sources, mm.
    reduce(drive, place, raw) : raw reading to the row's mm.
    restore(drive, place, mm) : the inverse, for the simulated machine.
    is_proof : taken again after the repair.
    """

    key: str
    letter: str
    title: str
    instrument: InstrumentKind
    unit: str
    resolution_mm: float
    minutes: float
    setting_minutes: float
    wanted: int
    places: Callable[[ScrewDrive], tuple[Place, ...]]
    row: Callable[[ScrewDrive, str], Row]
    figure: Callable[[ScrewDrive, str], Figure]
    steps: tuple[str, ...]
    cautions: tuple[str, ...]
    tells: str
    cannot_tell: str
    settles: str
    family: str = "screw_drive"
    is_proof: bool = True
    reduce: Callable[[ScrewDrive, str, float], float] = lambda drive, place, raw: raw
    restore: Callable[[ScrewDrive, str, float], float] = lambda drive, place, value: value
    is_size: bool = False

    def place(self, drive: ScrewDrive, key: str) -> Place:
        """The place of that key; raises KeyError for another."""
        for place in self.places(drive):
            if place.key == key:
                return place
        raise KeyError(key)


def station_places(drive: ScrewDrive) -> tuple[Place, ...]:
    """The five stations along the travel."""
    names = {1: "handwheel end", 3: "middle", 5: "far end"}
    return tuple(Place(f"station {k}", f"Station {k}", names.get(k, "")) for k in range(1, 6))


def station_of(place: str) -> int:
    """Number of a station place, "station 3" → 3."""
    return int(place.rsplit(" ", 1)[1])
