"""The route of a turned part that is built of features: outside, inside, what is milled, what is drilled."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.machine.workshop import Workshop
from trebb.core.making.operations import Row, SizeTarget, turning_minutes
from trebb.core.making.piece_rows import CENTRES, CHUCK, ROUGH_MM, features_of, speed_words, turned
from trebb.core.parts.base import Feature, Part
from trebb.core.safety import CHUCK_KEY, CLOTH, DRILLING, MILLING
from trebb.core.threads import Band

MILLED = {
    "keyway": ("Mill the keyway", "Cutter over the middle by paper and half the diameters.", "slot drill"),
    "square": ("Mill the square", "Index a quarter turn; creep up from two opposite flats.", "end mill"),
    "flats": ("Mill the flat", "Depth from the crown.", "end mill"),
    "spline": ("Mill the splines", "One space after another, depth from the crown.", "side mills"),
}
KEYED = {"keyway": "keyway", "square": "square", "spline": "spline"}


def built_route(part: Part, subject: Any, shop: Workshop) -> Sequence[Row]:
    """Blank, ends, rough, each fitted diameter, threads, inside, milled and drilled features."""
    hollow = bool(part.inner)
    hold = CHUCK if hollow else CENTRES
    return [
        *_blank(part, shop, hold, hollow=hollow),
        *(turned(part, shop, i, s, hold) for i, s in enumerate(part.sections) if s.size is not None),
        *_grooves_and_threads(part, hold),
        *_inside(part, shop),
        *_milled(part),
        *_drilled(part),
        (
            "burrs",
            "Break the corners, burrs off",
            "But the working edges.",
            hold,
            "file, strip",
            8,
            CLOTH,
            "plain",
        ),
    ]


def _blank(part: Part, shop: Workshop, hold: str, *, hollow: bool) -> list[Row]:
    largest = part.largest_mm
    rough = sum(
        turning_minutes(part, largest + 1.5, s.diameter_mm + ROUGH_MM, s.length_mm) for s in part.sections
    )
    many = "Saw the blank" if part.blanks == 1 else f"Saw {part.blanks} blanks"
    return [
        ("blank", many, part.stock_words, "saw vice", "saw", 10.0 * part.blanks, "", "plain"),
        (
            "centre",
            "Face to length" if hollow else "Face to length and centre the ends",
            speed_words(part, shop, largest),
            CHUCK,
            "facing tool" if hollow else "facing tool, centre drill",
            15,
            CHUCK_KEY,
            "plain",
        ),
        (
            "rough",
            "Rough every diameter",
            "1 mm (40 thou) left on what is fitted, shoulders 0.3 mm (12 thou) short.",
            hold,
            "turning tool",
            10 + rough,
            CLOTH,
            "plain",
        ),
    ]


def _grooves_and_threads(part: Part, hold: str) -> list[Row]:
    rows: list[Row] = [
        (
            "relief",
            "Undercut the shoulders, cut the grooves",
            "; ".join(f.words for f in features_of(part, "groove"))
            or "0.3 mm (12 thou) deep, 1 mm (40 thou) wide.",
            hold,
            "narrow tool",
            10,
            CLOTH,
            "plain",
        )
    ]
    for i, s in enumerate(part.sections):
        if s.is_threaded:
            rows.append(
                (
                    f"thread_{i}",
                    f"Cut the thread, {s.label}",
                    "Single point, or a die started square from the tailstock; its nut is the gauge.",
                    hold,
                    "threading tool",
                    25,
                    CHUCK_KEY,
                    "plain",
                )
            )
    if features_of(part, "knurl"):
        rows.append(
            ("knurl", "Knurl", "Slow, flooded, fed in once.", hold, "knurling tool", 12, CLOTH, "plain")
        )
    return rows


def _inside(part: Part, shop: Workshop) -> list[Row]:
    """Drilled to the smallest, then bored stretch by stretch from the end that it opens at."""
    bored = [s for s in part.inner if s.diameter_mm]
    if not bored:
        return []
    least = min(s.diameter_mm for s in bored)
    rows: list[Row] = [
        (
            "drill",
            "Drill under the smallest bore",
            speed_words(part, shop, least),
            CHUCK,
            "drill",
            15,
            CHUCK_KEY,
            "plain",
        )
    ]
    for i, s in enumerate(bored):
        target = SizeTarget(f"{s.label} {i + 1}", s.size, -1) if isinstance(s.size, Band) else None
        title = f"Bore and cut {s.label}" if s.is_threaded else f"Bore the {s.label}"
        rows.append(
            (
                f"bore_{i}",
                title,
                "In one setting with its face; turned round for what opens at the other end.",
                CHUCK,
                "boring bar" if not s.is_threaded else "internal threading tool",
                20,
                CHUCK_KEY,
                "size" if target else "plain",
                target,
            )
        )
    return rows


def _milled(part: Part) -> list[Row]:
    rows: list[Row] = []
    for i, f in enumerate(features_of(part, *MILLED)):
        title, detail, tool = MILLED[f.kind]
        target = _target(part, f)
        rows.append(
            (
                f"{f.kind}_{i}",
                title,
                detail,
                "V-blocks or dividing head",
                tool,
                25.0 if f.kind != "spline" else 12.0 * f.count,
                MILLING,
                "size" if target else "plain",
                target,
            )
        )
    return rows


def _target(part: Part, f: Feature) -> SizeTarget | None:
    """The limits that a milled feature ends at: its own width's."""
    for row in part.rows:
        if isinstance(row.value, Band) and row.key.startswith(KEYED.get(f.kind, "-")):
            band = f.size or row.value
            if row.value == band or f.size is None:
                return SizeTarget(row.label.lower(), row.value, -1 if f.kind == "keyway" else 1)
    return None


def _drilled(part: Part) -> list[Row]:
    rows: list[Row] = []
    for i, f in enumerate(features_of(part, "cross_hole", "tap")):
        tool = "drill, tap" if f.kind == "tap" else "drill, reamer" if "pin" in f.words else "drill"
        detail = (
            "With what it holds in its place, and to its mark."
            if "pin" in f.words
            else "Centre on the crown."
        )
        rows.append(
            (f"across_{i}", f"Drill across: {f.words}", detail, "V-block", tool, 15, DRILLING, "plain")
        )
    if part.holes:
        title, minutes = f"Drill {len(part.holes)} holes in the face", 8.0 * len(part.holes)
        how = "On a dividing head, or by the table's dials."
        rows.append(("face_holes", title, how, "dividing head", "drill", minutes, DRILLING, "plain"))
    return rows


ROUTES = {"built": built_route}
