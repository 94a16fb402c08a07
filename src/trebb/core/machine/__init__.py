"""Kinds of machine: their assemblies, their elevation, their rated limits, and what screw, spindle, bed,
slide and head are made of.
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

from trebb.core.machine.kinds import KINDS, Assembly, MachineKind, kind_of, with_added
from trebb.core.machine.limits import CLASS_LIMITS, RatedLimit, State, class_limit, judged, state_of

if TYPE_CHECKING:
    from trebb.core.machine.bed import Bed, bed_model
    from trebb.core.machine.screw_drive import (
        STATIONS,
        USUAL_DRIVES,
        ScrewDrive,
        drive_model,
        once_a_turn,
        wear_key,
    )
    from trebb.core.machine.slide import Slide, slide_model
    from trebb.core.machine.spindle import Spindle, spindle_model
    from trebb.core.machine.tram import Tram, tram_model
    from trebb.core.machine.workshop import Workshop, ratio_from, wheels_from

# What stands where: a subject is loaded when it is first named.
_WHERE = {
    "Bed": "bed",
    "bed_model": "bed",
    "STATIONS": "screw_drive",
    "USUAL_DRIVES": "screw_drive",
    "ScrewDrive": "screw_drive",
    "drive_model": "screw_drive",
    "once_a_turn": "screw_drive",
    "wear_key": "screw_drive",
    "Slide": "slide",
    "slide_model": "slide",
    "Spindle": "spindle",
    "spindle_model": "spindle",
    "Tram": "tram",
    "tram_model": "tram",
    "Workshop": "workshop",
    "ratio_from": "workshop",
    "wheels_from": "workshop",
}


def __getattr__(name: str) -> Any:
    if name not in _WHERE:
        raise AttributeError(name)
    return getattr(import_module(f"trebb.core.machine.{_WHERE[name]}"), name)


__all__ = [
    "CLASS_LIMITS",
    "KINDS",
    "STATIONS",
    "USUAL_DRIVES",
    "Assembly",
    "Bed",
    "MachineKind",
    "RatedLimit",
    "ScrewDrive",
    "Slide",
    "Spindle",
    "State",
    "Tram",
    "Workshop",
    "bed_model",
    "class_limit",
    "drive_model",
    "judged",
    "kind_of",
    "once_a_turn",
    "ratio_from",
    "slide_model",
    "spindle_model",
    "state_of",
    "tram_model",
    "wear_key",
    "wheels_from",
    "with_added",
]
