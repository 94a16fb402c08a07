"""Routes of screws, nuts, thrust rings and dials, by how they are made."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from trebb.core.families.screw_drive.nut_routes import nut_route
from trebb.core.families.screw_drive.screw_end_routes import (
    CENTRE_IN_BUSH,
    MEASURE_BAR,
    joined_route,
    sleeve_route,
)
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.families.screw_drive.thread_rows import thread_rows
from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import SETTING_MINUTES, Row, turning_minutes
from trebb.core.parts import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, LOCK_OUT, STICK_OUT


def screw_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """By the part's construction: sleeve, new thread for an old end, bought bar, or whole."""
    by = {"sleeved": sleeve_route, "joined": joined_route, "bar": _from_bar}
    return by.get(part.construction, _solid)(part, drive)


def _solid(part: Part, drive: ScrewDrive) -> list[Row]:
    spec = drive.thread
    start = part.largest_mm + 1.5
    thread = next(s for s in part.sections if s.kind == "thread")
    rough = SETTING_MINUTES + turning_minutes(part, start, spec.major_mm + 0.5, thread.length_mm)
    ends = SETTING_MINUTES + sum(
        turning_minutes(part, start, s.diameter_mm + 0.5, s.length_mm)
        for s in part.sections
        if s.kind == "plain"
    )
    return [
        *_solid_turned(part, rough, ends),
        *thread_rows(drive, part),
        (
            "keyway",
            f"Keyway in the {drive.seat_words}; deburr",
            "Key fitted tight in the shaft.",
            "vee blocks on the mill",
            "slot drill",
            25,
            "",
            "plain",
        ),
        (
            "end_thread",
            f"Thread the {drive.driven_end}",
            "To its old nut; try it.",
            "between centres",
            "die or threading tool",
            20,
            "",
            "plain",
        ),
        (
            "fit",
            "Take the old screw out; try the new one in its bearings"
            if drive.half_nuts
            else "Take the old screw out; try the new one in bracket and dial",
            "Only now, where this lathe cut its own screw.",
            "bench",
            "",
            20,
            "",
            "plain",
        ),
    ]


def _solid_turned(part: Part, rough: float, ends: float) -> list[Row]:
    return [
        ("blanks", "Saw two blanks", part.stock_words, "vice", "saw", 15, "", "plain"),
        (
            "centre",
            "Face and centre both ends",
            "Centres deep enough for the load; length to the drawing with facing allowance used up.",
            "three-jaw, steady if the bar does not pass",
            "facing tool, centre drill",
            20,
            CHUCK_KEY,
            "plain",
        ),
        (
            "rough",
            "Rough the thread land and the journals",
            "Leave 0.020 in (0.5 mm) on all diameters. Let it cool.",
            "between centres",
            "roughing tool",
            round(rough + ends),
            "Long work whips: follow with the tailstock snug, not tight.",
            "plain",
        ),
        (
            "finish",
            "Finish journals, collar and thread land",
            "Measure each at three places, also for taper, before the last cut.",
            "between centres, same dog",
            "finishing tool",
            40,
            CLOTH,
            "plain",
        ),
    ]


def _from_bar(part: Part, drive: ScrewDrive) -> list[Row]:
    return [
        MEASURE_BAR,
        (
            "saw",
            "Saw to length with facing allowance",
            part.stock_words,
            "vice, soft jaws on the thread",
            "saw",
            10,
            "",
            "plain",
        ),
        CENTRE_IN_BUSH,
        (
            "ends",
            "Turn the ends below the root",
            "No thread marks may stay in a journal.",
            "between centres",
            "finishing tool",
            60,
            CLOTH,
            "plain",
        ),
        (
            "collar",
            "Ring for the thrust, pressed or bonded against the thread's end",
            "Face it in place: square to the journal.",
            "between centres",
            "facing tool",
            40,
            "",
            "plain",
        ),
        (
            "keyway",
            f"Keyway in the {drive.seat_words}; deburr",
            "Key fitted tight in the shaft.",
            "vee blocks on the mill",
            "slot drill",
            25,
            "",
            "plain",
        ),
        (
            "fit",
            "Try it in its bearings and nut",
            "Free from end to end before anything is pinned.",
            "bench",
            "",
            20,
            "",
            "plain",
        ),
    ]


def ring_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """The thrust ring and its bracket."""
    return [
        (
            "turn",
            "Turn, face and bore in one setting",
            "Faces square to the bore; width as rounded up.",
            "three-jaw",
            "boring bar",
            35,
            CHUCK_KEY,
            "plain",
        ),
        (
            "part",
            "Part off two; face the second side on a mandrel",
            "One is the spare.",
            "mandrel between centres",
            "parting tool",
            25,
            STICK_OUT,
            "plain",
        ),
        (
            "tap",
            "Drill and tap for the locking screw",
            "Brass pad under the screw.",
            "vee block",
            "tap",
            15,
            "",
            "plain",
        ),
        (
            "face",
            "Face to fit, a little at a time",
            "Assemble, feel, face off what is left: the stack's own tolerance is in it.",
            "mandrel between centres",
            "facing tool",
            40,
            "",
            "plain",
        ),
    ]


def dial_route(part: Part, drive: ScrewDrive, shop: Workshop) -> list[Row]:
    """The dial: turned, divided, stamped."""
    return [
        (
            "turn",
            "Turn and bore on one mandrel",
            "Rim true to the bore.",
            "mandrel between centres",
            "turning tool",
            40,
            CHUCK_KEY,
            "plain",
        ),
        (
            "divide",
            "Divide the rim",
            "Long line every tenth, middling every fifth; spindle indexed by a wheel of as many teeth, or a "
            "dividing head.",
            "mandrel, indexed",
            "pointed tool fed by the carriage",
            90,
            f"{LOCK_OUT} The spindle is indexed by hand.",
            "plain",
        ),
        (
            "stamp",
            "Try the direction on the machine, then stamp",
            "Numbers rise as the tool goes in.",
            "jig for the stamps",
            "figure stamps",
            45,
            "Eye shield.",
            "plain",
        ),
        (
            "spring",
            "Friction spring in its groove",
            "Turns by hand, stays by itself.",
            "bench",
            "",
            15,
            "",
            "plain",
        ),
    ]


SCREW_ROUTES: dict[str, Callable[[Part, Any, Workshop], Sequence[Row]]] = {
    "screw": screw_route,
    "nut": nut_route,
    "thrust_collar": ring_route,
    "dial": dial_route,
}
