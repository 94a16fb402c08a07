"""Five hundred simulated lathes: are the intervals honest, and do Trebb's shims bring the work parallel in
three cuts?
"""

from __future__ import annotations

import numpy as np
import pytest

from trebb.core.condition.draws import draw
from trebb.core.families.bed.findings import MEASURES, measure_value
from trebb.core.practice.bed_trials import SOFTEST, STIFFEST, BedTrial

# Five hundred whole surveys: minutes where the machine is busy.
pytestmark = pytest.mark.timeout(300)
COUNT = 200
SOURCES = (
    "twist",
    "yaw",
    "pitch",
    "cross",
    "tail_side",
    "tail_high",
    "front.2",
    "rear.6",
    "bend.4",
    "side.4",
    "quill_side",
    "foot.tail_rear",
)


@pytest.fixture(scope="module")
def lathes():
    return [(trial, *trial.survey()) for trial in (BedTrial.drawn(seed) for seed in range(COUNT))]


def test_every_source_lies_inside_its_stated_interval(lathes):
    hits = {
        key: [now.source(key).low <= trial.truth[key] <= now.source(key).high for trial, _, now in lathes]
        for key in SOURCES
    }
    assert 0.90 <= np.mean(list(hits.values())) <= 0.99
    for key, values in hits.items():
        assert 0.90 <= np.mean(values) <= 0.995, key


def test_every_measure_lies_inside_its_stated_interval(lathes):
    hits = {key: [] for key in MEASURES}
    for trial, bed, now in lathes[::4]:
        drawn, true = draw(now), {key: np.array([value]) for key, value in trial.truth.items()}
        for key in MEASURES:
            q = measure_value(bed, drawn, key)
            hits[key].append(q.low <= measure_value(bed, true, key).value <= q.high)
    assert 0.90 <= np.mean([np.mean(v) for v in hits.values()]) <= 0.99
    for key, values in hits.items():
        assert np.mean(values) >= 0.88, key


def test_three_cuts_bring_the_work_parallel_nineteen_times_in_twenty():
    trials = [BedTrial.drawn(seed) for seed in range(COUNT)]
    assert all(SOFTEST <= t.truth["answer"] <= STIFFEST for t in trials)
    cuts = [t.cuts_to_limit(learns=True) for t in trials]
    assert np.mean([c <= 3 for c in cuts]) >= 0.95
    assert np.mean([c == 1 for c in cuts]) < 0.25  # most were not parallel to begin with


def test_shims_from_the_feet_alone_need_more_cuts():
    trials = [BedTrial.drawn(seed) for seed in range(60)]
    learned, by_feet = ([t.cuts_to_limit(learns=learns) for t in trials] for learns in (True, False))
    assert np.mean([c <= 3 for c in learned]) > np.mean([c <= 3 for c in by_feet])
