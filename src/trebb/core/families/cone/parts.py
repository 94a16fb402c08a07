"""Parts of a friction cone: its lining, straight and turned to the taper or cut flat; its hub of three
pieces.
"""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.families.cone.subject import FrictionCone
from trebb.core.fits.joint import Joint, pressed, usual_interference_mm
from trebb.core.friction.cones import Band as StraightBand
from trebb.core.friction.cones import Cone, flat_pattern, half_angle_deg, rivet_shear_mpa, straight_band
from trebb.core.friction.cones import Pattern as FlatPattern
from trebb.core.items import Item
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
    fitted_rows,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.turned import LEAST_WALL_MM, bar_for, is_inch_made
from trebb.core.threads import Band

# Shear that a tubular brass or copper rivet bears at most, MPa (practice).
RIVET_MPA = 25.0
PRESSURE_MPA = 0.5  # of woven and moulded linings, continuous (makers' sheets: 0.3 to 1)
LINING_FORMS = {
    "straight": "a straight band, turned to the taper",
    "pattern": "cut flat to the cone's pattern",
}
STEPS = 12  # of the arc that a pattern is drawn with


def cone_of(inputs: PartInputs) -> FrictionCone:
    """The cone a part is for."""
    assert isinstance(inputs.subject, FrictionCone)
    return inputs.subject


def _cup(inputs: PartInputs) -> tuple[Cone, bool]:
    """The face wanted: by the cup as measured, else as stated; and whether it was measured."""
    subject, read = cone_of(inputs), inputs.measured
    if {"cup.big", "cup.small", "cup.apart"} <= set(read):
        half = half_angle_deg(read["cup.big"], read["cup.small"], read["cup.apart"])
        return Cone(read["cup.big"], read["cup.small"], half), True
    return subject.cone, False


def lining_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The face it is turned to, how it is made, rivets."""
    subject = cone_of(inputs)
    try:
        cup, _ = _cup(inputs)
    except InputError:
        cup = subject.cone
    return (
        PartField("form", "Made as", "straight", LINING_FORMS),
        PartField("big", "Large end", round(cup.big_mm, 3), low_mm=5, high_mm=600),
        PartField("small", "Small end", round(cup.small_mm, 3), low_mm=4, high_mm=600),
        PartField(
            "half", "Half angle, degrees", round(cup.half_deg, 3), low_mm=2, high_mm=60, is_figure=True
        ),
        PartField("least", "At its thinnest", subject.lining_mm, low_mm=0.3, high_mm=30),
        PartField("allowance", "Left for turning", 0.5, low_mm=0.0, high_mm=5, is_free=True),
        PartField("gap", "Gap at the joint", 1.0, low_mm=0.0, high_mm=10, is_free=True),
        PartField("pitch", "Rivets no further apart", 30.0, low_mm=5, high_mm=200, is_free=True),
        PartField(
            "oil",
            "Grooves for oil",
            "yes" if subject.oil_grooves else "no",
            {"no": "none", "yes": "six, sawn across"},
        ),
    )


def cone_lining(inputs: PartInputs) -> Part:
    """The lining by either way of making it. Raises InputError where its diameters give no cone or no body is
    left under it.
    """
    subject, f = cone_of(inputs), facts_of(lining_fields(inputs), inputs.facts)
    face = Cone(number(f, "big"), number(f, "small"), number(f, "half"))
    least, form = number(f, "least"), str(f["form"])
    rivets = max(subject.rivets, face.rivets_needed(number(f, "pitch"))) if subject.rivets else 0
    total = rivets * subject.rows
    rows = _lining_rows(face)
    views: tuple[View, ...]
    thick = least + number(f, "allowance")
    if form == "straight":
        band = straight_band(face, least, number(f, "allowance"), number(f, "gap"))
        thick = band.start_mm
        rows += _band_rows(band, face)
        views = (_strip(band.length_mm, face.axial_mm, rivets, subject.rows, subject.rivet_mm),)
    else:
        pattern = flat_pattern(face, -least)
        rows += _flat_rows(inputs, pattern, thick)
        views = (_ring(pattern.outer_mm, pattern.inner_mm, pattern.angle_deg),)
    _add_rivet_rows(inputs, face, rivets, rows, subject)
    return Part(
        "cone_lining",
        "Lining of a cone",
        "lining, its maker's sheet with it",
        f"lining stock {inputs.size(thick)}, free of asbestos",
        (),
        None,
        tuple(rows),
        _lining_checks(inputs, subject, face, least, total),
        (
            "Old lining: no scraping, blowing or grinding until it is known what it is.",
            "Rivet from the middle of the band outward; the joint's two ends last.",
        ),
        construction=form,
        views=views,
        goes_with=(
            Item(
                "Rivet, tubular, brass or copper",
                (subject.rivet_mm,),
                total,
                "long enough for lining and body",
                ("rivet_mm",),
            ),
        )
        if total
        else (),
    )


def _band_rows(band: StraightBand, face: Cone) -> list[SizeRow]:
    """Of a lining wound straight and turned to its taper."""
    return [
        SizeRow(
            "Body turned parallel to",
            "band",
            Band(band.cylinder_mm - 0.1, band.cylinder_mm),
            "under it",
            True,
            "body",
        ),
        SizeRow(
            "Band, thickness",
            "size",
            band.start_mm,
            f"{band.cut_away:.0%} of it is turned away",
            True,
            "start",
        ),
        SizeRow(
            "Band, length",
            "size",
            band.length_mm,
            "its neutral line in the middle; cut long, try, trim",
            True,
            "length",
        ),
        SizeRow("Band, width", "size", face.axial_mm, "", True, "width"),
    ]


def _flat_rows(inputs: PartInputs, pattern: FlatPattern, thick: float) -> list[SizeRow]:
    """Of a lining cut from flat stock."""
    wide, high = pattern.blank_mm(1)
    return [
        SizeRow("Outer radius", "size", pattern.outer_mm, "flat, neutral line in the middle", True, "outer"),
        SizeRow("Inner radius", "size", pattern.inner_mm, "", True, "inner"),
        SizeRow("Angle", "angle", math.radians(pattern.angle_deg), "of the whole ring", True, "sweep"),
        SizeRow("Stock for it", "text", f"{inputs.size(wide)} × {inputs.size(high)}", "in one piece"),
        SizeRow("Thickness", "size", thick, "even all over", True, "start"),
    ]


def _lining_rows(face: Cone) -> list[SizeRow]:
    return [
        SizeRow(
            "Half angle",
            "angle",
            math.radians(face.half_deg),
            "compound set to it, once for all",
            True,
            "angle",
        ),
        SizeRow(
            "Large end, turned",
            "band",
            Band(face.big_mm, face.big_mm + 0.2),
            "to the cup, by blue",
            True,
            "big",
        ),
    ]


def _add_rivet_rows(
    inputs: PartInputs, face: Cone, rivets: int, rows: list[SizeRow], subject: FrictionCone
) -> None:
    if rivets:
        rows += [
            SizeRow(
                "Rivets",
                "text",
                f"{rivets}" if subject.rows == 1 else f"{subject.rows} rows of {rivets}",
                f"{inputs.size(face.rivet_pitch_mm(rivets))} apart",
                True,
                "rivets",
            ),
            SizeRow(
                "Heads below the face",
                "size",
                subject.over_mm,
                "counterbored so deep from the finished face",
                True,
                "sunk",
            ),
        ]


def _lining_checks(
    inputs: PartInputs, subject: FrictionCone, face: Cone, least: float, rivets: int
) -> tuple[Check, ...]:
    _, is_read = (
        _cup(inputs) if {"cup.big", "cup.small", "cup.apart"} <= set(inputs.measured) else (face, False)
    )
    by_hand = {"big", "small", "half"} <= set(inputs.facts)
    sunk = least - subject.over_mm
    checks = [
        Check(
            is_read or by_hand,
            "It is turned to the cup as measured."
            if is_read
            else "Its face is set by hand."
            if by_hand
            else "The cup is not measured: read it at Survey, the face is turned to it.",
        ),
        Check.of(
            subject.asbestos == "no" or subject.face not in ("woven", "moulded"),
            "The old lining is known to be safe to take off.",
            "What the old lining is, nobody has said: it may be asbestos.",
            ("asbestos",),
        ),
    ]
    if rivets:
        checks.append(
            Check.of(
                sunk >= 0.3,
                f"Heads lie {inputs.size(subject.over_mm)} below the face, {inputs.size(sunk)} of "
                f"lining under them.",
                f"A lining of {inputs.size(least)} is thinner than its rivets want: "
                f"{inputs.size(subject.over_mm)} over their heads and some under them. Thicker, or bonded.",
            )
        )
        if subject.torque_nm:
            shear = rivet_shear_mpa(face.rivet_load_n(subject.torque_nm, rivets), subject.rivet_mm)
            checks.append(
                Check.of(
                    shear <= RIVET_MPA,
                    f"Each rivet sees {shear:.0f} MPa of {RIVET_MPA:.0f}.",
                    f"Each rivet sees {shear:.0f} MPa of {RIVET_MPA:.0f}: more of them, or a second row.",
                )
            )
    if subject.force_n:
        pressure = face.net_pressure_mpa(subject.force_n, rivets, subject.head_mm)
        checks.append(
            Check.of(
                pressure <= PRESSURE_MPA,
                f"The face sees {pressure:.2f} MPa of {PRESSURE_MPA:g}.",
                f"The face sees {pressure:.2f} MPa of {PRESSURE_MPA:g}: a wider one, or fewer heads in it.",
            )
        )
    return tuple(checks)


def _strip(length: float, width: float, rivets: int, rows: int, dia: float) -> View:
    """A straight band with its rivet holes."""
    holes = tuple(
        (length * (i + 0.5) / rivets, width * (r + 1) / (rows + 1), dia)
        for r in range(rows)
        for i in range(rivets)
    )
    return View(
        "band, flat",
        (((0.0, 0.0), (length, 0.0), (length, width), (0.0, width)),),
        holes=holes,
        measured=(Measured((0, 0), (length, 0), -2.2), Measured((length, 0), (length, width), 2.4, True)),
    )


def _ring(outer: float, inner: float, angle: float) -> View:
    """The flat pattern, its middle upward."""
    half = math.radians(angle) / 2
    steps = [half * (2 * k / STEPS - 1) for k in range(STEPS + 1)]
    arc = [(outer * math.sin(a), outer * math.cos(a)) for a in steps]
    back = [(inner * math.sin(a), inner * math.cos(a)) for a in reversed(steps)]
    return View(
        "pattern, flat",
        (tuple(arc + back),),
        measured=(Measured(arc[0], arc[-1], 2.4),),
    )


def hub_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Core, body and flange, each pressed on the core."""
    subject, inch = cone_of(inputs), is_inch_made(inputs)
    body = subject.small_mm - 2 * subject.lining_mm
    return (
        material_field("iron"),
        PartField("bore", "Bore", round_size(0.3 * body, inch), low_mm=2, high_mm=300),
        PartField("core", "Core's outside", round_size(0.55 * body, inch), low_mm=4, high_mm=400),
        PartField("body", "Body's outside", round(body, 2), low_mm=6, high_mm=600),
        PartField(
            "body_length", "Body, length", round_size(subject.cone.axial_mm, inch), low_mm=3, high_mm=300
        ),
        PartField("flange", "Flange's outside", round_size(subject.big_mm + 6, inch), low_mm=6, high_mm=700),
        PartField("flange_length", "Flange, thickness", round_size(8.0, inch), low_mm=2, high_mm=60),
        PartField("pin", "Pin across", round_size(5.0, inch), low_mm=1.5, high_mm=20, is_free=True),
    )


def cone_hub(inputs: PartInputs) -> Part:
    """A hub of three pieces, core, body and flange, pressed and joined by a taper pin. Raises InputError
    where one does not go into the other.
    """
    f = facts_of(hub_fields(inputs), inputs.facts)
    bore, core, body, flange = (number(f, k) for k in ("bore", "core", "body", "flange"))
    long, thick, pin = number(f, "body_length"), number(f, "flange_length"), number(f, "pin")
    if not bore < core < body:
        raise InputError(
            f"bore {inputs.size(bore)}, core {inputs.size(core)}, body {inputs.size(body)}",
            "each goes inside the next",
        )
    metal = str(f["material"])
    grip = 0.5 * usual_interference_mm(core)  # the pin holds it: the press only seats it
    joint = pressed(core, long, body, metal, wanted_mm=grip, press_n=inputs.workshop.press_n)
    seat = Band(core + grip, core + grip + 0.008)
    rim = Section("body", "plain", long, body, Band(body - 0.05, body))
    order = hub_order(body, flange, has_rivets=cone_of(inputs).rivets > 0)
    bar, passes = bar_for(inputs, flange, long + thick, skin_mm=2.0, ends_mm=12.0)
    return Part(
        "cone_hub",
        "Hub of a cone, three pieces",
        material(metal),
        bar,
        (
            Section("flange", "plain", thick, flange),
            rim,
            Section("core", "plain", thick, core, seat),
        ),
        Section("bore", "plain", long + 2 * thick, bore, Band(bore, bore + 0.02)),
        (*_hub_rows(seat, order, bore, core, pin), *fitted_rows(rim)),
        _hub_checks(inputs, joint, bore, core, body, flange, pin, passes),
        ("Drill and ream the pin's hole with all three pressed home, not before.",),
        construction="three",
        features=(
            Feature("taper_hole", thick + long / 2, 0.0, pin, words="taper pin, direction marked"),
            Feature("chamfer", 0.0, 0.5),
            Feature("chamfer", long + 2 * thick, 0.5),
        ),
    )


def _hub_checks(
    inputs: PartInputs,
    joint: Joint,
    bore: float,
    core: float,
    body: float,
    flange: float,
    pin: float,
    passes: Check,
) -> tuple[Check, ...]:
    return (
        Check(joint.verdict == "holds", joint.words),
        Check.of(
            (core - bore) / 2 >= LEAST_WALL_MM + pin / 4,
            f"{inputs.size((core - bore) / 2)} of core stands round the bore.",
            f"Only {inputs.size((core - bore) / 2)} of core round the bore: the pin leaves nothing.",
        ),
        Check.of(
            flange > body,
            "The flange stands over the body: the lining is riveted before it goes on.",
            "A flange no larger than the body stops nothing.",
        ),
        passes,
    )


def _hub_rows(
    seat: Band, order: tuple[str, ...], bore: float, core: float, pin: float
) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Core, outside", "band", seat, "presses into body and flange", True, key="core"),
        SizeRow("Body, bored", "band", Band(core, core + 0.008), "for the core", True, key="bored"),
        SizeRow("Bore", "band", Band(bore, bore + 0.02), "finished last, true to the face", True, key="bore"),
        SizeRow("Pin", "size", pin, "taper pin across, its direction marked on both faces", True, key="pin"),
        SizeRow("Order", "text", " → ".join(order), "what must pass goes first", True, key="order"),
    )


def hub_order(body_mm: float, flange_mm: float, *, has_rivets: bool) -> tuple[str, ...]:
    """In which order lining, body, flange and core go together: what the flange would cover goes before it.

    Rivets are set from outside and upset inside the body: with the core in, or under a flange that
    stands over the body, the punch does not reach them.
    """
    lining_first = has_rivets
    order = ["body"]
    if lining_first:
        order.append("lining riveted")
    order += ["core pressed in", "flange pressed on" if flange_mm > body_mm else "flange, any time", "pin"]
    return (*order, "face turned to the taper")


FAMILIES = (
    PartFamily(
        "cone_lining",
        "Lining of a cone",
        lining_fields,
        cone_lining,
        "cone",
        "Asked what the old one is? Rivets reachable before the flange goes on?",
        made_on_it=True,
    ),
    PartFamily(
        "cone_hub",
        "Hub of a cone",
        hub_fields,
        cone_hub,
        "cone",
        "Rivet the lining while its inside is still open.",
    ),
)
