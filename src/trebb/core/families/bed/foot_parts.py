"""Shims under feet, tailstock and table; the tailstock's key."""

from __future__ import annotations

from trebb.core.alignment import Pack, shim_pack
from trebb.core.errors import InputError
from trebb.core.families.bed.subject import FEET, Bed
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
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
    number,
)
from trebb.core.parts.shims import shim_plan
from trebb.core.threads import Band
from trebb.core.units import UnitSystem, show_shim, show_small
from trebb.core.words import large

LEAST_SHIM_MM = 0.015
SLIDE_FIT_MM = 0.010  # play of a key that slides and does not shake
MOST_STRIP_MM = 1.5


def _leaves(pack: Pack, system: UnitSystem) -> str:
    return " + ".join(show_shim(leaf, system).split()[0] for leaf in pack.leaves_mm)


# feet -----------------------------------------------------------------------------------------


def feet_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Size of a foot, its bolt, and what goes under each."""
    return (
        PartField("length", "Foot, along", 80.0, low_mm=20, high_mm=400),
        PartField("width", "Foot, across", 60.0, low_mm=20, high_mm=400),
        PartField("bolt", "Bolt", 14.0, low_mm=4, high_mm=50),
        *(
            PartField(
                foot,
                large(words),
                round(max(0.0, inputs.measured.get(f"shim.{foot}", 0.0)), 3),
                low_mm=0,
                high_mm=20,
                is_small=True,
            )
            for foot, words in FEET.items()
        ),
    )


def foot_shims(inputs: PartInputs) -> Part:
    """A pack a foot, from the thicknesses at hand."""
    f = facts_of(feet_fields(inputs), inputs.facts)
    length, width, bolt = (number(f, k) for k in ("length", "width", "bolt"))
    bed = inputs.about(Bed)
    packs: dict[str, Pack] = {}
    checks: list[Check] = []
    _add_packs(inputs, f, bed, packs, checks)
    rows = [
        SizeRow(
            FEET[foot].capitalize(),
            "text",
            show_shim(pack.thickness_mm, inputs.system),
            _leaves(pack, inputs.system),
            True,
        )
        for foot, pack in packs.items()
    ]
    rows += [
        SizeRow("Leaf, along", "size", length),
        SizeRow("Leaf, across", "size", width),
        SizeRow("Slot for the bolt", "size", bolt + 2),
    ]
    if not any(f"shim.{foot}" in inputs.measured or foot in inputs.facts for foot in FEET):
        checks.append(
            Check(
                False, "What goes under each foot is not known: read the level across, or each foot's spring."
            )
        )
    elif not packs:
        checks.append(
            Check(not any(number(f, foot) for foot in FEET), "No foot wants more than the thinnest leaf.")
        )
    checks.append(
        Check.of(
            bolt + 2 < 0.6 * width,
            "The leaf keeps its hold beside the slot.",
            "The slot is too wide for the leaf: it tears.",
        )
    )
    thick = max((pack.thickness_mm for pack in packs.values()), default=0.1)
    return Part(
        "foot_shims",
        "Shim packs for the feet",
        "shim stock, steel or brass",
        f"{sum(len(p.leaves_mm) for p in packs.values())} leaves {inputs.size(length)} × "
        f"{inputs.size(width)}",
        (Section("leaf", "plain", length, thick),),
        None,
        tuple(rows),
        tuple(checks),
        ("Largest leaf below. Burrs off, no oil between.",),
        block_mm=(width, thick),
        views=(shim_plan(length, width, bolt + 2, slot=True),),
    )


def _add_packs(
    inputs: PartInputs, f: dict[str, str | float], bed: Bed, packs: dict[str, Pack], checks: list[Check]
) -> None:
    for foot in FEET:
        wanted = number(f, foot)
        if wanted < LEAST_SHIM_MM:
            continue
        try:
            packs[foot] = shim_pack(wanted, bed.stock_mm)
        except InputError as error:
            checks.append(Check(False, f"{FEET[foot].capitalize()}: {error}."))
            continue
        lying = bed.pack_mm(foot)
        fits = lying + packs[foot].thickness_mm <= bed.travel_mm
        checks.append(
            Check.of(
                fits,
                f"{FEET[foot].capitalize()}: within what its bolt takes.",
                f"{FEET[foot].capitalize()}: "
                f"{show_shim(lying + packs[foot].thickness_mm, inputs.system)} are more than its bolt takes, "
                f"{inputs.size(bed.travel_mm)}. Lower the others instead.",
            )
        )
        if abs(packs[foot].miss_mm) > 0.01:
            checks.append(
                Check(
                    False,
                    f"{FEET[foot].capitalize()}: the stock at hand misses by "
                    f"{show_small(abs(packs[foot].miss_mm), inputs.system)}; a finer leaf would do.",
                )
            )


# tailstock ------------------------------------------------------------------------------------


def base_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Height it is short of, size of its base."""
    return (
        PartField(
            "shim",
            "Thickness",
            round(max(0.02, -inputs.measured.get("tail_high", 0.0)), 3),
            low_mm=0.02,
            high_mm=5,
            is_small=True,
        ),
        PartField("length", "Base, along", 220.0, low_mm=40, high_mm=800),
        PartField("width", "Base, across", 140.0, low_mm=40, high_mm=500),
        PartField("bolt", "Bolt's hole", 22.0, low_mm=0, high_mm=80),
    )


def tail_shim(inputs: PartInputs) -> Part:
    """A sheet under the whole base of the tailstock."""
    f = facts_of(base_fields(inputs), inputs.facts)
    shim, length, width, bolt = (number(f, k) for k in ("shim", "length", "width", "bolt"))
    is_read, high = "tail_high" in inputs.measured, inputs.measured.get("tail_high", 0.0)
    pack = shim_pack(shim, inputs.about(Bed).stock_mm)
    rows = (
        SizeRow("Thickness", "small", shim, f"{_leaves(pack, inputs.system)} from stock", True),
        *(
            (
                SizeRow(
                    "Then stands",
                    "small",
                    high + pack.thickness_mm,
                    "+ high: a tailstock wears down, a little high is right",
                ),
            )
            if is_read
            else ()
        ),
        SizeRow("Along", "size", length),
        SizeRow("Across", "size", width),
        SizeRow("Bolt's hole", "size", bolt),
    )
    return Part(
        "tail_shim",
        "Shim under the tailstock",
        "brass or steel sheet",
        f"{inputs.size(length)} × {inputs.size(width)}",
        (Section("sheet", "plain", length, shim),),
        None,
        rows,
        _tail_shim_checks(inputs, pack, high, is_read=is_read),
        ("Corners square, burrs off; glued at one corner only.",),
        block_mm=(width, shim),
        views=(shim_plan(length, width, bolt, slot=False),),
    )


def _tail_shim_checks(inputs: PartInputs, pack: Pack, high: float, *, is_read: bool) -> tuple[Check, ...]:
    return (
        Check(
            high < 0 or (not is_read and "shim" in inputs.facts),
            "Its height is not read: the thickness is the one set by hand."
            if not is_read and "shim" in inputs.facts
            else "Its height is not read: a bar between centres tells it."
            if not is_read
            else "It stands low: a shim is what it wants."
            if high < 0
            else "It does not stand low: nothing to shim. Scrape its base if it is beyond its limit.",
        ),
        Check.of(
            len(pack.leaves_mm) <= 2,
            "One or two sheets: they lie flat.",
            "More than two sheets spring: one of the right thickness would do.",
        ),
        Check.of(
            0.0 <= high + pack.thickness_mm <= 0.03 or high >= 0,
            "It ends a little high.",
            f"It ends {show_small(high + pack.thickness_mm, inputs.system, signed=True)} from level.",
        ),
    )


def key_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Old key, play, length."""
    return (
        material_field("iron"),
        PartField("key", "Old key, width", 18.0, low_mm=4, high_mm=120),
        PartField(
            "play",
            "Play in its slot",
            max(0.0, inputs.measured.get("tail_key", 0.0)),
            low_mm=0,
            high_mm=3,
            is_small=True,
        ),
        PartField("length", "Length", 90.0, low_mm=15, high_mm=500),
        PartField("height", "Height", 14.0, low_mm=4, high_mm=80),
    )


def tail_key(inputs: PartInputs) -> Part:
    """A key as wide as its slot less a slide fit, or strips on the old one."""
    f = facts_of(key_fields(inputs), inputs.facts)
    key, play, length, height = (number(f, k) for k in ("key", "play", "length", "height"))
    new = key + play - SLIDE_FIT_MM
    strip = max(0.0, (play - SLIDE_FIT_MM) / 2)
    rows = (
        SizeRow(
            "New key, width",
            "band",
            Band(new - 0.006, new + 0.002),
            f"old {inputs.size(key)} + play {show_small(play, inputs.system)} less "
            f"{show_small(SLIDE_FIT_MM, inputs.system)} to slide",
            True,
            key="key_width",
        ),
        SizeRow("Or a strip each side", "small", strip, "fixed at one end", True),
        SizeRow("Length", "size", length),
        SizeRow("Height", "size", height),
    )
    is_read = inputs.measured.get("tail_key_is_read", 0.0) > 0
    checks = (
        Check.of(
            is_read,
            "The play is the one measured.",
            "The play is not measured: push it to and fro first, where it is used and at the bed's end.",
        ),
        *(
            (
                Check.of(
                    play > SLIDE_FIT_MM,
                    "There is play to take up.",
                    "The key slides and does not shake: leave it.",
                ),
                Check.of(
                    strip <= MOST_STRIP_MM, "Strips would serve as well.", "Too much for strips: a new key."
                ),
            )
            if is_read or "play" in inputs.facts
            else ()
        ),
    )
    return Part(
        "tail_key",
        "Tailstock's key",
        material(str(f["material"])),
        f"bar {inputs.size(length + 5)} × {inputs.size(new + 3)} × {inputs.size(height + 3)}",
        (Section("key", "plain", length, height),),
        None,
        rows,
        checks,
        ("To the slot's least worn place: it must pass there.", "Edges broken."),
        block_mm=(new, height),
        views=(shim_plan(length, new, 0.0, slot=False, key="key_width"), _key_end(new, height)),
        blanks=2,
    )


def _key_end(wide: float, high: float) -> View:
    return View(
        "from its end",
        (((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high)),),
        measured=(
            Measured((0, 0), (wide, 0), -2.2, key="key_width"),
            Measured((wide, 0), (wide, high), 2.4, True),
        ),
    )


# table ----------------------------------------------------------------------------------------


FAMILIES = (
    PartFamily("foot_shims", "Shim packs", feet_fields, foot_shims, "stand"),
    PartFamily("tail_shim", "Shim under it", base_fields, tail_shim, "tailstock"),
    PartFamily("tail_key", "Key", key_fields, tail_key, "tailstock"),
)
