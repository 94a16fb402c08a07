"""The page for the owner: what was said, found, done, left; nothing of what nobody read."""

from __future__ import annotations

import datetime

import pytest

from tests.demo import demo_at
from trebb.app.shell.walk import cut_parts, fit_together, take_what_is_left
from trebb.core.errors import InputError
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import JobStarted, MatterStated, RemedyChosen, SizeTaken
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.machine_card import card_of
from trebb.logbook.plan.owner_page import owner_page

NOW = datetime.datetime(2026, 12, 1, 17).astimezone()
INCH = UnitSystem.INCH


def test_the_owner_is_told_what_was_found_done_and_left(tmp_path):
    with demo_at(tmp_path / "lathe.trebb") as file:
        job = Job(file.entries())
        cases = Cases(job)

        def record(*bodies):
            for entry in file.append(bodies):
                job.apply(entry)

        slide = cases.of("cross_slide")
        take_what_is_left(slide, "before", record)
        told = {t.label: t for t in owner_page(cases, INCH).told}
        assert told["Cross-slide screw"].left == "Not decided yet."
        assert "Ways" not in told  # nobody read them
        record(MatterStated("symptom", "handle_nothing", "there", "yes"))
        record(RemedyChosen(assembly="cross_slide", remedy="pair_thrust", reason=""))
        record(RemedyChosen(assembly="headstock", remedy="leave", reason="no long work is turned"))
        page = owner_page(cases, INCH)
        told = {t.label: t for t in page.told}
        assert told["Cross-slide screw"].done.startswith("To be done: new screw")
        assert told["Cross-slide screw"].holds == ""
        assert told["Headstock on bed"].left == "Left as it is: no long work is turned."
        assert page.said == (("A handle turns and moves nothing at first", "not tried again yet"),)
        part = slide.part_name("screw")
        one = next(o for o in slide.route("screw") if o.target is not None or o.kind == "thread")
        record(SizeTaken(part=part, operation=one.key, what="between two cuts", value_mm=19.9))
        assert not card(cases)["parts"][0]["as_made_mm"]  # a size between two cuts is none that was made
        cut_parts(slide, record)
        fit_together(slide, record)
        assert card(cases)["parts"][0]["as_made_mm"]
        assert owner_told(cases).holds == "Not measured again yet."
        take_what_is_left(slide, "after", record)
        record(MatterStated("symptom", "handle_nothing", "after", "no"))
        assert "it was 26.8 thou" in owner_told(cases).holds
        assert owner_page(cases, INCH).said[0][1] == "gone"


def card(cases):
    return next(a for a in card_of(cases, NOW)["assemblies"] if a["key"] == "cross_slide")


def owner_told(cases):
    return next(t for t in owner_page(cases, INCH).told if t.label == "Cross-slide screw")


def test_of_nothing_there_is_no_page(tmp_path):
    with JobFile.create(tmp_path / "new.trebb") as file:
        file.append([JobStarted(shop="Shed", machine="Lathe 9", machine_kind="lathe")])
        with pytest.raises(InputError, match="read something first"):
            owner_page(Cases(Job(file.entries())), INCH)
