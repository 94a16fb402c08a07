"""New jaws of a vice and plugs for what was drilled into its bed."""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.families.jaws.subject import Jaws
from trebb.core.fits.joint import pressed
from trebb.core.heat_treatment import STEELS, HardeningSteel, growth_mm, hardening_steel, temper_for
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
from trebb.core.parts.turned import bar_words, is_inch_made
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED, SCREWS, Fastener, cap_head_mm

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
        PartField("vee", "Vee for round stock", wide, low_mm=0, high_mm=200, is_free=True),
        PartField("thick", "Thickness", float(thick), low_mm=3, high_mm=100),
        PartField("screw", "Cap screws", jaws.screw, SCREWS),
        PartField("apart", "Screws apart", jaws.apart_mm, low_mm=8, high_mm=500),
        PartField("up", "Screws up", jaws.up_mm, low_mm=3, high_mm=250),
        PartField("screw_long", "Screws, under the head", screw, low_mm=5, high_mm=150, is_free=True),
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
    _refuse_holes(inputs, bore, long, high, apart, up)
    most = vee_most_mm(high, up, screw)
    steel = hardening_steel(str(f["steel"]))
    colour, temper, hrc = temper_for(steel, number(f, "hrc"))
    grows = growth_mm(steel, long)
    under = thick - head_high - 0.5
    held = number(f, "screw_long") - under
    middle = high - ROOM_MM - vee / 2
    small, large = vee_holds_mm(vee)
    xs = ((long - apart) / 2, (long + apart) / 2)
    rows = _jaw_rows(inputs, thread, bore, steel, grows, thick, head_high, colour, temper, hrc)
    _add_vee_rows(inputs, middle, rows, vee, small, large)
    checks = _jaw_checks(inputs, f, thread, under, held)
    _add_vee_checks(inputs, most, checks, thick, vee)
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
        views=_jaw_views(xs, counter, lines, side, long, high, thick, up),
    )


def _refuse_holes(inputs: PartInputs, bore: float, long: float, high: float, apart: float, up: float) -> None:
    if apart + bore >= long or up - bore / 2 <= 0 or up + bore / 2 >= high:
        raise InputError(
            f"counterbores of {inputs.size(bore)} in {inputs.size(long)} × {inputs.size(high)}",
            "they lie inside the plate: nearer together, or smaller screws",
        )


def _jaw_views(
    xs: tuple[float, float],
    counter: tuple[tuple[float, float, float], ...],
    lines: tuple[tuple[tuple[float, float], ...], ...],
    side: list[tuple[float, float]],
    long: float,
    high: float,
    thick: float,
    up: float,
) -> tuple[View, ...]:
    end = [Measured((0, 0), (thick, 0), -2.2, key="thick")]
    if len(side) > 4:  # its vee: how deep, how wide, where its middle stands
        (_, low), (root, middle), (_, top) = side[2:5]
        end += [
            Measured((root, high), (thick, high), 2.2),
            Measured((thick, low), (thick, top), 2.4, True),
            Measured((0, 0), (0, middle), -2.4, True),
        ]
    return (
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
        View("from its end" + (", vee of 90°" if len(side) > 4 else ""), (tuple(side),), measured=tuple(end)),
    )


def _add_vee_checks(inputs: PartInputs, most: float, checks: list[Check], thick: float, vee: float) -> None:
    if vee > 0:
        checks += [
            Check.of(
                vee <= most + 1e-6,
                "The vee stays clear of screws and edge.",
                f"A vee of {inputs.size(vee)} meets the counterbores: {inputs.size(most)} at most.",
            ),
            Check.of(
                thick - vee / 2 >= UNDER_VEE_MM - 1e-6,
                f"{inputs.size(thick - vee / 2)} stays behind the vee.",
                f"Only {inputs.size(thick - vee / 2)} stays behind the vee: "
                f"{inputs.size(vee / 2 + UNDER_VEE_MM)} thick.",
            ),
        ]


def _add_vee_rows(
    inputs: PartInputs, middle: float, rows: list[SizeRow], vee: float, small: float, large: float
) -> None:
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


def _jaw_checks(
    inputs: PartInputs, f: dict[str, str | float], thread: Fastener, under: float, held: float
) -> list[Check]:
    return [
        Check.of(
            under >= LEAST_UNDER_HEAD * thread.major_mm,
            f"{inputs.size(under)} of metal lies under the screws' heads.",
            f"Only {inputs.size(max(0.0, under))} under the screws' heads: a thicker plate, or "
            f"smaller screws.",
        ),
        Check.of(
            held >= ENGAGED * thread.major_mm,
            f"The screws hold {inputs.size(held)} of thread in the jaw.",
            f"The screws hold only {inputs.size(max(0.0, held))} of thread: longer by "
            f"{inputs.size(ENGAGED * thread.major_mm - held)}.",
        ),
        Check.of(
            held <= number(f, "hole_deep") - 1.0,
            "They end before the hole does.",
            f"They meet the ground of their holes, {inputs.size(number(f, 'hole_deep'))} deep: "
            f"shorter screws, or the "
            "plate stays loose.",
        ),
    ]


def _jaw_rows(
    inputs: PartInputs,
    thread: Fastener,
    bore: float,
    steel: HardeningSteel,
    grows: float,
    thick: float,
    head_high: float,
    colour: str,
    temper: int,
    hrc: int,
) -> list[SizeRow]:
    return [
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
            Check.of(
                "hole" in inputs.facts,
                "The hole is the one measured.",
                "The hole is not measured: bore it round, read it, set it here.",
            ),
            Check(joint.verdict == "holds", joint.words),
        ),
        ("A flat along it lets the air out.", "Of its own metal: another shows for ever."),
        features=(Feature("chamfer", 0.0, 0.5),),
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
        made_on_it=True,
    ),
)
