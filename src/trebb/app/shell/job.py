"""From the shell, the job as a whole: suspects, plan, stock, what is stated of it, its card and calendar."""

from __future__ import annotations

import argparse
import json
from collections.abc import Callable
from pathlib import Path

from msgspec.structs import asdict

from trebb.app.shell.base import FILE, Argument, open_job, pairs_of, plainly, record, say, system_of
from trebb.core import clock
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.log.fold import Job


def suspects(given: argparse.Namespace) -> int:
    """Suspects by the symptoms marked and the looks answered."""
    from trebb.logbook.plan.leads import spacing_words
    from trebb.logbook.plan.suspicion import suspicion, told_of_suspects

    job_file, cases = open_job(given)
    with job_file:
        found = suspicion(cases)
        names = {a.key: a.label for a in cases.kind.assemblies}
    lines = [
        f"  {s.chance:4.0%}  {s.cause.words}  {names.get(s.assembly, '')} [{s.key}]"
        for s in found.ranking.suspects[:8]
    ]
    spaced = spacing_words(cases, system_of(given))
    lines += [spaced] if spaced else []
    lines += [f"  look, {a.look.minutes:.0f} min: {a.look.words} [{a.key}]" for a in found.ranking.advice[:3]]
    if not found.marks and not found.looked:
        lines = ["Nothing is marked yet: these are what such machines come in with.", *lines]
    return say(given, told_of_suspects(found, cases), lines)


def trials(given: argparse.Namespace) -> int:
    """Trials there are, how they came, what they say; one of one's own is added."""
    from trebb.logbook.plan.trials import (
        came_of,
        own_trial,
        told_of_trials,
        told_words,
        trials_of,
        trials_table,
    )

    job_file, cases = open_job(given, writes=bool(given.tried))
    with job_file:
        if given.tried:
            added = own_trial(cases, given.tried, given.about)
            more = [("hangs_on", given.hangs_on), ("came", given.came)]
            record(
                job_file, cases, [*added, *(MatterStated("trial", added[0].of, k, v) for k, v in more if v)]
            )
            cases = Cases(Job(job_file.entries()))
        came, told = came_of(cases), told_of_trials(cases)
        notes = {key: str(m.get("note", "")) for key, m in cases.job.matters("trial").items()}
    lines: list[str] = []
    plain: list[dict[str, object]] = []
    for about, each in trials_of(cases).items():
        lines.append(f"{trials_table().complaints[about]} [{about}]")
        if about in told:
            lines.append(f"  {told_words(told[about])}")
        for t in each:
            how = (t.good if came[t.key] else t.bad) if t.key in came else f"{t.good} or {t.bad}?"
            note = f" ({notes[t.key]})" if notes.get(t.key) else ""
            lines.append(f"    {t.key}: {t.words}, {t.minutes:.0f} min: {how}{note}")
        found = told.get(about)
        plain.append(
            {
                "about": about,
                "came": {t.key: "good" if came[t.key] else "bad" for t in each if t.key in came},
                "cleared": list(found.cleared) if found else [],
                "left": {p: round(found.chances[p], 4) for p in found.left} if found else {},
                "deny_each_other": bool(found and found.is_denied),
                "next": found.following.key if found and found.following else "",
            }
        )
    return say(given, {"trials": plain}, lines)


def follow(given: argparse.Namespace) -> int:
    """Go where a suspect leads: the piece that it is worked on as is added where it is not there yet."""
    from trebb.logbook.plan.leads import lead_of
    from trebb.logbook.plan.suspicion import suspect_named

    job_file, cases = open_job(given, writes=True)
    with job_file:
        suspect = suspect_named(cases, given.suspect)
        lead = lead_of(suspect, cases)
        if lead is None:
            raise InputError(suspect.cause.words, f"nothing here is surveyed for it. {suspect.cause.why}")
        if lead.adds:
            record(job_file, cases, list(lead.adds))
    told = {
        "assembly": lead.assembly,
        "label": lead.label,
        "added": bool(lead.adds),
        "set_up": lead.set_up,
        "remedies": [r.key for r in lead.remedies],
    }
    lines = [f"{lead.assembly}: {lead.label}{' (added)' if lead.adds else ''}"]
    lines += [f"  read {lead.set_up}: {lead.set_up_title}"] if lead.set_up else []
    lines += [f"  usually {r.key}: {r.title}, {r.hours:g} h" for r in lead.remedies]
    return say(given, told, lines)


def plan_job(given: argparse.Namespace) -> int:
    """The plan of the whole job, from today on."""
    from trebb.core.dates import day_words
    from trebb.logbook.plan.job_plan import job_plan
    from trebb.logbook.plan.plan_words import chain_words, plan_told, when_words

    job_file, cases = open_job(given)
    with job_file:
        plan = job_plan(cases, clock.now())
    waits = "Nothing of it can be planned yet" if plan.why_not else "Nothing to plan"
    ready = when_words(plan) if plan.ready else waits
    apart = f"apart on {plan.apart} day{'' if plan.apart == 1 else 's'}"
    lines = [plan.trouble or f"{ready}, {plan.hours_left:.1f} h at the bench, {apart}"]
    for x in plan.lines:
        when = "done" if x.is_done else day_words(plan.day(x.first)) if x.task.key in plan.starts else "–"
        takes = f"waits {x.task.hours / 24:.1f} d" if x.task.waits else f"{x.task.hours:.1f} h"
        lines.append(f"  {when}: {x.task.title}, {takes}{' *' if x.is_deciding and not x.is_done else ''}")
    if plan.chain:
        lines.append(f"decides the end: {chain_words(plan)}")
    lines += [f"would do: {way}" for way in plan.ways_out]
    lines += [f"not decided: {name}" for name in plan.undecided]
    lines += [f"not planned: {key}: {why}" for key, why in plan.why_not.items() if key not in plan.waiting]
    return say(given, plan_told(plan), lines)


def week(given: argparse.Namespace) -> int:
    """Several machines and one fitter: evenings shared, what is due first, what to order for all."""
    from trebb.core.dates import day_words
    from trebb.logbook.memory.taught_for import cases_at
    from trebb.logbook.plan.plan_words import plan_told
    from trebb.logbook.plan.shop_week import shop_week

    found = shop_week([(path, cases_at(path)) for path in given.files], clock.now())
    plan, lines, last = found.plan, [], None
    for x in plan.lines:
        if x.is_done or x.task.key not in plan.starts:
            continue
        if x.day != last:
            lines.append(day_words(plan.day(x.day)))
            last = x.day
        takes = "comes" if x.task.waits else f"{x.task.hours:.1f} h"
        lines.append(f"  {x.task.title}, {takes}")
    lines.append(f"evenings as in {found.hours_of}")
    lines += [f"order today: {x.task.title}" for x in plan.to_order]
    for m in found.machines:
        ready = day_words(m.ready) if m.ready else "not planned"
        due = f", due {day_words(m.due)}{': late' if m.is_late else ''}" if m.due else ""
        undecided = f"; not decided: {', '.join(m.undecided)}" if m.undecided else ""
        lines.append(f"{m.name}: ready {ready}{due}, {m.hours:.1f} h{undecided}")
    machines = [
        {
            "file": str(m.path),
            "machine": m.name,
            "key": m.key,
            "ready": m.ready.isoformat() if m.ready else None,
            "ready_by": m.due.isoformat() if m.due else None,
            "is_late": m.is_late,
            "hours": round(m.hours, 2),
        }
        for m in found.machines
    ]
    return say(given, {"machines": machines, "plan": plan_told(plan)}, lines)


def join(given: argparse.Namespace) -> int:
    """Two copies of one job that went apart, as one new file."""
    from trebb.logbook.cases.clash_words import clash_about, clash_said
    from trebb.logbook.file.joining import Side, chosen, joined, write_joined
    from trebb.logbook.file.looking import JobLookedAt

    with JobLookedAt.look(given.first) as one, JobLookedAt.look(given.second) as other:
        found = joined(one.entries(), other.entries())
        job, system, sides = Job(found.entries), system_of(given), list[Side]()
        for clash in found.clashes:
            if not given.keep:
                listed = "; ".join(
                    f"{clash_about(c, job)}: {clash_said(c, 'first', job, system)} in the first, "
                    f"{clash_said(c, 'second', job, system)} in the second"
                    for c in found.clashes
                )
                raise InputError(listed, "say whose stands: --keep newer, --keep first or --keep second")
            sides.append(clash.newer if given.keep == "newer" else given.keep)
        entries = chosen(found, sides, clock.now().isoformat(timespec="milliseconds"))
        write_joined(given.out, {"first": one, "second": other}, entries)
    told = {
        "written": str(given.out),
        "of_both": found.of_both,
        "of_first": found.of_first,
        "of_second": found.of_second,
        "clashes": [
            {"about": c.about, "first": c.words("first"), "second": c.words("second"), "stands": side}
            for c, side in zip(found.clashes, sides, strict=True)
        ],
    }
    lines = [
        f"Written: {given.out}: {found.of_both} entries of both, {found.of_first} of the first alone, "
        f"{found.of_second} of the second"
    ]
    lines += [
        f"  {clash_about(c, job)}: {clash_said(c, side, job, system)}, as the {side} has it"
        for c, side in zip(found.clashes, sides, strict=True)
    ]
    return say(given, told, lines)


def stock(given: argparse.Namespace) -> int:
    """Blanks, cuts, tools."""
    from trebb.core.metals import MATERIALS
    from trebb.logbook.plan.bill import bill_of
    from trebb.logbook.plan.rack import read_rack
    from trebb.logbook.plan.shopping import cuts_of, sawn, section_words

    rack = read_rack()
    job_file, cases = open_job(given)
    with job_file:
        system = system_of(given)
        bill = bill_of(cases, system)
        found = cuts_of(bill, cases.job, rack.bars, system)
    lines, told = [], []
    for c in found.cuts:
        where = f"buy {c.to_buy} of {sawn(c.buy_mm, system)}" if c.to_buy else "from the rack"
        names = ", ".join(f"{sawn(b.length_mm, system)} {b.name}" for b in c.blanks)
        section = section_words(c.shape, c.size_mm, c.width_mm, system)
        lines.append(f"  {where}: {MATERIALS[c.metal].label} {section}: {names}")
        told.append(
            {
                "metal": c.metal,
                "shape": c.shape,
                "size_mm": c.size_mm,
                "width_mm": c.width_mm,
                "from_rack": [b.key for b in c.bars],
                "to_buy": c.to_buy,
                "buy_mm": c.buy_mm,
                "cuts_mm": [list(bar) for bar in c.cuts.bars],
                "blanks": [{"part": b.part, "length_mm": b.length_mm} for b in c.blanks],
            }
        )
    lines += [f"  cannot be: {sentence}" for sentence in found.refused]
    lines += [f"  {name}: {words}" for name, words in bill.others]
    lines += [f"  not known yet: {name}" for name in bill.unknown]
    lines += [f"  {n.there or '?'}: {n.words}" for n in bill.tools]
    tools = [{"tool": n.words, "there": n.there, "parts": list(n.parts)} for n in bill.tools]
    return say(
        given,
        {
            "cuts": told,
            "refused": list(found.refused),
            "others": [{"part": name, "what": words} for name, words in bill.others],
            "unknown": list(bill.unknown),
            "tools": tools,
        },
        lines or ["Nothing to cut, nothing to buy."],
    )


def state_matter(given: argparse.Namespace) -> int:
    """State facts of the job as a whole."""
    from trebb.core.stating.matters import matter_schema
    from trebb.logbook.log.entries import MatterStated

    schema, bodies = matter_schema(given.matter), []
    of = "" if given.of == "-" else given.of
    for field, value in pairs_of(given.facts):
        bodies.append(
            MatterStated(given.matter, of, field, schema.fact(field).typed(value, system_of(given)))
        )
    job_file, cases = open_job(given, writes=True)
    with job_file:
        record(job_file, cases, bodies)
    told = {body.field: body.value for body in bodies}
    return say(given, told, [f"{k} = {plainly(v)}" for k, v in told.items()])


def tick(given: argparse.Namespace) -> int:
    """Tick a task of the plan, or take its tick back."""
    from trebb.logbook.plan.job_plan import job_plan
    from trebb.logbook.plan.ticking import tick_entry

    job_file, cases = open_job(given, writes=True)
    with job_file:
        lines = job_plan(cases, clock.now()).lines
        entry = tick_entry(cases, lines, given.task)
        record(job_file, cases, [entry])
    title = next(x.task.title for x in lines if x.task.key == given.task)
    word = "Done" if entry.done else "Taken back"
    return say(given, {"task": given.task, "is_done": entry.done}, [f"{word}: {title}"])


def machine_card(given: argparse.Namespace) -> int:
    """The machine's card."""
    from trebb.logbook.plan.machine_card import card_of

    job_file, cases = open_job(given)
    with job_file:
        card = card_of(cases, clock.now())
    return say(given, card, [json.dumps(card, indent=1, ensure_ascii=False)])


def calendar(given: argparse.Namespace) -> int:
    """The calendar file."""
    from trebb.logbook.file.writing import write_whole
    from trebb.logbook.plan.afterwards import again_list
    from trebb.logbook.plan.calendar_file import calendar_bytes
    from trebb.logbook.plan.job_plan import job_plan

    now = clock.now()
    job_file, cases = open_job(given)
    with job_file:
        started = cases.job.started
        name = started.machine if started else Path(given.file).stem
        again, identity = again_list(cases), cases.job.identity
        data = calendar_bytes(job_plan(cases, now), again, name, now, identity=identity)
    write_whole(Path(given.out), data)
    return say(given, {"written": given.out}, [f"Written: {given.out}"])


def buy(given: argparse.Namespace) -> int:
    """The list to buy."""
    from trebb.logbook.plan.rack import read_rack
    from trebb.logbook.plan.shopping import KINDS, shopping_list

    rack = read_rack()
    job_file, cases = open_job(given)
    with job_file:
        found = shopping_list(cases, rack.bars, system_of(given))
    lines, kind = [], ""
    for w in found:
        if w.kind != kind:
            kind = w.kind
            lines.append(f"{KINDS[kind]}:")
        usual = " (usual sizes, which nobody stated: measure yours)" if w.usual else ""
        for_ = f": {', '.join(w.parts)}" if w.parts else ""
        words = in_units(f"{w.words}{usual}{for_}", system_of(given))
        lines += [f"  {w.count} × {words}", *(f"      {in_units(m, system_of(given))}" for m in w.measure)]
    return say(given, [asdict(w) for w in found], lines or ["Nothing is to be bought."])


JOB_COMMANDS: tuple[tuple[str, str, Callable[[argparse.Namespace], int], tuple[Argument, ...]], ...] = (
    ("suspects", "what may be wrong by what was marked, and the look that tells most", suspects, (FILE,)),
    (
        "trials",
        "what was tried, how it came, what that clears and leaves; one of your own with --tried",
        trials,
        (
            FILE,
            ("--tried", {"default": "", "help": "a trial of your own, in a line"}),
            ("--about", {"default": "", "help": "key of the complaint"}),
            ("--hangs-on", {"default": "", "help": "keys of what it hangs on, spaces between"}),
            ("--came", {"choices": ("good", "bad"), "default": ""}),
        ),
    ),
    (
        "follow",
        "go where a suspect leads: its piece is added, its set-up and usual remedies said",
        follow,
        (FILE, ("suspect", {"help": "key of a suspect, with or without @assembly"})),
    ),
    ("plan", "the whole job: evenings, what to do first, what to order, money", plan_job, (FILE,)),
    (
        "week",
        "several jobs and one fitter: evenings shared, what is due first, what to order for all",
        week,
        (("files", {"nargs": "+", "type": Path, "metavar": "FILE"}),),
    ),
    (
        "join",
        "put two copies of one job that went apart together, as a new file",
        join,
        (
            ("first", {"type": Path}),
            ("second", {"type": Path}),
            ("out", {"type": Path, "help": "the new file"}),
            (
                "--keep",
                {
                    "choices": ("newer", "first", "second"),
                    "default": "",
                    "help": "whose stands where both state one thing otherwise",
                },
            ),
        ),
    ),
    ("stock", "bars to cut and to buy, tools by part", stock, (FILE,)),
    ("buy", "the list to buy of the whole job: bars, parts, standard parts, missing tools", buy, (FILE,)),
    (
        "matter",
        "state a fact of the job as a whole: matter plan, task, strip, symptom, look, oil, again …",
        state_matter,
        (
            FILE,
            ("matter", {}),
            ("of", {"help": "which one; - for none"}),
            ("facts", {"nargs": "+", "metavar": "FIELD=VALUE"}),
        ),
    ),
    ("tick", "tick a task of the plan, or take the tick back", tick, (FILE, ("task", {}))),
    ("card", "the machine's card as JSON", machine_card, (FILE,)),
    ("calendar", "the plan and what to look at again, as iCalendar", calendar, (FILE, ("out", {}))),
)
