"""What must hold for any drive and any condition, not only for the demo's."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from trebb.core.condition import draw_condition, estimate, simulate
from trebb.core.families.screw_drive.lash_split import split_lash
from trebb.core.families.screw_drive.subject import STATIONS, USUAL_DRIVES, ScrewDrive, drive_model, wear_key
from trebb.core.making.infeed import InfeedScheme, infeed_plan
from trebb.core.practice import PracticeMachine
from trebb.core.remedies import predict, remedies_of, remedy
from trebb.core.survey import PlaceReadings, observations, set_up, set_ups_of
from trebb.core.threads import Form, Hand, ThreadSpec, thread_limits, tool_flat_mm
from trebb.core.units import UnitSystem, parse_length

DRIVES = {
    "inch Acme": ScrewDrive(),
    "metric trapezoidal": ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 20, 4), divisions=80, reads_diameter=True, travel_mm=160
    ),
    "square by its ridge": ScrewDrive(ThreadSpec(Form.SQUARE, 25.4, 6.35), divisions=250),
    "Acme by its ridge": ScrewDrive(gauge="thickness"),
    "over one wire": ScrewDrive(
        ThreadSpec(Form.TRAPEZOIDAL, 44, 12), gauge="one_wire", crest_mm=43.85, extra_mm=(31.0, 111.0)
    ),
    "half nuts": USUAL_DRIVES["lathe", "lead_screw"],
    "two starts": ScrewDrive(ThreadSpec(Form.ACME, 25.4, 5.08, 2, Hand.LEFT), divisions=400),
}


def surveyed(drive, truth, rng, *, keys=None):
    found = []
    for s in set_ups_of("screw_drive"):
        if not s.applies(drive):
            continue
        if keys is not None and s.key not in keys:
            continue
        taken = []
        for place in s.places(drive):
            values = simulate([s.row(drive, place.key)] * s.wanted, truth, rng)
            taken.append(
                PlaceReadings(place.key, tuple(s.restore(drive, place.key, float(v)) for v in values))
            )
        found += observations(s, drive, taken)
    return estimate(drive_model(drive), found)


@pytest.mark.parametrize("name", DRIVES)
def test_intervals_are_honest_on_every_kind_of_drive(name):
    drive = DRIVES[name]
    model = drive_model(drive)
    hits = []
    for seed in range(80):
        rng = np.random.default_rng(seed)
        truth = draw_condition(model, rng)
        now = surveyed(drive, truth, rng)
        for key in ("nut", "float", "key", *(wear_key(k) for k in range(1, STATIONS + 1))):
            q = now.source(key)
            hits.append(q.low <= truth[key] <= q.high)
    assert 0.90 <= np.mean(hits) <= 0.99


@pytest.mark.parametrize("keys", [("lash",), ("lash", "push_pull"), ("lash", "end_float"), ("thread_size",)])
def test_intervals_are_honest_while_the_survey_is_only_part_done(keys):
    drive = DRIVES["inch Acme"]
    model = drive_model(drive)
    hits = []
    for seed in range(100):
        rng = np.random.default_rng(1000 + seed)
        truth = draw_condition(model, rng)
        now = surveyed(drive, truth, rng, keys=keys)
        hits += [
            now.source(key).low <= truth[key] <= now.source(key).high
            for key in ("nut", "wear.1", "wear.3", "float", "key")
        ]
    assert 0.90 <= np.mean(hits) <= 0.99


@settings(max_examples=25, deadline=None)
@given(st.integers(0, 10_000))
def test_leaving_it_leaves_it_and_no_repair_makes_end_float_worse(seed):
    drive = DRIVES["inch Acme"]
    rng = np.random.default_rng(seed)
    now = surveyed(drive, draw_condition(drive_model(drive), rng), rng)
    split = split_lash(drive, now)
    left = predict(remedy("leave"), drive, now)
    assert [q.value for q in left.lash] == pytest.approx([s.total.value for s in split.stations])
    thrust = predict(remedy("thrust"), drive, now)
    assert thrust.worst.value <= left.worst.value + 0.014 + 0.03  # what turning felt less than pushing did


@settings(max_examples=25, deadline=None)
@given(st.integers(0, 10_000))
def test_a_split_nut_closed_on_the_least_worn_thread_never_binds(seed):
    drive = DRIVES["inch Acme"]
    rng = np.random.default_rng(seed)
    now = surveyed(drive, draw_condition(drive_model(drive), rng), rng)
    assert predict(remedy("split_nut"), drive, now).binds_at == ()


@settings(max_examples=15, deadline=None)
@given(st.integers(0, 10_000))
def test_every_prediction_has_a_band_around_its_value(seed):
    drive = DRIVES["inch Acme"]
    rng = np.random.default_rng(seed)
    now = surveyed(drive, draw_condition(drive_model(drive), rng), rng)
    for r in (r for r in remedies_of("screw_drive") if r.applies(drive)):
        assert all(q.low <= q.value <= q.high for q in predict(r, drive, now).lash)


@pytest.mark.parametrize("name", DRIVES)
def test_a_practice_machine_reads_near_its_truth_at_every_place(name):
    drive = DRIVES[name]
    truth = draw_condition(drive_model(drive), np.random.default_rng(3))
    machine = PracticeMachine(drive, drive_model(drive), truth, 8)
    for s in set_ups_of("screw_drive"):
        for place in s.places(drive) if s.applies(drive) else ():
            row = s.row(drive, place.key)
            true = row.offset + sum(c * truth[key] for key, c in row.coefficients.items())
            got = s.reduce(drive, place.key, machine.reading(s, place.key, 0))
            step = 0.5 * drive.dial.division_mm if s.unit == "div" else s.resolution_mm
            assert abs(got - (true if s.is_signed else max(true, 0.0))) <= 5 * row.noise_sd + 2 * step, (
                s.key,
                place.key,
            )


@given(st.sampled_from(list(DRIVES)), st.sampled_from(InfeedScheme))
def test_a_thread_is_cut_to_its_full_depth_in_every_school(name, scheme):
    spec = DRIVES[name].thread
    limits = thread_limits(spec)
    flat = tool_flat_mm(spec, limits.allowance_mm, axial_play_mm=limits.axial_play_mm.low_mm)
    plan = infeed_plan(spec.depth_mm, flat, spec.form.half_angle, scheme, first_mm=0.3, last_mm=0.05)
    assert plan[0].cross_mm <= 0.3 + 1e-9
    assert plan[-1].cross_mm == pytest.approx(spec.depth_mm)


@pytest.mark.parametrize("name", DRIVES)
def test_limits_leave_room_between_screw_and_nut(name):
    limits = thread_limits(DRIVES[name].thread)
    assert limits.screw_pitch.high_mm <= limits.nut_pitch.low_mm
    assert limits.screw_major.high_mm < limits.nut_major.low_mm
    assert limits.screw_minor.high_mm < limits.nut_minor.low_mm
    assert 0 < limits.axial_play_mm.low_mm < limits.axial_play_mm.high_mm


@given(st.integers(1, 63), st.sampled_from([2, 4, 8, 16, 32, 64]), st.integers(0, 9))
def test_any_fraction_of_an_inch_is_read_exactly(top, bottom, whole):
    text = f"{whole}-{top}/{bottom}" if whole else f"{top}/{bottom}"
    assert parse_length(text, UnitSystem.METRIC) == pytest.approx(whole + top / bottom)
    assert parse_length(f"{text} in", UnitSystem.METRIC) == pytest.approx(25.4 * (whole + top / bottom))


def test_stations_lie_evenly_inside_the_travel():
    drive = DRIVES["inch Acme"]
    places = [drive.station_mm(k) for k in range(1, STATIONS + 1)]
    assert np.diff(places) == pytest.approx([drive.travel_mm / STATIONS] * (STATIONS - 1))
    assert 0 < places[0] < places[-1] < drive.travel_mm


def test_a_lead_measured_over_more_turns_is_known_better():
    few, many = (set_up("turns_travel").row(ScrewDrive(turns=n), "travel") for n in (5, 20))
    assert many.coefficients["lead"] / many.noise_sd == pytest.approx(
        4 * few.coefficients["lead"] / few.noise_sd
    )


def test_a_steeper_flank_magnifies_wear_less():
    acme = -set_up("thread_size").row(DRIVES["inch Acme"], "wires, station 1").coefficients["wear.1"]
    metric = (
        -set_up("thread_size").row(DRIVES["metric trapezoidal"], "wires, station 1").coefficients["wear.1"]
    )
    assert acme == pytest.approx(1 / math.tan(math.radians(14.5)))
    assert metric < acme
