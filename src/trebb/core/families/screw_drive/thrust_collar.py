"""What takes out the end float: a plain adjusting ring, a pair of ball thrusts, or needle washers, with the
stack of faces worked out.
"""

from __future__ import annotations

from collections.abc import Mapping

from trebb.core.families.screw_drive import screw
from trebb.core.families.screw_drive.sizes import is_inch
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.fits.stack import Stack, StackItem, stack_up
from trebb.core.items import Item
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    material_field,
    number,
    readings_of,
    round_size,
)
from trebb.core.parts.turned import broken_ends
from trebb.core.threads import Band
from trebb.core.units import INCH_MM, show_small

THRUSTS = {
    "plain": "plain washers",
    "needle": "needle washers, both faces",
    "ball": "two ball thrusts, opposed",
}
# Width of one, as a share of the journal it runs on, where it is not measured yet; ± as bought, mm.
USUAL_WIDTH = {"plain": (0.125, 0.05), "needle": (0.20, 0.02), "ball": (0.55, 0.10)}
# The stack may ask for a ring so many times as wide as drawn, by lengths that are right.
RING_SHARE = (0.4, 2.5)
RUNS_WITH_MM = {
    "plain": 0.025,
    "needle": 0.0,
    "ball": -0.005,
}  # end float left; ball thrusts take a touch of preload


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Ring sizes, by default from the journal it runs on; several readings of each face of the stack."""
    journal = _journal_mm(inputs)
    inch = is_inch(inputs.about(ScrewDrive))
    kind = str(inputs.facts.get("kind", "needle"))
    width, _ = USUAL_WIDTH[kind if kind in USUAL_WIDTH else "needle"]
    one = round_size(width * journal, inch) or INCH_MM / 32
    ring = round_size(0.5 * journal, inch)
    room = 2 * one + ring + round_size(0.8 * journal, inch)

    def read(mm: float) -> str:
        return f"{mm:.3f}"

    return (
        material_field("carbon"),
        PartField("kind", "Thrust", "needle", THRUSTS),
        PartField("bore", "Bore", journal, low_mm=3, high_mm=200),
        PartField("outside", "Outside", round_size(1.75 * journal, inch), low_mm=4, high_mm=300),
        PartField("width", "Width", ring, low_mm=2, high_mm=100),
        PartField("room", "Shoulder to dial seat", read(room), low_mm=3, high_mm=400, is_readings=True),
        PartField(
            "bracket",
            "Bracket, face to face",
            read(room - 2 * one - ring),
            low_mm=1,
            high_mm=300,
            is_readings=True,
        ),
        PartField("first", "Thrust, wheel side", read(one), low_mm=0.2, high_mm=60, is_readings=True),
        PartField("second", "Thrust, slide side", read(one), low_mm=0.2, high_mm=60, is_readings=True),
        PartField(
            "set_screw",
            "Locking screw from the face",
            round_size(0.5 * ring, inch),
            low_mm=0,
            high_mm=100,
            is_free=True,
        ),
    )


def _journal_mm(inputs: PartInputs) -> float:
    if "journal_dia" in inputs.partner:
        return float(inputs.partner["journal_dia"])
    return float(next(f.default for f in screw.fields(inputs) if f.key == "journal_dia"))


def stack_of(f: Mapping[str, str | float]) -> Stack:
    """The stack from the screw's shoulder to the dial seat: what is left for the ring. Fields as stored:
    lengths in mm.
    """
    kind = str(f["kind"])
    bought = USUAL_WIDTH[kind][1]
    items = (
        StackItem("shoulder to dial seat", readings_of(f["room"]), +1),
        StackItem("bracket, face to face", readings_of(f["bracket"]), -1),
        StackItem(
            "thrust, wheel side",
            readings_of(f["first"]),
            -1,
            bought if len(readings_of(f["first"])) < 2 else 0.0,
        ),
        StackItem(
            "thrust, slide side",
            readings_of(f["second"]),
            -1,
            bought if len(readings_of(f["second"])) < 2 else 0.0,
        ),
    )
    return stack_up(items, RUNS_WITH_MM[kind])


def build(inputs: PartInputs) -> Part:
    """Work out the ring and the stack it closes."""
    f = facts_of(fields(inputs), inputs.facts)
    bore, outside, width = (number(f, key) for key in ("bore", "outside", "width"))
    kind = str(f["kind"])
    limits = _bore_limits(bore)
    stack = stack_of(f)
    width = max(width, stack.make_mm) if abs(stack.make_mm - width) < 3 else width
    return Part(
        "thrust_collar",
        "Thrust ring, adjustable",
        material(str(f["material"])),
        "bar end",
        (Section("ring", "plain", width, outside),),
        Section("bore", "plain", width, bore, limits),
        _rows(inputs, f, stack),
        _checks(inputs, f, stack),
        ("Faces square to the bore in one setting.", "Lock with a brass pad under the set screw.")
        + (
            ("Needle washers run on hard faces only: their own washers, or hardened ones.",)
            if kind == "needle"
            else ()
        ),
        features=broken_ends(width),
        blanks=2,
        goes_with=_thrusts(f, kind),
    )


def _thrusts(f: Mapping[str, str | float], kind: str) -> tuple[Item, ...]:
    """The two thrusts on either side of the bracket."""
    sizes = (number(f, "bore"), number(f, "outside"))
    note = {"plain": "bronze, flat and parallel", "needle": "with hardened washers", "ball": "of two rings"}
    return tuple(
        Item(f"Thrust, {THRUSTS[kind]}", (*sizes, min(readings_of(f[key]))), 1, note[kind])
        for key in ("first", "second")
    )


def _bore_limits(bore_mm: float) -> Band:
    """Slides by hand on a ground journal, shop practice."""
    return Band(bore_mm + 0.005, bore_mm + 0.018)


def _few_readings(f: Mapping[str, str | float]) -> list[str]:
    counts = {key: len(readings_of(f[key])) for key in ("room", "bracket", "first", "second")}
    return [
        words
        for key, words in (
            ("room", "shoulder to seat"),
            ("bracket", "bracket"),
            ("first", "first thrust"),
            ("second", "second thrust"),
        )
        if counts[key] < 3
    ]


def _checks(inputs: PartInputs, f: Mapping[str, str | float], stack: Stack) -> tuple[Check, ...]:
    bore, outside, width = (number(f, key) for key in ("bore", "outside", "width"))
    kind, wall, few = str(f["kind"]), (outside - bore) / 2, _few_readings(f)
    spec = inputs.about(ScrewDrive).thread
    passes = bore >= spec.major_mm
    return (
        Check(
            wall >= 0.2 * bore,
            f"The ring's wall is {inputs.size(wall)}"
            + ("." if wall >= 0.2 * bore else ": too thin for a set screw; a larger outside would do."),
        ),
        *_absurd(inputs, width, stack),
        Check.of(
            width <= stack.worst_high_mm + 0.5,
            f"The ring's {inputs.size(width)} goes into what the stack leaves, {inputs.size(stack.left_mm)}.",
            f"The ring of {inputs.size(width)} is wider than the stack leaves, "
            f"{inputs.size(stack.left_mm)}: face the bracket, or thinner thrusts.",
        ),
        Check(
            True,
            "Each face was read at three places or more."
            if not few
            else f"Read three times over before facing anything: {', '.join(few)}. One reading says nothing "
            "of a tilted face.",
        ),
        Check(
            True,
            f"The {'bearing' if kind != 'plain' else 'washer'} passes the thread "
            f"({inputs.size(spec.major_mm)}): it may go on from either end."
            if passes
            else f"A bore of {inputs.size(bore)} does not pass the thread of {inputs.size(spec.major_mm)}: "
            f"it goes on from the {inputs.about(ScrewDrive).driven_end}, before what is seated there.",
        ),
        Check.of(
            1.5 <= number(f, "set_screw") <= width - 1.5,
            "The locking screw stands clear of both faces.",
            "The locking screw breaks out at a face, or bears in the relief groove: put it in the "
            "ring's middle.",
        ),
    )


def _absurd(inputs: PartInputs, width: float, stack: Stack) -> list[Check]:
    """A ring asked for that is not the one drawn: a length was misread, or typed for another."""
    if RING_SHARE[0] * width <= stack.make_mm <= RING_SHARE[1] * width:
        return []
    asked = (
        f"leaves {inputs.size(stack.left_mm)}"
        if stack.make_mm > 0
        else f"leaves nothing: what stands between shoulder and seat is {inputs.size(-stack.left_mm)} longer"
    )
    return [
        Check(
            False,
            f"The ring is drawn {inputs.size(width)} wide and the stack {asked}: one of its four lengths is "
            "not what it is taken for. Measure shoulder to seat, bracket and both thrusts again before a "
            "ring is "
            "turned.",
        )
    ]


def _rows(inputs: PartInputs, f: Mapping[str, str | float], stack: Stack) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Bore", "band", _bore_limits(number(f, "bore")), "slides on the journal", True),
        SizeRow("Outside", "size", number(f, "outside")),
        SizeRow(
            "The stack leaves",
            "size",
            stack.left_mm,
            f"by the means; ± {show_small(stack.statistical_mm, inputs.system)} in 95 of 100",
        ),
        SizeRow("With every width at its worst", "band", Band(stack.worst_low_mm, stack.worst_high_mm)),
        SizeRow(
            "Make the ring",
            "size",
            stack.make_mm,
            f"rounded up: {show_small(stack.facing_mm, inputs.system)} stay to face to fit",
            True,
        ),
        SizeRow(
            "Left to run with",
            "text",
            {
                "plain": f"{show_small(RUNS_WITH_MM['plain'], inputs.system)} float",
                "needle": "no float",
                "ball": f"{show_small(-RUNS_WITH_MM['ball'], inputs.system)} preload",
            }[str(f["kind"])],
            "turned by hand without a catch",
        ),
    )


FAMILY = PartFamily(
    "thrust_collar",
    "Thrust ring",
    fields,
    build,
    reminder="Measure the bracket before the washers are bought.",
)
