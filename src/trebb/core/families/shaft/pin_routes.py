"""Routes of keys, pins and dog screws."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row
from trebb.core.making.piece_rows import CHUCK, sized, speed_words
from trebb.core.parts.base import Part
from trebb.core.safety import CHUCK_KEY, CLOTH, DRIFT, DRILLING, STICK_OUT


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


def _shear(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    necked = any(row.key == "neck" for row in part.rows)
    return [
        (
            "out",
            "Drift the pieces out",
            "From the far side, each way; mark hub and shaft with a punch first.",
            "in place",
            "punch",
            10,
            DRIFT,
            "plain",
        ),
        sized(
            "dia",
            "Turn the pins to their hole",
            speed_words(part, shop, part.largest_mm),
            CHUCK,
            "turning tool",
            10,
            CLOTH,
            part,
            "dia",
            1,
        ),
        *(
            (
                sized(
                    "neck",
                    "Neck each where it is to go",
                    "A round nose: a sharp corner goes by itself.",
                    CHUCK,
                    "narrow tool",
                    8,
                    CLOTH,
                    part,
                    "neck",
                    1,
                ),
            )
            if necked
            else ()
        ),
        ("knurl", "Knurl the last of it, part off", "", CHUCK, "knurl, parting tool", 8, STICK_OUT, "plain"),
        (
            "drive",
            "Drive the pin",
            "Plain end first, until the knurl is buried; file it flush. A spare taped inside the cover.",
            "in place",
            "hammer, file",
            5,
            DRIFT,
            "plain",
        ),
    ]


ROUTES = {"shear_pin": _shear, "key": _key, "taper_pin": _taper_pin, "straight_pin": _pin, "dog_screw": _dog}
