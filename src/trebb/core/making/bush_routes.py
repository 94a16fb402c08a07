"""Routes of bushes, stacked collars and plugs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row
from trebb.core.making.piece_rows import CHUCK, sized, speed_words
from trebb.core.parts.base import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, DRILLING, MILLING, PRESS, STICK_OUT


def bush_rows(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    rows: list[Row] = [
        *_bush_turned(part, shop),
    ]
    if any(f.kind == "groove" for f in part.features):
        rows.append(
            (
                "groove",
                "Cut the oil groove",
                "Off both ends; burrs scraped out.",
                CHUCK,
                "round-nosed tool",
                15,
                CHUCK_KEY,
                "plain",
            )
        )
    rows += [
        ("part", "Part off, chamfer", "Stick-out short.", CHUCK, "parting tool", 8, STICK_OUT, "plain"),
        (
            "press",
            "Press it in",
            "Soft packing, no precision parallels; square by a guide, oil on it. "
            "Chill it if the press is small.",
            "press",
            "guide mandrel",
            12,
            PRESS,
            "plain",
        ),
        sized(
            "reamed",
            "Ream it in place",
            "In line with its fellow: one long reamer, or a pilot in the other bore.",
            "in place",
            "reamer",
            15,
            "",
            part,
            "reamed",
            -1,
        ),
        (
            "oil",
            "Drill the oil hole through",
            "After pressing; burrs out with a scraper.",
            "in place",
            "drill",
            8,
            DRILLING,
            "plain",
        ),
    ]
    return rows


def _bush_turned(part: Part, shop: Workshop) -> list[Row]:
    return [
        (
            "housing",
            "Bore the housing true",
            "From its unworn end; indicate that first. Read it several times, and set it at Parts.",
            "boring head, or the lathe's faceplate",
            "boring tool",
            40,
            CHUCK_KEY,
            "plain",
        ),
        (
            "blank",
            "Face and drill the bush",
            f"{speed_words(part, shop, part.largest_mm)} One bar for bush and spare.",
            CHUCK,
            "drill",
            12,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "before",
            "Bore it, before pressing",
            "It closes when it goes in: this is the size for that.",
            CHUCK,
            "boring bar",
            18,
            CHUCK_KEY,
            part,
            "before",
            -1,
        ),
        sized(
            "outside",
            "Turn the outside to the housing as measured",
            "Same setting. A lead of a degree at the end that goes in.",
            CHUCK,
            "turning tool",
            15,
            CLOTH,
            part,
            "outside",
            1,
        ),
    ]


def _collar(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    rows: list[Row] = [
        *_collar_turned(part, shop),
    ]
    if part.construction == "set_screw":
        rows.append(
            (
                "tap",
                "Drill and tap for the set screw",
                "In the collar's middle; a brass pad under the screw.",
                "drill vice",
                "tap",
                12,
                DRILLING,
                "plain",
            )
        )
    if part.construction == "split":
        rows.append(
            (
                "slit",
                "Drill and tap for the clamp, then slit it",
                "Slit last: it opens.",
                "mill vice",
                "slitting saw",
                25,
                MILLING,
                "plain",
            )
        )
    rows.append(
        sized(
            "faced",
            "Face it to the stack",
            "On a mandrel, a little at a time, tried in place.",
            "mandrel between centres",
            "facing tool",
            15,
            CLOTH,
            part,
            "faced",
            1,
        )
    )
    return rows


def _collar_turned(part: Part, shop: Workshop) -> list[Row]:
    return [
        (
            "blank",
            "Face, drill, turn the outside",
            speed_words(part, shop, part.largest_mm),
            CHUCK,
            "turning tool",
            15,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "bore",
            "Bore it",
            "In one setting with its first face.",
            CHUCK,
            "boring bar",
            12,
            CHUCK_KEY,
            part,
            "bore",
            -1,
        ),
        (
            "part",
            "Part off, a little wide",
            "Wide by what the stack asks, and the facing cut.",
            CHUCK,
            "parting tool",
            8,
            STICK_OUT,
            "plain",
        ),
    ]


def _plug(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        *_plug_turned(part),
        sized(
            "square",
            "Broach the square",
            "In a guide, square to the face; oil, and back it out for chips.",
            "press",
            "square broach",
            20,
            PRESS,
            part,
            "square",
            -1,
        ),
        (
            "press",
            "Press it into the hub",
            "Flats to the old handle's marks.",
            "press",
            "press",
            10,
            PRESS,
            "plain",
        ),
        (
            "pin",
            "Pin it across",
            "Through hub and plug, flush.",
            "V-block",
            "drill, reamer",
            12,
            DRILLING,
            "plain",
        ),
    ]


def _plug_turned(part: Part) -> list[Row]:
    return [
        (
            "hub",
            "Bore the worn socket round",
            "To its own middle by the hub's outside. Measure it, and set it at Parts.",
            "four-jaw",
            "boring bar",
            25,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "outside",
            "Turn the plug",
            "To the hub as bored.",
            CHUCK,
            "turning tool",
            15,
            CLOTH,
            part,
            "outside",
            1,
        ),
        (
            "drill",
            "Drill it through",
            f"{part.row('drill').value}, the square's inside circle.",
            CHUCK,
            "drill",
            8,
            CHUCK_KEY,
            "plain",
        ),
    ]


ROUTES = {"bush": bush_rows, "shaft_bush": bush_rows, "stack_collar": _collar, "square_plug": _plug}
