"""What must run true or stand square on a turned part, in control frames (ISO 1101, ASME Y14.5).

A shop needs a figure, and a datum to measure it from: half of the narrowest fit on the part, from its bore
where that is fitted, else from its first fitted diameter; a shaft no closer than turning on centres gives,
where that gives the fit. Runout is the indicator's whole swing.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.parts.base import Part
from trebb.core.parts.page import SMALL, Page, text_width
from trebb.core.threads import Band
from trebb.core.units import INCH_MM, UnitSystem

DATUM = "D"  # sections are lettered from A on
SHARE = 0.5  # of the narrowest fit
TURNED_MM, CLOSE_MM = 0.0127, 0.009  # whole swing of what is turned; a fit narrower than this is ground
STEP_MM = {UnitSystem.METRIC: 0.005, UnitSystem.INCH: 0.0002 * INCH_MM}
HIGH, SYMBOL_WIDE, PAD = 5.0, 6.0, 1.2


class Control(Struct, frozen=True):
    """One control frame. `kind` is "runout" or "square"; `within_mm` the whole swing, or the zone's width;
    `what` it holds for; `datum` what it is measured from.
    """

    kind: str
    within_mm: float
    what: str
    datum: str


def controls_of(part: Part, system: UnitSystem) -> tuple[Control, ...]:
    """The controls of a turned part: none where nothing on it is fitted."""
    if part.block_mm is not None or part.views:
        return ()
    fitted: list[tuple[str, Band]] = [
        (s.label, s.size) for s in part.sections if s.size is not None and s.kind == "plain"
    ]
    if part.bore is not None and part.bore.size is not None and part.bore.kind == "plain":
        fitted.insert(0, ("bore", part.bore.size))
    if not fitted:
        return ()
    step = STEP_MM[system]
    narrowest = min(band.width_mm for _, band in fitted)
    # Turned on centres it runs true to half a thou; closer is ground, and a rim is turned with its bore.
    least = TURNED_MM if narrowest >= CLOSE_MM and part.bore is None else 0.0
    within = max(1, math.floor(max(least, SHARE * narrowest) / step + 1e-9)) * step
    datum = fitted[0][0]
    if len(fitted) > 1:
        return (Control("runout", within, "every other fitted diameter", datum),)
    # A ring bears on its faces; a shaft's ends bear on nothing.
    if part.bore is not None and part.length_mm < part.largest_mm:
        return (Control("square", within, "both faces", datum),)
    return ()


def within_words(control: Control, system: UnitSystem) -> str:
    """Its figure as the drawing writes it."""
    if system is UnitSystem.INCH:
        return f"{control.within_mm / INCH_MM:.4f}".removeprefix("0")
    return f"{control.within_mm:.3f}"


def frames(page: Page, controls: tuple[Control, ...], system: UnitSystem, at: tuple[float, float]) -> None:
    """The frames in a row from a left lower corner on, each with its words behind it, mm of paper."""
    x, y = at
    for control in controls:
        cells = (within_words(control, system), DATUM)
        edges = [x, x + SYMBOL_WIDE]
        for words in cells:
            page.write_left(words, (edges[-1] + PAD, y + 1.2), SMALL)
            edges.append(edges[-1] + text_width(words, SMALL) + 2 * PAD)
        for edge in edges:
            page.line("FRAME", (edge, y), (edge, y + HIGH), solid=False)
        for base in (y, y + HIGH):
            page.line("FRAME", (x, base), (edges[-1], base), solid=False)
        _symbol(page, control.kind, (x, y))
        words = f"{control.what}; {DATUM}: {control.datum}"
        page.write_left(words, (edges[-1] + 2.0, y + 1.2), SMALL)
        x = edges[-1] + 2.0 + text_width(words, SMALL) + 8.0


def _symbol(page: Page, kind: str, at: tuple[float, float]) -> None:
    x, y = at
    if kind == "square":
        page.line("FRAME", (x + 1.4, y + 1.2), (x + 4.6, y + 1.2), solid=False)
        page.line("FRAME", (x + 3.0, y + 1.2), (x + 3.0, y + 3.9), solid=False)
        return
    tip = (x + 4.4, y + 4.0)
    page.line("FRAME", (x + 1.6, y + 1.0), tip, solid=False)
    page.line("FRAME", (tip[0] - 1.3, tip[1] - 0.4), tip, (tip[0] - 0.3, tip[1] - 1.3), solid=False)
