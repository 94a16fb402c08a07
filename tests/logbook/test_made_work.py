"""What a machine makes of its work, on jobs typed by hand."""

from __future__ import annotations

import pytest

from tests.independent.beds import BASE, CENTRE, CENTRES, GAUGE, Lathe
from tests.independent.job import TypedJob
from tests.logbook.test_memory import NOW
from trebb.core.memory.taught import USUAL, Taught
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.memory.lessons import lessons
from trebb.logbook.plan.made_work import came_of, choose, made_work, pieces_of, usual_piece, way_words
from trebb.logbook.plan.work_limits import limits_from_work, take_limits

JOURNAL = 0  # of the usual work of a lathe: diameter along it, round, face


def lathe(*pieces: int) -> TypedJob:
    """A new lathe for usual work."""
    job = TypedJob()
    for at in pieces:
        job.record(*usual_piece(job.cases, at))
    return job


def figure(job: TypedJob, key: str):
    return next(m for p in made_work(job.cases).pieces for m in p.figures if m.figure == key)


def test_of_a_spindle_nobody_read_round_names_what_reads_it():
    m = figure(lathe(JOURNAL), "round")
    assert not m.is_told
    assert {s.set_up for s in m.unread} == {"nose"}
    assert m.value.sd > 0


def test_a_spindle_that_runs_perfectly_turns_round_and_says_so():
    job = lathe(JOURNAL)
    for angle in range(0, 360, 45):
        job.read("spindle", "nose", f"register, {angle}°", 0.0, 0.0)
    m = figure(job, "round")
    assert m.is_told
    assert m.value.value == pytest.approx(0.0, abs=1e-9)
    assert 0 < m.value.half_width < m.tolerance_mm
    assert m.chance > 0.9


def test_limits_from_the_work_are_its_shares_and_keep_where_they_are_from():
    job = lathe()
    assert limits_from_work(job.cases) == []
    told = {"title": "Shaft", "kind": "centres", "dia_mm": 30.0, "length_mm": 400.0, "tol_dia": 0.03}
    job.record(*[MatterStated("work", "w", k, v) for k, v in told.items()])
    found = {one.key: one for one in limits_from_work(job.cases)}
    bed = job.of("ways").subject_for("before")
    by = {"tail_side": 2.0, "way_wear": 2 * bed.centre_mm / bed.gauge_mm, "straight_side": 2.0}
    assert set(found) == set(by)
    whole = sum((by[key] * one.limit_mm) ** 2 for key, one in found.items())
    assert whole == pytest.approx(0.03**2)
    job.record(*take_limits(list(found.values())))
    limit = job.job.limit("tail_side")
    assert limit.limit_mm == pytest.approx(found["tail_side"].limit_mm)
    assert "Shaft" in limit.source
    assert take_limits(limits_from_work(job.cases)) == []


def test_what_is_well_inside_keeps_a_limit_that_the_work_allows():
    """A head square to 0.01 in 300: its limit is what the piece may be off by, not what it happens to be."""
    job = TypedJob("mill")
    told = {"kind": "milled", "dia_mm": 63.0, "length_mm": 50.0, "tol_parallel": 0.015}
    job.record(*[MatterStated("work", "w", k, v) for k, v in told.items()])
    for where in ("near", "far"):
        for corner in ("left", "right", "front", "back"):
            job.read("head", "tram_sweep", f"{where}, {corner}", 0.0, 0.0)
    (one,) = limits_from_work(job.cases)
    assert one.key == "tram"
    assert one.limit_mm == pytest.approx(0.015 * 300 / 50)


def turned(error_mm: float, taught: Taught = USUAL) -> TypedJob:
    """A lathe read by its lands, levelled and set over; a bush turned after."""
    job = Lathe(3).type_all(TypedJob())
    job.state("ways", base_mm=BASE, gauge_mm=GAUGE, centre_mm=CENTRE, centres_mm=CENTRES)
    told = {"kind": "chuck", "dia_mm": 30.0, "length_mm": 150.0, "tol_taper": 0.02, "made_taper": error_mm}
    job.record(*[MatterStated("work", "w", k, v) for k, v in told.items()])
    job.cases = Cases(job.job, taught)
    return job


def test_what_a_piece_came_out_as_is_a_lesson_and_widens_what_is_foretold():
    """Came 0.1 mm off what was foretold: so many of its standard deviations, by hand."""
    job = turned(0.1)
    (came,) = came_of(job.cases, pieces_of(job.cases)[0])
    away = (0.1 - abs(came.foretold.value.value)) / came.foretold.value.sd
    (line,) = [x for x in lessons("a", job.job, NOW) if x.lesson and x.lesson.of == "work"]
    assert line.lesson.topic == "left"
    assert abs(line.lesson.value) == pytest.approx(abs(away), rel=1e-6)
    wide = turned(0.1, Taught(widen={"work": 2.0}))
    (after,) = came_of(wide.cases, pieces_of(wide.cases)[0])
    assert after.foretold.value.half_width == pytest.approx(2 * came.foretold.value.half_width)
    assert after.away == pytest.approx(came.away / 2)
    assert made_work(wide.cases).chosen.worst > made_work(job.cases).chosen.worst


def test_several_repairs_of_one_assembly_are_weighed_together():
    """A dial turned back is off by its lash: nut and float are mended by two repairs, done together."""
    job = lathe()
    told = {"kind": "chuck", "dia_mm": 25.0, "length_mm": 40.0, "tol_back": 0.1}
    job.record(*[MatterStated("work", "w", k, v) for k, v in told.items()])
    for place in job.of("cross_slide").places("lash"):
        job.read("cross_slide", "lash", place.key, 10.0, 10.0, unit="div")
    job.read("cross_slide", "end_float", "collar", 0.06, 0.06)
    found = made_work(job.cases)
    sets = [o for o in found.choice.options if "+" in o.remedies.get("cross_slide", "")]
    alone = {o.remedies.get("cross_slide"): o.worst for o in found.choice.options}
    best = min(sets, key=lambda o: o.worst)
    members = best.remedies["cross_slide"].split("+")
    assert all(best.worst < alone[key] for key in members if key in alone)
    chosen = choose(job.cases, best, found)
    assert chosen[0].remedy == best.remedies["cross_slide"]
    assert way_words(job.cases, best).startswith("Cross-slide screw: ")
