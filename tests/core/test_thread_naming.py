"""Naming a thread: five hundred screws made up, worn and read with a caliper's error."""

from __future__ import annotations

import math

import numpy as np
import pytest
from msgspec.structs import replace

from trebb.core.threads import Form, Hand, ThreadSpec
from trebb.core.threads.marking import parse_marking
from trebb.core.threads.naming import GAUGES, Seen, name_thread
from trebb.core.threads.series import weighted_threads

SCREWS = 500


def made_screw(rng: np.random.Generator, table: list, weights: np.ndarray) -> tuple[ThreadSpec, Seen]:
    """A screw drawn by its share, nine in ten from the series and a tenth hybrids, and what a rebuilder
    measures of it.
    """
    spec, _, _ = table[rng.choice(len(table), p=weights)]
    if spec.form.is_translating and rng.random() < 0.15 and 2 * spec.pitch_mm < spec.major_mm:
        spec = replace(spec, starts=2)
    spec = replace(spec, hand=Hand.LEFT if rng.random() < 0.4 else Hand.RIGHT)
    tol = max(0.05 * spec.pitch_mm, 0.127)
    angle = 2 * math.degrees(spec.form.half_angle)
    worn = rng.random() < 0.3
    shadow = angle + 0.4 * rng.standard_normal()
    gauge = min(GAUGES, key=lambda g: abs(g - angle - 0.9 * rng.standard_normal()))
    return spec, Seen(
        lead_mm=spec.lead_mm + 0.03 / 10 * rng.standard_normal(),
        pitch_mm=spec.pitch_mm + 0.03 / 10 * rng.standard_normal(),
        major_mm=spec.major_mm - tol * rng.random() + 0.02 * rng.standard_normal(),
        worn_major_mm=spec.major_mm - 0.5 * tol - rng.exponential(0.12) + 0.02 * rng.standard_normal(),
        angle_deg=shadow if rng.random() < 0.7 else None,
        gauge_deg=gauge,
        depth_mm=spec.depth_mm + 0.03 + 0.07 * rng.standard_normal(),
        crest="sharp" if worn or not spec.form.is_translating else "flat",
        starts=spec.starts if rng.random() < 0.99 else spec.starts + 1,
        hand=spec.hand,
    )


@pytest.mark.timeout(120)
def test_half_a_thousand_worn_screws_are_named_and_sure_means_right() -> None:
    rng = np.random.default_rng(55)
    table = list(weighted_threads())
    weights = np.array([w for _, _, w in table])
    weights /= weights.sum()
    first = three = sure = sure_right = mixed = 0
    for _ in range(SCREWS):
        spec, seen = made_screw(rng, table, weights)
        naming = name_thread(seen)
        same = [
            c.spec.form is spec.form
            and abs(c.spec.major_mm - spec.major_mm) < 1e-6
            and abs(c.spec.pitch_mm - spec.pitch_mm) < 1e-6
            and c.spec.starts == spec.starts
            for c in naming.candidates
        ]
        first += same[0]
        three += any(same[:3])
        sure += naming.is_sure
        sure_right += naming.is_sure and same[0]
        mixed += spec.is_mixed
    print(first / SCREWS, three / SCREWS, sure / SCREWS, sure_right / sure, mixed)
    assert 0.07 < mixed / SCREWS < 0.13
    assert first >= 0.95 * SCREWS
    assert three >= 0.995 * SCREWS
    assert sure_right >= 0.98 * sure
    assert sure > 0.8 * SCREWS


def test_what_no_usual_thread_explains_is_named_as_it_measures_and_never_surely():
    found = name_thread(Seen(pitch_mm=4.37, major_mm=12.62, gauge_deg=29.0))
    assert found.candidates[0].is_as_measured
    assert not found.is_sure


@pytest.mark.parametrize(("major", "pitch"), [(24.9, 5.0), (24.95, 3.0), (15.93, 3.0), (35.9, 5.0)])
def test_metric_bars_by_metric_pitches_that_no_table_lists_are_named(major, pitch):
    first = name_thread(Seen(pitch_mm=pitch, major_mm=major, gauge_deg=30.0)).candidates[0].spec
    assert (first.form, first.major_mm, first.pitch_mm) == (Form.TRAPEZOIDAL, round(major), pitch)


def lathe_screw(rng: np.random.Generator) -> ThreadSpec:
    """Any round bar by any pitch that a lathe cuts, inch or metric, whether a table has it or not."""
    while True:
        if rng.random() < 0.5:
            major = 25.4 * int(rng.integers(10, 65)) / 32
            pitch = 25.4 / float(rng.choice([4, 5, 6, 7, 8, 9, 10, 11, 12, 14, 16, 18, 20]))
            form = (Form.ACME, Form.SQUARE, Form.UNIFIED)[int(rng.integers(3))]
        else:
            major = int(rng.integers(16, 100)) / 2
            pitch = float(rng.choice([1, 1.25, 1.5, 2, 2.5, 3, 3.5, 4, 5, 6, 7, 8]))
            form = (Form.TRAPEZOIDAL, Form.SQUARE, Form.METRIC)[int(rng.integers(3))]
        if 0.06 * major < pitch < 0.3 * major:
            return ThreadSpec(form, major, pitch)


def read_screw(spec: ThreadSpec, rng: np.random.Generator, *, turns: int = 10, lost: int = 0) -> Seen:
    """Pitch and travel over ten with a caliper, the unworn major with a micrometer, a gauge held to it."""
    tol = max(0.05 * spec.pitch_mm, 0.127)
    angle = 2 * math.degrees(spec.form.half_angle)
    return Seen(
        turns=turns,
        lead_mm=spec.pitch_mm * (turns + lost) / turns + 0.03 / turns * rng.standard_normal(),
        lead_sd_mm=0.05 / turns,
        pitch_mm=spec.pitch_mm + 0.003 * rng.standard_normal(),
        major_mm=spec.major_mm - tol * rng.random() + 0.02 * rng.standard_normal(),
        gauge_deg=min(GAUGES, key=lambda g: abs(g - angle - 0.6 * rng.standard_normal())),
        starts=1,
    )


def is_named(naming, spec: ThreadSpec) -> bool:
    first = naming.candidates[0].spec
    return abs(first.major_mm - spec.major_mm) < 0.02 and abs(first.lead_mm / spec.lead_mm - 1) < 1e-3


def test_any_round_bar_by_any_pitch_of_a_lathe_is_named_and_sure_is_right():
    rng = np.random.default_rng(7)
    right = sure = wrong = 0
    for _ in range(250):
        spec = lathe_screw(rng)
        naming = name_thread(read_screw(spec, rng))
        right += is_named(naming, spec)
        sure += naming.is_sure
        wrong += naming.is_sure and not is_named(naming, spec)
    print(right, sure, wrong)
    assert wrong <= 3
    assert right >= 0.8 * 250


def test_a_turn_lost_is_said_and_never_sure():
    rng = np.random.default_rng(8)
    said = 0
    for _ in range(100):
        spec = lathe_screw(rng)
        naming = name_thread(read_screw(spec, rng, lost=int(rng.choice([-1, 1]))))
        said += "count them again" in naming.miscount().replace("\n", " ") and is_named(naming, spec)
        assert not (naming.is_sure and not is_named(naming, spec))
    assert said >= 80


@pytest.mark.parametrize("turns", [5, 20])
def test_a_travel_over_another_count_of_turns_is_read_so(turns):
    rng = np.random.default_rng(9)
    spec = ThreadSpec(Form.ACME, 25.4, 25.4 / 5)
    assert is_named(name_thread(read_screw(spec, rng, turns=turns)), spec)


@pytest.mark.parametrize("tpi", [12, 16, 20])
@pytest.mark.parametrize("inches", [1.1875, 1.375, 1.5])
def test_sixty_degree_threads_of_one_pitch_are_named_by_their_standard(inches, tpi):
    seen = Seen(pitch_mm=25.4 / tpi + 0.001, major_mm=25.4 * inches - 0.08, gauge_deg=60.0)
    first = name_thread(seen).candidates[0].spec
    assert (first.form, first.major_mm) == (Form.UNIFIED, pytest.approx(25.4 * inches))
    assert 25.4 / first.pitch_mm == pytest.approx(tpi)


def test_a_numbered_thread_is_named_and_read_by_its_number():
    first = (
        name_thread(Seen(pitch_mm=25.4 / 24, major_mm=0.19 * 25.4 - 0.06, gauge_deg=60.0)).candidates[0].spec
    )
    assert first.designation == "10-24 Unified"
    stamped = parse_marking("10-24 UNC")
    assert (stamped.major_mm, stamped.pitch_mm) == (
        pytest.approx(first.major_mm),
        pytest.approx(first.pitch_mm),
    )
    assert parse_marking("2-12 UN").major_mm == pytest.approx(50.8)
