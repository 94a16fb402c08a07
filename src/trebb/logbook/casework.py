"""The register of cases: which class holds what the core says of an assembly, by its family."""

from __future__ import annotations

from trebb.core.errors import InputError
from trebb.core.machine import MachineKind, kind_of
from trebb.core.survey import SET_UPS, AnySetUp, set_up
from trebb.logbook.bed_case import BedCase, HeadstockCase, StandCase, TailstockCase, WaysCase
from trebb.logbook.case import Case
from trebb.logbook.drive_case import DriveCase
from trebb.logbook.fold import Job
from trebb.logbook.gib_case import GibCase
from trebb.logbook.measured_case import MeasuredCase
from trebb.logbook.spindle_case import SpindleCase
from trebb.logbook.tram_case import TramCase

SCREW = "cross_slide"
SPINDLE = "spindle"
CASES: dict[str, type[Case]] = {
    c.family: c
    for c in (
        Case,
        DriveCase,
        SpindleCase,
        WaysCase,
        HeadstockCase,
        TailstockCase,
        StandCase,
        GibCase,
        TramCase,
    )
}


class Cases:
    """The cases of a job, made as they are asked for."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self._made: dict[str, Case] = {}

    @property
    def kind(self) -> MachineKind:
        """The kind of machine."""
        return kind_of(self.job.kind_key)

    def of(self, assembly: str) -> Case:
        """The case of an assembly. Raises InputError if the machine has no such assembly."""
        if assembly not in self._made:
            family = self.kind.assembly(assembly).family
            self._made[assembly] = CASES[family](self.job, assembly, self)
        return self._made[assembly]

    def measurable(self) -> list[Case]:
        """Cases with set-ups, in the machine's order."""
        return [self.of(a.key) for a in self.kind.assemblies if a.family]

    def first(self) -> Case:
        """Where to begin: the number one problem if it can be measured, else the cross-slide screw, else the
        first that can.
        """
        found = {c.assembly_key: c for c in self.measurable()}
        for key in (self.job.number_one or "", SCREW):
            if key in found:
                return found[key]
        return next(iter(found.values()))


def drive_case(job: Job, assembly: str = SCREW) -> DriveCase:
    """The case of a feed screw. Raises InputError for an assembly that is none."""
    case = Cases(job).of(assembly)
    if not isinstance(case, DriveCase):
        raise InputError(f"assembly “{assembly}”", "it is not a feed screw")
    return case


def set_up_of(key: str) -> AnySetUp:
    """The set-up of a key; raises InputError for another."""
    try:
        return set_up(key)
    except KeyError:
        raise InputError(f"set-up “{key}”", f"known are {', '.join(s.key for s in SET_UPS)}") from None


__all__ = [
    "CASES",
    "SCREW",
    "SPINDLE",
    "BedCase",
    "Case",
    "Cases",
    "DriveCase",
    "GibCase",
    "HeadstockCase",
    "MeasuredCase",
    "SpindleCase",
    "TailstockCase",
    "TramCase",
    "drive_case",
    "set_up_of",
]
