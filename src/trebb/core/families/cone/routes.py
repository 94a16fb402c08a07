"""Routes of a friction cone's lining and of its hub of three pieces."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from trebb.core.families.cone.subject import FrictionCone
from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row
from trebb.core.making.piece_rows import CHUCK, sized, speed_words
from trebb.core.parts.base import Part
from trebb.core.safety import ASBESTOS, CHUCK_KEY, CLOTH, DRIFT, DRILLING, PRESS

DUST = "Lining dust: extraction and a respirator even where it is no asbestos."


def _lining(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    angle = math.degrees(part.size_mm("angle"))
    has_grooves = isinstance(subject, FrictionCone) and subject.oil_grooves
    grooves = " Then six grooves for oil sawn across, not through a rivet." if has_grooves else ""
    rows: list[Row] = [
        (
            "old",
            "Old lining off",
            "Only once it is known what it is. Rivets drilled out from their heads, wet; the holes "
            "looked at.",
            "vice, soft jaws",
            "drill of the rivet's size",
            30,
            ASBESTOS,
            "plain",
        )
    ]
    _add_form(part, rows)
    _add_rivets(part, subject, rows)
    rows += [
        sized(
            "big",
            "Turn it to the taper",
            f"Compound at {angle:.2f}° from the axis; light cuts, sharp tool, dust drawn off.",
            "mandrel between centres",
            "sharp turning tool",
            35,
            DUST,
            part,
            "big",
            1,
        ),
        (
            "blue",
            "Blue it in the cup, until it bears all along",
            f"The compound is not touched between cone and cup.{grooves}",
            "by hand",
            "blue, fine cloth",
            25,
            "",
            "plain",
        ),
    ]
    return rows


def _add_rivets(part: Part, subject: Any, rows: list[Row]) -> None:
    if isinstance(subject, FrictionCone) and subject.rivets:
        rows += [
            (
                "drill",
                "Drill and counterbore for the rivets",
                f"Through lining and body together, {part.row('rivets').value}; counterbored from the face.",
                "clamped on the body",
                "drill, counterbore",
                30,
                DRILLING,
                "plain",
            ),
            (
                "fasten",
                "Rivet it, from the middle outward",
                "Heads outside in their counterbores, tubes upset inside: this is why the flange is "
                "still off.",
                "rivet's dolly",
                "rivet punch",
                30,
                DRIFT,
                "plain",
            ),
        ]
    else:
        rows.append(
            (
                "fasten",
                "Bond it on",
                "Both faces bright and free of oil, clamped by a strap, cured as the sheet says.",
                "strap",
                "lining adhesive",
                40,
                "Adhesive: gloves, air, and its data sheet.",
                "plain",
            )
        )


def _add_form(part: Part, rows: list[Row]) -> None:
    if part.construction == "straight":
        rows += [
            sized(
                "body",
                "Turn the body parallel",
                "Concentric with its bore: on a mandrel.",
                "mandrel between centres",
                "turning tool",
                20,
                CLOTH,
                part,
                "body",
                1,
            ),
            (
                "band",
                "Cut the band, wind it on, trim its joint",
                "A little long, tried on the body, trimmed on the bevel.",
                "bench",
                "knife or fine saw",
                20,
                DUST,
                "plain",
            ),
        ]
    else:
        rows.append(
            (
                "pattern",
                "Cut it to the flat pattern",
                "From a paper pattern tried on the cone first.",
                "bench",
                "knife or fine saw",
                25,
                DUST,
                "plain",
            )
        )


def _hub(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    return [
        *_hub_turned(part, shop),
        (
            "order",
            "Put it together in its order",
            f"{part.row('order').value}.",
            "press",
            "guide mandrel, rivet punch",
            40,
            PRESS,
            "plain",
        ),
        (
            "pin",
            "Drill, ream and pin across",
            "All three home. A taper pin, its large side marked on both faces.",
            "V-block",
            "drill, taper reamer",
            20,
            DRILLING,
            "plain",
        ),
        sized(
            "bore",
            "Finish the bore, true to the face",
            "Held by the body, which is indicated.",
            "four-jaw, indicated",
            "boring bar, reamer",
            25,
            CHUCK_KEY,
            part,
            "bore",
            -1,
        ),
    ]


def _hub_turned(part: Part, shop: Workshop) -> list[Row]:
    return [
        (
            "blanks",
            "Saw the three blanks, face and drill",
            speed_words(part, shop, part.largest_mm),
            CHUCK,
            "drill",
            20,
            CHUCK_KEY,
            "plain",
        ),
        sized(
            "bored",
            "Bore body and flange for the core",
            "Both alike, in one setting with a face each.",
            CHUCK,
            "boring bar",
            30,
            CHUCK_KEY,
            part,
            "bored",
            -1,
        ),
        sized(
            "core",
            "Turn the core to them",
            "A lead of a degree at both ends.",
            CHUCK,
            "turning tool",
            20,
            CLOTH,
            part,
            "core",
            1,
        ),
    ]


ROUTES = {"cone_lining": _lining, "cone_hub": _hub}
