"""The job as a whole: matters in the fold, tasks and their waits, the rack file, card, calendar file."""

from __future__ import annotations

import datetime
import json

import pytest

from tests.demo import JobAtHand
from trebb.core.errors import InputError, TrebbError
from trebb.core.making.stock import Bar
from trebb.core.stating.matters import MATTERS
from trebb.core.units import UnitSystem, show_money
from trebb.logbook.cases.admitting import admit
from trebb.logbook.cases.quotes import quote_of, quote_typed
from trebb.logbook.cases.strip_down import came_off, not_settled
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.demo.pieces import BRAKE
from trebb.logbook.file.holding import Hold
from trebb.logbook.log.entries import CardChanged, MatterStated, PartSet, RemedyChosen, StepDone, Undone
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.afterwards import again_list, proposed
from trebb.logbook.plan.before_fit import RESTS
from trebb.logbook.plan.bill import bill_of
from trebb.logbook.plan.calendar_file import calendar_bytes, evening
from trebb.logbook.plan.job_plan import job_plan
from trebb.logbook.plan.job_tasks import checked_after, told_of
from trebb.logbook.plan.machine_card import card_of
from trebb.logbook.plan.oil_plan import oil_points, piped_words, pump_lines, usual_entries
from trebb.logbook.plan.plan_words import chain_words, plan_told
from trebb.logbook.plan.rack import RackError, read_rack, write_rack
from trebb.logbook.plan.task_gathering import gather
from trebb.logbook.plan.work import PLAN

NOW = datetime.datetime(2026, 11, 26, 12).astimezone()  # noon, wherever it is run


class Shop(JobAtHand):
    """The lathe's job with what is said of its whole."""

    def __init__(self, path):
        super().__init__(make_demo(path))

    def state(self, matter, of, **fields):
        self.record(*[MatterStated(matter, of, key, value) for key, value in fields.items()])

    def choose(self, **remedies):
        self.record(*[RemedyChosen(assembly=a, remedy=r, reason="") for a, r in remedies.items()])

    def plan(self, now=NOW):
        return job_plan(self.cases, now)

    def line(self, key, now=NOW):
        return next(x for x in self.plan(now).lines if x.task.key == key)


@pytest.fixture
def shop(tmp_path):
    made = Shop(tmp_path / "demo.trebb")
    yield made
    made.file.close()


def test_matters_are_stated_undone_and_set_aside(shop):
    shop.state("plan", "", mon=3.0, off="2026-12-24 2026-12-25")
    assert shop.job.matter("plan") == {"mon": 3.0, "off": "2026-12-24 2026-12-25"}
    shop.state("plan", "", mon=4.0)
    shop.record(Undone(shop.job.undoable))
    assert shop.job.matter("plan")["mon"] == 3.0
    for matter, field, value in (
        ("plan", "mon", 30.0),
        ("plan", "mon", 0.1),
        ("plan", "off", "soon"),
        ("plan", "nosuch", 1.0),
        ("nosuch", "mon", 1.0),
        ("task", "days", -1.0),
    ):
        with pytest.raises(InputError):
            admit(shop.job, shop.cases, MatterStated(matter, "", field, value))
    shop.file.append([MatterStated("plan", "", "tue", 99.0)])  # from a file that was written elsewhere
    fresh = Job(shop.file.entries())
    assert "tue" not in fresh.matter("plan")
    assert any("99" in one.reason for one in fresh.set_aside())
    assert [s.words for s in MATTERS["task"].facts if s.key == "comes"] == ["Comes on"]


def test_every_rest_stands_in_a_route_that_there_is():
    from tests.subjects import SUBJECTS
    from trebb.core.machine.workshop import Workshop
    from trebb.core.making.routes import route
    from trebb.core.parts import PartInputs, family

    for part, operation in RESTS:
        made = family(part)
        subject = SUBJECTS[made.assembly]
        fields = made.fields(PartInputs(subject, Workshop(), {}))
        ways = [{}, *({f.key: choice} for f in fields for choice in f.choices or ())]
        found = set()
        for facts in ways:
            try:
                found |= {
                    o.key
                    for o in route(made.build(PartInputs(subject, Workshop(), facts)), subject, Workshop())
                }
            except TrebbError:  # of sizes that nobody has read here
                continue
        assert operation in found or made.assembly == "gib", (part, found)


def test_nothing_is_planned_before_a_remedy_is_chosen_but_what_wants_reading(shop):
    plan = shop.plan()
    assert all(x.work.kind == "read" for x in plan.lines)
    assert "Lead screw & half nuts" in plan.undecided


def test_every_rule_of_the_graph_is_kept(shop):
    shop.choose(cross_slide="pair_thrust", dial_shaft="new")
    plan = shop.plan()
    by_key = {x.task.key: x for x in plan.lines}
    assert by_key["comes.cross_slide"].task.after == ("order.cross_slide",)
    assert "comes.cross_slide" in by_key["make.cross_slide.screw"].task.after
    strip = by_key["strip.cross_slide"]
    # The lathe cuts its own screw: it stays together until that is made, and until all is read.
    assert "make.cross_slide.screw" in strip.task.after
    assert any(a.startswith("read.") for a in strip.task.after)
    assert by_key["make.cross_slide.screw"].task.needs_whole
    assert by_key["fit.cross_slide"].first >= by_key["make.cross_slide.screw"].last
    assert (
        by_key["prove.cross_slide"].last == plan.days - 1 or by_key["prove.dial_shaft"].last == plan.days - 1
    )
    shop.state("plan", "", cuts_own="no")
    assert not shop.line("make.cross_slide.screw").task.needs_whole
    told = plan_told(plan)
    assert json.loads(json.dumps(told))["ready"] == plan.ready.isoformat()
    assert "Order" in chain_words(plan) or "comes" in chain_words(plan) or "Make" in chain_words(plan)


def test_a_wait_runs_from_the_tick_of_its_order_and_a_late_one_is_told(shop):
    shop.choose(cross_slide="pair_thrust")
    assert shop.line("comes.cross_slide").task.hours == 96
    shop.record(StepDone(PLAN, "order.cross_slide"))
    ticked = datetime.datetime.fromisoformat(shop.job.done_at(PLAN, "order.cross_slide"))
    two = ticked.astimezone().replace(hour=1) + datetime.timedelta(days=2)
    assert shop.line("comes.cross_slide", two).task.hours == 48  # by dates, at whatever hour
    assert shop.line("comes.cross_slide", two.replace(hour=23)).task.hours == 48
    assert shop.plan(two).day(shop.line("comes.cross_slide", two).last) == ticked.astimezone().date() + (
        datetime.timedelta(days=4)
    )
    assert shop.line("comes.cross_slide", ticked + datetime.timedelta(days=30)).task.hours == 0
    date = (ticked + datetime.timedelta(days=12)).date().isoformat()
    before = shop.plan(ticked).days
    shop.state("task", "comes.cross_slide", comes=date)
    late = shop.plan(ticked)
    assert late.days > before
    assert "comes.cross_slide" in late.chain
    shop.record(StepDone(PLAN, "comes.cross_slide"))
    assert shop.line("comes.cross_slide", ticked).is_done


def test_an_estimate_a_split_a_hold_and_a_task_of_ones_own(shop):
    shop.choose(dial_shaft="new")
    make = "make.dial_shaft.stepped_shaft"
    shop.state("task", make, hours=8.0)
    assert shop.line(make).task.hours == 8.0
    shop.state("task", make, hours=2.0)
    usual = shop.line("fit.dial_shaft").task.hours
    shop.state("task", "fit.dial_shaft", part=0.5)
    first, rest = shop.line("fit.dial_shaft"), shop.line("fit.dial_shaft.rest")
    assert first.task.hours + rest.task.hours == pytest.approx(usual)
    assert (first.task.refits, rest.task.refits) == ("", "apron")
    assert "fit.dial_shaft.rest" in shop.line("prove.dial_shaft").task.after
    shop.state("task", make, pinned="2026-12-01")
    assert shop.line(make).first == 5  # the first of December, a Tuesday; not the evenings before it
    shop.state("task", "own1", own="yes", title="Paint the covers", hours=2.0)
    shop.state("task", "own2", own="yes", title="Paint dries", kind="wait", days=3.0, after="own1")
    assert shop.line("own2").task.waits
    assert shop.line("own2").task.after == ("own1",)
    work = told_of(shop.cases, gather(shop.cases), NOW)
    with pytest.raises(InputError, match="wait for each other"):
        checked_after(work, "own1", ["own2"])
    shop.state("task", "own1", after="own2")  # as a command could state it all the same
    assert "none of them can begin" in shop.plan().why_not["own1"]
    shop.state("task", make, own="yes")  # a task there is is nobody's own
    assert sum(x.task.key == make for x in shop.plan().lines) == 1
    shop.state("task", "own1", gone="yes")
    assert not shop.plan().trouble


def test_what_is_missing_holds_its_task_and_what_waits_for_it(shop):
    shop.choose(dial_shaft="new")
    tool = next(n.words for n in bill_of(shop.cases).tools if "die" in n.words)
    shop.state("tool", tool, there="no")
    plan = shop.plan()
    make = next(x for x in plan.lines if x.task.key == "make.dial_shaft.stepped_shaft")
    assert make.work.missing == tool
    assert make.task.key not in plan.starts
    assert "fit.dial_shaft" not in plan.starts
    shop.state("tool", tool, there="yes")
    assert "fit.dial_shaft" in shop.plan().starts


def test_a_date_that_cannot_be_kept_is_said_with_what_would_do(shop):
    shop.choose(cross_slide="pair_thrust")
    plan = shop.plan()
    shop.state("plan", "", ready_by=plan.day(plan.days + 20).isoformat())
    assert shop.plan().ready_by is not None
    assert not shop.plan().ways_out
    shop.state("plan", "", ready_by=plan.day(plan.days - 2).isoformat())
    assert shop.plan().ways_out
    shop.state("plan", "", ready_by=plan.day(1).isoformat())
    assert "nothing tried" in shop.plan().ways_out[0]
    shop.state("plan", "", **dict.fromkeys(("mon", "tue", "wed", "thu", "fri", "sat", "sun"), 0.0))
    assert "give one day some hours" in shop.plan().trouble


def test_open_lines_of_one_pump_are_told_by_their_pipes(shop):
    for key, where, bore, length in (("oil1", "apron", 4.0, 300.0), ("oil2", "cross slide", 2.0, 600.0)):
        shop.state("oil", key, assembly="apron", where=where, how="pump")
        assert piped_words(oil_points(shop.cases)) == ""
        shop.state("oil", key, line_bore=bore, line_long=length, line_up=-50.0)
    words = piped_words(oil_points(shop.cases))
    assert "Apron: apron 97% (a meter that lets 1 in 32 through)" in words
    assert "Apron: cross slide 3% (no meter)" in words
    shop.state("oil", "oil1", drops=40.0)  # it has its meter
    assert piped_words(oil_points(shop.cases)) == ""


def test_money_planned_and_spent_by_assembly(shop):
    shop.choose(cross_slide="pair_thrust")
    cost, paid = shop.plan().costs
    assert cost == shop.cases.of("cross_slide").quoted(shop.cases.of("cross_slide").chosen).cost
    assert paid == 0
    shop.state("task", "order.cross_slide", paid=30.0, spent=0.5)
    shop.state("plan", "", hour_worth=20.0)
    one = next(s for s in shop.plan().sums if s.label == "Cross-slide screw")
    assert one.paid == 30.0 + 20 * 0.5
    assert one.cost == pytest.approx(cost + 20 * one.hours)
    # A task of one's own has its money; a quote is kept to the penny; a part that is bought has its price,
    # the others their share of what is usual.
    shop.state("plan", "", hour_worth=0.0)
    shop.state("task", "own1", own="yes", title="Paint", hours=1.0, cost=12.5)
    assert shop.plan().costs[0] == cost + 12.5
    assert plan_told(shop.plan())["currency"] == "£"
    shop.record(PartSet("nut", "get", "buy"), PartSet("nut", "price", 40.25))
    assert shop.plan().costs[0] == pytest.approx(40.25 + cost * 2 / 3 + 12.5)
    note = quote_typed("cross_slide", "pair_thrust", "12345.67", "10", "Grinder")
    shop.record(note)
    assert quote_of(shop.job, "cross_slide", "pair_thrust").price == 12345.67
    assert show_money(12345.67, "£") == "£12,345.67"
    assert show_money(40.0, "£") == "£40"


def test_what_must_be_taken_before_stops_a_strip_down(shop):
    assert len(not_settled(shop.job, "cross_slide", "screw_drive")) == 3
    for key in ("nut", "turns"):
        shop.state("strip", f"first.cross_slide.{key}", taken="12 mm")
    shop.state("strip", "first.cross_slide.shim", waived="none there")
    assert not not_settled(shop.job, "cross_slide", "screw_drive")
    shop.state("strip", "off1", assembly="cross_slide", what="guard", held="2 × M5")
    shop.state("strip", "off2", assembly="cross_slide", what="handwheel", shim=0.2)
    shop.state("strip", "off3", assembly="spindle", what="belt")
    assert [o.what for o in came_off(shop.job, "cross_slide")] == ["guard", "handwheel"]
    order = [s.title for s in shop.cases.of("cross_slide").fit_order()]
    assert order.index("Handwheel back on") < order.index("Guard back on") < len(order) - 1
    shop.state("strip", "off1", at=5.0)
    shop.state("strip", "off2", at=9.0)
    shop.state("strip", "off2", gone="yes")
    assert [o.what for o in came_off(shop.job, "cross_slide")] == ["guard"]


def test_the_rack_is_one_file_and_nobody_s_change_is_lost(tmp_path):
    path = tmp_path / "rack.json"
    assert not read_rack(path).bars
    rack = write_rack(read_rack(path), [Bar("b1", "carbon", "round", 25.0, 400.0)], path)
    other = read_rack(path)
    assert other.bars[0].length_mm == 400
    write_rack(other, [*other.bars, Bar("b2", "brass", "round", 12.0, 300.0)], path)
    with pytest.raises(RackError, match="changed since"):
        write_rack(rack, [], path)
    assert len(read_rack(path).bars) == 2
    hold = Hold(path.with_suffix(".lock"))
    with pytest.raises(RackError, match="another Trebb"):
        write_rack(read_rack(path), [], path)
    hold.release()
    kept = path.read_bytes()
    for text, said in (
        ('{"format": "trebb rack", "version": 9, "bars": []}', "newer"),
        ('{"format": "else"}', "no rack"),
        ("{", "no rack"),
        ('{"format": "trebb rack", "version": 1, "bars": [{"key": "a"}]}', "without its sizes"),
        (
            '{"format": "trebb rack", "version": 1, "bars": [{"key": "a", "metal": "gold", "shape": "round", '
            '"size_mm": 1, "length_mm": 2}]}',
            "gold",
        ),
    ):
        path.write_text(text)
        with pytest.raises(RackError, match=said):
            read_rack(path)
        assert path.read_text() == text
    path.write_bytes(kept)
    with pytest.raises(RackError, match="more than nothing"):
        write_rack(read_rack(path), [Bar("b3", "brass", "round", 12.0, 0.0)], path)


def test_the_card_has_every_figure_and_the_calendar_file_every_day(shop):
    shop.choose(cross_slide="pair_thrust")
    shop.record(*proposed(shop.cases, NOW.date()))
    shop.record(*usual_entries(shop.cases))
    card = card_of(shop.cases, NOW)
    json.dumps(card)
    slide = next(a for a in card["assemblies"] if a["key"] == "cross_slide")
    assert slide["remedy"] == "Screw and nut with thrust bearings" or slide["remedy"]
    assert all(f["limit_mm"] > 0 for f in slide["figures"])
    assert any(f.get("predicted_mm") is not None for f in slide["figures"])
    assert {a["what"] for a in card["again"]} == {a.what for a in again_list(shop.cases)}
    assert len(card["oil"]) == len(oil_points(shop.cases)) > 5
    plan = shop.plan()
    data = calendar_bytes(plan, again_list(shop.cases), "Lathe 2", NOW)
    events = parsed(data.decode())
    gone = [e for e in events if e.get("STATUS") == "CANCELLED"]
    work = [e for e in events if "T" in e["DTSTART"] and e not in gone]
    assert {e["DTSTART"][:8] for e in gone}.isdisjoint(e["DTSTART"][:8] for e in work)
    assert max(e["DTSTART"] for e in gone) > max(e["DTSTART"] for e in work)
    assert all(e["DTEND"][:8] == e["DTSTART"][:8] for e in work)  # ends by midnight
    assert {e["DTSTART"][:8] for e in work} == {
        plan.day(d).strftime("%Y%m%d")
        for x in plan.lines
        if not x.task.waits
        for d in range(x.first, x.last + 1)
        if plan.evenings.hours[d]
    }
    assert len({e["UID"] for e in events}) == len(events)
    comes = next(e for e in events if "comes" in e["SUMMARY"])
    assert comes["DTSTART"] == plan.day(shop.line("comes.cross_slide").last).strftime("%Y%m%d")
    assert any("guard" in e["SUMMARY"].lower() for e in events)
    assert evening(NOW.date(), 8.0)[0].hour == 16  # a long one begins earlier
    later = calendar_bytes(plan, [], "Lathe 2", NOW + datetime.timedelta(hours=1), identity="another")
    assert {e["UID"] for e in parsed(later.decode())}.isdisjoint(e["UID"] for e in events)
    assert int(parsed(later.decode())[0]["SEQUENCE"]) > int(events[0]["SEQUENCE"])
    shop.state("task", "own1", own="yes", title="Paint dries", kind="wait", days=3.0)
    own = calendar_bytes(shop.plan(), [], "Lathe 2", NOW)
    assert any("Paint dries" in e["SUMMARY"] for e in parsed(own.decode()))
    assert shop.job.identity != Job([]).identity


def parsed(text):
    """Events of a calendar file, read by RFC 5545's own rules and nothing of the library's."""
    assert text.endswith("\r\n")
    lines = text.replace("\r\n ", "").split("\r\n")
    assert lines[0] == "BEGIN:VCALENDAR"
    events, here, inner = [], None, 0
    for line in lines:
        if line == "BEGIN:VEVENT":
            here = {}
        elif line == "END:VEVENT":
            events.append(here)
            here = None
        elif line.startswith("BEGIN:") and here is not None:
            inner += 1
        elif line.startswith("END:") and here is not None:
            inner -= 1
        elif here is not None and not inner:
            name, _, value = line.partition(":")
            here[name.partition(";")[0]] = value
    return events


def test_pump_lines_without_a_meter_are_told(shop):
    shop.state("oil", "a", where="bed", how="pump", drops=30.0)
    shop.state("oil", "b", where="nut", how="pump")
    lines = pump_lines(oil_points(shop.cases))
    assert len(lines.open_ones) == 1
    shop.state("oil", "c", where="front bearing", how="packed", bore=25.0, outer=52.0, wide=15.0)
    grease = next(o.grease for o in oil_points(shop.cases) if o.key == "c")
    assert grease == "first 2.1 cm³, then 3.9 g"


def test_the_bill_has_every_part_that_is_made_here(shop):
    shop.choose(cross_slide="pair_thrust", **{BRAKE: "reline"})
    bill = bill_of(shop.cases)
    assert {b.part for b in bill.blanks} == {
        "cross_slide.screw",
        "cross_slide.nut",
        "cross_slide.thrust_collar",
    }
    assert any("lining" in stock for _, stock in bill.others)
    screw = next(b for b in bill.blanks if b.part == "cross_slide.screw")
    part = shop.cases.of("cross_slide").part("screw", UnitSystem.INCH)
    assert screw.size_mm > part.largest_mm


def test_help_is_there_on_some_days_only(shop):
    shop.choose(dial_shaft="new")
    shop.state("plan", "", helper_days="sat")
    shop.state("task", "strip.apron", helper="yes")
    line = shop.line("strip.apron")
    assert shop.plan().day(line.first).weekday() == 5
    assert line.task.only[0] == 2  # the 28th


def test_what_wears_in_a_year_is_said_with_its_doubt(shop):
    from trebb.logbook.cases.verdict import since_verdict
    from trebb.logbook.log.entries import Entry, ReadingTaken

    case = shop.cases.of("cross_slide")
    assert "a month or a year on" in since_verdict(case, UnitSystem.METRIC)[1]
    entry = max(e.id for e in shop.file.entries())
    # Two hundredths after the repair, seven a year and a half later, read three times each.
    for phase, at, values in (
        ("after", "2026-11-26T18:00:00+00:00", (0.020, 0.021, 0.019)),
        ("later", "2028-05-26T18:00:00+00:00", (0.070, 0.071, 0.069)),
    ):
        for value in values:
            entry += 1
            body = ReadingTaken("cross_slide", "push_pull", "station 1", phase, value, "mm")
            shop.job.apply(Entry(entry, at, entry, body))
    (row,) = case.since()
    assert row.change_mm == pytest.approx(0.05)
    assert case.years_since("push_pull") == pytest.approx(1.5, abs=0.01)
    tone, head, text = since_verdict(case, UnitSystem.METRIC)
    assert tone == "within"
    assert "still inside" in head
    assert "33" in text  # 50 µm in a year and a half
    assert "a year" in text
    assert "at its limit in" in text


def test_how_it_is_to_look_has_its_hours_and_the_days_that_paint_wants(shop):
    """Painted while it is apart, and what goes together waits until it is hard; touched in when it stands."""
    shop.choose(cross_slide="pair_thrust")
    usual = shop.plan()
    assert not any(x.task.key.startswith("looks") for x in usual.lines)
    shop.record(CardChanged("looks", "honest"))
    touched = shop.line("looks")
    assert touched.task.hours == 5.0
    assert "fit.cross_slide" in touched.task.after
    shop.record(CardChanged("looks", "full"))
    plan = shop.plan()
    by_key = {x.task.key: x for x in plan.lines}
    assert set(by_key["looks"].task.after) == {"strip.cross_slide"}
    assert by_key["looks.hard"].task.waits
    assert "looks.hard" in by_key["fit.cross_slide"].task.after
    assert by_key["fit.cross_slide"].first >= by_key["looks"].last + 3
    assert plan.days > usual.days
