"""What a feed screw's set-ups bound each other by."""

from __future__ import annotations

from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive
from trebb.core.survey.bounding import Bound
from trebb.core.threads import thread_limits

# Push and pull bends what a handwheel does not: that much more may show.
GIVE_MM = 0.025
# Threads of old screws were cut this far outside of any class.
CUT_MM = 0.20
_TURN = "A whole turn or a sign is lost at one of them, or the unit of one is another: read both again."
_WIRES = "Are the wires those that are stated? Measure them, and read the unworn end again."


def bounds(drive: ScrewDrive) -> tuple[Bound, ...]:
    """Push-pull and end float against the lash they are part of; worn threads against the unworn one, and
    that against its class.
    """
    found: list[Bound] = []
    for k in range(1, STATIONS + 1):
        at = f"station {k}"
        lash = ("lash", at)
        found.append(
            Bound(("push_pull", at), lash, "what push and pull find is part of the lash", _TURN, 0.0, GIVE_MM)
        )
        found.append(
            Bound(("end_float", "collar"), lash, "the end float is part of the lash", _TURN, 0.0, GIVE_MM)
        )
    if not drive.measures_wires or drive.gauge == "one_wire":
        return tuple(found)
    unworn = ("thread_size", "wires, unworn")
    found += [
        Bound(
            ("thread_size", f"wires, station {k}"), unworn, "a worn thread is not thicker than unworn", _WIRES
        )
        for k in range(1, STATIONS + 1)
    ]
    band = thread_limits(drive.thread).screw_pitch
    words = f"no {drive.thread.designation} is cut so"
    return (
        *found,
        Bound(unworn, None, words, _WIRES, band.high_mm, CUT_MM),
        Bound(unworn, None, words, _WIRES, band.low_mm, CUT_MM, is_least=True),
    )
