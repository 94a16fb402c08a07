"""How a part is held on a new shaft: pin, key, knurl, spline."""

from __future__ import annotations

import math

from trebb.core.families.shaft.subject import Shaft
from trebb.core.fits.drills import drill_under
from trebb.core.fits.keys import KeySeat, seat_for_width, woodruff
from trebb.core.fits.taper_pins import INCH, METRIC, Series
from trebb.core.metals import PIN_SHEAR_MPA
from trebb.core.parts.base import (
    Check,
    Feature,
    PartInputs,
    Section,
    SizeRow,
    number,
    round_size,
)
from trebb.core.parts.turned import (
    HOLDS,
    is_inch_made,
    key_of,
    keyway,
    keyway_row,
)
from trebb.core.shafts import driving, squares
from trebb.core.shafts.splines import indexes, splines
from trebb.core.threads import Band
from trebb.core.units import INCH_MM

HOLE_CIRCLES = (15, 16, 17, 18, 19, 20, 21, 23, 27, 29, 31, 33, 37, 39, 41, 43, 47, 49)


def held(
    inputs: PartInputs, f: dict[str, str | float], seat: Section, start: float
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    """What holds the wheel: features on its seat, their sizes, what would spoil them. Fields as stored:
    lengths in mm.
    """
    hold = str(f["hold"])
    if hold == "taper_pin":
        return _taper_pinned(inputs, f, seat, start)
    middle = start + seat.length_mm / 2
    d, torque = seat.diameter_mm, inputs.about(Shaft).torque_nm
    if hold == "key":
        return _keyed(inputs, f, start, seat, torque)
    if hold == "woodruff":
        return _woodruffed(inputs, start, seat, torque)
    if hold in ("pin", "spring_pin", "shear_pin"):
        return _pinned(inputs, f, seat, hold, middle, d, torque)
    if hold == "square":
        return _squared(inputs, f, seat, start, d)
    if hold == "spline":
        return _splined(inputs, start, seat, torque)
    if hold == "knurl":
        return _knurled(inputs, start, seat, torque)
    if hold == "screw":
        return (
            [Feature("flats", middle - 4, 8.0, 0.8 * d, 0.1 * d, words="flat")],
            [SizeRow("Flat for the set screw", "size", 0.9 * d, "over flat and far side", key="flat")],
            [Check(True, "A set screw marks the shaft: on a flat its burr does not lock the wheel on.")],
        )
    return [], [], []


def carries_check(
    inputs: PartInputs, what: str, carries_nm: float, asked_nm: float, else_words: str = ""
) -> Check:
    """Whether what holds a wheel carries the torque asked, 0 where nobody said, and what would else."""
    ok = not asked_nm or carries_nm >= asked_nm
    asked = f" of the {inputs.torque(asked_nm)} asked." if asked_nm else "."
    return Check(ok, f"{what} {inputs.torque(carries_nm)}{asked}{'' if ok else else_words}")


def _squared(
    inputs: PartInputs, f: dict[str, str | float], seat: Section, start: float, d: float
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    s = number(f, "square")
    flat = squares.flat_width_mm(d, s) if 0 < s < d else 0.0
    ok = 0 < s < d and flat >= 0.4 * s
    return (
        [
            Feature(
                "square",
                start,
                seat.length_mm,
                s,
                squares.flat_depth_mm(d, s) if 0 < s < d else 0.0,
                words=f"square {inputs.size(s)}",
            )
        ],
        [
            SizeRow("Square over flats", "band", Band(s - 0.03, s), "all four alike", True, key="square"),
            SizeRow("Off each side", "size", max(0.0, squares.flat_depth_mm(d, s)), key="flat_depth"),
        ],
        [
            Check.of(
                ok,
                f"Each flat is {inputs.size(flat)} wide.",
                f"A square of {inputs.size(s)} has no flats on {inputs.size(d)}: at most "
                f"{inputs.size(0.9 * d)}.",
            )
        ],
    )


def _pinned(
    inputs: PartInputs,
    f: dict[str, str | float],
    seat: Section,
    hold: str,
    middle: float,
    d: float,
    torque: float,
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    pin = number(f, "pin_dia")
    left = driving.cross_hole_left(d, pin) if 0 < pin < d else 0.0
    drill, drill_mm = drill_under(pin, inch=is_inch_made(inputs))
    carries = driving.pin_shear_torque(d, pin, 2, PIN_SHEAR_MPA / 2)
    return (
        [Feature("cross_hole", middle, width_mm=pin, words=HOLDS[hold])],
        [
            SizeRow(
                "Pin across", "size", pin, f"drill {drill}, with the wheel in its place", True, key="pin"
            ),
            SizeRow("Drill", "size", drill_mm, key="pin_drill"),
        ],
        [
            Check.of(
                0 < pin <= d / 3,
                f"A pin of {inputs.size(pin)} leaves {100 * left:.0f} % of the shaft's torsion.",
                f"A pin of {inputs.size(pin)} is more than a third of {inputs.size(d)}: the "
                f"shaft breaks at the hole.",
            ),
            Check(True, "The pin is weak on purpose: its size is worked out as a part of its own.")
            if hold == "shear_pin"
            else carries_check(inputs, "The pin carries", carries, torque, " A larger pin, or a key."),
            Check(
                True,
                "A spring pin fills its hole: no oil way may cross it."
                if hold == "spring_pin"
                else "Index the wheel to its mark before the hole is drilled.",
            ),
        ],
    )


def _taper_pinned(
    inputs: PartInputs, f: dict[str, str | float], seat: Section, start: float
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    """A taper pin across hub and shaft: inch pins are named by their large end and are 1 in 48, metric by
    their small end and 1 in 50. The hole is drilled for the far side of the hub that it crosses.
    """
    inch, shaft = is_inch_made(inputs), inputs.about(Shaft)
    series, unit = (INCH, INCH_MM) if inch else (METRIC, 1.0)
    pin, d, hub = number(f, "pin_dia"), seat.diameter_mm, shaft.hub_mm
    large = series.at_mouth(pin, hub)
    small = large - hub / series.ratio
    size = nearest_pin(series, pin)
    listed = abs(_named_mm(series, size) - pin) < 0.02
    length = next((n for n in series.lengths if n * unit >= hub + PROUD_MM), series.lengths[-1])
    name = f"No. {size} × {inputs.size(length * unit)}" if inch else f"{size} × {length:g} mm"
    drill, drill_mm = drill_under(max(small, 0.3), inch=inch)
    carries = driving.taper_pin_shear_torque(large, hub, d, series.ratio, PIN_SHEAR_MPA / 2)
    torque = shaft.torque_nm
    standard = "ASME B18.8.2" if inch else "ISO 2339"
    return (
        [Feature("taper_hole", start + seat.length_mm / 2, width_mm=large, words=HOLDS["taper_pin"])],
        [
            SizeRow(
                "Taper pin",
                "text",
                f"{standard} {name}" if listed else f"{inputs.size(pin)}, not a listed one",
                f"1 in {series.ratio:g} on diameter",
                True,
                key="taper_pin",
            ),
            SizeRow("Large end, at the hub", "size", large, f"hub of {inputs.size(hub)}", True, key="pin"),
            SizeRow("Small end, far side", "size", small, f"drill {drill}, then reamed", key="small"),
            SizeRow("Drill", "size", drill_mm, "through hub and shaft together", key="pin_drill"),
        ],
        [
            Check.of(
                listed,
                f"A pin is listed so: {standard} No. {size}." if inch else f"A pin is listed so: {name}.",
                f"No taper pin of {inputs.size(pin)} is listed: the nearest is "
                f"{inputs.size(_named_mm(series, size))}.",
            ),
            Check.of(
                0 < large <= d / 3,
                f"Its hole leaves {100 * driving.cross_hole_left(d, min(large, 0.9 * d)):.0f} % of the "
                "shaft's torsion.",
                f"A large end of {inputs.size(large)} is more than a third of {inputs.size(d)}: the shaft "
                "breaks at the hole.",
            ),
            carries_check(inputs, "The pin carries", carries, torque, " A larger pin, or a key."),
            Check(True, "Index the wheel to its mark before the hole is drilled."),
        ],
    )


PROUD_MM = 2.0  # what a pin stands out of both sides together until it is cut to length


def nearest_pin(series: Series, pin_mm: float) -> str:
    """The size of a series that is named nearest to a diameter, mm."""
    return min(series.sizes, key=lambda size: abs(_named_mm(series, size) - pin_mm))


def usual_pin_mm(shaft: Shaft, seat_mm: float, *, inch: bool) -> float:
    """The pin that holds a wheel where nobody measured one: a quarter to a third of the seat, mm."""
    about = 0.28 * seat_mm
    if shaft.drive != "taper_pin":
        return round_size(about, inch)
    series = INCH if inch else METRIC
    return _named_mm(series, nearest_pin(series, about if inch else about - shaft.hub_mm / series.ratio))


def _named_mm(series: Series, size: str) -> float:
    """The diameter that a taper pin is named by, mm: an inch one's large end, a metric one's small end."""
    return series.large_end(size, 0.0) * (INCH_MM if series.key == "inch" else 1.0)


def _keyed(
    inputs: PartInputs, f: dict[str, str | float], start: float, seat: Section, torque: float
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    d, width = seat.diameter_mm, number(f, "key_width")
    table = key_of(d, inch=is_inch_made(inputs))
    if width <= 0:
        return [], [], [Check(False, f"No key is listed for {inputs.size(d)}: pin it, or set a width.")]
    usual = table is not None and abs(table.width_mm - width) < 0.02
    found = table if usual and table is not None else seat_for_width(d, width)
    length = inputs.about(Shaft).key_length_mm or max(width, seat.length_mm - 2)
    carries = min(
        driving.key_shear_torque(d, found.width_mm, length, 60.0),
        driving.key_bearing_torque(d, found.in_hub_mm, length, 90.0),
    )
    wall = d / 2 - found.depth_mm(d)
    wanted = driving.key_length_mm(torque, d, found.width_mm, found.in_hub_mm, 60.0, 90.0) if torque else 0.0
    return (
        [keyway(found, start, min(length, seat.length_mm), d)],
        _key_rows(inputs, found),
        [
            Check.of(
                usual,
                "The key is the usual one of this seat.",
                f"The key is {inputs.size(width)} wide, not the usual one: to the slot as measured."
                if "slot.hub" in inputs.measured
                else f"The key is {inputs.size(width)} wide; the usual one of this seat is "
                f"{inputs.size(table.width_mm) if table is not None else 'not listed'}. Measure the wheel's "
                "slot.",
            ),
            carries_check(
                inputs,
                f"{inputs.size(length)} of key carries",
                carries,
                torque,
                f" It wants {inputs.size(wanted)}, or splines.",
            ),
            Check.of(
                wall >= 0.25 * d,
                f"{inputs.size(wall)} stay between keyway and middle.",
                f"The keyway is deeper than a quarter of {inputs.size(d)} bears: a thinner key.",
            ),
        ],
    )


def _key_rows(inputs: PartInputs, found: KeySeat) -> list[SizeRow]:
    return [
        SizeRow(
            "Key",
            "size",
            found.width_mm,
            f"{found.standard}, {inputs.size(found.height_mm)} high",
            True,
            key="key",
        ),
        keyway_row(found),
        SizeRow("Keyway to the far side", "size", found.over_shaft_mm, "from its bottom", True, key="keyway"),
        SizeRow(
            "In the wheel, to the far side",
            "size",
            found.over_hub_mm,
            "as the standard has it",
            key="hub",
        ),
    ]


def _woodruffed(
    inputs: PartInputs, start: float, seat: Section, torque: float
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    """A Woodruff key at the middle of the seat. Raises InputError off the table."""
    d = seat.diameter_mm
    key = woodruff(d, inch=is_inch_made(inputs))
    carries = min(
        driving.key_shear_torque(d, key.width_mm, key.length_mm, 60.0),
        driving.key_bearing_torque(d, key.in_hub_mm, key.length_mm, 90.0),
    )
    fits = key.length_mm <= seat.length_mm - 1.0
    wall = d / 2 - key.depth_mm
    width = Band(key.width_mm - 0.030, key.width_mm - 0.006)
    return (
        [
            Feature(
                "keyway",
                start + (seat.length_mm - key.length_mm) / 2,
                key.length_mm,
                key.width_mm,
                key.depth_mm,
                words=f"Woodruff {key.name}",
                size=width,
            )
        ],
        [
            SizeRow("Seat's width", "band", width, "tight in the shaft", key="keyway_width"),
            SizeRow("Woodruff key", "text", key.name, f"{inputs.size(key.height_mm)} high", True, key="key"),
            SizeRow(
                "Its cutter", "size", key.cutter_mm, f"{inputs.size(key.width_mm)} wide", True, key="cutter"
            ),
            SizeRow(
                "Seat, over to the far side", "size", d - key.depth_mm, "at its middle", True, key="keyway"
            ),
        ],
        [
            Check.of(
                fits,
                "The seat lies inside the wheel.",
                f"The seat is {inputs.size(key.length_mm)} long, the wheel's "
                f"{inputs.size(seat.length_mm)}: it shows.",
            ),
            carries_check(inputs, "It carries", carries, torque, " Two of them, a feather key, or splines."),
            Check.of(
                wall >= 0.2 * d,
                f"{inputs.size(wall)} stay between seat and middle.",
                "A Woodruff seat goes deep: this shaft is weakened too far; a feather key.",
            ),
        ],
    )


# A straight knurl throws its metal up by about a third of its pitch, and is pressed with about a tenth of it.
KNURL_MM, KNURL_UP, KNURL_GRIP = 0.8, 0.33, 0.10


def _knurled(
    inputs: PartInputs, start: float, seat: Section, torque: float
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    """A straight knurl on the seat, pressed into the wheel: for light wheels that are not taken off again."""
    bore = inputs.measured.get("mate.seat", seat.diameter_mm)
    over = Band(bore + KNURL_GRIP * KNURL_MM, bore + 2 * KNURL_GRIP * KNURL_MM)
    before = over.middle_mm - 2 * KNURL_UP * KNURL_MM / 2
    known = "mate.seat" in inputs.measured
    carries = math.pi * bore * seat.length_mm * 3.0 * bore / 2 / 1000  # 3 MPa along the face (practice)
    return (
        [Feature("knurl", start, seat.length_mm, words=f"straight knurl {inputs.size(KNURL_MM)}")],
        [
            SizeRow(
                "Turn before the knurl", "size", before, "the knurl throws it up", True, key="before_knurl"
            ),
            SizeRow("Over the knurl", "band", over, f"for {inputs.size(bore)}", True, key="knurl"),
        ],
        [
            Check.of(
                known,
                "The wheel's bore is the one measured.",
                "The wheel's bore is not measured: a knurl is made to it.",
            ),
            carries_check(inputs, "It carries about", carries, torque, " A key or a pin."),
            Check(True, "A knurl cannot be indexed twice: the wheel at its mark before it is pressed."),
        ],
    )


def _splined(
    inputs: PartInputs, start: float, seat: Section, torque: float
) -> tuple[list[Feature], list[SizeRow], list[Check]]:
    d = seat.diameter_mm
    found = splines(6, "A", d)
    carries = found.torque(seat.length_mm, 20.0) / 1000
    plate = indexes(found.turns(40), HOLE_CIRCLES)
    return (
        [Feature("spline", start, seat.length_mm, found.width, found.depth, 6, "6 splines, fit A")],
        [
            SizeRow(
                "Spline's width",
                "band",
                Band(found.width - 0.03, found.width),
                "the straddle collar is this",
                True,
                key="spline",
            ),
            SizeRow("Root", "size", found.root, key="root"),
            SizeRow("Depth from the crown", "size", found.depth, "side mills", key="spline_depth"),
            SizeRow(
                "Side mill, at least",
                "size",
                found.least_mill,
                f"at most {inputs.size(found.most_mill)}",
                key="mill",
            ),
            SizeRow(
                "Index",
                "text",
                f"{int(found.turns(40))} turns" + (f" and {plate[1]} holes of {plate[0]}" if plate else ""),
                "40:1 head",
                key="index",
            ),
        ],
        [
            Check.of(
                plate is not None,
                "Six splines index on a 40:1 head.",
                "They do not index on the plates listed.",
            ),
            carries_check(inputs, "At 20 MPa the splines carry", carries, torque),
        ],
    )
