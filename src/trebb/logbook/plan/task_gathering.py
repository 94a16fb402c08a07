"""What there is to do on the whole machine, from what every assembly already says: readings, orders, what is
sent out, parts to make, what cures, fit-up, proofs; what waits for what. Nothing is typed twice.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

from msgspec import Struct, field

from trebb.core.errors import TrebbError
from trebb.core.facts import Stored
from trebb.core.making.bought import is_bought, offer_of
from trebb.core.making.operations import Operation
from trebb.core.planning.evenings import DAY
from trebb.core.planning.tasks import Task
from trebb.core.remedies import Remedy
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.quotes import Quote, quote_of

PLAN = "job"  # plan that tasks are ticked in
# Hours that are nobody's operation (practice): taking an assembly down and putting it up, writing an order,
# packing what is given out.
STRIP_HOURS, REFIT_HOURS, ORDER_HOURS, SEND_HOURS = 1.0, 0.75, 0.25, 0.5
STAYS_UP = ("leave", "oil", "take_up", "studs", "centres")  # remedies for which nothing comes apart
READ_MINUTES = 240.0  # no more of an assembly nobody has read yet: its first set-ups
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


class Work(Struct, frozen=True):
    """A task, and what is known of it beside its clock.

    Parameters
    ----------
    stop : the stop that it opens; `assembly` and `part` there.
    kind : "read", "order", "wait", "send", "make", "strip", "fit", "refit", "prove" or "own".
    steps : operations left of it, title and hours.
    ask : what to ask for when it is ordered.
    planned : hours it was planned with, before any of it was done.
    missing : what must be there before it can begin.
    from_shop : where its hours come from, where they are as such work took in this shop's other jobs.
    """

    task: Task
    kind: str
    stop: str
    assembly: str
    part: str = ""
    steps: tuple[tuple[str, float], ...] = ()
    ask: tuple[str, ...] = ()
    planned: float = 0.0
    is_done: bool = False
    missing: str = ""
    spent: float = 0.0
    paid: float = 0.0
    is_own: bool = False
    from_shop: str = ""


class Gathered(Struct):
    """Work of a job, the money of its remedies by assembly, and assemblies over their limit that nobody
    decided on.
    """

    work: list[Work] = field(default_factory=list)
    costs: dict[str, float] = field(default_factory=dict)
    undecided: list[str] = field(default_factory=list)

    def add(
        self,
        key: str,
        title: str,
        hours: float,
        kind: str,
        stop: str,
        assembly: str,
        after: Sequence[str] = (),
        **more: object,
    ) -> str:
        """Another task; returns its key."""
        clock = {k: more.pop(k) for k in ("waits", "needs_whole", "strips", "refits") if k in more}
        task = Task(key, max(0.0, hours), tuple(after), title=title, group=assembly, **clock)  # type: ignore[arg-type]
        told = {"planned": task.hours, **more}
        self.work.append(Work(task, kind, stop, assembly, **told))  # type: ignore[arg-type]
        return key


def cuts_its_own(cases: Cases) -> bool:
    """Whether the machine cuts its own parts: a lathe does unless it is said not to."""
    stated = cases.job.matter("plan").get("cuts_own", "")
    return stated == "yes" if stated else cases.kind.works_as == "lathe"


def stays_up(remedy: Remedy) -> bool:
    """Whether nothing comes apart for it."""
    return all(key in STAYS_UP for key in remedy.members)


def gather(cases: Cases) -> Gathered:
    """Work of every assembly, as each says it itself; done work too, with no hours left."""
    found = Gathered()
    hosts: dict[str, list[str]] = {}
    makes: dict[str, list[str]] = {}
    proves: list[tuple[Case, str]] = []
    cuts = cuts_its_own(cases)
    for case in cases.measurable():
        chosen = case.chosen
        if chosen is None:
            _still_to_read(case, found)
            continue
        remedy = case.quoted(chosen)
        found.costs[case.assembly_key] = remedy.cost
        if chosen.key == "leave":
            continue
        key, host = case.assembly_key, case.assembly.under or case.assembly_key
        ends, made = _before_fit(case, remedy, found, cuts=cuts)
        if stays_up(chosen):
            done = bool(cases.job.steps_done(case.fit_plan)) and _fit_left(case)[0] <= 0
            found.add(
                f"do.{key}",
                chosen.title,
                0.0 if done else remedy.hours,
                "fit",
                "fit_up",
                key,
                ends,
                planned=remedy.hours,
                is_done=done,
            )
            proves.append((case, f"do.{key}"))
            continue
        left, steps, planned = _fit_left(case)
        found.add(
            f"fit.{key}",
            f"Put {case.assembly.label} together",
            left,
            "fit",
            "fit_up",
            key,
            (*ends, f"strip.{host}"),
            steps=steps,
            planned=planned,
            is_done=planned > 0 and left <= 0,
        )
        hosts.setdefault(host, []).append(key)
        makes.setdefault(host, []).extend(made)
        proves.append((case, f"refit.{host}"))
    reads = [w.task.key for w in found.work if w.kind == "read"]
    _add_refits(cases, found, hosts, makes, cuts, reads)
    _add_proves(found, proves)
    return found


def _add_proves(found: Gathered, proves: list[tuple[Case, str]]) -> None:
    for case, after in proves:
        hours, done = _prove_left(case)
        found.add(
            f"prove.{case.assembly_key}",
            f"Prove {case.assembly.label}",
            hours,
            "prove",
            "prove",
            case.assembly_key,
            (after,),
            is_done=done,
        )


def _add_refits(
    cases: Cases,
    found: Gathered,
    hosts: dict[str, list[str]],
    makes: dict[str, list[str]],
    cuts: bool,
    reads: list[str],
) -> None:
    for host, keys in hosts.items():
        name = cases.kind.assembly(host).label
        # It may come down once what it must cut for itself is made: the old part stays in until then.
        found.add(
            f"strip.{host}",
            f"Take {name} down, marks and photographs first",
            STRIP_HOURS,
            "strip",
            "strip_down",
            host,
            # What is still worth reading is read before anything is out of its place.
            (*reads, *(makes[host] if cuts else ())),
            strips=host,
        )
        fits = tuple(f"fit.{k}" for k in keys)
        found.add(
            f"refit.{host}", f"{name} up again", REFIT_HOURS, "refit", "fit_up", host, fits, refits=host
        )


def _still_to_read(case: Case, found: Gathered) -> None:
    """What is worth reading of an assembly nobody decided on."""
    key, label = case.assembly_key, case.assembly.label
    grade = case.job.grade(key)
    is_bad = grade is not None and grade.grade in ("accuracy", "stops")
    if case.is_measured:
        if case.state.value == "beyond":
            found.undecided.append(label)
        if case.state.value != "unknown" or not case.seen_beyond:
            return
    elif not is_bad and case.job.number_one != key:
        return
    minutes, steps = 0.0, []
    for suggestion in case.suggestions()[:3]:
        _, lot = case.lot_of(suggestion.key)
        if minutes + suggestion.minutes <= READ_MINUTES:
            minutes += suggestion.minutes
            steps.append((lot.title, suggestion.minutes / 60))
    if steps:
        found.add(f"read.{key}", f"Read {label}", minutes / 60, "read", "survey", key, steps=tuple(steps))


def _before_fit(case: Case, remedy: Remedy, found: Gathered, *, cuts: bool) -> tuple[list[str], list[str]]:
    """Orders, waits, what is sent away and what is made, of one assembly: keys of what its fit-up waits for,
    and of what is made here.
    """
    key, label = case.assembly_key, case.assembly.label
    quote = quote_of(case.job, key, remedy.key)
    if quote is not None:
        return _given_out(case, remedy, found, quote, key, label)
    ends: list[str] = []
    made: list[str] = []
    ordered = ""
    for part in case.part_keys():
        facts, title = case.part_facts(part), part_title(case, part)
        if is_bought(facts):
            offer = offer_of(facts, {})
            order = found.add(
                f"order.{key}.{part}",
                f"Order {title}",
                ORDER_HOURS,
                "order",
                "parts",
                key,
                part=part,
                ask=_asked(case, part),
            )
            ends.append(
                found.add(
                    f"comes.{key}.{part}",
                    f"{title} comes",
                    DAY * (remedy.wait_days if offer.wait_days is None else offer.wait_days),
                    "wait",
                    "parts",
                    key,
                    (order,),
                    waits=True,
                    part=part,
                )
            )
            continue
        if remedy.wait_days and not ordered:
            ordered = _ordered(case, remedy, found)
        last = _make(case, part, title, remedy, found, (ordered,) if ordered else (), whole=cuts)
        ends.append(last)
        made.append(last)
    if not case.part_keys() and remedy.wait_days:
        ends.append(_ordered(case, remedy, found))
    return ends, made


def _given_out(
    case: Case, remedy: Remedy, found: Gathered, quote: Quote, key: str, label: str
) -> tuple[list[str], list[str]]:
    by = f" to {quote.firm}" if quote.firm else ""
    sent = found.add(
        f"send.{key}",
        f"Send {label}{by}: {remedy.title.lower()}",
        SEND_HOURS,
        "send",
        "remedies",
        key,
        (f"strip.{case.assembly.under or key}",) if not stays_up(remedy) else (),
    )
    back = found.add(
        f"back.{key}",
        f"{label} comes back",
        DAY * quote.days,
        "wait",
        "remedies",
        key,
        (sent,),
        waits=True,
    )
    return [back], []


def _ordered(case: Case, remedy: Remedy, found: Gathered) -> str:
    """What a remedy waits for is ordered, and comes."""
    key, label = case.assembly_key, case.assembly.label
    order = found.add(
        f"order.{key}",
        f"Order for {label}",
        ORDER_HOURS,
        "order",
        "remedies",
        key,
        ask=(remedy.needs,),
    )
    return found.add(
        f"comes.{key}",
        f"It comes: {label}",
        DAY * remedy.wait_days,
        "wait",
        "remedies",
        key,
        (order,),
        waits=True,
    )


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
    from trebb.core.parts import family

    try:
        title = case.part(part).title
    except TrebbError:
        title = family(part).title
    return f"{title[0].lower()}{title[1:]}" if title[1:2].islower() else title


def _asked(case: Case, part: str) -> tuple[str, ...]:
    try:
        return tuple(case.asked_for(part))
    except TrebbError:
        return ()


def _fit_left(case: Case) -> tuple[float, tuple[tuple[str, float], ...], float]:
    """Hours of fit-up left, its steps, and hours planned."""
    done = case.job.steps_done(case.fit_plan)
    steps = case.fit_order()
    left = tuple((s.title, s.minutes / 60) for s in steps if s.key not in done)
    chosen = case.chosen
    # A remedy that makes nothing is its own bench hours, and its fit-up comes with them.
    own = chosen.hours if chosen is not None and not case.part_keys() else 0.0
    planned = sum(s.minutes for s in steps) / 60 + own
    return sum(h for _, h in left) + (0.0 if done else own), left, planned


def _prove_left(case: Case) -> tuple[float, bool]:
    """Hours of taking again what was read before; whether all of it is."""
    minutes, left, any_before = 0.0, 0, False
    for s in case.proving():
        places = len(case.job.standing(case.assembly_key, s.key, "before"))
        again = len(case.job.standing(case.assembly_key, s.key, "after"))
        any_before |= bool(places)
        if places and again < places:
            left += places - again
            minutes += s.setting_minutes + s.minutes * (places - again)
    done = any_before and not left
    return (0.0 if done else max(0.25, minutes / 60)), done
