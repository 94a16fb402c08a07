"""What must be there before an assembly goes together: orders and waits, what is sent away, what is made."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

from trebb.core.errors import TrebbError
from trebb.core.facts import Stored
from trebb.core.making.bought import is_bought, offer_of
from trebb.core.making.operations import Operation
from trebb.core.parts import family
from trebb.core.planning.evenings import DAY
from trebb.core.remedies import Remedy
from trebb.core.units import UnitSystem
from trebb.core.words import small
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.quotes import Quote, quote_of
from trebb.logbook.plan.outside import away
from trebb.logbook.plan.work import Gathered

ORDER_HOURS = 0.25  # of writing an order (practice); what is given out is packed beside the bench
CHECK_HOURS = 0.5  # of measuring what comes back, against what was asked for (practice)
TOOL_LETTERS = 200
# Hours that a part lies after an operation, by part and operation (a day: adhesives' data sheets at room
# temperature; roughed alloy overnight).
RESTS: Mapping[tuple[str, str], float] = {
    ("saddle_liner", "bond"): 24.0,
    ("gib_liner", "bond"): 24.0,
    ("coupler_sleeve", "bond"): 24.0,
    ("cone_lining", "fasten"): 24.0,
    ("stepped_shaft", "cool"): 12.0,
}


def before_fit(
    case: Case, remedy: Remedy, found: Gathered, group: str, *, cuts: bool
) -> tuple[list[str], list[str]]:
    """Orders, waits, what is sent away and what is made, of one assembly that comes off with its `group`, or
    stays where it is: keys of what its fit-up waits for, and of what is made while the machine stands whole.
    """
    key = case.assembly_key
    quote = quote_of(case.job, key, remedy.key)
    ends: list[str] = [] if quote is None else [_given_out(case, remedy, found, quote, group)]
    made: list[str] = []
    ordered = ""
    for part in case.parts_here():
        facts, title = case.part_facts(part), part_title(case, part)
        if is_bought(facts):
            days = offer_of(facts, {}).wait_days
            days = remedy.wait_days if days is None else days
            words = (f"Order {title}", f"{title} comes")
            ends.append(_ordered(key, words, days, found, _asked(case, part), part=part))
            continue
        if remedy.wait_days and not ordered and quote is None:
            ordered = _ordered_for(case, remedy, found)
        # What its route works on must be off by then, and a machine that is apart cuts nothing.
        on_it = bool(group) and family(part).made_on_it
        after = ((ordered,) if ordered else ()) + ((f"strip.{group}",) if on_it else ())
        ends.append(_make(case, part, title, remedy, found, after, whole=cuts and not on_it))
        if cuts and not on_it:
            made.append(ends[-1])
    if not case.part_keys() and remedy.wait_days and quote is None:
        ends.append(_ordered_for(case, remedy, found))
    return ends, made


def _given_out(case: Case, remedy: Remedy, found: Gathered, quote: Quote, group: str) -> str:
    """It is sent, it comes back, it is measured: the last of that."""
    key, label = case.assembly_key, case.assembly.label
    gone = away(case, UnitSystem.METRIC)
    by, after = (f" to {quote.firm}" if quote.firm else ""), ((f"strip.{group}",) if group else ())
    for turn in range(gone.turn + 1):  # each time it was sent back it is sent, and waited for, once more
        number, is_past = f".{turn + 1}" if turn else "", turn < gone.turn
        is_back = is_past or gone.is_here
        words = f"Send {label}{by}: {remedy.title.lower()}"
        if turn:
            why = gone.refused[turn - 1]
            words = f"Send {label} back{by}{f': {why}' if why and not is_past else ''}"
        sent = found.add(f"send.{key}{number}", words, 0.0, "send", "remedies", key, after, is_done=is_back)
        back = found.add(
            f"back.{key}{number}",
            f"{label} comes back{' again' if turn else ''}",
            DAY * quote.days,
            "wait",
            "remedies",
            key,
            (sent,),
            waits=True,
            is_done=is_back,
        )
        after = (back,)
    return found.add(
        f"check.{key}",
        f"Measure {label} as it came back",
        CHECK_HOURS,
        "check",
        "prove",
        key,
        (back,),
        is_done=gone.is_accepted,
    )


def _ordered_for(case: Case, remedy: Remedy, found: Gathered) -> str:
    """What a remedy waits for is ordered, and comes."""
    label = case.assembly.label
    words = (f"Order for {label}", f"It comes: {label}")
    return _ordered(case.assembly_key, words, remedy.wait_days, found, (remedy.needs,))


def _ordered(
    key: str, words: tuple[str, str], days: float, found: Gathered, ask: tuple[str, ...], *, part: str = ""
) -> str:
    """An order and the days until it comes, each in its words: of a part, or of all that a remedy needs."""
    of, stop = (f"{key}.{part}", "parts") if part else (key, "remedies")
    order = found.add(f"order.{of}", words[0], ORDER_HOURS, "order", stop, key, part=part, ask=ask)
    return found.add(f"comes.{of}", words[1], DAY * days, "wait", stop, key, (order,), waits=True, part=part)


def _runs(
    part: str, route: Sequence[Operation], done: Collection[str]
) -> list[tuple[list[tuple[str, float, bool]], float]]:
    """Operations in runs, title, hours and whether each is done, with the hours that the part lies after a
    run.
    """
    runs: list[tuple[list[tuple[str, float, bool]], float]] = [([], 0.0)]
    for operation in route:
        runs[-1][0].append((operation.title, operation.minutes / 60, operation.key in done))
        rest = RESTS.get((part, operation.key), 0.0)
        if rest and operation is not route[-1]:
            runs[-1] = (runs[-1][0], rest)
            runs.append(([], 0.0))
    return runs


def _make(
    case: Case, part: str, title: str, remedy: Remedy, found: Gathered, after: Sequence[str], *, whole: bool
) -> str:
    """A part's operations as one task, or as several with the waits between where it must lie."""
    key = case.assembly_key
    try:
        route = case.route(part)
    except TrebbError:  # it cannot be worked out yet: the remedy's own hours stand for it
        hours = remedy.hours / max(1, len(remedy.parts))
        return found.add(
            f"make.{key}.{part}",
            f"Make {title}",
            hours,
            "make",
            "make",
            key,
            after,
            part=part,
            needs_whole=whole,
        )
    done = case.job.steps_done(case.part_name(part))
    said = case.job.matters("tool")
    runs = _runs(part, route, done)
    last = ""
    for i, (steps, rest) in enumerate(runs):
        number = f".{i + 1}" if i else ""
        left = tuple((name, hours) for name, hours, ticked in steps if not ticked)
        lacks = _lacking(said, [o.tool for o in route if o.key not in done])
        last = found.add(
            f"make.{key}.{part}{number}",
            f"Make {title}" if not i else f"Finish {title}",
            sum(hours for _, hours in left),
            "make",
            "make",
            key,
            (last,) if last else after,
            part=part,
            needs_whole=whole,
            steps=left,
            missing=lacks,
            planned=sum(hours for _, hours, _ in steps),
            is_done=not left,
        )
        if rest:
            lies = all(ticked for _, _, ticked in steps)
            further = i + 1 < len(runs) and any(ticked for _, _, ticked in runs[i + 1][0])
            last = found.add(
                f"rest.{key}.{part}{number}",
                f"{title} lies",
                rest,
                "wait",
                "make",
                key,
                (last,),
                waits=True,
                part=part,
                is_done=lies and further,
            )
    return last


def tools_in(words: str) -> list[str]:
    """Tools that an operation names, one by one where it names several with ; between."""
    found = [w.strip()[:TOOL_LETTERS] for w in words.split(";")]
    return [w for w in found if w and w not in ("none", "–")]


def _lacking(said: Mapping[str, Mapping[str, Stored]], tools: Sequence[str]) -> str:
    """Tools that are said not to be there, in words."""
    named = dict.fromkeys(t for words in tools for t in tools_in(words))
    return ", ".join(t for t in named if said.get(t, {}).get("there") == "no")


def part_title(case: Case, part: str) -> str:
    """What a part is called; of one that cannot be worked out yet the family's name."""
    try:
        title = case.part(part).title
    except TrebbError:
        title = family(part).title
    return small(title) if title[1:2].islower() else title


def _asked(case: Case, part: str) -> tuple[str, ...]:
    try:
        return tuple(case.asked_for(part))
    except TrebbError:
        return ()
