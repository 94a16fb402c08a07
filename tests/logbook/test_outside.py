"""A job given to a firm: what it is told, what comes back, what goes back again."""

from __future__ import annotations

import datetime
import json

import pytest

from tests.demo import demo_at
from trebb.app.shell.walk import take_what_is_left
from trebb.core.errors import InputError
from trebb.core.fits.iso286 import shaft_limits
from trebb.core.register import FAMILIES
from trebb.core.remedies import remedies_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.quotes import quote_typed
from trebb.logbook.log.entries import FactStated, MatterStated, RemedyChosen, StepDone
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.bill import bill_of
from trebb.logbook.plan.job_plan import job_plan
from trebb.logbook.plan.outside import ANY, TABLE, away, outside_job, returned_key, told_of_work
from trebb.logbook.plan.work import PLAN

METRIC = UnitSystem.METRIC
NOW = datetime.datetime(2026, 12, 1, 17).astimezone()


class Mill:
    def __init__(self, path):
        self.file = demo_at(path, "mill")
        self.job = Job(self.file.entries())
        self.cases = Cases(self.job)
        self.spindle = self.cases.of("spindle")

    def record(self, *bodies):
        for entry in self.file.append(bodies):
            self.job.apply(entry)

    def tasks(self):
        return {x.task.key: x for x in job_plan(self.cases, NOW).lines}


@pytest.fixture
def mill(tmp_path):
    made = Mill(tmp_path / "mill.trebb")
    take_what_is_left(made.spindle, "before", made.record)
    yield made
    made.file.close()


def test_every_row_of_the_table_is_a_remedy_that_there_is():
    data = json.loads(TABLE.read_text(encoding="utf-8"))
    known = {f"{family}/{r.key}" for family in FAMILIES for r in remedies_of(family)}
    assert set(data) - {"about", ANY} <= known
    for family in FAMILIES:
        for r in remedies_of(family):
            assert told_of_work(family, r).must_not


def test_a_firm_is_told_what_was_found_and_what_is_wanted_and_nothing_that_nobody_knows(mill):
    with pytest.raises(InputError, match="choose a remedy first"):
        outside_job(mill.spindle, METRIC)
    mill.record(RemedyChosen(assembly="spindle", remedy="clean", reason=""))
    with pytest.raises(InputError, match="Quoted outside"):
        outside_job(mill.spindle, METRIC)
    mill.record(RemedyChosen(assembly="spindle", remedy="grind", reason=""))
    stated = set(mill.spindle.facts)
    job = outside_job(mill.spindle, METRIC)
    assert ("front_bore_mm" in stated) is not any("front journal" in words for words in job.lacks)
    mill.record(FactStated("spindle", "front_bore_mm", 35.0))
    job = outside_job(mill.spindle, METRIC)
    limits = shaft_limits(35.0, "k5")  # ISO 286: +13 and +2 µm over 30 to 50 mm
    assert (limits.low_um, limits.high_um) == (2, 13)
    assert ("Front journal, finished", "35.002 to 35.013 mm (k5)") in [(w.words, w.shown) for w in job.wanted]
    assert any(name == "Front journal" and "out of round" in words for name, words in job.found)
    assert "taper last" in job.told.order[-1].lower()
    assert not job.parts  # the spacer that goes with it is made here
    # What it is sent back for: its sizes, and what was over its limit, by the set-up that read it.
    beyond = {m.label for m in mill.spindle.figures if m.state.value == "beyond"}
    assert {
        w.words.removesuffix(", when it is together") for w in job.wanted if "together" in w.words
    } == beyond
    assert job.accepted_by[0][0] == "Sizes"


def test_what_comes_back_wrong_goes_back_and_is_waited_for_again(mill):
    mill.record(RemedyChosen(assembly="spindle", remedy="grind", reason=""))
    mill.record(quote_typed("spindle", "grind", "480", "21", "Grinder"))
    tasks = mill.tasks()
    assert "back.spindle" in tasks["check.spindle"].task.after
    assert "check.spindle" in tasks["fit.spindle"].task.after
    # What goes with the work outside is made here; of what a firm makes nothing is sawn or planned here.
    assert "make.spindle.spacer" in tasks
    assert any("pacer" in b.name for b in bill_of(mill.cases).blanks)
    mill.record(RemedyChosen(assembly="table_screw", remedy="new_pair", reason=""))
    assert any(k.startswith("make.table_screw") for k in mill.tasks())
    mill.record(quote_typed("table_screw", "new_pair", "300", "10", "Turner"))
    assert not any(k.startswith(("make.table_screw", "order.table_screw")) for k in mill.tasks())
    assert not any("Table screw" in b.name for b in bill_of(mill.cases).blanks)
    assert set(outside_job(mill.cases.of("table_screw"), METRIC).parts) == {"screw", "nut"}
    mill.record(StepDone(PLAN, "strip.spindle"), StepDone(PLAN, "send.spindle"))
    days = job_plan(mill.cases, NOW).days
    mill.record(MatterStated("outside", "spindle", "why", "front journal under size"))
    mill.record(MatterStated("outside", "spindle", "refused", 1.0))
    tasks = mill.tasks()
    assert tasks["back.spindle"].is_done
    assert tasks["strip.spindle"].is_done
    assert "front journal under size" in tasks["send.spindle.2"].task.title
    assert tasks["send.spindle.2"].first == 0
    assert "back.spindle.2" in tasks["check.spindle"].task.after
    assert job_plan(mill.cases, NOW).days >= days


def returned(mill, turn, **sizes):
    mill.record(
        *[
            MatterStated("returned", returned_key("spindle", turn, key), "size", mm)
            for key, mm in sizes.items()
        ]
    )


def test_what_comes_back_is_accepted_or_refused_by_its_sizes(mill):
    mill.record(
        RemedyChosen(assembly="spindle", remedy="grind", reason=""),
        quote_typed("spindle", "grind", "480", "21", "Grinder"),
        FactStated("spindle", "front_bore_mm", 35.0),
        FactStated("spindle", "rear_bore_mm", 30.0),
        FactStated("spindle", "front_outside_mm", 62.0),
    )
    bands = {c.wanted.key: c.wanted.band for c in away(mill.spindle, METRIC).sizes}
    assert {"front_journal", "rear_journal", "front_housing"} == set(bands)
    good = {key: (band.low_mm + band.high_mm) / 2 for key, band in bands.items()}
    off = {**good, "front_journal": bands["front_journal"].low_mm - 0.002}
    # One size alone decides nothing: the others are measured, and all that is wrong is said at once.
    returned(mill, 0, front_journal=off["front_journal"])
    gone = away(mill.spindle, METRIC)
    assert (gone.turn, gone.is_here, gone.is_accepted) == (0, True, False)
    assert "35.000 mm, 2 µm under, asked for 35.002 to 35.013" in gone.sizes[0].words(METRIC)
    assert mill.tasks()["back.spindle"].is_done
    assert not mill.tasks()["check.spindle"].is_done
    returned(mill, 0, **off)
    tasks = mill.tasks()
    assert "front journal, finished outside its limits" in tasks["send.spindle.2"].task.title
    assert not tasks["back.spindle.2"].is_done
    assert "back.spindle.2" in tasks["check.spindle"].task.after
    assert job_plan(mill.cases, NOW).days >= 21  # as the firm asked for
    # It comes again, as asked for: accepted by that, nothing is ticked.
    returned(mill, 1, **good)
    assert away(mill.spindle, METRIC).is_accepted
    assert mill.tasks()["check.spindle"].is_done
    # What was mistyped at the first return is set right: then there was no second.
    returned(mill, 0, **good)
    assert away(mill.spindle, METRIC).turn == 0
    assert "send.spindle.2" not in mill.tasks()
    # Taken as it is, though a size is off.
    returned(mill, 0, **off)
    mill.record(StepDone(PLAN, "check.spindle"))
    assert away(mill.spindle, METRIC).turn == 0
    assert mill.tasks()["check.spindle"].is_done
