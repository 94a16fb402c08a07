"""Parts worked out, drawn and made."""

from __future__ import annotations

import math

import pytest

from tests.subjects import SUBJECTS
from trebb.core.families.screw_drive.correction import (
    state_sentence,
    thread_state,
)
from trebb.core.families.screw_drive.nut import nut_pitch_dia_mm
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.families.shaft.subject import Shaft
from trebb.core.families.spindle.subject import USUAL
from trebb.core.machine.workshop import Workshop
from trebb.core.making.correction import warm_reading_mm
from trebb.core.making.operations import material_of, minutes_left
from trebb.core.making.routes import route
from trebb.core.metals import MATERIALS
from trebb.core.parts import PartInputs, all_families, drawing_of, family
from trebb.core.parts.base import round_size
from trebb.core.parts.turned import bar_for
from trebb.core.stating import usual_subject
from trebb.core.threads import Form, Hand, ThreadSpec, size_over_wires_mm, thread_limits
from trebb.core.threads.groove import depth_at_pitch_dia_mm, groove_of, pitch_dia_at_depth_mm
from trebb.core.units import INCH_MM, UnitSystem

DRIVE, SHOP = ScrewDrive(), Workshop(is_bore_known=True)
METRIC_DRIVE = ScrewDrive(ThreadSpec(Form.TRAPEZOIDAL, 20, 4), divisions=200, travel_mm=180, nut_length_mm=40)
INCH, METRIC = UnitSystem.INCH, UnitSystem.METRIC


def inputs(drive=DRIVE, facts=None, partner=None, **more):
    return PartInputs(drive, SHOP, facts or {}, partner or {}, **more)


def failed(part):
    return [c.sentence for c in part.checks if not c.is_ok]


FUSE = Shaft(drive="shear_pin", torque_nm=4.0, guards_nm=40.0)
EVERY_PART = [
    pytest.param(fam, subject, id=f"{fam.key}, {name}")
    for fam in all_families()
    for name, subject in (
        {"screw_drive": {"inch": DRIVE, "metric": METRIC_DRIVE}, "spindle": USUAL}.get(fam.assembly)
        or {"worn": FUSE if fam.key == "shear_pin" else SUBJECTS[fam.assembly]}
    ).items()
]
# What a survey of worn parts finds, by name.
WORN = {
    "float": 0.01,
    "lash": 0.9,
    "gap.thin": 0.11,
    "gap.thick": 0.12,
    "worn.least": 0.0,
    "is_felt": 1.0,
    "stand": 0.0,
    "drop": 0.3,
    "scraped": 0.05,
    "tail_high": -0.05,
    "tail_key": 0.12,
    "tail_key_is_read": 1.0,
    "tilt_x": 0.4,
    "tilt_y": -0.2,
    "shim.tail_rear": 0.13,
    "mate.left": 16.02,
    "mate.right": 16.02,
    "mate.seat": 14.01,
    "slot.shaft": 5.0,
    "slot.hub": 5.0,
    "mouth.large": 5.0,
    "mouth.small": 4.36,
    "mate": 24.98,
    "widest": 25.05,
    "bore": 16.0,
    "least": 20.01,
    "crack": 30.0,
    "cup.big": 60.0,
    "cup.small": 48.0,
    "cup.apart": 27.0,
    **{f"grind.{k}": 0.003 * (k % 3) for k in range(1, 7)},
}


# What is set by hand because no set-up reads it.
BY_HAND = {
    "stepped_spacer": {"gap": 6.35},
    "bearing_seat": {"rack": 3.0},
    "stub": {"hole": "9.02 9.03 9.02", "end_dia": 16.0},
    "shaft_bush": {"housing": "22.0 22.0 22.0"},
    "bush": {"housing": "31.0 31.0 31.0"},
    "square_plug": {"bored": "15.5 15.5", "square": 8.0},
    "stack_collar": {"room": "60 60 60", "first": "48 48 48", "second": "0.5 0.5 0.5"},
    "plain_pin": {"bored": "25.1 25.1"},
    "fitted_pin": {"tightest": "25.02 25.03"},
    "gear_sleeve": {"housing": "22.0 22.0 22.0"},
    "hole_plug": {"hole": "7.0 7.0"},
    "feed_train": {"now": 0.2, "wanted": 0.1},
}


@pytest.mark.parametrize(("fam", "subject"), EVERY_PART)
def test_every_part_as_first_worked_out_passes_its_own_checks(fam, subject):
    assert failed(fam.build(inputs(subject, BY_HAND.get(fam.key), measured=WORN))) == []


@pytest.mark.parametrize(("facts", "said"), [
    ({"collar_dia": 40.0}, "does not pass the spindle's 1.375 in"),
    ({"seat_dia": 18.0}, "must step up in that order"),
    ({"groove_width": 2.0}, "narrower than a pitch"), ({"thread_length": 200.0}, "too short for travel and "
                                                                                 "nut"),
])  # fmt: skip
def test_a_screw_that_would_spoil_the_job_says_so(facts, said):
    assert any(said in s for s in failed(family("screw").build(inputs(facts=facts))))


def test_a_nut_harder_than_its_screw_is_pointed_out():
    part = family("nut").build(inputs(facts={"material": "al_bronze"}, partner={"material": "free_cutting"}))
    assert any("not softer than the screw" in s for s in failed(part))


def test_wires_that_do_not_sit_are_pointed_out():
    assert any("do not sit" in s for s in failed(family("screw").build(inputs(ScrewDrive(wire_mm=1.0)))))


@pytest.mark.parametrize(
    ("facts", "said"),
    [
        ({"journal_dia": -1.0}, "it can be from"),
        ({"material": "cheese"}, "choose "),
        ({"journal_dia": "wide"}, "it can be from"),
    ],
)
def test_a_size_set_by_hand_that_cannot_be_is_refused(facts, said):
    with pytest.raises(ValueError, match=said):
        family("screw").build(inputs(facts=facts))


def test_the_nut_is_cut_to_the_screw_as_measured():
    made = 17.1
    suit = nut_pitch_dia_mm(inputs(screw_pitch_dia_mm=made))
    assert (suit - made) * math.tan(math.radians(14.5)) == pytest.approx(1.5 * 0.0254)


def test_sentences_follow_the_unit_system():
    part = family("screw").build(inputs(system=METRIC))
    assert " in " not in " ".join(c.sentence for c in part.checks if "bar" in c.sentence)
    assert "mm" in part.stock


@pytest.mark.parametrize("system", [INCH, METRIC])
@pytest.mark.parametrize(("fam", "subject"), EVERY_PART)
def test_every_dimension_of_a_drawing_measures_the_part(fam, subject, system):
    part = fam.build(inputs(subject, measured=WORN))
    scale = 1 / INCH_MM if system is INCH else 1.0
    measured = sorted(
        round(d.get_measurement(), 6) for d in drawing_of(part, system).modelspace().query("DIMENSION")
    )
    lengths, total = [], 0.0
    for section in part.sections:
        total += section.length_mm
        lengths.append(section.length_mm if section.long else total)  # what is limited stands by itself
    holes = part.holes
    if part.views:
        wanted = [abs(m.end[m.upright] - m.start[m.upright]) for view in part.views for m in view.measured]
    elif part.block_mm and part.bore is None:
        wanted = [part.length_mm, part.block_mm[0], holes[1][1] - holes[0][1], holes[0][0]]
    elif part.block_mm:
        wanted = [
            part.length_mm,
            part.block_mm[0],
            part.block_mm[1],
            part.axis_height_mm,
        ]
    else:
        # One diameter on over several lengths is written once.
        pairs = zip((None, *part.sections), part.sections, strict=False)
        across = [
            s.diameter_mm
            for before, s in pairs
            if not s.is_threaded  # it is called by its name
            and (
                before is None
                or before.is_threaded
                or (before.diameter_mm, before.size) != (s.diameter_mm, s.size)
            )
        ]
        wanted = lengths + across + ([part.bore.diameter_mm] if part.bore else [])
    assert measured == pytest.approx(sorted(w * scale for w in wanted), abs=2e-6)


def test_the_drawing_is_in_the_unit_it_says():
    assert drawing_of(family("nut").build(inputs()), INCH).header["$INSUNITS"] == 1
    assert drawing_of(family("nut").build(inputs()), METRIC).header["$INSUNITS"] == 4


def test_rounding_up_never_goes_under():
    assert round_size(10.0, True, up=True) >= 10.0
    assert round_size(25.4, True, up=True) == pytest.approx(25.4)
    assert round_size(10.2, False) == 10.0


@pytest.mark.parametrize("key", ["screw", "nut", "thrust_collar"])
def test_a_route_is_numbered_by_tens_and_takes_time(key):
    part = family(key).build(inputs())
    operations = route(part, DRIVE, SHOP)
    assert [o.number for o in operations] == [10 * (i + 1) for i in range(len(operations))]
    assert minutes_left(operations, {operations[0].key}) == (
        operations[0].minutes,
        sum(o.minutes for o in operations[1:]),
    )
    assert material_of(part) in MATERIALS.values()


def test_a_left_hand_thread_starts_at_the_groove():
    left = next(o for o in route(family("screw").build(inputs()), DRIVE, SHOP) if o.kind == "thread")
    drive = ScrewDrive(ThreadSpec(Form.ACME, 19.05, 3.175, 1, Hand.RIGHT))
    right = next(o for o in route(family("screw").build(inputs(drive)), drive, SHOP) if o.kind == "thread")
    assert "away from the headstock" in left.detail
    assert "toward the headstock" in right.detail


def test_a_split_nut_gets_its_slot_sawn():
    part = family("nut").build(inputs(facts={"style": "split"}))
    assert "slit" in [o.key for o in route(part, DRIVE, SHOP)]


def over_wires(pitch_dia: float) -> float:
    return size_over_wires_mm(DRIVE.thread, pitch_dia, DRIVE.wire)


def test_going_in_by_half_the_excess_brings_the_thread_to_its_middle():
    limits = thread_limits(DRIVE.thread)
    state = thread_state(DRIVE, over_wires(limits.screw_pitch.high_mm + 0.3))
    assert state.verdict == "large"
    assert state.pitch_dia_mm - 2 * state.infeed_left_mm == pytest.approx(
        limits.screw_pitch.middle_mm, abs=1e-9
    )
    assert state.flank_left_mm == pytest.approx(state.infeed_left_mm * math.tan(math.radians(14.5)))


def test_depth_and_pitch_diameter_are_inverse_for_a_form_tool():
    assert pitch_dia_at_depth_mm(
        DRIVE.thread, depth_at_pitch_dia_mm(DRIVE.thread, 17.1, 1.0), 1.0
    ) == pytest.approx(17.1)


@pytest.mark.parametrize(
    ("off", "verdict", "said"),
    [(0.2, "large", "wind in"), (-0.1, "within", "stop"), (-0.6, "small", "Cut the nut to suit")],
)
def test_a_size_over_wires_is_judged_at_once(off, verdict, said):
    state = thread_state(DRIVE, over_wires(thread_limits(DRIVE.thread).screw_pitch.high_mm + off))
    assert state.verdict == verdict
    assert said in state_sentence(DRIVE, state, 0.038, INCH)


def test_warm_steel_reads_large():
    assert warm_reading_mm(19.05, 20) == pytest.approx(0.0044, abs=1e-4)
    assert warm_reading_mm(19.05, -20) < 0


def test_it_is_the_bar_that_must_pass_the_spindle_not_the_part():
    """A spindle of 1.375 in takes a bar of 1-3/8, 34.925 mm: a part of 34 mm is turned from a larger one."""
    said = PartInputs(usual_subject("shaft"), SHOP, {}, {}, system=METRIC)
    words, check = bar_for(said, 34.0, 300.0)
    assert words.startswith("bar 38 mm"), words
    assert not check.is_ok
    assert check.sentence.startswith("Bar of 38 mm")
    words, check = bar_for(said, 30.0, 300.0)
    assert words.startswith("bar 32 mm"), words
    assert check.is_ok
    words, check = bar_for(said, 60.0, 40.0)
    assert check.is_ok, "cut to length first"


def test_a_gear_s_bar_is_larger_than_its_tips():
    part = family("new_gear").build(PartInputs(usual_subject("gear"), SHOP, {}, {}, system=METRIC))
    bar = next(c.sentence for c in part.checks if c.sentence.startswith("Bar of"))
    largest = max(section.diameter_mm for section in part.sections)
    assert float(bar.split()[2]) >= largest + 2, (bar, largest)


@pytest.mark.parametrize("thread", ["1/2-10 ACME LH", "Tr 20 × 4", "3/4-6 square", "1-5 ACME"])
def test_a_groove_s_depth_lies_in_the_middle_of_its_class(thread):
    from trebb.core.threads.marking import parse_marking

    spec = parse_marking(thread)
    groove, limits = groove_of(spec), thread_limits(spec)
    if spec.form is Form.SQUARE:
        assert spec.depth_mm < groove.depth_mm < spec.depth_mm + 0.13
        return
    made = pitch_dia_at_depth_mm(spec, groove.depth_mm, groove.flat_mm)
    assert made == pytest.approx(limits.screw_pitch.middle_mm)
    assert limits.screw_minor.holds(spec.major_mm - 2 * groove.depth_mm)
    # As deep as the form alone says, it would stand at the largest pitch diameter there is.
    assert pitch_dia_at_depth_mm(spec, spec.depth_mm, groove.flat_mm) == pytest.approx(
        limits.screw_pitch.high_mm
    )
