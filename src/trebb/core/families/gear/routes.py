"""Routes of a gear's parts: spacer, sleeve, and the gear cut from its blank."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.families.gear.subject import Gear
from trebb.core.machine.workshop import Workshop
from trebb.core.making.bush_routes import bush_rows
from trebb.core.making.operations import Row, SizeTarget
from trebb.core.making.piece_rows import CHUCK, sized, speed_words
from trebb.core.parts.base import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, DRIFT, MILLING, STICK_OUT, WHEEL
from trebb.core.threads.forms import Band

MANDREL = "mandrel between centres, driven by a dog"


def _spacer(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    rows: list[Row] = [
        (
            "blank",
            "Face, drill and bore",
            f"{speed_words(part, shop, part.largest_mm)} Bore clear of the shaft.",
            CHUCK,
            "drill, boring bar",
            15,
            CHUCK_KEY,
            "plain",
        ),
        ("outside", "Turn the outside", "Under the hub's.", CHUCK, "turning tool", 6, CLOTH, "plain"),
        (
            "part",
            "Part off, 0.2 mm (8 thou) left on its thickness",
            "Stick-out short.",
            CHUCK,
            "parting tool",
            8,
            STICK_OUT,
            "plain",
        ),
        (
            "thickness",
            "Bring it to its thickness",
            "Both faces on one plane: surface grinder, or lapped on a plate, read at four places round.",
            "magnetic chuck or plate",
            "wheel or lap",
            20,
            WHEEL,
            "size",
            SizeTarget("thickness", part.band("thickness"), 1, is_diameter=False),
        ),
    ]
    if part.construction == "two":
        rows.append(
            (
                "halve",
                "Saw it in two",
                "After it is ground, so that both halves are alike; marks on both.",
                "vice, soft jaws",
                "fine saw",
                8,
                "",
                "plain",
            )
        )
    return rows


def _gear(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    gear = subject if isinstance(subject, Gear) else Gear()
    keys = {row.key for row in part.rows}
    cut = part.row("cutter").value
    rows: list[Row] = [
        *_gear_blank(part, shop),
    ]
    _add_teeth(part, gear, cut, rows)
    if "over_pins" in keys:
        rows.append(
            sized(
                "over_pins",
                "Deepen until it is right over pins",
                "Two pins in opposite spaces; go down a little all round and read again.",
                "dividing head",
                "two pins, micrometer",
                15,
                MILLING,
                part,
                "over_pins",
                1,
            )
        )
    if "keyway" in keys:
        rows.append(
            (
                "keyway",
                "Broach the keyway",
                "A tooth or a space over its middle, as the old one has: look first.",
                "press or lathe carriage",
                "broach or slotting tool",
                25,
                "",
                "plain",
            )
        )
    rows.append(
        (
            "burr",
            "Take the burrs off, run it with its mate",
            "By its mate at its own centre distance: quiet, and lash as wanted at the tightest place.",
            "in place",
            "file, fine stone",
            20,
            DRIFT,
            "plain",
        )
    )
    return rows


def _add_teeth(part: Part, gear: Gear, cut: float | str | Band, rows: list[Row]) -> None:
    if gear.is_bevel:
        rows.append(
            (
                "face_angle",
                "Turn face and back cone",
                "Compound at the face angle from the axis; back square to the pitch cone.",
                MANDREL,
                "turning tool",
                20,
                CLOTH,
                "plain",
            )
        )
    rows.append(
        (
            "set",
            f"Set the cutter, {cut}, to the middle of the blank",
            "By a centre, or a cut on either side of a trial piece; the head square, its tailstock in line"
            + (", tilted to the cutting angle." if gear.is_bevel else "."),
            "dividing head",
            "form cutter",
            20,
            MILLING,
            "plain",
        )
    )
    rows.append(
        (
            "teeth",
            f"Cut the teeth, {part.row('dividing').value}",
            "Touch the outside, down by the whole depth in two cuts; lash of the head always taken up "
            "the same way. "
            + (
                "First the middle of every space; then roll and shift for either flank until the tooth "
                "is even."
                if gear.is_bevel
                else "The last space should come out like the first."
            ),
            "dividing head",
            "form cutter",
            2.5 * gear.teeth + 15,
            MILLING,
            "plain",
        )
    )


def _gear_blank(part: Part, shop: Workshop) -> list[Row]:
    return [
        (
            "blank",
            "Saw two blanks, face and drill",
            f"{speed_words(part, shop, part.largest_mm)} One is for the trial space.",
            CHUCK,
            "drill",
            15,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "bore",
            "Bore and ream",
            "With the face that locates it, in one setting: teeth come true to this.",
            CHUCK,
            "boring bar, reamer",
            20,
            CHUCK_KEY,
            part,
            "bore",
            -1,
        ),
        sized(
            "outside",
            "Turn the outside on a mandrel",
            "True to the bore: the depth of the cut is taken from it.",
            MANDREL,
            "turning tool",
            15,
            CLOTH,
            part,
            "outside",
            1,
        ),
    ]


ROUTES = {"gear_spacer": _spacer, "gear_sleeve": bush_rows, "new_gear": _gear}
