"""The feed screw."""

from __future__ import annotations

import math

from trebb.core.machine import ScrewDrive, material
from trebb.core.parts.base import (
    Check,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    is_inch,
    material_field,
    number,
    round_size,
)
from trebb.core.threads import (
    Band,
    Form,
    best_wire_mm,
    flank_clearance,
    size_over_wires_mm,
    size_over_wires_simple_mm,
    thread_limits,
    tool_flat_mm,
    wire_range_mm,
)
from trebb.core.units import INCH_MM

WORKING_CLEARANCE = math.radians(4)
RUNNING_JOURNAL_MM = Band(-0.020, -0.0075)  # shop practice: 0.0003 to 0.0008 in under the bore
FACING_ALLOWANCE_MM = 1.6


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Lengths and diameters, by default from the drive's thread and travel."""
    drive, inch = inputs.drive, is_inch(inputs.drive)
    major, root = drive.thread.major_mm, drive.thread.screw_minor_max_mm
    thread_length = round_size(drive.travel_mm + drive.nut_length_mm + 0.75 * INCH_MM, inch, up=True)
    journal = min(round_size(0.83 * major, inch), major)
    return (
        material_field("alloy_ht"),
        PartField("thread_length", "Thread length", thread_length, low_mm=drive.nut_length_mm, high_mm=3000),
        PartField("journal_dia", "Bearing journal", journal, low_mm=3, high_mm=200),
        PartField("journal_length", "Journal length", round_size(1.6 * major, inch), low_mm=3, high_mm=500),
        PartField("collar_dia", "Thrust collar", round_size(1.16 * major, inch), low_mm=4, high_mm=300),
        PartField("collar_width", "Collar width", round_size(0.33 * major, inch), low_mm=1, high_mm=100),
        PartField("seat_dia", "Dial seat", round_size(0.75 * major, inch), low_mm=3, high_mm=200),
        PartField("seat_length", "Dial seat length", round_size(2.0 * major, inch), low_mm=3, high_mm=500),
        PartField("end_dia", "End thread major", round_size(0.66 * major, inch), low_mm=2, high_mm=200),
        PartField("end_length", "End thread length", round_size(major, inch), low_mm=3, high_mm=300),
        PartField("groove_width", "Relief groove", round_size(1.5 * drive.thread.pitch_mm, inch, up=True), low_mm=1, high_mm=50),
        PartField("pilot_dia", "Pilot at the far end", round_size(0.94 * root, inch), low_mm=2, high_mm=root),
        PartField("pilot_length", "Pilot length", round_size(0.5 * major, inch), low_mm=1, high_mm=200),
    )


def over_wires_band_mm(drive: ScrewDrive) -> Band:
    """Limits of the size over the wires in use."""
    band = thread_limits(drive.thread).screw_pitch
    return Band(*(size_over_wires_mm(drive.thread, e, drive.wire) for e in (band.low_mm, band.high_mm)))


def build(inputs: PartInputs) -> Part:
    """Work out the screw. Raises InputError where a size set by hand cannot be."""
    drive = inputs.drive
    spec = drive.thread
    limits = thread_limits(spec)
    f = facts_of(fields(inputs), inputs.facts)
    stock_material = material(str(f["material"]))
    journal = number(f, "journal_dia")
    groove_dia = min(limits.screw_minor.low_mm, spec.screw_minor_max_mm - 0.1)
    sections = (
        Section("end thread", "plain", number(f, "end_length"), number(f, "end_dia")),
        Section("dial seat", "plain", number(f, "seat_length"), number(f, "seat_dia"),
                Band(number(f, "seat_dia") - 0.013, number(f, "seat_dia")), keyway_mm=round_size(number(f, "seat_dia") / 4, is_inch(drive))),
        Section("bearing journal", "plain", number(f, "journal_length"), journal,
                Band(journal + RUNNING_JOURNAL_MM.low_mm, journal + RUNNING_JOURNAL_MM.high_mm)),
        Section("thrust collar", "plain", number(f, "collar_width"), number(f, "collar_dia")),
        Section("relief groove", "groove", number(f, "groove_width"), groove_dia),
        Section(spec.designation, "thread", number(f, "thread_length"), spec.major_mm, limits.screw_major),
        Section("pilot", "plain", number(f, "pilot_length"), number(f, "pilot_dia")),
    )  # fmt: skip
    largest = max(s.diameter_mm for s in sections)
    stock = round_size(largest + 0.4, is_inch(drive), up=True)
    length = sum(s.length_mm for s in sections)
    return Part(
        "screw", f"Screw, {spec.designation}", stock_material.label,
        f"bar {inputs.size(stock)} × {inputs.size(length + 2 * FACING_ALLOWANCE_MM)}, cut two",
        sections, None, _rows(drive), _checks(inputs, f, stock, largest),
        ("Break all edges.", "Thread between centres, from the relief groove." if spec.hand.value == "left" else "Thread between centres, into the relief groove."),
    )  # fmt: skip


def _rows(drive: ScrewDrive) -> tuple[SizeRow, ...]:
    spec = drive.thread
    limits = thread_limits(spec)
    clearance = flank_clearance(spec, WORKING_CLEARANCE)
    rows = [
        SizeRow("Major diameter", "band", limits.screw_major),
        SizeRow("Pitch diameter", "band", limits.screw_pitch),
        SizeRow("Root diameter", "band", limits.screw_minor),
        SizeRow("Depth cut, on radius", "size", spec.depth_mm),
        SizeRow("Lead", "size", spec.lead_mm, f"{spec.starts} start{'s' if spec.starts > 1 else ''}, {spec.hand.value} hand"),
        SizeRow("Crest flat", "size", spec.crest_flat_mm),
        SizeRow("Tool tip flat", "size", tool_flat_mm(spec, limits.allowance_mm, axial_play_mm=limits.axial_play_mm.low_mm), "for the class's allowance", True),
        SizeRow("Included angle", "angle", 2 * spec.form.half_angle),
        SizeRow("Lead angle at the pitch line", "angle", spec.lead_angle(spec.pitch_dia_mm)),
        SizeRow("Leading flank clearance", "angle", clearance.leading, f"faces the {clearance.leading_side}"),
        SizeRow("Trailing flank clearance", "angle", clearance.trailing, f"faces the {clearance.trailing_side}"),
    ]
    if spec.form is not Form.SQUARE:
        middle = limits.screw_pitch.middle_mm
        exact = size_over_wires_mm(spec, middle, drive.wire)
        correction = exact - size_over_wires_simple_mm(spec, middle, drive.wire)
        rows += [
            SizeRow("Wires", "size", drive.wire, f"best {best_wire_mm(spec) / INCH_MM:.4f} in"),
            SizeRow("Over wires", "band", over_wires_band_mm(drive), "exact, lead included", True),
            SizeRow("Lead correction in it", "small", correction),
        ]
    rows.append(SizeRow("Play of a new pair", "band", limits.axial_play_mm, limits.source))
    return tuple(rows)


def _checks(inputs: PartInputs, f: dict[str, str | float], stock_mm: float, largest_mm: float) -> tuple[Check, ...]:
    drive, shop = inputs.drive, inputs.workshop
    spec = drive.thread
    checks = []
    passes = stock_mm <= shop.spindle_bore_mm
    checks.append(Check(passes, f"The {inputs.size(stock_mm)} bar {'passes' if passes else 'does not pass'} the {inputs.size(shop.spindle_bore_mm)} spindle bore{'' if passes else ': turn it between centres'}."))
    seat_ok = number(f, "seat_dia") < number(f, "journal_dia") <= number(f, "collar_dia")
    checks.append(Check(seat_ok, "Dial seat, journal and collar step up in that order, so each part slides on from the handwheel end." if seat_ok
                        else "Dial seat, journal and collar must step up in that order, or the bracket cannot slide on."))  # fmt: skip
    face = (number(f, "collar_dia") - number(f, "journal_dia")) / 2
    face_ok = face >= 0.1 * number(f, "journal_dia")
    checks.append(Check(face_ok, f"The collar's face is {inputs.size(face)} wide{'' if face_ok else ': too narrow to carry thrust; a larger collar needs larger bar'}."))
    pilot_ok = number(f, "pilot_dia") < spec.screw_minor_max_mm
    checks.append(Check(pilot_ok, "The pilot is under the root, so the nut goes on over it." if pilot_ok else "The pilot is over the root: the nut cannot go on."))
    bearing_ok = number(f, "journal_dia") < spec.nut_minor_mm
    checks.append(Check(True, "The bearing could pass through the nut's bore." if bearing_ok
                        else "The bearing does not pass the nut's thread: it goes on from the handwheel end, and the collar stays on that side."))  # fmt: skip
    groove_ok = number(f, "groove_width") >= spec.pitch_mm
    checks.append(Check(groove_ok, "The relief groove is wider than a pitch: room to stop." if groove_ok else "The relief groove is narrower than a pitch: the tool has nowhere to stop."))
    room = number(f, "thread_length") - drive.travel_mm - drive.nut_length_mm
    checks.append(Check(room >= 0, f"The thread covers travel and nut with {inputs.size(room)} over." if room >= 0
                        else f"The thread is {inputs.size(-room)} too short for travel and nut."))  # fmt: skip
    if spec.form is not Form.SQUARE:
        low, high = wire_range_mm(spec)
        fits = low <= drive.wire <= high
        checks.append(Check(fits, f"Wires of {inputs.size(drive.wire)} sit between flank and crest (from {inputs.size(low)} to {inputs.size(high)})." if fits
                            else f"Wires of {inputs.size(drive.wire)} do not sit: from {inputs.size(low)} to {inputs.size(high)} would."))  # fmt: skip
    if inputs.partner.get("material"):
        nut = material(str(inputs.partner["material"]))
        softer = nut.hardness_hb < material(str(f["material"])).hardness_hb
        checks.append(Check(softer, f"The nut ({nut.label}) is softer than the screw, so the cheaper part wears." if softer
                            else f"The nut ({nut.label}) is not softer than the screw: the screw will wear. Choose bronze, or a harder screw."))  # fmt: skip
    return tuple(checks)


FAMILY = PartFamily("screw", "Screw", fields, build)
