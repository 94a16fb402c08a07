"""From the shell: what arrived in boxes, and what the machine makes of the work it is for."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from trebb.app.shell.base import FILE, Argument, open_job, pairs_of, record, say, system_of
from trebb.core.dual_units import in_units
from trebb.core.fitup.boxed import FOUND_WORDS
from trebb.core.units import UnitSystem, show_money, show_small, show_uncertain
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.fold import Job

if TYPE_CHECKING:
    from trebb.logbook.plan.made_work import MadeWork
    from trebb.logbook.plan.work_first import ReadToChoose


def boxes(given: argparse.Namespace) -> int:
    """What arrived in boxes: by which list it is checked, what was found, what goes in without the rest."""
    from trebb.logbook.cases.boxes import all_lists, arrived_as, looked_at, state_words, told_of_boxes

    pairs = pairs_of(given.found)
    job_file, cases = open_job(given, writes=bool(pairs))
    with job_file:
        if not given.assembly:
            lists, wrong = all_lists()
            there = {a.key: b.of.title for a in cases.kind.assemblies if (b := cases.of(a.key).boxed)}
            lines = [f"{key}: {one.title}: {one.about}" for key, one in lists.items()]
            lines += [f"{key} came in boxes: {title}" for key, title in there.items()] + wrong
            told = {"lists": {k: one.title for k, one in lists.items()}, "in_boxes": there, "refused": wrong}
            return say(given, told, lines)
        case = cases.of(given.assembly)
        came = [
            arrived_as(cases.job, given.assembly, "" if how == "whole" else how)
            for what, how in pairs
            if what == "list"
        ]
        found = [e for t, how in pairs if t != "list" for e in looked_at(given.assembly, t, found=how)]
        for bodies in (came, found):
            if bodies:
                record(job_file, Cases(Job(job_file.entries())), bodies)
        case = Cases(Job(job_file.entries())).of(given.assembly)
        boxed = case.boxed
    if boxed is None:
        return say(given, {}, [f"{case.assembly.label} came whole."])
    lines = [f"{case.assembly.label}: {boxed.of.title}", f"  {state_words(boxed)}"]
    lines += [f"  {t.key}: {t.words}: {FOUND_WORDS[boxed.at(t.key).found]}" for t in boxed.of.things]
    return say(given, told_of_boxes(boxed), lines)


def facts(given: argparse.Namespace) -> int:
    """What can be stated of an assembly, or of each: its key, what it is, what it takes, what it is now."""
    job_file, cases = open_job(given)
    system = system_of(given)
    with job_file:
        keys = [given.assembly] if given.assembly else [a.key for a in cases.kind.assemblies]
        told: list[dict[str, object]] = []
        lines: list[str] = []
        for key in keys:
            case = cases.of(key)
            schema = case.schema
            applies = [f for f in schema.facts if f.applies(case.subject)] if schema is not None else []
            lines += [f"{key}: {case.assembly.label}"] if applies else []
            for fact in applies:
                now = case.facts.get(fact.key)
                value = fact.in_words(now, system) if now is not None else ""
                told.append(
                    {
                        "assembly": key,
                        "fact": fact.key,
                        "words": fact.words,
                        "takes": fact.takes,
                        "stated": now,
                    }
                )
                stated = f" = {value}" if value else ""
                lines.append(in_units(f"  {fact.key}{stated}: {fact.words}; {fact.takes}", system))
    return say(given, told, lines or ["Nothing is stated of it: it is measured by its pieces."])


def work(given: argparse.Namespace) -> int:
    """What it is to make: what that comes out as, and which repairs buy most; a usual piece is added."""
    from trebb.logbook.plan.made_work import (
        made_work,
        told_of_work,
        usual_piece,
    )
    from trebb.logbook.plan.usual_work import usual_work
    from trebb.logbook.plan.work_first import choices_asked, read_to_choose, told_of_first
    from trebb.logbook.plan.work_limits import limits_from_work, limits_words, take_limits

    job_file, cases = open_job(given, writes=given.usual > 0 or given.limits)
    system = system_of(given)
    lines: list[str] = []
    with job_file:
        if given.usual:
            record(job_file, cases, usual_piece(cases, given.usual - 1))
            cases = Cases(Job(job_file.entries()))
        if given.limits:
            limits = limits_from_work(cases)
            if entries := take_limits(limits):
                record(job_file, cases, entries)
            lines.append(limits_words(limits, system))
            cases = Cases(Job(job_file.entries()))
        found = made_work(cases)
        first = read_to_choose(choices_asked(found))
    lines += _work_lines(cases, found, first, system)
    if not lines:
        usual = [str(one["title"]) for one in usual_work(cases.kind.key)]
        lines = [
            "No work is stated. --usual N takes one of:",
            *(f"  {i}: {t}" for i, t in enumerate(usual, 1)),
        ]
    return say(given, {**told_of_work(found), "read_to_choose": told_of_first(first)}, lines)


def _work_lines(
    cases: Cases, found: MadeWork, first: Sequence[ReadToChoose], system: UnitSystem
) -> list[str]:
    """What the work comes out as, what to read, and the edge, line by line."""
    from trebb.core.work import FIGURES
    from trebb.logbook.plan.made_work import apart_words, option_words, way_words

    lines: list[str] = []
    for p in found.pieces:
        lines.append(f"{p.piece.title} [{p.piece.key}]{f': {p.why_not}' if p.why_not else ''}")
        for m in p.figures:
            size = show_uncertain(m.value.value, m.value.half_width, system) if m.is_told else "not told yet"
            inside = f", inside by {m.chance:.0%}" if m.is_told else ""
            may = show_small(m.tolerance_mm, system)
            lines.append(f"  {FIGURES[m.figure].label}: {size}, may be {may}{inside}")
            lines += [f"    {s.cause}: {show_small(s.mm, system)}" for s in m.budget if s.mm is not None]
    lines += [
        f"read to choose: {' and '.join(r.set_ups)}, {r.minutes:.0f} min, between “{now}” and “{then}”, "
        f"another by {r.changes:.0%}"
        for r in first
        for now, then in (apart_words(cases, r.now, r.then),)
    ]
    lines += [
        f"read first: {r.set_up}, {r.minutes:.0f} min, figures waiting: {r.figures}" for r in found.read_first
    ]
    if found.untold:
        lines.append(f"not told yet: {found.untold} figures; what repairs leave says nothing of them")
    currency = cases.job.card("currency", "")
    for o in found.edge if any(p.told for p in found.pieces) else ():
        costs = f"{show_money(o.money, currency)}, {o.hours:.1f} h"
        lines.append(f"{costs}: {o.worst:.2f} of what it may be: {way_words(cases, o)}")
    if found.begin is not None:
        words = option_words(cases, found.begin.remedies)
        lines.append(f"begin with: {words}: enough by {found.begin.chance:.0%}; the rest if it is not")
    return lines


MADE_COMMANDS: tuple[tuple[str, str, Callable[[argparse.Namespace], int], tuple[Argument, ...]], ...] = (
    (
        "facts",
        "what can be stated, of an assembly or of each: key, what it is, what it takes, what is stated",
        facts,
        (FILE, ("assembly", {"nargs": "?", "default": ""})),
    ),
    (
        "boxes",
        "what arrived in boxes: its list, what is missing, what goes in without it",
        boxes,
        (
            FILE,
            ("assembly", {"nargs": "?", "default": ""}),
            ("found", {"nargs": "*", "metavar": "list=KEY|whole, THING=yes|no|hurt"}),
        ),
    ),
    (
        "work",
        "what it is to make: what that comes out as, which repairs buy most",
        work,
        (
            FILE,
            ("--usual", {"type": int, "default": 0, "metavar": "N", "help": "add a usual piece of work"}),
            ("--limits", {"action": "store_true", "help": "make each limit its share of the work"}),
        ),
    ),
)
