"""Random jobs planned, and judged by rules that share nothing with the plan: a clock of its own, the trade's
order written down once more, fit-up's minutes added up by hand.
"""

from __future__ import annotations

import contextlib
import datetime
import itertools
import random
from collections import defaultdict

import pytest

from tests.demo import JobAtHand, demo_at
from trebb.core import clock
from trebb.core.errors import TrebbError
from trebb.core.making.bought import is_bought
from trebb.logbook.cases.quotes import quote_of
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.log.entries import MatterStated, RemedyChosen, StepDone
from trebb.logbook.plan.job_plan import job_plan
from trebb.logbook.plan.work import PLAN

NOW = datetime.datetime(2026, 12, 1, 17).astimezone()
DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
# What a fitter would say: the first is put right before the second.
ORDER = {
    "lathe": "stand ways headstock tailstock, ways saddle cross_gib cross_slide, spindle headstock, "
    "compound_gib compound, saddle lead_screw, cross_slide headstock, compound headstock",
    "mill": "column knee saddle table table_screw, saddle cross_screw, knee knee_screw, spindle head, "
    "table head",
    "drill": "head quill spindle table",
}
RIDES_ON = {
    "lathe": "spindle>headstock>ways saddle>ways cross_slide>saddle cross_gib>cross_slide "
    "compound>cross_slide "
    "compound_gib>compound tailstock>ways lead_screw>ways apron>saddle gearbox>ways",
    "mill": "spindle>head>ram table>saddle>knee>column table_screw>table cross_screw>saddle knee_screw>knee",
    "drill": "spindle>quill>head>column table>column table_screw>table",
}
IN_PLACE = {
    "clean", "clock", "preload", "ream", "jaws", "backplate", "level", "set_over", "level_over", "feet",
    "brace", "tighten", "set", "swing", "next_pin", "shear_pin", "oil", "centres", "studs", "take_up",
    "turn.cutter",
    "holder", "grind.cutter", "new.cutter", "other_way", "centre", "pin", "shim.headstock", "shim.tram",
}  # fmt: skip


def follows(machine):
    """Pairs of assemblies, all that come behind each other."""
    found = set()
    for chain in ORDER[machine].split(", "):
        names = chain.split()
        found |= {(a, b) for i, a in enumerate(names) for b in names[i + 1 :]}
    while more := {(a, d) for a, b in found for c, d in found if b == c} - found:
        found |= more
    return found


def carriers(machine, key):
    on = {}
    for chain in RIDES_ON[machine].split():
        names = chain.split(">")
        on.update(itertools.pairwise(names))
    found = []
    while key in on:
        key = on[key]
        found.append(key)
    return found


class RandomShop(JobAtHand):
    def __init__(self, path, machine, seed):
        self.rng = random.Random(seed)
        self.machine = machine
        super().__init__(demo_at(path, machine))

    def tried(self, *bodies):
        with contextlib.suppress(TrebbError):
            self.record(*bodies)

    def choose(self):
        for case in self.cases.measurable():
            if self.rng.random() < 0.55:
                able = [r for r, _ in case.predictions() if r.key != "leave" and not r.hinder(case.subject)]
                if able:
                    r = self.rng.choice(able)
                    self.tried(RemedyChosen(assembly=case.assembly_key, remedy=r.key, reason=""))

    def disturb(self):
        """A week of its own, days off, days that tasks are held until, ticks, an hour lost."""
        rng = self.rng
        if rng.random() < 0.5:
            hours = [rng.choice((0.0, 1.5, 2.5, 3.0, 5.0)) for _ in DAYS]
            if any(hours):
                self.record(*[MatterStated("plan", "", d, h) for d, h in zip(DAYS, hours, strict=True)])
        if rng.random() < 0.3:
            off = NOW.date() + datetime.timedelta(days=rng.randrange(1, 9))
            self.record(MatterStated("plan", "", "off", off.isoformat()))
        lines = job_plan(self.cases, NOW).lines
        for x in rng.sample(lines, min(len(lines), rng.randrange(4))):
            if x.work.kind in ("order", "read") or not x.task.after:
                self.record(StepDone(PLAN, x.task.key, True))
            elif x.task.waits:
                day = NOW.date() + datetime.timedelta(days=rng.randrange(3, 30))
                self.record(MatterStated("task", x.task.key, "comes", day.isoformat()))
            else:
                day = NOW.date() + datetime.timedelta(days=rng.randrange(1, 15))
                self.record(MatterStated("task", x.task.key, "pinned", day.isoformat()))


def clock_span(plan, x):
    """Begin and end of a task as clock hours since this evening's beginning, by an own walk over evenings."""
    if x.task.waits:
        return plan.starts[x.task.key], plan.starts[x.task.key] + x.task.hours

    def at(bench, *, ends):
        for day, hours in enumerate(plan.evenings.hours):
            if bench < hours - 1e-9 or (ends and bench <= hours + 1e-9 and (bench > 1e-9 or day == 0)):
                return 24.0 * day + bench
            bench -= hours
        raise AssertionError("past the last evening")

    start = plan.starts[x.task.key]
    ending = x.task.hours > 1e-9
    return at(start, ends=not ending), at(start + x.task.hours, ends=True)


def judge(shop, plan):
    """Every rule; what breaks one is said."""
    lines = {x.task.key: x for x in plan.lines}
    titles = [x.task.title for x in plan.lines]
    assert len(set(titles)) == len(titles), "two tasks of one name"
    left = {key: x for key, x in lines.items() if not x.is_done}
    going = {key: x for key, x in left.items() if key in plan.starts}
    assert set(going) | set(plan.why_not) == set(left)
    spans = {key: clock_span(plan, x) for key, x in going.items()}
    hands = sorted((plan.starts[k], k) for k, x in going.items() if not x.task.waits and x.task.hours > 0)
    for (a, one), (b, other) in itertools.pairwise(hands):
        assert a + going[one].task.hours <= b + 1e-6, (one, other, "at one time")
    for key, x in going.items():
        for a in x.task.after:
            if a in spans:
                assert spans[a][1] <= spans[key][0] + 1e-6, (a, key)
        if x.task.not_before:
            assert spans[key][0] >= 24 * x.task.not_before - 1e-6, key
    days = max((int(e // 24 + 1e-9) + (0 if e % 24 < 1e-9 and not going[k].task.waits and e else 1)
                for k, (_, e) in spans.items()), default=0)  # fmt: skip
    assert plan.days >= days - 1
    judge_apart(plan, going, spans)
    judge_work(shop, plan, lines, spans)


def judge_apart(plan, going, spans):
    opened = {x.task.strips: spans[k] for k, x in going.items() if x.task.strips}
    whole = [spans[k] for k, x in going.items() if x.task.needs_whole and x.task.hours]
    on = set()
    for key, x in going.items():
        if x.task.refits:
            begin, end = opened.get(x.task.refits, (0.0, 0.0))[0], spans[key][1]
            on |= set(range(int(begin // 24 + 1e-9), int((end - 1e-6) // 24) + 1))
            for a, b in whole:
                assert b <= begin + 1e-6 or a >= end - 1e-6, (key, "cut while apart")
    assert plan.apart == len(on), (plan.apart, sorted(on))


def judge_work(shop, plan, lines, spans):
    first, last, stripped = {}, {}, defaultdict(list)
    for case in shop.cases.measurable():
        chosen, key = case.chosen, case.assembly_key
        if chosen is None or chosen.key == "leave":
            continue
        host = case.assembly.under or key
        # What is scraped is the knee's, not the head's that it is scraped for.
        host_on = "knee" if case.family == "tram" and "knee" in chosen.members else host
        in_place = all(k in IN_PLACE or f"{k}.{case.family}" in IN_PLACE for k in chosen.members)
        work = [k for k in (f"mend.{key}", f"fit.{key}", f"do.{key}") if k in lines]
        assert work, key
        assert in_place is (f"do.{key}" in lines), (key, chosen.key)
        planned = sum(lines[k].work.planned for k in work if not k.startswith("mend"))
        minutes = sum(s.minutes for s in case.fit_order() if in_place or not s.takes_apart)
        assert planned * 60 == pytest.approx(minutes), key
        done = [spans[k] for k in work if k in spans]
        if done:
            last.setdefault(host, []).append(max(b for _, b in done))
            first.setdefault(host, []).append(min(a for a, _ in done))
        if host_on != host and f"mend.{key}" in spans:
            last.setdefault(host_on, []).append(spans[f"mend.{key}"][1])
        if in_place:
            continue
        stripped[host].append(key)
        strip = next((x for x in lines.values() if x.task.strips and f"strip.{x.task.strips}" in
                      {a for k in work for a in lines[k].task.after} | {x.task.key}), None)  # fmt: skip
        assert strip is not None
        # Nothing is done to it, or sent away of it, before it is off.
        for k in (*work, f"send.{key}"):
            if k in spans and strip.task.key in spans and strip.task.key in lines[k].task.after:
                assert spans[strip.task.key][1] <= spans[k][0] + 1e-6, k
        # Put together when everything of it is there.
        parts = [k for k in lines if k.split(".")[0] in ("make", "comes", "rest", "back")
                 and k.split(".")[1] == key and k in spans]  # fmt: skip
        for k in parts:
            assert spans[k][1] <= spans[f"fit.{key}"][0] + 1e-6 if f"fit.{key}" in spans else True, k
        if quote_of(shop.job, key, chosen.key) is None:
            made = [p for p in case.part_keys() if not is_bought(case.part_facts(p))]
            assert all(any(k.startswith(f"make.{key}.{p}") for k in lines) for p in made)
    strips = [x for x in lines.values() if x.task.strips]
    for one in strips:
        for other in strips:
            assert other.task.strips not in carriers(shop.machine, one.task.strips), "taken down apart"
    for a, b in follows(shop.machine):
        if a in last and b in first:
            assert max(last[a]) <= max(last[b]) + 1e-6, (a, b, "in the wrong order")


@pytest.mark.parametrize("machine", DEMOS)
def test_every_rule_of_a_plan_on_random_jobs(tmp_path, machine, monkeypatch):
    monkeypatch.setattr(clock, "now", lambda: NOW)
    run(tmp_path, machine, range(4))


def run(folder, machine, seeds):
    """Jobs of random repairs, planned and judged; days planned and the bound of them all."""
    planned = bound = 0
    for seed in seeds:
        shop = RandomShop(folder / f"{machine}{seed}.trebb", machine, seed)
        shop.choose()
        judge(shop, job_plan(shop.cases, NOW))
        shop.disturb()
        plan = job_plan(shop.cases, NOW)
        judge(shop, plan)
        planned, bound = planned + plan.days, bound + plan.bound
        shop.file.close()
    return planned, bound
