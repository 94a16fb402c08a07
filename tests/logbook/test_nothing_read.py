"""Of what nobody read, stated or measured nothing is claimed: no remedy's verdict, no part all green."""

from __future__ import annotations

import re

import pytest

from trebb.core.errors import TrebbError
from trebb.core.parts.drawing import Title, laid_out
from trebb.core.register import FAMILIES
from trebb.core.remedies import remedies_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.telling import case_told, remedies_told
from trebb.logbook.log.entries import (
    AssemblyAdded,
    FactStated,
    JobStarted,
    PartSet,
    ReadingTaken,
    RemedyChosen,
    gesture_of,
)
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.bill import bill_of

METRIC = UnitSystem.METRIC
WHEN = "2026-06-01T12:00:00.000Z"


class Shop:
    """A new job in memory, with one assembly of a family."""

    def __init__(self, family: str) -> None:
        self.job, self._count = Job(), 0
        kind = "mill" if family == "tram" else "lathe"
        self.record(JobStarted(shop="Shed", machine="M", machine_kind=kind, machine_class="ordinary"))
        self.cases = Cases(self.job)
        record = FAMILIES[family]
        if record.added:
            under = self.job.machine.assemblies[0].key if record.is_piece else ""
            self.record(AssemblyAdded(assembly="it", label="It", family=family, under=under))
            self.case = self.cases.of("it")
        else:
            keys = (a.key for a in self.job.machine.assemblies)
            self.case = next(c for key in keys if (c := self.cases.of(key)).family == family)

    def record(self, *bodies) -> None:
        for entry in gesture_of(list(bodies), self._count + 1, WHEN):
            self.job.apply(entry)
            self._count = entry.id

    def parts(self):
        """Every part of every remedy that can be worked out."""
        known = (*self.case.part_keys(), *self.case.extra_parts())
        keys = dict.fromkeys((*known, *(k for r in remedies_of(self.case.family) for k in r.parts)))
        for key in keys:
            try:
                yield self.case.part(key, METRIC)
            except TrebbError:  # it waits for a reading, and says which
                continue


@pytest.mark.parametrize("family", FAMILIES)
def test_of_nothing_read_no_remedy_and_no_finding_claims_anything(family):
    shop = Shop(family)
    told = case_told(shop.case, METRIC)
    assert told["state"] == "unknown"
    assert told["figures"] == []
    for remedy in remedies_told(shop.case, METRIC):
        assert not remedy["is_advised"], remedy["key"]
        assert {left["state"] for left in remedy["left"]} <= {"unknown"}, remedy["key"]


@pytest.mark.parametrize("family", FAMILIES)
def test_no_part_of_which_nothing_is_known_is_all_green(family):
    for part in Shop(family).parts():
        assert any(not check.is_ok for check in part.checks), part.key
        page, _ = laid_out(part, METRIC, Title())
        words = " ".join(t.words for t in page.texts)
        assert "NOT RIGHT YET" in words, part.key
        if part.usual:
            assert "Usual, measured by nobody" in words, part.key


def test_a_size_is_no_longer_usual_once_it_was_set_or_stated():
    shop = Shop("screw_drive")
    assert "journal_dia" in shop.case.usual_fields("screw", METRIC)
    shop.record(PartSet(part=shop.case.part_name("screw"), field="journal_dia", value=12.7))
    assert "journal_dia" not in shop.case.usual_fields("screw", METRIC)
    assert "journal_length" in shop.case.usual_fields("screw", METRIC)
    shaft = Shop("shaft")
    assert "seat_dia" in shaft.case.usual_fields("stepped_shaft", METRIC)
    shaft.record(FactStated(assembly="it", field="dia_mm", value=19.05))
    assert "seat_dia" not in shaft.case.usual_fields("stepped_shaft", METRIC)


def test_leave_it_says_what_the_findings_say():
    shop = Shop("screw_drive")
    place = next(s for s in shop.case.set_ups if s.key == "end_float").places(shop.case.subject)[0].key
    shop.record(
        *(
            ReadingTaken(assembly="it", set_up="end_float", place=place, phase="before", value=0.2, unit="mm")
            for _ in range(3)
        )
    )
    states = {m.key: m.state for m in shop.case.figures}
    assert {key: shop.case.left_state("leave", key) for key in states} == states


def test_a_bought_nut_is_bought_in_route_stock_and_plan():
    shop = Shop("screw_drive")
    shop.record(RemedyChosen(assembly="it", remedy="bought_nut", reason=""))
    case = shop.case
    assert case.part_keys() == ("nut",)
    route = [o.key for o in case.route("nut", METRIC)]
    assert route[0] == "bought.order"
    assert "blank" not in route
    bill = bill_of(shop.cases, METRIC)
    assert bill.blanks == ()
    assert [words.startswith("bought: ") for _, words in bill.others] == [True]
    assert "seller" in case.part("nut", METRIC).stock
    shop.record(PartSet(part=case.part_name("nut"), field="get", value="make"))
    assert "bought.order" not in [o.key for o in case.route("nut", METRIC)]
    assert bill_of(shop.cases, METRIC).blanks or bill_of(shop.cases, METRIC).others


def test_a_lash_names_the_dial_and_the_pitch_that_nobody_stated():
    shop = Shop("screw_drive")
    shop.record(
        *(
            ReadingTaken(
                assembly="it", set_up="lash", place="station 3", phase="before", value=20.0, unit="div"
            )
            for _ in range(2)
        )
    )
    said = {f.key: f.sentence for f in shop.case.findings(UnitSystem.INCH)}
    assert "125 divisions" in said["dial_count"]
    assert "8 tpi" in said["dial_count"]
    shop.record(FactStated(assembly="it", field="divisions", value=100.0))
    said = {f.key: f.sentence for f in shop.case.findings(UnitSystem.INCH)}
    assert "divisions to a turn" not in said["dial_count"]
    shop.record(FactStated(assembly="it", field="pitch_mm", value=5.08))
    assert "dial_count" not in {f.key for f in shop.case.findings(UnitSystem.INCH)}


ASKS = re.compile(
    r"\bstate (?:it|them|what|which|how)\b|\bis not stated\b|\bnobody has said\b", re.IGNORECASE
)
# What is stated of a piece so that its sentences ask for more: each asks for a fact that has a field.
TOLD_A_LITTLE = {
    "shaft": [{"drive": "shear_pin"}, {"drive": "shear_pin", "torque_nm": 10.0}],
    "cone": [{"force_n": 500.0}, {"face": "woven"}],
    "casting": [{"metal": "grey_iron"}],
    "bore": [{"is_taper": "yes"}],
    "train": [{"gone": "40"}],
}


@pytest.mark.parametrize("family", FAMILIES)
def test_whatever_asks_for_a_fact_names_it(family):
    """A sentence that asks for something to be stated names the fact, so that its field can be gone to."""
    for stated in ({}, *TOLD_A_LITTLE.get(family, [])):
        shop = Shop(family)
        for key, value in stated.items():
            shop.record(FactStated(assembly=shop.case.holder, field=key, value=value))
        schema = shop.case.schema
        asking = [(c.sentence, c.asks) for part in shop.parts() for c in part.checks if not c.is_ok]
        if shop.case.has_set_ups:
            asking += [(f"{f.sentence} {f.next_move}", f.asks) for f in shop.case.findings(METRIC)]
        for remedy in remedies_of(family):
            why = remedy.hinder(shop.case.subject)
            asking.append((why, (remedy.answered_by,) if remedy.answered_by else ()))
        for s in shop.case.set_ups:
            asking.append((" ".join(s.steps), s.asks))
        for words, keys in asking:
            assert keys or not ASKS.search(words), words
            assert all(schema.fact(key) for key in keys)


def test_pieces_whose_sentences_ask_were_found():
    """The cases above do provoke what they are for."""
    shop = Shop("shaft")
    shop.record(FactStated(assembly="it", field="drive", value="shear_pin"))
    asks = {key for part in shop.parts() for c in part.checks for key in c.asks}
    assert asks == {"torque_nm", "guards_nm"}
    shop.record(FactStated(assembly="it", field="torque_nm", value=10.0))
    asks = {key for part in shop.parts() for c in part.checks for key in c.asks}
    assert asks == {"guards_nm"}
