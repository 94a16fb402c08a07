"""What a part is: sections along an axis, sizes, checks."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping
from typing import Any, TypeVar

from msgspec import Struct, field

from trebb.core.bars import bar_size_mm
from trebb.core.dual_units import in_units, show_torque
from trebb.core.errors import InputError
from trebb.core.fits.iso286 import Limits
from trebb.core.items import Item
from trebb.core.machine.workshop import Workshop
from trebb.core.metals import MATERIALS, Material
from trebb.core.parts.feature_lines import parse_list, write_list
from trebb.core.threads import Band, ThreadSpec
from trebb.core.units import (
    INCH_MM,
    UnitSystem,
    parse_length,
    parse_lengths,
    show_size,
    show_small,
    small_unit,
)
from trebb.core.words import large

T = TypeVar("T")


def _plain_figure(label: str, text: str) -> float:
    """A figure without a unit. Raises InputError where it is none."""
    try:
        return float(text.strip().replace(",", "."))
    except ValueError:
        raise InputError(f"{label}: “{text}”", "type a figure alone, as 45") from None


def band_of(limits: Limits) -> Band:
    """ISO limits as a band in mm."""
    return Band(limits.low_mm, limits.high_mm)


class PartField(Struct, frozen=True):
    """A size or choice that may be set by hand.

    `choices` maps stored keys to words; without it the field is a length in mm.
    """

    key: str
    label: str
    default: str | float
    choices: Mapping[str, str] = field(default_factory=dict)
    low_mm: float = 0.0
    high_mm: float = 10_000.0
    is_small: bool = False  # shown in thou or µm
    is_readings: bool = False  # several readings of one size, kept as text in mm
    is_figure: bool = False  # a plain figure, money or days, no length
    is_free: bool = False  # the maker's own choice: nothing there to measure
    is_rule: bool = False  # its default is a rule of thumb, worked out from nothing that was read
    is_list: bool = False  # a line a feature, kept in mm: `feature_lines`

    @property
    def is_optional(self) -> bool:
        """Whether it may stay empty, as a size that nobody said."""
        return self.default == "" and not self.choices

    def shown(self, value: str | float, system: UnitSystem) -> str:
        """What stands in the field for a stored value. As stored: lengths in mm."""
        if self.is_list:
            return write_list(parse_list(str(value), UnitSystem.METRIC), system)
        if self.is_readings:
            return "  ".join(show_size(v, system, unit=False) for v in readings_of(value))
        if value == "" and self.is_optional:
            return ""
        if self.is_figure:
            return f"{float(value):g}"
        return (show_small if self.is_small else show_size)(float(value), system)

    def checked(self, value: str | float) -> str | float:
        """The value if this field takes it; raises InputError with what would do. As stored:
        lengths in mm.
        """
        if self.choices:
            if value not in self.choices:
                raise InputError(f"{self.label}: “{value}”", f"choose {', '.join(self.choices.values())}")
            return value
        if self.is_list:
            parse_list(str(value), UnitSystem.METRIC)
            return value
        if self.is_readings:
            sizes = readings_of(value)
            if not sizes or not all(self.low_mm <= v <= self.high_mm for v in sizes):
                raise InputError(
                    f"{self.label}: “{value}”",
                    f"give several readings, each from {self.low_mm:g} to {self.high_mm:g} mm",
                )
            return value
        if self.is_optional and value == "":
            return value
        if self.is_figure and not (isinstance(value, float | int) and self.low_mm <= value <= self.high_mm):
            raise InputError(f"{self.label}: {value}", f"a figure from {self.low_mm:g} to {self.high_mm:g}")
        if isinstance(value, str) or not self.low_mm <= value <= self.high_mm:
            shown = value if isinstance(value, str) else f"{value / INCH_MM:.4g} in ({value:.4g} mm)"
            low, high = (f"{v / INCH_MM:.4g} in ({v:.4g} mm)" for v in (self.low_mm, self.high_mm))
            raise InputError(f"{self.label}: {shown}", f"it can be from {low} to {high}")
        return value

    def typed(self, text: str, system: UnitSystem) -> str | float:
        """The value to store for what was typed: a choice's key or words, readings, or a length. As stored:
        lengths in mm.

        Raises InputError saying what would do.
        """
        if self.choices:
            plain = text.strip().lower()
            found = (k for k, words in self.choices.items() if plain in (k.lower(), words.lower()))
            return self.checked(next(found, text))
        if self.is_list:
            return write_list(parse_list(text, system), UnitSystem.METRIC)
        if self.is_readings:
            return self.checked(" ".join(f"{mm:.4f}" for mm in parse_lengths(text, system)))
        if self.is_optional and not text.strip():
            return ""
        if self.is_figure:
            return self.checked(_plain_figure(self.label, text))
        bare_mm = small_unit(system)[1] if self.is_small else None
        return self.checked(parse_length(text, system, bare_mm=bare_mm))


def usual_of(
    fields: Iterable[PartField],
    facts: Mapping[str, str | float],
    bare: Mapping[str, str | float],
    known: Collection[float],
) -> tuple[PartField, ...]:
    """The fields whose size is a usual one.

    Parameters
    ----------
    facts : what was set by hand, by field.
    bare : defaults of the same fields where nothing is stated or read.
    known : sizes that were stated or read, mm.
    """
    return tuple(
        f
        for f in fields
        if not (f.choices or f.is_figure or f.is_readings or f.is_free or f.is_list)
        and f.key not in facts
        and isinstance(f.default, float | int)
        and f.default
        and (f.is_rule or f.default == bare.get(f.key))
        and not any(abs(f.default - one) < 1e-9 for one in known)
    )


class PartInputs(Struct, frozen=True):
    """What a part is worked out from: the assembly it is for, the lathe, facts set by hand, and what was
    measured.

    `system` is what sentences are written in. `partner` holds facts of the part it runs with;
    `screw_pitch_dia_mm` the
    pitch diameter of the screw the nut is for, measured, or None; `measured` sizes by name, mm.
    """

    subject: Any
    workshop: Workshop
    facts: Mapping[str, str | float]
    partner: Mapping[str, str | float] = field(default_factory=dict)
    screw_pitch_dia_mm: float | None = None
    screw_source: str = ""
    system: UnitSystem = UnitSystem.INCH
    measured: Mapping[str, float] = field(default_factory=dict)

    def about(self, kind: type[T]) -> T:
        """What the part is for, as what it is. Raises TypeError for another subject."""
        if not isinstance(self.subject, kind):
            raise TypeError(f"{self.subject!r} is no {kind.__name__}")
        return self.subject

    def bar_mm(self, least_mm: float) -> float:
        """The next round bar that is sold, mm, of the sizes of the shop's own units: as it is bought."""
        return bar_size_mm(least_mm, inch=self.system is UnitSystem.INCH)

    def bar(self, least_mm: float) -> str:
        """The same as text."""
        return self.size(self.bar_mm(least_mm))

    def torque(self, nm: float) -> str:
        """A torque as text in the system asked for. In N·m."""
        return show_torque(nm, self.system)

    def size(self, mm: float) -> str:
        """A size as text in the system asked for, without needless noughts."""
        return f"{mm / INCH_MM:.4g} in" if self.system is UnitSystem.INCH else f"{mm:.4g} mm"


class Section(Struct, frozen=True):
    """A length of a turned part, from the handwheel end onward.

    `kind` is "plain", "thread", "end thread" or "groove"; `size` the limits of its diameter; `long` the key
    of the row that limits its length.
    """

    label: str
    kind: str
    length_mm: float
    diameter_mm: float
    size: Band | None = None
    long: str = ""

    @property
    def is_threaded(self) -> bool:
        """Whether a thread is cut on it: the part's own, or one that a nut holds its end by."""
        return self.kind in ("thread", "end thread")


class SizeRow(Struct, frozen=True):
    """A line of the sizes: `kind` is "size", "band", "small", "angle" (rad) or "text"; `key` names it for
    what is made or drawn by it.
    """

    label: str
    kind: str
    value: float | str | Band
    note: str = ""
    is_key: bool = False
    key: str = ""


def fitted_rows(*sections: Section, notes: Mapping[str, str] | None = None) -> tuple[SizeRow, ...]:
    """A line for each limited diameter, by what the section is called; `notes` by the same name."""
    return tuple(
        SizeRow(large(s.label), "band", s.size, (notes or {}).get(s.label, ""))
        for s in sections
        if s.size is not None and not s.is_threaded
    )


class Check(Struct, frozen=True):
    """Something that would spoil the job if it were not so, as a sentence; `asks` : the facts that it asks
    to be stated.
    """

    is_ok: bool
    sentence: str
    asks: tuple[str, ...] = ()

    @classmethod
    def of(cls, holds: bool, good: str, bad: str, asks: tuple[str, ...] = ()) -> Check:
        """What is said where it holds, and where it does not: the condition is written once."""
        return cls(bool(holds), good if holds else bad, () if holds else asks)

    def said_in(self, system: UnitSystem) -> Check:
        """The same in the shop's own units, where its words knew no system."""
        return Check(self.is_ok, in_units(self.sentence, system), self.asks)


MOST_LENGTHS = 4.0  # diameters that a turned ring, spacer or sleeve is long at most


def length_check(inputs: PartInputs, name: str, length_mm: float, across_mm: float) -> Check:
    """Whether a ring, spacer or sleeve is of a length that such a part may have: a slip by ten, or thou for
    inches, shows here.
    """
    is_ok = length_mm <= MOST_LENGTHS * across_mm
    return Check.of(
        is_ok,
        f"A {name} of {inputs.size(length_mm)} suits its {inputs.size(across_mm)}.",
        f"A {name} {inputs.size(length_mm)} long on {inputs.size(across_mm)} is not what is drawn here: "
        "measure it again, or see whether its unit is right.",
    )


class Measured(Struct, frozen=True):
    """A dimension of a view: between two of its points, along x or along y, so many text heights off them.
    `key` is the row that limits it.
    """

    start: tuple[float, float]
    end: tuple[float, float]
    off: float
    upright: bool = False
    key: str = ""


class View(Struct, frozen=True):
    """One view of a part that is not turned, mm: closed outlines, hidden or inner lines, holes (x, y,
    diameter), dimensions; `words` below it. `hole_keys` are the rows that limit holes, by their diameter;
    `circles` what holes stand on, round (0, 0), by its diameter.
    """

    words: str
    outlines: tuple[tuple[tuple[float, float], ...], ...]
    lines: tuple[tuple[tuple[float, float], ...], ...] = ()
    holes: tuple[tuple[float, float, float], ...] = ()
    measured: tuple[Measured, ...] = ()
    hole_keys: tuple[tuple[float, str], ...] = ()
    circles: tuple[float, ...] = ()

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Least x, least y, most x, most y. In mm of the view."""
        xs = [x for outline in self.outlines for x, _ in outline]
        ys = [y for outline in self.outlines for _, y in outline]
        return min(xs), min(ys), max(xs), max(ys)


class Feature(Struct, frozen=True):
    """Something on a turned part beside its sections, mm from its left end.

    Parameters
    ----------
    kind : "keyway", "cross_hole", "taper_hole", "spline", "square", "flats", "chamfer", "undercut", "centre",
        "groove", "tap".
    at_mm : where it begins, or a hole's middle; `length_mm` along the axis.
    width_mm : of a key, a hole, a square over its flats; `depth_mm` from the surface or the face.
    words : how the drawing calls it; "" where its sizes say all.
    size : limits of its width, where it has any.
    """

    kind: str
    at_mm: float
    length_mm: float = 0.0
    width_mm: float = 0.0
    depth_mm: float = 0.0
    count: int = 1
    words: str = ""
    size: Band | None = None


class Part(Struct, frozen=True):
    """A part worked out: ready to draw and to make."""

    key: str
    title: str
    metal: Material | str
    stock: str
    sections: tuple[Section, ...]
    bore: Section | None
    rows: tuple[SizeRow, ...]
    checks: tuple[Check, ...]
    notes: tuple[str, ...]
    block_mm: tuple[float, float] | None = None  # width and height where it is not round
    axis_height_mm: float = 0.0
    holes: tuple[
        tuple[float, float, float], ...
    ] = ()  # in the face or the plate: x, y from the axis or the end's middle, diameter
    hole_key: str = ""  # the row that limits them
    hole_deep_mm: float = 0.0  # 0 for through
    views: tuple[View, ...] = ()  # of what is not turned, one below the other
    construction: str = ""  # which of the ways its family is built
    is_cast: bool = False
    ways: tuple[str, ...] = ()  # how else its route goes: choices of its family, by key
    features: tuple[Feature, ...] = ()  # of a turned part, beside its sections
    thread: ThreadSpec | None = None  # drawn as a detail at its own scale
    blanks: int = 1  # how many are sawn or bought: two where one is a spare
    usual: tuple[str, ...] = ()  # what of its sizes nobody stated, read or set: fields' labels
    inner: tuple[Section, ...] = ()  # the inside from the left end; a diameter of nothing where it is solid
    is_crowded: bool = False  # drawn without sections of its own: they leave no room for its words
    goes_with: tuple[Item, ...] = ()  # bought ready, beside what its features ask for

    def row(self, key: str) -> SizeRow:
        """The line of the sizes of that key. Raises InputError where the part has none."""
        found = next((row for row in self.rows if row.key == key), None)
        if found is None:
            raise InputError(f"size “{key}” of {self.title}", "it has none of that name")
        return found

    def band(self, key: str) -> Band:
        """Limits of the line of that key, mm. Raises InputError where it has none."""
        found = self.row(key).value
        if not isinstance(found, Band):
            raise InputError(f"size “{key}” of {self.title}", "it has no limits")
        return found

    def size_mm(self, key: str) -> float:
        """Size of the line of that key, mm. Raises InputError where it has none."""
        found = self.row(key).value
        if not isinstance(found, float | int):
            raise InputError(f"size “{key}” of {self.title}", "it is not one size")
        return float(found)

    @property
    def material(self) -> str:
        """What it is made of, in words."""
        return self.metal.label if isinstance(self.metal, Material) else self.metal

    @property
    def stock_words(self) -> str:
        """What it is made from, and how many of it."""
        return self.stock + self.number_words.removeprefix("1")

    @property
    def number_words(self) -> str:
        """How many are made: one, and what is to spare."""
        spares = self.blanks - 1
        return "1" + (f", and {'one spare' if spares == 1 else f'{spares} spares'}" if spares else "")

    @property
    def usual_words(self) -> str:
        """Which of its sizes are usual ones that nobody knows of this part; "" for none."""
        if not self.usual:
            return ""
        return f"Usual, measured by nobody: {', '.join(dict.fromkeys(self.usual))}. Measure first."

    @property
    def length_mm(self) -> float:
        """Length over all."""
        return sum(section.length_mm for section in self.sections)

    @property
    def largest_mm(self) -> float:
        """Largest diameter, or the block's height."""
        return self.block_mm[1] if self.block_mm else max(section.diameter_mm for section in self.sections)


class PartFamily(Struct, frozen=True):
    """A family of parts, of one family of assemblies. `fields` and `build` see the same inputs; `reminder`
    is what is easily forgotten while making it. `made_on_it` : its route works on what it goes into, which is
    off by then.
    """

    key: str
    title: str
    fields: Callable[[PartInputs], tuple[PartField, ...]]
    build: Callable[[PartInputs], Part]
    assembly: str = "screw_drive"
    reminder: str = ""
    made_on_it: bool = False


def readings_of(value: str | float) -> tuple[float, ...]:
    """Several readings of a size from how they are kept, mm."""
    if not isinstance(value, str):
        return (float(value),)
    try:
        return tuple(float(word) for word in value.split())
    except ValueError:
        return ()


def mean_reading(values: Mapping[str, str | float], key: str) -> float:
    """Mean of several readings of a size among the facts, mm."""
    sizes = readings_of(values[key])
    return sum(sizes) / len(sizes)


def facts_of(
    family_fields: tuple[PartField, ...], facts: Mapping[str, str | float]
) -> dict[str, str | float]:
    """Every field's value: as set by hand where that is a value it takes, else the default. Fields as
    stored: lengths in mm.
    """
    return {f.key: f.checked(facts[f.key]) if f.key in facts else f.default for f in family_fields}


def number(values: Mapping[str, str | float], key: str) -> float:
    """A length among the facts, mm."""
    return float(values[key])


def round_size(mm: float, inch: bool, *, up: bool = False) -> float:
    """A size as one would call it: to 1/32 in, or to half a millimetre; `up` never goes under. Both in mm."""
    step = INCH_MM / 32 if inch else 0.5
    steps = mm / step
    whole = int(steps) + (1 if steps - int(steps) > 1e-9 else 0) if up else round(steps)
    return whole * step


def material_field(default: str) -> PartField:
    """The choice of material."""
    return PartField("material", "Material", default, {m.key: m.label for m in MATERIALS.values()})
