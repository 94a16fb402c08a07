"""What is cut in a section of a turned part: keyways, squares, flats, splines, holes, grooves, knurls."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.fits.keys import seat_for_width
from trebb.core.parts.base import Feature, PartInputs, Section, SizeRow
from trebb.core.parts.feature_lines import Item
from trebb.core.parts.turned import key_of, keyway, keyway_band
from trebb.core.shafts import squares
from trebb.core.shafts.splines import splines
from trebb.core.threads import Band, ThreadSpec
from trebb.core.threads.fasteners import LISTED
from trebb.core.threads.marking import parse_marking
from trebb.core.units import is_inch_size
from trebb.core.words import large


class Placed(Struct, frozen=True):
    """A section with its item, and where it begins, mm from the left end."""

    item: Item
    section: Section
    start_mm: float

    @property
    def end_mm(self) -> float:
        """Where it ends, from the left end."""
        return self.start_mm + self.section.length_mm


def thread_called(name: str) -> ThreadSpec:
    """A thread by its marking; an inch one without a form is a Unified one, a name alone is the coarse one.
    Raises InputError.
    """
    try:
        return parse_marking(name)
    except InputError:
        if "-" in name:
            return parse_marking(f"{name} UN")
        screw = next((s for s in LISTED.values() if s.name.lower() == name.strip().lower()), None)
        if screw is None:
            raise
        return parse_marking(f"{screw.name} x {screw.pitch_mm:g}")


class Cut(Struct, frozen=True):
    """A feature to be cut: its line, the section, and how many rows stand already."""

    item: Item
    line: int
    host: Placed
    inputs: PartInputs
    rows: int

    @property
    def dia_mm(self) -> float:
        """Of the section, as it is called."""
        return self.host.item.size_mm or self.host.section.diameter_mm

    def refuse(self, given: str, would: str) -> InputError:
        """What will not do at this line."""
        return InputError(f"line {self.line}, {self.item.kind} {given}".rstrip(), would)

    def span(self, long_mm: float) -> tuple[float, float]:
        """Where a feature of a length lies, from the left end: as said, else in its section's middle. Raises
        InputError where it runs out of the section.
        """
        start, room, at = self.host.start_mm, self.host.section.length_mm, self.item.at_mm
        begin = start + ((room - long_mm) / 2 if at is None else at if at >= 0 else room + at - long_mm)
        if begin < start - 1e-6 or begin + long_mm > self.host.end_mm + 1e-6:
            size = self.inputs.size
            raise self.refuse(
                f"{size(long_mm)} long", f"its section is {size(room)} long: it must lie inside"
            )
        return begin, long_mm

    def middle(self) -> float:
        """Where the middle of a hole lies, from the left end. Raises InputError outside of the section."""
        size = self.item.size_mm
        at = self.item.at_mm
        middle = self.host.start_mm + self.host.section.length_mm / 2
        if at is not None:
            middle = (self.host.start_mm + at) if at >= 0 else (self.host.end_mm + at)
        if not self.host.start_mm + size / 2 <= middle <= self.host.end_mm - size / 2:
            room = self.inputs.size(self.host.section.length_mm)
            raise self.refuse(
                self.inputs.size(size), f"its section is {room} long: its middle must lie inside"
            )
        return middle

    def key(self, name: str) -> str:
        """A row's key that no other has."""
        return f"{name}_{self.rows}"


def _keyway(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    d, size = cut.dia_mm, cut.inputs.size
    table = key_of(d, inch=is_inch_size(d))
    if not cut.item.size_mm and table is None:
        raise cut.refuse("", f"no key is listed for {size(d)}: write its width")
    width = cut.item.size_mm or (table.width_mm if table is not None else 0.0)
    if width > 0.6 * d:
        raise cut.refuse(size(width), f"at most {size(0.4 * d)} in {size(d)}")
    usual = table is not None and abs(table.width_mm - width) < 0.02
    seat = table if usual and table is not None else seat_for_width(d, width)
    long = cut.item.long_mm or max(width, cut.host.section.length_mm - 2)
    begin, long = cut.span(min(long, cut.host.section.length_mm) if not cut.item.long_mm else long)
    made = keyway(seat, begin, long, d)
    if cut.item.deep_mm:
        made = replace(made, depth_mm=cut.item.deep_mm)
    return made, [
        SizeRow("Keyway's width", "band", keyway_band(seat), "tight in the shaft", key=cut.key("keyway")),
        SizeRow("Over it to the far side", "size", d - made.depth_mm, "from its bottom", key=cut.key("over")),
    ]


def _square(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    s, d, size = cut.item.size_mm, cut.dia_mm, cut.inputs.size
    if s >= d:
        raise cut.refuse(size(s), f"it has no flats on {size(d)}: at most {size(0.9 * d)}")
    begin, long = cut.span(cut.item.long_mm or cut.host.section.length_mm)
    deep = squares.flat_depth_mm(d, s)
    return Feature("square", begin, long, s, deep, words=f"square {size(s)}"), [
        SizeRow("Square over flats", "band", Band(s - 0.03, s), "all four alike", True, key=cut.key("square"))
    ]


def _flat(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    deep, d = cut.item.deep_mm, cut.dia_mm
    if deep >= d / 2:
        raise cut.refuse(f"deep {cut.inputs.size(deep)}", f"less than half of {cut.inputs.size(d)}")
    begin, long = cut.span(cut.item.long_mm or cut.host.section.length_mm)
    chord = 2 * math.sqrt((d / 2) ** 2 - (d / 2 - deep) ** 2)
    return Feature("flats", begin, long, chord, deep, words="flat"), [
        SizeRow("Flat, over to the far side", "size", d - deep, key=cut.key("flat"))
    ]


def _spline(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    try:
        found = splines(cut.item.count, (cut.item.fit or "A").upper(), cut.dia_mm)
    except InputError as error:
        raise cut.refuse(str(cut.item.count), error.would_do) from None
    begin, long = cut.span(cut.item.long_mm or cut.host.section.length_mm)
    words = f"{found.count} splines, fit {(cut.item.fit or 'A').upper()}"
    return Feature("spline", begin, long, found.width, found.depth, found.count, words), [
        SizeRow(
            "Spline's width",
            "band",
            Band(found.width - 0.03, found.width),
            words,
            True,
            key=cut.key("spline"),
        ),
        SizeRow("Root of the splines", "size", found.root, key=cut.key("root")),
    ]


def _across(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    d, size = cut.dia_mm, cut.item.size_mm
    name = {"hole": "hole", "pin": "straight pin", "tap": ""}[cut.item.kind]
    if cut.item.kind == "tap":
        spec = thread_called(cut.item.name)
        size, name = spec.major_mm, spec.designation
    if size > 0.7 * d:
        raise cut.refuse(
            cut.inputs.size(size), f"at most {cut.inputs.size(0.5 * d)} across {cut.inputs.size(d)}"
        )
    sized = Cut(replace(cut.item, size_mm=size), cut.line, cut.host, cut.inputs, cut.rows)
    kind = "tap" if cut.item.kind == "tap" else "cross_hole"
    return Feature(kind, sized.middle(), width_mm=size, words=name), [
        SizeRow(f"{large(name)} across", "size", size, key=cut.key("across"))
    ]


def _groove(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    wide, deep = cut.item.size_mm, cut.item.deep_mm
    if deep >= cut.dia_mm / 2:
        raise cut.refuse(f"deep {cut.inputs.size(deep)}", f"less than half of {cut.inputs.size(cut.dia_mm)}")
    begin, _ = cut.span(wide)
    words = f"groove {cut.inputs.size(wide)} × {cut.inputs.size(deep)} deep"
    return Feature("groove", begin, wide, wide, deep, words=words), [
        SizeRow("Groove's bottom", "size", cut.dia_mm - 2 * deep, "diameter", key=cut.key("groove"))
    ]


def _knurl(cut: Cut) -> tuple[Feature, list[SizeRow]]:
    begin, long = cut.span(cut.host.section.length_mm)
    return Feature("knurl", begin, long, words="knurl"), []


Made = tuple[Feature, list[SizeRow]]
CUT: Mapping[str, Callable[[Cut], Made]] = {
    "keyway": _keyway, "square": _square, "flat": _flat, "spline": _spline, "hole": _across,
    "pin": _across, "tap": _across, "groove": _groove, "knurl": _knurl,
}  # fmt: skip
