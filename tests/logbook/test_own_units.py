"""A job called in inches has usual sizes in inches, one in millimetres in mm; what is stated decides."""

from __future__ import annotations

import pytest

from tests.independent.job import TypedJob
from trebb.core.stating.own_units import called_mm
from trebb.core.units import UnitSystem, is_inch_size
from trebb.logbook.log.entries import AssemblyAdded, CardChanged

PIECES = ("shaft", "bore", "cone", "casting", "cutter", "jaws", "index_plate")


def job(units: str, family: str, **facts: float | str) -> TypedJob:
    made = TypedJob()
    if units:
        made.record(CardChanged(field="units", value=units))
    made.record(AssemblyAdded(assembly="piece", label="Piece", family=family, under="apron"))
    return made.state("piece", **facts) if facts else made


@pytest.mark.parametrize("family", PIECES)
def test_usual_sizes_are_of_the_job_s_own_system(family):
    inch, metric = (job(units, family).of("piece").subject for units in ("inch", "mm"))
    assert inch.is_inch
    assert not metric.is_inch
    assert job("", family).of("piece").subject.is_inch in (True, False)  # as ever


def test_an_inch_job_asks_for_no_metric_thread_key_or_pin():
    case = job("inch", "shaft", drive="key").of("piece")
    part = case.part("stepped_shaft", UnitSystem.INCH)
    words = " ".join(f"{r.label} {r.value} {r.note}" for r in part.rows)
    assert "M1" not in words
    assert "ISO" not in words
    assert "DIN" not in words
    keys = job("inch", "jaws").of("piece").subject.screw
    assert "-" in keys or "_" in keys or "1_4" in keys or not keys.startswith("m")


def test_what_is_stated_is_called_as_it_is():
    case = job("inch", "shaft", dia_mm=20.0).of("piece")
    assert not case.subject.is_inch
    assert case.subject.dia_mm == 20.0
    assert job("inch", "shaft", length_mm=200.0).of("piece").subject.length_mm == 200.0


def test_sizes_are_rounded_to_what_is_called_so():
    assert called_mm(20.0, inch=True) == pytest.approx(13 / 16 * 25.4)
    assert called_mm(19.05, inch=False) == 19.0
    assert called_mm(5.0, inch=True) == pytest.approx(3 / 16 * 25.4, abs=0.4)
    assert called_mm(0.05, inch=True) == pytest.approx(25.4 / 64)  # never nothing
    assert all(is_inch_size(called_mm(mm, inch=True)) for mm in (3.3, 7.0, 12.5, 31.0, 88.0))
