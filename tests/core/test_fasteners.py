"""Fasteners' threads named by what is measured over crests and ten pitches."""

import pytest

from trebb.core.errors import InputError
from trebb.core.threads.fasteners import fasteners, name_fastener
from trebb.core.units import INCH_MM


# Crests and ten pitches as calipers give them on bought bolts; the names are those stamped on the boxes.
@pytest.mark.parametrize(
    ("major_in", "tpi", "angle", "name"),
    [
        (0.2470, 20.0, 60, "1/4-20 UNC"),
        (0.2470, 20.0, 55, "1/4-20 BSW"),
        (0.2475, 28.0, None, "1/4-28 UNF"),
        (0.1870, 32.0, 60, "No. 10-32 UNF"),
        (0.1350, 32.0, None, "No. 6-32 UNC"),
        (0.4960, 13.0, None, "1/2-13 UNC"),
        (0.4960, 12.0, None, "1/2-12 BSW"),
        (0.7460, 10.0, 60, "3/4-10 UNC"),
    ],
)
def test_inch_threads_are_named(major_in, tpi, angle, name):
    first, _ = name_fastener(major_in * INCH_MM, INCH_MM / tpi, angle)[0]
    assert first.name == name


@pytest.mark.parametrize(
    ("major", "pitch", "name"),
    [(7.92, 1.25, "M8"), (7.94, 1.0, "M8 × 1"), (9.93, 1.5, "M10"), (2.96, 0.5, "M3"), (11.9, 1.75, "M12")],
)
def test_metric_threads_are_named(major, pitch, name):
    assert name_fastener(major, pitch, 60)[0][0].name == name


def test_what_only_the_angle_tells_apart_stays_undecided_without_it():
    named = {f.name: share for f, share in name_fastener(0.248 * INCH_MM, INCH_MM / 20)}
    assert named["1/4-20 UNC"] == pytest.approx(named["1/4-20 BSW"])
    assert named["1/4-20 UNC"] == pytest.approx(0.5, abs=0.02)


def test_nothing_near_is_named_nothing():
    assert name_fastener(7.1, 1.7) == []


@pytest.mark.parametrize(("major", "pitch"), [(0, 1), (6, 0), (-6, 1), (float("nan"), 1)])
def test_no_size_is_refused(major, pitch):
    with pytest.raises(InputError):
        name_fastener(major, pitch)


def test_every_thread_known_names_itself():
    for f in fasteners():
        assert name_fastener(f.major_mm - 0.07, f.pitch_mm, f.angle_deg)[0][0] == f
