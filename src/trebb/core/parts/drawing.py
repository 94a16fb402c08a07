"""A dimensioned drawing of a part as a DXF document with real DIMENSION entities."""

from __future__ import annotations

import math
import textwrap
from typing import Any

from trebb.core.parts.base import Measured, Part, Section, View
from trebb.core.units import INCH_MM, UnitSystem

# ANSI widths in hundredths of a millimetre, and DXF colour numbers that read on paper.
_LAYERS = {"OUTLINE": (7, 50), "THREAD": (8, 18), "CENTRE": (8, 18), "DIMENSION": (5, 18), "TEXT": (7, 18)}
_DIMENSION_RGB = (38, 65, 143)  # layout blue
_BY_LAYER = 256
# Text a forty-second of the drawing's width stays readable on the screen and on an A4 sheet.
TEXT_SHARE = 1 / 46
LINE_LETTERS = 92  # of a note: longer ones would make the drawing small


def drawing_of(part: Part, system: UnitSystem) -> Any:
    """The part as an ezdxf document, in inches or millimetres, true to size.

    Every dimension measures the geometry, so what it prints is what is drawn.
    Returns an `ezdxf.document.Drawing`.
    """
    import ezdxf  # about 0.4 s: only when a drawing is wanted

    scale = 1 / INCH_MM if system is UnitSystem.INCH else 1.0
    doc = ezdxf.new("R2010", setup=True)
    doc.units = ezdxf.units.IN if system is UnitSystem.INCH else ezdxf.units.MM
    for name, (colour, weight) in _LAYERS.items():
        doc.layers.add(
            name, color=colour, lineweight=weight, linetype="CENTER" if name == "CENTRE" else "Continuous"
        )
    doc.layers.get("DIMENSION").rgb = _DIMENSION_RGB
    doc.styles.add("TREBB", font="BarlowSemiCondensed-Medium.ttf")
    length = part.length_mm * scale
    span = max(length, 2.2 * part.largest_mm * scale)
    short = part.block_mm is None and part.length_mm < 1.6 * part.largest_mm
    text = span * TEXT_SHARE * (1.25 if part.block_mm is not None else 1.5 if short else 1.0)
    style = doc.dimstyles.add("TREBB")
    style.dxf.dimtxt = text
    style.dxf.dimasz = 0.6 * text
    style.dxf.dimexe = 0.4 * text
    style.dxf.dimexo = 0.3 * text
    style.dxf.dimgap = 0.3 * text
    style.dxf.dimtxsty = "TREBB"
    style.dxf.dimdec = 4 if system is UnitSystem.INCH else 3
    style.dxf.dimzin = 0 if system is UnitSystem.INCH else 8
    style.dxf.dimclrd = style.dxf.dimclre = style.dxf.dimclrt = _BY_LAYER
    style.dxf.dimdsep = ord(".")
    style.dxf.dimblk = ""
    style.dxf.dimtad = 1
    sheet = _Sheet(doc, doc.modelspace(), scale, text)
    if part.views:
        sheet.views(part)
    elif part.block_mm is not None and part.bore is None:
        sheet.plate(part)
    elif part.block_mm is not None:
        sheet.block(part)
    else:
        sheet.turned(part)
    return doc


class _Sheet:
    def __init__(self, doc: Any, space: Any, scale: float, text: float) -> None:
        self.doc, self.space, self.scale, self.text = doc, space, scale, text

    def line(self, layer: str, *points: tuple[float, float]) -> None:
        self.space.add_lwpolyline(points, dxfattribs={"layer": layer})

    def words(self, text: str, at: tuple[float, float], *, size: float = 1.0) -> None:
        entity = self.space.add_text(
            text, height=self.text * size, dxfattribs={"layer": "TEXT", "style": "TREBB"}
        )
        entity.set_placement(at)

    def length_dim(self, x0: float, x1: float, y_from: float, y: float) -> None:
        dim = self.space.add_linear_dim(
            base=(0, y), p1=(x0, y_from), p2=(x1, y_from), dimstyle="TREBB", dxfattribs={"layer": "DIMENSION"}
        )
        dim.render()

    def diameter_dim(self, x: float, section: Section, at: tuple[float, float]) -> None:
        r = section.diameter_mm * self.scale / 2
        override: dict[str, Any] = {}
        text = "Ø<>"
        band = section.size
        if band is not None and section.kind != "thread":
            override = {
                "dimtol": 1,
                "dimtp": (band.high_mm - section.diameter_mm) * self.scale,
                "dimtm": (section.diameter_mm - band.low_mm) * self.scale,
                "dimtfac": 0.7,
                "dimtdec": 4 if self.scale != 1 else 3,
            }
        dim = self.space.add_linear_dim(
            base=(x, 0), p1=(x, -r), p2=(x, r), angle=90, text=text, dimstyle="TREBB", override=override,
            text_rotation=0, dxfattribs={"layer": "DIMENSION"},
        )  # fmt: skip
        dim.set_location(at, leader=True, relative=False)
        dim.render()

    def turned(self, part: Part) -> None:
        """A shaft or ring in side view, axis along x, handwheel end at 0."""
        x, k = 0.0, self.scale
        top: list[tuple[float, float]] = [(0.0, 0.0)]
        faces = [0.0]
        for section in part.sections:
            r, end = section.diameter_mm * k / 2, x + section.length_mm * k
            top += [(x, r), (end, r)]
            self.line("OUTLINE", (end, -r), (end, r))
            if section.kind == "thread":
                self._thread(part, x, end)
            if section.keyway_mm:
                w = section.keyway_mm * k / 2
                self.line(
                    "OUTLINE", (x + w, w), (end - 2 * w, w), (end - w, 0), (end - 2 * w, -w), (x + w, -w)
                )
            x = end
            faces.append(end)
        top.append((x, 0.0))
        self.line("OUTLINE", *top)
        self.line("OUTLINE", *[(a, -b) for a, b in top])
        over = 1.5 * self.text
        self.line("CENTRE", (-over, 0), (x + over, 0))
        largest = part.largest_mm * k / 2
        if part.bore is not None:
            r = part.bore.diameter_mm * k / 2
            deep = min(x, part.bore.length_mm * k) if part.bore.length_mm else x
            self.line("THREAD", (0, r), (deep, r))
            self.line("THREAD", (0, -r), (deep, -r))
            if deep < x:
                self.line("THREAD", (deep, -r), (deep, r))
        self._lengths(faces, part, largest)
        self._diameters(part, largest)
        if part.holes:
            self._face(part, x + largest + 16 * self.text)
        self._title(part, -largest - (len(faces) + 2.2) * 1.9 * self.text)

    def _face(self, part: Part, centre_x: float) -> None:
        """The face with its holes, beside the side view."""
        k = self.scale
        radii = [(part.largest_mm / 2, "OUTLINE")] + (
            [(part.bore.diameter_mm / 2, "OUTLINE")] if part.bore else []
        )
        for radius, layer in radii:
            self.space.add_circle((centre_x, 0), radius * k, dxfattribs={"layer": layer})
        for hx, hy, dia in part.holes:
            self.space.add_circle((centre_x + hx * k, hy * k), dia * k / 2, dxfattribs={"layer": "OUTLINE"})
        circle = math.hypot(*part.holes[0][:2]) * k
        self.space.add_circle((centre_x, 0), circle, dxfattribs={"layer": "CENTRE"})
        over = part.largest_mm * k / 2 + 1.2 * self.text
        self.line("CENTRE", (centre_x - over, 0), (centre_x + over, 0))
        self.line("CENTRE", (centre_x, -over), (centre_x, over))
        dim = self.space.add_diameter_dim(
            center=(centre_x, 0),
            radius=circle,
            angle=60,
            dimstyle="TREBB",
            dxfattribs={"layer": "DIMENSION"},
            location=(centre_x + over, over),
        )
        dim.render()
        self._hole_dim(
            part,
            (centre_x + part.holes[0][0] * k, part.holes[0][1] * k),
            (centre_x + over + 2 * self.text, -over),
        )

    def _hole_dim(self, part: Part, centre: tuple[float, float], at: tuple[float, float]) -> None:
        dim = self.space.add_diameter_dim(
            center=centre,
            radius=part.holes[0][2] * self.scale / 2,
            angle=-40,
            dimstyle="TREBB",
            dxfattribs={"layer": "DIMENSION"},
            location=at,
        )
        dim.render()

    def views(self, part: Part) -> None:
        """Views one below the other, each with room for its dimensions."""
        k, t, top = self.scale, self.text, 0.0
        for view in part.views:
            low_x, low_y, _, high_y = view.box
            above = max([m.off for m in view.measured if not m.upright and m.off > 0] or [0.0])
            below = -min([m.off for m in view.measured if not m.upright and m.off < 0] or [0.0])
            base = top - (above + 1.6) * t - (high_y - low_y) * k

            def at(
                p: tuple[float, float], x0: float = low_x, y0: float = low_y, base: float = base
            ) -> tuple[float, float]:
                return (p[0] - x0) * k, base + (p[1] - y0) * k

            for outline in view.outlines:
                self.line("OUTLINE", *(at(p) for p in (*outline, outline[0])))
            for points in view.lines:
                self.line("THREAD", *(at(p) for p in points))
            for x, y, diameter in view.holes:
                self.space.add_circle(at((x, y)), diameter * k / 2, dxfattribs={"layer": "OUTLINE"})
            for m in view.measured:
                self._measured(view, m, at)
            top = base - (below + 2.6) * t
            self.words(view.words, (0, top + 0.6 * t))
            top -= 1.4 * t
        self._title(part, top - 1.6 * t)

    def _measured(self, view: View, m: Measured, at: Any) -> None:
        """One dimension, its line off the view's edge by so many text heights."""
        t = self.text
        low_x, low_y, high_x, high_y = view.box
        edge = at((high_x, high_y) if m.off > 0 else (low_x, low_y))
        base = (edge[0] + m.off * t, 0.0) if m.upright else (0.0, edge[1] + m.off * t)
        start, end = at(m.start), at(m.end)
        dim = self.space.add_linear_dim(
            base=base,
            p1=start,
            p2=end,
            angle=90 if m.upright else 0,
            dimstyle="TREBB",
            text_rotation=0 if m.upright else None,
            dxfattribs={"layer": "DIMENSION"},
        )
        if m.upright:  # words lie beside the line: the size is often shorter than its figure
            dim.set_location(
                (base[0] + math.copysign(2.6 * t, m.off), (start[1] + end[1]) / 2),
                leader=False,
                relative=False,
            )
        dim.render()

    def plate(self, part: Part) -> None:
        """A flat bar with pins or holes, seen on its flat; a handle that narrows behind the head."""
        k, t = self.scale, self.text
        assert part.block_mm is not None
        length, half = part.length_mm * k, part.block_mm[0] * k / 2
        neck, grip = 2 * half, max(0.16 * half, 0.45 * t + part.block_mm[1] * k)
        self.line(
            "OUTLINE",
            (0, -half),
            (neck, -half),
            (neck + half, -grip),
            (length, -grip),
            (length, grip),
            (neck + half, grip),
            (neck, half),
            (0, half),
            (0, -half),
        )
        self.line("CENTRE", (-1.5 * t, 0), (length + 1.5 * t, 0))
        for hx, hy, dia in part.holes:
            self.space.add_circle((hx * k, hy * k), dia * k / 2, dxfattribs={"layer": "OUTLINE"})
            self.line("CENTRE", (hx * k - dia * k, hy * k), (hx * k + dia * k, hy * k))
        low, high = part.holes[0], part.holes[-1]
        dim = self.space.add_linear_dim(
            base=(-3 * t, 0),
            p1=(low[0] * k, low[1] * k),
            p2=(high[0] * k, high[1] * k),
            angle=90,
            dimstyle="TREBB",
            dxfattribs={"layer": "DIMENSION"},
        )
        dim.render()
        dim = self.space.add_linear_dim(
            base=(-6 * t, 0),
            p1=(0, -half),
            p2=(0, half),
            angle=90,
            dimstyle="TREBB",
            dxfattribs={"layer": "DIMENSION"},
        )
        dim.render()
        self.length_dim(0, length, -half, -half - 3 * t)
        self.length_dim(0, high[0] * k, half, half + 2.6 * t)
        self._hole_dim(part, (high[0] * k, high[1] * k), (neck + half + 4 * t, half * 0.9))
        self._title(part, -half - 7 * t)

    def _thread(self, part: Part, start: float, end: float) -> None:
        groove = next((s for s in part.sections if s.kind == "groove"), None)
        root = (groove.diameter_mm if groove else 0.8 * part.largest_mm) * self.scale / 2
        self.line("THREAD", (start, root), (end, root))
        self.line("THREAD", (start, -root), (end, -root))

    def _lengths(self, faces: list[float], part: Part, largest: float) -> None:
        """From one datum, so that no error adds up: the handwheel end."""
        for i, face in enumerate(faces[1:]):
            before = part.sections[i].diameter_mm * self.scale / 2
            self.length_dim(0.0, face, -before, -largest - (i + 1.6) * 1.9 * self.text)

    def _diameters(self, part: Part, largest: float) -> None:
        """Texts in a row of their own, one slot each, over three heights, so that none meets another."""
        x, span = 0.0, part.length_mm * self.scale
        slot = max(span / len(part.sections), 6 * self.text)
        for i, section in enumerate(part.sections):
            middle = x + section.length_mm * self.scale / 2
            at = (
                max((i + 0.5) * slot, middle if i == len(part.sections) - 1 else 0.0),
                largest + (2.6 + 2.1 * (i % 3)) * self.text,
            )
            before = part.sections[i - 1] if i else None
            is_said = before is not None and (before.diameter_mm, before.size) == (
                section.diameter_mm,
                section.size,
            )
            if not is_said:  # one diameter on over several lengths is written once
                self.diameter_dim(middle, section, at)
            if section.kind == "thread":
                self.words(section.label, (at[0] - 3 * self.text, at[1] + 1.1 * self.text))
            x += section.length_mm * self.scale
        if part.bore is not None:
            deep = part.bore.length_mm * self.scale
            if 0 < deep < span:
                self.diameter_dim(0.5 * deep, part.bore, (-8 * self.text, 0.0))
            else:
                self.diameter_dim(0.8 * span, part.bore, (span + 7 * self.text, 0.0))

    def block(self, part: Part) -> None:
        """A block with a threaded hole: side view in section, end view beside it."""
        k, t = self.scale, self.text
        assert part.block_mm is not None
        assert part.bore is not None
        width, height = part.block_mm[0] * k, part.block_mm[1] * k
        length, axis = part.length_mm * k, part.axis_height_mm * k
        minor = part.bore.diameter_mm * k / 2
        major = part.band("major").low_mm * k / 2
        self.line("OUTLINE", (0, 0), (length, 0), (length, height), (0, height), (0, 0))
        for y in (axis - minor, axis + minor):
            self.line("OUTLINE", (0, y), (length, y))
        for y in (axis - major, axis + major):
            self.line("THREAD", (0, y), (length, y))
        self.line("CENTRE", (-1.5 * t, axis), (length + 1.5 * t, axis))
        x0 = length + 9 * t
        self.line("OUTLINE", (x0, 0), (x0 + width, 0), (x0 + width, height), (x0, height), (x0, 0))
        centre = (x0 + width / 2, axis)
        self.space.add_circle(centre, minor, dxfattribs={"layer": "OUTLINE"})
        self.space.add_circle(centre, major, dxfattribs={"layer": "THREAD"})
        self.line("CENTRE", (centre[0] - width * 0.6, axis), (centre[0] + width * 0.6, axis))
        self.line("CENTRE", (centre[0], -1.2 * t), (centre[0], height + 1.2 * t))
        if part.construction == "split":
            slot = 0.5 * major * 0.2
            for side in (-slot, slot):
                self.line("OUTLINE", (centre[0] + side, axis + minor), (centre[0] + side, height))
        if part.construction == "half":  # sawn through the axis, packed while it is bored
            self.line("CENTRE", (x0 - t, axis), (x0 + width + t, axis))
            for y in (axis - 1.0 * k, axis + 1.0 * k):
                self.line("OUTLINE", (x0, y), (centre[0] - minor, y))
                self.line("OUTLINE", (centre[0] + minor, y), (x0 + width, y))
        if part.construction == "two_piece":
            piece = part.size_mm("piece") * k
            for x in (piece, length - piece):
                self.line("OUTLINE", (x, 0), (x, height))
        self.length_dim(0, length, 0, -2.4 * t)
        self.length_dim(x0, x0 + width, 0, -2.4 * t)
        for base, low, high in ((-3 * t, 0.0, axis), (-6 * t, 0.0, height)):
            dim = self.space.add_linear_dim(
                base=(base, 0),
                p1=(0, low),
                p2=(0, high),
                angle=90,
                dimstyle="TREBB",
                dxfattribs={"layer": "DIMENSION"},
            )
            dim.render()
        bore = self.space.add_diameter_dim(
            center=centre, radius=minor, angle=50, dimstyle="TREBB", dxfattribs={"layer": "DIMENSION"},
            location=(centre[0] + width * 0.62, height + 1.6 * t),
        )  # fmt: skip
        bore.render()
        self.words(part.title.split(", ", 1)[1], (0.3 * t, height + 1.0 * t))
        self._title(part, -6.6 * t)

    def _title(self, part: Part, y: float) -> None:
        self.words(part.title, (0, y), size=1.15)
        unit = "inches" if self.scale != 1 else "millimetres"
        lines = [f"{part.material}; {part.stock}; sizes in {unit}", *part.notes]
        for i, line in enumerate(piece for whole in lines for piece in textwrap.wrap(whole, LINE_LETTERS)):
            self.words(line, (0, y - (1.9 + 1.7 * i) * self.text))
