"""What a bore's set-ups bound each other by."""

from __future__ import annotations

from trebb.core.families.bore.gauge import RIDGE
from trebb.core.families.bore.subject import ANGLES, DEPTHS, Bore
from trebb.core.survey.angles import angle_words
from trebb.core.survey.bounding import Bound

# A bore that was squeezed oval, or galled, is less than its unworn metal by so much in one direction.
OVAL_MM = 0.05
# What is held fast is pressed in by so much; what runs is read in other directions than its bore.
PRESSED_MM, ROUND_MM = 0.15, 0.01
# What a push finds beyond the room there is: oil, and what gives under the hand.
GIVE_MM = 0.04
_SIZE = "One of the two sizes was misread, by a turn or a digit: read both again."
_PUSHED = "Did the housing move under the push, or was a size misread? Read all three again."


def bounds(bore: Bore) -> tuple[Bound, ...]:
    """The unworn ridge against every place, the mate against the bore, what is felt against the room."""
    fixed = bore.use == "fixed"
    found = []
    for depth in DEPTHS:
        for angle in ANGLES:
            at = ("bore_gauge", f"{depth}, {angle_words(angle)}")
            found.append(
                Bound(
                    ("bore_gauge", RIDGE),
                    at,
                    "unworn metal is not wider than worn",
                    _SIZE,
                    allowed_mm=OVAL_MM,
                )
            )
            for across in ("0°", "90°"):
                mate = ("bore_mate", across)
                words = "no press takes up so much" if fixed else "what runs in a bore is not larger than it"
                allowed = PRESSED_MM if fixed else ROUND_MM
                found.append(Bound(mate, at, words, _SIZE, allowed_mm=allowed))
                if depth == "mouth":
                    room = "what is felt is not more than bore less mate"
                    felt = ("bore_push", "mouth")
                    found.append(Bound(felt, at, room, _PUSHED, allowed_mm=GIVE_MM, less=mate))
    return tuple(found)
