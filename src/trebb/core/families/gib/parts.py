"""A new gib, a shim behind the old one, a lining on it, and a saddle's liner."""

from __future__ import annotations

import math
from collections.abc import Mapping

from trebb.core.families.gib.liners import gib_liner, liner_fields, saddle_fields, saddle_liner
from trebb.core.families.gib.parts_base import (
    CUT_MM,
    ROUGH_MM,
    SPARE_MM,
    edge_view,
    end_view,
    felt_check,
    gaps_at_tightest,
    gaps_by_design,
    gone_in_mm,
    side_view,
    stand_check,
)
from trebb.core.families.gib.subject import Slide
from trebb.core.gibs import NewGib, TaperGib, sine_bar_height_mm
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
from trebb.core.threads import Band
from trebb.core.units import show_small

LEAST_SCRAPE_MM, MOST_SCRAPE_MM = 0.03, 0.30


# new gib --------------------------------------------------------------------------------------


def gib_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Allowance to scrape, stand-out wanted, notch, sine bar."""
    s = inputs.about(Slide)
    return (
        material_field("iron"),
        PartField("scrape", "Left to scrape", s.scrape_mm, low_mm=0.0, high_mm=1.0, is_small=True),
        PartField("stand", "Stand-out, finished", s.stand_out_mm, low_mm=0, high_mm=40),
        PartField("notch", "Notch for the screw", 8.0, low_mm=0, high_mm=40),
        PartField("notch_from", "Notch from the thick end", 10.0, low_mm=0, high_mm=80),
        PartField("sine", "Sine bar", 100.0, low_mm=50, high_mm=500),
        PartField("width", "Width of its face", s.width_mm, low_mm=5, high_mm=150),
    )


def _worked_out(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[NewGib, TaperGib]:
    gib = inputs.about(Slide).gib
    return gaps_by_design(inputs, number(f, "stand")).new_gib(gib, number(f, "scrape")), gib


def gib(inputs: PartInputs) -> Part:
    """A gib for the slot as it is now: thicker at both ends by what is lacking, and by what is scraped
    off.
    """
    f = facts_of(gib_fields(inputs), inputs.facts)
    s, width = inputs.about(Slide), number(f, "width")
    new, _ = _worked_out(inputs, f)
    length = s.length_mm + SPARE_MM
    # The taper runs on into the spare length at the thick end.
    thick_end = new.thick_mm + SPARE_MM * new.taper
    angle = math.degrees(new.angle_rad)
    return Part(
        "gib",
        "Taper gib",
        material(str(f["material"])),
        f"two bars {inputs.size(length + 5)} × {inputs.size(width + 5)} × "
        f"{inputs.size(thick_end + 2 * ROUGH_MM + 2)}",
        (Section("gib", "plain", length, thick_end),),
        None,
        _gib_rows(inputs, f),
        _gib_checks(inputs, f),
        (
            f"Faces flat and without wind; {angle:.3f}° between them. Edges parallel, at "
            f"{s.dovetail_deg:g}°.",
            "Cut two: bars warp.",
        ),
        block_mm=(width, thick_end),
        views=(
            _notched_face(f, length),
            edge_view(length, new.thin_mm, thick_end, "on its edge, spare length at the thick end"),
            end_view(width, new.thick_mm, s.dovetail_deg),
        ),
        blanks=2,
    )


def _gib_rows(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[SizeRow, ...]:
    scrape, stand, notch, notch_from, sine, width = (
        number(f, k) for k in ("scrape", "stand", "notch", "notch_from", "sine", "width")
    )
    s = inputs.about(Slide)
    new, old = _worked_out(inputs, f)
    length = s.length_mm + SPARE_MM
    lacking = gaps_by_design(inputs, stand).extra()
    return (
        SizeRow(
            "Thickness, thin end",
            "band",
            Band(new.thin_mm - CUT_MM, new.thin_mm + CUT_MM),
            f"old {inputs.size(old.thin_mm)}; {show_small(lacking[0], inputs.system, signed=True)} lacking, "
            f"{show_small(scrape, inputs.system)} to scrape",
            True,
            key="thin",
        ),
        SizeRow(
            "Thickness, thick end",
            "band",
            Band(new.thick_mm - CUT_MM, new.thick_mm + CUT_MM),
            f"at {inputs.size(s.length_mm)}; {show_small(lacking[1], inputs.system, signed=True)} lacking",
            True,
            key="thick",
        ),
        SizeRow("Taper, 1 :", "text", f"{new.ratio:.2f}", f"old 1 : {s.ratio:g}", True),
        SizeRow("Angle between its faces", "angle", new.angle_rad),
        SizeRow(
            f"Blocks under a sine bar of {inputs.size(sine)}",
            "size",
            sine_bar_height_mm(new.taper, sine),
            "one face rests on it, the other is cut",
            True,
        ),
        SizeRow(
            "Stands out before scraping",
            "size",
            stand + new.stand_out_mm,
            f"comes to {inputs.size(stand)} as {show_small(scrape, inputs.system)} go",
        ),
        SizeRow("Scraped, thin end", "size", new.thin_mm - scrape),
        SizeRow("Scraped, thick end", "size", new.thick_mm - scrape),
        SizeRow("Dovetail's angle", "text", f"{s.dovetail_deg:g}°", "both edges", key="dovetail"),
        SizeRow("Width of its face", "size", width),
        SizeRow(
            "Length, cut last",
            "size",
            s.length_mm + stand,
            f"made {inputs.size(length)}: cut to length with the gib home in its slot",
        ),
        SizeRow(
            "Notch for its screw",
            "size",
            notch,
            f"{inputs.size(notch_from)} from the thick end, marked in its slot",
        ),
    )


def _gib_checks(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[Check, ...]:
    scrape, notch, notch_from = (number(f, k) for k in ("scrape", "notch", "notch_from"))
    s = inputs.about(Slide)
    new, _ = _worked_out(inputs, f)
    return (
        felt_check(inputs),
        stand_check(inputs),
        Check.of(
            LEAST_SCRAPE_MM <= scrape <= MOST_SCRAPE_MM,
            f"{show_small(scrape, inputs.system)} are left to scrape.",
            f"{show_small(scrape, inputs.system)} to scrape: from "
            f"{show_small(LEAST_SCRAPE_MM, inputs.system)} to {show_small(MOST_SCRAPE_MM, inputs.system)} "
            "would do; less leaves no second try, more is a week.",
        ),
        Check.of(
            new.thin_mm - scrape >= s.least_mm,
            "Its thin end is stiff enough.",
            f"Its thin end comes to {inputs.size(new.thin_mm - scrape)}: under "
            f"{inputs.size(s.least_mm)} it bends in its slot.",
        ),
        Check.of(
            abs(new.ratio / s.ratio - 1) < 0.03,
            f"Its taper of 1 : {new.ratio:.1f} is close to the old one.",
            f"1 : {new.ratio:.1f} is far from 1 : {s.ratio:g}: feel both ends again before a bar is cut.",
        ),
        Check.of(
            str(f["material"]) in ("iron", "bronze", "al_bronze"),
            "The material runs on iron.",
            "Steel on iron galls: grey iron or bronze would do.",
        ),
        Check.of(
            notch + notch_from < 0.2 * s.length_mm,
            "The notch leaves its thick end whole.",
            "The notch is too deep into the gib: it breaks there.",
        ),
    )


def _notched_face(f: Mapping[str, str | float], length: float) -> View:
    notch, notch_from, width = (number(f, k) for k in ("notch", "notch_from", "width"))
    side = side_view(length, width)
    cut = (
        (length - notch_from - notch, width),
        (length - notch_from - notch, 0.62 * width),
        (length - notch_from, 0.62 * width),
        (length - notch_from, width),
    )
    return View(
        side.words,
        side.outlines,
        (cut,),
        measured=(*side.measured, Measured((length - notch_from, width), (length, width), 2.0)),
    )


# shim behind the gib --------------------------------------------------------------------------


def shim_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Thickness, by default what brings the gib back to where it should stand."""
    return (
        PartField(
            "shim",
            "Thickness",
            _wanted_mm(inputs),
            low_mm=0.02,
            high_mm=3.0,
            is_small=True,
        ),
        PartField("width", "Width", 0.8 * inputs.about(Slide).width_mm, low_mm=4, high_mm=150),
    )


def _wanted_mm(inputs: PartInputs) -> float:
    """What brings the gib back to where it should stand; the thinnest leaf while that cannot be said."""
    if not inputs.measured.get("is_felt"):
        return 0.05
    wanted = gaps_at_tightest(inputs).shim_mm() + _back_mm(inputs) / inputs.about(Slide).ratio
    return max(0.05, round(wanted, 3))


def _back_mm(inputs: PartInputs) -> float:
    """How far the gib has gone in since it stood by design."""
    return max(0.0, gone_in_mm(inputs))


def gib_shim(inputs: PartInputs) -> Part:
    """A strip behind the gib: what it is short of, and the adjustment that it has used up."""
    f = facts_of(shim_fields(inputs), inputs.facts)
    shim, width = number(f, "shim"), number(f, "width")
    s, gaps = inputs.about(Slide), gaps_at_tightest(inputs)
    advance = gaps.advance_with_shim_mm(s.gib, shim)
    stands = inputs.measured.get("stand", s.stand_out_mm) - advance
    fits = -2.0 < stands < s.stand_out_mm + 12
    rows = (
        SizeRow(
            "Thickness",
            "small",
            shim,
            f"lacking {show_small(gaps.shim_mm(), inputs.system)} at the looser end, the rest brings it back",
            True,
        ),
        SizeRow(
            "Gib then stands out",
            "size",
            stands,
            f"now {inputs.size(inputs.measured.get('stand', s.stand_out_mm))}, by design "
            f"{inputs.size(s.stand_out_mm)}",
        ),
        SizeRow("Goes in further by" if advance >= 0 else "Comes back by", "size", abs(advance)),
        SizeRow("Length", "size", s.length_mm, "the whole gib: a short one rocks"),
        SizeRow("Width", "size", width),
    )
    checks = (
        felt_check(inputs),
        Check.of(
            fits,
            "The gib stands where its screw reaches it.",
            f"It would stand out by {inputs.size(stands)}: a shim of "
            f"{show_small(max(0.02, gaps.shim_mm() + _back_mm(inputs) / s.ratio), inputs.system)} would do.",
        ),
        Check.of(
            gaps.difference < 0.02,
            "Gib and slot match: one thickness serves.",
            f"One end is {show_small(gaps.difference, inputs.system)} looser: scrape the other first, a "
            "shim does not mend that.",
        ),
    )
    return Part(
        "gib_shim",
        "Shim behind the gib",
        "shim strip, brass or steel",
        f"{inputs.size(s.length_mm)} × {inputs.size(width)}",
        (Section("shim", "plain", s.length_mm, shim),),
        None,
        rows,
        checks,
        ("Fixed at one end only. Burrs off: a burr is thicker than the shim.",),
        block_mm=(width, shim),
        views=(side_view(s.length_mm, width),),
    )


# lining ---------------------------------------------------------------------------------------


# saddle ---------------------------------------------------------------------------------------


FAMILIES = (
    PartFamily("gib", "Taper gib", gib_fields, gib, "gib"),
    PartFamily("gib_shim", "Shim behind it", shim_fields, gib_shim, "gib"),
    PartFamily("gib_liner", "Lining", liner_fields, gib_liner, "gib", made_on_it=True),
    PartFamily("saddle_liner", "Saddle's lining", saddle_fields, saddle_liner, "gib", made_on_it=True),
)
