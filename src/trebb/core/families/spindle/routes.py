"""Routes of the parts of a spindle."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row
from trebb.core.making.piece_rows import sized
from trebb.core.parts import Part
from trebb.core.safety import (
    CHUCK_KEY,
    CLOTH,
    HOT_METAL,
    PRESS,
    RETAINING,
    SOLVENT,
    STICK_OUT,
    STOP_BAR,
    WHEEL,
)


def _spacer(part: Part, spindle: Any, shop: Workshop) -> Sequence[Row]:
    return [
        *_spacer_turned(),
        sized(
            "outer",
            "Grind the outer spacer to length",
            "Wait until it is cold.",
            "surface grinder",
            "wheel",
            20,
            WHEEL,
            part,
            "outer",
            1,
        ),
        sized(
            "inner",
            "Grind the inner spacer to length",
            "In the same setting as the outer, then the difference more on the shorter.",
            "surface grinder",
            "wheel",
            25,
            WHEEL,
            part,
            "inner",
            1,
        ),
        (
            "stone",
            "Break edges, stone, wash; check parallel",
            "On a plate under the tenths indicator.",
            "surface plate",
            "stone, indicator",
            15,
            "",
            "plain",
        ),
    ]


def _spacer_turned() -> list[Row]:
    return [
        (
            "turn",
            "Turn both from one piece, bore and outside",
            "Leave 0.2 mm (8 thou) on each length.",
            "three-jaw, then a mandrel",
            "boring bar",
            50,
            CHUCK_KEY,
            "plain",
        ),
        (
            "part",
            "Part both off, and a spare of each",
            "Mark which is inner and which outer.",
            "mandrel between centres",
            "parting tool",
            25,
            STICK_OUT,
            "plain",
        ),
        (
            "grind_one",
            "Grind one face of all",
            "Flat on the chuck without rocking.",
            "surface grinder",
            "wheel",
            25,
            WHEEL,
            "plain",
        ),
    ]


def _sleeve(part: Part, spindle: Any, shop: Workshop) -> Sequence[Row]:
    bored = part.construction == "inside"
    ring = (
        "hard",
        "Test hardness with a file; look for an earlier sleeve",
        "Ring it with a fingernail and blue. A hard journal is ground, not turned.",
        "bench",
        "fine file",
        10,
        "",
        "plain",
    )
    return [
        ring,
        *_sleeve_turned(part, bored),
        (
            "on",
            "Warm the outer, drop it on",
            "Heat and chill are in the sizes; one push, no stopping half way.",
            "oven, gloves",
            "",
            20,
            f"{HOT_METAL} {PRESS}",
            "plain",
        ),
        sized(
            "finish",
            "Finish in place",
            "When it is cold all through: an hour at least.",
            "own centres" if not bored else "own bore",
            "finishing tool or grinder",
            40,
            CLOTH if not bored else CHUCK_KEY,
            part,
            "finished",
            -1 if bored else 1,
        ),
    ]


def _sleeve_turned(part: Part, bored: bool) -> list[Row]:
    return [
        sized(
            "seat",
            "Bore the seat out" if bored else "Turn the seat down",
            "Indicate on metal the bearing never touched. Measure at three places, also for taper: the "
            "sleeve follows this size.",
            "own bore" if bored else "between centres",
            "boring bar" if bored else "sharp finishing tool",
            50,
            CHUCK_KEY if bored else CLOTH,
            part,
            "seat",
            -1 if bored else 1,
        ),
        (
            "rough",
            "Rough the sleeve, and a spare",
            "Leave 0.5 mm (20 thou). Let it cool.",
            "three-jaw",
            "roughing tool",
            35,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "fit",
            f"{part.row('sleeve').label} to size",
            "To the seat as measured, not as drawn.",
            "three-jaw, not let go",
            "finishing tool",
            30,
            CHUCK_KEY,
            part,
            "sleeve",
            1 if bored else -1,
        ),
    ]


def _coupler_sleeve(part: Part, spindle: Any, shop: Workshop) -> Sequence[Row]:
    return [
        ("turn", "Turn and face, and a spare", "", "three-jaw", "turning tool", 30, CHUCK_KEY, "plain"),
        sized(
            "bore",
            "Bore over the splines",
            "Over the high spots as measured; deburr the splines first.",
            "three-jaw, not let go",
            "boring bar",
            25,
            CHUCK_KEY,
            part,
            "bore",
            -1,
        ),
        sized(
            "outside",
            "Outside to slide in the drive",
            "Try it in the drive before it is let go.",
            "three-jaw, not let go",
            "finishing tool",
            20,
            CLOTH,
            part,
            "outside",
            1,
        ),
        (
            "bond",
            "Degrease, bond, let it cure",
            "A day at room temperature unless its data sheet says otherwise.",
            "bench",
            "retaining compound",
            20,
            f"{SOLVENT} {RETAINING}",
            "plain",
        ),
        (
            "pin",
            "Drill across and pin",
            "Not before it has cured: the two must not turn on the drill.",
            "vee block",
            "drill, reamer",
            25,
            "",
            "plain",
        ),
    ]


def _bearing_seat(part: Part, spindle: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "hard",
            "Test the quill's upper end with a file; measure the wall under the rack",
            "Case-hardened quills are ground, not bored.",
            "bench",
            "fine file",
            5,
            "",
            "plain",
        ),
        (
            "indicate",
            "Indicate the quill by its outside",
            "Within 5 µm (2 tenths) at both ends, not by the old bore.",
            "four-jaw and steady",
            "tenths indicator",
            40,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "bore",
            "Bore for the second bearing",
            "To the shoulder; cool before the last cut.",
            "four-jaw and steady",
            "boring bar",
            45,
            CHUCK_KEY,
            part,
            "bearings",
            -1,
        ),
        sized(
            "journal",
            "Finish the journal on the spindle",
            "Where the second bearing will sit.",
            "between centres",
            "finishing tool",
            30,
            CLOTH,
            part,
            "journal",
            1,
        ),
        ("try", "Try a bearing cold in both", "Starts and stops by hand.", "bench", "", 10, "", "plain"),
    ]


def _collar(part: Part, spindle: Any, shop: Workshop) -> Sequence[Row]:
    return [
        ("turn", "Turn, face and bore two", "", "three-jaw", "boring bar", 35, CHUCK_KEY, "plain"),
        sized(
            "bore",
            "Bore to the thread's minor",
            "",
            "three-jaw",
            "boring bar",
            15,
            CHUCK_KEY,
            part,
            "bore",
            -1,
        ),
        (
            "thread",
            "Thread to the spindle's own thread",
            "Try it on the spindle: the mating part is the gauge.",
            "three-jaw",
            "internal threading tool",
            35,
            STOP_BAR,
            "plain",
        ),
        ("face", "Face square on a threaded stub", "", "threaded stub", "facing tool", 20, "", "plain"),
        (
            "holes",
            "Drill the pin holes",
            "Index from one hole; the lock screw between two.",
            "dividing head or a drilled ring",
            "drill",
            25,
            "",
            "plain",
        ),
    ]


def _spanner(part: Part, spindle: Any, shop: Workshop) -> Sequence[Row]:
    return [
        (
            "mark",
            "Mark and centre-punch the pins' places",
            "From the distance over the holes, measured twice.",
            "surface plate",
            "height gauge",
            15,
            "",
            "plain",
        ),
        sized(
            "pins",
            "Drill and ream for the pins",
            "A reamer rarely cuts its own size: measure, then choose the pins.",
            "vice on the mill",
            "reamer",
            20,
            "",
            part,
            "pins",
            -1,
        ),
        ("saw", "Saw and file the handle", "", "vice", "saw, file", 25, "", "plain"),
        ("press", "Press the pins in; try it on the collar", "", "vice, soft jaws", "", 10, "", "plain"),
    ]


SPINDLE_ROUTES: dict[str, Callable[[Part, Any, Workshop], Sequence[Row]]] = {
    "spacer": _spacer,
    "sleeve": _sleeve,
    "coupler_sleeve": _coupler_sleeve,
    "bearing_seat": _bearing_seat,
    "locking_collar": _collar,
    "pin_spanner": _spanner,
}
