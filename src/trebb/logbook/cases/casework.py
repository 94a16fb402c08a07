"""The register of cases: which class holds what the core says of an assembly, by its family."""

from __future__ import annotations

from importlib import import_module

from trebb.core.errors import InputError
from trebb.core.machine import MachineKind
from trebb.core.memory.taught import USUAL, Taught
from trebb.core.register import FAMILIES
from trebb.core.survey import AnySetUp, all_set_ups, set_up
from trebb.logbook.cases.case import Case
from trebb.logbook.log.fold import Job

SCREW = "cross_slide"
SPINDLE = "spindle"
# Family of assemblies → module here and class that holds what the core says of one; families whose record
# says how they are judged need no line.
CASES = {
    "": ("case", "Case"),
    "screw_drive": ("drive_case", "DriveCase"),
    "spindle": ("spindle_case", "SpindleCase"),
    "ways": ("bed_case", "WaysCase"),
    "headstock": ("headstock_case", "HeadstockCase"),
    "tailstock": ("bed_case", "TailstockCase"),
    "stand": ("bed_case", "StandCase"),
    "gib": ("gib_case", "GibCase"),
    "tram": ("tram_case", "TramCase"),
    "shaft": ("shaft_case", "ShaftCase"),
    "bore": ("bore_case", "BoreCase"),
    "copied": ("copy_case", "CopyCase"),
}


def case_class(family: str) -> type[Case]:
    """The class of a family's cases, loaded when one of its assemblies is first opened."""
    if family not in CASES and family in FAMILIES and FAMILIES[family].judging:
        from trebb.logbook.cases.piece_case import piece_case

        return piece_case(family)
    module, name = CASES[family]
    found: type[Case] = getattr(import_module(f"trebb.logbook.cases.{module}"), name)
    return found


class Cases:
    """The cases of a job, made as they are asked for; `taught` is what the shop's other jobs taught."""

    def __init__(self, job: Job, taught: Taught = USUAL) -> None:
        self.job = job
        self.taught = taught
        self._made: dict[str, Case] = {}

    @property
    def kind(self) -> MachineKind:
        """The kind of machine."""
        return self.job.machine

    def of(self, assembly: str) -> Case:
        """The case of an assembly. Raises InputError if the machine has no such assembly."""
        family = self.kind.assembly(assembly).family
        made = self._made.get(assembly)
        if made is None or made.family != family:
            made = self._made[assembly] = case_class(family)(self.job, assembly, self)
        return made

    def measurable(self) -> list[Case]:
        """Cases with set-ups, in the machine's order."""
        return [c for a in self.kind.assemblies if a.family and (c := self.of(a.key)).has_set_ups]

    def first(self) -> Case:
        """Where to begin: the number one problem if it can be measured, else the cross-slide screw, else the
        first that can.
        """
        assemblies = {a.key: a for a in self.kind.assemblies}
        # One after another: each family's modules are loaded only when one of its assemblies is looked at.
        wished = [key for key in (self.job.number_one, SCREW) if key in assemblies]
        for key in (*wished, *assemblies):
            if assemblies[key].family and self.of(key).has_set_ups:
                return self.of(key)
        return self.of(self.kind.assemblies[0].key)


def own_set_up(case: Case, key: str) -> AnySetUp:
    """A set-up of an assembly by its key; raises InputError with those it has."""
    found = next((s for s in case.set_ups if s.key == key), None)
    if found is None:
        known = ", ".join(s.key for s in case.set_ups) or "none"
        raise InputError(f"set-up “{key}”", f"set-ups of “{case.assembly_key}” are {known}")
    return found


def set_up_of(key: str) -> AnySetUp:
    """The set-up of a key; raises InputError for another."""
    try:
        return set_up(key)
    except KeyError:
        raise InputError(f"set-up “{key}”", f"known are {', '.join(s.key for s in all_set_ups())}") from None


__all__ = ["CASES", "SCREW", "SPINDLE", "Case", "Cases", "case_class", "own_set_up", "set_up_of"]
