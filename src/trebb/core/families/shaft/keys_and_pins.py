"""Keys to both slots, taper pins to both mouths, straight pins."""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.families.shaft.held import carries_check
from trebb.core.families.shaft.seats import seat_size
from trebb.core.families.shaft.subject import Shaft
from trebb.core.fits.drills import drill_under
from trebb.core.fits.taper_pins import INCH, METRIC, next_pin
from trebb.core.metals import PIN_SHEAR_MPA, material
from trebb.core.parts.base import (
    Check,
    Feature,
    Measured,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    View,
    facts_of,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.turned import bar_words, broken_ends, is_inch_made, key_of, usual_thread
from trebb.core.shafts import driving
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED, SCREWS
from trebb.core.units import INCH_MM, show_size


def _bar_views(
    length: float,
    steps: tuple[tuple[float, float], ...],
    height: float,
    words: str,
    keys: tuple[str, str],
) -> tuple[View, ...]:
    """A straight key from its end, stepped where its widths differ, and from its side; `keys` are the rows
    that limit its lower and its upper width.
    """
    (w0, h0), (w1, h1) = steps if len(steps) > 1 else (steps[0], (steps[0][0], 0.0))
    half0, half1 = w0 / 2, w1 / 2
    top = h0 + h1
    outline = (
        (-half0, 0.0),
        (half0, 0.0),
        (half0, h0),
        (half1, h0),
        (half1, top),
        (-half1, top),
        (-half1, h0),
        (-half0, h0),
    )
    plain = ((-half0, 0.0), (half0, 0.0), (half0, height), (-half0, height))
    end = outline if h1 else plain
    return (
        View(
            "from its end",
            (end,),
            measured=(
                Measured((-half0, 0.0), (half0, 0.0), -2.6, key=keys[0]),
                Measured((half0, 0.0), (half0, top if h1 else height), 3.0, True),
            )
            + ((Measured((-half1, top), (half1, top), 2.6, key=keys[1]),) if h1 else ()),
        ),
        View(
            words,
            (((0.0, 0.0), (length, 0.0), (length, height), (0.0, height)),),
            measured=(Measured((0.0, 0.0), (length, 0.0), -2.6),),
        ),
    )


def key_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Slots as measured, height and length."""
    seat = seat_size(inputs, "seat")
    table = key_of(seat, inch=is_inch_made(inputs))
    width = table.width_mm if table is not None else max(2.0, round_size(0.25 * seat, is_inch_made(inputs)))
    return (
        material_field("carbon"),
        PartField(
            "shaft_slot", "Shaft's slot", inputs.measured.get("slot.shaft", width), low_mm=0.5, high_mm=80
        ),
        PartField("hub_slot", "Wheel's slot", inputs.measured.get("slot.hub", width), low_mm=0.5, high_mm=80),
        PartField(
            "height", "Height", table.height_mm if table is not None else width, low_mm=0.5, high_mm=80
        ),
        PartField(
            "length",
            "Length",
            inputs.about(Shaft).key_length_mm
            or round_size(inputs.about(Shaft).hub_length_mm, is_inch_made(inputs)),
            low_mm=2,
            high_mm=400,
        ),
    )


def key_part(inputs: PartInputs) -> Part:
    """A key to both slots, stepped where they differ."""
    f = facts_of(key_fields(inputs), inputs.facts)
    shaft, hub, height, length = (number(f, k) for k in ("shaft_slot", "hub_slot", "height", "length"))
    stepped = abs(shaft - hub) > 0.03
    in_shaft, in_hub = Band(shaft - 0.012, shaft), Band(hub - 0.030, hub - 0.010)
    measured = ("slot.shaft" in inputs.measured and "slot.hub" in inputs.measured) or {
        "shaft_slot",
        "hub_slot",
    } <= set(inputs.facts)
    big, small = max(shaft, hub), min(shaft, hub)
    steps = ((shaft, height / 2), (hub, height / 2)) if stepped else ((shaft, height),)
    torque = inputs.about(Shaft).torque_nm
    carries = min(
        driving.key_shear_torque(inputs.about(Shaft).dia_mm, small, length, 60.0),
        driving.key_bearing_torque(inputs.about(Shaft).dia_mm, height / 2, length, 90.0),
    )
    return Part(
        "key",
        "Stepped key" if stepped else "Key",
        material(str(f["material"])),
        f"key stock {inputs.size(big)} × {inputs.size(length + 4)}",
        (Section("key", "plain", length, max(height, big)),),
        None,
        (
            SizeRow("Width in the shaft", "band", in_shaft, "tight", True, key="in_shaft"),
            SizeRow("Width in the wheel", "band", in_hub, "slides", True, key="in_hub"),
            SizeRow("Height", "size", height, "half in each, at its side"),
            SizeRow("Length", "size", length),
        ),
        (
            Check.of(
                measured,
                "Both slots are measured.",
                "The slots are not measured: a key to the table may rock in a worn slot.",
            ),
            Check(
                big - small <= 0.25 * small,
                "One bar serves both widths."
                if not stepped
                else f"Stepped: {inputs.size(shaft)} in the shaft, {inputs.size(hub)} in the wheel."
                if big - small <= 0.25 * small
                else "The slots differ by more than a quarter: recut the smaller.",
            ),
            carries_check(inputs, "It carries", carries, torque),
        ),
        (
            "Break its corners: they must clear the slots' corners.",
            "Fit it to the shaft first, then the wheel to it.",
        ),
        block_mm=(big, height),
        views=_bar_views(length, steps, height, "from its side", ("in_shaft", "in_hub")),
        construction="stepped" if stepped else "plain",
        blanks=2,
    )


def taper_pin_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Both mouths as measured, the hub, how far it stands out."""
    s = inputs.about(Shaft)
    pin = s.pin_mm or 5.0
    return (
        PartField("large", "Larger mouth", inputs.measured.get("mouth.large", pin), low_mm=1, high_mm=30),
        PartField(
            "small",
            "Smaller mouth",
            inputs.measured.get("mouth.small", pin - s.hub_mm / 48),
            low_mm=0.8,
            high_mm=30,
        ),
        PartField("hub", "Hub's outside", s.hub_mm, low_mm=3, high_mm=300),
        PartField("clean", "To clean up", 0.05, low_mm=0.0, high_mm=1.0, is_small=True, is_free=True),
        PartField("stand_out", "Large end stands out", 1.5, low_mm=0.0, high_mm=10, is_free=True),
        PartField("project", "Small end projects", 1.0, low_mm=0.0, high_mm=10, is_free=True),
    )


def taper_pin(inputs: PartInputs) -> Part:
    """The next pin to buy, and how deep to ream. Raises InputError where no pin will do."""
    f = facts_of(taper_pin_fields(inputs), inputs.facts)
    inch = is_inch_made(inputs)
    series, unit = (INCH, INCH_MM) if inch else (METRIC, 1.0)
    large, small, hub, clean, out, project = (
        number(f, k) / unit for k in ("large", "small", "hub", "clean", "stand_out", "project")
    )
    pin = next_pin(series, hub, large, small, clean, out, project)
    top, end = series.large_end(pin.size, pin.length) * unit, series.small_end(pin.size, pin.length) * unit
    length = pin.length * unit
    name = f"No. {pin.size} × {inputs.size(length)}" if inch else f"{pin.size} × {pin.length:g}"
    drill, _ = drill_under(pin.far * unit, inch=inch)
    measured = "mouth.large" in inputs.measured or {"large", "small"} <= set(inputs.facts)
    return Part(
        "taper_pin",
        "Taper pin",
        "steel pin, as bought",
        f"taper pin {name}",
        (Section("pin", "plain", length, top),),
        None,
        (
            SizeRow("Ask for", "text", f"{'ASME B18.8.2' if inch else 'ISO 2339'} {name}", key="ask"),
            SizeRow("Large end", "size", top, key="large"),
            SizeRow("Small end", "size", end, key="small"),
            SizeRow(
                "Larger mouth, reamed",
                "band",
                Band(pin.mouth * unit - 0.02, pin.mouth * unit),
                "the pin stands out as wanted",
                True,
                key="mouth",
            ),
            SizeRow("Reamer stands at", "size", pin.rests_at * unit, "before it cuts"),
            SizeRow("Ream deeper by", "size", pin.deeper * unit, "from where it stands", True, key="deeper"),
            SizeRow("Drill for a new hole", "text", drill, "never over the small end", key="drill"),
        ),
        (
            Check.of(
                measured,
                "Both mouths are measured.",
                "The mouths are not measured: a pin by guess stands out or drops through.",
            ),
            Check.of(
                pin.mouth * unit <= 0.45 * hub * unit,
                "The pin leaves the hub its walls.",
                "So large a pin leaves the hub no wall: weld the hole and drill anew.",
            ),
            Check(
                True, "Reamed by hand, a little at a time, until the pin stands right; then cut to length."
            ),
        ),
        ("Large end up and marked, so that the next fitter drives it the right way.",),
        block_mm=(top, top),
        views=_pin_views(length, top, end),
        construction="bought",
        blanks=2,
    )


def _pin_views(length: float, top: float, end: float) -> tuple[View, ...]:
    outline = ((0.0, -top / 2), (length, -end / 2), (length, end / 2), (0.0, top / 2))
    return (
        View(
            "from its side",
            (outline,),
            measured=(
                Measured((0.0, -top / 2), (length, -end / 2), -2.8),
                Measured((0.0, -top / 2), (0.0, top / 2), -3.0, True),
                Measured((length, -end / 2), (length, end / 2), 3.0, True),
            ),
        ),
    )


PIN_KINDS = {
    "dowel": "dowel, reamed",
    "spring": "slotted spring pin",
    "grooved": "grooved, driven plain end first",
}


def straight_pin_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """What kind, its diameter and length."""
    s, inch = inputs.about(Shaft), is_inch_made(inputs)
    return (
        PartField("kind", "Pin", "dowel", PIN_KINDS),
        PartField("dia", "Diameter", s.pin_mm or round_size(0.25 * s.dia_mm, inch), low_mm=0.8, high_mm=30),
        PartField("length", "Length", s.hub_mm, low_mm=2, high_mm=300),
    )


def straight_pin(inputs: PartInputs) -> Part:
    """A straight pin across hub and shaft."""
    f = facts_of(straight_pin_fields(inputs), inputs.facts)
    dia, length, kind, s = number(f, "dia"), number(f, "length"), str(f["kind"]), inputs.about(Shaft)
    hole = {
        "dowel": Band(dia - 0.012, dia - 0.002),
        "spring": Band(dia, dia + 0.1),
        "grooved": Band(dia, dia + 0.05),
    }[kind]
    carries = driving.pin_shear_torque(s.dia_mm, dia, 2, PIN_SHEAR_MPA / 2)
    if kind == "spring":
        carries = driving.spring_pin_force_kn(dia, 0.2 * dia) * s.dia_mm / 2
    drill, drill_mm = drill_under(hole.low_mm if kind != "dowel" else dia - 0.2, inch=is_inch_made(inputs))
    return Part(
        "straight_pin",
        PIN_KINDS[kind].split(",")[0].capitalize() + (" pin" if "pin" not in PIN_KINDS[kind] else ""),
        "steel pin, as bought",
        f"{PIN_KINDS[kind].split(',')[0]} {inputs.size(dia)} × {inputs.size(length)}",
        (Section("pin", "plain", length, dia),),
        None,
        (
            SizeRow("Hole", "band", hole, "drilled and reamed together, bonded first", True, key="hole"),
            SizeRow("Drill", "text", drill, show_size(drill_mm, inputs.system), key="drill"),
            SizeRow("Length", "size", length),
            SizeRow("It carries", "text", inputs.torque(carries), "both planes"),
        ),
        (
            Check(
                0 < dia <= s.dia_mm / 3,
                f"The shaft keeps {100 * driving.cross_hole_left(s.dia_mm, dia):.0f} % of its torsion."
                if dia <= s.dia_mm / 3
                else f"A pin of {inputs.size(dia)} is more than a third of the shaft's "
                f"{inputs.size(s.dia_mm)}.",
            ),
            Check.of(
                length <= s.hub_mm + 0.5,
                "It ends flush with the hub.",
                "It stands out of the hub: sleeves catch on it.",
            ),
            Check.of(
                not s.torque_nm or carries >= s.torque_nm,
                "It carries what is asked.",
                f"It carries {inputs.torque(carries)} of the {inputs.torque(s.torque_nm)} asked.",
            ),
        ),
        (
            "A spring pin may not lie across an oil way."
            if kind == "spring"
            else "Drill with wheel and shaft indexed and bonded: loose they turn and bind the drill.",
        ),
        construction="bought",
        features=broken_ends(length),
        blanks=2,
    )


def dog_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Thread, length, and the nose that stands in a groove or hole."""
    inch, d = is_inch_made(inputs), inputs.about(Shaft).dia_mm
    thread = usual_thread(0.5 * d, inch=inch)
    major = LISTED[thread].major_mm if thread != "none" else 6.0
    return (
        material_field("carbon"),
        PartField("thread", "Thread", thread if thread != "none" else "m6", SCREWS),
        PartField("length", "Thread's length", round_size(2 * major, inch), low_mm=2, high_mm=200),
        PartField("nose", "Nose", round_size(0.7 * major, inch), low_mm=1, high_mm=30, is_free=True),
        PartField(
            "nose_length",
            "It stands out",
            round_size(0.7 * major, inch),
            low_mm=0.5,
            high_mm=40,
            is_free=True,
        ),
        PartField(
            "groove",
            "Groove or hole it stands in",
            round_size(0.7 * major, inch) + 0.05,
            low_mm=1,
            high_mm=40,
        ),
    )


def dog_screw(inputs: PartInputs) -> Part:
    """A screw with a dowel nose, that holds by standing in a groove or a hole. Raises InputError where
    the nose is no smaller than the thread's root.
    """
    f = facts_of(dog_fields(inputs), inputs.facts)
    thread = LISTED[str(f["thread"])]
    nose, out, long, groove = (number(f, k) for k in ("nose", "nose_length", "length", "groove"))
    root = thread.major_mm - 1.2 * thread.pitch_mm
    if nose > root:
        raise InputError(
            f"a nose of {inputs.size(nose)} on {thread.name}",
            f"it goes in through the thread: {inputs.size(root)} at most",
        )
    band = Band(min(nose, groove) - 0.030, min(nose, groove) - 0.010)
    carries = math.pi / 4 * band.low_mm**2 * PIN_SHEAR_MPA / 2
    return Part(
        "dog_screw",
        "Screw with a dowel nose",
        material(str(f["material"])),
        bar_words(inputs, thread.major_mm + 0.5, long + out + 8),
        (
            Section(thread.name, "thread", long, thread.major_mm),
            Section("nose", "plain", out, band.middle_mm, band),
        ),
        None,
        (
            SizeRow("Nose", "band", band, "to its groove or hole", True, key="nose"),
            SizeRow("Stands out", "size", out, "short of the groove's ground", key="out"),
            SizeRow("Thread", "text", thread.name, key="thread"),
        ),
        (
            Check.of(
                groove - band.high_mm <= 0.10,
                "The nose fills its groove.",
                f"{inputs.size(groove - band.high_mm)} of play in the groove: the part shakes by that.",
            ),
            Check(True, f"The nose bears {carries:.0f} N across it."),
        ),
        (
            "A slot in its head before it is parted off.",
            "It ends by its nose's shoulder or a lock nut, not by the groove's ground.",
        ),
        features=(Feature("chamfer", long + out, 0.3),),
    )
