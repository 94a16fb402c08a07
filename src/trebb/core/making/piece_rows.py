"""Rows that the routes of shafts, bushes and pins share: they follow from the part’s features."""

from __future__ import annotations

import math

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row, SizeTarget, material_of
from trebb.core.parts.base import Feature, Part, Section
from trebb.core.safety import CLOTH, MILLING

ROUGH_MM = 1.0
CENTRES, CHUCK = "between centres, driven by a dog", "three-jaw or collet, bar stuck out little"


def speed_words(part: Part, shop: Workshop, dia_mm: float) -> str:
    """Spindle speed for a diameter by the material's cutting speed, the lathe's next below it."""
    rpm = 1000 * material_of(part).speed_m_min / (math.pi * max(1.0, dia_mm))
    return f"{shop.speed_at_most(rpm)} rpm, feed 0.12 mm (5 thou)."


def turned(part: Part, shop: Workshop, i: int, s: Section, hold: str) -> Row:
    """One fitted diameter turned to its size."""
    detail = speed_words(part, shop, s.diameter_mm)
    if s.length_mm > 1.2 * s.diameter_mm:
        detail += " Read both ends of it: a difference is taper, set the tailstock over while a cut is left."
    assert s.size is not None
    return (
        f"turn_{i}",
        f"Turn the {s.label}",
        detail,
        hold,
        "turning tool",
        8 + s.length_mm / 15,
        CLOTH,
        "size",
        SizeTarget(s.label, s.size, 1),
    )


def features_of(part: Part, *kinds: str) -> list[Feature]:
    """Features of a part that are of some kinds."""
    return [f for f in part.features if f.kind in kinds]


def milled(part: Part) -> list[Row]:
    """Keyways, splines, squares and flats, as the part has them."""
    return _keyways(part) + _splines(part) + _squares_and_flats(part)


def _keyways(part: Part) -> list[Row]:
    rows: list[Row] = []
    for f in features_of(part, "keyway"):
        band = f.size
        target = SizeTarget("keyway's width", band, -1) if band is not None else None
        rows.append(
            (
                "keyway",
                "Plunge the key's seat" if part.construction == "woodruff" else "Mill the keyway",
                "Cutter over the middle by paper and half the diameters; "
                + (
                    f"Woodruff cutter, straight down to its depth, {part.row('key').value}."
                    if part.construction == "woodruff"
                    else "plunge from the crown, then along. A worn cutter leaves it narrow: good."
                ),
                "V-blocks on the mill, stop at the end",
                "slot drill or Woodruff cutter",
                30,
                MILLING,
                "size" if target else "plain",
                target,
            )
        )
    return rows


def _splines(part: Part) -> list[Row]:
    rows: list[Row] = []
    for f in features_of(part, "spline"):
        rows += [
            (
                "gang",
                "Set the gang",
                f"Two side mills with a collar of "
                f"{part.row('spline').label.lower()} between them: the "
                "collar is the spline, not the space. Cut a short trial on the spare "
                "blank.",
                "dividing head and tailstock",
                "side mills",
                25,
                MILLING,
                "plain",
            ),
            (
                "spline",
                "Mill the splines",
                f"Index {part.row('index').value}; one space after another, depth from the crown.",
                "dividing head and tailstock",
                "side mills",
                12.0 * f.count,
                MILLING,
                "size",
                SizeTarget("spline's width", part.band("spline"), 1),
            ),
            (
                "ridges",
                "Take the ridges out of the spaces",
                "With a concave cutter, or by hand.",
                "dividing head",
                "concave cutter",
                20,
                MILLING,
                "plain",
            ),
        ]
    return rows


def _squares_and_flats(part: Part) -> list[Row]:
    rows: list[Row] = []
    for _ in features_of(part, "square"):
        if part.bore is None:
            rows.append(
                ("square", "Mill the square", "Flat, index a quarter turn (10 turns of 40:1), the four "
                "alike; creep up on the "
                 "size from two opposite flats.", "dividing head or square "
                 "block", "end mill", 30, MILLING, "size",
                 SizeTarget("square over flats", part.band("square"), 1))
            )  # fmt: skip
    for _ in features_of(part, "flats"):
        rows.append(
            (
                "flat",
                "Mill the flat for the set screw",
                "Under the wheel's middle.",
                "V-block",
                "end mill",
                12,
                MILLING,
                "plain",
            )
        )
    return rows


def sized(
    key: str,
    title: str,
    detail: str,
    hold: str,
    tool: str,
    minutes: float,
    caution: str,
    part: Part,
    size: str,
    side: int,
) -> Row:
    """An operation that ends at a size of the part's rows, by its key, taken on the spot."""
    return (
        key,
        title,
        detail,
        hold,
        tool,
        minutes,
        caution,
        "size",
        SizeTarget(part.row(size).label.lower(), part.band(size), side),
    )
