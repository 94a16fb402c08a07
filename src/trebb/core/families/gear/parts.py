"""A new gear: its blank, its teeth, what cuts it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.families.gear.spacers import gear_of, gear_sleeve, gear_spacer, sleeve_fields, spacer_fields
from trebb.core.families.gear.subject import Gear
from trebb.core.fits import hole_limits
from trebb.core.fits.iso286 import it_um
from trebb.core.fits.keys import KeySeat
from trebb.core.gears import bevel, cutting, dividing
from trebb.core.gears.naming import candidates
from trebb.core.gears.strength import GEAR_METALS
from trebb.core.gears.teeth import Spur, usual_pin_mm
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Feature,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.dividing_words import dividing_words
from trebb.core.parts.turned import LEAST_WALL_MM, bar_for, is_inch_made, key_of
from trebb.core.threads import Band
from trebb.core.units import show_small


def usual_metal(gear: Gear) -> str:
    """What a new one is cut from: steel and iron as they were, zinc in iron or steel, bronze in bronze."""
    return {
        "zinc": "iron",
        "iron": "iron",
        "bronze": "bronze",
        "steel": "carbon",
        "alloy": "alloy_ht",
        "case_hardened": "alloy_ht",
    }[gear.metal]


def blank_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """What the gear is called, what it sits on, and how it is divided."""
    gear, inch = gear_of(inputs), is_inch_made(inputs)
    names = {one.key: one.words for one in candidates()}
    return (
        material_field(usual_metal(gear)),
        PartField("name", "Gear", gear.called.key, names),
        PartField(
            "bore", "Bore", round_size(inputs.measured.get("bore", gear.bore_mm), inch), low_mm=2, high_mm=200
        ),
        PartField("face", "Face", gear.face_mm, low_mm=2, high_mm=200),
        PartField("hub", "Hub's outside", gear.hub_mm, low_mm=4, high_mm=300),
        PartField("hub_length", "Hub stands out", gear.hub_length_mm, low_mm=0, high_mm=200),
        PartField("key", "Key", gear.key_mm, low_mm=0, high_mm=50),
        PartField(
            "thinning",
            "Teeth thinner by",
            round(gear.wanted_lash_mm / 2, 3),
            low_mm=0,
            high_mm=2,
            is_small=True,
            is_free=True,
        ),
        PartField("head", "Dividing head", 40.0, low_mm=1, high_mm=200, is_figure=True),
        PartField("plate", "Direct plate, holes; 0: the worm", 0.0, low_mm=0, high_mm=400, is_figure=True),
        *_offered_fields(inputs, names),
    )


def _offered_fields(inputs: PartInputs, names: Mapping[str, str]) -> tuple[PartField, ...]:
    """What a seller says of a gear beside the sizes its route works to; once it is to be bought."""
    if inputs.facts.get("get") != "buy":
        return ()
    return (
        PartField("has_teeth", "Offered, teeth", "", high_mm=400, is_figure=True),
        PartField("has_name", "Offered, it is", "none", {"none": "not said", **names}),
        PartField("has_face", "Offered, face", "", high_mm=300),
        PartField("has_hub", "Offered, hub’s outside", "", high_mm=400),
        PartField("has_key", "Offered, key", "", high_mm=60),
    )


def _offered_checks(inputs: PartInputs, gear: Gear, f: Mapping[str, str | float]) -> list[Check]:
    """Whether what is offered meshes and fits, as far as the seller said."""
    found = []
    if (teeth := f.get("has_teeth", "")) != "":
        ok = int(float(teeth)) == gear.teeth
        found.append(
            Check(
                ok,
                f"Offered: {float(teeth):g} teeth"
                + (", as wanted." if ok else f"; wanted are {gear.teeth}: another ratio."),
            )
        )
    if (name := f.get("has_name", "none")) != "none":
        ok = name == gear.name
        wanted = gear.called.words
        found.append(
            Check.of(
                ok,
                "Offered: of the same name, it meshes.",
                f"Offered: another tooth; it does not mesh. Wanted is {wanted}.",
            )
        )
    room = gear.face_mm + 2.0
    for key, words, wanted_mm, most in (
        ("has_face", "face", number(dict(f), "face"), room),
        ("has_hub", "hub", number(dict(f), "hub"), number(dict(f), "hub") + 2.0),
    ):
        if (value := f.get(key, "")) != "":
            ok = float(value) <= most and (key == "has_hub" or float(value) >= 0.8 * wanted_mm)
            found.append(
                Check.of(
                    ok,
                    f"Offered: {words} of {inputs.size(float(value))} fits.",
                    f"Offered: {words} of {inputs.size(float(value))} for "
                    f"{inputs.size(wanted_mm)}: too narrow to carry, or "
                    "no room for it.",
                )
            )
    if (key_mm := f.get("has_key", "")) != "":
        wanted_key = number(dict(f), "key")
        ok = abs(float(key_mm) - wanted_key) < 0.2
        found.append(
            Check.of(
                ok,
                "Offered: its keyway is the shaft’s.",
                f"Offered: a key of {inputs.size(float(key_mm))} for {inputs.size(wanted_key)}: a "
                f"stepped key, or sleeve and "
                "broach it.",
            )
        )
    return found


def new_gear(inputs: PartInputs) -> Part:
    """A gear as a blank with its cut: cutter and depth, dividing, size over pins. Raises InputError where no
    rim is left over the bore.
    """
    gear, f = gear_of(inputs), facts_of(blank_fields(inputs), inputs.facts)
    named_gear = replace(gear, name=str(f["name"]))
    called, inch = named_gear.called, is_inch_made(inputs)
    spur = called.spur(gear.teeth, number(f, "thinning"))
    bore, face, hub, out = (number(f, k) for k in ("bore", "face", "hub", "hub_length"))
    root = spur.outside_dia_mm - 2 * spur.depth * spur.module_mm
    _refuse_bore(inputs, root, bore)
    outside = spur.outside_dia_mm
    blank = None
    if gear.is_bevel:
        blank = bevel.bevel_blank(gear.teeth, gear.mate_teeth, spur.module_mm)
        outside = blank.outside_dia_mm
    elif gear.kind == "helical" and named_gear.helix_deg:
        outside = spur.module_mm * (
            gear.teeth / math.cos(math.radians(named_gear.helix_deg)) + 2 * spur.addendum
        )
    tolerance = it_um(min(outside, 500.0), 9) / 1000
    od = Band(outside - tolerance, outside)
    hole = band_of(hole_limits(bore, "H7"))
    rows = [
        SizeRow("To ask for", "text", ask_words(inputs, named_gear, f), "", key="ask"),
        SizeRow("Outside", "band", od, f"{called.words}, {gear.teeth} teeth", True, key="outside"),
        SizeRow("Bore", "band", hole, "H7, in one setting with a face", True, key="bore"),
        SizeRow(
            "Whole depth", "size", spur.depth * spur.module_mm, "of the cut, at the large end", key="depth"
        ),
        *_cut_rows(inputs, named_gear, blank, int(number(f, "head")), int(number(f, "plate"))),
    ]
    _add_over_pins(inputs, spur, rows, gear)
    seat = key_of(bore, inch=inch) if number(f, "key") > 0 else None
    features = [Feature("chamfer", 0.0, 0.5)]
    _add_keyway(rows, seat, features, bore, face, out)
    sections = [Section("teeth", "plain", face, outside, od)]
    if out > 0:
        sections.append(Section("hub", "plain", out, hub))
    length = face + out
    bar, passes = bar_for(inputs, outside, length, skin_mm=2.0)
    return Part(
        "new_gear",
        f"{'Bevel gear' if gear.is_bevel else 'Gear'} of {gear.teeth} teeth",
        material(str(f["material"])),
        bar,
        tuple(sections),
        Section("bore", "plain", length, bore, hole),
        tuple(rows),
        _gear_checks(inputs, named_gear, blank, f, root, hub, passes),
        (
            "Cut one space, then the next: read the tooth between them before going round.",
            "Proof: over pins, and by its mate at its own centre distance.",
        ),
        construction=gear.kind,
        features=tuple(features),
        blanks=2,
    )


def _refuse_bore(inputs: PartInputs, root: float, bore: float) -> None:
    if bore + 2 * LEAST_WALL_MM >= root:
        raise InputError(
            f"a bore of {inputs.size(bore)} in a gear of {inputs.size(root)} at its roots",
            "a smaller bore, or cut in one with its shaft",
        )


def _add_keyway(
    rows: list[SizeRow], seat: KeySeat | None, features: list[Feature], bore: float, face: float, out: float
) -> None:
    if seat is not None:
        features.append(
            Feature(
                "keyway",
                0.0,
                face + out,
                seat.width_mm,
                seat.depth_mm(bore),
                words=f"{seat.standard}, in the bore",
            )
        )
        rows.append(
            SizeRow("Keyway", "size", seat.width_mm, "broached, tooth or space at its mark", key="keyway")
        )


def _add_over_pins(inputs: PartInputs, spur: Spur, rows: list[SizeRow], gear: Gear) -> None:
    if gear.kind == "spur":
        pin = usual_pin_mm(spur.module_mm)
        over = spur.over_pins_mm(pin)
        per = (
            spur.over_pins_mm(pin) - replace(spur, thinning_mm=spur.thinning_mm + 0.01).over_pins_mm(pin)
        ) / 0.01
        half = max(0.01, 0.02 * per)
        rows += [
            SizeRow("Pins", "size", pin, "two, in opposite spaces", key="pin"),
            SizeRow(
                "Over pins",
                "band",
                Band(over - half, over + half),
                f"teeth {show_small(spur.thinning_mm, inputs.system)} thinner than full",
                True,
                key="over_pins",
            ),
            SizeRow(
                f"Span over {spur.span_teeth} teeth",
                "size",
                spur.span_mm(spur.span_teeth),
                "the same, by jaws",
            ),
        ]


def _cut_rows(
    inputs: PartInputs, gear: Gear, blank: bevel.BevelBlank | None, head: int, plate: int
) -> list[SizeRow]:
    """Cutter, dividing, and a bevel's angles."""
    inch = gear.called.size.startswith("DP")
    virtual = float(gear.teeth)
    if blank is not None:
        virtual = blank.virtual_teeth
    elif gear.kind == "helical":
        virtual = cutting.virtual_teeth_helical(gear.teeth, gear.helix_deg)
    cutter = cutting.cutter_words(virtual, "DP" if inch else "module")
    note = f"for {virtual:.1f} virtual teeth" if virtual != gear.teeth else f"for {gear.teeth} teeth"
    set_words = "DP set, 1 = rack" if inch else "module set, 8 = rack"
    rows = [SizeRow("Cutter", "text", f"No. {cutter}", f"{note}; {set_words}", True, key="cutter")]
    if blank is not None:
        rows += [
            SizeRow("Pitch angle", "angle", math.radians(blank.pitch_angle_deg), "of the cone"),
            SizeRow("Face angle", "angle", math.radians(blank.face_angle_deg), "the blank is turned to it"),
            SizeRow(
                "Cutting angle",
                "angle",
                math.radians(blank.cutting_angle_deg),
                "head set to it",
                True,
                "cutting",
            ),
        ]
    if plate:
        step = dividing.direct_step(gear.teeth, plate)
        rows.append(
            SizeRow(
                "Dividing",
                "text",
                f"every {step}. hole of {plate}",
                "plate on the spindle, direct",
                key="dividing",
            )
        )
    else:
        rows.append(
            SizeRow("Dividing", "text", dividing_words(gear.teeth, head), f"{head}:1", key="dividing")
        )
    return rows


def ask_words(inputs: PartInputs, gear: Gear, f: Mapping[str, str | float]) -> str:
    """What to tell a seller of a gear. Fields as stored: lengths in mm."""
    said = [f"{gear.kind} gear, {gear.teeth} teeth, {gear.called.words}, to run with {gear.mate_teeth}"]
    said += [f"{words} {inputs.size(float(f[key]))}" for key, words in (("face", "face"), ("hub", "hub"))]
    if float(f["key"]):
        said.append(f"key {inputs.size(float(f['key']))}")
    if gear.kind == "helical":
        said.append(f"{gear.hand} hand, {gear.helix_deg:.0f}° helix")
    return ", ".join(said)


def _gear_checks(
    inputs: PartInputs,
    gear: Gear,
    blank: bevel.BevelBlank | None,
    f: dict[str, str | float],
    root: float,
    hub: float,
    passes: Check,
) -> tuple[Check, ...]:
    face = number(f, "face")
    named_ok = bool(gear_of(inputs).name) or "name" in inputs.facts
    checks = _named_checks(inputs, gear, f, root, hub, passes, named_ok)
    if blank is not None:
        fits = face <= blank.greatest_face_mm
        checks.append(
            Check.of(
                fits,
                f"The face is no wider than a third of the cone, {inputs.size(blank.greatest_face_mm)}.",
                f"A face of {inputs.size(face)} is over a third of the cone: the cutter is too "
                f"thick for its "
                f"small end; {inputs.size(blank.greatest_face_mm)} at most.",
            )
        )
    if not number(f, "plate") and not dividing.exact_settings(gear.teeth, int(number(f, "head"))):
        near = dividing.nearest_setting(gear.teeth, int(number(f, "head")))
        adds = dividing.arc_mm(near.closing_arcsec, gear.pitch_dia_mm / 2)
        checks.append(
            Check(
                True,
                f"One step repeated, {near.setting.words}, would leave the last space "
                f"{show_small(abs(adds), inputs.system)} wrong: round each division afresh, or cut a plate.",
            )
        )
    metal = {"iron": "iron", "bronze": "bronze", "carbon": "steel", "free_cutting": "steel"}.get(
        str(f["material"]), "alloy"
    )
    if gear.torque_nm and gear.kind != "worm" and gear.teeth >= 12:
        from trebb.core.families.gear.looked import strength_of

        pair = strength_of(replace(gear, metal=metal))
        ok, carries = pair.torque_running_nm >= gear.torque_nm, inputs.torque(pair.torque_running_nm)
        checks.append(
            Check.of(
                ok,
                f"In {GEAR_METALS[metal].label} the pair carries {carries} of "
                f"{inputs.torque(gear.torque_nm)}.",
                f"In {GEAR_METALS[metal].label} the pair carries only {carries} of "
                f"{inputs.torque(gear.torque_nm)}: a wider face, or a tougher metal.",
            )
        )
    return tuple(checks)


def _named_checks(
    inputs: PartInputs,
    gear: Gear,
    f: dict[str, str | float],
    root: float,
    hub: float,
    passes: Check,
    named_ok: bool,
) -> list[Check]:
    return [
        *_offered_checks(inputs, gear, f),
        Check.of(
            named_ok,
            f"It is {gear.called.words}, as taken.",
            "Nobody has named it: read its sizes at Survey first, or choose it here.",
        ),
        Check.of(
            "bore" in inputs.measured or "bore" in inputs.facts,
            "The bore is the one measured.",
            "Its shaft is not measured: the bore is the stated one.",
        ),
        Check.of(
            gear.teeth >= cutting.FEWEST_CUT,
            "A form cutter is made for so many teeth.",
            f"No form cutter is made for {gear.teeth} teeth: shaped, hobbed, or bought.",
        ),
        Check.of(
            hub <= root,
            "The hub stays under the roots.",
            f"The hub of {inputs.size(hub)} stands over the roots, {inputs.size(root)}: the cutter meets it.",
        ),
        passes,
    ]


FAMILIES = (
    PartFamily(
        "gear_spacer",
        "Spacer of a bevel",
        spacer_fields,
        gear_spacer,
        "gear",
        "Read the lash at four quarters again once it is in: the tightest tooth must keep some.",
        made_on_it=True,
    ),
    PartFamily(
        "gear_sleeve",
        "Sleeve of a gear",
        sleeve_fields,
        gear_sleeve,
        "gear",
        "Hold the gear by its teeth while it is bored: pins in three spaces.",
        made_on_it=True,
    ),
    PartFamily(
        "new_gear",
        "Gear",
        blank_fields,
        new_gear,
        "gear",
        "Count the mate's teeth once more before the blank is cut.",
    ),
)
