"""What holds a block nut and lets it be set: spigot, bolts into its base, adjusting screw of a slotted one,
and the room to the casting over it.

Lengths mm. Nothing is drawn that was not asked for: a nut's seat is measured on the machine, not guessed.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from trebb.core.families.screw_drive.sizes import is_inch
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.fits.drills import drill_under
from trebb.core.fits.iso286 import shaft_limits
from trebb.core.parts.base import Check, Feature, PartField, PartInputs, SizeRow, band_of, number
from trebb.core.threads import thread_limits
from trebb.core.threads.fasteners import Fastener, fastener, largest_under
from trebb.core.units import UnitSystem

NONE = "none"
_NAMES = (
    "M4", "M5", "M6", "M8", "M10", "M12", "No. 10-24 UNC", "1/4-20 UNC", "5/16-18 UNC", "3/8-16 UNC",
    "1/2-13 UNC",
)  # fmt: skip
SCREWS: Mapping[str, Fastener] = {name: fastener(name) for name in _NAMES}
WALL_MM = 1.0  # left between a hole and the thread, at least
HOLD = 1.0  # diameters that a bolt's thread needs, at least
DEEP = 1.5  # diameters that a bolt's thread is cut deep where there is room

Values = Mapping[str, str | float]


def hold_fields(inputs: PartInputs, style: str) -> tuple[PartField, ...]:
    """Of a block nut: spigot and its hole, bolts, room above, adjusting screw."""
    names = {NONE: "none", **{name: name for name in SCREWS}}
    made = [PartField("spigot", "Spigot under its base", 0.0, high_mm=200)]
    if inputs.facts.get("spigot"):
        made += [
            PartField("spigot_hole", "Its hole as measured", 0.0, high_mm=200),
            PartField("spigot_len", "Spigot's length", 0.25 * float(inputs.facts["spigot"]), high_mm=100),
        ]
    made.append(PartField("bolts", "Two bolts into its base", NONE, names))
    if inputs.facts.get("bolts", NONE) != NONE:
        apart = round(0.6 * inputs.about(ScrewDrive).nut_length_mm, 1)
        made.append(PartField("bolts_apart", "Bolts apart", apart, low_mm=2, high_mm=500))
    made.append(PartField("above", "Room above the axis", 0.0, high_mm=500))
    if style == "split":
        made.append(PartField("adjuster", "Adjusting screw", _usual_adjuster(inputs), names))
    return tuple(made)


def _usual_adjuster(inputs: PartInputs) -> str:
    """The largest screw that passes over the thread with a wall on both sides."""
    major, facts = inputs.about(ScrewDrive).thread.major_mm, inputs.facts
    height, axis = (float(facts.get(k, n * major)) for k, n in (("height", 1.9), ("axis_height", 0.95)))
    room = height - axis - thread_limits(inputs.about(ScrewDrive).thread).nut_major.high_mm / 2 - 2 * WALL_MM
    return largest_under(SCREWS, room, inch=is_inch(inputs.about(ScrewDrive))) or NONE


def _screw(f: Values, key: str) -> Fastener | None:
    return SCREWS.get(str(f.get(key, NONE)))


def _spigot(f: Values) -> float:
    return number(f, "spigot") if f.get("spigot") else 0.0


def spigot_mm(f: Values) -> float:
    """How far a spigot stands out of the base; 0 where there is none."""
    return number(f, "spigot_len") if _spigot(f) else 0.0


def _wall(inputs: PartInputs, f: Values, *, above: bool) -> float:
    """Metal between the thread and the base, or the top."""
    axis, half = (
        number(f, "axis_height"),
        thread_limits(inputs.about(ScrewDrive).thread).nut_major.high_mm / 2,
    )
    return (number(f, "height") - axis if above else axis) - half


def _depth(inputs: PartInputs, f: Values, bolt: Fastener) -> float:
    """How deep the bolts' holes may be: never nearer the nut's thread than a wall."""
    return min(DEEP * bolt.major_mm, _wall(inputs, f, above=False) - WALL_MM)


def _drill(screw: Fastener, system: UnitSystem) -> str:
    """The drill for three quarters of its thread: major less pitch, the next size up in metric steps."""
    name, _ = drill_under(screw.tap_mm + 0.05, inch=system is UnitSystem.INCH)
    return name


def hold_rows(inputs: PartInputs, f: Values) -> list[SizeRow]:
    """Lines of what holds it."""
    rows = []
    if dia := _spigot(f):
        hole = number(f, "spigot_hole")
        note = (
            f"g6: slides by hand in {inputs.size(hole)} as measured" if hole else "g6: its hole is not read"
        )
        band = band_of(shaft_limits(hole or dia, "g6"))
        rows.append(SizeRow("Spigot", "band", band, note, True, key="spigot"))
        rows.append(SizeRow("Spigot's length", "size", number(f, "spigot_len"), key="spigot_len"))
    if bolt := _screw(f, "bolts"):
        depth = _depth(inputs, f, bolt)
        drill = _drill(bolt, inputs.system)
        rows.append(
            SizeRow(
                "Bolts into the base", "text", f"2 × {bolt.name}", f"drill {drill}; spot from the casting"
            )
        )
        rows.append(SizeRow("Bolts' holes deep", "size", max(0.0, depth), "clear of the thread", True))
    if screw := _screw(f, "adjuster"):
        rows.append(
            SizeRow(
                "Adjusting screw",
                "text",
                screw.name,
                f"drill {_drill(screw, inputs.system)} through, tap the far jaw, open the near one to clear",
            )
        )
    return rows


def hold_checks(inputs: PartInputs, f: Values) -> list[Check]:
    """What would spoil it: holes into thread, spigot or ends, no room under the casting."""
    size, checks = inputs.size, []
    length, axis = number(f, "length"), number(f, "axis_height")
    over, above = number(f, "height") - axis, number(f, "above")
    if above:
        checks.append(
            Check(
                over <= above,
                f"The block reaches {size(over)} over the axis, "
                + (
                    f"under the casting's {size(above)}."
                    if over <= above
                    else f"and the casting leaves {size(above)}: a lower block, or relieve the casting."
                ),
            )
        )
    dia = _spigot(f)
    if dia:
        side = min(number(f, "width"), length)
        checks.append(
            Check.of(
                dia < side,
                f"A spigot of {size(dia)} stands on a base of {size(side)}.",
                f"A spigot of {size(dia)} is wider than the base of {size(side)}: a larger block.",
            )
        )
        if not number(f, "spigot_hole"):
            checks.append(Check(False, "The spigot's hole is not measured: read it before it is turned."))
    bolt = _screw(f, "bolts")
    _add_bolt_checks(inputs, f, dia, bolt, size, checks, length)
    screw = _screw(f, "adjuster")
    if screw is not None:
        wall = _wall(inputs, f, above=True)
        fits = wall >= screw.major_mm + 2 * WALL_MM
        checks.append(
            Check.of(
                fits,
                f"{screw.name} passes over the thread with metal on both sides.",
                f"{size(max(0.0, wall))} over the thread has no room for {screw.name}: a smaller "
                f"screw, or "
                "a higher block.",
            )
        )
    elif f.get("style") == "split":
        checks.append(
            Check(False, "The adjusting screw is not chosen: its room over the thread is not known.")
        )
    return checks


def _add_bolt_checks(
    inputs: PartInputs,
    f: Mapping[str, str | float],
    dia: float,
    bolt: Fastener | None,
    size: Callable[[float], str],
    checks: list[Check],
    length: float,
) -> None:
    if bolt is not None:
        depth, apart = _depth(inputs, f, bolt), number(f, "bolts_apart")
        is_deep = depth >= HOLD * bolt.major_mm
        checks.append(
            Check.of(
                is_deep,
                f"The bolts hold in {size(depth)} of metal, clear of the thread.",
                f"Only {size(max(0.0, depth))} under the thread for {bolt.name}: it would run into the "
                "thread. Smaller bolts, or the axis higher in the block.",
            )
        )
        end, gap = (length - apart - bolt.major_mm) / 2, (apart - bolt.major_mm - dia) / 2
        clear = end >= WALL_MM and gap >= WALL_MM / 2
        checks.append(
            Check.of(
                clear,
                f"Bolts {size(apart)} apart clear the ends{' and the spigot' if dia else ''}.",
                f"Bolts {size(apart)} apart run out of the ends."
                if end < WALL_MM
                else f"Bolts {size(apart)} apart run into {'the spigot' if dia else 'each other'}.",
            )
        )


def hold_features(inputs: PartInputs, f: Values) -> tuple[Feature, ...]:
    """Spigot, bolts and adjusting screw as they are drawn: along the block from its left end."""
    found = []
    length = number(f, "length")
    if dia := _spigot(f):
        band = band_of(shaft_limits(number(f, "spigot_hole") or dia, "g6"))
        found.append(Feature("spigot", length / 2, number(f, "spigot_len"), dia, size=band))
    if bolt := _screw(f, "bolts"):
        for way in (-1, 1):
            at = length / 2 + way * number(f, "bolts_apart") / 2
            found.append(
                Feature(
                    "bolt", at, 0.0, bolt.major_mm, max(0.0, _depth(inputs, f, bolt)), 2, f"2 × {bolt.name}"
                )
            )
    if screw := _screw(f, "adjuster"):
        half = thread_limits(inputs.about(ScrewDrive).thread).nut_major.high_mm / 2
        over = half + _wall(inputs, f, above=True) / 2
        found.append(Feature("adjuster", length / 2, 0.0, screw.major_mm, over, 1, screw.name))
    return tuple(found)
