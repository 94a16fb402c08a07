"""Routes of jaw plates, plugs, index plates, and of a cutter that is ground."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine import Workshop
from trebb.core.machine.cutter import Cutter
from trebb.core.making.heat import heat_rows
from trebb.core.making.operations import Row, SizeTarget
from trebb.core.making.piece_rows import CHUCK, speed_words
from trebb.core.making.spindle_routes import sized
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


ROUTES = {"jaw_plate": _jaw, "hole_plug": _plug, "index_plate": _index, "cutter_grind": _ground}
