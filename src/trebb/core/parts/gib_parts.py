"""A new gib, a shim behind the old one, a lining on it, and a saddle's liner."""

from __future__ import annotations

import math
from collections.abc import Mapping

from trebb.core.alignment import liner_thickness_mm
from trebb.core.gibs import Gaps, NewGib, TaperGib, sine_bar_height_mm
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

# Assumed: a mill or shaper with care holds a gib's thickness to this; scraping does the rest. Shop practice.
CUT_MM = 0.015
ROUGH_MM = 0.6  # each side before the bar has lain and moved
SPARE_MM = 20.0  # of length, cut last
LEAST_SCRAPE_MM, MOST_SCRAPE_MM = 0.03, 0.30
LEAST_LINING_MM = 0.4


def gaps_at_tightest(inputs: PartInputs) -> Gaps:
    """Gaps where the slide runs closest along its travel: the gib must run there too."""
    worn = inputs.measured.get("worn.least", 0.0)
    return Gaps(
        inputs.measured.get("gap.thin", 0.0) + worn,
        inputs.measured.get("gap.thick", 0.0) + worn,
        inputs.slide.running_mm,
    )


def _felt(inputs: PartInputs) -> Check:
    if inputs.measured.get("is_felt"):
        return Check(True, "Both ends were felt with the gib home.")
    return Check(
        False,
        "Both ends are not felt with the gib home yet: what is worked out here is a guess until they are.",
    )


def _side(length: float, width: float) -> View:
    return View(
        "on its face", (((0.0, 0.0), (length, 0.0), (length, width), (0.0, width)),),
        measured=(Measured((0, 0), (length, 0), -2.2), Measured((length, 0), (length, width), 2.4, True)),
    )  # fmt: skip


def _edge(length: float, thin: float, thick: float, words: str) -> View:
    """The wedge on its edge: thin end at the left, one face straight."""
    return View(
        words, (((0.0, 0.0), (length, 0.0), (length, thick), (0.0, thin)),),
        measured=(Measured((0, 0), (0, thin), -3.4, True), Measured((length, 0), (length, thick), 2.4, True)),
    )  # fmt: skip


def _end(width: float, thick: float, dovetail_deg: float) -> View:
    """The end: a slanted section, edges cut at the dovetail's angle."""
    lean = width / math.tan(math.radians(dovetail_deg))
    slant = thick / math.sin(math.radians(dovetail_deg))
    return View(
        f"thick end; edges at {dovetail_deg:g}°",
        (((0.0, 0.0), (slant, 0.0), (slant + lean, width), (lean, width)),),
        measured=(Measured((slant + lean, 0), (slant + lean, width), 2.4, True),),
    )


# new gib --------------------------------------------------------------------------------------


def gib_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Allowance to scrape, stand-out wanted, notch, sine bar."""
    s = inputs.slide
    return (
        material_field("iron"),
        PartField("scrape", "Left to scrape", s.scrape_mm, low_mm=0.0, high_mm=1.0, is_small=True),
        PartField("stand", "Stand-out, finished", s.stand_out_mm, low_mm=0, high_mm=40),
        PartField("notch", "Notch for the screw", 8.0, low_mm=0, high_mm=40),
        PartField("notch_from", "Notch from the thick end", 10.0, low_mm=0, high_mm=80),
        PartField("sine", "Sine bar", 100.0, low_mm=50, high_mm=500),
        PartField("width", "Width of its face", s.width_mm, low_mm=5, high_mm=150),
    )


def _worked_out(inputs: PartInputs, scrape: float) -> tuple[NewGib, TaperGib]:
    gib = inputs.slide.gib
    return gaps_at_tightest(inputs).new_gib(gib, scrape), gib


def gib(inputs: PartInputs) -> Part:
    """A gib for the slot as it is now: thicker at both ends by what is lacking, and by what is scraped
    off.
    """
    f = facts_of(gib_fields(inputs), inputs.facts)
    s, width = inputs.slide, number(f, "width")
    new, _ = _worked_out(inputs, number(f, "scrape"))
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
            _edge(length, new.thin_mm, thick_end, "on its edge, spare length at the thick end"),
            _end(width, new.thick_mm, s.dovetail_deg),
        ),
    )


def _gib_rows(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[SizeRow, ...]:
    scrape, stand, notch, notch_from, sine, width = (
        number(f, k) for k in ("scrape", "stand", "notch", "notch_from", "sine", "width")
    )
    s = inputs.slide
    new, old = _worked_out(inputs, scrape)
    length = s.length_mm + SPARE_MM
    lacking = gaps_at_tightest(inputs).extra()
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
    s = inputs.slide
    new, _ = _worked_out(inputs, scrape)
    return (
        _felt(inputs),
        Check(
            LEAST_SCRAPE_MM <= scrape <= MOST_SCRAPE_MM,
            f"{show_small(scrape, inputs.system)} are left to scrape."
            if LEAST_SCRAPE_MM <= scrape <= MOST_SCRAPE_MM
            else f"{show_small(scrape, inputs.system)} to scrape: from "
            f"{show_small(LEAST_SCRAPE_MM, inputs.system)} to {show_small(MOST_SCRAPE_MM, inputs.system)} "
            "would do; less leaves no second try, more is a week.",
        ),
        Check(
            new.thin_mm - scrape >= s.least_mm,
            "Its thin end is stiff enough."
            if new.thin_mm - scrape >= s.least_mm
            else f"Its thin end comes to {inputs.size(new.thin_mm - scrape)}: under "
            f"{inputs.size(s.least_mm)} it bends in its slot.",
        ),
        Check(
            abs(new.ratio / s.ratio - 1) < 0.03,
            f"Its taper of 1 : {new.ratio:.1f} is close to the old one."
            if abs(new.ratio / s.ratio - 1) < 0.03
            else f"1 : {new.ratio:.1f} is far from 1 : {s.ratio:g}: feel both ends again before a bar is "
            "cut.",
        ),
        Check(
            str(f["material"]) in ("iron", "bronze", "al_bronze"),
            "The material runs on iron."
            if str(f["material"]) in ("iron", "bronze", "al_bronze")
            else "Steel on iron galls: grey iron or bronze would do.",
        ),
        Check(
            notch + notch_from < 0.2 * s.length_mm,
            "The notch leaves its thick end whole."
            if notch + notch_from < 0.2 * s.length_mm
            else "The notch is too deep into the gib: it breaks there.",
        ),
    )


def _notched_face(f: Mapping[str, str | float], length: float) -> View:
    notch, notch_from, width = (number(f, k) for k in ("notch", "notch_from", "width"))
    side = _side(length, width)
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
    gaps = gaps_at_tightest(inputs)
    back = _back_mm(inputs)
    return (
        PartField(
            "shim",
            "Thickness",
            max(0.05, round(gaps.shim_mm() + back / inputs.slide.ratio, 3)),
            low_mm=0.02,
            high_mm=3.0,
            is_small=True,
        ),
        PartField("width", "Width", 0.8 * inputs.slide.width_mm, low_mm=4, high_mm=150),
    )


def _back_mm(inputs: PartInputs) -> float:
    """How far the gib has gone in since it stood by design."""
    return max(0.0, inputs.slide.stand_out_mm - inputs.measured.get("stand", inputs.slide.stand_out_mm))


def gib_shim(inputs: PartInputs) -> Part:
    """A strip behind the gib: what it is short of, and the adjustment that it has used up."""
    f = facts_of(shim_fields(inputs), inputs.facts)
    shim, width = number(f, "shim"), number(f, "width")
    s, gaps = inputs.slide, gaps_at_tightest(inputs)
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
        _felt(inputs),
        Check(
            fits,
            "The gib stands where its screw reaches it."
            if fits
            else f"It would stand out by {inputs.size(stands)}: a shim of "
            f"{show_small(max(0.02, gaps.shim_mm() + _back_mm(inputs) / s.ratio), inputs.system)} would do.",
        ),
        Check(
            gaps.difference < 0.02,
            "Gib and slot match: one thickness serves."
            if gaps.difference < 0.02
            else f"One end is {show_small(gaps.difference, inputs.system)} looser: scrape the other first, a "
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
        views=(_side(s.length_mm, width),),
    )


# lining ---------------------------------------------------------------------------------------


def liner_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Stock, what is left of it when finished."""
    s = inputs.slide
    return (
        PartField("stock", "Lining stock", s.stock_mm, low_mm=0.3, high_mm=6),
        PartField(
            "finished", "Lining when finished", max(LEAST_LINING_MM, s.stock_mm - 0.2), low_mm=0.2, high_mm=6
        ),
        PartField("bond", "Adhesive", 0.10, low_mm=0, high_mm=0.5, is_small=True),
    )


def gib_liner(inputs: PartInputs) -> Part:
    """Lining bonded to a gib: iron ground off first, then the lining brought to the slot's own taper."""
    f = facts_of(liner_fields(inputs), inputs.facts)
    stock, finished, bond = (number(f, k) for k in ("stock", "finished", "bond"))
    s, gaps = inputs.slide, gaps_at_tightest(inputs)
    lacking = gaps.extra()
    off = finished + bond - min(lacking)
    wanted = [s.thin_mm + lacking[0], s.gib.thick_mm + lacking[1]]
    left = s.thin_mm - max(0.0, off)
    rows = (
        SizeRow("Iron to grind off, all along", "size", max(0.0, off), "parallel, off its back", True),
        SizeRow("Iron left at the thin end", "size", left, "", True),
        SizeRow(
            "Thickness over the lining, thin end",
            "band",
            Band(wanted[0] - CUT_MM, wanted[0] + CUT_MM),
            "ground or scraped after curing",
            True,
            key="over.thin",
        ),
        SizeRow(
            "Thickness over the lining, thick end",
            "band",
            Band(wanted[1] - CUT_MM, wanted[1] + CUT_MM),
            "",
            True,
            key="over.thick",
        ),
        SizeRow("Lining stock", "size", stock, f"{inputs.size(stock - finished)} are cut away"),
        SizeRow("Adhesive", "small", bond),
        SizeRow("Length", "size", s.length_mm),
    )
    checks = (
        _felt(inputs),
        Check(
            left >= s.least_mm,
            "Enough iron stays at its thin end."
            if left >= s.least_mm
            else f"{inputs.size(left)} of iron stay at the thin end, under {inputs.size(s.least_mm)} it "
            "bends: thinner lining, or a new gib, would do.",
        ),
        Check(
            stock - finished > lacking[0] - min(lacking) and stock > finished,
            "The stock is thick enough to be brought to the slot."
            if stock - finished > lacking[0] - min(lacking) and stock > finished
            else "The stock is no thicker than it must end: it cannot be trued. Thicker stock would do.",
        ),
        Check(
            finished >= LEAST_LINING_MM,
            "The lining stays thick enough to hold."
            if finished >= LEAST_LINING_MM
            else f"Under {inputs.size(LEAST_LINING_MM)} it peels.",
        ),
    )
    return Part(
        "gib_liner",
        "Lining on the gib",
        "bearing plastic or bronze strip",
        f"strip {inputs.size(stock)} thick, {inputs.size(s.length_mm + 10)} long",
        (Section("gib", "plain", s.length_mm, s.gib.thick_mm),),
        None,
        rows,
        checks,
        (
            "Iron side roughened and washed with what the adhesive's sheet names.",
            "Oil grooves short of the edges by a pencil's breadth.",
        ),
        block_mm=(s.width_mm, wanted[1]),
        views=(
            _side(s.length_mm, s.width_mm),
            _edge(s.length_mm, wanted[0], wanted[1], "on its edge, lining on"),
        ),
    )


# saddle ---------------------------------------------------------------------------------------


def saddle_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Drop, what scraping will take, lining stock."""
    return (
        PartField(
            "drop",
            "Drop as measured",
            max(0.0, inputs.measured.get("drop", 0.0)),
            low_mm=0,
            high_mm=5,
            is_small=True,
        ),
        PartField(
            "scraped",
            "Scraping takes",
            max(0.0, inputs.measured.get("scraped", 0.05)),
            low_mm=0,
            high_mm=3,
            is_small=True,
        ),
        PartField("stock", "Lining stock", 1.6, low_mm=0.3, high_mm=10),
        PartField("bond", "Adhesive", 0.10, low_mm=0, high_mm=0.5, is_small=True),
        PartField("length", "Saddle's wing", 320.0, low_mm=50, high_mm=1500),
        PartField("width", "Width of the way", 40.0, low_mm=8, high_mm=200),
    )


def saddle_liner(inputs: PartInputs) -> Part:
    """Lining under a saddle: its height as it was, whatever wear and scraping took."""
    f = facts_of(saddle_fields(inputs), inputs.facts)
    drop, scraped, stock, bond, length, width = (
        number(f, k) for k in ("drop", "scraped", "stock", "bond", "length", "width")
    )
    missing = liner_thickness_mm(scraped, drop)
    lift = stock + bond
    mill = lift - missing
    rows = (
        SizeRow(
            "Height missing",
            "size",
            missing,
            f"drop {show_small(drop, inputs.system)} + scraping {show_small(scraped, inputs.system)}",
            True,
        ),
        SizeRow(
            "Mill off the saddle's ways", "size", max(0.0, mill), "so that the lining has its thickness", True
        ),
        SizeRow(
            "Lining, finished",
            "band",
            Band(stock - 0.02, stock + 0.02),
            "scraped in after curing",
            key="lining",
        ),
        SizeRow("Adhesive", "small", bond),
        SizeRow("Strip, each wing", "size", length),
        SizeRow("Width", "size", width),
    )
    checks = (
        Check(
            mill >= 0,
            "The saddle gives room for the lining."
            if mill >= 0
            else f"The lining is {inputs.size(-mill)} too thin for what is missing: "
            f"{inputs.size(missing - bond)} of stock would do.",
        ),
        Check(
            drop > 0,
            "The drop is measured."
            if drop > 0
            else "The drop is not measured: rack, lead screw and rod tell it.",
        ),
        Check(
            stock >= LEAST_LINING_MM,
            "The lining is thick enough to hold."
            if stock >= LEAST_LINING_MM
            else f"Under {inputs.size(LEAST_LINING_MM)} it peels.",
        ),
    )
    return Part(
        "saddle_liner",
        "Saddle's lining",
        "bearing plastic sheet",
        f"two strips {inputs.size(length)} × {inputs.size(width)} × {inputs.size(stock)}",
        (Section("strip", "plain", length, stock),),
        None,
        rows,
        checks,
        (
            "Both wings in one setting on the mill; vee and flat alike.",
            "Height tried with the half nuts before the adhesive cures.",
        ),
        block_mm=(width, stock),
        views=(_side(length, width),),
    )


FAMILIES = (
    PartFamily("gib", "Taper gib", gib_fields, gib, "gib"),
    PartFamily("gib_shim", "Shim behind it", shim_fields, gib_shim, "gib"),
    PartFamily("gib_liner", "Lining", liner_fields, gib_liner, "gib"),
    PartFamily("saddle_liner", "Saddle's lining", saddle_fields, saddle_liner, "gib"),
)
