"""Routes of shafts, stubs and sleeves of journals."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row, material_of, turning_minutes
from trebb.core.making.piece_rows import (
    CENTRES,
    CHUCK,
    ROUGH_MM,
    features_of,
    milled,
    sized,
    speed_words,
    turned,
)
from trebb.core.parts.base import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, DRILLING, HOT_METAL, PRESS, WHEEL


def _shaft(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    """Blank, centres, rough, each fitted diameter, thread, milled features; the cross hole last, in place."""
    return [*_blanks(part, shop), *_finished(part, shop), *_across(part)]


def _blanks(part: Part, shop: Workshop) -> list[Row]:
    """To the roughed blank."""
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
    return rows


def _finished(part: Part, shop: Workshop) -> list[Row]:
    """From the roughed blank to the polished shaft."""
    rows = [turned(part, shop, i, s, CENTRES) for i, s in enumerate(part.sections) if s.size is not None]
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
    rows += milled(part)
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
    return rows


def _across(part: Part) -> list[Row]:
    """Holes across wheel and shaft, drilled with the wheel in its place."""
    rows: list[Row] = []
    for f in features_of(part, "cross_hole", "taper_hole"):
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
        turned(part, shop, 0, s, CENTRES),
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
    is_cold = part.construction == "cold"
    rows: list[Row] = [
        *_stub_turned(part),
        (
            "press",
            "Press the stub home, cold" if is_cold else "Warm the old end, press the stub home",
            "Straight, in one push; warmed so far the old end would lose its temper."
            if is_cold
            else "Straight, in one push; let it cool before it is touched.",
            "press or tailstock",
            "press",
            15,
            PRESS if is_cold else HOT_METAL,
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


def _stub_turned(part: Part) -> list[Row]:
    return [
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
    ]


def _sleeve(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        *_sleeve_turned(part, shop),
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


def _sleeve_turned(part: Part, shop: Workshop) -> list[Row]:
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
    ]


ROUTES = {
    "stepped_shaft": _shaft,
    "plain_pin": _plain,
    "fitted_pin": _plain,
    "stub": _stub,
    "journal_sleeve": _sleeve,
}
