"""Routes of shafts, bushes, sleeves, stubs, collars, plugs, keys and pins: they follow from the part's
features.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from trebb.core.machine import Workshop
from trebb.core.making.operations import Row, SizeTarget, material_of, turning_minutes
from trebb.core.making.spindle_routes import sized
from trebb.core.parts.base import Feature, Part, Section
from trebb.core.safety import CHUCK_KEY, CLOTH, DRIFT, DRILLING, HOT_METAL, MILLING, PRESS, STICK_OUT, WHEEL

ROUGH_MM = 1.0
CENTRES, CHUCK = "between centres, driven by a dog", "three-jaw or collet, bar stuck out little"


def speed_words(part: Part, shop: Workshop, dia_mm: float) -> str:
    """Spindle speed for a diameter by the material's cutting speed, the lathe's next below it."""
    rpm = 1000 * material_of(part).speed_m_min / (math.pi * max(1.0, dia_mm))
    return f"{shop.speed_at_most(rpm)} rpm, feed 0.12 mm (5 thou)."


def _turn(part: Part, shop: Workshop, i: int, s: Section, hold: str) -> Row:
    detail = speed_words(part, shop, s.diameter_mm)
    if s.length_mm > 1.2 * s.diameter_mm:
        detail += " Read both ends of it: a difference is taper, set the tailstock over while a cut is left."
    assert s.size is not None
    return (
        f"turn_{i}",
        f"Turn the {s.label}",
        detail,
        hold,
        "turning tool",
        8 + s.length_mm / 15,
        CLOTH,
        "size",
        SizeTarget(s.label, s.size, 1),
    )


def _of(part: Part, *kinds: str) -> list[Feature]:
    return [f for f in part.features if f.kind in kinds]


def _milled(part: Part) -> list[Row]:
    """Keyways, splines, squares and flats, as the part has them."""
    rows: list[Row] = []
    for f in _of(part, "keyway"):
        band = f.size
        target = SizeTarget("keyway's width", band, -1) if band is not None else None
        rows.append(
            (
                "keyway",
                "Plunge the key's seat" if part.construction == "woodruff" else "Mill the keyway",
                "Cutter over the middle by paper and half the diameters; "
                + (
                    f"Woodruff cutter, straight down to its depth, {part.row('key').value}."
                    if part.construction == "woodruff"
                    else "plunge from the crown, then along. A worn cutter leaves it narrow: good."
                ),
                "V-blocks on the mill, stop at the end",
                "slot drill or Woodruff cutter",
                30,
                MILLING,
                "size" if target else "plain",
                target,
            )
        )
    for f in _of(part, "spline"):
        rows += [
            (
                "gang",
                "Set the gang",
                f"Two side mills with a collar of "
                f"{part.row('spline').label.lower()} between them: the "
                "collar is the spline, not the space. Cut a short trial on the spare "
                "blank.",
                "dividing head and tailstock",
                "side mills",
                25,
                MILLING,
                "plain",
            ),
            (
                "spline",
                "Mill the splines",
                f"Index {part.row('index').value}; one space after another, depth from the crown.",
                "dividing head and tailstock",
                "side mills",
                12.0 * f.count,
                MILLING,
                "size",
                SizeTarget("spline's width", part.band("spline"), 1),
            ),
            (
                "ridges",
                "Take the ridges out of the spaces",
                "With a concave cutter, or by hand.",
                "dividing head",
                "concave cutter",
                20,
                MILLING,
                "plain",
            ),
        ]
    for _ in _of(part, "square"):
        if part.bore is None:
            rows.append(
                ("square", "Mill the square", "Flat, index a quarter turn (10 turns of 40:1), the four "
                "alike; creep up on the "
                 "size from two opposite flats.", "dividing head or square "
                 "block", "end mill", 30, MILLING, "size",
                 SizeTarget("square over flats", part.band("square"), 1))
            )  # fmt: skip
    for _ in _of(part, "flats"):
        rows.append(
            (
                "flat",
                "Mill the flat for the set screw",
                "Under the wheel's middle.",
                "V-block",
                "end mill",
                12,
                MILLING,
                "plain",
            )
        )
    return rows


def _shaft(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    """Blank, centres, rough, each fitted diameter, thread, milled features; the cross hole last, in place."""
    largest, rough, two = part.largest_mm, 0.0, "one" not in part.ways
    for s in part.sections:
        rough += turning_minutes(part, largest + 1.5, s.diameter_mm + ROUGH_MM, s.length_mm)
    rows: list[Row] = [
        (
            "blank",
            "Saw two blanks" if two else "Saw the blank",
            "One is the spare: the second costs minutes, a spoilt one the evening."
            if two
            else "One only: a second costs minutes, a spoilt one the evening.",
            "saw vice",
            "saw",
            10,
            "",
            "plain",
        ),
        (
            "centre",
            "Face to length and centre both ends",
            f"{speed_words(part, shop, largest)} Centre drill to half its cone.",
            CHUCK,
            "centre drill",
            15,
            CHUCK_KEY,
            "plain",
        ),
        (
            "rough",
            "Rough every diameter",
            "1 mm (40 thou) left on each, shoulders 0.3 mm (12 thou) short; the longest first.",
            CENTRES,
            "turning tool",
            10 + rough,
            CLOTH,
            "plain",
        ),
    ]
    if material_of(part).key == "alloy_ht":
        rows.append(
            (
                "cool",
                "Let it lie overnight",
                "Roughed bar moves: finish it when it has.",
                "on two V-blocks",
                "none",
                5,
                "",
                "plain",
            )
        )
    rows += [_turn(part, shop, i, s, CENTRES) for i, s in enumerate(part.sections) if s.size is not None]
    rows.append(
        (
            "relief",
            "Undercut the shoulders, break the corners",
            "0.3 mm (12 thou) deep, 1 mm (40 thou) wide; chamfers at both ends.",
            CENTRES,
            "narrow tool",
            10,
            CLOTH,
            "plain",
        )
    )
    for s in part.sections:
        if s.kind == "thread":
            rows.append(
                (
                    "end_thread",
                    f"Cut the thread, {s.label}",
                    "Die started square from the tailstock, backed off every turn; the nut is the gauge.",
                    CHUCK,
                    "die in its holder",
                    15,
                    CHUCK_KEY,
                    "plain",
                )
            )
    rows += _milled(part)
    rows.append(
        (
            "polish",
            "Polish journals, burrs off",
            "A short strip, and little: emery makes a taper of it.",
            CENTRES,
            "fine strip",
            8,
            CLOTH,
            "plain",
        )
    )
    for f in _of(part, "cross_hole", "taper_hole"):
        taper = f.kind == "taper_hole"
        rows.append(
            (
                "index",
                "Index the wheel to its mark",
                "Teeth in mesh, dial at its line, wheel on its seat: scribe across hub and shaft.",
                "in place",
                "scriber",
                15,
                "",
                "plain",
            )
        )
        rows.append(
            (
                "cross",
                "Drill and ream across" if taper else "Drill across",
                "Through hub and shaft "
                "together, centre found on the crown"
                + (
                    "; then the taper reamer by hand from the large side."
                    if taper
                    else "; bonded first where it is bonded."
                ),
                "V-block on the drill, stop at its end",
                "drill, taper reamer" if taper else "drill, reamer",
                25,
                DRILLING,
                "plain",
            )
        )
    return rows


def _plain(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    s = part.sections[0]
    return [
        ("blank", "Saw two blanks", "One is the spare.", "saw vice", "saw", 8, "", "plain"),
        (
            "centre",
            "Face and centre both ends",
            speed_words(part, shop, s.diameter_mm),
            CHUCK,
            "centre drill",
            12,
            CHUCK_KEY,
            "plain",
        ),
        (
            "rough",
            "Rough it",
            "1 mm (40 thou) left.",
            CENTRES,
            "turning tool",
            8 + turning_minutes(part, s.diameter_mm + 1.5, s.diameter_mm + 1, s.length_mm),
            CLOTH,
            "plain",
        ),
        _turn(part, shop, 0, s, CENTRES),
        (
            "polish",
            "Break the corners, polish",
            "A short strip, and little.",
            CENTRES,
            "fine strip",
            8,
            CLOTH,
            "plain",
        ),
    ]


def _stub(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    rows: list[Row] = [
        (
            "hold",
            "Hold the old shaft true",
            "Chuck and collet that read alike mean it is the shaft: bore to the shaft's own middle.",
            "collet or four-jaw, indicator on a journal",
            "indicator",
            20,
            CHUCK_KEY,
            "plain",
        ),
        (
            "bore",
            "Bore the old end",
            "Past the break. An end mill in the tailstock cuts over its size: "
            "measure, and set the hole at "
            "Parts.",
            "collet or four-jaw",
            "boring bar or end mill",
            25,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "spigot",
            "Turn the spigot to the hole",
            "To the hole as measured; a lead of half a millimetre. A flat along it lets the air out.",
            CHUCK,
            "turning tool",
            20,
            CLOTH,
            part,
            "spigot",
            1,
        ),
        sized(
            "end_rough",
            "Turn the new end, left large",
            "0.4 mm (16 thou) over: it is finished in place.",
            CHUCK,
            "turning tool",
            12,
            CLOTH,
            part,
            "end_rough",
            1,
        ),
        (
            "press",
            "Warm the old end, press the stub home",
            "Straight, in one push; let it cool before it is touched.",
            "press or tailstock",
            "press",
            15,
            HOT_METAL,
            "plain",
        ),
        sized(
            "end",
            "Turn the new end in place",
            "Held by the old journals: now it is concentric.",
            "collet or four-jaw, as before",
            "turning tool",
            20,
            CLOTH,
            part,
            "end",
            1,
        ),
    ]
    if any(s.kind == "thread" for s in part.sections):
        rows.append(
            (
                "end_thread",
                "Cut the thread",
                "Die started square from the tailstock.",
                "collet",
                "die",
                12,
                CHUCK_KEY,
                "plain",
            )
        )
    rows.append(
        (
            "pin",
            "Pick up the pin's hole, or pin it anew",
            "Line the reamer in the hub's old hole; a crooked old hole is matched, or one drilled beside it.",
            "V-block",
            "reamer",
            20,
            DRILLING,
            "plain",
        )
    )
    return rows


def _sleeve(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "journal",
            "Turn the worn journal down",
            "Between its old centres; a small radius stays in the corner. Measure it, and set it at Parts.",
            CENTRES,
            "turning tool",
            20,
            CLOTH,
            "plain",
        ),
        (
            "blank",
            "Face and drill the sleeve",
            speed_words(part, shop, part.largest_mm),
            CHUCK,
            "drill",
            12,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "bore",
            "Bore it to the journal as turned",
            "In one setting with its face.",
            CHUCK,
            "boring bar",
            20,
            CHUCK_KEY,
            part,
            "bore",
            -1,
        ),
        sized(
            "outside",
            "Turn its outside, left large",
            "It grows when it is pressed, and is ground after.",
            CHUCK,
            "turning tool",
            10,
            CLOTH,
            part,
            "outside",
            1,
        ),
        (
            "press",
            "Warm the sleeve, press it to the shoulder",
            "Drop on hot, held against the shoulder until it grips.",
            "on end",
            "oven, press",
            15,
            HOT_METAL,
            "plain",
        ),
        sized(
            "finished",
            "Grind it on the shaft",
            "Between the old centres, to the bore it runs in.",
            CENTRES,
            "grinding wheel",
            30,
            WHEEL,
            part,
            "finished",
            1,
        ),
    ]


def bush_rows(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    rows: list[Row] = [
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


def _collar(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    rows: list[Row] = [
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


def _plug(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
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


def _key(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        ("blank", "Cut key stock to length", "And one spare.", "vice", "saw", 5, "", "plain"),
        sized(
            "in_shaft",
            "Bring the lower half to the shaft's slot",
            "Tight: tapped in with a soft hammer.",
            "vice, key block",
            "file or mill",
            20,
            "",
            part,
            "in_shaft",
            1,
        ),
        sized(
            "in_hub",
            "Bring the upper half to the wheel's slot",
            "Slides without rock; blue shows where it bears.",
            "vice, key block",
            "file or mill",
            20,
            "",
            part,
            "in_hub",
            1,
        ),
        (
            "corners",
            "Break the corners, try it at the top",
            "It must not bear on the slot's bottom.",
            "vice",
            "file",
            5,
            "",
            "plain",
        ),
    ]


def _taper_pin(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "out",
            "Drift the old pin out",
            "From its small end; saw a chewed one flush first.",
            "hub in a V",
            "drift",
            10,
            DRIFT,
            "plain",
        ),
        (
            "line",
            "Line hub and shaft",
            "Reamer by hand in the old hole: it turns freely in both, or the hub is turned until it does.",
            "in place",
            "taper reamer",
            8,
            "",
            "plain",
        ),
        sized(
            "mouth",
            "Ream by hand until the mouth is right",
            "A little, clean it, try the pin: it stands out by what is wanted.",
            "in place",
            "taper reamer",
            15,
            "",
            part,
            "mouth",
            -1,
        ),
        (
            "drive",
            "Drive it, cut it to length",
            "Large end up and marked; filed flush where a sleeve could catch.",
            "hub in a V",
            "hammer, file",
            8,
            DRIFT,
            "plain",
        ),
    ]


def _pin(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "index",
            "Index the wheel, bond it if it is loose",
            "Teeth in mesh, mark at its line. Bonded "
            "before it is drilled: loose, it turns and binds the drill.",
            "in place",
            "scriber",
            15,
            "",
            "plain",
        ),
        (
            "drill",
            "Drill across",
            f"{part.row('drill').value}; centre found on the crown.",
            "V-block on the drill",
            "drill",
            12,
            DRILLING,
            "plain",
        ),
        sized(
            "hole",
            "Bring the hole to size",
            "Reamed for a dowel; drilled for a spring or a grooved pin.",
            "V-block",
            "reamer",
            8,
            DRILLING,
            part,
            "hole",
            -1,
        ),
        ("drive", "Drive the pin", "Plain end first; flush.", "hub in a V", "punch", 5, DRIFT, "plain"),
    ]


def _dog(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "bar",
            "Face and turn the thread's diameter",
            speed_words(part, shop, part.largest_mm),
            CHUCK,
            "turning tool",
            8,
            CLOTH,
            "plain",
        ),
        sized(
            "nose",
            "Turn the nose",
            "To its groove, a small radius in the corner.",
            CHUCK,
            "turning tool",
            10,
            CLOTH,
            part,
            "nose",
            1,
        ),
        (
            "end_thread",
            "Cut the thread",
            "Die started square from the tailstock, up to the nose.",
            CHUCK,
            "die",
            10,
            CHUCK_KEY,
            "plain",
        ),
        (
            "slot",
            "Saw the slot, part off",
            "The slot first: a headless screw cannot be held after.",
            "vice, soft jaws",
            "saw, parting tool",
            10,
            STICK_OUT,
            "plain",
        ),
        (
            "burr",
            "Thread run over, corners off",
            "It goes in by the fingers.",
            "vice",
            "file, die",
            5,
            "",
            "plain",
        ),
    ]


ROUTES = {
    "dog_screw": _dog,
    "stepped_shaft": _shaft, "plain_pin": _plain, "stub": _stub, "journal_sleeve": _sleeve, "bush": bush_rows,
    "shaft_bush": bush_rows, "stack_collar": _collar, "square_plug": _plug, "key": _key,
    "taper_pin": _taper_pin,
    "straight_pin": _pin,
}  # fmt: skip
