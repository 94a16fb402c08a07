"""Routes of gibs, linings, shims and keys."""

from __future__ import annotations

from typing import Any

from trebb.core.making.operations import Row, SizeTarget
from trebb.core.parts import Part
from trebb.core.safety import LEVER, SCRAPERS, SHIM_STOCK


def _leaves(part: Part, subject: Any, shop: Any) -> list[Row]:
    return [
        (
            "cut",
            "Cut the leaves, slot open to one side",
            part.stock_words,
            "board",
            "snips, punch, stone",
            30,
            SHIM_STOCK,
            "plain",
        ),
        (
            "size",
            "Measure each pack together, pressed",
            "Rows of the drawing, foot by foot; mark each.",
            "bench",
            "micrometer",
            15,
            "",
            "plain",
        ),
        (
            "in",
            "In, one foot at a time, largest leaf below",
            "Fit-up has the order.",
            "machine",
            "bar, blocks",
            40,
            LEVER,
            "plain",
        ),
    ]


def _sheet(part: Part, subject: Any, shop: Any) -> list[Row]:
    return [
        (
            "template",
            "Paper rubbing of the base: outline and holes",
            "Both halves if the base is two.",
            "bench",
            "paper, soft pencil",
            15,
            "",
            "plain",
        ),
        (
            "cut",
            "Cut, punch, stone the edges",
            part.stock_words,
            "board",
            "snips, punch, stone",
            40,
            SHIM_STOCK,
            "plain",
        ),
        (
            "flat",
            "Thickness at four corners and the middle",
            "Alike within a hundredth of a millimetre.",
            "plate",
            "micrometer",
            10,
            "",
            "plain",
        ),
    ]


def _key(part: Part, subject: Any, shop: Any) -> list[Row]:
    return [
        ("saw", "Saw the bar, and a spare", part.stock_words, "saw", "saw", 15, "", "plain"),
        ("square", "Square it, 0.3 mm on its width", "", "mill vice", "end mill", 40, "", "plain"),
        (
            "width",
            "Width to the slot's least worn place",
            "Between bands it slides and does not shake.",
            "grinder or mill vice",
            "",
            40,
            "",
            "size",
            SizeTarget("width", part.band("key_width"), 1, is_diameter=False),
        ),
        (
            "holes",
            "Holes from the old key; edges broken",
            "Spot through the old one.",
            "drill press",
            "drill",
            20,
            "",
            "plain",
        ),
        (
            "slide",
            "Slide it along the whole slot",
            "Blue where it holds; scrape there.",
            "machine",
            "blue, scraper",
            30,
            SCRAPERS,
            "plain",
        ),
    ]


ROUTES = {"foot_shims": _leaves, "tail_shim": _sheet, "tail_key": _key}
