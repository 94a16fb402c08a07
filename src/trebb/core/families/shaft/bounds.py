"""What a shaft's set-ups bound each other by."""

from __future__ import annotations

from trebb.core.families.shaft.sizes import BESIDE
from trebb.core.families.shaft.subject import SEATS, Shaft
from trebb.core.survey.bounding import Bound

# A wheel's seat may be pressed into its bore by so much; a journal that runs is not.
PRESSED_MM = 0.10
# A worn seat is out of round, and a burr stands on it: so much over the metal beside it in one direction.
BURR_MM = 0.02
# What oil, a bent wire or a bearing that gives lets a push show beyond bore less journal.
GIVE_MM = 0.04
ACROSS = ("0°", "90°")
_SIZE = "One of the two sizes was misread, by a turn or a digit, or belongs to another part: read both again."
_PUSHED = "Did the whole bearing move under the push, or was a size misread? Read all three again."


def bounds(shaft: Shaft) -> tuple[Bound, ...]:
    """Seats against their bores and the metal beside them; what is felt against the room there is."""
    found = []
    for seat in SEATS:
        bore, runs = ("shaft_mates", seat), seat != "seat"
        for across in ACROSS:
            size = ("shaft_sizes", f"{seat}, {across}")
            found += [
                Bound(
                    size,
                    bore,
                    "what runs in a bore is not larger than it" if runs else "no press takes up so much",
                    _SIZE,
                    allowed_mm=0.0 if runs else PRESSED_MM,
                ),
                Bound(
                    size,
                    ("shaft_sizes", f"{seat}, {BESIDE}"),
                    "a worn seat is not thicker than the unworn metal beside it",
                    _SIZE,
                    allowed_mm=BURR_MM,
                ),
            ]
            if runs:
                room = "what is felt is not more than bore less journal"
                felt = ("shaft_push", seat)
                found.append(Bound(felt, bore, room, _PUSHED, allowed_mm=GIVE_MM, less=size))
    return tuple(found)
