"""Routes of jaw plates, plugs, index plates, and of a cutter that is ground."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.heat import heat_rows
from trebb.core.making.operations import Row, SizeTarget
from trebb.core.making.piece_rows import CHUCK, sized, speed_words
from trebb.core.parts.base import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, DRILLING, MILLING, PRESS, WHEEL


def _jaw(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    steel, hrc = part.ways
    band = part.band("thick")
    rows: list[Row] = [
        *_jaw_blanks(part),
    ]
    if part.construction == "vee":
        rows.append(
            (
                "vee",
                "Mill the vee, both plates in one setting",
                f"{part.row('vee').note}; a relief slot at its ground.",
                "mill vice, tilted",
                "end mill at 45°",
                40,
                MILLING,
                "plain",
            )
        )
    rows += heat_rows(steel, float(hrc), band.middle_mm, 100.0)
    rows += [
        (
            "grind",
            "Grind both together",
            "Backs first, then faces, in one setting on the chuck: a pair.",
            "magnetic chuck",
            "wheel",
            60,
            WHEEL,
            "size",
            SizeTarget("thickness", band, 1, is_diameter=False),
        ),
        (
            "fit",
            "Screw them on, try with a parallel",
            "Seats wiped; screws drawn evenly; a parallel between them pinches at four corners alike.",
            "in place",
            "key",
            15,
            "",
            "plain",
        ),
    ]
    return rows


def _jaw_blanks(part: Part) -> list[Row]:
    return [
        (
            "saw",
            "Saw the pair from one bar",
            "Two alike, and marked inside.",
            "saw vice",
            "saw",
            15,
            "",
            "plain",
        ),
        (
            "mill",
            "Mill all round, square",
            "Six faces; a quarter of a millimetre (10 thou) left a side.",
            "mill vice",
            "end mill",
            60,
            MILLING,
            "plain",
        ),
        (
            "drill",
            "Drill and counterbore",
            f"By the jaw's own holes: transfer screws, not a ruler. {part.row('counterbore').note}.",
            "mill vice",
            "drill, counterbore",
            30,
            DRILLING,
            "plain",
        ),
    ]


def _plug(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "bore",
            "Bore the mark round",
            "End mill or boring head, flat ground; read it several times, set it at Parts.",
            "mill",
            "end mill",
            15,
            MILLING,
            "plain",
        ),
        sized(
            "outside",
            "Turn the plug to the hole",
            "A lead of half a millimetre, a flat for the air.",
            CHUCK,
            "turning tool",
            12,
            CLOTH,
            part,
            "outside",
            1,
        ),
        (
            "part",
            "Part off, a millimetre long",
            speed_words(part, shop, part.largest_mm),
            CHUCK,
            "parting tool",
            5,
            CHUCK_KEY,
            "plain",
        ),
        (
            "press",
            "Press it home",
            "Straight, soft jaw over it; it sits on its ground.",
            "press or vice",
            "press",
            8,
            PRESS,
            "plain",
        ),
        (
            "skim",
            "Skim it flush",
            "With the top, or filed and scraped.",
            "mill",
            "fly cutter or file",
            15,
            MILLING,
            "plain",
        ),
    ]


ROUTES = {"jaw_plate": _jaw, "hole_plug": _plug}
