"""A feed screw to be made: its thread, its ends, its sizes and its drawing."""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import partial

from trebb.core.dual_units import in_units
from trebb.core.families.screw_drive import screw_ends
from trebb.core.families.screw_drive.screw_checks import FACING_ALLOWANCE_MM, screw_checks
from trebb.core.families.screw_drive.sizes import is_inch
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.fits.keys import KeySeat
from trebb.core.metals import material
from trebb.core.parts.base import (
    Feature,
    Part,
    PartFamily,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    fitted_rows,
    material_field,
    number,
    round_size,
)
from trebb.core.parts.turned import key_of, keyway, keyway_row, undercuts
from trebb.core.threads import (
    Band,
    Form,
    best_wire_mm,
    flank_clearance,
    size_over_wires_mm,
    size_over_wires_simple_mm,
    thread_limits,
    tool_flat_mm,
)
from trebb.core.threads.fasteners import LISTED, SCREWS
from trebb.core.threads.forms import ThreadSpec
from trebb.core.threads.groove import groove_of
from trebb.core.threads.limits import ThreadLimits
from trebb.core.threads.tool import FlankClearance
from trebb.core.threads.tooling import roughing_flat_mm
from trebb.core.threads.wires import wires_for
from trebb.core.units import INCH_MM

_rule = partial(PartField, is_rule=True)
WORKING_CLEARANCE = math.radians(4)
CONSTRUCTIONS = {
    "solid": "from solid bar",
    "bar": "bought bar, ends turned",
    "joined": "new thread in the old end",
    "sleeved": "old screw, journal sleeved",
}


def fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Construction, lengths and diameters, by default from the drive's thread and travel."""
    drive, inch = inputs.about(ScrewDrive), is_inch(inputs.about(ScrewDrive))
    major, root = drive.thread.major_mm, drive.thread.screw_minor_max_mm
    construction = str(inputs.facts.get("construction", "solid"))
    thread_length = round_size(drive.travel_mm + drive.nut_length_mm + 0.75 * INCH_MM, inch, up=True)
    journal = min(round_size(0.83 * major, inch), major)
    collar = round_size(1.16 * major, inch)
    if construction == "bar":  # what is turned from bought bar must clean up below its root, however deep
        step = INCH_MM / 32 if inch else 0.5
        journal = min(journal, math.floor(screw_ends.smallest_root_mm(drive) / step) * step)
    seat = min(round_size(0.75 * major, inch), journal)
    groove, seat_words = round_size(1.5 * drive.thread.pitch_mm, inch, up=True), drive.seat_words.capitalize()
    made: tuple[PartField, ...] = (
        material_field("alloy_ht"),
        PartField("construction", "Made", "solid", CONSTRUCTIONS),
        PartField("thread_length", "Thread length", thread_length, low_mm=drive.nut_length_mm, high_mm=6000),
        _rule("journal_dia", "Bearing journal", journal, low_mm=3, high_mm=200),
        _rule("journal_length", "Journal length", round_size(1.6 * major, inch), low_mm=3, high_mm=500),
        PartField("journal_fit", "Journal's fit", "running", screw_ends.FITS),
        _rule("collar_dia", "Thrust collar", collar, low_mm=4, high_mm=300),
        _rule("collar_width", "Collar width", round_size(0.33 * major, inch), low_mm=1, high_mm=100),
        _rule("seat_dia", seat_words, seat, low_mm=3, high_mm=200),
        _rule("seat_length", f"{seat_words} length", round_size(2.0 * major, inch), low_mm=3, high_mm=500),
        PartField("end_thread", "End thread", "old", {"old": "to the old nut", **SCREWS}),
        _rule("end_dia", "End thread major", round_size(0.66 * major, inch), low_mm=2, high_mm=200),
        _rule("end_length", "End thread length", round_size(major, inch), low_mm=3, high_mm=300),
        PartField("fastening", "Wheel held by", "nut", screw_ends.FASTENINGS),
        _rule("groove_width", "Relief groove", groove, low_mm=1, high_mm=50),
        _rule("pilot_dia", "Pilot at the far end", round_size(0.94 * root, inch), low_mm=2, high_mm=root),
        _rule("pilot_length", "Pilot length", round_size(0.5 * major, inch), low_mm=1, high_mm=200),
        PartField("bar_length", "Bar at hand, length", 0.0, low_mm=0, high_mm=8000),
        PartField("oil_way", "Oil way drilled", 0.0, low_mm=0, high_mm=0.4 * root),
        PartField(
            "rough_narrower",
            "Rougher narrower by",
            round(0.2 * tool_flat_mm(drive.thread), 2),
            low_mm=0.02,
            high_mm=0.9 * tool_flat_mm(drive.thread),
            is_small=True,
            is_free=True,
        ),
    )
    if construction in ("solid", "joined"):
        made = (*made, PartField("cut_on", "Thread cut", "other", screw_ends.CUT_ON))
    if construction == "joined":
        return (*made, *screw_ends.joint_fields(inputs, journal, collar, inch=inch))
    return (*made, *screw_ends.sleeve_fields(journal, inch=inch)) if construction == "sleeved" else made


def over_wires_band_mm(drive: ScrewDrive) -> Band:
    """Limits of the size over the wires in use."""
    band = thread_limits(drive.thread).screw_pitch
    return Band(
        *(
            drive.as_read_mm(size_over_wires_mm(drive.thread, e, drive.wire))
            for e in (band.low_mm, band.high_mm)
        )
    )


def build(inputs: PartInputs) -> Part:
    """Work out the screw. Raises InputError where a size set by hand cannot be."""
    drive = inputs.about(ScrewDrive)
    spec = drive.thread
    f = facts_of(fields(inputs), inputs.facts)
    construction = str(f["construction"])
    stock_material = material(str(f["material"]))
    if construction == "sleeved":
        sections, bore, rows, checks = screw_ends.sleeve(inputs, f)
        return Part(
            "screw",
            f"Sleeve for the journal of {spec.designation}",
            stock_material,
            f"bar Ø {inputs.size(sections[0].diameter_mm + 3)}; outside left 0.5 mm over until it is on",
            sections,
            bore,
            rows,
            checks,
            (
                "Press it straight, oiled; turn the outside after pressing, with the screw on its own "
                "centres.",
                "Check the centres first: a worn centre gives a new eccentric journal.",
            ),
            construction=construction,
            blanks=2,
        )
    sections = _joined_sections(inputs, f) if construction == "joined" else _sections(inputs, f)
    largest = max(s.diameter_mm for s in sections)
    if construction == "bar" or f.get("new_length") == "bought":
        stock_mm, length = spec.major_mm, sum(s.length_mm for s in sections)
        stock = f"threaded bar {spec.designation} × {inputs.size(length + 2 * FACING_ALLOWANCE_MM)}"
    else:
        stock_mm, length = (
            inputs.bar_mm(largest + 0.4),
            sum(s.length_mm for s in sections),
        )
        stock = f"bar {inputs.size(stock_mm)} × {inputs.size(length + 2 * FACING_ALLOWANCE_MM)}"
    rows, checks = _rows(inputs, f), screw_checks(inputs, f, stock_mm, length)
    if construction == "joined":
        joint, pin = screw_ends.joint_of(inputs, f)
        rows = (*screw_ends.joint_rows(inputs, f, joint, pin), *fitted_rows(*sections), *rows)
        checks = (*screw_ends.joint_checks(inputs, f, joint, pin), *checks)
    return Part(
        "screw",
        f"Screw, {spec.designation}",
        stock_material,
        stock,
        sections,
        None,
        rows,
        checks,
        _notes(drive, f),
        construction=construction,
        ways=tuple(str(f[key]) for key in ("cut_on", "new_length") if key in f),
        thread=spec,
        features=_features(drive, sections),
        blanks=2,
    )


def _seat_key(drive: ScrewDrive, seat_mm: float) -> KeySeat | None:
    """The usual key of the wheel's seat; None where the table has none so small."""
    return key_of(seat_mm, inch=is_inch(drive))


def _features(drive: ScrewDrive, sections: tuple[Section, ...]) -> tuple[Feature, ...]:
    """The wheel's keyway; reliefs at the shoulders that something bears on, broken ends, centres; the
    thread has its own groove.
    """
    total = sum(s.length_mm for s in sections)
    keyed: list[Feature] = []
    start = 0.0
    for s in sections:
        key = _seat_key(drive, s.diameter_mm) if s.label == drive.seat_words else None
        if key is not None and key.width_mm < s.length_mm:
            keyed.append(keyway(key, start, s.length_mm - 1.0, s.diameter_mm))
        start += s.length_mm
    found = [f for f in undercuts(sections) if f.kind != "undercut" or _bears(sections, f.at_mm)]
    return (*keyed, *found, Feature("centre", 0.0), Feature("centre", total))


def _bears(sections: tuple[Section, ...], at_mm: float) -> bool:
    """Whether a shoulder's relief lies on a plain length that is fitted."""
    end = 0.0
    for s in sections:
        end += s.length_mm
        if at_mm < end - 1e-6:
            return s.kind == "plain" and s.size is not None
    return False


def _sections(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[Section, ...]:
    drive = inputs.about(ScrewDrive)
    spec, limits = drive.thread, thread_limits(drive.thread)
    journal, seat = number(f, "journal_dia"), number(f, "seat_dia")
    groove_dia = min(limits.screw_minor.low_mm, spec.screw_minor_max_mm - 0.1)
    collar = (
        ()
        if f["construction"] == "bar"
        else (Section("thrust collar", "plain", number(f, "collar_width"), number(f, "collar_dia")),)
    )
    return (
        _end(inputs, f),
        Section(
            drive.seat_words,
            "plain",
            number(f, "seat_length"),
            seat,
            Band(seat - 0.013, seat),
        ),
        Section(
            "bearing journal",
            "plain",
            number(f, "journal_length"),
            journal,
            screw_ends.journal_band(inputs, journal, str(f["journal_fit"])),
        ),
        *collar,
        Section("relief groove", "groove", number(f, "groove_width"), groove_dia),
        Section(spec.designation, "thread", number(f, "thread_length"), spec.major_mm, limits.screw_major),
        Section("pilot", "plain", number(f, "pilot_length"), number(f, "pilot_dia")),
    )


def _end(inputs: PartInputs, f: Mapping[str, str | float]) -> Section:
    """The end that the wheel is held on: a thread by name, one to the old nut, or plain."""
    size, long = min(number(f, "end_dia"), number(f, "seat_dia")), number(f, "end_length")
    if f["fastening"] not in ("nut", "locking"):
        return Section("plain end", "plain", long, size)
    named = LISTED.get(str(f["end_thread"]))
    if named is not None:
        return Section(named.name, "end thread", long, named.major_mm)
    return Section(f"Ø{inputs.size(size)}, threaded to the old nut", "end thread", long, size)


def _joined_sections(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[Section, ...]:
    """The new length only: spigot, groove, thread, pilot."""
    drive = inputs.about(ScrewDrive)
    spec, limits = drive.thread, thread_limits(drive.thread)
    size = screw_ends.spigot_mm(inputs, f)
    return (
        Section("spigot", "plain", number(f, "socket_depth") - 0.5, size, Band(size - 0.004, size + 0.004)),
        Section(
            "relief groove",
            "groove",
            number(f, "groove_width"),
            min(limits.screw_minor.low_mm, spec.screw_minor_max_mm - 0.1),
        ),
        Section(spec.designation, "thread", number(f, "thread_length"), spec.major_mm, limits.screw_major),
        Section("pilot", "plain", number(f, "pilot_length"), number(f, "pilot_dia")),
    )


def _notes(drive: ScrewDrive, f: Mapping[str, str | float]) -> tuple[str, ...]:
    notes = [
        "Thread between centres, from the relief groove."
        if drive.thread.hand.value == "left"
        else "Thread between centres, into the relief groove.",
    ]
    if f["construction"] == "bar":
        notes.append("Collar separate: a ring pinned or bonded against the thread's end.")
    if number(f, "oil_way"):
        notes.append(
            "Oil way drilled before the thread is cut; its cross hole clear of nut and journal edges."
        )
    if f["fastening"] == "locking":
        notes.append("Locking nut: two thin nuts, or one slotted with a screw across.")
    return tuple(notes)


def _rows(inputs: PartInputs, f: Mapping[str, str | float]) -> tuple[SizeRow, ...]:
    drive = inputs.about(ScrewDrive)
    spec = drive.thread
    limits = thread_limits(spec)
    clearance = flank_clearance(spec, WORKING_CLEARANCE)
    groove = groove_of(spec)
    bought = f["construction"] == "bar"
    rows = [
        SizeRow("Major diameter", "band", limits.screw_major),
        SizeRow("Pitch diameter", "band", limits.screw_pitch, limits.source),
        SizeRow("Root diameter", "band", limits.screw_minor),
        SizeRow(
            "Depth cut, on radius",
            "size",
            groove.depth_mm,
            "the middle of its class; over wires decides",
            key="depth",
        ),
        SizeRow(
            "Lead",
            "size",
            spec.lead_mm,
            f"{spec.starts} start{'s' if spec.starts > 1 else ''}, {spec.hand.value} hand",
        ),
        SizeRow("Crest flat", "size", spec.crest_flat_mm),
    ]
    _add_cutting(f, spec, clearance, groove.flat_mm, bought, rows)
    _add_over_wires(inputs, drive, spec, limits, rows)
    if f["construction"] != "joined":
        fit_words = screw_ends.fit_words(inputs, number(f, "journal_dia"), str(f["journal_fit"]))
        rows += fitted_rows(*_sections(inputs, f), notes={"bearing journal": fit_words})
        end = _end(inputs, f)
        if end.is_threaded:
            rows.append(
                SizeRow("End thread", "text", end.label, "its nut is the gauge", True, key="end_thread")
            )
        seat = number(f, "seat_dia")
        key = _seat_key(drive, seat)
        if key is not None:
            rows += [
                SizeRow(
                    "Key in the seat", "size", key.width_mm, f"{key.standard}, tight in the shaft", key="key"
                ),
                keyway_row(key),
                SizeRow(
                    "Keyway to the far side", "size", key.over_shaft_mm, "from its bottom", True, key="keyway"
                ),
            ]
    rows.append(SizeRow("Play of a new pair", "band", limits.axial_play_mm))
    return tuple(rows)


def _add_over_wires(
    inputs: PartInputs, drive: ScrewDrive, spec: ThreadSpec, limits: ThreadLimits, rows: list[SizeRow]
) -> None:
    if spec.form is not Form.SQUARE:
        middle = limits.screw_pitch.middle_mm
        exact = size_over_wires_mm(spec, middle, drive.wire)
        correction = exact - size_over_wires_simple_mm(spec, middle, drive.wire)
        rows += [
            SizeRow(
                "Wires",
                "size",
                drive.wire,
                f"best {inputs.size(best_wire_mm(spec))}; {in_units(wires_for(spec), inputs.system)}",
            ),
            SizeRow(
                "Over one wire and the crests" if drive.gauge == "one_wire" else "Over wires",
                "band",
                over_wires_band_mm(drive),
                f"wires of {inputs.size(drive.wire)}; exact, lead included",
                True,
            ),
            SizeRow("Lead correction in it", "small", correction),
        ]


def _add_cutting(
    f: Mapping[str, str | float],
    spec: ThreadSpec,
    clearance: FlankClearance,
    flat: float,
    bought: bool,
    rows: list[SizeRow],
) -> None:
    if not bought:
        rows += [
            SizeRow("Tool tip flat", "size", flat, "for the class's allowance", True, key="tip_flat"),
            SizeRow(
                "Roughing tool's flat",
                "size",
                roughing_flat_mm(spec, number(f, "rough_narrower")),
                "narrower, so that the finisher only shaves",
            ),
            SizeRow("Included angle", "angle", 2 * spec.form.half_angle),
            SizeRow("Lead angle at the pitch line", "angle", spec.lead_angle(spec.pitch_dia_mm)),
            SizeRow(
                "Leading flank clearance", "angle", clearance.leading, f"faces the {clearance.leading_side}"
            ),
            SizeRow(
                "Trailing flank clearance",
                "angle",
                clearance.trailing,
                f"faces the {clearance.trailing_side}"
                + ("; undercut it, or tilt the tool to the helix" if clearance.trailing < 0 else ""),
            ),
        ]


FAMILY = PartFamily("screw", "Screw", fields, build)
