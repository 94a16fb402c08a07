"""Parts of a spindle: spacers, the coupler's sleeve, a second bearing's seat, locking collar, pin spanner."""

from __future__ import annotations

import math

from trebb.core.dual_units import show_force
from trebb.core.errors import UnreadError
from trebb.core.fits import (
    hole_limits,
    shaft_limits,
)
from trebb.core.fits.bond import GAP_MM
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
from trebb.core.parts.spindle_sleeve import REMINDER
from trebb.core.parts.turned import broken_ends
from trebb.core.threads import Band, Form, ThreadSpec
from trebb.core.units import show_small

# Assumed: bearing rings want parallel spacers; the two faces of one within this, the pair within the same.
# Shop practice.
PARALLEL_MM = 0.002
PRELOAD_APPROACH_MM = 0.004  # light preload of a small matched pair, as axial approach


# spacers --------------------------------------------------------------------------------------


def spacer_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Length, diameters, the gap measured and the preload wanted."""
    s = inputs.spindle
    return (
        material_field("alloy_ht"),
        PartField("arrangement", "Bearings stand", "back", {"back": "back to back", "face": "face to face"}),
        PartField("length", "Spacer length", 20.0, low_mm=2, high_mm=300),
        PartField(
            "gap",
            "End float measured",
            inputs.measured.get("float", 0.0),
            low_mm=0,
            high_mm=1,
            is_small=True,
        ),
        PartField(
            "preload", "Preload, as approach", PRELOAD_APPROACH_MM, low_mm=0, high_mm=0.05, is_small=True
        ),
        PartField("bore", "Inner spacer bore", s.front_bore_mm, low_mm=5, high_mm=120),
        PartField("wall", "Wall", 5.0, low_mm=1.5, high_mm=40),
    )


def spacer(inputs: PartInputs) -> Part:
    """Two spacers, one shorter than the other by the float measured and the preload wanted."""
    f = facts_of(spacer_fields(inputs), inputs.facts)
    length, gap, preload, bore, wall = (number(f, k) for k in ("length", "gap", "preload", "bore", "wall"))
    if "gap" not in inputs.facts and "float" not in inputs.measured:
        raise UnreadError(
            "No size yet",
            "it is worked out from the end float. Push and pull the spindle at Survey, or type the float as "
            "measured elsewhere",
        )
    short = length - gap - preload
    back = f["arrangement"] == "back"
    inner, outer = (short, length) if back else (length, short)
    half = PARALLEL_MM / 2
    bore_limits = band_of(hole_limits(bore, "G7"))
    small = inputs.system
    rows = (
        SizeRow(
            "Inner spacer",
            "band",
            Band(inner - half, inner + half),
            "between the inner rings",
            True,
            key="inner",
        ),
        SizeRow(
            "Outer spacer",
            "band",
            Band(outer - half, outer + half),
            "between the outer rings",
            True,
            key="outer",
        ),
        SizeRow(
            "Difference",
            "small",
            gap + preload,
            f"{'inner' if back else 'outer'} shorter: float {show_small(gap, small)} + preload "
            f"{show_small(preload, small)}",
            True,
        ),
        SizeRow("Inner bore", "band", bore_limits, "G7: slides by hand"),
        SizeRow("Faces parallel within", "small", PARALLEL_MM, "each, and one to the other"),
        SizeRow("Outside", "size", bore + 2 * wall, key="outside"),
    )
    outside = bore + 2 * wall
    room = inputs.spindle.front_outside_mm - 6 - outside
    checks = (
        Check(
            gap + preload < 0.2,
            "The difference is one that grinding gives."
            if gap + preload < 0.2
            else "A difference this large is not preload: look for a spacer left out.",
        ),
        Check(
            room > 0,
            "The inner spacer clears the outer rings."
            if room > 0
            else f"The inner spacer touches the outer rings by {inputs.size(-room)}: a thinner wall would "
            "do.",
        ),
        Check(
            preload <= 0.012,
            "The preload is light: run it warm and look."
            if preload <= 0.012
            else "More approach than small bearings take without heating.",
        ),
        Check(True, "The float is the one measured."),
    )
    return Part(
        "spacer",
        "Bearing spacers, a matched pair",
        material(str(f["material"])),
        f"tube or bar {inputs.size(outside + 2)}, both from one piece, and a spare",
        (Section("inner spacer", "plain", inner, outside),),
        Section("bore", "plain", inner, bore, bore_limits),
        rows,
        checks,
        (
            f"Outer spacer the same, {inputs.size(outer)} long, to the housing.",
            "Both ground in one setting on one parallel, then the shorter one more.",
        ),
        features=broken_ends(inner),
    )


# coupler sleeve -------------------------------------------------------------------------------


def coupler_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Splines as they are, the sleeve over them, the pin across."""
    over = float(round(0.7 * inputs.spindle.rear_bore_mm, 1))
    return (
        material_field("carbon"),
        PartField("splines", "Over the splines", over, low_mm=5, high_mm=100),
        PartField("wall", "Wall", max(3.0, 0.2 * over), low_mm=1.5, high_mm=30),
        PartField("length", "Length", 3.0 * over, low_mm=8, high_mm=300),
        PartField(
            "drive", "Bore of the drive", over + 2 * max(3.0, 0.2 * over) + 0.08, low_mm=6, high_mm=160
        ),
        PartField("pin", "Cross pin", max(3.0, float(round(over / 5))), low_mm=1.5, high_mm=20),
        PartField("held", "Held by", "bond", {"bond": "retaining compound, then pinned", "pin": "pin alone"}),
    )


def coupler_sleeve(inputs: PartInputs) -> Part:
    """A sleeve over worn splines, turned to slide in the drive, bonded before it is drilled."""
    f = facts_of(coupler_fields(inputs), inputs.facts)
    over, wall, length, drive, pin = (number(f, k) for k in ("splines", "wall", "length", "drive", "pin"))
    outside = over + 2 * wall
    bonded = f["held"] == "bond"
    bore = Band(over + GAP_MM[0], over + GAP_MM[1]) if bonded else band_of(hole_limits(over, "H7"))
    play = drive - outside
    rows = (
        SizeRow("Bore", "band", bore, "a gap the compound fills" if bonded else "H7", True, key="bore"),
        SizeRow(
            "Outside",
            "band",
            Band(outside - 0.02, outside),
            "slides in the drive through the whole stroke",
            True,
            key="outside",
        ),
        SizeRow("Play in the drive", "small", play, "on diameter", True),
        SizeRow("Length", "size", length),
        SizeRow(
            "Cross pin",
            "size",
            pin,
            "drilled through both after the bond has cured" if bonded else "drilled through both",
        ),
    )
    fits, thin, strong = 0.03 <= play <= 0.2, wall >= 0.1 * over, pin <= over / 3
    checks = (
        Check(
            fits,
            f"It slides in the drive with {show_small(play, inputs.system)} of play."
            if fits
            else f"{show_small(play, inputs.system)} of play in the drive: from 30 to 200 µm (1 to 8 thou) "
            "slides and does not knock.",
        ),
        Check(
            thin,
            "The wall carries the pin."
            if thin
            else f"A wall of {inputs.size(wall)} tears at the pin: {inputs.size(0.1 * over)} at least.",
        ),
        Check(
            strong,
            "The pin leaves the shaft its strength."
            if strong
            else f"A pin over a third of the shaft weakens it: {inputs.size(over / 3)} at most.",
        ),
        Check(
            length >= 1.5 * over,
            "Long enough to guide."
            if length >= 1.5 * over
            else f"Short of {inputs.size(1.5 * over)} it cocks on the splines.",
        ),
    )
    return Part(
        "coupler_sleeve",
        "Coupler sleeve",
        material(str(f["material"])),
        f"bar {inputs.bar(outside + 3)}, {inputs.size(length)} long, and one spare",
        (Section("sleeve", "plain", length, outside, Band(outside - 0.02, outside)),),
        Section("bore", "plain", length, bore.low_mm, bore),
        rows,
        checks,
        (
            "Bond first, let it cure by its data sheet, then drill: or it turns and binds the drill.",
            "Index before pinning.",
        ),
        features=broken_ends(length),
    )


# Tooth of a usual quill rack of module 1.5: 2.25 modules deep, where none is measured.
RACK_DEPTH_MM = 3.4

# a second bearing's seat ----------------------------------------------------------------------


def seat_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Bearing, quill, the rack cut in it, fits."""
    s = inputs.spindle
    return (
        material_field("carbon"),
        PartField("quill", "Quill outside", s.front_outside_mm + 16, low_mm=20, high_mm=150),
        PartField("outside", "Bearing outside", s.front_outside_mm, low_mm=10, high_mm=120),
        PartField("bearing_bore", "Bearing bore", s.front_bore_mm, low_mm=4, high_mm=100),
        PartField("width", "Bearing width", s.bearing_width_mm, low_mm=4, high_mm=60),
        PartField("shoulder", "Shoulder left", 3.0, low_mm=1, high_mm=40),
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
    checks = (
        Check(
            wall >= 4.0,
            f"Under the rack's teeth the quill keeps {inputs.size(wall)} of wall."
            if wall >= 4
            else f"Only {inputs.size(max(wall, 0))} of wall is left under the rack's teeth: a bearing of "
            "a thinner series, or bore where the rack does not reach.",
        ),
        Check(
            is_read,
            "The rack's depth is the one measured."
            if is_read
            else f"The rack's depth is not measured: {inputs.size(rack)} is a usual one. Measure it from the "
            "quill's outside to the root of a tooth.",
        ),
        Check(
            length > 4 * width,
            "The bearings stand far enough apart to hold the spindle straight."
            if length > 4 * width
            else "So near each other two bearings hold no better than one: a longer quill, or narrower.",
        ),
        Check(
            outside - bore >= 8,
            "The bearing is one that can be."
            if outside - bore >= 8
            else "Outside and bore are too near each other for a rolling bearing.",
        ),
        Check(
            shoulder >= 2,
            "The shoulder carries the thrust."
            if shoulder >= 2
            else "A shoulder under 2 mm shears under the drill's thrust.",
        ),
    )
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


# locking collar -------------------------------------------------------------------------------


def collar_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Thread, outside, width and pin holes."""
    bore = inputs.spindle.front_bore_mm
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
    passes = major <= inputs.spindle.front_bore_mm
    checks = (
        Check(
            land >= 0.5 * hole,
            f"{inputs.size(land / 2)} of metal stand on each side of a hole."
            if land >= 0.5 * hole
            else "The holes break into the thread or the rim: smaller holes, or a larger outside.",
        ),
        Check(
            width / pitch >= 5,
            f"{width / pitch:.1f} threads hold it."
            if width / pitch >= 5
            else "Fewer than five threads: make it wider.",
        ),
        Check(
            depth <= width - 2,
            "The holes do not come through."
            if depth <= width - 2
            else "The holes come through the back face: shallower, or a wider ring.",
        ),
        Check(
            passes,
            "The bearing passes over the thread."
            if passes
            else "The bearing does not pass over this thread: it must be no larger than the bearing's bore.",
        ),
    )
    return Part(
        "locking_collar",
        "Locking collar",
        material(str(f["material"])),
        f"bar {inputs.bar(outside + 3)}, cut two",
        (Section("collar", "plain", width, outside),),
        Section(f"M{major:g} × {pitch:g}", "thread", width, minor, Band(minor, minor + tolerance)),
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
        features=broken_ends(width),
    )


# pin spanner ----------------------------------------------------------------------------------


def spanner_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """What was measured at the collar's holes, and the bar."""
    bore = inputs.spindle.front_bore_mm
    return (
        material_field("carbon"),
        PartField(
            "over", "Over the holes' far edges", float(round(1.25 * bore)) + 5.0, low_mm=8, high_mm=300
        ),
        PartField("hole", "Hole diameter", 5.0, low_mm=2, high_mm=20),
        PartField("hole_depth", "Hole depth", 6.0, low_mm=2, high_mm=40),
        PartField("length", "Handle length", 250.0, low_mm=60, high_mm=600),
        PartField("thickness", "Bar thickness", 8.0, low_mm=3, high_mm=30),
        PartField("width", "Bar width", float(round(1.25 * bore)) + 25.0, low_mm=15, high_mm=350),
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
        Check(
            strong,
            f"The pins stand it: {shear:.0f} MPa of {HARD_PIN_MPA:.0f}."
            if strong
            else f"{shear:.0f} MPa shears a pin: a shorter handle, or larger holes.",
        ),
        Check(
            room >= hole,
            "There is metal outside the pins." if room >= hole else "The bar is too narrow outside the pins.",
        ),
        Check(
            depth - 1 >= 0.6 * hole,
            "The pins go deep enough to hold."
            if depth - 1 >= 0.6 * hole
            else "The holes are shallow: the pins will ride out. Drill them deeper first.",
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
    )


FAMILIES = (
    PartFamily("spacer", "Spacers", spacer_fields, spacer, "spindle", REMINDER),
    PartFamily("coupler_sleeve", "Coupler sleeve", coupler_fields, coupler_sleeve, "spindle", REMINDER),
    PartFamily("bearing_seat", "Bearing seat", seat_fields, bearing_seat, "spindle", REMINDER),
    PartFamily("locking_collar", "Locking collar", collar_fields, locking_collar, "spindle", REMINDER),
    PartFamily("pin_spanner", "Pin spanner", spanner_fields, pin_spanner, "spindle", REMINDER),
)
