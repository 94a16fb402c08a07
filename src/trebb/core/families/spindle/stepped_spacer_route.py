"""The route of a stepped spacer: everything that must run true in one setting."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.making.operations import Row, turning_minutes
from trebb.core.making.piece_rows import sized
from trebb.core.parts import Part
from trebb.core.safety import CHUCK_KEY, CLOTH


def _route(part: Part, subject: Any, shop: Any) -> Sequence[Row]:
    step = part.sections[1]
    rough = turning_minutes(part, part.largest_mm + 2, step.diameter_mm, step.length_mm)
    chuck, bar = "three-jaw, bar stuck out", "turning tool"
    return [
        ("face", "Face, drill through", "Drill 1 mm under the hole.", chuck, "drill", 8, CHUCK_KEY, "plain"),
        ("rough", "Rough flange and step", "0.4 mm left on the step.", chuck, bar, 5 + rough, CLOTH, "plain"),
        sized("step", "Turn the step", "Same setting.", chuck, bar, 8, CLOTH, part, "step", 1),
        sized("hole", "Bore the hole", "Same setting.", chuck, "boring bar", 12, "", part, "hole", -1),
        ("part", "Part off, facing left", "Stick-out short.", chuck, "parting tool", 6, "", "plain"),
        sized(
            "flange", "Face the flange to the gap", "On a mandrel or in soft jaws, a little at a time.",
            "soft jaws on the step", "facing tool", 10, CHUCK_KEY, part, "flange", 1,
        ),
    ]  # fmt: skip


ROUTES = {"stepped_spacer": _route}
