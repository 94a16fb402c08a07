"""Jaw plates, plugs for holes, index plates; and what a cutter is ground to."""

from __future__ import annotations

import math

from trebb.core.bores.tapers import shift_of_dia
from trebb.core.errors import InputError
from trebb.core.fits.joint import pressed
from trebb.core.gears import dividing
from trebb.core.heat_treatment import STEELS, growth_mm, hardening_steel, temper_for
from trebb.core.machine.cutter import Cutter
from trebb.core.machine.plates import IndexPlate, Jaws
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Feature,
    Measured,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    View,
    facts_of,
    material_field,
    mean_reading,
    number,
    round_size,
)
from trebb.core.parts.gear_parts import dividing_words
from trebb.core.parts.turned import THREAD_CHOICES, bar_words, is_inch_made
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED, cap_head_mm
from trebb.core.units import show_small

ROOM_MM, UNDER_VEE_MM = 1.5, 4.0
LEAST_UNDER_HEAD = 0.6  # of a screw's diameter, metal under its head
ENGAGED = 1.2  # diameters of thread in the jaw behind


def jaws_of(inputs: PartInputs) -> Jaws:
    """The vise a part is for."""
    assert isinstance(inputs.subject, Jaws)
    return inputs.subject


def jaw_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The plate, its screws, its vee and its steel."""
    jaws = jaws_of(inputs)
    widest = vee_most_mm(jaws.high_mm, jaws.up_mm, jaws.screw)
    wide = max(0.0, math.floor(widest))
    d, inch = LISTED[jaws.screw].major_mm, is_inch_made(inputs)
    head = cap_head_mm(jaws.screw)[1] + 0.5
    thick = max(jaws.thick_mm, math.ceil(max(wide / 2 + UNDER_VEE_MM, head + LEAST_UNDER_HEAD * d)))
    screw = round_size(thick - head + 1.5 * d, inch, up=True)
    return (
        PartField("steel", "Steel", "oil", {key: s.label for key, s in STEELS.items()}),
        PartField("hrc", "Hardness wanted, HRC", 56.0, low_mm=0, high_mm=66, is_figure=True),
        PartField("long", "Along", jaws.long_mm, low_mm=20, high_mm=600),
        PartField("high", "Height", jaws.high_mm, low_mm=8, high_mm=300),
        PartField("vee", "Vee for round stock", wide, low_mm=0, high_mm=200),
        PartField("thick", "Thickness", float(thick), low_mm=3, high_mm=100),
        PartField(
            "screw", "Cap screws", jaws.screw, {k: v for k, v in THREAD_CHOICES.items() if k != "none"}
        ),
        PartField("apart", "Screws apart", jaws.apart_mm, low_mm=8, high_mm=500),
        PartField("up", "Screws up", jaws.up_mm, low_mm=3, high_mm=250),
        PartField(
            "screw_long",
            "Screws, under the head",
            screw,
            low_mm=5,
            high_mm=150,
        ),
        PartField(
            "hole_deep", "Threaded hole behind", round_size(2.5 * d, inch, up=True), low_mm=3, high_mm=150
        ),
    )


def vee_most_mm(high_mm: float, up_mm: float, screw: str) -> float:
    """Widest 90° vee along the plate that stays clear of the counterbores below it and of the edge above."""
    counterbore = cap_head_mm(screw)[0] + 1.0
    return max(0.0, high_mm - ROOM_MM - (up_mm + counterbore / 2 + ROOM_MM))


def vee_holds_mm(wide_mm: float) -> tuple[float, float]:
    """Smallest and largest round stock that a 90° vee of a width holds against a flat jaw: it stands out
    of the plate by a tenth of itself, and touches below the vee's corners.
    """
    half = wide_mm / 2
    # Stands out r √2 + r − depth ≥ 0.2 r; touches at r/√2 from the middle.
    return 2 * half / (math.sqrt(2) + 0.8), 2 * half * math.sqrt(2)


def jaw_plate(inputs: PartInputs) -> Part:
    """A jaw plate, counterbored, with a vee as high as its screws allow. Raises InputError where these are no
    plate.
    """
    f = facts_of(jaw_fields(inputs), inputs.facts)
    long, high, thick, vee = (number(f, k) for k in ("long", "high", "thick", "vee"))
    apart, up, screw = number(f, "apart"), number(f, "up"), str(f["screw"])
    thread = LISTED[screw]
    head, head_high = cap_head_mm(screw)
    bore = head + 1.0
    if apart + bore >= long or up - bore / 2 <= 0 or up + bore / 2 >= high:
        raise InputError(
            f"counterbores of {inputs.size(bore)} in {inputs.size(long)} × {inputs.size(high)}",
            "they lie inside the plate: nearer together, or smaller screws",
        )
    most = vee_most_mm(high, up, screw)
    steel = hardening_steel(str(f["steel"]))
    colour, temper, hrc = temper_for(steel, number(f, "hrc"))
    grows = growth_mm(steel, long)
    under = thick - head_high - 0.5
    held = number(f, "screw_long") - under
    middle = high - ROOM_MM - vee / 2
    small, large = vee_holds_mm(vee)
    xs = ((long - apart) / 2, (long + apart) / 2)
    rows = [
        SizeRow(
            "Thickness, ground",
            "band",
            Band(thick - 0.01, thick + 0.01),
            "both plates in one setting",
            True,
            key="thick",
        ),
        SizeRow("Left for grinding", "small", 0.25 + grows, "a side; it may grow in the fire", key="left"),
        SizeRow("Holes", "size", thread.major_mm + 0.5, f"two, for {thread.name}", True, key="hole"),
        SizeRow(
            "Counterbores",
            "size",
            bore,
            f"{inputs.size(head_high + 0.5)} deep: heads below the face",
            True,
            key="counterbore",
        ),
        SizeRow(
            "Harden",
            "text",
            f"{steel.label}, {steel.quench}",
            f"{steel.harden_c[0]} to {steel.harden_c[1]} °C",
            key="harden",
        ),
        SizeRow("Temper", "text", f"{colour}, {temper} °C", f"about {hrc} HRC", key="temper"),
    ]
    if vee > 0:
        rows += [
            SizeRow(
                "Vee",
                "size",
                vee,
                f"90°, {inputs.size(vee / 2)} deep, its middle {inputs.size(middle)} up",
                True,
                key="vee",
            ),
            SizeRow(
                "Holds round stock",
                "text",
                f"{inputs.size(small)} to {inputs.size(large)}",
                "against a flat jaw",
            ),
        ]
    checks = [
        Check(
            under >= LEAST_UNDER_HEAD * thread.major_mm,
            f"{inputs.size(under)} of metal lies under the screws' heads."
            if under >= LEAST_UNDER_HEAD * thread.major_mm
            else f"Only {inputs.size(max(0.0, under))} under the screws' heads: a thicker plate, or "
            f"smaller screws.",
        ),
        Check(
            held >= ENGAGED * thread.major_mm,
            f"The screws hold {inputs.size(held)} of thread in the jaw."
            if held >= ENGAGED * thread.major_mm
            else f"The screws hold only {inputs.size(max(0.0, held))} of thread: longer by "
            f"{inputs.size(ENGAGED * thread.major_mm - held)}.",
        ),
        Check(
            held <= number(f, "hole_deep") - 1.0,
            "They end before the hole does."
            if held <= number(f, "hole_deep") - 1.0
            else f"They meet the ground of their holes, {inputs.size(number(f, 'hole_deep'))} deep: "
            f"shorter screws, or the "
            "plate stays loose.",
        ),
    ]
    if vee > 0:
        checks += [
            Check(
                vee <= most + 1e-6,
                "The vee stays clear of screws and edge."
                if vee <= most + 1e-6
                else f"A vee of {inputs.size(vee)} meets the counterbores: {inputs.size(most)} at most.",
            ),
            Check(
                thick - vee / 2 >= UNDER_VEE_MM - 1e-6,
                f"{inputs.size(thick - vee / 2)} stays behind the vee."
                if thick - vee / 2 >= UNDER_VEE_MM - 1e-6
                else f"Only {inputs.size(thick - vee / 2)} stays behind the vee: "
                f"{inputs.size(vee / 2 + UNDER_VEE_MM)} thick.",
            ),
        ]
    counter = tuple((x, up, bore) for x in xs) + tuple((x, up, thread.major_mm + 0.5) for x in xs)
    lines: tuple[tuple[tuple[float, float], ...], ...] = ()
    side = [(0.0, 0.0), (thick, 0.0), (thick, high), (0.0, high)]
    if vee > 0:
        low, top = middle - vee / 2, middle + vee / 2
        lines = tuple(((0.0, y), (long, y)) for y in (low, middle, top))
        side = [
            (0.0, 0.0),
            (thick, 0.0),
            (thick, low),
            (thick - vee / 2, middle),
            (thick, top),
            (thick, high),
            (0.0, high),
        ]
    return Part(
        "jaw_plate",
        "Jaw plate",
        steel.label,
        f"flat {inputs.size(high + 2)} × {inputs.size(thick + 1)}, {inputs.size(2 * long + 10)} for the pair",
        (),
        None,
        tuple(rows),
        tuple(checks),
        ("Two alike, ground together after hardening.", "Break every edge but the working ones."),
        construction="vee" if vee > 0 else "plain",
        ways=(str(f["steel"]), f"{number(f, 'hrc'):g}"),
        views=(
            View(
                "front",
                (((0.0, 0.0), (long, 0.0), (long, high), (0.0, high)),),
                lines=lines,
                holes=counter,
                measured=(
                    Measured((0, 0), (long, 0), -2.2),
                    Measured((long, 0), (long, high), 2.4, True),
                    Measured((0, 0), (0, up), -2.4, True),
                    Measured((xs[0], high), (xs[1], high), 2.4),
                ),
            ),
            View("end", (tuple(side),), measured=(Measured((0, 0), (thick, 0), -2.2),)),
        ),
    )


def plug_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The hole as bored round, its depth, the metal."""
    jaws = jaws_of(inputs)
    hole = jaws.mark_mm + 1.0
    return (
        material_field("iron"),
        PartField("hole", "Bored to", f"{hole:.3f}", low_mm=2, high_mm=80, is_readings=True),
        PartField("deep", "Deep", max(6.0, hole), low_mm=2, high_mm=200),
        PartField("around", "Metal round it", max(25.0, 3 * hole), low_mm=6, high_mm=1000),
    )


def hole_plug(inputs: PartInputs) -> Part:
    """A plug pressed in a bored hole and skimmed flush. Raises InputError where no metal is round it."""
    f = facts_of(plug_fields(inputs), inputs.facts)
    hole, deep, around = mean_reading(f, "hole"), number(f, "deep"), number(f, "around")
    metal = str(f["material"])
    joint = pressed(
        hole,
        deep,
        around,
        metal,
        press_n=inputs.workshop.press_n,
    )
    band = Band(joint.spigot_mm - 0.004, joint.spigot_mm + 0.004)
    long = deep + 1.0
    return Part(
        "hole_plug",
        "Plug for a hole",
        material(metal),
        bar_words(inputs, hole + 1.5, long + 8),
        (Section("plug", "plain", long, band.middle_mm, band),),
        None,
        (
            SizeRow("Outside", "band", band, "presses into the hole as bored", True, key="outside"),
            SizeRow("Stands proud", "size", 1.0, "skimmed flush with the top", key="proud"),
        ),
        (
            Check(
                "hole" in inputs.facts,
                "The hole is the one measured."
                if "hole" in inputs.facts
                else "The hole is not measured: bore it round, read it, set it here.",
            ),
            Check(joint.verdict == "holds", joint.words),
        ),
        ("A flat along it lets the air out.", "Of its own metal: another shows for ever."),
        features=(Feature("chamfer", 0.0, 0.5),),
    )


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
        PartField("work", "Work's radius", plate.work_mm, low_mm=1, high_mm=1000),
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
    points = [
        (circle / 2 * math.sin(2 * math.pi * k / holes), circle / 2 * math.cos(2 * math.pi * k / holes))
        for k in range(holes)
    ]
    round_ = [
        (outside / 2 * math.sin(2 * math.pi * k / 48), outside / 2 * math.cos(2 * math.pi * k / 48))
        for k in range(48)
    ]
    return Part(
        "index_plate",
        f"Index plate of {holes} holes",
        material(str(f["material"])),
        f"plate {inputs.size(outside + 4)} square, {inputs.size(number(f, 'thick') + 1)} thick",
        (),
        None,
        (
            SizeRow("Holes", "text", f"{holes}", f"on {inputs.size(circle)}", True, key="holes"),
            SizeRow("Hole", "band", Band(detent, detent + 0.012), "reamed to the detent", True, key="hole"),
            SizeRow(
                "Bore", "band", Band(bore, bore + 0.021), "first, and everything from it", True, key="bore"
            ),
            SizeRow("From hole to hole", "size", chord, "straight across, to check by", True, key="chord"),
            SizeRow("Each step", "text", dividing_words(holes, head), f"{head}:1", True, key="step"),
            SizeRow("At the work: detent", "small", play, "both ways, by a close pin"),
            SizeRow("At the work: dividing", "small", off, "by the head's own rounding"),
        ),
        (
            Check(
                closes,
                f"{divisions} divisions close on it."
                if closes
                else f"{divisions} divisions do not close on {holes} holes: {divisions} or a multiple would."
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
        ),
        (
            "Bore and one face in one setting; every hole from that.",
            "Chamfer each for the detent; stamp numbers; blue it twice.",
        ),
        construction="index",
        views=(
            View(
                "face",
                (tuple(round_),),
                holes=(*((x, y, detent) for x, y in points), (0.0, 0.0, bore)),
                measured=(Measured((-outside / 2, 0), (outside / 2, 0), -2.2),),
            ),
        ),
    )


def cutter_of(inputs: PartInputs) -> Cutter:
    """The cutter that is ground."""
    assert isinstance(inputs.subject, Cutter)
    return inputs.subject


def grind_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Where it comes to."""
    cutter = cutter_of(inputs)
    most = max([v for k, v in inputs.measured.items() if k.startswith("grind.")] + [0.0])
    return (
        PartField("dia", "Diameter now", cutter.dia_mm, low_mm=1, high_mm=150),
        PartField("off", "Off the highest flute", round(most, 4), low_mm=0, high_mm=2, is_small=True),
        PartField(
            "length",
            "Flutes, length",
            round_size(5 * cutter.dia_mm, is_inch_made(inputs)),
            low_mm=3,
            high_mm=600,
        ),
        PartField("land", "Margin left", 0.3, low_mm=0.05, high_mm=3),
    )


def cutter_grind(inputs: PartInputs) -> Part:
    """What each flute is ground by so that all cut alike, and the size it then makes."""
    cutter, f = cutter_of(inputs), facts_of(grind_fields(inputs), inputs.facts)
    off, dia, long = number(f, "off"), number(f, "dia"), number(f, "length")
    each = {k: inputs.measured.get(f"grind.{k}") for k in range(1, cutter.count + 1)}
    known = all(v is not None for v in each.values())
    rows = [
        SizeRow(
            f"Flute {k} at {cutter.angles_deg[k - 1]:g}°",
            "small" if v is not None else "text",
            v if v is not None else "not read",
            "off its back, at the edge",
            key=f"flute.{k}",
        )
        for k, v in each.items()
    ]
    # The flute that is lowest is only touched.
    left = dia - (2 * off if cutter.count % 2 == 0 else off)
    rows.append(
        SizeRow("Over the flutes then", "band", Band(left - 0.006, left), "all touched", True, key="dia")
    )
    if cutter.ratio:
        rows.append(
            SizeRow(
                "Goes deeper by", "size", shift_of_dia(cutter.ratio, 2 * off), f"on its 1 in {cutter.ratio:g}"
            )
        )
    return Part(
        "cutter_grind",
        "Cutter, ground again",
        "as it is",
        f"the cutter itself, {inputs.size(dia)}",
        (Section("flutes", "plain", long, left, Band(left - 0.006, left)),),
        None,
        tuple(rows),
        (
            Check(
                known,
                "Every flute is read."
                if known
                else "Its flutes are not all read: do that first, in its holder.",
            ),
            Check(
                off <= 0.3,
                f"{show_small(off, inputs.system)} off the highest leaves its margin."
                if off <= 0.3
                else f"{show_small(off, inputs.system)} is more than a margin has: backed off anew, or "
                f"another cutter.",
            ),
            Check(
                cutter.kind == "taper" or off <= 0.01,
                "It keeps its size."
                if off <= 0.01
                else "On a taper it only goes deeper."
                if cutter.kind == "taper"
                else f"It makes {inputs.size(left)} then, no longer its name: mark it.",
            ),
        ),
        ("Between its own centres, as it was made; a chuck puts its own runout in.",),
        construction="ground",
    )


JAW_FAMILIES = (
    PartFamily(
        "jaw_plate",
        "Jaw plate",
        jaw_fields,
        jaw_plate,
        "jaws",
        "Counterbores and vee before hardening; ground after.",
    ),
    PartFamily(
        "hole_plug",
        "Plug for a hole",
        plug_fields,
        hole_plug,
        "jaws",
        "Bore the mark round first: it is measured, then fitted.",
    ),
)
INDEX_FAMILY = PartFamily(
    "index_plate",
    "Index plate",
    index_fields,
    index_plate,
    "index_plate",
    "Count the holes when half are drilled, and at the last one.",
)
CUTTER_FAMILY = PartFamily(
    "cutter_grind",
    "Cutter, ground again",
    grind_fields,
    cutter_grind,
    "cutter",
    "Its centres sound? Stone the burr off them first.",
)
