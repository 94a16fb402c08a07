"""A spindle's case: facts, trust, what is worked out again and what is not, the chosen repair made and
proven.
"""

from __future__ import annotations

import pytest

from trebb.app.shell.walk import choose_least_work, cut_parts, fit_together, take_what_is_left
from trebb.core.errors import InputError
from trebb.core.families.spindle.facts import seatings_from
from trebb.core.machine import State
from trebb.core.stating import schema_of
from trebb.core.stating.readers import angles_from
from trebb.core.survey.contact import text_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW, SPINDLE, Cases
from trebb.logbook.cases.drive_case import drive_case
from trebb.logbook.cases.spindle_case import SpindleCase
from trebb.logbook.cases.verdict import proof_verdict
from trebb.logbook.demo.jobs import DEMOS, simulated_reading
from trebb.logbook.exchange.readings_csv import readings_from_csv, readings_to_csv
from trebb.logbook.log.entries import (
    ContactPainted,
    FactStated,
    LimitSet,
    MarkScribed,
    NoteWritten,
    ReadingStruck,
    RemedyChosen,
)
from trebb.logbook.log.fold import Job

INCH = UnitSystem.INCH


class Depot:
    """One of the depot's machines, in a file."""

    def __init__(self, path, kind):
        self.file = DEMOS[kind](path)
        self.job = Job(self.file.entries())
        self.cases = Cases(self.job)
        self.case = self.cases.of(SPINDLE)

    def record(self, *bodies):
        for entry in self.file.append(bodies):
            self.job.apply(entry)

    def take(self, *keys, phase="before", upto=lambda place: False):
        for s in self.case.set_ups_in(phase):
            while (
                (not keys or s.key in keys)
                and (place := self.case.next_place(s, phase)) is not None
                and not upto(place.key)
            ):
                self.record(simulated_reading(self.case, s.key, place.key, phase))


@pytest.fixture
def depot(tmp_path):
    made = []

    def make(kind):
        made.append(Depot(tmp_path / f"{kind}.trebb", kind))
        return made[-1]

    yield make
    for machine in made:
        machine.file.close()


# facts ----------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "count"), [("8", 8), ("12", 12), ("0, 40, 95, 150, 220, 300", 6), ("0° 90° 180° 270° 45°", 5)]
)
def test_angles_are_a_count_or_a_list(text, count):
    assert len(angles_from(text)) == count


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("3", "from 5 to 36"),
        ("many", "how many angles"),
        ("0, 90, 90, 0", "different angles"),
        ("7.5", "from 5 to 36"),
    ],
)
def test_angles_that_do_not_do_are_refused(text, said):
    with pytest.raises(InputError, match=said):
        angles_from(text)


@pytest.mark.parametrize(("text", "said"), [("up", "mark's angle"), ("", "from one to twelve")])
def test_seatings_that_do_not_do_are_refused(text, said):
    with pytest.raises(InputError, match=said):
        seatings_from(text)


def test_what_is_not_stated_is_usual_for_the_kind():
    stated = {"front_bore_mm": 40.0, "seatings": "0, 180", "bearing_count": 1.0, "hardness": "hard"}
    mill = schema_of("spindle").subject("mill", "spindle", stated)
    assert (mill.front_bore_mm, mill.seatings, mill.bearing_count) == (40.0, (0.0, 180.0), 1)
    assert (mill.hardness, mill.kind) == ("hard", "mill")


def test_each_assembly_has_the_case_of_its_family(depot):
    lathe = depot("lathe")
    assert [c.assembly_key for c in lathe.cases.measurable()] == [
        SPINDLE,
        "headstock",
        "brake_cone",
        "ways",
        "saddle",
        SCREW,
        "cross_gib",
        "compound",
        "compound_gib",
        "tailstock",
        "quill_bore",
        "lead_screw",
        "dial_shaft",
        "stand",
    ]
    assert lathe.cases.first().assembly_key == SCREW
    assert not lathe.cases.of("gearbox").has_set_ups
    assert lathe.cases.of("gearbox").progress("before") == (0, 0)
    with pytest.raises(InputError, match="not a feed screw"):
        drive_case(lathe.job, SPINDLE)


# trust ----------------------------------------------------------------------------------------


def test_a_seat_that_does_not_repeat_sets_its_readings_aside_and_says_so(depot):
    lathe = depot("lathe")
    assert not lathe.case.distrusted("before")
    lathe.take("test_bar")
    assert set(lathe.case.distrusted("before")) == {"test_bar"}
    assert any("does not repeat" in line for line in lathe.case.set_aside())
    assert lathe.case.findings(INCH)[0].key == "seat"
    assert len(lathe.job.readings(SPINDLE, "test_bar")) == 64


def test_with_the_bad_seatings_struck_out_the_rest_counts_again(depot):
    lathe = depot("lathe")
    lathe.take("test_bar")
    for r in lathe.job.readings(SPINDLE, "test_bar"):
        if not r.taken.place.startswith("seat 1"):
            lathe.record(ReadingStruck(reading=r.id, reason="dirt in the taper"))
    assert not lathe.case.distrusted("before")
    assert lathe.case.scatter().seatings == 1


def test_on_a_mill_what_hangs_in_the_taper_is_set_aside_with_it(depot):
    mill = depot("mill")
    mill.record(LimitSet(key="seat_repeat", limit_mm=0.0001, source="card"))
    mill.take("test_bar", "chuck_pin")
    assert set(mill.case.distrusted("before")) == {"test_bar", "chuck_pin"}


def test_blue_names_the_pattern_and_what_cleaning_can_do(depot):
    lathe = depot("lathe")
    lathe.take("test_bar", "nose", "taper_bore")
    guess = next(p for r, p in lathe.case.predictions() if r.key == "clean").measures["seat"].value
    lathe.record(
        ContactPainted(
            assembly=SPINDLE, phase="before", cells=text_of(lathe.case.practice("before").contact())
        )
    )
    assert lathe.case.spindle.contact == "the back only"
    assert next(p for r, p in lathe.case.predictions() if r.key == "clean").measures["seat"].value > guess
    assert any(f.key == "contact" for f in lathe.case.findings(INCH))


# what is kept ---------------------------------------------------------------------------------


def test_a_reading_of_another_part_changes_nothing_here(depot):
    lathe = depot("lathe")
    kept = lathe.case.estimate
    lathe.record(simulated_reading(lathe.cases.of(SCREW), "lash", "station 1", "before"))
    assert lathe.case.estimate is kept
    lathe.record(simulated_reading(lathe.case, "spindle_float", "nose face", "before"))
    assert lathe.case.estimate is not kept


def test_angles_stated_otherwise_set_readings_aside_with_the_reason(depot):
    mill = depot("mill")
    before = mill.case.estimate.readings
    mill.record(FactStated(assembly=SPINDLE, field="angles", value="0, 60, 120, 180, 240, 300"))
    assert mill.case.estimate.readings < before
    assert any("as things are stated now" in line for line in mill.case.set_aside())


def test_noise_in_a_word_is_a_finding(depot):
    mill = depot("mill")
    mill.record(NoteWritten(topic="noise.spindle.before", text="growls"))
    assert any(f.key == "noise" and f.state is State.BEYOND for f in mill.case.findings(INCH))


def test_only_the_next_seating_is_offered_and_each_offer_has_a_reason(depot):
    mill = depot("mill")
    bar = [s for s in mill.case.suggestions() if s.key.startswith("test_bar")]
    assert [s.key for s in bar] == ["test_bar/seat 1 at 0°"]
    for suggestion in mill.case.suggestions():
        set_up, lot = mill.case.lot_of(suggestion.key)
        assert lot.title
        assert mill.case.reason(suggestion, INCH)
        assert set_up in mill.case.set_ups


# repair and proof -----------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["mill", "drill"])
def test_from_survey_to_proof_what_was_predicted_is_found(depot, kind):
    machine = depot(kind)
    machine.take()
    worst = machine.case.judged
    choose_least_work(machine.case, machine.record, "test")
    cut_parts(machine.case, machine.record)
    fit_together(machine.case, machine.record)
    take_what_is_left(machine.case, "after", machine.record)
    assert machine.case.figure_now().value.value < 0.6 * worst.value.value
    rows = machine.case.comparisons()
    assert sum(r.as_predicted is False for r in rows) <= 2
    tone, head, text = proof_verdict(machine.case, INCH)
    assert tone in ("within", "near")
    assert "it was" in head
    assert "taken again" in text
    for measure in machine.case.measures_of("after"):
        is_open = measure.state.value in ("near", "beyond") and measure.key != worst.key
        assert (f"{measure.label} is {measure.state.value} its limit" in text) == is_open


def test_the_lathe_s_taper_is_ground_and_repeats_again(depot):
    lathe = depot("lathe")
    lathe.take()
    lathe.record(RemedyChosen(assembly=SPINDLE, remedy="grind", reason=""))
    take_what_is_left(lathe.case, "after", lathe.record)
    assert not lathe.case.distrusted("after")
    after = {m.key: m for m in lathe.case.measures_of("after")}
    assert (
        after["seat"].value.value < 0.5 * next(m for m in lathe.case.figures if m.key == "seat").value.value
    )


def test_what_is_advised_is_neither_hindered_nor_dearer_than_a_third_of_the_machine(depot):
    for kind in DEMOS:
        machine = depot(kind)
        machine.take()
        advised = machine.case.advised()
        assert not advised.hinder(machine.case.subject)
        assert advised.cost <= machine.job.card_number("worth", 0.0) / 3


def test_every_stored_length_shifts_by_the_one_tool_measured_twice(depot):
    mill = depot("mill")
    assert mill.case.length_shift() is None
    mill.take("reach")
    mill.record(RemedyChosen(assembly=SPINDLE, remedy="cartridge", reason=""))
    mill.take("reach", phase="after")
    shift = mill.case.length_shift()
    before, after = (
        [v for p in mill.job.standing(SPINDLE, "reach", phase) for v in p.values]
        for phase in ("before", "after")
    )
    assert shift.value == pytest.approx(sum(after) / 2 - sum(before) / 2)
    assert shift.half_width == pytest.approx(1.96 * 0.013, rel=0.01)


def test_a_mark_scribed_again_is_the_one_that_stands(depot):
    lathe = depot("lathe")
    lathe.record(MarkScribed(assembly=SPINDLE, what="chuck", angle_deg=40.0))
    lathe.record(MarkScribed(assembly=SPINDLE, what="chuck", angle_deg=185.0))
    assert [m.angle_deg for m in lathe.job.marks(SPINDLE)] == [185.0]


def test_a_spindle_s_readings_survive_csv_temperatures_too(depot):
    mill = depot("mill")
    mill.take("warm_run", "nose")
    again = readings_from_csv(readings_to_csv(mill.job), mill.cases).readings
    assert [(r.set_up, r.place, r.value, r.unit) for r in again] == [
        (r.taken.set_up, r.taken.place, r.taken.value, r.taken.unit) for r in mill.job.all_readings()
    ]


def test_the_simulated_sizes_come_down_to_their_band(depot):
    mill = depot("mill")
    mill.take()
    mill.record(RemedyChosen(assembly=SPINDLE, remedy="sleeve", reason=""))
    cut_parts(mill.case, mill.record)
    target = next(o.target for o in mill.case.route("sleeve") if o.key == "finish")
    assert target.band.holds([s.taken.value_mm for s in mill.job.sizes("sleeve", "finish")][-1])
    assert isinstance(mill.case, SpindleCase)
