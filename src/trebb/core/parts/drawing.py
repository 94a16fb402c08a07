"""A part's drawing as one DXF document: frame, title block, views, dimensions, notes; true to size.

The page is laid out in millimetres of paper (`page.py`), at the largest usual
scale at which everything has room; then all of it is written at the part's own
size, so that a program that cuts from it finds real measures, and what is
printed to A4 has letters of one height.
"""

from __future__ import annotations

import textwrap
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.parts.base import Part
from trebb.core.parts.controls import controls_of, frames, within_words
from trebb.core.parts.page import (
    ARROW,
    HEIGHT,
    MARGIN,
    SMALL,
    TEXT,
    TITLE_HIGH,
    WIDTH,
    Box,
    Dim,
    Page,
    Round,
    text_width,
)
from trebb.core.parts.sheet_flat import block, plate, views
from trebb.core.parts.sheet_turned import turned
from trebb.core.parts.size_block import block_high, put_block, unsaid
from trebb.core.parts.thread_detail import thread_detail
from trebb.core.parts.turned_sections import Place, sections_wanted
from trebb.core.units import INCH_MM, UnitSystem

# ANSI widths in hundredths of a millimetre, and DXF colour numbers that read on paper.
_LAYERS = {
    "OUTLINE": (7, 50), "THREAD": (8, 18), "CENTRE": (8, 18), "DIMENSION": (5, 18), "TEXT": (7, 18),
    "HATCH": (8, 13), "FRAME": (7, 35), "HELD": (8, 30),
}  # fmt: skip
_DIMENSION_RGB = (38, 65, 143)  # layout blue
_WASH_RGB = (196, 208, 240)  # layout blue, washed
_BY_LAYER = 256
SCALES = (10.0, 5.0, 2.0, 1.0, 0.5, 0.2, 0.1, 0.05, 0.02)
SCREEN_SCALES = tuple(10.0 * 0.88**i for i in range(44))  # a screen has no usual ones
NOTE_LETTERS, MOST_NOTES, SCREEN_NOTES = 86, 15, 3
FRAMES_HIGH = 8.0  # of the control frames beside the notes, mm
BESIDE_NOTES = 0.6  # of the sheet, where the control frames stand: notes are wrapped before it
GENERAL = {UnitSystem.INCH: "±.005, holes +.004", UnitSystem.METRIC: "ISO 2768-m"}
CELL_LETTERS = (2.2, 1.9)  # mm, of words that need two lines of a cell; 1.9 is the least that is read on A4
FINISH = {UnitSystem.INCH: "63 µin, fitted 32", UnitSystem.METRIC: "Ra 3.2, fitted 0.8"}


class Title(Struct, frozen=True):
    """What the title block says beside the part: whose it is, when, and in which projection it is drawn.

    `projection` is "first" or "third"; "" is third for inches, first for millimetres.
    """

    machine: str = ""
    job: str = ""
    date: str = ""
    sheet: str = "1 of 1"
    projection: str = ""

    def angle(self, system: UnitSystem) -> str:
        """The projection in use."""
        return self.projection or ("third" if system is UnitSystem.INCH else "first")


class Sheet(Struct, frozen=True):
    """What a part is drawn on, mm. Not framed it is for a screen: as large as letters there may be;
    `has_sizes` : with its sizes, or, of a turned part, its shape alone.
    """

    wide: float = WIDTH
    high: float = HEIGHT
    is_framed: bool = True
    has_notes: bool = True
    has_sizes: bool = True

    @property
    def foot(self) -> float:
        """Where the notes begin. In mm on the paper."""
        return MARGIN + TITLE_HIGH if self.is_framed else 1.0

    @property
    def rim(self) -> float:
        """Free at the edges. In mm on the paper."""
        return MARGIN + 3 if self.is_framed else 2.0


A4, A_SCREEN, LARGER = Sheet(), 212.0, (1.2, 1.45, 1.75, 2.1)
LETTER = Sheet(279.4, 215.9)
SCREEN, SCREEN_BARE = Sheet(A_SCREEN, 118.0, False), Sheet(A_SCREEN, 100.0, False, False)
SCREEN_SHAPE = replace(SCREEN_BARE, has_sizes=False)


def drawing_of(
    part: Part,
    system: UnitSystem,
    title: Title | None = None,
    sheet: Sheet = A4,
    cut: frozenset[str] = frozenset(),
) -> Any:
    """The part as an ezdxf document, in inches or millimetres, true to size.

    Every dimension measures the geometry, so what it prints is what is drawn.
    `cut` names what an operation cuts (`core/making/cutting.py`): washed.
    Returns an `ezdxf.document.Drawing`.
    """
    page, scale = laid_out(part, system, title or Title(), sheet, cut)
    return written(page, scale, system)


def laid_out(
    part: Part, system: UnitSystem, title: Title, sheet: Sheet = A4, cut: frozenset[str] = frozenset()
) -> tuple[Page, float]:
    """The page, and its scale (mm of paper to a mm of the part): the largest at which nothing runs out."""
    found = _found(part, system, title, sheet, cut)
    for larger in () if sheet.is_framed or found is not None else LARGER:
        # A crowded part has smaller letters on a screen rather than no room for them.
        sheet = replace(sheet, wide=A_SCREEN * larger, high=sheet.high * A_SCREEN * larger / sheet.wide)
        found = _found(part, system, title, sheet, cut)
        if found is not None:
            break
    if found is None and sections_wanted(part):
        part = replace(part, is_crowded=True)
        found = _found(part, system, title, sheet, cut)
    if found is None:
        notes, scale = _notes(part, system, sheet) if sheet.has_notes else [], SCALES[-1]
        page = _at_scale(part, system, title, notes, scale, sheet, cut)
    else:
        page, scale, notes = found
    page.sheet = sheet.wide, sheet.high
    if sheet.is_framed:
        _frame(page, part, system, title, scale)
    controls = controls_of(part, system) if sheet.is_framed else ()
    frames(page, controls, system, (BESIDE_NOTES * sheet.wide, sheet.foot + 2.0))
    for i, words in enumerate(notes):
        page.write_left(words, (sheet.rim, sheet.foot + 2.0 + 4.4 * (len(notes) - 1 - i)), SMALL)
    return page, scale


def _found(
    part: Part, system: UnitSystem, title: Title, sheet: Sheet, cut: frozenset[str]
) -> tuple[Page, float, list[str]] | None:
    """The page at the largest scale at which nothing runs out, with its notes; None where there is none."""
    notes = _notes(part, system, sheet) if sheet.has_notes else []
    lines: list[str] = []
    for tried in SCALES if sheet.is_framed else SCREEN_SCALES:
        if not _could_fit(part, tried, sheet):
            continue
        page = _at_scale(part, system, title, notes, tried, sheet, cut, is_tried=True)
        if page.overflows:
            continue
        if not sheet.is_framed or _completed(page, part, system, tried, _beside(sheet, page, notes)):
            return page, tried, notes
        lines = unsaid(part, page, Place(page, tried, system))
    # No scale leaves room for what no view shows: the sheet's foot does, beside the notes or under them too.
    for under in (0, max(0, len(lines) - len(notes)) // 2) if lines else ():
        more = [*notes, *lines[:under]]
        wanted = block_high(lines[under:])
        for tried in SCALES:
            page = _at_scale(part, system, title, more, tried, sheet, cut, is_tried=True, beside=wanted)
            if page.overflows:
                continue
            _form(page, part, Place(page, tried, system))
            if put_block(page, lines[under:], _beside(sheet, page, more)):
                return page, tried, more
    return None


def _beside(sheet: Sheet, page: Page, notes: list[str]) -> Box:
    """The room beside the notes, over the control frames."""
    left = sheet.rim + max([text_width(line, SMALL) for line in notes] + [0.0]) + 2.0
    return Box(
        max(BESIDE_NOTES * sheet.wide, left), sheet.foot + FRAMES_HIGH, sheet.wide - sheet.rim, page.area.low
    )


def _completed(page: Page, part: Part, system: UnitSystem, scale: float, beside: Box) -> bool:
    """Add what no view shows: the thread's form where there is room, and whatever must be held."""
    place = Place(page, scale, system)
    _form(page, part, place)
    return put_block(page, unsaid(part, page, place), beside)


def _form(page: Page, part: Part, place: Place) -> None:
    """The thread's form where there is room for it."""
    if part.thread is not None:
        words = "thread, on its axis" if part.bore is None else "thread of the screw that it suits"
        thread_detail(page, part.thread, place.size, words)


def _could_fit(part: Part, scale: float, sheet: Sheet) -> bool:
    if part.views:
        wide = max(v.box[2] - v.box[0] for v in part.views)
        high = sum(v.box[3] - v.box[1] for v in part.views)
    elif part.block_mm is not None:
        wide, high = part.length_mm + part.block_mm[0], part.block_mm[1]
    else:
        wide, high = part.length_mm, part.largest_mm
    return wide * scale <= sheet.wide - 45 and high * scale <= sheet.high - 30


def _at_scale(
    part: Part,
    system: UnitSystem,
    title: Title,
    notes: list[str],
    scale: float,
    sheet: Sheet,
    cut: frozenset[str],
    *,
    is_tried: bool = False,
    beside: float = 0.0,
) -> Page:
    low = max(sheet.foot + 2.0 + 4.4 * len(notes) + 2.0, sheet.foot + FRAMES_HIGH + beside if beside else 0.0)
    page = Page(Box(sheet.rim, low, sheet.wide - sheet.rim, sheet.high - sheet.rim), is_tried=is_tried)
    place = Place(page, scale, system, title.angle(system), cut, sheet.has_sizes)
    if part.views:
        views(part, place)
    elif part.block_mm is not None and part.bore is None:
        plate(part, place)
    elif part.block_mm is not None:
        block(part, place)
    else:
        turned(part, place)
    return page


def _notes(part: Part, system: UnitSystem, sheet: Sheet) -> list[str]:
    lines = [f"From {part.stock_words}.", *part.notes]
    if any(s.size is not None for s in part.sections):
        lines.append("Break sharp corners.")
    for control in () if sheet.is_framed else controls_of(part, system):
        way = "run true" if control.kind == "runout" else "are square"
        lines.append(
            f"{control.what.capitalize()} {way} within {within_words(control, system)}, from the "
            f"{control.datum}."
        )
    kinds = {f.kind for f in part.features}
    small = [
        w
        for k, w in (
            ("chamfer", "chamfers"),
            ("undercut", "undercuts at shoulders"),
            ("centre", "centres at both ends"),
        )
        if k in kinds
    ]
    if small:
        sizes = "0.02 × 45° and .012 deep" if system is UnitSystem.INCH else "0.5 × 45° and 0.3 deep"
        lines.append(f"{', '.join(small).capitalize()}: {sizes} where not drawn.")
    found = [
        piece for whole in lines for piece in textwrap.wrap(whole, int(NOTE_LETTERS * sheet.wide / WIDTH))
    ]
    return found[: MOST_NOTES if sheet.is_framed else SCREEN_NOTES]


def _frame(page: Page, part: Part, system: UnitSystem, title: Title, scale: float) -> None:
    """Frame, and the cells of the title block."""
    right, top, foot = WIDTH - MARGIN, HEIGHT - MARGIN, MARGIN + TITLE_HIGH
    page.line(
        "FRAME", (MARGIN, MARGIN), (right, MARGIN), (right, top), (MARGIN, top), (MARGIN, MARGIN), solid=False
    )
    page.line("FRAME", (MARGIN, foot), (right, foot), solid=False)
    cells = (
        (78.0, "part", part.title), (54.0, "machine", title.machine), (44.0, "job", title.job),
        (38.0, "material", part.material),
        (67.0, "number made", part.number_words),
    )  # fmt: skip
    under = (
        (78.0, "general tolerance", GENERAL[system]), (54.0, "surfaces", FINISH[system]),
        (44.0, "units", "inches" if system is UnitSystem.INCH else "millimetres"),
        (38.0, "scale", _scale_words(scale)), (67.0, "projection; date; sheet", f"{title.angle(system)} "
        f"angle; {title.date or '–'}; {title.sheet}"),
    )  # fmt: skip
    middle = MARGIN + TITLE_HIGH / 2
    page.line("FRAME", (MARGIN, middle), (right, middle), solid=False)
    for base, row in ((middle, cells), (MARGIN, under)):
        x = MARGIN
        for wide, head, words in row:
            if x > MARGIN:
                page.line("FRAME", (x, base), (x, base + TITLE_HIGH / 2), solid=False)
            page.write_left(head, (x + 1.5, base + TITLE_HIGH / 2 - 3.2), 1.9)
            for line, up, high in _in_cell(words, wide - 4):
                page.write_left(line, (x + 1.5, base + up), high)
            x += wide
    _symbol(page, title.angle(system), (right - 9.0, middle + TITLE_HIGH / 4))


def _symbol(page: Page, angle: str, at: tuple[float, float]) -> None:
    """The cone of the projection's symbol: its end beside its large or its small side."""
    x, y = at
    cone, rings = (x + 4.5, x - 3.0) if angle == "third" else (x - 4.0, x + 4.0)
    left, right = (cone - 3.2, cone + 3.2)
    small, large = (1.4, 2.6) if angle == "third" else (2.6, 1.4)
    page.line(
        "FRAME",
        (left, y - small),
        (right, y - large),
        (right, y + large),
        (left, y + small),
        (left, y - small),
        solid=False,
    )
    for radius in (1.4, 2.6):
        page.rounds.append(Round("FRAME", (rings, y), radius))


def _in_cell(words: str, wide: float) -> tuple[tuple[str, float, float], ...]:
    """Lines of a cell `wide` mm wide, each with its height over the cell's foot and its letters' height, mm.
    What is too long for one line goes on in a second, in smaller letters; only what no two lines hold is cut.
    """
    if text_width(words, SMALL) <= wide:
        return ((words, 1.8, SMALL),)
    for high in CELL_LETTERS:
        first, rest = _first_line(words, wide, high)
        if not rest:
            return ((words, 1.8, high),)
        if text_width(rest, high) <= wide:
            return (first, 1.2 + 1.35 * high, high), (rest, 1.2, high)
    first, rest = _first_line(words, wide, high)
    while text_width(f"{rest}…", high) > wide:
        rest = rest[:-1]
    return (first, 1.2 + 1.35 * high, high), (f"{rest.rstrip()}…", 1.2, high)


def _first_line(words: str, wide: float, high: float) -> tuple[str, str]:
    """What stands in a first line, to the last gap between words that does, and the rest."""
    at = len(words)
    while at > 1 and text_width(words[:at].rstrip(), high) > wide:
        gap = words.rfind(" ", 0, at - 1)
        at = gap + 1 if gap > 0 else at - 1
    return words[:at].rstrip(), words[at:]


def _scale_words(scale: float) -> str:
    return f"{scale:g} : 1" if scale >= 1 else f"1 : {1 / scale:g}"


def written(page: Page, scale: float, system: UnitSystem) -> Any:
    """The page as a document: paper divided by its scale, so that the part stands at its own size."""
    import ezdxf  # about 0.4 s: only when a drawing is wanted
    from ezdxf.enums import TextEntityAlignment

    k = (1 / INCH_MM if system is UnitSystem.INCH else 1.0) / scale
    doc = ezdxf.new("R2010", setup=True)
    doc.units = ezdxf.units.IN if system is UnitSystem.INCH else ezdxf.units.MM
    for name, (colour, weight) in _LAYERS.items():
        doc.layers.add(
            name, color=colour, lineweight=weight, linetype="CENTER" if name == "CENTRE" else "Continuous"
        )
    doc.header["$LTSCALE"] = 2.0 * k * INCH_MM / (1.0 if system is UnitSystem.INCH else INCH_MM)
    doc.layers.get("DIMENSION").rgb = _DIMENSION_RGB
    doc.styles.add("TREBB", font="BarlowSemiCondensed-Medium.ttf")
    style = doc.dimstyles.add("TREBB")
    inch = system is UnitSystem.INCH
    sizes = {"dimtxt": TEXT, "dimasz": ARROW, "dimexe": 1.2, "dimexo": 0.8, "dimgap": 0.8}
    colours = dict.fromkeys(("dimclrd", "dimclre", "dimclrt"), _BY_LAYER)
    ways = {"dimtxsty": "TREBB", "dimdec": 4 if inch else 3, "dimzin": 0 if inch else 8, "dimdsep": ord(".")}
    words = {"dimblk": "", "dimtad": 0, "dimtmove": 2, "dimtih": 1, "dimtoh": 1}
    for name, value in {**{n: v * k for n, v in sizes.items()}, **colours, **ways, **words}.items():
        style.set_dxf_attrib(name, value)
    doc.header["$LIMMIN"], doc.header["$LIMMAX"] = (0.0, 0.0), (page.sheet[0] * k, page.sheet[1] * k)
    space = doc.modelspace()

    def at(p: tuple[float, float]) -> tuple[float, float]:
        return p[0] * k, p[1] * k

    for face in page.hatches:
        hatch = space.add_hatch(color=8, dxfattribs={"layer": "HATCH"})
        if face.is_wash:
            hatch.set_solid_fill(color=5)
            hatch.rgb = _WASH_RGB
        else:
            hatch.set_pattern_fill("ANSI31", scale=0.63 * k)
        hatch.paths.add_polyline_path([at(p) for p in face.points], is_closed=True)
    for line in page.lines:
        space.add_lwpolyline([at(p) for p in line.points], dxfattribs={"layer": line.layer})
    for ring in page.rounds:
        space.add_circle(at(ring.centre), ring.radius * k, dxfattribs={"layer": ring.layer})
    for text in page.texts:
        entity = space.add_text(
            text.words, height=text.high * k, dxfattribs={"layer": text.layer, "style": "TREBB"}
        )
        middle = TextEntityAlignment.MIDDLE_CENTER if text.is_middle else TextEntityAlignment.LEFT
        entity.set_placement(at(text.at), align=middle)
    for dim in page.dims:
        _dimension(space, dim, at)
    return doc


def _dimension(space: Any, dim: Dim, at: Any) -> None:
    base = (dim.base, 0.0) if dim.upright else (0.0, dim.base)
    made = space.add_linear_dim(
        base=at(base), p1=at(dim.start), p2=at(dim.end), angle=90 if dim.upright else 0, text=dim.words,
        dimstyle="TREBB", text_rotation=0, dxfattribs={"layer": "DIMENSION"},
    )  # fmt: skip
    made.set_location(at(dim.text_at), leader=False, relative=False)
    made.render()


__all__ = [
    "A4",
    "LETTER",
    "SCREEN",
    "SCREEN_BARE",
    "SCREEN_SHAPE",
    "Sheet",
    "Title",
    "drawing_of",
    "laid_out",
    "written",
]
