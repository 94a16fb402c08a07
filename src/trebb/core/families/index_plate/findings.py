"""An index plate: what its holes and its detent leave at the work, and whether it closes."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from trebb.core.belief.sound import levels
from trebb.core.condition import Quantity
from trebb.core.condition.draws import quantity
from trebb.core.errors import InputError
from trebb.core.families.index_plate.subject import IndexPlate, index_model
from trebb.core.figure import Circle, Figure, Item, Label, Role
from trebb.core.findings.base import Finding, Measure
from trebb.core.findings.judging import Drawn, Judged, Judging, Known
from trebb.core.gears import dividing
from trebb.core.machine import State
from trebb.core.units import show_small


def at_work(plate: IndexPlate) -> float:
    """From the holes' circle to the work: R/(r q). Without unit."""
    return plate.work_mm / (plate.circle_mm / 2 * plate.ratio)


def total(plate: IndexPlate, drawn: Drawn) -> Quantity:
    """Most less least of the holes' errors, at the work."""
    each = np.stack([drawn[f"hole.{k}"] for k in range(1, plate.holes + 1)])
    return quantity(at_work(plate) * (each.max(axis=0) - each.min(axis=0)))


def space(plate: IndexPlate, drawn: Drawn) -> Quantity:
    """Worst space between neighbours, at the work."""
    each = np.stack([drawn[f"hole.{k}"] for k in range(1, plate.holes + 1)])
    steps = np.abs(np.diff(np.concatenate([each, each[:1]]), axis=0))
    return quantity(at_work(plate) * steps.max(axis=0))


def pin(plate: IndexPlate, drawn: Drawn) -> Quantity:
    """What the detent lets the work turn."""
    return quantity(at_work(plate) * drawn["pin"])


def _all(plate: IndexPlate) -> tuple[Mapping[str, float], ...]:
    return tuple({f"hole.{k}": 1.0} for k in range(1, plate.holes + 1))


def read_plate(known: Known[IndexPlate]) -> dividing.PlateRead | None:
    """The holes as read, seconds of arc of the plate; None until every one is."""
    plate, read = known.subject, known.read("plate_holes")
    if len(read) < plate.holes:
        return None
    ordered = [read[f"hole {k}"] for k in range(1, plate.holes + 1)]
    return dividing.plate_read([dividing.angle_arcsec(v, plate.circle_mm / 2) for v in ordered])


def _total_words(known: Known[IndexPlate], m: Measure, size: str) -> tuple[str, str, str]:
    plate, read = known.subject, read_plate(known)
    move = ""
    if read is not None:
        off = read.off_centre_mm(plate.circle_mm / 2)
        then = dividing.arc_mm(read.total_if_centred / plate.ratio, plate.work_mm)
        move = (
            f"It stands {show_small(off, known.system)} off centre; centred it would leave "
            f"{show_small(then, known.system)}."
        )
    return f"At the work the divisions are out by {size}, all round.", "every hole read", move


def _space_words(known: Known[IndexPlate], m: Measure, size: str) -> tuple[str, str, str]:
    return (
        f"The worst space between neighbours is {size} at the work.",
        "every hole read",
        "A hole of its own is wrong: centring does not mend it.",
    )


def _pin_words(known: Known[IndexPlate], m: Measure, size: str) -> tuple[str, str, str]:
    return (
        f"The detent lets the work turn by {size}.",
        "rocked with the pin in",
        "A new pin to the holes; holes chamfered, so that it enters; always come to it from one side.",
    )


MEASURES: dict[str, Judged[IndexPlate]] = {
    "total": Judged("Divisions at the work", "index_total", total, _all, _total_words),
    "space": Judged("Worst space at the work", "index_space", space, _all, _space_words),
    "pin": Judged("Detent's play at the work", "index_pin", pin, lambda p: ({"pin": 1.0},), _pin_words),
}


def also(known: Known[IndexPlate], measures: Mapping[str, Measure]) -> list[Finding]:
    """Whether it gives the divisions wanted at all."""
    plate = known.subject
    words = closes_words(plate)
    if not words:
        return []
    return [
        Finding(
            "closes", State.BEYOND, words, "holes against divisions", "A plate that does, made here.", 2.0
        )
    ]


def closes_words(plate: IndexPlate) -> str:
    """Why a plate does not give the divisions wanted, or ""."""
    if plate.ratio == 1:
        try:
            dividing.direct_step(plate.divisions, plate.holes)
        except InputError as error:
            return f"{error}."
        return ""
    if dividing.exact_settings(plate.divisions, plate.ratio, (plate.holes,)):
        return ""
    near = dividing.nearest_setting(plate.divisions, plate.ratio, (plate.holes,))
    return (
        f"{plate.divisions} divisions by {plate.ratio}:1 on {plate.holes} holes do not close: repeated, "
        f"the last space "
        f"is {abs(near.closing_arcsec) / 60:.0f}′ wrong."
    )


def picture(known: Known[IndexPlate]) -> Figure:
    """The holes as far off as they were read, drawn larger."""
    plate, read = known.subject, known.read("plate_holes")
    most = max([abs(v) for v in read.values()] + [1e-6])
    items: list[Item] = [Circle((190, 82), 70), Circle((190, 82), 54, Role.HATCH), Circle((190, 82), 14)]
    for k in range(1, plate.holes + 1):
        place = f"hole {k}"
        a = 2 * np.pi * (k - 1) / plate.holes - np.pi / 2
        if place in read:
            a += 0.2 * read[place] / most
        at = (190 + 54 * float(np.cos(a)), 82 + 54 * float(np.sin(a)))
        items.append(Circle(at, 3.2, Role.BLUE if place in read else Role.SOFT))
    items.append(Label((340, 60), f"{len(read)} of {plate.holes} holes read", Role.INK, "left"))
    if read:
        items.append(
            Label((340, 84), f"most {show_small(most, known.system)} off, drawn larger", Role.SOFT, "left")
        )
    return Figure(640, 164, tuple(items))


def sizes(known: Known[IndexPlate]) -> dict[str, float]:
    """Nothing: a new plate is made to its own circle."""
    return {}


JUDGING = Judging(
    decides="plate_pin",
    model=index_model,
    measures=MEASURES,
    questions=lambda p: {
        "pin": ("the detent's play", {"pin": 1.0}),
        **{f"hole.{k}": (f"hole {k}", {f"hole.{k}": 1.0}) for k in range(1, p.holes + 1)},
    },
    describe=lambda p: f"plate of {p.holes} holes on {p.circle_mm:g} mm, for {p.divisions}",
    also=also,
    sizes=sizes,
    faults=lambda p: (levels([f"hole.{k}" for k in range(1, p.holes + 1)]),),
    cures={"closes": ("new",)},
    picture=picture,
    default_parts=("index_plate",),
)
