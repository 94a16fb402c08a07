"""Kinds of machine: their assemblies, their elevation, their rated limits, and what a feed screw is made of."""

from trebb.core.machine.kinds import KINDS, Assembly, MachineKind, kind_of
from trebb.core.machine.limits import CLASS_LIMITS, RatedLimit, State, class_limit, state_of
from trebb.core.machine.screw_drive import STATIONS, ScrewDrive, drive_model, wear_key
from trebb.core.machine.spindle import Spindle, spindle_model
from trebb.core.machine.workshop import MATERIALS, Material, Workshop, material

__all__ = [
    "CLASS_LIMITS",
    "KINDS",
    "MATERIALS",
    "STATIONS",
    "Assembly",
    "MachineKind",
    "Material",
    "RatedLimit",
    "ScrewDrive",
    "Spindle",
    "State",
    "Workshop",
    "class_limit",
    "drive_model",
    "kind_of",
    "material",
    "spindle_model",
    "state_of",
    "wear_key",
]
