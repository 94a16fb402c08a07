"""The route of an index plate."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row, SizeTarget
from trebb.core.making.piece_rows import sized
from trebb.core.parts.base import Part
from trebb.core.safety import CHUCK_KEY, DRILLING


def _index(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    holes = str(part.row("holes").value)
    return [
        *_index_holes(part, holes),
        (
            "close",
            "Back to the first hole: the pin must go in",
            "If it does not, a hole was missed: count before anything else.",
            "as before",
            "close pin",
            5,
            "",
            "plain",
        ),
        (
            "chamfer",
            "Chamfer each for the detent, stamp numbers",
            "A light touch, all to one stop.",
            "drill",
            "countersink, stamps",
            30,
            DRILLING,
            "plain",
        ),
        (
            "blue",
            "Blue it, twice",
            "Polished, warmed until it is blue, oiled.",
            "hot plate",
            "oil",
            25,
            "Hot metal and oil: outdoors.",
            "plain",
        ),
    ]


def _index_holes(part: Part, holes: str) -> list[Row]:
    return [
        sized(
            "bore",
            "Turn a face, bore",
            "One setting: everything after is from this bore.",
            "faceplate or four-jaw",
            "boring bar",
            35,
            CHUCK_KEY,
            part,
            "bore",
            -1,
        ),
        (
            "centre",
            "On the head, bore indicated",
            "To a hundredth (half a thou): it goes once a turn into every hole.",
            "dividing head or rotary table",
            "indicator",
            15,
            "",
            "plain",
        ),
        (
            "drill",
            f"Centre, drill and ream {holes} holes: {part.row('step').value}",
            "Each hole finished before the next, table locked, head always come to from one side. Count "
            "at the half.",
            "dividing head or rotary table",
            "centre drill, drill, reamer",
            4.0 * float(holes) + 15,
            DRILLING,
            "size",
            SizeTarget("hole", part.band("hole"), -1),
        ),
    ]


ROUTES = {"index_plate": _index}
