"""The route of a tapered shim under a head or a table."""

from __future__ import annotations

from typing import Any

from trebb.core.making.operations import Row
from trebb.core.parts import Part
from trebb.core.safety import SCRAPERS, SHIM_STOCK


def _wedge(part: Part, subject: Any, shop: Any) -> list[Row]:
    return [
        (
            "cut",
            "Cut the sheet to the bracket's face",
            part.stock_words,
            "board",
            "snips, stone",
            25,
            SHIM_STOCK,
            "plain",
        ),
        (
            "wedge",
            "File and scrape it to the wedge",
            "Measure at both bolts.",
            "plate",
            "file, scraper, micrometer",
            60,
            SCRAPERS,
            "plain",
        ),
    ]


ROUTES = {"table_shim": _wedge}
