"""Five hundred simulated machines: are the stated intervals honest?"""

from __future__ import annotations

import numpy as np
import pytest

from trebb.core.condition import draw_condition, estimate, simulate
from trebb.core.families.screw_drive.lash_split import lash_combination
from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive, drive_model, wear_key
from trebb.core.remedies import predict, remedies_of
from trebb.core.survey import PlaceReadings, observations, set_ups_of

MACHINES = 300
DRIVE = ScrewDrive()
MODEL = drive_model(DRIVE)
SPLIT = ("nut", "float", "key", *(wear_key(k) for k in range(1, STATIONS + 1)))


def machine(seed: int):
    """A true condition and the estimate from all set-ups, each place read as often as wanted."""
    rng = np.random.default_rng(seed)
    truth = draw_condition(MODEL, rng)
    found = []
    for s in set_ups_of("screw_drive"):
        if not s.applies(DRIVE):
            continue
        taken = []
        for place in s.places(DRIVE):
            values = simulate([s.row(DRIVE, place.key)] * s.wanted, truth, rng)
            taken.append(
                PlaceReadings(place.key, tuple(s.restore(DRIVE, place.key, float(v)) for v in values))
            )
        found += observations(s, DRIVE, taken)
    return truth, estimate(MODEL, found), rng


@pytest.fixture(scope="module")
def machines():
    return [machine(seed) for seed in range(MACHINES)]


def lash(truth, station: int) -> float:
    return sum(c * truth[key] for key, c in lash_combination(DRIVE, station).items())


def test_the_true_split_lies_inside_the_stated_intervals(machines):
    hits = [
        now.source(key).low <= truth[key] <= now.source(key).high
        for truth, now, _ in machines
        for key in SPLIT
    ]
    assert 0.90 <= np.mean(hits) <= 0.99


def test_no_single_source_is_far_from_its_interval(machines):
    for key in SPLIT:
        hits = [now.source(key).low <= truth[key] <= now.source(key).high for truth, now, _ in machines]
        assert 0.88 <= np.mean(hits) <= 0.995, key


@pytest.mark.parametrize(
    "remedy", [r for r in remedies_of("screw_drive") if r.applies(DRIVE)], ids=lambda r: r.key
)
def test_prediction_after_each_remedy_holds_what_is_then_found(machines, remedy):
    hits = []
    for truth, now, rng in machines:
        predicted = predict(remedy, DRIVE, now)
        after = remedy.change(DRIVE, now).apply_to(truth, MODEL, rng)
        hits += [q.low <= lash(after, k + 1) <= q.high for k, q in enumerate(predicted.lash)]
    assert 0.90 <= np.mean(hits) <= 0.99
