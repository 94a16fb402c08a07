"""The route of a cutter ground anew."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.families.cutter.subject import Cutter
from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row, SizeTarget
from trebb.core.parts.base import Part
from trebb.core.safety import WHEEL


def _ground(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    cutter = subject if isinstance(subject, Cutter) else Cutter()
    rows: list[Row] = [
        (
            "centres",
            "Clean its centres, set it between them",
            "As it was made. Indicator on its shank: true to half a hundredth.",
            "grinder's centres",
            "indicator",
            15,
            "",
            "plain",
        ),
        (
            "rest",
            "Line up the first flute on the tooth rest",
            "Edge level with the axis; backed off by raising the wheel.",
            "tooth rest",
            "indicator",
            15,
            "",
            "plain",
        ),
    ]
    for k in range(1, cutter.count + 1):
        size = part.row(f"flute.{k}").value
        stands = isinstance(size, float) and size > 0
        high = "It is read as standing high" if stands else "It is the lowest, or not read"
        rows.append(
            (
                f"flute_{k}",
                f"Flute {k}: grind its back to the same stop",
                f"{high}: spark out, no burning, wheel dressed.",
                "tooth rest",
                "cup wheel",
                6,
                WHEEL,
                "plain",
            )
        )
    rows.append(
        (
            "over",
            "Read it again, over the flutes and in its holder",
            "Every edge within three microns (a tenth).",
            "holder",
            "indicator, micrometer",
            10,
            "",
            "size",
            SizeTarget("size over the flutes", part.band("dia"), 1, is_diameter=False),
        )
    )
    return rows


ROUTES = {"cutter_grind": _ground}
