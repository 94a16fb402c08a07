"""A tapered shim under a head or a table."""

from __future__ import annotations

from trebb.core.families.tram.subject import REACH_MM, Tram
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    number,
)
from trebb.core.parts.shims import shim_edge, shim_plan
from trebb.core.units import show_small


def table_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Bracket's face, and the thinnest it may be."""
    return (
        PartField("thin", "Thin end", 0.10, low_mm=0.02, high_mm=3, is_free=True),
        PartField("bolts", "Between bolts", inputs.about(Tram).bolts_mm, low_mm=20, high_mm=900),
        PartField("width", "Face, across", 90.0, low_mm=15, high_mm=400),
    )


def table_shim(inputs: PartInputs) -> Part:
    """A wedge between the table and its bracket, thick where the table is low by the lean measured."""
    f = facts_of(table_fields(inputs), inputs.facts)
    thin, bolts, width = (number(f, k) for k in ("thin", "bolts", "width"))
    x, y = inputs.measured.get("tilt_x", 0.0), inputs.measured.get("tilt_y", 0.0)
    side, lean = (
        ("left" if x > 0 else "right", abs(x)) if abs(x) >= abs(y) else ("front" if y > 0 else "back", abs(y))
    )
    rise = lean * bolts / 1000
    rows = (
        SizeRow("Thin end", "size", thin),
        SizeRow("Thick end", "size", thin + rise, f"toward the {side}", True),
        SizeRow(
            "Rise between bolts",
            "small",
            rise,
            f"{show_small(lean * REACH_MM / 1000, inputs.system)} in {REACH_MM:.0f} mm of lean",
            True,
        ),
        SizeRow("Other way", "small", min(abs(x), abs(y)) * bolts / 1000, "a second wedge, crosswise"),
        SizeRow("Across", "size", width),
    )
    is_read = bool({"tilt_x", "tilt_y"} & set(inputs.measured))
    checks = (
        Check(
            is_read and rise > 0.01,
            "The lean is not read: sweep the table first, nothing is worked out here."
            if not is_read
            else "There is something to shim."
            if rise > 0.01
            else "It stands square: nothing to shim.",
        ),
        Check.of(
            rise < 1.0,
            "A wedge that can be scraped from sheet.",
            "More than a shim takes up: look for a bent column.",
        ),
    )
    return Part(
        "table_shim",
        "Wedge between the table and its bracket",
        "steel or brass sheet",
        f"{inputs.size(bolts + 20)} × {inputs.size(width)}",
        (Section("wedge", "plain", bolts, thin + rise),),
        None,
        rows,
        checks,
        ("Scraped or filed to the wedge; covers the whole face.",),
        block_mm=(width, thin + rise),
        views=(shim_plan(bolts, width, 0.0, slot=False), shim_edge(bolts, thin, thin + rise)),
    )


FAMILY = PartFamily("table_shim", "Wedge", table_fields, table_shim, "tram")
