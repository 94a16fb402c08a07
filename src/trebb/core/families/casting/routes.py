"""Routes of what a casting's repair wants; the mandrel's ends with the brazing itself."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.families.casting.findings import cooling_hours, preheat_c
from trebb.core.families.casting.subject import Casting
from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row
from trebb.core.making.piece_rows import CENTRES, CHUCK, sized, speed_words
from trebb.core.parts.base import Part
from trebb.core.safety import BRAZING, CHUCK_KEY, CLOTH, DRILLING, HOT_METAL, MILLING


def _of(subject: Any) -> Casting:
    return subject if isinstance(subject, Casting) else Casting()


def _mandrel(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    casting = _of(subject)
    low, high = preheat_c(casting)
    hours = cooling_hours(casting)
    return [
        *_mandrel_set(part, shop),
        (
            "preheat",
            f"Warm it all through, {low} to {high} °C",
            "Slowly, from all sides: a crayon or a pyrometer says "
            "when, not the eye. Thin and thick parts alike.",
            "fire bricks",
            "torch, crayon",
            40,
            BRAZING,
            "plain",
        ),
        (
            "braze",
            "Tin the groove, then fill it",
            "Flux as its sheet says; short runs, each let soak; peened lightly while hot.",
            "fire bricks",
            "torch, bronze rod",
            30,
            BRAZING,
            "plain",
        ),
        (
            "cool",
            f"Bury it in dry sand or lime, {hours:.0f} hours",
            "No draught, no water. It cracks in the last hundred degrees.",
            "box of dry sand",
            "none",
            10,
            HOT_METAL,
            "plain",
        ),
        (
            "out",
            "Mandrel out, dress it, chalk it again",
            "Knocked out straight. Nothing must draw; bore and seat are read again before it is machined.",
            "press",
            "drift, file",
            20,
            "",
            "plain",
        ),
    ]


def _mandrel_set(part: Part, shop: Workshop) -> list[Row]:
    return [
        (
            "blank",
            "Saw, face and centre",
            speed_words(part, shop, part.largest_mm),
            CHUCK,
            "centre drill",
            12,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "mandrel",
            "Turn it to slide in the bore, cold",
            "A lead at both ends; graphite or chalk rubbed in.",
            CENTRES,
            "turning tool",
            15,
            CLOTH,
            part,
            "mandrel",
            1,
        ),
        (
            "groove",
            "Stop-drill both ends, groove the crack",
            "A 3 mm (1/8 in) hole past either end. A vee of 90°, two thirds through; from both sides "
            "over 12 mm (1/2 in) "
            "of section. Filed bright: grinding smears graphite over it.",
            "vice",
            "file, burr",
            45,
            DRILLING,
            "plain",
        ),
        (
            "hold",
            "Mandrel in, clamp it in line",
            "On a plate or its own machine's face, so that bore and seat stand as they were; clamps "
            "that let it grow.",
            "plate",
            "clamps",
            20,
            "",
            "plain",
        ),
    ]


def _strap(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        ("saw", "Saw and square the strap", f"{part.stock_words}.", "vice", "saw, file", 20, "", "plain"),
        (
            "seat",
            "Flatten its seat on the casting",
            "Milled, or filed to blue: it bears all over.",
            "mill or vice",
            "end mill or file",
            30,
            MILLING,
            "plain",
        ),
        (
            "stop",
            "Stop-drill the crack's ends",
            "Past where it draws.",
            "drill",
            "3 mm (1/8 in) drill",
            10,
            DRILLING,
            "plain",
        ),
        (
            "drill",
            f"Drill the strap, spot the casting through it: {part.row('screws').value}",
            "One hole, tap, screw home; then the next, so that they line up.",
            "clamped in place",
            "drill, tap",
            45,
            DRILLING,
            "plain",
        ),
        (
            "fit",
            "Draw it down from the middle",
            "Sealer under it where oil stands behind.",
            "in place",
            "key",
            10,
            "",
            "plain",
        ),
    ]


def _stitch(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "cut",
            "Cut the screws",
            f"{part.row('many').value} of them, from bar or rod.",
            "lathe or vice",
            "die, saw",
            30,
            CHUCK_KEY,
            "plain",
        ),
        (
            "ends",
            "Drill and tap past both ends",
            "They stop it.",
            "drill",
            "drill, tap",
            20,
            DRILLING,
            "plain",
        ),
        (
            "every",
            "Every second hole: drill, tap, screw in, saw off, peen",
            "Sealer on the thread; peened over its rim.",
            "drill, vice",
            "drill, tap, ball hammer",
            60,
            DRILLING,
            "plain",
        ),
        (
            "between",
            "Then between them, a third into either",
            "The drill wants to run off: a centre drill first, short.",
            "drill",
            "centre drill, drill, tap",
            60,
            DRILLING,
            "plain",
        ),
        ("dress", "File flush, chalk it again", "Nothing must draw.", "vice", "file", 20, "", "plain"),
    ]


ROUTES = {"bore_mandrel": _mandrel, "strap": _strap, "stitch_screw": _stitch}
