"""A spindle’s bearing seat, its locking collar and the spanner for it."""

from __future__ import annotations

import math

from trebb.core.dual_units import show_force
from trebb.core.families.spindle.sleeve import REMINDER
from trebb.core.families.spindle.spacers import coupler_fields, coupler_sleeve, spacer, spacer_fields
from trebb.core.families.spindle.subject import Spindle
from trebb.core.fits import hole_limits, shaft_limits
from trebb.core.metals import HARD_PIN_MPA, material
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    band_of,
    facts_of,
    material_field,
    number,
)
from trebb.core.parts.turned import broken_ends
from trebb.core.threads import Band, Form, ThreadSpec

# Tooth of a usual quill rack of module 1.5: 2.25 modules deep, where none is measured.
RACK_DEPTH_MM = 3.4


def seat_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Bearing, quill, the rack cut in it, fits."""
    s = inputs.about(Spindle)
    return (
        material_field("carbon"),
        PartField("quill", "Quill outside", s.front_outside_mm + 16, low_mm=20, high_mm=150),
        PartField("outside", "Bearing outside", s.front_outside_mm, low_mm=10, high_mm=120),
        PartField("bearing_bore", "Bearing bore", s.front_bore_mm, low_mm=4, high_mm=100),
        PartField("width", "Bearing width", s.bearing_width_mm, low_mm=4, high_mm=60),
        PartField("shoulder", "Shoulder left", 3.0, low_mm=1, high_mm=40, is_free=True),
        PartField(
            "quill_length", "Quill's length", s.quill_guided_mm + s.quill_stroke_mm, low_mm=40, high_mm=900
        ),
        PartField("rack", "Rack's depth", RACK_DEPTH_MM, low_mm=0, high_mm=30),
        PartField(
            "housing_fit",
            "Fit in the quill",
            "JS6",
            {"JS6": "JS6, pushed in by hand", "K6": "K6, pressed lightly", "M6": "M6, firm"},
        ),
        PartField(
            "journal_fit", "Fit on the spindle", "k5", {"js5": "js5, snug", "k5": "k5, pressed lightly"}
        ),
    )


def bearing_seat(inputs: PartInputs) -> Part:
    """The quill's other end bored for one more bearing, as far from the first as it goes."""
    f = facts_of(seat_fields(inputs), inputs.facts)
    quill, outside, bore, width, shoulder = (
        number(f, k) for k in ("quill", "outside", "bearing_bore", "width", "shoulder")
    )
    housing = band_of(hole_limits(outside, str(f["housing_fit"])))
    journal = band_of(shaft_limits(bore, str(f["journal_fit"])))
    depth, length, rack = width + shoulder, number(f, "quill_length"), number(f, "rack")
    wall = (quill - outside) / 2 - rack
    is_read = "rack" in inputs.facts
    rows = (
        SizeRow("Bore for the bearing", "band", housing, str(f["housing_fit"]), True, key="bearings"),
        SizeRow("Depth of the bore", "size", width, "one bearing, at the end away from the nose", True),
        SizeRow("Journal on the spindle", "band", journal, str(f["journal_fit"]), True, key="journal"),
        SizeRow("Shoulder bore", "size", outside - 6, "the outer ring must stand on it"),
        SizeRow("Bearings apart", "size", length - width, "middle to middle; the further, the stiffer"),
        SizeRow(
            "Wall left under the rack", "size", wall, "outside, less bore, less the rack's teeth", key="wall"
        ),
    )
    checks = _seat_checks(inputs, wall, is_read, outside, bore, width, shoulder, length, rack)
    return Part(
        "bearing_seat",
        "Second bearing's seat in the quill",
        material(str(f["material"])),
        "the quill itself: indicate it by its outside",
        (
            Section("second bearing", "plain", width, quill),
            Section("shoulder", "plain", shoulder, quill),
            Section("quill, to the first bearing", "plain", length - depth - width, quill),
            Section("first bearing, at the nose", "plain", width, quill),
        ),
        Section("bearing bore", "plain", width, outside, housing),
        rows,
        checks,
        ("Bore and face in one setting.", "Test hardness with a file before the boring tool touches it."),
    )


def _seat_checks(
    inputs: PartInputs,
    wall: float,
    is_read: bool,
    outside: float,
    bore: float,
    width: float,
    shoulder: float,
    length: float,
    rack: float,
) -> tuple[Check, ...]:
    return (
        Check(
            wall >= 4.0,
            f"Under the rack's teeth the quill keeps {inputs.size(wall)} of wall."
            if wall >= 4
            else f"Only {inputs.size(max(wall, 0))} of wall is left under the rack's teeth: a bearing of "
            "a thinner series, or bore where the rack does not reach.",
        ),
        Check.of(
            is_read,
            "The rack's depth is the one measured.",
            f"The rack's depth is not measured: {inputs.size(rack)} is a usual one. Measure it from the "
            "quill's outside to the root of a tooth.",
        ),
        Check.of(
            length > 4 * width,
            "The bearings stand far enough apart to hold the spindle straight.",
            "So near each other two bearings hold no better than one: a longer quill, or narrower.",
        ),
        Check.of(
            outside - bore >= 8,
            "The bearing is one that can be.",
            "Outside and bore are too near each other for a rolling bearing.",
        ),
        Check.of(
            shoulder >= 2,
            "The shoulder carries the thrust.",
            "A shoulder under 2 mm shears under the drill's thrust.",
        ),
    )


def collar_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Thread, outside, width and pin holes."""
    bore = inputs.about(Spindle).front_bore_mm
    major = float(round(bore - 1))
    return (
        material_field("carbon"),
        PartField("major", "Thread major", major, low_mm=6, high_mm=150),
        PartField("pitch", "Thread pitch", 1.5, low_mm=0.5, high_mm=4),
        PartField("outside", "Outside", float(max(round(1.45 * major), major + 16)), low_mm=8, high_mm=200),
        PartField("width", "Width", 10.0, low_mm=4, high_mm=60),
        PartField("holes", "Pin holes", "4", {"2": "two", "4": "four", "6": "six"}),
        PartField("hole", "Hole diameter", 5.0, low_mm=2, high_mm=20),
        PartField("hole_depth", "Hole depth", 6.0, low_mm=2, high_mm=40),
    )


def locking_collar(inputs: PartInputs) -> Part:
    """A threaded ring with pin holes in its face."""
    f = facts_of(collar_fields(inputs), inputs.facts)
    major, pitch, outside, width, hole, depth = (
        number(f, k) for k in ("major", "pitch", "outside", "width", "hole", "hole_depth")
    )
    spec = ThreadSpec(Form.METRIC, major, pitch)
    minor = spec.nut_minor_mm
    # ISO 965-1 6H minor diameter tolerance, TD1 = 230·P^0.7 µm above 0.8 mm pitch, else 433·P − 190·P^1.22.
    tolerance = (230 * pitch**0.7 if pitch >= 1 else 433 * pitch - 190 * pitch**1.22) / 1000
    circle = (outside + major) / 2
    rows = (
        SizeRow("Thread", "text", f"M{major:g} × {pitch:g} 6H", "", True),
        SizeRow("Bore to", "band", Band(minor, minor + tolerance), "ISO 965-1, 6H", True, key="bore"),
        SizeRow("Pin circle", "size", circle, f"{f['holes']} holes, equally spaced", True),
        SizeRow("Pin holes", "size", hole, f"{inputs.size(depth)} deep"),
        SizeRow("Outside", "size", outside, key="outside"),
        SizeRow("Width", "size", width, f"{width / pitch:.1f} threads"),
    )
    land = (outside - major) / 2 - hole
    passes = major <= inputs.about(Spindle).front_bore_mm
    checks = _collar_checks(inputs, land, passes, pitch, width, hole, depth)
    return Part(
        "locking_collar",
        "Locking collar",
        material(str(f["material"])),
        f"bar {inputs.bar(outside + 3)}",
        (Section("collar", "plain", width, outside),),
        Section(f"M{major:g} × {pitch:g} 6H", "thread", width, minor, Band(minor, minor + tolerance)),
        rows,
        checks,
        ("Face square to the thread: face it on a threaded stub.", "Brass pad under the locking screw."),
        holes=tuple(
            (
                circle / 2 * math.cos(2 * math.pi * i / int(str(f["holes"]))),
                circle / 2 * math.sin(2 * math.pi * i / int(str(f["holes"]))),
                hole,
            )
            for i in range(int(str(f["holes"])))
        ),
        hole_deep_mm=depth,
        features=broken_ends(width),
        blanks=2,
    )


def _collar_checks(
    inputs: PartInputs, land: float, passes: bool, pitch: float, width: float, hole: float, depth: float
) -> tuple[Check, ...]:
    return (
        Check.of(
            land >= 0.5 * hole,
            f"{inputs.size(land / 2)} of metal stand on each side of a hole.",
            "The holes break into the thread or the rim: smaller holes, or a larger outside.",
        ),
        Check.of(
            width / pitch >= 5,
            f"{width / pitch:.1f} threads hold it.",
            "Fewer than five threads: make it wider.",
        ),
        Check.of(
            depth <= width - 2,
            "The holes do not come through.",
            "The holes come through the back face: shallower, or a wider ring.",
        ),
        Check.of(
            passes,
            "The bearing passes over the thread.",
            "The bearing does not pass over this thread: it must be no larger than the bearing's bore.",
        ),
    )


def spanner_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """What was measured at the collar's holes, and the bar."""
    bore = inputs.about(Spindle).front_bore_mm
    return (
        material_field("carbon"),
        PartField(
            "over", "Over the holes' far edges", float(round(1.25 * bore)) + 5.0, low_mm=8, high_mm=300
        ),
        PartField("hole", "Hole diameter", 5.0, low_mm=2, high_mm=20),
        PartField("hole_depth", "Hole depth", 6.0, low_mm=2, high_mm=40),
        PartField("length", "Handle length", 250.0, low_mm=60, high_mm=600, is_free=True),
        PartField("thickness", "Bar thickness", 8.0, low_mm=3, high_mm=30, is_free=True),
        PartField(
            "width", "Bar width", float(round(1.25 * bore)) + 25.0, low_mm=15, high_mm=350, is_free=True
        ),
    )


def pin_spanner(inputs: PartInputs) -> Part:
    """A flat bar with two pins, from two measured holes.

    Pin distance = over the far edges − one hole. Pins go in by 0.1 mm of
    clearance; their stress is for a pull of 200 N at the handle's end, in
    double shear of two pins.
    """
    f = facts_of(spanner_fields(inputs), inputs.facts)
    over, hole, depth, length, thickness, width = (
        number(f, k) for k in ("over", "hole", "hole_depth", "length", "thickness", "width")
    )
    centres = over - hole
    pin = hole - 0.1
    pull = show_force(200.0, inputs.system)
    force = 200.0 * length / centres
    shear = force / (math.pi / 4 * pin**2)
    seat = Band(pin - 0.03, pin - 0.015)
    rows = (
        SizeRow("Between pin centres", "size", centres, "over the far edges less one hole", True),
        SizeRow("Pins", "size", pin, f"hardened, {inputs.size(thickness + depth - 1)} long", True),
        SizeRow("Bore for the pins", "band", seat, "pressed in", True, key="pins"),
        SizeRow("Pins stand out", "size", depth - 1, "a millimetre off the bottom"),
        SizeRow("Shear in a pin", "text", f"{shear:.0f} MPa", f"pulled with {pull} at {inputs.size(length)}"),
    )
    strong, room = shear <= HARD_PIN_MPA, width - centres - hole
    checks = (
        Check.of(
            strong,
            f"The pins stand it: {shear:.0f} MPa of {HARD_PIN_MPA:.0f}.",
            f"{shear:.0f} MPa shears a pin: a shorter handle, or larger holes.",
        ),
        Check.of(room >= hole, "There is metal outside the pins.", "The bar is too narrow outside the pins."),
        Check.of(
            depth - 1 >= 0.6 * hole,
            "The pins go deep enough to hold.",
            "The holes are shallow: the pins will ride out. Drill them deeper first.",
        ),
    )
    return Part(
        "pin_spanner",
        "Pin spanner",
        material(str(f["material"])),
        f"flat bar {inputs.size(width)} × {inputs.size(thickness)}, {inputs.size(length + width / 2)} long",
        (Section("head and handle", "plain", length + width / 2, width),),
        None,
        rows,
        checks,
        (
            "Measure over the holes' far edges with a caliper, twice.",
            "Pins square to the bar: press them in a vice with soft jaws.",
        ),
        (width, thickness),
        holes=((width / 2, -centres / 2, pin), (width / 2, centres / 2, pin)),
        hole_key="pins",
    )


FAMILIES = (
    PartFamily("spacer", "Spacers", spacer_fields, spacer, "spindle", REMINDER),
    PartFamily(
        "coupler_sleeve",
        "Coupler sleeve",
        coupler_fields,
        coupler_sleeve,
        "spindle",
        REMINDER,
        made_on_it=True,
    ),
    PartFamily(
        "bearing_seat", "Bearing seat", seat_fields, bearing_seat, "spindle", REMINDER, made_on_it=True
    ),
    PartFamily("locking_collar", "Locking collar", collar_fields, locking_collar, "spindle", REMINDER),
    PartFamily("pin_spanner", "Pin spanner", spanner_fields, pin_spanner, "spindle", REMINDER),
)
