"""Kinds of machine: their assemblies, their elevation, their rated limits; the lathe that makes the parts."""

from trebb.core.machine.kinds import KINDS, Assembly, MachineKind, kind_of, with_added
from trebb.core.machine.limits import CLASS_LIMITS, RatedLimit, State, class_limit, judged, state_of

__all__ = [
    "CLASS_LIMITS",
    "KINDS",
    "Assembly",
    "MachineKind",
    "RatedLimit",
    "State",
    "class_limit",
    "judged",
    "kind_of",
    "state_of",
    "with_added",
]
