"""Spacers and sleeves of gears."""

from __future__ import annotations

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.families.gear.subject import Gear
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Feature,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    fitted_rows,
    length_check,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.bushing import bush_fields_of, bush_part
from trebb.core.parts.turned import LEAST_WALL_MM, bar_words, is_inch_made
from trebb.core.threads import Band

LEAST_SPACER_MM = 0.5


def gear_of(inputs: PartInputs) -> Gear:
    """The gear a part is for."""
    assert isinstance(inputs.subject, Gear)
    return inputs.subject


def spacer_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Thickness as the lash asks for it, bore and outside."""
    gear = gear_of(inputs)
    lash = inputs.measured.get("lash")
    thick = gear.spacer_mm
    if lash is not None:
        inward = (lash - gear.wanted_lash_mm) / gear.lash_per_mm
        thick = gear.spacer_mm + (inward if gear.spacer == "behind" else -inward)
    inch = is_inch_made(inputs)
    return (
        material_field("carbon"),
        PartField("thickness", "Thickness", round(thick, 4), low_mm=-50, high_mm=100),
        PartField("bore", "Bore", round_size(gear.bore_mm + 0.3, inch, up=True), low_mm=2, high_mm=300),
        PartField("outside", "Outside", round_size(gear.hub_mm, inch), low_mm=4, high_mm=400),
        PartField(
            "form",
            "Made as",
            "whole",
            {
                "whole": "one ring",
                "two": "two halves, put in without drawing the shaft",
                "washer": "shim washers",
            },
        ),
        PartField(
            "held",
            "Held by",
            "clamped",
            {"clamped": "the nut, between faces", "bonded": "compound on the rim only"},
        ),
    )


def gear_spacer(inputs: PartInputs) -> Part:
    """A spacer that brings a bevel to its place: faces ground parallel to a hundredth of the lash it sets.
    Raises InputError for less than nothing.
    """
    gear, f = gear_of(inputs), facts_of(spacer_fields(inputs), inputs.facts)
    thick, bore, outside = number(f, "thickness"), number(f, "bore"), number(f, "outside")
    if thick == 0 and "lash" not in inputs.measured:
        raise InputError(
            "a spacer that nobody worked out",
            "rock the pair at four quarters first, or set its thickness here",
        )
    if thick <= 0:
        raise InputError(
            f"a spacer of {inputs.size(thick)}",
            "more than nothing: shim the mate instead, or face the gear off its seat by as much",
        )
    if bore >= outside:
        raise InputError(f"a ring of {inputs.size(bore)} in {inputs.size(outside)}", "the outside is larger")
    read = "lash" in inputs.measured
    form = str(f["form"])
    # A tenth of the least lash is what faces out of parallel may take.
    fine = max(0.005, 0.1 * gear.least_lash_mm / gear.lash_per_mm)
    band = Band(thick - fine, thick + fine)
    ring = Section("outside", "plain", thick, outside, Band(outside - 0.2, outside), long="thickness")
    hole = Section("bore", "plain", thick, bore, Band(bore, bore + 0.1))
    return Part(
        "gear_spacer",
        {"whole": "Spacer of a bevel", "two": "Two-part spacer", "washer": "Shim washers"}[form],
        material(str(f["material"])),
        bar_words(inputs, outside + 1.5, thick + 5),
        (ring,),
        hole,
        (*_spacer_rows(inputs, fine, band, gear), *fitted_rows(ring, hole)),
        _spacer_checks(inputs, read, form, gear, f, thick, bore, outside),
        (
            "Compound on the rim only: a part bonded to its arbor is hard to get off again.",
            "Keep the old one: it is the way back.",
        ),
        construction=form,
        features=(Feature("chamfer", 0.0, 0.3), Feature("chamfer", thick, 0.3)),
    )


def _spacer_checks(
    inputs: PartInputs,
    read: bool,
    form: str,
    gear: Gear,
    f: dict[str, str | float],
    thick: float,
    bore: float,
    outside: float,
) -> tuple[Check, ...]:
    return (
        Check.of(
            read,
            "The lash is the one read.",
            "The lash is not read: rock it at four quarters first, the thickness follows from it.",
        ),
        Check.of(
            inputs.measured.get("turn", 0.0) < gear.wanted_lash_mm,
            "The tightest tooth keeps some lash.",
            "The tightest tooth would bind: what goes once a turn is more than the lash wanted.",
        ),
        Check.of(
            thick >= LEAST_SPACER_MM or form == "washer",
            f"{inputs.size(thick)} can be turned and ground.",
            f"{inputs.size(thick)} is too thin to turn: shim washers, or a thicker spacer with "
            f"the seat "
            "faced back.",
        ),
        Check.of(
            (outside - bore) / 2 >= LEAST_WALL_MM,
            f"{inputs.size((outside - bore) / 2)} of rim.",
            f"Only {inputs.size((outside - bore) / 2)} of rim: a larger outside.",
        ),
        Check(
            str(f["held"]) != "bonded" or form == "whole",
            "It comes off with the gear."
            if str(f["held"]) != "bonded"
            else "Bonded on its rim only, so that its depth can still be measured."
            if form == "whole"
            else "Halves and washers are clamped: compound locks them to the arbor.",
        ),
        length_check(inputs, "spacer", thick, outside),
    )


def _spacer_rows(inputs: PartInputs, fine: float, band: Band, gear: Gear) -> tuple[SizeRow, ...]:
    return (
        SizeRow("Thickness", "band", band, "both faces, read at four places", True, key="thickness"),
        SizeRow("Was", "size", gear.spacer_mm, "what stands there now"),
        SizeRow("Lash then", "small", gear.wanted_lash_mm, "mean, at the pitch circle"),
        *(
            (SizeRow("At the tightest tooth", "small", gear.wanted_lash_mm - turn, "once a turn taken off"),)
            if (turn := inputs.measured.get("turn")) is not None
            else ()
        ),
        SizeRow("Faces parallel", "small", fine, "more leans the gear and makes a runout"),
    )


def sleeve_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Bush fields for the bore of a gear."""
    gear = gear_of(inputs)
    bored = round_size(gear.bore_mm + 6.0, is_inch_made(inputs), up=True)
    return bush_fields_of(
        inputs,
        bored,
        gear.hub_mm,
        max(gear.face_mm, gear.hub_length_mm + gear.face_mm),
        inputs.measured.get("bore", gear.bore_mm),
    )


def gear_sleeve(inputs: PartInputs) -> Part:
    """A sleeve in the gear's bore."""
    f = facts_of(sleeve_fields(inputs), inputs.facts)
    part = bush_part(
        inputs, f, "gear_sleeve", "iron" if gear_of(inputs).metal in ("iron", "zinc") else "carbon"
    )
    zinc = gear_of(inputs).metal == "zinc"
    check = Check.of(
        not zinc, "The hub bears a press fit.", "Zinc bears no press fit: a slide fit and compound."
    )
    return replace(part, title="Sleeve of a gear", checks=(*part.checks, check))
