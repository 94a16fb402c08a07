"""A stub pressed into a broken shaft, a sleeve over a worn journal."""

from __future__ import annotations

from trebb.core.bores import bushes
from trebb.core.dual_units import in_units, show_force
from trebb.core.errors import InputError
from trebb.core.families.shaft.seats import seat_size
from trebb.core.families.shaft.subject import Shaft
from trebb.core.fits.joint import LEAD_IN_MM, Joint, pressed, usual_interference_mm
from trebb.core.fits.press import PressFit, press_fit
from trebb.core.fits.warming import Warming, instead, warming
from trebb.core.metals import material
from trebb.core.parts.base import (
    Check,
    Part,
    PartField,
    PartInputs,
    Section,
    SizeRow,
    facts_of,
    length_check,
    material_field,
    mean_reading,
    number,
    readings_of,
    round_size,
)
from trebb.core.parts.turned import (
    LEAST_WALL_MM,
    THREAD_CHOICES,
    bar_words,
    broken_ends,
    is_inch_made,
    seat_band,
    shoulder_checks,
    to_mate,
    undercuts,
    usual_thread,
)
from trebb.core.threads import Band
from trebb.core.threads.fasteners import LISTED
from trebb.core.units import show_small

GRIND_MM = 0.25


UNTESTED = "untested"  # the old shaft: whether it is hard is not asked of a piece


def stub_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """The hole as bored and measured, the outside of the old shaft there, the new end."""
    s, inch = inputs.about(Shaft), is_inch_made(inputs)
    hole = round_size(0.55 * s.dia_mm, inch)
    return (
        material_field(s.steel),
        PartField("hole", "Hole, as measured", f"{hole:.3f}", low_mm=2, high_mm=200, is_readings=True),
        PartField("depth", "Hole's depth", round_size(2.0 * hole, inch), low_mm=2, high_mm=400),
        PartField("outside", "Old shaft's outside", s.dia_mm, low_mm=3, high_mm=300),
        PartField(
            "length", "New end's length", round_size(s.hub_length_mm + 10, inch), low_mm=1, high_mm=1000
        ),
        PartField("end_dia", "New end", seat_size(inputs, "seat"), low_mm=2, high_mm=300),
        PartField("thread", "Thread at its end", usual_thread(0.6 * s.dia_mm, inch=inch), THREAD_CHOICES),
        PartField("thread_len", "Thread's length", round_size(10.0, inch), low_mm=0, high_mm=200),
    )


def stub(inputs: PartInputs) -> Part:
    """The stub, its spigot to the hole as measured. Raises InputError where the shaft has no wall for it."""
    f = facts_of(stub_fields(inputs), inputs.facts)
    holes = readings_of(f["hole"])
    hole, depth, outside = min(holes), number(f, "depth"), number(f, "outside")
    spigot = depth - LEAD_IN_MM - 0.5
    if spigot <= 0.5 * hole:
        raise InputError(
            f"a hole {depth:.3g} mm deep",
            f"at least {0.5 * hole + LEAD_IN_MM + 0.5:.3g} mm: half its diameter in engagement",
        )
    joint = pressed(
        hole, spigot, outside, str(f["material"]), press_n=inputs.workshop.press_n, heated=UNTESTED
    )
    warm = warming(joint.warm_to_c, UNTESTED)
    grown = Band(number(f, "end_dia") + 0.3, number(f, "end_dia") + 0.5)
    size = Band(joint.spigot_mm - 0.004, joint.spigot_mm + 0.004)
    band, note = seat_band(inputs, "seat", number(f, "end_dia"))
    sections = [
        Section("spigot", "plain", spigot, size.middle_mm, size),
        Section(
            "new end",
            "plain",
            number(f, "length"),
            number(f, "end_dia"),
            band if abs(band.middle_mm - number(f, "end_dia")) < 1 else None,
        ),
    ]
    thread = LISTED.get(str(f["thread"]))
    if thread is not None and number(f, "thread_len") > 0:
        sections.append(Section(thread.name, "thread", number(f, "thread_len"), thread.major_mm))
    done = tuple(sections)
    measured = "hole" in inputs.facts
    return Part(
        "stub",
        "Stub for a broken end",
        material(str(f["material"])),
        bar_words(inputs, max(number(f, "end_dia"), hole) + 1.5, sum(s.length_mm for s in done) + 6),
        done,
        None,
        _stub_rows(inputs, joint, grown, size, band, note),
        _stub_checks(inputs, joint, done, measured, warm),
        (
            "Hold the old shaft as true as it will go; chuck and collet that read alike mean it is the "
            "shaft.",
            "Turn the new end in place: then it is concentric.",
        ),
        construction="pressed" if warm.is_allowed else "cold",
        features=tuple(undercuts(done)),
    )


def _stub_checks(
    inputs: PartInputs, joint: Joint, done: tuple[Section, ...], measured: bool, warm: Warming
) -> tuple[Check, ...]:
    return (
        Check.of(
            measured,
            "The hole is the one measured.",
            "The hole is not measured: it comes out larger than its cutter. Bore first, then set it here.",
        ),
        Check(joint.verdict == "holds", joint.words),
        Check(warm.is_allowed or joint.force_n <= inputs.workshop.press_n, warm.words(joint.chill_by_c)),
        *shoulder_checks(inputs, done),
        Check(
            True,
            "A hole that cannot breathe pushes the stub out: a flat or a fine vent along the spigot.",
        ),
    )


def _stub_rows(
    inputs: PartInputs, joint: Joint, grown: Band, size: Band, band: Band, note: str
) -> tuple[SizeRow, ...]:
    said = in_units(joint.words, inputs.system)
    return (
        SizeRow(
            "Spigot",
            "band",
            size,
            f"{show_small(joint.interference_mm, inputs.system)} over the hole",
            True,
            key="spigot",
        ),
        SizeRow("New end, before pressing", "band", grown, "turned to size in place", key="end_rough"),
        SizeRow("New end, in place", "band", band, note, True, key="end"),
        _warm_row(joint),
        SizeRow("Press", "text", show_force(joint.force_n, inputs.system), said, key="press"),
    )


def _warm_row(joint: Joint) -> SizeRow:
    """How far the old shaft is warmed, or that it is not."""
    warm = warming(joint.warm_to_c, UNTESTED)
    if warm.is_allowed:
        return SizeRow("Warm the old shaft to", "text", f"{joint.warm_to_c:.0f} °C", "the stub drops in")
    return SizeRow(
        "Warm the old shaft",
        "text",
        f"at most {warm.most_c:.0f} °C",
        f"that will not do: {instead(joint.chill_by_c)}",
    )


def _grip_mm(turned_mm: float, mate_mm: float) -> float:
    """Usual interference, or what a thin sleeve bears with a fifth to spare: hoop stress is proportional."""
    over = mate_mm + GRIND_MM
    if over <= turned_mm + 1:
        return usual_interference_mm(turned_mm)
    one = press_fit(
        dia_mm=turned_mm, shaft_bore_mm=0.0, hub_outside_mm=over, length_mm=1.0, interference_mm=0.001
    )  # fmt: skip
    most = 0.8 * material("carbon").allowed_mpa / one.hub_hoop_mpa * 0.001
    return min(usual_interference_mm(turned_mm), most)


def sleeve_fields(inputs: PartInputs) -> tuple[PartField, ...]:
    """Journal turned down and measured, the sleeve's length, the bore it must run in."""
    d, inch = seat_size(inputs, "left"), is_inch_made(inputs)
    mate = inputs.measured.get("mate.left", d)
    return (
        material_field("carbon"),
        PartField(
            "turned",
            "Journal turned to",
            f"{round_size(0.8 * d, inch):.3f}",
            low_mm=2,
            high_mm=300,
            is_readings=True,
        ),
        PartField("length", "Sleeve's length", round_size(max(12.0, 0.9 * d), inch), low_mm=2, high_mm=500),
        PartField("mate", "Its bore", mate, low_mm=2, high_mm=320),
        PartField(
            "interference",
            "Interference",
            _grip_mm(0.8 * d, mate),
            low_mm=0.003,
            high_mm=0.3,
            is_small=True,
            is_free=True,
        ),
    )


def journal_sleeve(inputs: PartInputs) -> Part:
    """The sleeve, bored to the journal as turned, its outside left to be finished after pressing. Raises
    InputError for a wall too thin.
    """
    f = facts_of(sleeve_fields(inputs), inputs.facts)
    turned, length, mate = (
        mean_reading(f, "turned"),
        number(f, "length"),
        number(f, "mate"),
    )
    finished = to_mate(mate, mate)
    over, grip = finished.middle_mm + GRIND_MM, number(f, "interference")
    if over - turned < 2 * LEAST_WALL_MM:
        raise InputError(
            f"a journal turned to {turned:.3f} mm for a bore of {mate:.3f} mm",
            f"a sleeve needs {LEAST_WALL_MM:g} mm of wall: turn it down to "
            f"{over - 2 * LEAST_WALL_MM:.2f} mm or less",
        )
    fit = press_fit(
        dia_mm=turned, shaft_bore_mm=0.0, hub_outside_mm=over, length_mm=length, interference_mm=grip
    )
    bore = Band(turned - grip - 0.004, turned - grip + 0.004)
    allowed = material(str(f["material"])).allowed_mpa
    left = (
        bushes.torsion_left(inputs.about(Shaft).dia_mm, turned)
        if turned < inputs.about(Shaft).dia_mm
        else 1.0
    )
    return Part(
        "journal_sleeve",
        "Sleeve over a journal",
        material(str(f["material"])),
        bar_words(inputs, over + 1.5, length + 6) + ", one for each journal",
        (Section("sleeve", "plain", length, over, Band(over - 0.05, over + 0.05)),),
        Section("bore", "plain", length, bore.middle_mm, bore),
        _sleeve_rows(inputs, finished, fit, bore, allowed, turned, mate, over, grip),
        _sleeve_checks(inputs, fit, allowed, left, length, over),
        (
            "Warm the sleeve; stop against the shoulder.",
            "Grind between the old centres, so that it runs true to the rest.",
        ),
        features=broken_ends(length),
    )


def _sleeve_checks(
    inputs: PartInputs, fit: PressFit, allowed: float, left: float, length: float, over: float
) -> tuple[Check, ...]:
    return (
        Check.of(
            fit.hub_hoop_mpa <= allowed,
            "The sleeve bears the press.",
            "It would split: less interference, or a thicker wall.",
        ),
        Check(
            left >= 0.5,
            f"{100 * left:.0f} % of the journal's torsion is left: the sleeve counts for nothing."
            + ("" if left >= 0.5 else " Make the shaft new if it is loaded."),
        ),
        Check.of(
            "mate" in inputs.facts or "mate.left" in inputs.measured,
            "Its bore is measured.",
            "Its bore is not measured: gauge it first.",
        ),
        length_check(inputs, "sleeve", length, over),
    )


def _sleeve_rows(
    inputs: PartInputs,
    finished: Band,
    fit: PressFit,
    bore: Band,
    allowed: float,
    turned: float,
    mate: float,
    over: float,
    grip: float,
) -> tuple[SizeRow, ...]:
    return (
        SizeRow(
            "Bore", "band", bore, f"{show_small(grip, inputs.system)} under the journal", True, key="bore"
        ),
        SizeRow(
            "Outside, before pressing",
            "band",
            Band(over - 0.05, over + 0.05),
            f"grows {show_small(fit.outside_growth_mm, inputs.system)}",
            key="outside",
        ),
        SizeRow(
            "Ground after pressing",
            "band",
            finished,
            f"runs in {inputs.size(mate)}",
            True,
            key="finished",
        ),
        SizeRow("Wall", "size", (over - turned) / 2),
        SizeRow("Hoop stress", "text", f"{fit.hub_hoop_mpa:.0f} MPa", f"it may see {allowed:.0f}"),
    )
