"""Routes of gibs, their shims and linings, and of a saddle's liner."""

from __future__ import annotations

from typing import Any

from trebb.core.making.operations import Row, SizeTarget
from trebb.core.parts import Part
from trebb.core.safety import ADHESIVE, APRON, SCRAPERS, SHIM_STOCK, THIN_WORK, WHEEL


def _gib(part: Part, slide: Any, shop: Any) -> list[Row]:
    return [
        ("saw", "Saw two bars", part.stock_words, "saw", "saw", 25, "", "plain"),
        *_gib_squared(slide),
        *_gib_tapered(part),
        (
            "mark",
            "Mark length and notch with the gib home",
            "In its slot, scraped: only now is it known where it stands.",
            "machine",
            "scriber",
            10,
            "",
            "plain",
        ),
        (
            "length",
            f"Cut to length, {part.row('dovetail').value} ends; mill the notch",
            "Thick end to its stand-out. Corner of the notch round: a sharp one starts a crack.",
            "vice",
            "saw, end mill",
            40,
            "",
            "plain",
        ),
        ("spare", "Oil and hang up the spare", "The next one is half made.", "", "", 5, "", "plain"),
    ]


def _gib_tapered(part: Part) -> list[Row]:
    return [
        (
            "taper",
            "Cut the taper, thin end to size",
            "With the old gib as tapered packing under it, thick end to its thin end, scraped to the slot's "
            "taper first; or on a sine bar with the blocks that the drawing says. Measure at both ends of "
            "the slot's length.",
            "mill table, on the packing",
            "face mill",
            90,
            THIN_WORK,
            "size",
            SizeTarget("thickness, thin end", part.band("thin"), 1, is_diameter=False),
        ),
        (
            "thick",
            "Thick end to size",
            "The same setting: it comes with the thin end if the taper is right. If it does not, correct the "
            "packing, not the cut.",
            "the same setting",
            "face mill",
            20,
            THIN_WORK,
            "size",
            SizeTarget("thickness, thick end", part.band("thick"), 1, is_diameter=False),
        ),
        (
            "blue",
            "Blue in its slot, scrape to bear all along",
            "Gib home by thumb each time; slide moved a hand's breadth. Stop at five spots in the window or "
            "more.",
            "bench",
            "scraper, blue",
            240,
            SCRAPERS,
            "plain",
        ),
    ]


def _gib_squared(slide: Any) -> list[Row]:
    return [
        (
            "rough",
            "Rough all sides, leave 0.6 mm a side",
            "Both faces in turn, light cuts: it bends toward the cut side.",
            "mill table, clamped along its length",
            "face mill",
            60,
            THIN_WORK,
            "plain",
        ),
        (
            "lie",
            "Let both bars lie over night, turn them, skim again",
            "Iron moves for a day after its skin is off.",
            "bench",
            "",
            20,
            "",
            "plain",
        ),
        (
            "edges",
            f"Edges at {slide.dovetail_deg:g}°, parallel",
            "To the dovetail's angle by the old gib or a template; width to the drawing.",
            "vice on the tilted table, or angle plate",
            "end mill",
            60,
            THIN_WORK,
            "plain",
        ),
        (
            "face",
            "First face flat",
            "Blue on the plate: without wind. It is the one that rests from now on.",
            "surface plate",
            "scraper or grinder",
            60,
            SCRAPERS,
            "plain",
        ),
    ]


def _gib_shim(part: Part, slide: Any, shop: Any) -> list[Row]:
    return [
        (
            "cut",
            "Cut the strip, stone its edges",
            part.stock_words,
            "board",
            "snips, stone",
            20,
            SHIM_STOCK,
            "plain",
        ),
        (
            "flat",
            "Thickness at five places over the whole length",
            "A kink counts as thickness.",
            "bench",
            "micrometer",
            10,
            "",
            "plain",
        ),
        (
            "fix",
            "Fix it at one end to the slide, behind the gib",
            "It must lie on the still side, not rub.",
            "machine",
            "adhesive or two screws",
            30,
            ADHESIVE,
            "plain",
        ),
        (
            "try",
            "Gib in, home; stand-out as worked out",
            "It shall run and stand where the drawing says.",
            "machine",
            "depth caliper",
            15,
            "",
            "plain",
        ),
    ]


def _lining(part: Part, slide: Any, shop: Any) -> list[Row]:
    thin, thick = (part.band(f"over.{end}") for end in ("thin", "thick"))
    return [
        *_lining_bonded(),
        (
            "taper",
            "Bring the lining to the slot's taper, thin end",
            "Old face resting; sine bar or tapered packing.",
            "mill or grinder",
            "sharp tool, no coolant in the bond",
            50,
            "",
            "size",
            SizeTarget("thickness, thin end", thin, 1, is_diameter=False),
        ),
        (
            "thick",
            "Thick end to size",
            "The same setting.",
            "the same setting",
            "",
            15,
            "",
            "size",
            SizeTarget("thickness, thick end", thick, 1, is_diameter=False),
        ),
        (
            "oil",
            "Oil grooves, short of the edges",
            "Half as deep as the lining.",
            "vice",
            "scraper or small cutter",
            30,
            SCRAPERS,
            "plain",
        ),
        (
            "blue",
            "Blue in its slot, scrape high spots",
            "Plastic scrapes like soap: little at a time.",
            "bench",
            "scraper",
            60,
            SCRAPERS,
            "plain",
        ),
    ]


def _lining_bonded() -> list[Row]:
    return [
        (
            "straight",
            "Straighten the gib cold, stone its faces",
            "Blue on the plate.",
            "plate",
            "",
            30,
            "",
            "plain",
        ),
        (
            "grind",
            "Grind iron off its back, parallel",
            "As much as the drawing says, along the whole length.",
            "magnetic chuck, blocked at both ends",
            "surface grinder or mill",
            60,
            f"{WHEEL} Thin gibs lift off a magnet: block them.",
            "plain",
        ),
        (
            "bond",
            "Roughen, wash, bond the lining; clamp flat, let it cure",
            "Paper between: pressed-out adhesive holds the clamp too.",
            "flat plate, clamps each hand's breadth",
            "",
            60,
            ADHESIVE,
            "plain",
        ),
    ]


def _saddle(part: Part, subject: Any, shop: Any) -> list[Row]:
    lining = part.band("lining")
    return [
        (
            "off",
            "Saddle off, apron blocked and off first",
            "Marks on both.",
            "",
            "hoist or two people",
            90,
            APRON,
            "plain",
        ),
        (
            "mill",
            "Mill the saddle's ways by what the drawing says",
            "Vee and flat alike, square to the cross dovetail.",
            "mill, indicated on the cross ways",
            "cutters",
            180,
            "",
            "plain",
        ),
        (
            "bond",
            "Bond the lining, saddle set down on the bed with paper and weight",
            "Height tried against rack and lead screw before it cures.",
            "machine",
            "",
            120,
            ADHESIVE,
            "plain",
        ),
        (
            "scrape",
            "Scrape the lining to the bed; oil ways",
            "To its thickness in the middle.",
            "machine",
            "scraper, blue",
            360,
            SCRAPERS,
            "size",
            SizeTarget("lining", lining, 1, is_diameter=False),
        ),
        (
            "height",
            "Half nuts closed: the lead screw must not move",
            "Indicator on the screw at the apron.",
            "machine",
            "indicator",
            20,
            "",
            "plain",
        ),
    ]


ROUTES = {"gib": _gib, "gib_shim": _gib_shim, "gib_liner": _lining, "saddle_liner": _saddle}
