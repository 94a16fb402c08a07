"""A plan in words and as plain values: when, what decides it, all of it for whoever reads from outside."""

from __future__ import annotations

from trebb.core.dates import day_words
from trebb.core.planning.evenings import DAY
from trebb.logbook.plan.job_plan import JobPlan, Line

MOST_LINKS = 3  # of work that are named of what decides the end


def plan_told(plan: JobPlan) -> dict[str, object]:
    """The plan as plain values, for whoever reads it from outside."""
    ready = plan.ready
    return {
        "today": plan.today.isoformat(),
        "ready": ready.isoformat() if ready else None,
        "ready_50": _date_of(plan, 0.5),
        "ready_90": _date_of(plan, 0.9),
        "ready_by": plan.ready_by.isoformat() if plan.ready_by else None,
        "days": plan.days,
        "days_at_least": plan.bound,
        "is_least": plan.is_least,
        "days_apart": plan.apart,
        "hours_left": round(plan.hours_left, 2),
        "slips_if_tonight_is_lost": plan.lost_tonight,
        "decides": list(plan.chain),
        "ways_out": list(plan.ways_out),
        "trouble": plan.trouble,
        "not_planned": dict(plan.why_not),
        "undecided": list(plan.undecided),
        "tonight": [[x.task.key, round(hours, 2)] for x, hours in plan.tonight],
        "order_today": [x.task.key for x in plan.to_order],
        "currency": plan.currency,
        "money": [
            {
                "assembly": s.label,
                "hours": round(s.hours, 2),
                "hours_spent": round(s.hours_spent, 2),
                "planned": round(s.cost, 2),
                "paid": round(s.paid, 2),
            }
            for s in plan.sums
        ],
        "tasks": [
            {
                "key": x.task.key,
                "title": x.task.title,
                "assembly": x.work.assembly,
                "kind": x.work.kind,
                "first": plan.day(x.first).isoformat(),
                "last": plan.day(x.last).isoformat(),
                "hours": round(x.task.hours, 2),
                "spent": round(x.work.spent, 2),
                "waits": x.task.waits,
                "after": list(x.task.after),
                "is_done": x.is_done,
                "decides": x.is_deciding,
                "missing": x.work.missing,
                "ask": list(x.work.ask),
            }
            for x in plan.lines
        ],
    }


def _date_of(plan: JobPlan, share: float) -> str | None:
    return plan.day(plan.outlook.within(share) - 1).isoformat() if plan.outlook else None


def when_words(plan: JobPlan) -> str:
    """When it will be ready, behind what that leaves out: what nobody decided, what waits for what is not
    there.
    """
    assert plan.ready is not None
    out = []
    if plan.undecided:
        out.append(f"{len(plan.undecided)} not decided")
    if plan.why_not:
        count = len(plan.why_not)
        lacks = dict.fromkeys(x.work.missing for x in plan.lines if x.work.missing and not x.is_done)
        what = f" for {next(iter(lacks))}" if len(lacks) == 1 else ""
        out.append(f"{count} task{'s wait' if count != 1 else ' waits'}{what}")
    ready, due = day_words(plan.ready), plan.ready_by
    if not out:
        return f"Ready {ready}, as planned" if due is None or plan.ready <= due else f"Ready {ready}"
    words = f"{', '.join(out)}; without {'them' if plan.undecided or len(plan.why_not) != 1 else 'it'}"
    return f"{words} ready {ready}"


def chain_words(plan: JobPlan) -> str:
    """What decides the end, in plain words."""
    by_key = {x.task.key: x for x in plan.lines}
    links = [by_key[key] for key in plan.chain]
    # Waits always, of work the longest: a chain of twenty names tells nobody anything.
    longest = sorted((x for x in links if not x.task.waits), key=lambda x: -x.task.hours)[:MOST_LINKS]
    shown = [
        x
        for x in links
        if (x.task.waits and x.task.hours >= DAY / 2)
        or x in longest
        or x.task.key in plan.held
        or x.task.only
    ]

    def taken(x: Line) -> str:
        if x.task.key in plan.held:
            return f"not before {day_words(plan.day(x.task.not_before))}"
        takes = f"{x.task.hours / DAY:.0f} d" if x.task.waits else f"{x.task.hours:.1f} h"
        return f"{takes}, on a day with help" if x.task.only else takes

    parts = [f"{x.task.title} ({taken(x)})" for x in shown]
    short = sum(x.task.hours for x in links if x not in shown and not x.task.waits)
    rest = f"; beside them {len(links) - len(shown)} shorter tasks, {short:.1f} h" if short else ""
    return f"{', then '.join(parts)}{rest}"


def day_of(plan: JobPlan, number: int) -> str:
    """The date of a day of the plan in words; today is tonight."""
    return "tonight" if number == 0 else day_words(plan.day(number))
