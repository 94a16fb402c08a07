"""An index plate and a cutter ground anew."""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.families.index_plate.subject import IndexPlate
from trebb.core.gears import dividing
from trebb.core.gears.dividing import Rounded, Setting
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Measured,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    SizeRow,
    View,
    facts_of,
    material_field,
    number,
)
from trebb.core.parts.dividing_words import dividing_words
from trebb.core.threads import Band


def index_of(inputs: PartInputs) -> IndexPlate:
    """The plate a part is for; of one that is copied without a survey a usual one."""
    return inputs.subject if isinstance(inputs.subject, IndexPlate) else IndexPlate()


def index_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Holes, circle, detent, what it is made on."""
    plate = index_of(inputs)
    holes = plate.divisions if plate.ratio == 1 else plate.holes
    return (
        material_field("free_cutting"),
        PartField("holes", "Holes", float(holes), low_mm=2, high_mm=400, is_figure=True),
        PartField("circle", "Their circle", plate.circle_mm, low_mm=10, high_mm=600),
        PartField("detent", "Detent", plate.detent_mm, low_mm=1, high_mm=30),
        PartField("outside", "Outside", plate.outside_mm, low_mm=15, high_mm=700),
        PartField("bore", "Bore", plate.bore_mm, low_mm=2, high_mm=400),
        PartField("thick", "Thickness", plate.thick_mm, low_mm=2, high_mm=40),
        PartField("head", "Made on a head of", 40.0, low_mm=1, high_mm=200, is_figure=True),
        PartField(
            "divisions",
            "Divisions of the work",
            float(plate.divisions),
            low_mm=2,
            high_mm=400,
            is_figure=True,
        ),
        PartField("work", "Work's radius", plate.work_mm, low_mm=1, high_mm=1000, is_free=True),
    )


def index_plate(inputs: PartInputs) -> Part:
    """An index plate of any number of holes. Raises InputError where they do not divide, or meet each
    other.
    """
    f = facts_of(index_fields(inputs), inputs.facts)
    holes, head = int(number(f, "holes")), int(number(f, "head"))
    circle, detent, outside, bore = (number(f, k) for k in ("circle", "detent", "outside", "bore"))
    chord = circle * math.sin(math.pi / holes)
    if chord <= detent + 1.0:
        raise InputError(
            f"{holes} holes of {inputs.size(detent)} on a circle of {inputs.size(circle)}",
            f"they meet: a circle of {inputs.size((detent + 1.5) / math.sin(math.pi / holes))} or more, "
            f"or a thinner detent",
        )
    if not bore + 2 * detent < circle < outside - 2 * detent:
        raise InputError(
            f"a circle of {inputs.size(circle)} between {inputs.size(bore)} and {inputs.size(outside)}",
            "the holes stand clear of bore and rim",
        )
    ratio = index_of(inputs).ratio
    divisions = int(number(f, "divisions"))
    work = number(f, "work")
    play = dividing.arc_mm(dividing.pin_play_arcsec(0.012, circle / 2, ratio), work)
    settings = dividing.exact_settings(holes, head)
    made = dividing.rounded_settings(holes, head) if not settings else None
    off = dividing.arc_mm((made.worst_arcsec if made else 0.0) / ratio, work)
    closes = (
        holes % divisions == 0 if ratio == 1 else bool(dividing.exact_settings(divisions, ratio, (holes,)))
    )
    return Part(
        "index_plate",
        f"Index plate of {holes} holes",
        material(str(f["material"])),
        f"plate {inputs.size(outside + 4)} square, {inputs.size(number(f, 'thick') + 1)} thick",
        (),
        None,
        (
            *_index_rows(inputs, chord, play, off, holes, head, circle, detent, bore),
            SizeRow("Thickness", "size", number(f, "thick"), "", True, key="thick"),
        ),
        _index_checks(ratio, divisions, settings, made, closes, holes),
        (
            "Bore and one face in one setting; every hole from that.",
            "Chamfer each for the detent; stamp numbers; blue it twice.",
        ),
        construction="index",
        views=(_face(holes, circle, detent, outside, bore),),
    )


def _face(holes: int, circle: float, detent: float, outside: float, bore: float) -> View:
    """The plate with its holes on their circle, its bore and its rim."""

    def ring(dia: float, count: int) -> tuple[tuple[float, float], ...]:
        turns = (2 * math.pi * k / count for k in range(count))
        return tuple((dia / 2 * math.sin(turn), dia / 2 * math.cos(turn)) for turn in turns)

    return View(
        "face",
        (ring(outside, 48),),
        holes=(*((x, y, detent) for x, y in ring(circle, holes)), (0.0, 0.0, bore)),
        measured=(Measured((-outside / 2, 0), (outside / 2, 0), -2.2),),
        hole_keys=((detent, "hole"), (bore, "bore")),
        circles=(circle,),
    )


def _index_checks(
    ratio: int, divisions: int, settings: tuple[Setting, ...], made: Rounded | None, closes: bool, holes: int
) -> tuple[Check, ...]:
    return (
        Check.of(
            closes,
            f"{divisions} divisions close on it.",
            f"{divisions} divisions do not close on {holes} holes: {divisions} or a multiple would."
            if ratio == 1
            else f"{divisions} divisions by {ratio}:1 do not close on {holes} holes.",
        ),
        Check(
            bool(settings),
            "The head divides it exactly."
            if settings
            else f"No circle of the head is exact: each hole rounded afresh, "
            f"{made.worst_arcsec if made else 0:.0f}″ at "
            "worst. A degree wheel and a vernier do no better.",
        ),
    )


def _index_rows(
    inputs: PartInputs,
    chord: float,
    play: float,
    off: float,
    holes: int,
    head: int,
    circle: float,
    detent: float,
    bore: float,
) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Holes", "text", f"{holes}", f"on {inputs.size(circle)}", True, key="holes"),
        SizeRow("Hole", "band", Band(detent, detent + 0.012), "reamed to the detent", True, key="hole"),
        SizeRow("Bore", "band", Band(bore, bore + 0.021), "first, and everything from it", True, key="bore"),
        SizeRow("From hole to hole", "size", chord, "straight across, to check by", True, key="chord"),
        SizeRow("Each step", "text", dividing_words(holes, head), f"{head}:1", True, key="step"),
        SizeRow("At the work: detent", "small", play, "both ways, by a close pin"),
        SizeRow("At the work: dividing", "small", off, "by the head's own rounding"),
    )


INDEX_FAMILY = PartFamily(
    "index_plate",
    "Index plate",
    index_fields,
    index_plate,
    "index_plate",
    "Count the holes when half are drilled, and at the last one.",
)
