"""A plug to be broached, a collar to a stack of faces."""

from __future__ import annotations

from trebb.core.errors import InputError
from trebb.core.families.shaft.seats import seat_size
from trebb.core.families.shaft.subject import Shaft
from trebb.core.fits import hole_limits
from trebb.core.fits.drills import drill_under
from trebb.core.fits.joint import pressed, usual_interference_mm
from trebb.core.fits.stack import Stack, StackItem, stack_up
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Feature,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    length_check,
    material_field,
    mean_reading,
    number,
    readings_of,
    round_size,
)
from trebb.core.parts.turned import LEAST_WALL_MM, bar_words, is_inch_made
from trebb.core.shafts import squares
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED
from trebb.core.units import show_small


def plug_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Socket's square and the hub it stands in; the hole bored for the plug."""
    s, inch = inputs.about(Shaft), is_inch_made(inputs)
    square = s.square_mm or inputs.measured.get("square", 8.0)
    least = squares.plug_least_mm(square)
    return (
        material_field("carbon"),
        PartField("square", "Square over flats", square, low_mm=2, high_mm=80),
        PartField(
            "bored",
            "Hub bored to",
            f"{round_size(least + 1, inch, up=True):.3f}",
            low_mm=3,
            high_mm=200,
            is_readings=True,
        ),
        PartField("hub", "Hub's outside", s.hub_mm, low_mm=4, high_mm=400),
        PartField("length", "Length", round_size(s.hub_length_mm, inch), low_mm=3, high_mm=300),
        PartField("pin_dia", "Pin across", round_size(4.0, inch), low_mm=1, high_mm=20, is_free=True),
    )


def square_plug(inputs: PartInputs) -> Part:
    """A plug pressed in the bored socket, drilled and broached. Raises InputError where no wall is left."""
    f = facts_of(plug_fields(inputs), inputs.facts)
    square, hub, length = number(f, "square"), number(f, "hub"), number(f, "length")
    bored = mean_reading(f, "bored")
    corner = squares.plug_corner_wall_mm(bored, square)
    joint = pressed(
        bored,
        length,
        hub,
        str(f["material"]),
        wanted_mm=min(0.02, usual_interference_mm(bored)),
        press_n=inputs.workshop.press_n,
    )
    size = Band(joint.spigot_mm - 0.004, joint.spigot_mm + 0.004)
    drill, drill_mm = drill_under(square, inch=is_inch_made(inputs))
    wall = (hub - bored) / 2
    return Part(
        "square_plug",
        "Plug, to be broached",
        material(str(f["material"])),
        bar_words(inputs, bored + 1.5, length + 8),
        (Section("plug", "plain", length, size.middle_mm, size),),
        Section("drilled", "plain", length, drill_mm),
        (
            SizeRow("Outside", "band", size, "presses into the hub as bored", True, key="outside"),
            SizeRow("Drill through", "text", drill, "the square's inside circle", key="drill"),
            SizeRow("Broach", "band", Band(square + 0.02, square + 0.08), "over flats", True, key="square"),
            SizeRow("Wall at its corners", "size", corner),
        ),
        (
            Check.of(
                corner >= LEAST_WALL_MM,
                f"{inputs.size(corner)} of wall at the corners.",
                f"Only {inputs.size(corner)} at the corners: bore the hub to "
                f"{inputs.size(squares.plug_least_mm(square))} or more.",
            ),
            Check.of(
                wall >= LEAST_WALL_MM,
                f"{inputs.size(wall)} of hub stays round it.",
                f"Only {inputs.size(wall)} of hub is left: a smaller plug, or a new hub.",
            ),
            Check.of(
                "bored" in inputs.facts,
                "The hub's hole is the one measured.",
                "The hub's hole is not measured: bore it, then set it here.",
            ),
            Check(joint.verdict == "holds", joint.words),
        ),
        (
            "Buy or borrow the broach before anything is bored.",
            "Broach it out of the hub, then press, then pin across.",
        ),
        construction="broached",
        features=(Feature("square", 0.0, length, square, 0.0, words=f"broached {inputs.size(square)}"),),
    )


COLLARS = {"plain": "plain, pinned", "set_screw": "with a set screw", "split": "split, clamped"}


def collar_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Lengths of the stack, read several times each; bore and outside."""
    inch, d = is_inch_made(inputs), seat_size(inputs, "left")
    room = round_size(60.0, inch)
    return (
        material_field("carbon"),
        PartField("kind", "Collar", "set_screw", COLLARS),
        PartField("room", "Shoulder to shoulder", f"{room:.3f}", low_mm=2, high_mm=2000, is_readings=True),
        PartField(
            "first", "Taken up, first", f"{room - 12:.3f}", low_mm=0.05, high_mm=2000, is_readings=True
        ),
        PartField("second", "Taken up, second", "0.5", low_mm=0.0, high_mm=500, is_readings=True),
        PartField("float", "Float to leave", 0.05, low_mm=0.0, high_mm=1.0, is_small=True, is_free=True),
        PartField("bore", "Bore", inputs.measured.get("size.left", d), low_mm=2, high_mm=300),
        PartField("outside", "Outside", round_size(1.7 * d, inch, up=True), low_mm=3, high_mm=400),
    )


def stack_of(f: dict[str, str | float]) -> Stack:
    """What the faces leave for the collar. Fields as stored: lengths in mm."""
    return stack_up(
        (
            StackItem("shoulder to shoulder", readings_of(f["room"]), +1),
            StackItem("taken up, first", readings_of(f["first"]), -1),
            StackItem("taken up, second", readings_of(f["second"]), -1),
        ),
        number(f, "float"),
    )


def stack_collar(inputs: PartInputs) -> Part:
    """A collar that closes a stack of faces, a facing cut left. Raises InputError where nothing is left."""
    f = facts_of(collar_fields(inputs), inputs.facts)
    stack = stack_of(f)
    bore_mm, outside = number(f, "bore"), number(f, "outside")
    bore = band_of(hole_limits(bore_mm, "H7"))
    few = [
        w
        for k, w in (
            ("room", "shoulder to shoulder"),
            ("first", "the first width"),
            ("second", "the second width"),
        )
        if len(readings_of(f[k])) < 3
    ]
    missing = [
        w
        for k, w in (("room", "shoulder to shoulder"), ("first", "the first width"))
        if k not in inputs.facts
    ]
    wall, kind = (outside - bore_mm) / 2, str(f["kind"])
    width = stack.make_mm
    if wall <= 0:
        raise InputError(
            f"an outside of {outside:.3g} mm over a bore of {bore_mm:.3g} mm", "the outside is the larger"
        )
    features = [Feature("chamfer", 0.0, 0.5), Feature("chamfer", width, 0.5)]
    if kind == "set_screw":
        features.append(
            Feature(
                "tap",
                width / 2,
                width_mm=LISTED["m5"].major_mm if not is_inch_made(inputs) else LISTED["no10_24"].major_mm,
                words="set screw",
            )
        )
    return Part(
        "stack_collar",
        "Collar to the stack of faces",
        material(str(f["material"])),
        bar_words(inputs, outside + 1.5, width + 6),
        (Section("collar", "plain", width, outside),),
        Section("bore", "plain", width, bore.middle_mm, bore),
        _collar_rows(inputs, stack, bore, width),
        _collar_checks(inputs, few, missing, width, outside, wall),
        (
            "Both faces square to the bore in one setting.",
            "Face a little at a time on a mandrel, and try it.",
        ),
        construction=kind,
        features=tuple(features),
    )


def _collar_checks(
    inputs: PartInputs, few: list[str], missing: list[str], width: float, outside: float, wall: float
) -> tuple[Check, ...]:
    return (
        Check.of(
            not missing,
            "The stack is measured.",
            f"Not measured: {' and '.join(missing)}. A collar by guess binds or rattles.",
        ),
        Check(
            True,
            "Each face was read at three places or more."
            if not few
            else f"Read three times over before facing anything: {', '.join(few)}.",
        ),
        Check.of(
            wall >= 2.5,
            f"{inputs.size(wall)} of wall.",
            f"Only {inputs.size(wall)} of wall: a set screw splits it.",
        ),
        length_check(inputs, "collar", width, outside),
    )


def _collar_rows(inputs: PartInputs, stack: Stack, bore: Band, width: float) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Bore", "band", bore, "H7", True, key="bore"),
        SizeRow(
            "The stack leaves",
            "size",
            stack.left_mm,
            f"by the means; ± {show_small(stack.statistical_mm, inputs.system)} in 95 of 100",
            key="left",
        ),
        SizeRow("With every width at its worst", "band", Band(stack.worst_low_mm, stack.worst_high_mm)),
        SizeRow(
            "Make it",
            "size",
            width,
            f"rounded up: {show_small(stack.facing_mm, inputs.system)} stay to face to fit",
            True,
            key="make",
        ),
        SizeRow(
            "Faced to",
            "band",
            Band(stack.left_mm - 0.02, stack.left_mm),
            "at the last fit",
            True,
            key="faced",
        ),
    )
